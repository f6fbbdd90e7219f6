"""The one ladder from what a step found to its word and headline.

Steps hand in what they found and what to say where nothing stands against it. The gravest decides: a Stop before
everything else, so that no entry hides it. An entry that cannot be used comes next, for what waits was judged without
it. An Open reason is a remark: it holds nothing up.
"""

from yoshi_core.findings.verdict import Missing, Reason, Role, Verdict, Word
from yoshi_core.frozen import dataclass
from yoshi_core.message import Label, Message, headline
from yoshi_core.steps.contract import Notes
from yoshi_core.units.display import Amount

NAMED = 3
_FIRST: tuple[tuple[Role, ...], ...] = (
    ("no_method",),
    ("clock", "step"),
    ("condition",),
    ("not_the_charge", "no_step", "finding"),
)
_RANK: dict[Role, int] = {role: rank for rank, roles in enumerate(_FIRST) for role in roles}


@dataclass(frozen=True)
class Otherwise:
    """What a step says where nothing stands against it: Holds, or Open while something is still to be done.

    `missing` is its headline while entries are missing, in place of the plain one; `{needed}` in it stands for their names.
    """

    message: Message
    word: Word = "Holds"
    missing: Message | None = None


def verdict(notes: Notes, otherwise: Otherwise) -> Verdict:
    """Stop; what cannot be used; what waits; what is missing; what is asked about; then what the step says otherwise."""
    reasons = tuple(notes.reasons)
    stop, wait = _leading("Stop", reasons), _leading("Wait", reasons)
    if stop is not None:
        return Verdict("Stop", stop.message, reasons)
    if notes.problems:
        return Verdict("Open", notes.problems[0].message, reasons)
    if wait is not None:
        return Verdict("Wait", wait.message, reasons)
    if notes.missing:
        return Verdict("Open", _still_needed(tuple(notes.missing), otherwise.missing), reasons)
    if notes.questions:
        return Verdict("Wait", notes.questions[0].message, reasons)
    return Verdict(otherwise.word, otherwise.message, reasons)


def _leading(word: Word, reasons: tuple[Reason, ...]) -> Reason | None:
    """Of the reasons with a word the one that speaks for them: by its role, then the first given.

    Among Stops a danger leads what was measured; among waits what was measured leads what else is remarked.
    """
    first = -1 if word == "Stop" else 1
    return min((r for r in reasons if r.word == word), key=lambda r: first * _RANK.get(r.role, len(_FIRST)), default=None)


def _still_needed(missing: tuple[Missing, ...], own: Message | None) -> Message:
    names: tuple[Label, ...] = tuple(m.label for m in missing[:NAMED])
    if len(missing) > NAMED:
        names = (*names, headline("{n} more", n=Amount(float(len(missing) - NAMED), "count")))
    return (own or Message("Still needed: {needed}.")).naming({}, {"needed": names})
