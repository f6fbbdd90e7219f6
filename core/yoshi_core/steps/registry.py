"""The steps of a job that are built, in the order the work is done."""

from types import ModuleType

from yoshi_core.steps.as_found import judge as as_found
from yoshi_core.steps.change_over import judge as change_over
from yoshi_core.steps.close_out import judge as close_out
from yoshi_core.steps.evacuate import judge as evacuate
from yoshi_core.steps.identify import judge as identify
from yoshi_core.steps.leak_search import judge as leak_search
from yoshi_core.steps.plan_change import judge as plan_change
from yoshi_core.steps.pressure_hold import judge as pressure_hold
from yoshi_core.steps.recover import judge as recover
from yoshi_core.steps.repair import judge as repair
from yoshi_core.steps.verify import judge as verify
from yoshi_core.steps.weigh_in import judge as weigh_in

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
