"""The plate as it stands, and how a job reads it differently from the circuit's record."""

from tests.make import PLATE, RUNNING, WEIGHED, findings, job
from yoshi_core.findings.pictures import WeighInPicture
from yoshi_core.steps import plates

RECORD = {"id": "CR-1", "plate": PLATE}


def said(plate: dict[str, object], record: dict[str, object] | None = None) -> list[str]:
    return [m.show() for m in plates.differences(job(plate, circuit={"id": "CR-1", "plate": record or PLATE}))]


def test_a_job_without_entries_reads_the_record_as_it_is() -> None:
    subject = job(circuit=RECORD)
    assert plates.current_plate(subject) == subject.circuit.plate
    assert plates.differences(subject) == ()


def test_the_same_figure_in_another_unit_is_no_difference() -> None:
    assert said({"factory_charge": "148 oz", "included_length": "7.62 m"}) == []


def test_each_difference_is_one_sentence_in_the_readers_units() -> None:
    subject = job({"factory_charge": "9 lb 8 oz", "oil": "POE"}, circuit=RECORD)
    us, si = ([m.show(system) for m in plates.differences(subject)] for system in ("us", "si"))
    assert us == ["Factory charge: on record 9 lb 4.0 oz, in this job 9 lb 8.0 oz.", "Oil: not on record, in this job POE."]
    assert si[0] == "Factory charge: on record 4.196 kg, in this job 4.309 kg."


def test_choices_and_yes_or_no_are_said_in_words() -> None:
    found = said({"metering": "orifice", "pairing_proven": False}, {**PLATE, "pairing_proven": True})
    assert any("Metering device: on record" in line and "orifice" in line for line in found)
    assert "Indoor and outdoor unit are a proven pair: on record yes, in this job no." in found


def test_a_line_set_is_compared_row_by_row_and_a_new_part_is_named() -> None:
    found = said({"lines": {"l1": {"length": "60 ft"}}, "parts": {"p2": {"label": "accumulator", "charge": "4 oz"}}})
    assert any(line.startswith("Line set: ") and "on record 55.0 ft, in this job 60.0 ft" in line for line in found)
    assert "Not on record, in this job: part accumulator, 4.0 oz." in found
    assert len(found) == 2


def test_a_unit_met_for_the_first_time_has_no_record_to_differ_from() -> None:
    assert plates.differences(job(PLATE)) == ()
    close_out = findings(PLATE, WEIGHED, RUNNING, sheets={"close_out": {"outcome": "proven", "label_fixed": True}}).step("close_out")
    assert [m.label for m in close_out.missing] == []
    assert close_out.drawn(WeighInPicture).notes == ()
