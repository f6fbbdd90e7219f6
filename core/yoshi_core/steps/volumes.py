"""The volume inside a circuit: from a measurement, else from its kind, its charge and its lines, with a band."""

from math import fsum

from yoshi_core.charge.tubing import inside_area_m2
from yoshi_core.charge.volume import Volume
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import Entry, value_of
from yoshi_core.errors import OutOfRange

LITRES_PER_KG = {
    "split": 2.6, "heat_pump": 2.8, "packaged": 2.6, "ductless": 2.2, "vrf": 2.4,
    "receiver": 2.4, "reach_in": 5.0, "vehicle": 5.5, "chiller": 3.0,
}  # fmt: skip


LOW_PRESSURE_LITRES_PER_KG = 8.0


UNKNOWN_LITRES_PER_KG = 2.6


GUESS_BAND, MEASURED_BAND = 1.6, 1.0


UNKNOWN_M3, UNKNOWN_BAND = 0.010, 3.0


def of(plate: Plate, entered: Entry | None, *, share: float = 1.0) -> Volume:
    """The entered volume, else an estimate by kind (litres a kilogram of charge, common practice, no source) plus the lines.

    `share` of the units' volume counts, from 0 to 1: less where one of them is shut off. Raises `OutOfRange` for an entered volume of nought or less.
    """
    if entered is not None and entered.value <= 0.0:
        raise OutOfRange("A volume must be above zero.", value=entered.value)
    if entered is not None:
        guessed = entered.source in {"assumed", "told"}
        return Volume(entered.value, GUESS_BAND if guessed else MEASURED_BAND, "entered, assumed" if guessed else "entered")
    charge = value_of(plate.factory_charge)
    lines = fsum(_line_m3(value_of(row.length), value_of(row.suction_od)) for row in plate.lines.values())
    if charge is None or charge <= 0.0:  # Identify refuses one of nought by name
        return Volume(share * UNKNOWN_M3 + lines, UNKNOWN_BAND, "guessed: the plate gives no charge")
    litres = LITRES_PER_KG.get(plate.kind or "", UNKNOWN_LITRES_PER_KG)
    if plate.kind == "chiller" and (value_of(plate.design_low) or 1e6) < 300e3:
        litres = LOW_PRESSURE_LITRES_PER_KG
    return Volume(share * charge * litres / 1e3 + lines, GUESS_BAND, "estimated by kind, charge and lines")


def _line_m3(length_m: float | None, od_m: float | None) -> float:
    if length_m is None or od_m is None:
        return 0.0
    try:
        return length_m * inside_area_m2(od_m)
    except OutOfRange:
        return 0.0
