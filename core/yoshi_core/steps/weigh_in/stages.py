"""How the charge goes in, in order: liquid into the vacuum as far as it runs, the rest with the unit running, slowly to the mark."""

from yoshi_core import refrigerants
from yoshi_core.charge import stall
from yoshi_core.charge.stall import Stall
from yoshi_core.charge.weigh_in import ROUNDING_KG, WeighInPlan
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import PlanRow
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, joined, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties import saturation, vapor
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA, site_pressure_pa
from yoshi_core.steps import volumes
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.pressure_hold.plan import low_pressure
from yoshi_core.steps.weigh_in.sheet import WeighInSheet
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K

ROOM_K = 294.26
COLD_K = 60.0 * FAHRENHEIT_K + 255.372
LIQUID_IN = Message("Liquid into the vacuum on the liquid side, unit off.")
WARM_TO = Message("Stand the cylinder in warm water, never above 125 °F (52 °C), never a flame.")


@dataclass(frozen=True)
class Stages:
    """The order of work, what to know about it, and where liquid is expected to stop by itself: drawn only where both temperatures were entered."""

    rows: tuple[PlanRow, ...] = ()
    notes: tuple[Message, ...] = ()
    stall: Stall | None = None


def stages_of(sheet: WeighInSheet, plan: WeighInPlan | None, plate: Plate, notes: Notes, context: StepContext) -> Stages:
    """The stages for this kind of system and what is in it now."""
    if plan is None or plan.weigh_kg <= ROUNDING_KG or not (plate.refrigerant and refrigerants.is_known(plate.refrigerant)):
        return Stages()
    if low_pressure(plate):
        return _low_pressure(sheet, plate, notes, context)
    if by_process_tube(plate):
        return Stages(_numbered([_running(plate, context), _last()]))
    if sheet.system_state == "empty":
        return _into_vacuum(sheet, plan, plate, notes, context)
    rows = _numbered([*_release(sheet, context), _running(plate, context), _last()])
    return Stages(rows)


def by_process_tube(plate: Plate) -> bool:
    """Whether all of the charge is weighed into a process tube."""
    return plate.kind == "reach_in" or plate.metering == "capillary"


def _numbered(texts: list[Message]) -> tuple[PlanRow, ...]:
    return tuple(PlanRow(f"stage{n}", text, "later") for n, text in enumerate(texts, 1))


def _release(sheet: WeighInSheet, context: StepContext) -> list[Message]:
    if sheet.system_state != "precharged":
        return []
    first = (
        sentence("With the vacuum proven, open the liquid valve slowly; once it is quiet, the suction valve.")
        if context.profile.choice("weigh_in.precharged") == "liquid"
        else sentence("With the vacuum proven, open the suction valve slowly; once it is quiet, the liquid valve.")
    )
    return [Message(first)]


def _running(plate: Plate, context: StepContext) -> Message:
    """How the rest goes in with the unit running."""
    name = plate.refrigerant or ""
    if by_process_tube(plate):
        return Message("All of it by weight, into the process tube; what is left in the hose counts.")
    if plate.kind == "vehicle":
        return Message("Engine running, windows open, vents centred, rear on: the rest as vapour into the low side, cans upright.")
    blend = refrigerants.get(name).is_blend
    as_liquid = blend and context.profile.choice("blend.state") == "liquid"
    if as_liquid:
        return Message("Unit running: the rest as liquid, throttled into the suction side so that it flashes, in small steps.")
    return Message("Unit running: the rest as vapour into the suction side, in small steps.")


def _last() -> Message:
    return Message("Slow down at the mark for it, and close at the last one; what runs on after the valve is shut comes on top.")


def _into_vacuum(sheet: WeighInSheet, plan: WeighInPlan, plate: Plate, notes: Notes, context: StepContext) -> Stages:
    volume = volumes.of(plate, sheet.volume)
    system_k, cylinder_k = value_of(sheet.system_temperature) or ROOM_K, value_of(sheet.cylinder_temperature) or ROOM_K
    assumed = sheet.system_temperature is None or sheet.cylinder_temperature is None
    try:
        found = stall.estimate(plate.refrigerant or "", volume, system_k, cylinder_k)
    except CoreError as error:
        notes.refuse(context.path("cylinder_temperature"), error.code, told(error))
        return Stages()
    begin = Message("Engine off: what the vacuum draws in, cans upright.") if plate.kind == "vehicle" else LIQUID_IN
    if found is None:
        return Stages(_numbered([joined(begin, Message("The system is colder than the cylinder: it keeps running.")), _last()]))
    if found.low_kg >= plan.weigh_kg:
        return Stages(_numbered([joined(begin, Message("All of it fits.")), _last()]), stall=found)
    amounts = {"low": Amount(found.low_kg, "mass"), "high": Amount(found.high_kg, "mass"), "about": Amount(found.kg, "mass")}
    first = joined(begin, Message("It stops by itself near {about}, from {low} to {high}.", amounts))
    said = []
    if assumed:
        said.append(Message("This is for a system and a cylinder at 70 °F. Type their own temperatures, and the range is right for today."))
    if cylinder_k < COLD_K:
        said.append(joined(Message("A cold day: the cylinder has little pressure and it stops early."), WARM_TO))
    else:
        said.append(joined(Message("A warmer cylinder takes it further."), WARM_TO))
    return Stages(_numbered([first, _running(plate, context), _last()]), tuple(said), None if assumed else found)


def _low_pressure(sheet: WeighInSheet, plate: Plate, notes: Notes, context: StepContext) -> Stages:
    """A vessel with water in its tubes: vapour until its saturation is safely above freezing."""
    name, profile = plate.refrigerant or "", context.profile
    safe_k = profile.value("weigh_in.safe")
    pressure = saturation.dew_pressure_pa(name, safe_k)
    notes.need(context.path("water_safe"), "water flows, or the tubes are drained", sheet.water_safe)
    if sheet.water_safe is False:
        text = sentence(
            "No refrigerant goes into this vessel while water stands in its tubes: let it flow, or drain them. They freeze and split."
        )
        notes.say("weigh_in.freeze", "Stop", text, TRADE, role="hard")
    amounts = {
        "safe": Amount(safe_k, "temperature"),
        "absolute": Amount(pressure, "gauge_pressure_delta"),
        "micron": Amount(pressure, "micron"),
        "gauge": Amount(SEA_LEVEL_PA - pressure, "vacuum"),
        "here": Amount(max(site_pressure_pa(value_of(plate.altitude) or 0.0) - pressure, 0.0), "vacuum"),
    }
    volume = volumes.of(plate, sheet.volume)
    system_k = max(value_of(sheet.system_temperature) or ROOM_K, safe_k)
    amounts["vapour"] = Amount(volume.m3 * vapor.density_kg_m3(name, pressure, system_k), "mass")
    if profile.choice("weigh_in.low_pressure") == "liquid":
        texts = [Message("Liquid, drawn in by the vacuum, only with the tubes drained or the water proven flowing.")]
    else:
        texts = [
            Message(
                "Vapour only, water flowing, until it stands at {gauge} on a sea-level gauge, {here} on a vented one here: {micron}, {absolute} absolute, {safe} saturation. That is about {vapour}.",
                amounts,
            ),
            Message("Then liquid, at the bottom of the evaporator."),
        ]
    return Stages(_numbered([*texts, _last()]))
