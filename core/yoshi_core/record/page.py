"""Findings as a page of plain text."""

from collections.abc import Sequence

from yoshi_core.document.model import Job
from yoshi_core.findings.pictures import WeighInPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.message import worded
from yoshi_core.steps import registry
from yoshi_core.units.display import System, show, show_amount

LABEL = 38  # the longest label of a figure, and a little


def page(job: Job, results: Sequence[StepResult], system: System = "us") -> str:
    """A text page: each step with its verdict, figures, reasons, what is missing and what to mind."""
    title = job.title or job.circuit.name or job.id
    lines = [title, "=" * len(title)]
    for result in results:
        lines += ["", *_step(result, system)]
    return "\n".join(lines)


def _step(result: StepResult, system: System) -> list[str]:
    word = registry.shown(result.step, result.verdict.word)
    state = "" if result.state == "open" else f" ({result.state.replace('_', ' ')})"
    lines = [f"{registry.label(result.step)}: {word}{state}. {result.verdict.headline.show(system)}"]
    lines += [f"  {worded(figure.label, system):{LABEL}} {show_amount(figure.amount, system)}" for figure in result.figures]
    lines += [
        f"  {f'mark, {m.label}':{LABEL}} {show(m.gross_kg, 'mass', system)}   or {show(m.counted_kg, 'mass', system)} from zero"
        for m in result.drawn(WeighInPicture).marks
    ]
    lines += [f"  - {r.word}: {r.message.show(system)} [{r.rule_id}; {r.source}]" for r in result.verdict.reasons]
    lines += [f"  ? {q.message.show(system)}" for q in result.questions]
    lines += [f"  ! {p.path}: {p.message.show(system)}" for p in result.problems]
    lines += [f"  … needs {worded(m.label, system)} ({m.path})" for m in result.missing]
    lines += [f"  * {c.message.show(system)}" for c in result.cautions]
    return lines
