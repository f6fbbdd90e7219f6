"""Whether the whole charge, its lines counted, may serve the smallest room."""

from yoshi_core import refrigerants
from yoshi_core.charge import room_limits
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import value_of
from yoshi_core.message import sentence
from yoshi_core.refrigerants import Refrigerant
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.units.display import Amount

INDOORS = frozenset({"vrf", "ductless", "chiller"})
OUTSIDE = frozenset({"vehicle"})


def judge_rooms(plate: Plate, total_kg: float | None, notes: Notes, context: StepContext) -> None:
    """Flammable refrigerants against their ceiling; others, in kinds that stand in rooms, against what may be breathed."""
    name = plate.refrigerant
    if total_kg is None or name is None or not refrigerants.is_known(name) or plate.kind in OUTSIDE:
        return
    found = refrigerants.get(name)
    if found.is_flammable:
        _flammable(found, plate, total_kg, notes, context)
    elif plate.kind in INDOORS:
        _breathing(found, plate, total_kg, notes, context)


def _flammable(refrigerant: Refrigerant, plate: Plate, total_kg: float, notes: Notes, context: StepContext) -> None:
    free = room_limits.free_kg(refrigerant, context.profile)
    if free is None:
        return
    source = context.profile.source("room.free")
    total, limit = Amount(total_kg, "mass"), Amount(free, "mass")
    if total_kg <= free + 1e-9:
        notes.say("room.free", "Holds", "{value} flammable: up to {limit} any room will do.", source, value=total, limit=limit)
        return
    area, mounting = value_of(plate.room_area), plate.mounting
    notes.need(context.path("room_area"), "smallest room, floor", plate.room_area)
    notes.need(context.path("mounting"), "where the indoor unit hangs", mounting)
    if area is None or mounting is None:
        text = sentence("{value} with its lines are more than the {limit} that need no room of their own: the smallest room decides.")
        notes.say("room.free", "Wait", text, source, value=total, limit=limit)
        return
    most = room_limits.ceiling_kg(refrigerant, area, mounting)
    amounts = {
        "value": total,
        "limit": Amount(most, "mass"),
        "area": Amount(area, "floor_area"),
        "needs": Amount(room_limits.area_for_m2(refrigerant, total_kg, mounting), "floor_area"),
    }
    if total_kg > most + 1e-9:
        text = sentence(
            "{value} with its lines are more than the {limit} this room of {area} may have; it takes {needs}. It must not go in."
        )
        notes.tell("room.ceiling", "Stop", text, source, amounts, role="hard")
    else:
        notes.tell("room.ceiling", "Holds", "{value} stay under the {limit} that a room of {area} may have.", source, amounts)


def _breathing(refrigerant: Refrigerant, plate: Plate, total_kg: float, notes: Notes, context: StepContext) -> None:
    limit = room_limits.breathing_kg_m3(refrigerant, context.profile)
    if limit is None:
        return
    source = context.profile.source(f"room.{refrigerant.name}")
    volume = value_of(plate.room_volume)
    if plate.kind == "vrf":
        notes.need(context.path("room_volume"), "smallest room, volume", plate.room_volume)
    if volume is None:
        return
    amounts = {
        "value": Amount(total_kg / volume, "concentration"),
        "limit": Amount(limit, "concentration"),
        "needs": Amount(total_kg / limit, "room_volume"),
    }
    if total_kg / volume > limit * (1.0 + 1e-9):
        text = sentence(
            "All of it in the smallest room would be {value}, over the {limit} that may be breathed; it takes {needs}. It must not go in."
        )
        notes.tell("room.breathing", "Stop", text, source, amounts, role="hard")
    else:
        notes.tell("room.breathing", "Holds", "All of it in the smallest room would be {value}, under {limit}.", source, amounts)
