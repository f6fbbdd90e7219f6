"""Reading a scenario's figures as people write them, key by key, with the place of every mistake."""

from collections.abc import Mapping
from dataclasses import fields, replace
from typing import Any

from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.properties.atmosphere import site_pressure_pa
from yoshi_core.rig.cylinder import Cylinder
from yoshi_core.rig.design import TON_W, Plate, fahrenheit
from yoshi_core.rig.instruments import MAKES, Fault, Kit
from yoshi_core.rig.unit import Faults, Weather
from yoshi_core.units.text import parse


class Reader:
    """One object of a scenario, read key by key; `done` refuses what nobody asked for."""

    def __init__(self, plain: Any, path: str) -> None:
        if not isinstance(plain, Mapping):
            raise InvalidInput("{place} must be an object.", words={"place": path or "The scenario"}, path=path)
        self.plain, self.path, self.seen = plain, path, set[str]()

    def raw(self, key: str, default: Any = None) -> Any:
        """A value as it stands; the key counts as known."""
        self.seen.add(key)
        return self.plain.get(key, default)

    def figure(self, key: str, quantity: str, default: float | None = None, unit: str | None = None) -> float:
        """A quantity as people write it; the default where the key is missing, an error where there is none."""
        value = self.raw(key)
        if value is None:
            if default is None:
                raise InvalidInput("{place}/{key} is missing.", words={"place": self.path, "key": key}, path=f"{self.path}/{key}")
            return default
        try:
            return parse(quantity, str(value), default_unit=unit).value
        except CoreError as error:
            raise InvalidInput(
                "{place}/{key}: {message}", words={"place": self.path, "key": key, "message": error.message}, path=f"{self.path}/{key}"
            ) from None

    def number(self, key: str, default: float, low: float, high: float) -> float:
        """A plain number between two bounds. Raises `InvalidInput`."""
        value = self.raw(key, default)
        good = isinstance(value, int | float) and not isinstance(value, bool) and low <= value <= high
        if not good:
            raise InvalidInput(
                "{place}/{key} must be a number from {low} to {high}.",
                words={"place": self.path, "key": key, "low": f"{low:g}", "high": f"{high:g}"},
                path=f"{self.path}/{key}",
            )
        return float(value)

    def choice(self, key: str, options: tuple[str, ...], default: str) -> Any:
        """One of the named options. Raises `InvalidInput`."""
        value = self.raw(key, default)
        if value not in options:
            raise InvalidInput(
                "{place}/{key} must be one of {options}.",
                words={"place": self.path, "key": key, "options": tuple(options)},
                path=f"{self.path}/{key}",
            )
        return value

    def part(self, key: str) -> "Reader":
        """A reader of the object under a key."""
        return Reader(self.raw(key, {}), f"{self.path}/{key}")

    def parts(self, key: str) -> list["Reader"]:
        """A reader of each object in the list under a key. Raises `InvalidInput`."""
        value = self.raw(key, [])
        if not isinstance(value, list):
            raise InvalidInput("{place}/{key} must be a list.", words={"place": self.path, "key": key}, path=f"{self.path}/{key}")
        return [Reader(item, f"{self.path}/{key}/{n}") for n, item in enumerate(value)]

    def done(self) -> None:
        """Raise `InvalidInput` for a key nobody asked for."""
        unknown = sorted(set(self.plain) - self.seen)
        if unknown:
            known = ", ".join(sorted(self.seen))
            raise InvalidInput(
                "{place}/{unknown} is not known here; known are {known}.",
                words={"place": self.path, "unknown": unknown[0], "known": known},
                path=f"{self.path}/{unknown[0]}",
            )


def read_plate(part: Reader) -> Plate:
    """A unit's facts; everything has the default of a 3-ton R-410A split."""
    base = Plate()
    plate = replace(
        base,
        refrigerant=str(part.raw("refrigerant", base.refrigerant)),
        capacity_w=part.number("tons", base.capacity_w / TON_W, 0.05, 50.0) * TON_W,
        charge_kg=part.figure("charge", "mass", base.charge_kg),
        metering=part.choice("metering", ("orifice", "capillary", "txv"), base.metering),
        suction_dew_k=part.figure("suction_saturation", "temperature", base.suction_dew_k),
        condensing_k=part.figure("condensing", "temperature", base.condensing_k),
        superheat_k=part.figure("superheat", "temperature_delta", base.superheat_k),
        subcooling_k=part.figure("subcooling", "temperature_delta", base.subcooling_k),
        line_m=part.figure("line", "length", base.line_m),
        liquid_od_m=part.figure("liquid_od", "tube_od", base.liquid_od_m),
        suction_od_m=part.figure("suction_od", "tube_od", base.suction_od_m),
        accumulator_m3=part.number("accumulator_l", base.accumulator_m3 * 1e3, 0.0, 50.0) / 1e3,
        receiver_m3=part.number("receiver_l", base.receiver_m3 * 1e3, 0.0, 200.0) / 1e3,
        heat_pump=bool(part.raw("heat_pump", False)),
    )
    part.done()
    return plate


def read_weather(part: Reader) -> Weather:
    """Outdoor and return air; 95 °F outdoors and 80/67 °F indoors unless said."""
    base = Plate().weather
    wet = part.figure("outdoor_wet_bulb", "temperature", 0.0)
    weather = Weather(
        part.figure("outdoor", "temperature", base.outdoor_k),
        part.figure("indoor", "temperature", base.indoor_k),
        part.figure("indoor_wet_bulb", "temperature", base.indoor_wet_bulb_k),
        wet or None,
        site_pressure_pa(part.figure("altitude", "altitude", 0.0)),
        part.choice("mode", ("cooling", "heating"), "cooling"),
    )
    part.done()
    return weather


def read_faults(part: Reader) -> Faults:
    """Faults by their names with severities."""
    well = Faults()
    names = {item.name: item for item in fields(Faults)}
    changed: dict[str, Any] = {}
    for key in part.plain:
        if key not in names:
            raise InvalidInput(
                "{place}/{key} is no fault of the rig; it has {names}.",
                words={"place": part.path, "key": key, "names": tuple(names)},
                path=f"{part.path}/{key}",
            )
        value = part.plain[key]
        kept = getattr(well, key)
        if isinstance(kept, float) and isinstance(value, int | float) and not isinstance(value, bool):
            changed[key] = float(value)
        elif isinstance(value, type(kept)):
            changed[key] = value
        else:
            raise InvalidInput(
                "{place}/{key} must be a {name}.",
                words={"place": part.path, "key": key, "name": type(kept).__name__},
                path=f"{part.path}/{key}",
            )
    return replace(well, **changed)


def read_cylinder(part: Reader, refrigerant: str) -> Cylinder:
    """A cylinder; it holds the unit's refrigerant unless it says another."""
    warm = part.figure("temperature", "temperature", fahrenheit(75.0))
    tare = part.figure("tare", "mass")
    made = Cylinder(
        str(part.raw("refrigerant", refrigerant)),
        part.figure("gross", "mass") - tare,
        tare,
        part.figure("water_capacity", "mass"),
        warm,
        part.figure("ambient", "temperature", warm),
        bool(part.raw("in_water", False)),
    )
    part.done()
    return made


def read_instruments(part: Reader) -> dict[str, Fault]:
    """What is wrong with which instrument."""
    found = {}
    for name in part.plain:
        kind = dict(zip(Kit.NAMES, Kit.KINDS, strict=True)).get(name, "micron")
        quantity = {"gauge_pressure": "gauge_pressure_delta", "temperature": "temperature_delta"}.get(
            MAKES[kind].quantity, MAKES[kind].quantity
        )
        one = part.part(name)
        found[name] = Fault(
            one.figure("zero_error", quantity, 0.0), one.figure("drift_per_hour", quantity, 0.0), one.number("drop_share", 0.0, 0.0, 1.0)
        )
        one.done()
    return found
