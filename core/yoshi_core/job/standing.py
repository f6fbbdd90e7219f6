"""What stands when the van leaves, and what to tell the customer."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from yoshi_core.account.account import Account
from yoshi_core.document.model import Job, StepRecord
from yoshi_core.findings.claims import Claim
from yoshi_core.findings.message import Message
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


def standing(job: Job, claims: Mapping[str, Claim], account: Account) -> Standing:
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
    said.append(_how_right(claims["charged"], claims["runs"]))
    if added > 0.0 and _topped_up(account, claims, leaked=loss is not None):
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
    for claim in claims.values():
        if claim.standing in {"answered_for", "contradicted"}:
            text, more = _carried(claim)
            said.append(text)
            amounts |= more
    return Standing(
        inside,
        Amount(added, "mass") if added else None,
        Amount(again, "duration") if again else None,
        Message(" ".join(said), amounts),
    )


def _how_right(charged: Claim, runs: Claim) -> str:
    """What the customer is told of the charge: by scale and running unit, by the scale alone, or not yet."""
    if charged.settled and runs.standing == "shown":
        return "The running unit agrees."
    if charged.standing == "shown":
        return "The charge is right; the running unit has not shown it."
    return "That the charge is right is not proven yet."


def _topped_up(account: Account, claims: Mapping[str, Claim], *, leaked: bool) -> bool:
    """Whether refrigerant went on top of a charge nobody took out, or into a circuit known to leak, and is not shown right.

    A unit that was emptied and mended, or came with its stamped charge, is being charged and not topped up.
    """
    if claims["charged"].settled and claims["runs"].standing == "shown":
        return False
    if claims["tight"].standing == "contradicted" or (leaked and claims["tight"].standing not in {"shown", "answered_for"}):
        return True
    empty = any(row.after.mass_kg == 0.0 for row in account.booked)
    stamped = any(row.line.kind in {"opening", "replaced"} and row.line.known == "stamped" for row in account.booked)
    return not empty and not stamped


def standing_sentence(claims: Iterable[Claim]) -> Message | None:
    """The one sentence a job carries in a list: what points away from it, else what somebody answers for; None where nothing does."""
    grave = sorted((c for c in claims if c.standing in {"contradicted", "answered_for"}), key=lambda c: c.standing != "contradicted")
    if not grave:
        return None
    text, amounts = _carried(grave[0])
    return Message(text if len(grave) == 1 else f"{text} And {len(grave) - 1} more.", amounts)


def _carried(claim: Claim) -> tuple[str, dict[str, Amount]]:
    """A claim that is not shown, as one sentence that goes with the job."""
    text = claim.words.text
    amounts = {}
    for name, amount in claim.words.amounts.items():
        text = text.replace("{" + name + "}", "{" + f"{claim.id}_{name}" + "}")
        amounts[f"{claim.id}_{name}"] = amount
    told = f" {claim.by} answers for it: {claim.reason}." if claim.standing == "answered_for" else ""
    return f"{claim.label}: {text}{told}", amounts


def added_kg(account: Account) -> float:
    """What went in since it was last empty, less what trimming took out again, in kg."""
    lately = account.since_emptied()
    return account.moved_kg(row.line.id for row in lately if row.line.step != "recover")


def _loss_kg_s(job: Job) -> float | None:
    runs = job.steps.get("leak_search", StepRecord()).runs
    sheet: LeakSearchSheet | None = runs[-1].sheet if runs else None
    return (sheet.loss_kg_s or None) if sheet is not None else None
