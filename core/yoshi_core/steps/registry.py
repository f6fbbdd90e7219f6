"""The steps of a job that are built, in the order the work is done."""

from yoshi_core.steps.as_found.step import STEP as AS_FOUND
from yoshi_core.steps.change_over.step import STEP as CHANGE_OVER
from yoshi_core.steps.close_out.step import STEP as CLOSE_OUT
from yoshi_core.steps.evacuate.step import STEP as EVACUATE
from yoshi_core.steps.identify.step import STEP as IDENTIFY
from yoshi_core.steps.leak_search.step import STEP as LEAK_SEARCH
from yoshi_core.steps.plan_change.step import STEP as PLAN_CHANGE
from yoshi_core.steps.pressure_hold.step import STEP as PRESSURE_HOLD
from yoshi_core.steps.recover.step import STEP as RECOVER
from yoshi_core.steps.repair.step import STEP as REPAIR
from yoshi_core.steps.step import Step
from yoshi_core.steps.verify.step import STEP as VERIFY
from yoshi_core.steps.weigh_in.step import STEP as WEIGH_IN

STEPS: dict[str, Step] = {
    step.id: step
    for step in (
        IDENTIFY,
        AS_FOUND,
        PLAN_CHANGE,
        LEAK_SEARCH,
        RECOVER,
        REPAIR,
        CHANGE_OVER,
        PRESSURE_HOLD,
        EVACUATE,
        WEIGH_IN,
        VERIFY,
        CLOSE_OUT,
    )
}
_CHANGE = frozenset({PLAN_CHANGE.id, CHANGE_OVER.id})
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
