"""What version 4 of the document said otherwise: read from it, and said in its words again where a seal was set on them."""

from collections.abc import Mapping
from typing import Any

BUBBLES = {True: "unsaid", False: "no"}  # done or not was all it asked; what they showed was not written down


def from_version_4(steps: Mapping[str, Any]) -> dict[str, Any]:
    """The steps of a version 4 document in the words of version 5."""
    return _hold_runs(steps, BUBBLES, bool, in_runs=True)


def in_version_4(runs: Mapping[str, Any]) -> dict[str, Any]:
    """Dumped runs by step, as version 4 wrote them."""
    return _hold_runs(runs, {word: done for done, word in BUBBLES.items()}, str, in_runs=False)


def _hold_runs(steps: Mapping[str, Any], words: Mapping[Any, Any], kind: type, *, in_runs: bool) -> dict[str, Any]:
    """With what Pressure hold says of bubbles in other words; all else is handed back as it came."""
    held = steps.get("pressure_hold")
    runs = held.get("runs") if in_runs and isinstance(held, Mapping) else held
    if not isinstance(runs, (list, tuple)):
        return dict(steps)
    said = [_said(run, words, kind) for run in runs]
    return {**steps, "pressure_hold": {**held, "runs": said} if in_runs and isinstance(held, Mapping) else said}


def _said(run: Any, words: Mapping[Any, Any], kind: type) -> Any:
    sheet = run.get("sheet") if isinstance(run, Mapping) else None
    bubbles = sheet.get("bubbles") if isinstance(sheet, Mapping) else None
    if not isinstance(sheet, Mapping) or not isinstance(bubbles, kind) or bubbles not in words:
        return run
    return {**run, "sheet": {**sheet, "bubbles": words[bubbles]}}
