"""What the record and the label say of a change of refrigerant."""

from typing import Any

from yoshi_core.document.model import Job
from yoshi_core.document.plate import Plate
from yoshi_core.findings.pictures import VerifyPicture
from yoshi_core.job.evaluate import Findings
from yoshi_core.message import worded
from yoshi_core.steps.plates import changes_to, repaired_plate
from yoshi_core.units.display import System, show_amount


def made_of(job: Job, plate: Plate) -> str:
    """What stands on the label of a changed system in place of the build-up; empty for any other, or before it is charged."""
    old = repaired_plate(job).refrigerant or ""
    if changes_to(job) is None or plate.refrigerant == old:
        return ""
    oil = f" · oil {plate.oil}" if plate.oil else ""
    return f"Changed from {old}{oil} · never top up with {old}"


def change(job: Job, findings: Findings, system: System) -> dict[str, Any] | None:
    """The change of refrigerant as the record shows it: plan, oil and controls, before and after; None in another job."""
    new = changes_to(job)
    if new is None:
        return None
    figures = (*findings.step("plan_change").figures, *findings.step("change_over").figures)
    rows = findings.step("verify").drawn(VerifyPicture).before_after
    return {
        "old": repaired_plate(job).refrigerant or "",
        "new": new,
        "lines": [{"label": worded(figure.label, system), "value": show_amount(figure.amount, system)} for figure in figures],
        "rows": [
            {
                "label": row.label,
                "before": "—" if row.before is None else show_amount(row.before, system),
                "after": "—" if row.after is None else show_amount(row.after, system),
                "condition": row.condition,
            }
            for row in rows
        ],
        "notes": [note.show(system) for note in findings.step("verify").drawn(VerifyPicture).notes],
    }
