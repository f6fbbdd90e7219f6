"""After a change of refrigerant: a receiver filled to its glass, and the machine before and after, side by side."""

from collections.abc import Sequence
from dataclasses import replace

from yoshi_core.document.sheets import Entry, value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import BeforeAfter
from yoshi_core.message import Message, sentence
from yoshi_core.profile.profile import TRADE, Profile
from yoshi_core.properties import cycle
from yoshi_core.properties.cycle import Conditions, Cycle
from yoshi_core.running.targets import Target
from yoshi_core.running.trim import TrimStep
from yoshi_core.steps.as_found.handed import Read
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.plan_change.handed import Change
from yoshi_core.steps.verify.kinds import coils_of
from yoshi_core.steps.verify.points import Point
from yoshi_core.steps.verify.sheet import VerifySheet
from yoshi_core.steps.weigh_in.handed import Weighed
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K

APART_K = 5.0 * FAHRENHEIT_K
FULL_SHARE = 0.9
CONDITIONS = (("outdoor", "air over the condenser"), ("return_air", "return air"), ("return_wet_bulb", "return wet bulb"), ("box", "box"))


def changed_target(target: Target, change: Change | None, profile: Profile) -> Target:
    """Subcooling from bubble at which the condenser holds the liquid it held before: less half of what its glide has grown."""
    if change is None or profile.choice("retrofit.subcooling") == "plate" or change.glide_more_k <= 0.0:
        return target
    least = min(profile.value("retrofit.least_subcooling"), target.value_k)
    value = max(target.value_k - change.glide_more_k / 2.0, least)
    source = f"{target.source}; less half of what the condenser's glide has grown, {change.old} to {change.new}"
    return replace(target, value_k=value, source=source)


def to_the_glass(sheet: VerifySheet, points: Sequence[Point], weighed: Weighed, notes: Notes, context: StepContext) -> TrimStep | None:
    """The next step of charge while the glass bubbles at load, up to the cap over the expected end; the glass itself is judged with its kind."""
    plan, inside = weighed.plan_kg, points[-1].inside_kg if points else weighed.inside_kg
    if plan is None or inside is None:
        notes.need("/steps/weigh_in/runs/0/sheet/draws/d1/gross_end", "the weighed charge", None)
        return None
    if not points:
        notes.need(context.path("readings", "r1", "suction_pressure"), "suction pressure", None)
    elif points[-1].added_kg != 0.0 and not points[-1].speaks:
        notes.need(context.path("readings", points[-1].id, "suction_pressure"), "the glass and the gauges after the step", None)
        return None
    value, limit = Amount(inside, "mass"), Amount(plan, "mass")
    if sheet.sight_glass == "clear":
        text = sentence("{value} are in with the glass clear at load; {limit} were expected in the end.")
        notes.say("retrofit.glass", "Holds", text, TRADE, value=value, limit=limit, role="glass")
        return None
    if sheet.sight_glass != "bubbles":
        return None
    most = (1.0 + context.profile.value("trim.cap_share")) * plan
    step = min(context.profile.value("trim.step_share") * plan, most - inside)
    if step <= context.profile.value("scale.limit"):
        text = sentence(
            "{value} are in, {limit} were expected, and the glass still bubbles. The charge is not the fault: stop and look for what is starving it."
        )
        notes.say("retrofit.glass", "Stop", text, TRADE, value=value, limit=limit)
        return TrimStep(0.0, True, "trim.cap", None, False)
    text = sentence("{value} are in and the glass bubbles: add {step}, let it settle, look again. {limit} are expected in the end.")
    notes.say("trim.step", "Wait", text, TRADE, value=value, limit=limit, step=Amount(step, "mass"), role="step")
    return TrimStep(step, False, "trim.step", None, True)


def before_after(change: Change | None, points: Sequence[Point], context: StepContext) -> tuple[BeforeAfter, ...]:
    """Conditions first, then what the machine did under them; nothing before the new refrigerant was read."""
    found = context.handed.as_found
    if change is None or found is None or not points:
        return ()
    was, sheet = found.read, _as_found_sheet(context)
    last = points[-1]
    coils = coils_of(last.reading, context)
    rows = [
        BeforeAfter(label, _temperature(getattr(sheet, name, None)), _temperature(getattr(last.reading, name)), True)
        for name, label in CONDITIONS
    ]
    state = last.state
    rows += [
        BeforeAfter("evaporating, mean", _kelvin(was.evaporating_k), _kelvin(coils.evaporating_k)),
        BeforeAfter("condensing, mean", _kelvin(was.condensing_k), _kelvin(coils.condensing_k)),
        BeforeAfter("superheat, on dew", _delta(was.superheat_k), _delta(state.superheat_k)),
        BeforeAfter("subcooling, on bubble", _delta(was.subcooling_k), _delta(state.subcooling_k)),
        BeforeAfter("supply air", _temperature(getattr(sheet, "supply", None)), _temperature(last.reading.supply)),
        BeforeAfter("compressor draws", _amps(getattr(sheet, "amps", None)), _amps(last.reading.amps)),
    ]
    rows += _by_cycle(change, was, (coils.evaporating_k, coils.condensing_k, state.superheat_k, state.subcooling_k))
    return tuple(row for row in rows if row.before is not None or row.after is not None)


def before_notes(change: Change | None, points: Sequence[Point], context: StepContext) -> tuple[Message, ...]:
    """What makes before and after hard to compare."""
    found = context.handed.as_found
    if change is None or found is None or not points:
        return ()
    notes = []
    sheet = _as_found_sheet(context)
    for name, label in CONDITIONS:
        before, after = value_of(getattr(sheet, name, None)), value_of(getattr(points[-1].reading, name))
        if before is not None and after is not None and abs(before - after) > APART_K:
            amounts = {"before": Amount(before, "temperature"), "after": Amount(after, "temperature")}
            notes.append(Message("{label:cap} was {before} before and is {after} now: compare with care.", amounts, {"label": label}))
    recovered = context.handed.recover
    full = change.present.full_kg
    if recovered is not None and recovered.recovered_kg is not None and full and recovered.recovered_kg < FULL_SHARE * full:
        share = {"share": Amount(recovered.recovered_kg / full, "fraction")}
        notes.append(Message("Before, it ran on {share} of its charge: that is not what it could do.", share))
    return tuple(notes)


def _by_cycle(change: Change, was: Read, now: tuple[float | None, ...]) -> list[BeforeAfter]:
    """Capacity and power of the same compressor at what was measured, over what they were before."""
    before = _ran(change.old, (was.evaporating_k, was.condensing_k, was.superheat_k, was.subcooling_k), change)
    after = _ran(change.new, now, change)
    if before is None or after is None:
        return []
    whole = Amount(1.0, "fraction")
    return [
        BeforeAfter("capacity, by the cycle", whole, Amount(after.capacity_j_m3 / before.capacity_j_m3, "fraction")),
        BeforeAfter("power, by the cycle", whole, Amount(after.power_j_m3 / before.power_j_m3, "fraction")),
    ]


def _ran(name: str, at: tuple[float | None, ...], change: Change) -> Cycle | None:
    evaporating, condensing, superheat, subcooling = at
    if evaporating is None or condensing is None or superheat is None or subcooling is None:
        return None
    try:
        return cycle.run(name, Conditions(evaporating, condensing, superheat, subcooling, change.present.conditions.isentropic))
    except CoreError:
        return None


def _as_found_sheet(context: StepContext) -> object:
    record = context.job.steps.get("as_found")
    return record.runs[-1].sheet if record is not None and record.runs else None


def _temperature(entry: Entry | None) -> Amount | None:
    return None if entry is None else Amount(entry.value, "temperature")


def _amps(entry: Entry | None) -> Amount | None:
    return None if entry is None else Amount(entry.value, "current")


def _kelvin(value: float | None) -> Amount | None:
    return None if value is None else Amount(value, "temperature")


def _delta(value: float | None) -> Amount | None:
    return None if value is None else Amount(value, "temperature_delta")
