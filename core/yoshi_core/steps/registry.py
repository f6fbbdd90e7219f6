"""The steps of a job that are built, in the order the work is done."""

from types import ModuleType

from yoshi_core.document.plate import Plate
from yoshi_core.steps.as_found import judge as as_found
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.steps.change_over import judge as change_over
from yoshi_core.steps.change_over.sheet import ChangeOverSheet
from yoshi_core.steps.close_out import judge as close_out
from yoshi_core.steps.close_out.sheet import CloseOutSheet
from yoshi_core.steps.evacuate import judge as evacuate
from yoshi_core.steps.evacuate.sheet import EvacuateSheet
from yoshi_core.steps.identify import judge as identify
from yoshi_core.steps.leak_search import judge as leak_search
from yoshi_core.steps.leak_search.sheet import LeakSearchSheet
from yoshi_core.steps.plan_change import judge as plan_change
from yoshi_core.steps.plan_change.sheet import PlanChangeSheet
from yoshi_core.steps.pressure_hold import judge as pressure_hold
from yoshi_core.steps.pressure_hold.sheet import HoldSheet
from yoshi_core.steps.recover import judge as recover
from yoshi_core.steps.recover.sheet import RecoverSheet
from yoshi_core.steps.repair import judge as repair
from yoshi_core.steps.repair.sheet import RepairSheet
from yoshi_core.steps.verify import judge as verify
from yoshi_core.steps.verify.sheet import VerifySheet
from yoshi_core.steps.weigh_in import judge as weigh_in
from yoshi_core.steps.weigh_in.sheet import WeighInSheet

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


SHEETS: dict[str, type] = {
    "identify": Plate,
    "as_found": AsFoundSheet,
    "plan_change": PlanChangeSheet,
    "leak_search": LeakSearchSheet,
    "recover": RecoverSheet,
    "repair": RepairSheet,
    "change_over": ChangeOverSheet,
    "pressure_hold": HoldSheet,
    "evacuate": EvacuateSheet,
    "weigh_in": WeighInSheet,
    "verify": VerifySheet,
    "close_out": CloseOutSheet,
}
