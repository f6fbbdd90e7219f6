"""Visits end with an outcome; what stands is said in plain words, with the days until it is likely short again."""

from collections.abc import Callable
from typing import Any

import pytest

from tests.make import NOW, PLATE, RUNNING, WEIGHED, job
from tests.make_closed import DRY, HELD, RECOVERED, REPAIRED, UNIT
from yoshi_core.document.model import OUTCOMES, Job, Visit
from yoshi_core.document.plate import Plate
from yoshi_core.errors import InvalidInput
from yoshi_core.findings.claims import Claim
from yoshi_core.job import visits
from yoshi_core.job.evaluate import evaluate
from yoshi_core.job.standing import Standing, added_kg, standing
from yoshi_core.message import Message
from yoshi_core.profile.profile import Profile
from yoshi_core.record.found import account, decisions, recovered
from yoshi_core.record.found import visits as visit_rows
from yoshi_core.rows import in_a_row
from yoshi_core.steps.account_of import account_of_job
from yoshi_core.steps.claims import STEP_OF
from yoshi_core.units.quantities import LB_KG

BEGUN = [{"id": "v1", "started_at": "2026-06-18T08:00:00+00:00", "people": ["J. Pell"]}]
LOSS = {"inside": "refrigerant", "lost": "2 lb", "lost_over": "40 d"}


def begun(**more: Any) -> Job:
    return job(PLATE, more.pop("weigh", WEIGHED), kind="service", visits=BEGUN, **more)


def end(subject: Job, outcome: Any = "running_not_proven", **texts: str) -> Job:
    given = {"reason": "coil dirty", "awaited": "cleaner", "return_on": "2026-07-01", **texts}
    return visits.end_visit(subject, evaluate(subject, Profile(), NOW), visits.Ending(outcome, **given), "J. Pell", NOW)


def test_what_was_added_is_lost_again_at_the_rate_of_before() -> None:
    # 9 lb 5 oz went in, 2 lb were lost in 40 days: gone again in 186 days
    draw = {"cylinder": "14", "gross_start": "31 lb", "tare": "9 lb", "gross_end": "21 lb 11 oz"}
    subject = begun(weigh={"system_state": "empty", "draws": {"d1": draw}}, sheets={"leak_search": LOSS})
    told = evaluate(subject, Profile(), NOW).standing
    assert told.short_again is not None
    assert told.short_again.value / 86_400 == pytest.approx(186.25)
    assert "likely short again in about 186 days" in told.words.show()
    assert "not proven yet" in told.words.show()
    unknown = evaluate(begun(weigh={"draws": {"d1": draw}}), Profile(), NOW).standing
    assert unknown.short_again is None
    assert "how fast it loses them is not known" in unknown.words.show()
    charged = evaluate(begun(weigh={"system_state": "empty", "draws": {"d1": draw}}), Profile(), NOW).standing
    assert "were added" not in charged.words.show()  # all of it went into an empty circuit: that is no top-up


def test_a_visit_ends_once_and_another_begins() -> None:
    ended = end(begun())
    last = ended.visits[-1]
    assert (last.outcome, last.awaited, last.return_on, last.ended_at) == ("running_not_proven", "cleaner", "2026-07-01", NOW)
    with pytest.raises(InvalidInput, match="No visit is under way"):
        end(ended)
    again = visits.start_visit(ended, "M. Orrin", NOW)
    assert [v.id for v in again.visits] == ["v1", "v2"]
    with pytest.raises(InvalidInput, match="is under way already"):
        visits.start_visit(again, "M. Orrin", NOW)
    assert visit_rows(ended)[0]["reason"] == "coil dirty Awaited: cleaner. Back on 2026-07-01."


@pytest.mark.parametrize(
    ("outcome", "texts", "path"),
    [
        ("proven", {}, "/outcome"),
        ("gone fishing", {}, "/outcome"),
        ("left_safe", {"reason": " "}, "/reason"),
        ("running_not_proven", {"awaited": ""}, "/awaited"),
        ("handed_over", {"return_on": "next week"}, "/return_on"),
    ],
)
def test_a_visit_does_not_end_without_what_its_outcome_needs(outcome: str, texts: dict[str, str], path: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        end(begun(), outcome, **texts)
    assert caught.value.path == path


def test_the_record_keeps_what_came_out_and_what_the_customer_chose() -> None:
    sheet = {
        "cylinders": {"c1": {"cylinder": "R3", "gross_start": "27 lb 2 oz", "gross_now": "32 lb 5 oz"}},
        "decisions": {"d1": {"question": "reuse?", "advice": "no", "chosen": "reuse", "by": "canteen manager"}},
    }
    subject = begun(sheets={"recover": sheet})
    inside = evaluate(subject, Profile(), NOW).inside
    assert recovered(subject, inside, "us")[0]["taken"] == "5 lb 3.0 oz"
    assert next((row["what"], row["change"], row["after"]) for row in account(inside, "us")) == ("Taken out", "− 5 lb 3.0 oz", "not known")
    assert decisions(subject) == [{"asked": "reuse?", "advised": "no", "chosen": "reuse", "by": "canteen manager"}]


@pytest.mark.parametrize(
    ("act", "path", "said"),
    [
        (lambda: end(Job("j", "service")), "/visits", "No visit is under way: start one first."),
        (lambda: visits.start_visit(begun(), "M. Orrin", NOW), "/visits", "A visit is under way already; end it first."),
        (
            lambda: end(begun(), "gone fishing"), "/outcome",
            f"A visit ends as {in_a_row([*OUTCOMES.values()])}.",
        ),
        (
            lambda: end(begun(), "proven"), "/outcome",
            "It may not end as “Proven”: “The right unit” is open. “Emptied” is open. “Tight” is open. “Dry” is open. “Runs right” must be shown.",
        ),
        (lambda: end(begun(), "left_safe", reason="  "), "/reason", "Say why it ends this way; the next visit starts from it."),
        (lambda: end(begun(), awaited="  "), "/awaited", "Say what is awaited: a part, the weather, a decision."),
        (lambda: end(begun(), return_on="July"), "/return_on", "Write the day as year-month-day, such as 2026-07-03."),
    ],
)  # fmt: skip
def test_what_a_visit_is_refused_for_and_where(act: Callable[[], Job], path: str, said: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        act()
    assert (refused.value.path, refused.value.message) == (path, said)


def test_a_proven_visit_needs_no_reason_and_no_day() -> None:
    whole = {"recover": RECOVERED, "repair": REPAIRED, "pressure_hold": HELD, "evacuate": DRY}
    draw = {"cylinder": "21", "gross_start": "20 lb", "tare": "9 lb", "gross_end": "14 lb"}
    plate = {**UNIT, "metering": "txv", "subcooling_target": "10 °F"}
    weigh = {"system_state": "empty", "draws": {"d1": draw}}
    subject = job(plate, weigh, RUNNING, kind="service", visits=BEGUN, sheets=whole)
    proven = end(subject, "proven", reason="", awaited="", return_on="").visits[-1]
    assert (proven.outcome, proven.reason, proven.awaited, proven.return_on) == ("proven", "", "", "")
    left = end(begun(), "left_safe", reason=" under nitrogen ", awaited=" ", return_on=" 2026-07-02 ").visits[-1]
    assert (left.reason, left.awaited, left.return_on) == ("under nitrogen", "", "2026-07-02")


def test_earlier_visits_stay_and_the_next_knows_who_and_when() -> None:
    subject = end(begun())
    again = visits.start_visit(subject, "M. Orrin", NOW)
    assert again.visits[-1] == Visit("v2", NOW, ("M. Orrin",))
    twice = end(again, "left_safe")
    assert [v.outcome for v in twice.visits] == ["running_not_proven", "left_safe"]
    assert twice.visits[0] == subject.visits[0]
    third = end(visits.start_visit(twice, "J. Pell", NOW), "handed_over")
    assert [v.id for v in third.visits] == ["v1", "v2", "v3"]
    assert visits.current(third) is None
    assert visits.current(Job("j", "service")) is None
    assert visits.current(again) == again.visits[-1]


class TestWhatStands:
    """Said to the customer whole; a pound lost in ten days, and what the scale says went in."""

    LOST = {"inside": "refrigerant", "lost": "1 lb", "lost_over": "10 d"}
    AGREES, NOT_YET = "The running unit agrees.", "That the charge is right is not proven yet."
    WATCH = "Watch temperatures until it is repaired, and move what must not get warm."

    def stands(self, pounds: float, *, proven: bool = False, state: str | None = "empty", lost: bool = True) -> Standing:
        draw = {"cylinder": "14", "gross_start": "30 lb", "tare": "9 lb", "gross_end": f"{30 - pounds} lb"}
        sheets = {"leak_search": self.LOST} if lost else {}
        subject = begun(weigh={"system_state": state, "draws": {"d1": draw}} if pounds else {}, sheets=sheets)
        claims: dict[str, Claim] = {
            name: Claim(name, step, "", "shown" if proven else "not_yet", Message("")) for name, step in STEP_OF.items()
        }
        return standing(subject, claims, account_of_job(subject, Plate(), Profile()))

    def test_added_to_a_leak_and_not_proven(self) -> None:
        told = self.stands(2.0)
        assert told.inside is not None
        assert told.inside.value == pytest.approx(2 * LB_KG)
        assert told.added is not None
        assert (told.added.value, told.added.quantity) == (pytest.approx(2 * LB_KG), "mass")
        assert told.short_again is not None
        assert (told.short_again.value, told.short_again.quantity) == (pytest.approx(20 * 86_400), "duration")
        again = "2 lb 0.0 oz were added; at the rate it lost refrigerant before, it is likely short again in about 20 days."
        assert told.words.show() == f"It holds 2 lb 0.0 oz ± 0.8 oz of refrigerant. {self.NOT_YET} {again} {self.WATCH}"

    @pytest.mark.parametrize(("pounds", "days"), [(0.1, "1 day"), (0.02, "1 day"), (0.2, "2 days"), (0.16, "2 days")])
    def test_at_least_a_day(self, pounds: float, days: str) -> None:
        assert f"short again in about {days}." in self.stands(pounds).words.show()

    def test_added_without_a_known_rate(self) -> None:
        told = self.stands(2.0, lost=False, state=None)
        assert (told.inside, told.short_again) == (None, None)
        unknown = "2 lb 0.0 oz were added; how fast it loses them is not known."
        assert told.words.show() == f"The unit was worked on. {self.NOT_YET} {unknown} {self.WATCH}"

    def test_proven_needs_no_watching(self) -> None:
        told = self.stands(2.0, proven=True)
        assert told.words.show() == f"It holds 2 lb 0.0 oz ± 0.8 oz of refrigerant. {self.AGREES}"
        assert told.added is not None
        assert self.NOT_YET in self.stands(2.0).words.show()

    def test_nothing_added(self) -> None:
        told = self.stands(0.0)
        assert (told.added, told.short_again) == (None, None)
        assert told.words.show() == f"The unit was worked on. {self.NOT_YET}"

    def test_what_trimming_took_out_counts_against(self) -> None:
        rows = {"r1": {"gross_before": "10 lb", "gross_after": "11 lb"}, "r2": {"gross_before": "10 lb", "gross_after": "9.5 lb"}}
        draws = {
            "d1": {"gross_start": "30 lb", "gross_end": "28 lb", "hose_loss": "4 oz"}, "d2": {"gross_start": "30 lb"},
            "d3": {"gross_start": "9 lb", "gross_end": "9 lb", "hose_loss": "4 oz"}, "d4": {"gross_start": "9 lb", "gross_end": "12 lb"},
        }  # fmt: skip
        subject = begun(weigh={"draws": draws}, verify={"readings": rows})
        assert added_kg(account_of_job(subject, Plate(), Profile())) == pytest.approx((1.75 - 1.0 + 0.5) * LB_KG)
        assert added_kg(account_of_job(Job("j", "service"), Plate(), Profile())) == 0.0
