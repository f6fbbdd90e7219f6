"""Scenarios: a unit, a nitrogen hold or a vacuum, and what happens to it when, in an open JSON format.

Figures are written as people write them ("6 lb", "95 °F", "300 psig", "12 min"). Every key is checked:
one that is not known, or a figure out of range, is an `InvalidInput` that names its place.
"""

import json
import pkgutil
from collections.abc import Iterator, Mapping
from itertools import pairwise
from typing import Any

from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.properties.atmosphere import site_pressure_pa
from yoshi_core.rig.cylinder import Cylinder
from yoshi_core.rig.design import design, fahrenheit
from yoshi_core.rig.instruments import MAKES, Instrument, Kit
from yoshi_core.rig.live import LiveUnit, Snapshot
from yoshi_core.rig.nitrogen import NitrogenHold
from yoshi_core.rig.scenario_reader import Reader, read_cylinder, read_faults, read_instruments, read_plate, read_weather
from yoshi_core.rig.vacuum import Pump, VacuumSystem

FORMAT, VERSION = "yoshi-rig-scenario", 1
SHIPPED = (
    "weigh-in-into-vacuum", "trim-three-additions", "undercharged-orifice", "undercharged-valve", "restricted-line",
    "dirty-condenser-trips", "short-cycling", "recovery", "cold-cylinder-stalls", "heating-winter",
    "nitrogen-tight-warming", "nitrogen-leak", "vacuum-tight", "vacuum-leak", "vacuum-moist", "vacuum-plugged-port",
)  # fmt: skip
LONGEST_S = 48 * 3600.0
MOST_ROWS = 20_000

Row = dict[str, float | str | bool | None]


@dataclass(frozen=True)
class Scenario:
    """A checked scenario; run it with `run`. `about` says what it shows."""

    name: str
    about: str
    kind: str
    plain: Mapping[str, Any]
    lasts_s: float
    every_s: float


def shipped(name: str) -> str:
    """The text of a scenario that comes with Yoshi. Raises `InvalidInput` with the names there are."""
    if name not in SHIPPED:
        raise InvalidInput("There is no scenario {name}. Shipped are: {known}.", words={"name": name, "known": tuple(SHIPPED)})
    return (pkgutil.get_data("yoshi_core.rig", f"scenarios/{name}.json") or b"").decode()


def loads(text: str) -> Scenario:
    """A scenario from its JSON text. Raises `InvalidInput` for what is none, naming the place."""
    try:
        plain = json.loads(text)
    except ValueError as error:
        raise InvalidInput("This is not JSON: {error}. It may have been cut off.", words={"error": error}) from None
    top = Reader(plain, "")
    if top.raw("format") != FORMAT:
        raise InvalidInput(
            "This is not a {format} file: its format says {said}.",
            words={"format": FORMAT, "said": f"{plain.get('format')!r}"},
            path="/format",
        )
    if top.raw("version") != VERSION:
        raise InvalidInput(
            "This scenario is of version {said}; this Yoshi reads version {version}.",
            words={"said": f"{plain.get('version')!r}", "version": VERSION},
            path="/version",
        )
    kind = top.choice("kind", ("unit", "nitrogen", "vacuum"), "unit")
    lasts, every = top.figure("lasts", "duration"), top.figure("every", "duration", 30.0)
    if not (0.0 < lasts <= LONGEST_S and 0.0 < every <= lasts and lasts / every <= MOST_ROWS):
        raise InvalidInput("A scenario lasts up to 48 h and gives up to 20,000 rows.", path="/lasts")
    scenario = Scenario(str(top.raw("name", "")), str(top.raw("about", "")), kind, plain, lasts, every)
    _start(scenario)  # building it checks every key; nothing runs yet
    return scenario


def run(scenario: Scenario) -> Iterator[Row]:
    """The scenario's rows, one every so often: what stands on the instruments, by names that carry the SI unit."""
    return _start(scenario)


def _start(scenario: Scenario) -> Iterator[Row]:
    return {"unit": _run_unit, "nitrogen": _run_nitrogen, "vacuum": _run_vacuum}[scenario.kind](scenario)


def _top(scenario: Scenario, *used: str) -> Reader:
    top = Reader(scenario.plain, "")
    top.seen |= {"format", "version", "name", "about", "kind", "lasts", "every", *used}
    top.done()
    return top


def _events(top: Reader) -> list[tuple[float, Reader]]:
    found = [(event.figure("at", "duration"), event) for event in top.parts("events")]
    return sorted(found, key=lambda item: item[0])


def _run_unit(scenario: Scenario) -> Iterator[Row]:
    top = _top(scenario, "unit", "weather", "faults", "inside", "cylinders", "instruments", "events", "seed")
    unit = design(read_plate(top.part("unit")))
    weather = read_weather(top.part("weather"))
    faults = read_faults(top.part("faults"))
    inside = top.raw("inside")
    charge = None if inside is None else top.figure("inside", "mass")
    cylinders = {
        name: read_cylinder(Reader(plain, f"/cylinders/{name}"), unit.refrigerant) for name, plain in top.part("cylinders").plain.items()
    }
    kit = Kit(int(top.number("seed", 1, 0, 1e6)), read_instruments(top.part("instruments")), site_pa=weather.site_pa)
    play = _Play(LiveUnit(unit, weather, faults, charge_kg=charge), cylinders)
    events = _events(top)
    for _, event in events:
        play.check(event)
    return _unit_rows(scenario, play, kit, events)


def _unit_rows(scenario: Scenario, play: "_Play", kit: Kit, events: list[tuple[float, Reader]]) -> Iterator[Row]:
    waiting, seconds = list(events), 0.0
    while seconds < scenario.lasts_s - 1e-9:
        while waiting and waiting[0][0] <= seconds + 1e-9:
            play.do(waiting.pop(0)[1])
        step = min(1.0, scenario.every_s, scenario.lasts_s - seconds)
        now = play.step(step)
        before, seconds = seconds, seconds + step
        if int(seconds / scenario.every_s + 1e-9) > int(before / scenario.every_s + 1e-9):
            shown = kit.read(now)
            yield {
                "time_s": round(seconds, 3),
                "state": "running" if now.running else now.reason,
                "suction_gauge_pa": shown["suction"],
                "suction_line_k": shown["suction_line"],
                "liquid_gauge_pa": shown["liquid"],
                "liquid_line_k": shown["liquid_line"],
                "return_air_k": shown["return_air"],
                "supply_air_k": shown["supply_air"],
                "scale_kg": shown["scale"],
                "power_w": now.power_w,
                "inside_kg": now.charge_kg,
                "hose_kg_s": now.hose_kg_s,
                "stalled": now.stalled,
                "settled": now.settled,
            }


class _Play:
    """What the events of a unit's scenario do."""

    def __init__(self, live: LiveUnit, cylinders: dict[str, Cylinder]) -> None:
        self.live, self.cylinders = live, cylinders
        self.stop_at_kg: float | None = None

    def check(self, event: Reader) -> None:
        """Read an event as `do` will, and change nothing."""
        what = event.choice("do", ("start", "stop", "charge", "recover", "close", "weather", "faults"), "")
        if what in ("charge", "recover"):
            self._cylinder(event)
            event.number("opening", 1.0, 0.0, 1.0)
        if what == "charge":
            event.choice("port", ("suction", "liquid"), "suction")
            event.choice("phase", ("liquid", "vapor"), "liquid")
            event.figure("added", "mass", 0.0)
        if what == "weather":
            read_weather(event.part("weather"))
        if what == "faults":
            read_faults(event.part("faults"))
        event.done()

    def _cylinder(self, event: Reader) -> Cylinder:
        name = event.raw("cylinder")
        if name not in self.cylinders:
            raise InvalidInput(
                "{place}/cylinder: there is no cylinder {name} in this scenario.",
                words={"place": event.path, "name": f"{name!r}"},
                path=f"{event.path}/cylinder",
            )
        return self.cylinders[name]

    def do(self, event: Reader) -> None:
        what = event.raw("do")
        self.stop_at_kg = None
        if what == "start":
            self.live.start()
        elif what == "stop":
            self.live.stop()
        elif what == "close":
            self.live.close()
        elif what == "weather":
            self.live.change(weather=read_weather(event.part("weather")))
        elif what == "faults":
            self.live.change(faults=read_faults(event.part("faults")))
        elif what == "recover":
            self.live.recover_into(self._cylinder(event), event.number("opening", 1.0, 0.0, 1.0))
        else:
            added = event.figure("added", "mass", 0.0)
            self.stop_at_kg = self.live.charge_kg + added if added else None
            self.live.charge_from(
                self._cylinder(event), event.raw("port", "suction"), event.raw("phase", "liquid"), event.number("opening", 1.0, 0.0, 1.0)
            )

    def step(self, seconds: float) -> Snapshot:
        """Let time pass; shut the hose when what was to be added is in."""
        now = self.live.step(seconds)
        if self.stop_at_kg is not None and now.charge_kg >= self.stop_at_kg - 1e-9:
            self.live.close()
            self.stop_at_kg = None
        return now


def _run_nitrogen(scenario: Scenario) -> Iterator[Row]:
    top = _top(scenario, "volume_l", "pressure", "metal", "leak_pa_m3_s", "altitude", "gas", "instruments", "seed")
    site = site_pressure_pa(top.figure("altitude", "altitude", 0.0))
    course = [(point.figure("at", "duration"), point.figure("temperature", "temperature")) for point in top.parts("metal")]
    if not course:
        raise InvalidInput("/metal needs at least one temperature of the metal.", path="/metal")
    gas = top.figure("gas", "temperature", 0.0)
    hold = NitrogenHold(
        top.number("volume_l", 8.0, 0.1, 50_000.0) / 1e3,
        top.figure("pressure", "gauge_pressure") + site,
        course[0][1],
        top.number("leak_pa_m3_s", 0.0, 0.0, 1e3),
        site,
        gas or None,
    )
    seed, wrong = int(top.number("seed", 1, 0, 1e6)), read_instruments(top.part("instruments"))
    gauge = Instrument(MAKES["gauge"], seed, wrong.get("suction"))
    clamp = Instrument(MAKES["clamp"], seed + 1, wrong.get("suction_line"))
    return _nitrogen_rows(scenario, hold, course, site, gauge, clamp)


def _nitrogen_rows(
    scenario: Scenario, hold: NitrogenHold, course: list[tuple[float, float]], site: float, gauge: Instrument, clamp: Instrument
) -> Iterator[Row]:
    while hold.time_s < scenario.lasts_s - 1e-9:
        hold.step(min(scenario.every_s, scenario.lasts_s - hold.time_s), _at(course, hold.time_s))
        yield {
            "time_s": round(hold.time_s, 3),
            "gauge_pa": gauge.read(hold.pressure_pa - site, hold.time_s),
            "metal_k": clamp.read(hold.metal_k, hold.time_s),
        }


def _at(course: list[tuple[float, float]], seconds: float) -> float:
    """The temperature between the points of a course."""
    for (from_s, from_k), (to_s, to_k) in pairwise(course):
        if from_s <= seconds <= to_s and to_s > from_s:
            return from_k + (to_k - from_k) * (seconds - from_s) / (to_s - from_s)
    return course[0][1] if seconds <= course[0][0] else course[-1][1]


def _run_vacuum(scenario: Scenario) -> Iterator[Row]:
    top = _top(
        scenario, "volume_l", "surface", "altitude", "leak_pa_m3_s", "water_g", "sorbed_g", "oil_refrigerant_g", "plugged",
        "bore", "hose", "pump", "events", "instruments", "seed",
    )  # fmt: skip
    site = site_pressure_pa(top.figure("altitude", "altitude", 0.0))
    pump = top.part("pump")
    system = VacuumSystem(
        top.number("volume_l", 10.0, 0.1, 50_000.0) / 1e3,
        top.figure("surface", "temperature", fahrenheit(72.0)),
        leak_pa_m3_s=top.number("leak_pa_m3_s", 0.0, 0.0, 1e3),
        water_kg=top.number("water_g", 0.0, 0.0, 1e5) / 1e3,
        sorbed_kg=top.number("sorbed_g", 0.05, 0.0, 1e4) / 1e3,
        oil_refrigerant_kg=top.number("oil_refrigerant_g", 0.0, 0.0, 1e4) / 1e3,
        plugged=bool(top.raw("plugged", False)),
        bore_m=top.figure("bore", "tube_od", 0.0095),
        hose_m=top.figure("hose", "length", 1.2),
        site_pa=site,
        pump=Pump(pump.number("speed_l_s", 2.4, 0.01, 1e3) / 1e3, wet_oil=bool(pump.raw("wet_oil", False))),
    )
    pump.done()
    events = _events(top)
    for _, event in events:
        event.choice("do", ("pump", "isolate", "ballast", "shut_ballast", "break"), "")
        event.figure("to", "gauge_pressure", 0.0)
        event.done()
    seed = int(top.number("seed", 1, 0, 1e6))
    gauge = Instrument(MAKES["micron"], seed, read_instruments(top.part("instruments")).get("micron"))
    return _vacuum_rows(scenario, system, events, gauge)


def _vacuum_rows(scenario: Scenario, system: VacuumSystem, events: list[tuple[float, Reader]], gauge: Instrument) -> Iterator[Row]:
    waiting, second = list(events), Instrument(MAKES["micron"], 977)
    while system.time_s < scenario.lasts_s - 1e-9:
        while waiting and waiting[0][0] <= system.time_s + 1e-9:
            event = waiting.pop(0)[1]
            what = event.raw("do")
            if what == "break":
                system.break_with_nitrogen(event.figure("to", "gauge_pressure", 0.0) + system.site_pa)
            elif what in ("pump", "isolate"):
                system.pumping = what == "pump"
            else:
                system.pump.ballast = what == "ballast"
        shown = system.step(min(scenario.every_s, scenario.lasts_s - system.time_s))
        yield {
            "time_s": round(system.time_s, 3),
            "state": "pumping" if system.pumping else "isolated",
            "micron_pa": gauge.read(shown, system.time_s),
            **({"second_micron_pa": second.read(system.pressure_pa, system.time_s)} if system.plugged else {}),
        }
