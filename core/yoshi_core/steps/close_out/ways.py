"""The ways a job may close: what each asks of the claims, and what bars it now."""

from collections.abc import Mapping

from yoshi_core.document.model import OUTCOMES
from yoshi_core.findings.claims import Claim, Way
from yoshi_core.findings.verdict import Reason
from yoshi_core.message import Message, headline, joined, sentence
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.step_entries import touched

WEIGHT_KINDS = frozenset({"reach_in", "vehicle", "ductless", "vrf"})
BESIDE = ("unit", "emptied", "mended", "tight", "dry")


def ways(context: StepContext) -> tuple[Way, ...]:
    """Every way to close, open or barred, each with its sentence. None is open while a hard Stop stands on what is left."""
    danger = standing_danger(context)
    found = {
        "proven": _proven(context),
        "proven_by_weight": _by_weight(context),
        "proven_running": _running(context),
    }
    rest = Way("", "", True, Message("With a reason, and what would prove it."), reasoned=True)
    return tuple(_barred(_named(outcome, found.get(outcome, rest)), danger) for outcome in OUTCOMES)


def standing_danger(context: StepContext) -> Reason | None:
    """A Stop no reason lifts, in a step where something was entered."""
    for step, result in context.earlier.items():
        for reason in result.verdict.reasons:
            if reason.word == "Stop" and reason.role == "hard" and touched(context.job, step):
                return reason
    return None


def _named(outcome: str, way: Way) -> Way:
    return Way(outcome, OUTCOMES[outcome], way.open, way.words, way.reasoned)


def _barred(way: Way, danger: Reason | None) -> Way:
    return way if danger is None else Way(way.id, way.label, False, danger.message, way.reasoned)


CHARGED = Message("“Charged right” must be shown.")
RUNS = Message("“Runs right” must be shown.")


def _proven(context: StepContext) -> Way:
    claims = context.claims
    lacks = _beside(claims)
    if claims["charged"].standing != "shown":
        lacks.append(CHARGED)
    if claims["runs"].standing != "shown":
        lacks.append(RUNS)
    elif context.handed.verify.shows != "target":
        lacks.append(Message("This kind of system has no superheat or subcooling target."))
    return _way(lacks, sentence("The charge is shown, and the running unit agrees."), reasoned=False)


def _by_weight(context: StepContext) -> Way:
    claims, plate = context.claims, context.plate
    lacks = _beside(claims)
    if claims["charged"].standing != "shown":
        lacks.append(CHARGED)
    if claims["runs"].standing == "contradicted":
        lacks.append(Message("The running unit says otherwise."))
    enough = plate.kind in WEIGHT_KINDS or plate.metering == "capillary"
    return _way(
        lacks,
        sentence("Only the weight can prove this kind.") if enough else sentence("With why weight alone is the proof."),
        reasoned=not enough,
    )


def _running(context: StepContext) -> Way:
    claims = context.claims
    lacks = _beside(claims)
    if claims["charged"].standing == "shown":
        lacks.append(Message("The whole charge was weighed in: close it by weight."))
    if claims["charged"].standing == "contradicted":
        lacks.append(Message("The charge is against it."))
    if claims["runs"].standing != "shown" or context.handed.verify.shows != "target":
        lacks.append(Message("“Runs right” must be shown, against a target."))
    if context.profile.choice("charge.set_by") != "readings":
        lacks.append(Message("This shop's practice sets the charge by weight."))
    return _way(lacks, sentence("Not weighed whole: the label says so."), reasoned=True)


def _beside(claims: Mapping[str, Claim]) -> list[Message]:
    return [
        headline(
            sentence("“{claim}” is against it.") if claims[name].standing == "contradicted" else sentence("“{claim}” is open."),
            claim=claims[name].label,
        )
        for name in BESIDE
        if not claims[name].settled
    ]


def _way(lacks: list[Message], words: str, *, reasoned: bool) -> Way:
    if lacks:
        return Way("", "", False, joined(*lacks), reasoned)
    return Way("", "", True, Message(words), reasoned)
