"""The steps of a job that are built, in the order the work is done."""

from types import ModuleType

from yoshi_core.steps import as_found, close_out, evacuate, identify, leak_search, pressure_hold, recover, repair, verify, weigh_in

BUILT: dict[str, ModuleType] = {
    module.ID: module for module in (identify, as_found, leak_search, recover, repair, pressure_hold, evacuate, weigh_in, verify, close_out)
}
_ORDER = {
    "service": tuple(BUILT),
    "charge": ("identify", "weigh_in", "verify", "close_out"),
    "quick": ("identify", "weigh_in"),
}


KINDS = tuple(_ORDER)


def order(kind: str) -> tuple[str, ...]:
    """Ids of the steps of a kind of job, in order."""
    return _ORDER[kind]


def label(step: str) -> str:
    """The step's name on screen."""
    return str(BUILT[step].LABEL)
