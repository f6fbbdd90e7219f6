"""What somebody who stands at the bench sees and can touch: how everything is set, what the displays say, and nothing of what is inside."""

from collections.abc import Mapping

from yoshi_core.diagnosis.causes import CHECKS
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message
from yoshi_core.practice.bench import Bench
from yoshi_core.practice.shown import Shown


@dataclass(frozen=True)
class InTheVan:
    """A cylinder of the van: its number, refrigerant, whether it is for recovery, where it stands, and what is stamped on its collar, kg."""

    code: str
    refrigerant: str
    recovery: bool
    on_hose: bool
    in_water: bool
    tare_kg: float
    water_capacity_kg: float


@dataclass(frozen=True)
class Asked:
    """A question of the exercise, how it is answered, and the answer given last."""

    id: str
    title: Message
    quantity: str
    choices: Mapping[str, str]
    answer: str


@dataclass(frozen=True)
class Look:
    """Something that can be looked at: what, how it is done, and what was seen; empty where nobody looked."""

    id: str
    about: str
    text: str
    seen: str


@dataclass(frozen=True)
class Seen:
    """The bench from outside. Seconds of practice; masses kg; `flow_kg_s` through the hose, into the unit above nought.

    `for_s`: how long it runs, or stands. `hose` is liquid, vapour or empty for nothing passing. `nitrogen` and `pump`: what is on the circuit; `isolated`: the unit's own service valves.
    """

    time_s: float
    running: bool
    reason: str
    for_s: float
    trips: int
    valves: Mapping[str, str]
    switches: Mapping[str, str]
    hooked: str
    upside_down: bool
    recovering: bool
    pumping: bool
    nitrogen: bool
    emptied: bool
    isolated: Mapping[str, str]
    flow_kg_s: float
    hose: str
    drawn_kg: float
    van: tuple[InTheVan, ...]
    asks: tuple[Asked, ...]
    looks: tuple[Look, ...]
    shown: Shown
    heat_pump: bool


def seen(bench: Bench) -> Seen:
    """The bench as it stands now."""
    now, live = bench.now, bench.live
    since = live.started_s if now.running else max(live.stopped_s, 0.0)
    one = bench.cylinders.get(bench.hooked)
    passing = abs(now.hose_kg_s) > 1e-6
    liquid = one is not None and bench.upside_down and one.has_liquid and not bench.recovering
    return Seen(
        now.time_s,
        now.running,
        now.reason,
        max(now.time_s - since, 0.0),
        now.trips,
        dict(bench.valves),
        dict(bench.switches),
        bench.hooked,
        bench.upside_down,
        bench.recovering,
        bench.pumping,
        bench.empty is not None and bench.empty.nitrogen is not None,
        bench.empty is not None,
        {
            "liquid": "open" if bench.pumped is None else "shut",
            "suction": "open" if bench.pumped is None or bench.pumped.suction_open else "shut",
        },
        now.hose_kg_s,
        ("liquid" if liquid else "vapor") if passing else "",
        bench.drawn_kg,
        tuple(
            InTheVan(
                code,
                cylinder.refrigerant,
                code.startswith("R"),
                code == bench.hooked,
                cylinder.in_water,
                cylinder.tare_kg,
                cylinder.water_capacity_kg,
            )
            for code, cylinder in bench.cylinders.items()
        ),
        tuple(
            Asked(one.id, one.title, one.quantity, one.choices or {}, bench.answers[one.id].text if one.id in bench.answers else "")
            for one in bench.exercise.asks
        ),
        tuple(Look(check.id, check.about, check.text, check.results.get(bench.looked.get(check.id, ""), "")) for check in CHECKS.values()),
        bench.shown,
        bench.exercise.unit.heat_pump,
    )
