"""The steps of a job that are built, in the order the work is done.

A step is loaded when it is first asked for: a job of four steps does not read the code of twelve.
"""

from collections.abc import Iterator, Mapping
from importlib import import_module

from yoshi_core.steps.step import Step

_IN_ORDER = (
    "identify",
    "as_found",
    "plan_change",
    "leak_search",
    "recover",
    "repair",
    "change_over",
    "pressure_hold",
    "evacuate",
    "weigh_in",
    "verify",
    "close_out",
)


class _Steps(Mapping[str, Step]):
    """Every step by its id, in order; `loaded` are those that were asked for."""

    def __init__(self) -> None:
        self.loaded: dict[str, Step] = {}

    def __getitem__(self, step: str) -> Step:
        if step not in self.loaded:
            if step not in _IN_ORDER:
                raise KeyError(step)
            self.loaded[step] = import_module(f"yoshi_core.steps.{step}.step").STEP
        return self.loaded[step]

    def __iter__(self) -> Iterator[str]:
        return iter(_IN_ORDER)

    def __len__(self) -> int:
        return len(_IN_ORDER)

    def __contains__(self, step: object) -> bool:
        return step in _IN_ORDER


STEPS = _Steps()
_CHANGE = frozenset({"plan_change", "change_over"})
_ORDER = {
    "service": tuple(step for step in STEPS if step not in _CHANGE),
    "charge": ("identify", "weigh_in", "verify", "close_out"),
    "quick": ("identify", "weigh_in"),
    "retrofit": tuple(STEPS),
}
KINDS = tuple(_ORDER)


def order(kind: str) -> tuple[str, ...]:
    """Ids of the steps of a kind of job, in order."""
    return _ORDER[kind]


def shown(step: str, word: str) -> str:
    """A verdict's word as it is shown on this step."""
    return STEPS[step].holds if word == "Holds" else word


def label(step: str) -> str:
    """The step's name on screen."""
    return STEPS[step].label
