"""The one door to the computation: `evaluate(job, profile, now) -> Findings`."""

import dataclasses
import hashlib
import json
from collections.abc import Callable, Iterable, Mapping
from datetime import UTC, datetime
from functools import partial
from typing import Any, Literal

from yoshi_core import __version__
from yoshi_core.account.lines import movement
from yoshi_core.document import schema
from yoshi_core.document.model import Dispute, Job, Run, StepEvent, StepRecord
from yoshi_core.document.patched import rivals
from yoshi_core.document.plate import Plate
from yoshi_core.document.version_4 import in_version_4
from yoshi_core.errors import CoreError
from yoshi_core.findings.claims import Claim
from yoshi_core.findings.inside import Inside
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Movement, Reason, Verdict
from yoshi_core.frozen import dataclass
from yoshi_core.job.inside import inside_of
from yoshi_core.job.standing import Standing, standing
from yoshi_core.message import Message, headline, told
from yoshi_core.profile.profile import TRADE, Profile
from yoshi_core.steps import registry
from yoshi_core.steps.account_of import account_of_job
from yoshi_core.steps.act_lines import ACTS
from yoshi_core.steps.claims import claims_of
from yoshi_core.steps.contract import Judged, StepContext
from yoshi_core.steps.grams import grams_first
from yoshi_core.steps.handed import Handed
from yoshi_core.steps.plates import current_plate, with_parts
from yoshi_core.steps.sections import standing_parts
from yoshi_core.steps.step import Step
from yoshi_core.steps.step_entries import touched
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.steps.watched import LazyClaims, Memo
from yoshi_core.units.display import System, show_amount

__all__ = ["Findings", "Job", "Memo", "evaluate", "inputs_hash", "last_event"]


SAFETY, SEEN = "safety:", "seen"
NEVER = datetime(1, 1, 1, tzinfo=UTC)


@dataclass(frozen=True)
class Findings:
    """A result per step, what stands if the visit ended now, what is inside, what the job can say, and what made them.

    `movements` are those of acts; the steps carry their own. `grams_first`: whether masses are shown in grams before ounces.
    """

    job_id: str
    core_version: str
    profile_id: str
    profile_revision: int
    now: datetime
    steps: tuple[StepResult, ...]
    standing: Standing
    inside: Inside
    claims: tuple[Claim, ...] = ()
    movements: tuple[Movement, ...] = ()
    grams_first: bool = False

    def shown_in(self, system: System) -> System:
        """The system to show this job in: who reads pounds and ounces reads a small charge in grams first."""
        return "grams" if system == "us" and self.grams_first else system

    def claim(self, claim_id: str) -> Claim:
        """One of the seven claims; `KeyError` for another id."""
        for claim in self.claims:
            if claim.id == claim_id:
                return claim
        raise KeyError(claim_id)

    def step(self, step_id: str) -> StepResult:
        """The result of one step; `KeyError` when the job has no such step."""
        for result in self.steps:
            if result.step == step_id:
                return result
        raise KeyError(step_id)

    @property
    def asked(self) -> frozenset[str]:
        """Paths that steps still open ask for, in whatever step they belong, and those that settle their questions."""
        open_ones = [result for result in self.steps if result.state in {"open", "changed"}]
        fields = {missing.path for result in open_ones for missing in result.missing}
        claimed = {missing.path for claim in self.claims if claim.standing == "not_yet" for missing in claim.missing}
        return frozenset(fields | claimed | {question.answer_path for result in self.steps for question in result.questions})

    @property
    def says_stop(self) -> bool:
        """Whether any step says Stop."""
        return any(result.verdict.word == "Stop" for result in self.steps)


def evaluate(
    job: Job, profile: Profile, now: datetime, *, defect: Callable[[str, Exception], None] | None = None, memo: Memo | None = None
) -> Findings:
    """Everything Yoshi knows about the job, from the document alone.

    A closed step is judged by the profile it was closed under. Stored findings are never read. A step whose figures are out
    of where a method is true says so; the others are judged all the same. `defect` is told the step and the error where a
    step fails in any other way, and the rest goes on; without it such an error is raised. With a `memo` of this job only steps are
    judged again of which something they read has changed; what is said is the same.
    """
    plate = current_plate(job)
    rivals_of_plate = tuple(_rival_plates(job))
    results: dict[str, StepResult] = {}
    contexts: dict[str, StepContext] = {}
    handed = Handed()
    account = account_of_job(job, plate, profile, _on_record_kg(job, plate, profile))
    for step_id in registry.order(job.kind):
        record = job.steps.get(step_id, StepRecord())
        event = last_event(record)
        closed = event is not None and event.kind == "closed"
        used = event.profile if closed and event and event.profile else profile
        claims: Mapping[str, Claim] = LazyClaims(partial(_claims_then, dict(contexts), plate, dict(results), handed, job.kind))
        if step_id == registry.order(job.kind)[-1]:  # closing out asks which steps changed, and that rests on all of them
            results = {known: _changed(result, claims, last_event(job.steps.get(known, StepRecord()))) for known, result in results.items()}
        context = StepContext(job, step_id, record, plate, rivals_of_plate, dict(results), handed, used, now, account, claims)
        judged = _judged(context, defect, memo)
        contexts[step_id] = context
        if judged.parts and not (event is not None and event.kind == "not_applicable"):
            plate = with_parts(plate, judged.parts)
            rivals_of_plate = tuple(with_parts(rival, judged.parts) for rival in rivals_of_plate)
            again = _identified(job, plate, rivals_of_plate, profile, now)
            handed = handed.with_one("identify", again.hands)
            results["identify"] = dataclasses.replace(again.result, state=results["identify"].state)
        if judged.becomes is not None and not (event is not None and event.kind == "not_applicable"):
            plate, rivals_of_plate = judged.becomes(plate), tuple(judged.becomes(rival) for rival in rivals_of_plate)
            handed = handed.with_one("identify", _identified(job, plate, rivals_of_plate, profile, now).hands)
        results[step_id] = _with_state(_with_seen(judged.result, job), job, step_id, event, memo)
        handed = handed.with_one(step_id, judged.hands)
    shown = _claims_then(contexts, plate, results, handed, job.kind)
    build_up = handed.identify.careful
    belongs = None if build_up is None else build_up.total_kg
    return Findings(
        job.id,
        __version__,
        profile.id,
        profile.revision,
        now,
        tuple(results.values()),
        standing(job, shown, account),
        inside_of(account, belongs, standing_parts(job, account, plate)),
        tuple(shown.values()),
        tuple(found for row in account.booked if row.line.step == ACTS and (found := movement(row.line)) is not None),
        grams_first(plate, belongs, profile),
    )


def _claims_then(
    contexts: dict[str, StepContext], plate: Plate, results: dict[str, StepResult], handed: Handed, kind: str
) -> dict[str, Claim]:
    """What the job could show once these steps were judged."""
    return claims_of(_as_known(contexts, plate, results, handed), kind)


def _as_known(contexts: dict[str, StepContext], plate: Plate, results: dict[str, StepResult], handed: Handed) -> dict[str, StepContext]:
    """Each step's context with what the steps after it have found meanwhile: a claim may rest on what came later."""
    return {step: dataclasses.replace(context, plate=plate, earlier=results, handed=handed) for step, context in contexts.items()}


def _judged(context: StepContext, defect: Callable[[str, Exception], None] | None, memo: Memo | None) -> Judged:
    step = registry.STEPS[context.step]
    try:
        judged: Judged = step.judge(context) if memo is None else memo.judged(context, step.judge)
    except CoreError as error:
        return _unjudged(step, context, told(error))
    except Exception as error:  # whatever it is, nine other steps must not vanish with this one
        if defect is None:
            raise
        defect(step.id, error)
        return _unjudged(step, context, Message("That is a defect of Yoshi's, and it is in its log."))
    return judged


def _unjudged(step: Step, context: StepContext, why: Message) -> Judged:
    """A step that fails while it is judged: what it had found until then is said, and Stop, for what else stands against it is not seen.

    What its rows moved stays in the book.
    """
    text = headline("This step cannot be judged, so whatever is dangerous in it is not seen. Do not go on by it. {why}", why=why)
    found = verdict(context.notes, Otherwise(text))
    unseen = Reason("job.unjudged", text, "Stop", None, None, TRADE)
    said = Verdict("Stop", found.headline if found.word == "Stop" else text, (*found.reasons, unseen))
    return Judged(StepResult(context.step, "open", said, Message("cannot be judged"), movements=context.movements, picture=step.picture()))


def _on_record_kg(job: Job, plate: Plate, profile: Profile) -> float | None:
    """What belongs in: as last weighed, else by plate and lines. Only a pump-down asks."""
    runs = job.steps.get("recover", StepRecord()).runs
    if not any(run.sheet.way == "pump_down" and run.sheet.finished for run in runs):
        return None
    weighed = [fact for fact in job.facts if fact.kind == "weighed_total"]
    return float(weighed[-1].values["mass_kg"]) if weighed else full_charge_kg(plate, profile)


def full_charge_kg(plate: Plate, profile: Profile) -> float | None:
    """What a circuit of this plate holds when full, in kg; None while its plate does not say."""
    of_plate = Job("plate", "quick", steps={"identify": StepRecord((Run(plate),))})
    found = Handed().with_one("identify", _identified(of_plate, plate, (), profile, NEVER).hands).identify
    return None if found.build_up is None else found.build_up.total_kg


def _identified(job: Job, plate: Plate, rivals: tuple[Plate, ...], profile: Profile, now: datetime) -> Judged:
    """Identify by this plate, as when a step has added parts: later steps reckon with the new total, and the build-up shows it."""
    record = job.steps.get("identify", StepRecord())
    return registry.STEPS["identify"].judge(StepContext(job, "identify", record, plate, rivals, {}, Handed(), profile, now))


def last_event(record: StepRecord) -> StepEvent | None:
    """The event that says how the step stands."""
    return record.events[-1] if record.events else None


def _with_seen(result: StepResult, job: Job) -> StepResult:
    """A hazard is acknowledged once a job, whichever step first warned of it; later ones still say what it asks for there."""
    answers = {key for record in job.steps.values() for run in record.runs for key, answer in run.answers.items() if answer == SEEN}
    if not answers:
        return result
    cautions = tuple(dataclasses.replace(c, seen=f"{SAFETY}{c.id}" in answers) for c in result.cautions)
    return dataclasses.replace(result, cautions=cautions)


def _with_state(result: StepResult, job: Job, step_id: str, event: StepEvent | None, memo: Memo | None) -> StepResult:
    if event is None or event.kind == "reopened":
        return result
    if (
        event.kind == "not_applicable"
        and touched(job, step_id)
        and any(r.word == "Stop" and r.role == "hard" for r in result.verdict.reasons)
    ):
        return dataclasses.replace(result, state="not_applicable")
    if event.kind == "not_applicable":
        said = Verdict("Holds", headline("Not applicable: {reason}", reason=event.reason))
        return dataclasses.replace(
            result, state="not_applicable", verdict=said, summary=Message("does not apply"), missing=(), questions=()
        )
    seal = _seal(job, step_id, event, memo)
    state: Literal["closed", "changed"] = "closed" if event.inputs_hash == seal else "changed"
    return dataclasses.replace(result, state=state)


def _seal(job: Job, step_id: str, event: StepEvent, memo: Memo | None) -> str:
    """The seal of what the step reads now, made as the event's was."""
    work = partial(inputs_hash, job, step_id, as_version_4=not event.said)  # what an event says was not kept before version 5
    if memo is None:
        return work()
    return memo.seal(step_id, (_read_by(job, step_id), job.circuit, job.acts, job.sections, bool(event.said)), work)


def _changed(result: StepResult, claims: Mapping[str, Claim], event: StepEvent | None) -> StepResult:
    """A closed step is changed when what it reads differs and what it rests on does too; what was typed meanwhile may leave it as it was.

    Later evidence that shows what was not shown then is no change.
    """
    if result.state != "changed" or event is None or not event.said:
        return result
    now = deciding(result, claims.values())
    lifted = {**event.said, "claim": now["claim"]} if event.said.get("claim") == "not_yet" and now.get("claim") == "shown" else event.said
    gone = {f"figure:{name}" for name in registry.STEPS[result.step].compares} - set(now)
    kept = {name: value for name, value in lifted.items() if name not in gone}
    return dataclasses.replace(result, state="closed") if kept == now else result


def deciding(result: StepResult, claims: Iterable[Claim]) -> dict[str, str]:
    """What a step rests on, in words: what its claim shows without anybody's word, and its figures as shown."""
    said = {"step": result.step, **{f"figure:{figure.id}": show_amount(figure.amount) for figure in result.figures}}
    for claim in claims:
        if claim.step == result.step:
            said["claim"] = "not_yet" if claim.standing == "answered_for" else claim.standing
    return said


def inputs_hash(job: Job, step_id: str, *, as_version_4: bool = False) -> str:
    """SHA-256 over what the step reads: the circuit's copy, its own runs and those of the steps it builds on.

    A step closed before version 5 was sealed on the words of then: `as_version_4` takes today's document back to them.
    """
    runs = {read: schema.dump(there) for read, there in _read_by(job, step_id).items()}
    plain: dict[str, Any] = {"circuit": schema.dump(job.circuit), "runs": in_version_4(runs) if as_version_4 else runs}
    beside = {} if as_version_4 else {"acts": job.acts, "sections": job.sections}
    plain |= {name: schema.dump(rows) for name, rows in beside.items() if rows}
    text = json.dumps(plain, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return hashlib.sha256(text.encode()).hexdigest()


def _read_by(job: Job, step_id: str) -> dict[str, tuple[Run, ...]]:
    """The runs a step builds on and its own, by step."""
    there = registry.order(job.kind)
    reads = (*(read for read in registry.STEPS[step_id].reads if read in there), step_id)
    return {read: job.steps.get(read, StepRecord()).runs for read in reads}


def _rival_plates(job: Job) -> list[Plate]:
    """The plate with each disputed value of Identify put in, one at a time."""
    return [current_plate(rival) for rival in rivals(dataclasses.replace(job, disputes=_of_identify(job)))]


def _of_identify(job: Job) -> tuple[Dispute, ...]:
    return tuple(dispute for dispute in job.disputes if dispute.path.startswith("/steps/identify/"))
