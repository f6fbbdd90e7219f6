"""One system as a comparison of refrigerants sees it: from its plate, at conditions usual for its kind or as given."""

from collections.abc import Mapping
from typing import Any

from yoshi_core import refrigerants
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import Entry, value_of
from yoshi_core.errors import InvalidInput
from yoshi_core.message import told
from yoshi_core.properties.cycle import Conditions
from yoshi_core.retrofit.candidates import Present
from yoshi_core.running.targets import judged_by
from yoshi_core.steps.plan_change.sheet import PlanChangeSheet
from yoshi_core.units.display import System
from yoshi_core.units.quantities import FAHRENHEIT_K, QUANTITIES, ZERO_FAHRENHEIT_K
from yoshi_core.units.text import Parsed, parse

USUAL = {"reach_in": (14.0, 105.0), "receiver": (20.0, 105.0), "chiller": (40.0, 100.0)}
COOLING = (42.0, 108.0)
ASKED = {
    "evaporating": ("temperature", "evaporating, mean"),
    "condensing": ("temperature", "condensing, mean"),
    "superheat": ("temperature_delta", "superheat at the compressor"),
    "subcooling": ("temperature_delta", "subcooling"),
    "efficiency": ("fraction", "compressor's efficiency"),
    "outdoor": ("temperature", "air on the worst day"),
    "duty": ("power", "duty it has to do"),
}


def usual(kind: str | None) -> dict[str, float]:
    """Conditions usual for a kind of system: means in K, differences in K, efficiency as a share. Common practice, no source."""
    evaporating, condensing = USUAL.get(kind or "", COOLING)
    return {
        "evaporating": evaporating * FAHRENHEIT_K + ZERO_FAHRENHEIT_K,
        "condensing": condensing * FAHRENHEIT_K + ZERO_FAHRENHEIT_K,
        "superheat": 18.0 * FAHRENHEIT_K,
        "subcooling": 9.0 * FAHRENHEIT_K,
        "efficiency": 0.68,
        "outdoor": 95.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K,
    }


def present_of(plate: Plate, full_kg: float | None, given: Mapping[str, float]) -> Present:
    """The system of a plate whose refrigerant is known; `given` has every condition of `usual`."""
    name = refrigerants.normalize(plate.refrigerant or "")
    own = refrigerants.get(name)
    return Present(
        name,
        Conditions(*(given[key] for key in ("evaporating", "condensing", "superheat", "subcooling", "efficiency"))),
        plate.metering or "txv",
        plate.oil,
        full_kg,
        value_of(plate.design_high),
        given["outdoor"],
        value_of(plate.altitude) or 0.0,
        plate.gauge_reference or "vented",
        own.safety_class if plate.listed and own.is_flammable else None,
        value_of(plate.room_area),
        value_of(plate.room_volume),
        plate.mounting,
    )


def by_weight(plate: Plate) -> bool:
    """Whether another refrigerant is weighed in whole and not trimmed: where weight is the only proof, and there is no glass to fill to."""
    return judged_by(plate.kind or "split", plate.metering or "txv", "cooling") == "weight" and plate.kind != "receiver"


def read(asked: Mapping[str, str], system: System = "us") -> dict[str, Parsed]:
    """Conditions as typed, by their id, a bare number in the person's own units; those left empty are left out. Raises `InvalidInput` naming the one that cannot be read."""
    found = {}
    for key, text in asked.items():
        if key not in ASKED:
            raise InvalidInput(
                "There is no assumption {key}. Use one of: {known}.", words={"key": f"{key!r}", "known": tuple(ASKED)}, path=f"/{key}"
            )
        quantity, label = ASKED[key]
        unit = QUANTITIES[quantity].si if system == "si" else QUANTITIES[quantity].us
        if text.strip():
            try:
                found[key] = parse(quantity, text, default_unit=unit)
            except InvalidInput as error:
                raise InvalidInput("{label}: {message}", words={"label": label, "message": told(error)}, path=f"/{key}") from None
    return found


def planned(refrigerant: str, asked: Mapping[str, str], system: System = "us") -> PlanChangeSheet:
    """The sheet a retrofit begins with: what was chosen in the comparison, at the conditions it was compared at.

    Raises `UnknownRefrigerant`, or `InvalidInput` naming the condition that cannot be read.
    """
    entries: dict[str, Any] = {
        key: Entry(item.value, item.canonical_text, item.unit, "assumed") for key, item in read(asked, system).items()
    }
    return PlanChangeSheet(refrigerant=refrigerants.get(refrigerant).name, **entries)
