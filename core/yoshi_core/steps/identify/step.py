"""Identify as a step of a job."""

from yoshi_core.document.plate import Plate
from yoshi_core.findings.pictures import IdentifyPicture
from yoshi_core.steps.identify.claim import claim
from yoshi_core.steps.identify.judge import judge
from yoshi_core.steps.step import GAUGES_AND_AIR, NOT_OPENED, Step, by_hand

STEP = Step(
    id="identify",
    label="Identify",
    short="identify",
    sheet=Plate,
    picture=IdentifyPicture,
    judge=judge,
    share=by_hand(),
    left_after=NOT_OPENED,
    must="Every job begins with what is on the plate.",
    early=True,
    channels=GAUGES_AND_AIR,
    claim=claim,
)
