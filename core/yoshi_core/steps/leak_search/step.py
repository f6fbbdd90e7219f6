"""Leak search as a step of a job."""

from yoshi_core.findings.pictures import LeakSearchPicture
from yoshi_core.steps.leak_search.judge import judge
from yoshi_core.steps.leak_search.sheet import LeakSearchSheet
from yoshi_core.steps.step import CLOSED, GAUGES_AND_AIR, NITROGEN, Step, by_hand

STEP = Step(
    id="leak_search",
    label="Leak search",
    short="search",
    sheet=LeakSearchSheet,
    picture=LeakSearchPicture,
    judge=judge,
    share=by_hand((NITROGEN,)),
    reads=(
        "identify",
        "as_found",
    ),
    left_after=CLOSED,
    left_out=("no loss to explain", "the leak is seen with the eye", "not ordered by the customer"),
    early=True,
    channels=GAUGES_AND_AIR,
    holds="Found",
)
