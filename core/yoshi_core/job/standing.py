"""What stands when the van leaves, and what to tell the customer."""

from collections.abc import Iterable, Mapping

from yoshi_core.account.account import Account
from yoshi_core.document.model import Job, StepRecord
from yoshi_core.findings.claims import Claim
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, headline, joined, plural
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
    said = [Message("The unit was worked on.") if inside is None else headline("It holds {inside} of refrigerant.", inside=inside)]
    said.append(_how_right(claims["charged"], claims["runs"]))
    if added > 0.0 and _topped_up(account, claims, leaked=loss is not None):
        went_in = Amount(added, "mass")
        if again is not None:
            said.append(
                plural(
                    max(1, round(again / SECONDS_A_DAY)),
                    "{added} were added; at the rate it lost refrigerant before, it is likely short again in about {n} day.",
                    "{added} were added; at the rate it lost refrigerant before, it is likely short again in about {n} days.",
                    added=went_in,
                )
            )
        else:
            said.append(headline("{added} were added; how fast it loses them is not known.", added=went_in))
        said.append(Message("Watch temperatures until it is repaired, and move what must not get warm."))
    said += [_carried(claim) for claim in claims.values() if claim.standing in {"answered_for", "contradicted"}]
    return Standing(
        inside,
        Amount(added, "mass") if added else None,
        Amount(again, "duration") if again else None,
        joined(*said),
    )


def _how_right(charged: Claim, runs: Claim) -> Message:
    """What the customer is told of the charge: by scale and running unit, by the scale alone, or not yet."""
    if charged.settled and runs.standing == "shown":
        return Message("The running unit agrees.")
    if charged.standing == "shown":
        return Message("The charge is right; the running unit has not shown it.")
    return Message("That the charge is right is not proven yet.")


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
    rest = headline("And {n} more.", n=Amount(float(len(grave) - 1), "count")) if len(grave) > 1 else None
    return joined(_carried(grave[0]), rest)


def _carried(claim: Claim) -> Message:
    """A claim that is not shown, as it goes with the job: what it says, and who answers for it."""
    said = headline("{claim}: {words}", claim=claim.label, words=claim.words)
    if claim.standing != "answered_for":
        return said
    return joined(said, headline("{who} answers for it: {reason}.", who=claim.by, reason=claim.reason))


def added_kg(account: Account) -> float:
    """What went in since it was last empty, less what trimming took out again, in kg."""
    lately = account.since_emptied()
    return account.moved_kg(row.line.id for row in lately if row.line.step != "recover")


def _loss_kg_s(job: Job) -> float | None:
    runs = job.steps.get("leak_search", StepRecord()).runs
    sheet: LeakSearchSheet | None = runs[-1].sheet if runs else None
    return (sheet.loss_kg_s or None) if sheet is not None else None
