"""Saving a field: what is stored, what is refused and where, what another person wrote meanwhile, and what a path leads to."""

from datetime import timedelta
from typing import Any

import pytest

from tests.make import NOW, PLATE, WEIGHED, job
from yoshi_core.document.model import Job
from yoshi_core.errors import DocumentError
from yoshi_core.job import closing, documents, patches
from yoshi_core.job.patches import CLOSED, MAX_ROWS, Change, Conflict, Saved, save
from yoshi_core.profile.profile import Profile
from yoshi_core.units.mass import ParsedMass, echo

PLATE_AT = "/steps/identify/runs/0/sheet"
LATER = NOW + timedelta(minutes=5)


def put(subject: Job, path: str, value: Any, seen: Any = None, *, by: str = "J. Pell", force: bool = False) -> Saved:
    return save(subject, [Change(path, seen, value, force)], by, LATER)


def at(subject: Job, path: str) -> Any:
    place: Any = documents.dump_job(subject)
    for key in path.split("/")[1:]:
        place = place[int(key)] if isinstance(place, list) else place.get(key)
    return place


def told(saved: Saved) -> list[tuple[str, str, str]]:
    return [(problem.path, problem.code, problem.message.show()) for problem in saved.problems]


def refused(path: str) -> tuple[str, str]:
    with pytest.raises(DocumentError) as wrong:
        patches.locate(path)
    return wrong.value.path, wrong.value.message


def test_a_figure_is_stored_as_typed_with_who_and_when() -> None:
    path = f"{PLATE_AT}/factory_charge"
    saved = put(Job("j", "charge"), path, "9 lb 4 oz")
    stored = at(saved.job, path)
    assert stored == {
        "value": pytest.approx(4.1957, abs=1e-4), "text": "9 lb 4 oz", "unit": "lb oz", "source": "plate", "by": "J. Pell", "at": LATER.isoformat(),
    }  # fmt: skip
    assert saved.accepted == {path: stored}
    assert (saved.problems, saved.conflicts) == ((), ())
    assert saved.echoes() == {path: echo(ParsedMass(stored["value"], "lb oz", "9 lb 4 oz"))}


@pytest.mark.parametrize("text", ["4 lb", "64 oz", "2 kg", "900 g", "4 lb 3 oz"])
def test_every_weight_is_echoed_and_nothing_else_is(text: str) -> None:
    path = f"{PLATE_AT}/factory_charge"
    saved = save(Job("j", "charge"), [Change(path, None, text), Change(f"{PLATE_AT}/listed", None, True)], "J. Pell", NOW)
    assert set(saved.echoes()) == {path}
    assert put(Job("j", "charge"), f"{PLATE_AT}/altitude", "2100 m").echoes() == {}


def test_a_new_step_run_and_row_come_with_their_first_field() -> None:
    path = "/steps/weigh_in/runs/0/sheet/draws/d1/cylinder"
    subject = put(Job("j", "charge"), path, "14").job
    assert at(subject, path) == "14"
    second = put(subject, "/steps/weigh_in/runs/1/sheet/draws/d9/cylinder", "15").job
    assert [list(run.sheet.draws) for run in second.steps["weigh_in"].runs] == [["d1"], ["d9"]]
    third = put(second, "/steps/weigh_in/runs/0/sheet/draws/d1/cylinder", "16", "14").job
    assert [run.sheet.draws for run in third.steps["weigh_in"].runs][1] == second.steps["weigh_in"].runs[1].sheet.draws
    answered = put(subject, "/steps/weigh_in/runs/0/answers/safety:x", "seen").job
    assert answered.steps["weigh_in"].runs[0].answers == {"safety:x": "seen"}
    first = put(Job("j", "charge"), "/steps/weigh_in/runs/0/answers/safety:x", "seen").job
    assert first.steps["weigh_in"].runs[0].answers == {"safety:x": "seen"}


def test_no_run_is_left_out_and_no_more_rows_than_can_be_read() -> None:
    saved = put(Job("j", "charge"), "/steps/weigh_in/runs/1/sheet/system_state", "empty")
    path = "/steps/weigh_in/runs/1/sheet/system_state"
    assert told(saved) == [(path, "document", f"{path}: there is no run 1.")]
    assert saved.accepted == {}
    rows = {f"d{n}": {"cylinder": str(n)} for n in range(MAX_ROWS - 1)}
    nearly = job(PLATE, {"draws": rows})
    full = put(nearly, "/steps/weigh_in/runs/0/sheet/draws/last/cylinder", "x")
    assert full.problems == ()
    path = "/steps/weigh_in/runs/0/sheet/draws/more/cylinder"
    over = put(full.job, path, "x")
    assert told(over) == [(path, "document", f"{path}: more than 200 rows.")]
    assert put(full.job, "/steps/weigh_in/runs/0/sheet/draws/last/cylinder", "y", "x").problems == ()


def test_a_cleared_field_is_gone_and_a_blank_figure_is_cleared() -> None:
    subject = job(PLATE)
    for blank in (None, "", "   "):
        saved = put(subject, f"{PLATE_AT}/factory_charge", blank, at(subject, f"{PLATE_AT}/factory_charge"))
        assert "factory_charge" not in at(saved.job, PLATE_AT)
        assert saved.accepted == {f"{PLATE_AT}/factory_charge": None}
    assert put(Job("j", "charge"), f"{PLATE_AT}/serial", None).problems == ()


def test_the_order_of_fields_stays_when_one_is_changed() -> None:
    subject = job(PLATE)
    before = list(at(subject, PLATE_AT))
    saved = put(subject, f"{PLATE_AT}/factory_charge", "9 lb 5 oz", at(subject, f"{PLATE_AT}/factory_charge"))
    assert list(at(saved.job, PLATE_AT)) == before


def test_one_bad_value_refuses_itself_and_no_other() -> None:
    changes = [
        Change(f"{PLATE_AT}/factory_charge", None, "9 lb 17 oz"),
        Change(f"{PLATE_AT}/altitude", None, 12),
        Change(f"{PLATE_AT}/kind", None, "spaceship"),
        Change("/steps/weigh_in/runs/3/sheet/system_state", None, "empty"),
        Change(f"{PLATE_AT}/serial", None, " QR-7 "),
    ]
    saved = save(Job("j", "charge"), changes, "J. Pell", NOW)
    assert saved.accepted == {f"{PLATE_AT}/serial": "QR-7"}
    assert [(path.rsplit("/", 1)[1], code) for path, code, _ in told(saved)] == [
        ("factory_charge", "unit"),
        ("altitude", "document"),
        ("kind", "document"),
        ("system_state", "document"),
    ]
    said = [text for _, _, text in told(saved)]
    assert said[1] == "Write the figure with its unit."
    assert "expected one of" in said[2]
    assert all(said)
    assert at(saved.job, PLATE_AT) == {"serial": "QR-7"}


def test_a_text_is_trimmed_held_to_its_length_and_a_refrigerant_written_one_way() -> None:
    path = f"{PLATE_AT}/serial"
    assert at(put(Job("j", "charge"), path, "x" * 80).job, path) == "x" * 80
    said = "Serial takes up to 80 characters; this has 81."
    assert told(put(Job("j", "charge"), path, "x" * 81)) == [(path, "document", said)]
    assert put(Job("j", "charge"), path, "   ").accepted == {path: None}
    assert at(put(Job("j", "charge"), f"{PLATE_AT}/refrigerant", " r410a ").job, f"{PLATE_AT}/refrigerant") == "R-410A"
    assert at(put(Job("j", "charge"), path, " r410a ").job, path) == "r410a"


def test_the_title_is_a_field_of_its_own() -> None:
    place = patches.locate("/title")
    assert place.path == "/title"
    assert at(put(Job("j", "charge"), "/title", "  Roof unit ").job, "/title") == "Roof unit"
    assert put(Job("j", "charge"), "/title", "x" * 160).problems == ()
    assert told(put(Job("j", "charge"), "/title", "x" * 161)) == [("/title", "document", "Title takes up to 160 characters; this has 161.")]


@pytest.mark.parametrize(
    "path",
    [
        "", "/", "/titles", "/steps", "/steps/identify", "/steps/dance/runs/0/sheet/kind", "/steps/identify/runs/0", "/steps/identify/runs/0/sheet",
        "/steps/identify/runs/x/sheet/kind", "/steps/identify/runs/01/sheet/kind", "/steps/identify/runs/-1/sheet/kind",
        "/steps/identify/runs/²/sheet/kind", "/steps/identify/runs/0/answers", "/steps/identify/runs/0/answers/a/b", "/steps/identify/run/0/sheet/kind",
        "/steps/identify/runs/0/sheets/kind", "/step/identify/runs/0/sheet/kind", "/steps/identify/runs/9999/sheet/kind",
    ],
)  # fmt: skip
def test_what_is_no_field_is_refused(path: str) -> None:
    assert refused(path) == (path, f"{path}: there is no field to save here.")


@pytest.mark.parametrize(
    ("tail", "said"),
    [
        ("colour", "there is no field called colour."),
        ("factory_charge/value", "there is no field called value."),
        ("kind/x", "there is no field called x."),
        ("lines/l1/colour", "there is no field called colour."),
        ("lines//length", "a row needs a short name."),
        (f"lines/{'x' * 41}/length", "a row needs a short name."),
    ],
)
def test_what_is_no_field_of_a_sheet_is_named(tail: str, said: str) -> None:
    path = f"{PLATE_AT}/{tail}"
    assert refused(path) == (path, f"{path}: {said}")


def test_a_pointer_is_read_as_pointers_are() -> None:
    path = f"{PLATE_AT}/lines/{'x' * 40}/length"
    assert patches.locate(path).facts is not None
    assert refused("title") == ("title", "title: this is no JSON pointer.")
    assert refused(f"{PLATE_AT}/lines/a~7/length")[1].endswith("this is no JSON pointer.")
    odd = f"{PLATE_AT}/lines/a~1b~0/label"
    saved = put(Job("j", "charge"), f"{PLATE_AT}/lines/a~1b~0/length", "9 ft")
    assert list(saved.job.steps["identify"].runs[0].sheet.lines) == ["a/b~"]
    assert odd not in saved.accepted


def test_a_closed_step_is_not_changed_and_the_others_are() -> None:
    subject = closing.close_step(job(PLATE, WEIGHED), Profile(), "identify", "M. Orrin", NOW)
    changes = [
        Change(f"{PLATE_AT}/serial", None, "7"),
        Change("/steps/weigh_in/runs/0/sheet/scale_step", None, "1 oz"),
        Change("/title", None, "T"),
    ]
    saved = save(subject, changes, "J. Pell", NOW)
    assert told(saved) == [(f"{PLATE_AT}/serial", "step_closed", CLOSED)]
    assert set(saved.accepted) == {"/steps/weigh_in/runs/0/sheet/scale_step", "/title"}
    opened = closing.reopen_step(subject, "identify", "J. Pell", NOW, "once more")
    assert put(opened, f"{PLATE_AT}/serial", "7").problems == ()


@pytest.mark.parametrize(("limit", "taken"), [(0.0, True), (0.01, True), (1995.0, True), (-0.01, False), (2001.0, False), (1e11, False)])
def test_a_limit_is_no_less_than_nothing_and_no_wider_than_its_figure(limit: float, taken: bool) -> None:
    path = f"{PLATE_AT}/factory_charge"
    saved = put(Job("j", "charge"), path, {"text": "9 lb", "limit": limit})
    assert (saved.accepted != {}) is taken
    assert told(saved) == (
        [] if taken else [(path, "out_of_range", "The ± of factory charge cannot be so; leave it out where it is not known.")]
    )


@pytest.mark.parametrize("days", [-3650.0, 3650.0, -366.0, 1.0])
def test_a_device_whose_clock_is_years_off_does_not_date_an_entry(days: float) -> None:
    """Ahead of the server's clock, or more than a year behind: when it came counts."""
    path = "/acts/a1/kind"
    saved = save(Job("j", "charge"), [Change(path, None, "in", typed_at=NOW + timedelta(days=days))], "J. Pell", NOW)
    assert saved.job.begun["/acts/a1"].at == NOW


def test_what_a_clock_that_is_off_showed_is_kept_beside_when_it_was() -> None:
    path, typed = "/acts/a1/kind", NOW - timedelta(minutes=10)
    change = Change(path, None, "in", typed_at=typed, device_at=typed + timedelta(hours=1))
    begun = save(Job("j", "charge"), [change], "J. Pell", NOW).job.begun["/acts/a1"]
    assert (begun.at, begun.device_at) == (typed, typed + timedelta(hours=1))
    right = save(Job("j", "charge"), [Change(path, None, "in", typed_at=typed)], "J. Pell", NOW)
    assert right.job.begun["/acts/a1"].device_at is None


@pytest.mark.parametrize("year", [1, 9999])
def test_a_clock_that_stands_nowhere_costs_nobody_an_entry(year: int) -> None:
    path = "/acts/a1/kind"
    saved = save(Job("j", "charge"), [Change(path, None, "in", typed_at=NOW, device_at=NOW.replace(year=year))], "J. Pell", NOW)
    assert saved.accepted == {path: "in"}
    assert saved.job.begun["/acts/a1"].device_at is None


class TestTwoPeople:
    PATH = f"{PLATE_AT}/factory_charge"

    def test_the_same_field_with_another_value_seen_keeps_both(self) -> None:
        first = put(Job("j", "charge"), self.PATH, "9 lb 4 oz", by="M. Orrin")
        theirs = at(first.job, self.PATH)
        second = put(first.job, self.PATH, "9 lb 6 oz")
        (conflict,) = second.conflicts
        yours = {**at(put(Job("j", "charge"), self.PATH, "9 lb 6 oz").job, self.PATH)}
        assert conflict == Conflict(self.PATH, theirs, yours, "M. Orrin", LATER)
        assert second.accepted == {}
        assert at(second.job, self.PATH) == theirs
        (dispute,) = second.job.disputes
        assert (dispute.path, dispute.value, dispute.by, dispute.at) == (self.PATH, yours, "J. Pell", LATER)

    def test_what_was_seen_or_says_the_same_is_no_conflict(self) -> None:
        first = put(Job("j", "charge"), self.PATH, "9 lb 4 oz", by="M. Orrin")
        seen = at(first.job, self.PATH)
        assert put(first.job, self.PATH, "9 lb 6 oz", seen).conflicts == ()
        assert put(first.job, self.PATH, "9 lb 6 oz", {**seen, "by": "another", "text": "9.25 lb"}).conflicts == ()
        assert put(first.job, self.PATH, "9 lb 4 oz").conflicts == ()
        assert put(first.job, self.PATH, "9 lb 6 oz", force=True).conflicts == ()
        assert len(put(first.job, self.PATH, "9 lb 6 oz", {**seen, "source": "measured"}).conflicts) == 1
        assert len(put(first.job, self.PATH, "9 lb 6 oz", {**seen, "limit": 0.01}).conflicts) == 1

    def test_a_persons_last_word_stands_in_a_dispute_and_a_choice_ends_it(self) -> None:
        serial = f"{PLATE_AT}/serial"
        subject = put(put(Job("j", "charge"), serial, "1", by="M. Orrin").job, self.PATH, "9 lb", by="M. Orrin").job
        subject = put(subject, serial, "2").job
        subject = put(subject, serial, "3", by="T. Vesk").job
        subject = put(subject, self.PATH, "8 lb").job
        subject = put(subject, serial, "4").job
        assert [(d.path, d.by, d.value) for d in subject.disputes if d.path == serial] == [
            (serial, "T. Vesk", "3"),
            (serial, "J. Pell", "4"),
        ]
        assert [d.by for d in subject.disputes if d.path == self.PATH] == ["J. Pell"]
        settled = put(subject, serial, "3", "1").job
        assert [d.path for d in settled.disputes] == [self.PATH]

    def test_clearing_what_another_wrote_is_a_conflict_without_a_value_of_ones_own(self) -> None:
        subject = put(Job("j", "charge"), f"{PLATE_AT}/serial", "1", by="M. Orrin").job
        saved = put(subject, f"{PLATE_AT}/serial", None)
        assert saved.conflicts == (Conflict(f"{PLATE_AT}/serial", "1", None, "", None),)
        assert saved.job.disputes == ()

    def test_a_conflict_refuses_its_field_and_no_other(self) -> None:
        subject = put(Job("j", "charge"), f"{PLATE_AT}/serial", "1", by="M. Orrin").job
        changes = [Change(f"{PLATE_AT}/serial", None, "2"), Change(f"{PLATE_AT}/circuit", None, "1 of 1")]
        saved = save(subject, changes, "J. Pell", NOW)
        assert (len(saved.conflicts), set(saved.accepted)) == (1, {f"{PLATE_AT}/circuit"})
