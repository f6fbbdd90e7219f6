"""The steps of a job that are built, in the order the work is done."""

from types import ModuleType

from yoshi_core.steps import (
    as_found,
    change_over,
    close_out,
    evacuate,
    identify,
    leak_search,
    plan_change,
    pressure_hold,
    recover,
    repair,
    verify,
    weigh_in,
)

_IN_ORDER = (
    identify, as_found, plan_change, leak_search, recover, repair, change_over, pressure_hold, evacuate, weigh_in, verify, close_out,
)  # fmt: skip
BUILT: dict[str, ModuleType] = {module.ID: module for module in _IN_ORDER}
_CHANGE = frozenset({plan_change.ID, change_over.ID})
_ORDER = {
    "service": tuple(step for step in BUILT if step not in _CHANGE),
    "charge": ("identify", "weigh_in", "verify", "close_out"),
    "quick": ("identify", "weigh_in"),
    "retrofit": tuple(BUILT),
}


KINDS = tuple(_ORDER)


def order(kind: str) -> tuple[str, ...]:
    """Ids of the steps of a kind of job, in order."""
    return _ORDER[kind]


def label(step: str) -> str:
    """The step's name on screen."""
    return str(BUILT[step].LABEL)
