"""What is asked about a plate: unusual figures, the pound-ounce slip, lines unlike the record, and what was only told."""

from collections.abc import Mapping

from yoshi_core import refrigerants
from yoshi_core.document.model import Circuit
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import Entry
from yoshi_core.findings.verdict import Question
from yoshi_core.message import Message, headline, joined, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.units.display import Amount
from yoshi_core.units.mass import ParsedMass, looks_like_slip, mass_faces
from yoshi_core.units.quantities import FOOT_M

SAME_SHARE = 0.01
LENGTH_SHARE = 0.1


def ask(context: StepContext, notes: Notes, answers: Mapping[str, str]) -> None:
    """Ask about everything on the plate that looks wrong, each once."""
    if context.run is None:
        return
    sheet: Plate = context.run.sheet
    ask_about_sheet(notes, sheet, context.path(), answers)
    typed = sheet.factory_charge
    circuit: Circuit = context.job.circuit
    for says, reference in (
        (Message("The circuit's record says {reference}, the entry is {typed}."), circuit.plate.factory_charge),
        (Message("The plate's other figure is {reference}, the entry is {typed}."), context.plate.factory_charge_other),
    ):
        if typed is not None and reference is not None:
            _ask_slip(notes, context.path("factory_charge"), says, typed, reference, answers)
    _ask_lengths(context, notes, answers)
    _told(context, notes)
    other = other_refrigerant(context)
    if other is not None:
        notes.questions.append(other)
    name = context.plate.refrigerant
    if name and not refrigerants.is_known(name) and f"unknown:{name}" not in answers:
        notes.questions.append(
            Question(
                f"unknown:{name}",
                context.path("refrigerant"),
                headline(
                    "“{name}” is not in the catalogue, so Yoshi cannot judge its pressures or work out its lines; a plan by weight with the maker's allowance is possible. Is the designation right?",
                    name=name,
                ),
            )
        )


def other_refrigerant(context: StepContext) -> Question | None:
    """What is typed here against another refrigerant on record: asked at once, and no figure rests on either until it is settled."""
    recorded = context.job.circuit.plate.refrigerant
    typed = context.run.sheet.refrigerant if context.run else None
    if not context.run or not recorded or not typed or recorded == typed:
        return None
    question_id = f"record:{recorded}:{typed}"
    if question_id in context.run.answers:
        return None
    text = sentence(
        "{typed} is typed, the circuit's record says {recorded}. Which is right? Until you choose, nothing is worked out from either."
    )
    asked = headline(text, typed=typed, recorded=recorded)
    return Question(question_id, context.path("refrigerant"), asked, suggestion=recorded)


def _ask_lengths(context: StepContext, notes: Notes, answers: Mapping[str, str]) -> None:
    """Ask when a line is not as long as on record, and say so when one of the two reads like metres taken for feet."""
    for key, line in context.plate.lines.items():
        before = context.job.circuit.plate.lines.get(key)
        if before is None or line.length is None or before.length is None or before.length.value <= 0.0:
            continue
        ratio = line.length.value / before.length.value
        question_id = f"length:{key}:{line.length.value:.6g}:{before.length.value:.6g}"
        if abs(ratio - 1.0) <= LENGTH_SHARE or question_id in answers:
            continue
        metres = any(abs(ratio * factor - 1.0) <= LENGTH_SHARE for factor in (FOOT_M, 1.0 / FOOT_M))
        text = (
            sentence(
                "The record says this line is {before} long, the entry is {typed}. One of them is metres taken for feet. Which is right?"
            )
            if metres
            else sentence(
                "The record says this line is {before} long, the entry is {typed}. Measure it again, or it was changed. Which is right?"
            )
        )
        amounts = {"before": Amount(before.length.value, "length"), "typed": Amount(line.length.value, "length")}
        path = context.path("lines", key, "length")
        notes.questions.append(Question(question_id, path, Message(text, amounts), suggestion=before.length.text or None))


def _told(context: StepContext, notes: Notes) -> None:
    """A figure somebody said or noted, beside the plate's and the record's: all are shown, the plate decides."""
    told, plate = context.plate.charge_told, context.plate.factory_charge
    if told is None or plate is None or abs(told.value - plate.value) <= SAME_SHARE * plate.value:
        return
    recorded = context.job.circuit.plate.factory_charge
    amounts = {"told": Amount(told.value, "mass"), "plate": Amount(plate.value, "mass")}
    text = sentence("Told {told}, {plate} on the plate: the plate decides.")
    if recorded is not None and abs(recorded.value - plate.value) > SAME_SHARE * plate.value:
        amounts["record"] = Amount(recorded.value, "mass")
        text = sentence("Told {told}, {record} on record, {plate} on the plate: the plate decides.")
    slip = looks_like_slip(ParsedMass(told.value, told.unit, told.text), recorded.value if recorded else plate.value)
    faces = mass_faces(recorded.value if recorded else plate.value)
    hint = headline("{as_told} and {faces}: tenths of a pound are not ounces.", as_told=told.text, faces=faces.lb_oz) if slip else None
    notes.tell("identify.told", "Open", joined(Message(text), hint), TRADE, amounts)


def _ask_slip(notes: Notes, path: str, says: Message, typed: Entry, reference: Entry, answers: Mapping[str, str]) -> None:
    """Ask when the typed charge and a second figure for it disagree, and say so when it is the classic slip."""
    parsed = ParsedMass(typed.value, typed.unit, typed.text)
    slip = looks_like_slip(parsed, reference.value)
    if not slip and abs(typed.value - reference.value) <= SAME_SHARE * reference.value:
        return
    question_id = f"differs:{path}:{typed.value:.9g}:{reference.value:.9g}"
    if question_id in answers:
        return
    faces = mass_faces(reference.value)
    slipped = headline("{pounds} is {faces}: tenths of a pound are not ounces.", pounds=faces.lb, faces=faces.lb_oz)
    asked = joined(says, slipped if slip else Message("Read the plate once more."), Message("Which is right?"))
    asked = asked.naming({"reference": Amount(reference.value, "mass"), "typed": Amount(typed.value, "mass")}, {})
    notes.questions.append(Question(question_id, path, asked, suggestion=reference.text or faces.lb_oz))
