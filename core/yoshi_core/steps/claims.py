"""What a job can say, and on what: each step's own claim, with whoever answers for what is not shown."""

from collections.abc import Mapping

from yoshi_core.document.model import StepEvent
from yoshi_core.findings.claims import LABELS, Claim, ClaimId
from yoshi_core.message import Message, joined
from yoshi_core.steps import registry
from yoshi_core.steps.claiming import Told
from yoshi_core.steps.contract import StepContext

STEP_OF: dict[ClaimId, str] = {
    "unit": "identify",
    "emptied": "recover",
    "mended": "repair",
    "tight": "pressure_hold",
    "dry": "evacuate",
    "charged": "weigh_in",
    "runs": "verify",
}
NOT_HERE = Message("Not needed for this kind of job.")


def claims_of(at: Mapping[str, StepContext], kind: str) -> dict[str, Claim]:
    """The seven claims, by the contexts of the steps that were judged so far; those of steps still to come are not among them."""
    found: dict[str, Claim] = {}
    there = registry.order(kind)
    for claim_id, step in STEP_OF.items():
        if step not in there:
            found[claim_id] = Claim(claim_id, step, LABELS[claim_id], "not_in_question", NOT_HERE)
        elif step in at:
            found[claim_id] = _claim(claim_id, at[step])
    return found


def _claim(claim_id: ClaimId, context: StepContext) -> Claim:
    says = registry.STEPS[context.step].claim
    told = Told() if says is None else says(context)
    if told.standing == "shown" and _disputed(claim_id, context):
        told = Told(words=joined(Message("Two people entered different figures: choose one."), told.words), shows=told.shows)
    event = _answer(context)
    answered = told.standing == "not_yet" and event is not None
    return Claim(
        claim_id,
        context.step,
        LABELS[claim_id],
        "answered_for" if answered else told.standing,
        told.words,
        tuple(told.shows),
        tuple(told.against),
        tuple(told.missing),
        told.mode,
        event.by if event is not None and told.standing in {"not_yet", "contradicted"} else "",
        event.reason if event is not None and told.standing in {"not_yet", "contradicted"} else "",
        told.awaits if told.standing == "not_yet" else "",
    )


def _disputed(claim_id: ClaimId, context: StepContext) -> bool:
    """Whether two values stand for a figure the claim rests on: its own step's, and for the charge whatever moves or sizes it."""
    beside = ("/acts/", "/steps/identify/", "/steps/recover/", "/steps/verify/") if claim_id == "charged" else ()
    return any(dispute.path.startswith((f"/steps/{context.step}/", *beside)) for dispute in context.job.disputes)


def _answer(context: StepContext) -> StepEvent | None:
    """Whose word stands for the step: it was closed, or left out, with a name and a reason."""
    events = context.record.events
    last = events[-1] if events else None
    return last if last is not None and last.kind != "reopened" and last.reason and last.by else None
