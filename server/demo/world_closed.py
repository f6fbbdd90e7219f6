"""Demo jobs in the middle of their work: repaired, held, evacuated. Invented, like all of the demo world.

`Ago` is a moment so many minutes before the demo was loaded, so that waits are running when it is looked at.
"""

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any


@dataclass(frozen=True)
class Ago:
    """So many minutes before the demo is loaded."""

    minutes: float

    def at(self, now: datetime) -> str:
        return (now - timedelta(minutes=self.minutes)).isoformat()


PROVEN = (("identify", "pairing_proven", True), ("identify", "pairing_by", "switched"))
EMPTY = (("as_found", "running", "off"), ("as_found", "standing_pressure", "0 psig"), ("as_found", "standing_cold", "72 °F"))
BEFORE = (
    PROVEN,
    "identify",
    EMPTY,
    "as_found",
    ("leak_search", "the leak is seen with the eye"),
    ("recover", "recovered on an earlier visit"),
)
REPAIRED = (
    ("repair", "opened_for", "12 min"),
    ("repair", "joining", "brazed"),
    ("repair", "both_open", True),
    ("repair", "nitrogen_flow", True),
    ("repair", "fire_watch", True),
    ("repair", "drier", "new"),
    ("repair", "drier_way", True),
    ("repair", "drier_size", True),
    ("repair", "cores", True),
    ("repair", "bulb", "placed"),
)
FLARED = (
    ("repair", "opened_for", "9 min"),
    ("repair", "joining", "flared"),
    ("repair", "drier", "none_by_maker"),
    ("repair", "cores", True),
)
NEW_COIL = (
    ("repair", "opened_for", "25 min"),
    ("repair", "joining", "brazed"),
    ("repair", "both_open", True),
    ("repair", "parts/p1/label", "indoor coil"),
    ("repair", "parts/p1/kind", "coil"),
    ("repair", "parts/p1/failed_by", "corrosion"),
    ("repair", "parts/p1/pressurized", True),
    ("repair", "parts/p1/charge", "3 oz"),
    ("repair", "hidden/h1/label", "flare nuts behind the cover"),
)
NO_NITROGEN = (
    *(row for row in REPAIRED if row[1] not in {"nitrogen_flow", "opened_for"}),
    ("repair", "nitrogen_flow", False),
    ("repair", "opened_for", "40 min"),
)


def hold(pressure: str, filled: float, readings: tuple[tuple[float, float, float], ...], stamp: str, label: str) -> tuple[Any, ...]:
    """Readings as minutes after filling, psig, and °F of the metal."""
    rows: list[Any] = []
    for n, (minutes, psig, metal) in enumerate(readings, 1):
        rows += [
            ("pressure_hold", f"readings/r{n}/at", Ago(filled - minutes)),
            ("pressure_hold", f"readings/r{n}/pressure", f"{psig} psig"),
            ("pressure_hold", f"readings/r{n}/metal", f"{metal} °F"),
        ]
    return (
        ("pressure_hold", "gas", "nitrogen"),
        ("pressure_hold", "regulator", True),
        ("pressure_hold", "fed", "both"),
        ("pressure_hold", "stamps/s1/label", label),
        ("pressure_hold", "stamps/s1/pressure", stamp),
        ("pressure_hold", "test_pressure", pressure),
        ("pressure_hold", "metal_by", "clamp"),
        ("pressure_hold", "bubbles", True),
        ("pressure_hold", "volume", "9 L"),
        ("pressure_hold", "filled_at", Ago(filled)),
        *rows,
    )


HOLDING = hold(
    "250 psig",
    22,
    tuple((m, 249.8 - 0.05 * max(m - 8, 0) + (8 - min(m, 8)) * 0.4, 70.4 - 0.06 * m) for m in range(0, 22, 2)),
    "250 psig",
    "indoor coil",
)
LOST = hold(
    "350 psig",
    41,
    ((15, 350.0, 68.0), (20, 346.4, 68.0), (25, 342.9, 68.1), (30, 339.5, 68.1), (35, 336.0, 68.0)),
    "450 psig",
    "outdoor unit",
)
HELD = hold("250 psig", 190, ((15, 249.6, 69.0), (25, 249.5, 68.8), (50, 249.3, 68.5)), "250 psig", "plate, low side")
_PULL = (
    ("evacuate", "method", "single"),
    ("evacuate", "energized", True),
    ("evacuate", "cores_out", True),
    ("evacuate", "valves_open", True),
    ("evacuate", "oil_fresh", True),
    ("evacuate", "place", "far"),
)


def vacuum(begun: float, events: tuple[tuple[float, str], ...], readings: tuple[tuple[float, float], ...]) -> tuple[Any, ...]:
    """Events and microns by minutes after the pump was started, `begun` minutes ago."""
    rows: list[Any] = []
    for n, (minutes, what) in enumerate(events, 1):
        rows += [("evacuate", f"events/e{n}/do", what), ("evacuate", f"events/e{n}/at", Ago(begun - minutes))]
    for n, (minutes, micron) in enumerate(readings, 1):
        rows += [("evacuate", f"readings/r{n}/at", Ago(begun - minutes)), ("evacuate", f"readings/r{n}/vacuum", f"{micron:.0f} micron")]
    return (*_PULL, *rows)


_DOWN = ((2, 180_000.0), (6, 26_000.0), (11, 9_400.0), (17, 3_000.0), (25, 1_150.0), (34, 640.0), (40, 470.0), (47, 310.0))
_RISE = ((1.6, 398.0), (2.7, 438.0), (3.8, 472.0), (4.9, 488.0), (5.9, 527.0), (7.0, 519.0), (8.1, 566.0), (9.2, 556.0), (9.8, 595.0))
RISING = vacuum(
    57,
    ((0, "pump"), (0.2, "ballast_open"), (17, "ballast_shut"), (47, "isolated")),
    (*_DOWN, *((47 + m, micron) for m, micron in _RISE)),
)
STUCK = (
    *vacuum(80, ((0, "pump"),), ((2, 210_000.0), (6, 42_000.0), (12, 8_800.0), (20, 1_900.0), (35, 698.0), (50, 640.0), (78, 576.0))),
    ("evacuate", "wet", True),
)

JOBS: tuple[dict[str, Any], ...] = (
    {"circuit": "GH-1", "by": "pell", "kind": "service", "title": "Gatehouse ductless, new coil going in", "stages": (*BEFORE, NEW_COIL)},
    {"circuit": "CW-1", "by": "orrin", "kind": "service", "title": "Canteen walk-in, brazed dry", "stages": (*BEFORE, NO_NITROGEN)},
    {
        "circuit": "CR-1",
        "by": "orrin",
        "kind": "service",
        "title": "Control room, bend brazed",
        "stages": (*BEFORE, REPAIRED, "repair", HOLDING),
    },
    {
        "circuit": "GH-1",
        "by": "pell",
        "kind": "service",
        "title": "Gatehouse ductless, 14 psi lost",
        "stages": (*BEFORE, FLARED, "repair", LOST),
    },
    {
        "circuit": "DL-2",
        "by": "orrin",
        "kind": "service",
        "title": "Detector lab, circuit 2, after the compressor",
        "stages": (*BEFORE, REPAIRED, "repair", HELD, "pressure_hold", RISING),
    },
    {
        "circuit": "CW-1",
        "by": "vesk",
        "kind": "service",
        "title": "Canteen walk-in, will not reach 500",
        "stages": (*BEFORE, REPAIRED, "repair", HELD, "pressure_hold", STUCK),
    },
)

# Jobs that simulated instruments feed while the server runs; each began so many minutes before.
LIVE: tuple[dict[str, Any], ...] = (
    {
        "kit": "weigh-in",
        "back": 3.0,
        "circuit": "DL-2",
        "by": "orrin",
        "title": "Live: detector lab, weighing in",
        "stages": (
            PROVEN,
            "identify",
            (
                ("weigh_in", "system_state", "empty"),
                ("weigh_in", "scale_step", "0.5 oz"),
                ("weigh_in", "system_temperature", "76 °F"),
                ("weigh_in", "cylinder_temperature", "76 °F"),
                ("weigh_in", "draws/d1/cylinder", "spare"),
                ("weigh_in", "draws/d1/gross_start", "31 lb 6.5 oz"),
                ("weigh_in", "draws/d1/tare", "9 lb 0 oz"),
                ("weigh_in", "draws/d1/water_capacity", "26 lb"),
                ("weigh_in", "draws/d1/hose_loss", "0 oz"),
            ),
        ),
    },
    {
        "kit": "hold-tight",
        "back": 22.0,
        "circuit": "CR-1",
        "by": "orrin",
        "kind": "service",
        "title": "Live: control room under nitrogen",
        "stages": (*BEFORE, REPAIRED, "repair", hold("250 psig", 22, (), "250 psig", "indoor coil")),
    },
    {
        "kit": "moist",
        "back": 53.0,
        "circuit": "DL-1",
        "by": "orrin",
        "kind": "service",
        "title": "Live: detector lab under vacuum",
        "stages": (
            *BEFORE,
            REPAIRED,
            "repair",
            HELD,
            "pressure_hold",
            (*vacuum(53, ((0, "pump"), (47, "isolated")), ()), ("evacuate", "coldest", "72 °F")),
        ),
    },
    {
        "kit": "running",
        "back": 18.0,
        "circuit": "SQ-1",
        "by": "pell",
        "title": "Live: staff quarters running",
        "stages": (
            PROVEN,
            "identify",
            (
                ("weigh_in", "system_state", "empty"),
                ("weigh_in", "draws/d1/cylinder", "spare"),
                ("weigh_in", "draws/d1/gross_start", "24 lb 8 oz"),
                ("weigh_in", "draws/d1/tare", "8 lb 12 oz"),
                ("weigh_in", "draws/d1/gross_end", "18 lb 8 oz"),
            ),
            "weigh_in",
            (("verify", "mode", "cooling"), ("verify", "filter_ok", True), ("verify", "coils_ok", True), ("verify", "run_in", "18 min")),
        ),
    },
)
