"""What another school would say of the same job: verdicts and figures that would change, before anything is saved."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime
from math import isclose

from yoshi_core.document.model import Job
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Figure, Word
from yoshi_core.frozen import dataclass
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.message import Label, Message
from yoshi_core.profile.profile import CHOICES, Profile
from yoshi_core.units.display import Amount

SAME = 1e-6


@dataclass(frozen=True)
class FigureChange:
    """A figure that would read otherwise; None where it would not be there."""

    label: Label
    before: Amount | None
    after: Amount | None


@dataclass(frozen=True)
class StepChange:
    """A step that would say something else."""

    step: str
    word_before: Word
    word_after: Word
    headline_after: Message
    figures: tuple[FigureChange, ...]


@dataclass(frozen=True)
class SchoolChange:
    """Another school, and what it would change in this job."""

    choice: str
    text: str
    option: str
    option_text: str
    chosen_text: str
    steps: tuple[StepChange, ...]


def other_schools(job: Job, profile: Profile, now: datetime) -> tuple[SchoolChange, ...]:
    """Every school that is not the profile's and would change something in this job's open steps, with what it would change."""
    before = evaluate(job, profile, now)
    found = []
    for choice in CHOICES.values():
        chosen = profile.choice(choice.id)
        for option, text in choice.options.items():
            if option == chosen:
                continue
            other = replace(profile, choices={**profile.choices, choice.id: option})
            steps = tuple(changes(before, evaluate(job, other, now)))
            if steps:
                found.append(SchoolChange(choice.id, choice.text, option, text, choice.options[chosen], steps))
    return tuple(found)


def changes(before: Findings, after: Findings) -> Iterator[StepChange]:
    """The steps that say something else; what is closed stays as it was shown."""
    for one, other in zip(before.steps, after.steps, strict=True):
        if one.state not in {"open", "changed"}:
            continue
        figures = tuple(_figures(one, other))
        if figures or one.verdict.word != other.verdict.word or one.verdict.headline != other.verdict.headline:
            yield StepChange(one.step, one.verdict.word, other.verdict.word, other.verdict.headline, figures)


def _figures(one: StepResult, other: StepResult) -> Iterator[FigureChange]:
    after = {figure.id: figure for figure in other.figures}
    for figure in one.figures:
        theirs = after.pop(figure.id, None)
        if theirs is None or not _same(figure, theirs):
            yield FigureChange(figure.label, figure.amount, theirs.amount if theirs else None)
    for figure in after.values():
        yield FigureChange(figure.label, None, figure.amount)


def _same(one: Figure, other: Figure) -> bool:
    return isclose(one.amount.value, other.amount.value, rel_tol=SAME, abs_tol=1e-12)
