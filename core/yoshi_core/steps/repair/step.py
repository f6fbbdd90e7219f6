"""Repair as a step of a job."""

from yoshi_core.steps.repair.claim import claim
from yoshi_core.steps.repair.judge import judge
from yoshi_core.steps.repair.sheet import RepairSheet
from yoshi_core.steps.step import GAUGES_AND_METAL, Step, by_hand

STEP = Step(
    id="repair",
    label="Repair",
    short="repair",
    sheet=RepairSheet,
    judge=judge,
    share=by_hand(),
    reads=(
        "identify",
        "leak_search",
        "recover",
    ),
    left_after="",
    opens=True,
    left_out=("nothing was opened", "only the charge was wrong"),
    early=True,
    channels=GAUGES_AND_METAL,
    claim=claim,
)
