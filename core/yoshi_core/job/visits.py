"""Visits: each ends with an outcome; what stands when the van leaves, and what to tell the customer."""

import dataclasses
from dataclasses import dataclass
from datetime import datetime

from yoshi_core.account.account import Account
from yoshi_core.document.model import VISIT_OUTCOMES, Job, StepRecord, Visit, VisitOutcome
from yoshi_core.errors import InvalidInput
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Message
from yoshi_core.steps.leak_search.sheet import LeakSearchSheet
from yoshi_core.units.display import Amount

SECONDS_A_DAY = 86_400.0


@dataclass(frozen=True)
class Standing:
    """What can be said if the visit ended now: charge inside, what was added, and the time until that is lost again.

    None where it is not known. `words` are for the customer.
    """

    inside: Amount | None
    added: Amount | None
    short_again: Amount | None
    words: Message


def standing(job: Job, results: dict[str, StepResult], account: Account) -> Standing:
    """The charge as it stands, and the days until what was added has leaked again at the rate it was lost before."""
    charge = account.charge
    inside = None if charge is None else Amount(charge.low_kg, "mass", charge.u_kg)
    added = added_kg(account)
    loss = _loss_kg_s(job)
    again = added / loss if added > 0.0 and loss else None
    amounts: dict[str, Amount] = {}
    said = ["The unit was worked on."]
    if inside is not None:
        amounts["inside"] = inside
        said = ["It holds {inside} of refrigerant."]
    verify = results.get("verify")
    proven = verify is not None and verify.verdict.word == "Holds"
    said.append("The running unit agrees." if proven else "That the charge is right is not proven yet.")
    if added > 0.0 and not proven:
        amounts["added"] = Amount(added, "mass")
        if again is not None:
            amounts["again"] = Amount(again, "duration")
            days = max(1, round(again / SECONDS_A_DAY))
            said.append(
                f"{{added}} were added; at the rate it lost refrigerant before, it is likely short again in about {days} "
                f"{'day' if days == 1 else 'days'}."
            )
        else:
            said.append("{added} were added; how fast it loses them is not known.")
        said.append("Watch temperatures until it is repaired, and move what must not get warm.")
    return Standing(
        inside,
        Amount(added, "mass") if added else None,
        Amount(again, "duration") if again else None,
        Message(" ".join(said), amounts),
    )


def added_kg(account: Account) -> float:
    """What went in since it was last empty, less what trimming took out again, in kg."""
    lately = account.since_emptied()
    return account.moved_kg(row.line.id for row in lately if row.line.step != "recover")


def _loss_kg_s(job: Job) -> float | None:
    runs = job.steps.get("leak_search", StepRecord()).runs
    sheet: LeakSearchSheet | None = runs[-1].sheet if runs else None
    return (sheet.loss_kg_s or None) if sheet is not None else None


def current(job: Job) -> Visit | None:
    """The visit that goes on; None between visits."""
    last = job.visits[-1] if job.visits else None
    return last if last is not None and last.outcome is None else None


def end_visit(job: Job, verify_word: str, outcome: VisitOutcome, reason: str, awaited: str, return_on: str, at: datetime) -> Job:
    """The job with its visit ended. Raises `InvalidInput` without a visit, a reason, or a proof where it says proven."""
    visit = current(job)
    if visit is None:
        raise InvalidInput("No visit goes on: start one first.", path="/visits")
    if outcome not in VISIT_OUTCOMES:
        raise InvalidInput(f"A visit ends as {', '.join(VISIT_OUTCOMES.values())}.", path="/outcome")
    if outcome == "proven" and verify_word != "Holds":
        raise InvalidInput("Verify does not hold, so this visit proved nothing. Say running, not proven.", path="/outcome")
    if outcome != "proven" and not reason.strip():
        raise InvalidInput("Say why it ends this way; the next visit starts from it.", path="/reason")
    if outcome == "running_not_proven" and not awaited.strip():
        raise InvalidInput("Say what is awaited: a part, the weather, a decision.", path="/awaited")
    ended = dataclasses.replace(
        visit, ended_at=at, outcome=outcome, reason=reason.strip(), awaited=awaited.strip(), return_on=_day(return_on)
    )
    return dataclasses.replace(job, visits=(*job.visits[:-1], ended))


def _day(text: str) -> str:
    if not text.strip():
        return ""
    try:
        return datetime.strptime(text.strip(), "%Y-%m-%d").date().isoformat()  # noqa: DTZ007 - a day has no clock
    except ValueError:
        raise InvalidInput("Write the day as year-month-day, such as 2026-07-03.", path="/return_on") from None


def start_visit(job: Job, by: str, at: datetime) -> Job:
    """The job with a new visit. Raises `InvalidInput` while one goes on."""
    if current(job) is not None:
        raise InvalidInput("A visit goes on already; end it first.", path="/visits")
    return dataclasses.replace(job, visits=(*job.visits, Visit(f"v{len(job.visits) + 1}", at, (by,))))
