"""What a step is given to judge, and what it gives back.

A step judges its own sheet and what earlier steps handed on. It never reads the clock, stored findings or another record.
"""

import re
from collections.abc import Callable, Mapping
from dataclasses import field, replace
from datetime import date, datetime
from functools import cached_property

from yoshi_core.account.account import Account
from yoshi_core.account.lines import movement
from yoshi_core.document.model import Job, Run, StepRecord
from yoshi_core.document.plate import PartAdded, Plate
from yoshi_core.document.sheets import Facts
from yoshi_core.findings.claims import Claim
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Missing, Movement, Problem, Question, Reason, Role, Word
from yoshi_core.frozen import dataclass
from yoshi_core.message import Label, Message, Named, apart, headline
from yoshi_core.profile.profile import Profile
from yoshi_core.steps.handed import Handed, HandedOn
from yoshi_core.units.display import Amount


@dataclass
class Notes:
    """Collects what a step finds on its way through a sheet."""

    missing: list[Missing] = field(default_factory=list)
    questions: list[Question] = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)
    reasons: list[Reason] = field(default_factory=list)

    def need(self, path: str, label: Label, value: object, *, hard: bool = False) -> bool:
        """Whether the value is there; notes it as missing when it is not. No reason stands in for a `hard` one."""
        if value is None or value == "":
            self.missing.append(Missing(path, label, hard))
            return False
        return True

    def refuse(self, path: str, code: str, text: str | Message, **named: Amount | Named) -> None:
        """Record an entry that cannot be used; `named` fill the text."""
        self.problems.append(Problem(path, code, _message(text, *apart(named))))

    def say(
        self,
        rule_id: str,
        word: Word,
        text: str | Message,
        source: str,
        *,
        value: Amount | None = None,
        limit: Amount | None = None,
        school: str | None = None,
        role: Role = "remark",
        **named: Amount | Named,
    ) -> None:
        """Record what a rule says; `{value}` and `{limit}` may stand in the text."""
        amounts, words = apart(named)
        if value is not None:
            amounts["value"] = value
        if limit is not None:
            amounts["limit"] = limit
        self.tell(rule_id, word, text, source, amounts, words, school=school, role=role)

    def tell(
        self,
        rule_id: str,
        word: Word,
        text: str | Message,
        source: str,
        amounts: Mapping[str, Amount],
        words: Mapping[str, Named] | None = None,
        *,
        school: str | None = None,
        role: Role = "remark",
    ) -> None:
        """Record what a rule says, with amounts by name; `value` and `limit` among them are what was held against what."""
        message = _message(text, amounts, words or {})
        self.reasons.append(
            Reason(rule_id, message, word, message.amounts.get("value"), message.amounts.get("limit"), source, school, role)
        )

    def speaks(self, role: Role, *words: Word) -> bool:
        """Whether a reason of that role was given, with one of those words; any word where none is named."""
        return any(reason.role == role and (not words or reason.word in words) for reason in self.reasons)


@dataclass(frozen=True)
class StepContext:
    """The job, this step's runs, the plate as it stands, earlier results, and what earlier steps handed on.

    `rivals` are the plates with a disputed value put in; until a person chooses, the careful one counts. `account` is
    what is inside, over all steps; `claims` what the steps before it can show. `notes` take what the step finds; what they hold is heard even where its judging fails.
    """

    job: Job
    step: str
    record: StepRecord
    plate: Plate
    rivals: tuple[Plate, ...]
    earlier: Mapping[str, StepResult]
    handed: Handed
    profile: Profile
    now: datetime
    account: Account = field(default_factory=Account)
    claims: Mapping[str, Claim] = field(default_factory=dict)
    notes: Notes = field(default_factory=Notes, compare=False)

    def is_past(self, moment: datetime) -> bool:
        """Whether a moment has come. A step that asks so, and does not compare with `now`, is not judged again until the answer changes."""
        return moment <= self.now

    @property
    def today(self) -> date:
        """The day it is, by UTC."""
        return self.now.date()

    @property
    def last_run(self) -> int:
        """The number of the run that judges, counted from nought; nought too where there is none yet."""
        return max(len(self.record.runs) - 1, 0)

    def typed(self, record: str, step: str | None = None) -> tuple[datetime, ...]:
        """When rows of a record of a step, this one unless named, were first entered, over all its runs; in order of time."""
        there = re.compile(rf"/steps/{re.escape(step or self.step)}/runs/\d+/sheet/{re.escape(record)}/")
        return tuple(sorted(begun.at for key, begun in self.job.begun.items() if there.match(key)))

    def ids(self, step: str | None = None, number: int | None = None) -> tuple[str, ...]:
        """Ids of the account's lines that a step entered, this one unless named; of one of its runs where `number` says which."""
        stem = f"{self.job.id}/{step or self.step}/" + ("" if number is None else f"{number}/")
        return tuple(row.line.id for row in self.account.booked if row.line.id.startswith(stem))

    @property
    def movements(self) -> tuple[Movement, ...]:
        """What this step says to the cylinder book, as its rows stand."""
        mine = set(self.ids())
        found = [movement(row.line) for row in self.account.booked if row.line.id in mine]
        return tuple(replace(one, refrigerant=self.plate.refrigerant or "") for one in found if one is not None)

    @property
    def run(self) -> Run | None:
        """The last run: the one that judges."""
        return self.record.runs[-1] if self.record.runs else None

    def path(self, *keys: str) -> str:
        """JSON pointer of a field of the last run's sheet."""
        return "/".join((self._sheet, *keys))

    @cached_property
    def _sheet(self) -> str:
        return f"/steps/{self.step}/runs/{self.last_run}/sheet"


@dataclass(frozen=True)
class Judged:
    """A step's result, and what later steps may build on (never serialized).

    `hands` is what it hands on. `parts` are parts it added to the circuit: the plate of later steps has them too.
    `becomes` makes of a plate what it is after a change of refrigerant.
    """

    result: StepResult
    hands: HandedOn | None = None
    parts: Mapping[str, PartAdded] = field(default_factory=dict)
    becomes: Callable[[Plate], Plate] | None = None


def ask_unusual(notes: Notes, facts: Facts, path: str, value: float, answers: Mapping[str, str]) -> None:
    """Ask once about a value outside the usual range."""
    if facts.usual is None or facts.usual[0] <= value <= facts.usual[1]:
        return
    question_id = f"usual:{path}:{value:.9g}"
    if question_id in answers:
        return
    low, high = (Amount(bound, facts.quantity) for bound in facts.usual)
    message = headline(
        "{field:cap} {value} is unusual; most are from {low} to {high}. Is it right?",
        field=facts.label,
        value=Amount(value, facts.quantity),
        low=low,
        high=high,
    )
    notes.questions.append(Question(question_id, path, message))


def _message(text: str | Message, amounts: Mapping[str, Amount], words: Mapping[str, Named]) -> Message:
    return text.naming(amounts, words) if isinstance(text, Message) else Message(text, amounts, words)
