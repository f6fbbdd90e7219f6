"""The first half of the job in the printed record: what came out, who decided what, and how each visit ended."""

from datetime import datetime

from yoshi_core.document.model import OUTCOMES, Job, StepRecord
from yoshi_core.document.sheets import Entry
from yoshi_core.findings.inside import Inside
from yoshi_core.message import worded
from yoshi_core.units.display import System, show, show_amount


def recovered(job: Job, inside: Inside, system: System) -> list[dict[str, str]]:
    """Every recovery cylinder with its readings, over all runs; what came out as the account has it."""
    changes = {row.id: row.change for row in inside.rows}
    rows = []
    for number, run in enumerate(job.steps.get("recover", StepRecord()).runs):
        for key, row in run.sheet.cylinders.items():
            taken = changes.get(f"{job.id}/recover/{number}/{key}/1")
            rows.append(
                {
                    "cylinder": row.cylinder or key,
                    "start": _mass(row.gross_start, system),
                    "end": _mass(row.gross_now, system),
                    "taken": "—" if taken is None else show_amount(taken, system),
                }
            )
    return rows


def account(inside: Inside, system: System) -> list[dict[str, str]]:
    """What came, went and was inside after each, oldest first; then the parts that valves were shut on."""
    parts = [{"what": part.label, "note": f"shut off: {part.holds}" if part.shut else "open to the rest"} for part in inside.parts]
    return [
        {
            "at": row.at.strftime("%d %b %H:%M") if row.at else "",
            "what": row.text.show(system),
            "note": worded(row.note, system),
            "change": "" if row.change is None else f"{'+' if row.adds else '−'} {show_amount(row.change, system)}",
            "known": row.known,
            "after": row.after.show(system),
        }
        for row in inside.rows
    ] + [{"at": "", "change": "", "known": "", "after": "", **part} for part in parts]


def decisions(job: Job) -> list[dict[str, str]]:
    """What the customer was asked, advised and chose."""
    rows: list[dict[str, str]] = []
    for step in ("leak_search", "recover"):
        for run in job.steps.get(step, StepRecord()).runs:
            rows += [
                {"asked": row.question or "", "advised": row.advice or "", "chosen": row.chosen or "", "by": row.by or ""}
                for row in run.sheet.decisions.values()
                if row.question or row.chosen
            ]
    return rows


def visits(job: Job) -> list[dict[str, str]]:
    """Each visit: when, who, how it ended, what is awaited."""
    return [
        {
            "from": _moment(visit.started_at),
            "to": _moment(visit.ended_at) if visit.ended_at else "going on",
            "people": ", ".join(visit.people),
            "outcome": OUTCOMES.get(visit.outcome or "", ""),
            "reason": " ".join(
                filter(
                    None,
                    (
                        visit.reason,
                        f"Awaited: {visit.awaited}." if visit.awaited else "",
                        f"Back on {visit.return_on}." if visit.return_on else "",
                    ),
                )
            ),
        }
        for visit in job.visits
    ]


def _mass(entry: Entry | None, system: System) -> str:
    return "—" if entry is None else show(entry.value, "mass", system)


def _moment(moment: datetime) -> str:
    return moment.strftime("%d %b %Y %H:%M")
