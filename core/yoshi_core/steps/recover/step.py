"""Recover as a step of a job."""

from yoshi_core.findings.pictures import RecoverPicture
from yoshi_core.steps.recover.claim import claim
from yoshi_core.steps.recover.judge import judge
from yoshi_core.steps.recover.lines import lines
from yoshi_core.steps.recover.sheet import RecoverSheet
from yoshi_core.steps.step import CAPPED, RECOVERY, SCALE, Capture, Step, alone

STEP = Step(
    id="recover",
    label="Recover",
    short="recover",
    sheet=RecoverSheet,
    picture=RecoverPicture,
    judge=judge,
    share=alone((RECOVERY, SCALE)),
    reads=(
        "identify",
        "as_found",
    ),
    left_after=CAPPED,
    left_out=("new installation, under vacuum", "recovered on an earlier visit", "the charge stays in"),
    early=True,
    holds_kit=True,
    channels=("scale", "recovery_pressure"),
    capture=Capture("scale", (("gross_start", ("scale",)), ("gross_now", ("scale",))), record="cylinders", row="c"),
    lines=lines,
    begins=("finished", "told", "residue", "to_circuit_mass"),
    claim=claim,
    compares=frozenset({"share", "missing", "plate_share", "expected_low", "expected_high"}),
)
