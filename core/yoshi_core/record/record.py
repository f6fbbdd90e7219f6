"""What the printed record and the unit's label say, as words and numbers ready to set."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from yoshi_core import refrigerants
from yoshi_core.document.model import OUTCOMES, PRACTICE, Job, StepRecord
from yoshi_core.document.plate import GAUGES, KINDS, METERING, Plate
from yoshi_core.document.sheets import Entry
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import IdentifyPicture, WeighInPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.frozen import dataclass
from yoshi_core.job.evaluate import Findings
from yoshi_core.message import worded
from yoshi_core.properties.atmosphere import site_pressure_pa
from yoshi_core.record import changed as record_changed
from yoshi_core.record import claimed as record_claimed
from yoshi_core.record import found as record_found
from yoshi_core.steps import registry
from yoshi_core.steps.plates import left_plate, repaired_plate
from yoshi_core.units.display import System, show, show_amount
from yoshi_core.units.mass import mass_faces

WORD_SHAPES = {"Holds": "disc", "Wait": "hourglass", "Stop": "barred", "Open": "ring"}


@dataclass(frozen=True)
class Line:
    """A row of the record: what, how much, and a remark."""

    label: str
    value: str
    note: str = ""


def record_data(job: Job, findings: Findings, profile_name: str, system: System, printed_at: datetime, shop: str) -> dict[str, Any]:
    """Everything the record shows."""
    system = findings.shown_in(system)
    inside = _inside(findings)
    plate = left_plate(job, inside)
    verify = findings.step("verify") if job.kind != "quick" else None
    close = job.steps.get("close_out", StepRecord())
    sheet = close.runs[-1].sheet if close.runs else None
    return {
        "title": job.title or job.circuit.name or "Job",
        "job_id": job.id,
        "practice": job.id.startswith(PRACTICE),
        "place": _place(job),
        "site": _site(plate),
        "shop": shop,
        "printed": moment_text(printed_at),
        "inside": _faces(inside) if inside is not None else None,
        "refrigerant": plate.refrigerant or "",
        "grams_first": findings.grams_first,
        "uncertainty": _uncertainty(findings, system),
        "outcome": OUTCOMES.get(sheet.outcome or "", "") if sheet else "",
        "reason": (sheet.reason or "") if sheet else "",
        "customer": (sheet.customer or "") if sheet else "",
        "note": (sheet.note or "") if sheet else "",
        "plate": _plate_lines(repaired_plate(job), system),
        "change": record_changed.change(job, findings, system),
        "build_up": _build_up(findings.step("identify"), system),
        "marks": _marks(findings.step("weigh_in"), system),
        "cylinders": _cylinders(job, system),
        "recovered": record_found.recovered(job, findings.inside, system),
        "claims": record_claimed.claims(findings, system),
        "account": record_found.account(findings.inside, system),
        "decisions": record_found.decisions(job),
        "visits": record_found.visits(job),
        "readings": _readings(job, system),
        "steps": [_step(result, system) for result in findings.steps],
        "verify_word": verify.verdict.word if verify else "",
        "events": _events(job),
        "people": sorted({name for visit in job.visits for name in visit.people}),
        "profile": f"{profile_name}, revision {findings.profile_revision}",
        "core_version": findings.core_version,
        "judged": moment_text(findings.now),
        "disputes": [f"{d.path.rsplit('/', 1)[-1].replace('_', ' ')}: {_entry_text(d.value)} by {d.by}" for d in job.disputes],
    }


def label_data(job: Job, findings: Findings, shop: str) -> dict[str, Any]:
    """What the label for the unit says: refrigerant, whole charge with line set, date."""
    inside = _inside(findings)
    plate = left_plate(job, inside)
    name = plate.refrigerant or ""
    known = bool(name) and refrigerants.is_known(name)
    found = refrigerants.get(name) if known else None
    system = findings.shown_in("us")
    parts = [f"{part.label.show()} {show(part.kg, 'mass', system)}" for part in findings.step("identify").drawn(IdentifyPicture).parts]
    return {
        "practice": job.id.startswith(PRACTICE),
        "refrigerant": name or "refrigerant?",
        "class_line": f"{found.safety_class} · GWP {found.gwp_ar4:.0f}" if found else "",
        "liquid_only": bool(found and found.is_blend),
        "flammable": bool(found and found.is_flammable),
        "charge": _faces(inside) if inside is not None else None,
        "grams_first": findings.grams_first,
        "not_known": findings.inside.now.show(system),
        "co2e": show(inside * found.gwp_ar4, "co2e", system) if found and inside is not None else "",
        "date": (_label_date(job) or findings.now).strftime("%d %b %Y"),
        "circuit": plate.circuit or job.circuit.name,
        "serial": plate.serial or "",
        "made_of": record_changed.made_of(job, plate) or " + ".join(parts),
        "closes": _closes(job, findings),
        "by": ", ".join(filter(None, (shop, *(sorted({n for v in job.visits for n in v.people})[:2])))),
    }


def _closes(job: Job, findings: Findings) -> str:
    """How far the charge on the label is proven, in the words the job closed with."""
    runs = job.steps.get("close_out", StepRecord()).runs
    outcome = runs[-1].sheet.outcome if runs else None
    if outcome is None or findings.steps[-1].verdict.word != "Holds":
        return "not yet proven"
    weighed = any(claim.id == "charged" and claim.standing == "shown" for claim in findings.claims)
    return f"{OUTCOMES[outcome].lower()}{'' if weighed else ', not weighed whole'}"


def _place(job: Job) -> str:
    names = (job.circuit.name, job.circuit.system, job.circuit.site)
    return " · ".join(dict.fromkeys(name for name in names if name and name != job.title))


def _label_date(job: Job) -> datetime | None:
    events = job.steps.get("close_out", StepRecord()).events
    return events[-1].at if events else None


def _inside(findings: Findings) -> float | None:
    """The charge in kg as the account has it; None where it is not a mass, or nothing is inside."""
    return None if findings.standing.inside is None else findings.standing.inside.value


def _faces(kg: float) -> dict[str, str]:
    faces = mass_faces(kg)
    pounds, _, ounces = faces.lb_oz.partition(" lb ")
    grams = f"{kg * 1000:.0f}"
    return {
        "pounds": pounds,
        "ounces": ounces.removesuffix(" oz"),
        "lb_oz": faces.lb_oz,
        "lb": faces.lb,
        "oz": faces.oz,
        "kg": faces.kg,
        "g": grams,
    }


def _uncertainty(findings: Findings, system: System) -> str:
    figure = findings.step("identify").figure("total")
    return "" if figure is None or figure.amount.u is None else show(2 * figure.amount.u, "mass", system)


def _site(plate: Plate) -> str:
    if plate.altitude is None:
        return "altitude not given, sea level assumed"
    try:
        air = f", air {site_pressure_pa(plate.altitude.value) / 1000:.1f} kPa"
    except CoreError:
        air = ""
    return f"{plate.altitude.value:.0f} m{air}, gauges {GAUGES.get(plate.gauge_reference or 'vented', '')}"


def _plate_lines(plate: Plate, system: System) -> list[Line]:
    rows = [
        Line("refrigerant", plate.refrigerant or "—", _class_of(plate)),
        _entry_line("factory charge", plate.factory_charge, "mass", system),
        _entry_line("charge covers", plate.included_length, "length", system),
        Line("kind", KINDS.get(plate.kind or "", "—")),
        Line("metering", METERING.get(plate.metering or "", "—"), plate.orifice or ""),
        _entry_line("subcooling target", plate.subcooling_target, "temperature_delta", system),
        Line("oil", plate.oil or "—"),
        Line("serial", plate.serial or "—"),
    ]
    for line in plate.lines.values():
        sizes = " / ".join(show(e.value, "tube_od", system) for e in (line.liquid_od, line.suction_od) if e)
        rows.append(Line("line set", show(line.length.value, "length", system) if line.length else "—", sizes))
    return rows


def _class_of(plate: Plate) -> str:
    name = plate.refrigerant
    return refrigerants.get(name).safety_class if name and refrigerants.is_known(name) else ""


def _entry_line(label: str, entry: Entry | None, quantity: str, system: System) -> Line:
    if entry is None:
        return Line(label, "—")
    return Line(label, show(entry.value, quantity, system), f"typed {entry.text}" if entry.text else "")


def _build_up(result: StepResult, system: System) -> dict[str, Any]:
    parts = result.drawn(IdentifyPicture).parts
    total = sum(part.kg for part in parts) or 1.0
    figure = result.figure("total")
    return {
        "parts": [
            {
                "label": part.label.show(system),
                "value": show(part.kg, "mass", system),
                "limit": show(part.limit_kg, "mass", system) if part.limit_kg else "",
                "provenance": part.provenance,
                "kind": part.kind,
                "share": max(part.kg, 0.0) / total * 100,
            }
            for part in parts
        ],
        "total": show_amount(figure.amount, system) if figure else "",
    }


def _marks(result: StepResult, system: System) -> list[Line]:
    return [
        Line(mark.label, show(mark.gross_kg, "mass", system), f"{show(mark.counted_kg, 'mass', system)} from zero")
        for mark in result.drawn(WeighInPicture).marks
    ]


def _cylinders(job: Job, system: System) -> list[dict[str, str]]:
    rows = []
    for run in job.steps.get("weigh_in", StepRecord()).runs:
        for key, draw in run.sheet.draws.items():
            rows.append(
                {
                    "cylinder": draw.cylinder or key,
                    "tare": _mass(draw.tare, system),
                    "start": _mass(draw.gross_start, system),
                    "end": _mass(draw.gross_end, system),
                    "hose": _mass(draw.hose_loss, system),
                }
            )
    return rows


def _mass(entry: Entry | None, system: System) -> str:
    return "—" if entry is None else show(entry.value, "mass", system)


_READING_FIELDS = (
    ("suction_pressure", "gauge_pressure", "suction"),
    ("suction_line", "temperature", "suction line"),
    ("liquid_pressure", "gauge_pressure", "liquid"),
    ("liquid_line", "temperature", "liquid line"),
    ("return_wet_bulb", "temperature", "return wet bulb"),
    ("outdoor", "temperature", "outdoor"),
    ("return_air", "temperature", "return air"),
    ("supply", "temperature", "supply air"),
    ("box", "temperature", "box"),
    ("added", "mass", "added before"),
    ("removed", "mass", "taken out before"),
    ("gross_before", "mass", "scale before the step"),
    ("gross_after", "mass", "scale after the step"),
)


def _readings(job: Job, system: System) -> list[dict[str, Any]]:
    found = []
    for run in job.steps.get("verify", StepRecord()).runs:
        for number, reading in enumerate(run.sheet.readings.values(), 1):
            rows = []
            who: set[str] = set()
            at: list[datetime] = []
            for name, quantity, label in _READING_FIELDS:
                entry = getattr(reading, name)
                if entry is None:
                    continue
                rows.append(Line(label, show(entry.value, quantity, system), entry.source))
                who |= {entry.by} - {""}
                at += [entry.at] if entry.at else []
            found.append({"number": number, "rows": rows, "by": ", ".join(sorted(who)), "at": moment_text(max(at)) if at else ""})
    return found


def _step(result: StepResult, system: System) -> dict[str, Any]:
    return {
        "id": result.step,
        "label": registry.label(result.step),
        "word": registry.shown(result.step, result.verdict.word),
        "shape": WORD_SHAPES[result.verdict.word],
        "state": result.state.replace("_", " "),
        "headline": result.verdict.headline.show(system),
        "figures": [
            Line(worded(f.label, system), show_amount(f.amount, system)) for f in result.figures if not f.id.startswith("allowance")
        ],
        "reasons": [
            {"word": r.word, "text": r.message.show(system), "rule": r.rule_id, "source": r.source} for r in result.verdict.reasons
        ],
    }


def _events(job: Job) -> list[dict[str, str]]:
    found: list[tuple[datetime, dict[str, str]]] = []
    for step, record in job.steps.items():
        for event in record.events:
            name = registry.label(step) if step in registry.STEPS else step.replace("_", " ").capitalize()
            words = {"closed": "closed", "reopened": "opened again", "not_applicable": "not applicable"}[event.kind]
            found.append((event.at, {"at": moment_text(event.at), "by": event.by, "what": f"{name} {words}", "reason": event.reason}))
    return [line for _, line in sorted(found, key=lambda pair: pair[0])]


def moment_text(moment: datetime) -> str:
    """A moment as the record prints it, with its clock."""
    return moment.strftime("%d %b %Y %H:%M UTC" if not moment.utcoffset() else "%d %b %Y %H:%M %z")


def _entry_text(value: Any) -> str:
    if isinstance(value, Mapping):
        return str(value.get("text") or value.get("value"))
    return str(value)
