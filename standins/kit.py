"""A kit of simulated instruments: which scenario of the rig feeds it, what it posts, and what is wrong with its posting."""

import json
import random
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from math import pi, sin
from pathlib import Path
from typing import Any

from yoshi_core.errors import InvalidInput
from yoshi_core.instruments.channels import CHANNELS
from yoshi_core.rig import scenario as scenarios
from yoshi_core.units.quantities import QUANTITIES
from yoshi_core.units.text import parse

KITS = Path(__file__).parent / "kits"
COLUMNS = {
    "gauge_pa": ("liquid_pressure", "high-side gauge"),
    "metal_k": ("metal", "clamp on the metal"),
    "micron_pa": ("vacuum", "micron gauge"),
    "suction_gauge_pa": ("suction_pressure", "low-side gauge"),
    "liquid_gauge_pa": ("liquid_pressure", "high-side gauge"),
    "suction_line_k": ("suction_line", "suction clamp"),
    "liquid_line_k": ("liquid_line", "liquid clamp"),
    "return_air_k": ("return_air", "air probe in"),
    "supply_air_k": ("supply", "air probe out"),
    "scale_kg": ("scale", "scale 1"),
    "second_micron_pa": ("second_vacuum", "micron gauge at the other port"),
    "outdoor_k": ("outdoor", "weather station"),
    "wet_bulb_k": ("return_wet_bulb", "psychrometer"),
}
FIRST_SHARE = 0.4
SWAY_K, SWAY_S = 0.3, 1800.0
KEYS = {"name", "scenario", "drop_share", "repeat_share", "clock_off_s", "garbage_share", "dies_after_s", "calibrated_on", "channels"}


@dataclass(frozen=True)
class Wrong:
    """What is wrong with the posting: posts that get lost and come later, come twice, hold garbage, a clock that is off, a battery."""

    drop_share: float = 0.0
    repeat_share: float = 0.0
    garbage_share: float = 0.0
    clock_off_s: float = 0.0
    dies_after_s: float | None = None


@dataclass(frozen=True)
class Kit:
    """A kit as its file describes it."""

    name: str
    scenario: scenarios.Scenario
    wrong: Wrong = field(default_factory=Wrong)
    calibrated_on: str = ""
    channels: Mapping[str, str] = field(default_factory=dict)

    def describe(self) -> list[dict[str, Any]]:
        """The instruments, as they are told when the gateway is paired."""
        first = next(self._rows())
        day = {"calibrated_on": self.calibrated_on} if self.calibrated_on else {}
        return [
            {"key": column, "name": label, "channel": self._channel(column), "unit": _unit(self._channel(column)), **day}
            for column, (_, label) in COLUMNS.items()
            if column in first
        ]

    def _channel(self, column: str) -> str:
        return self.channels.get(column, COLUMNS[column][0])

    def _rows(self) -> Iterator[dict[str, Any]]:
        """The rig's rows, with the weather station and the psychrometer beside a running unit."""
        air = {}
        if self.scenario.kind == "unit":
            weather = self.scenario.plain.get("weather", {})
            for column, name, otherwise in (("outdoor_k", "outdoor", "95 °F"), ("wet_bulb_k", "indoor_wet_bulb", "67 °F")):
                air[column] = parse("temperature", str(weather.get(name, otherwise))).value
        for row in scenarios.run(self.scenario):
            sway = SWAY_K * sin(2.0 * pi * float(str(row["time_s"])) / SWAY_S)
            yield {**row, **{column: kelvin + sway for column, kelvin in air.items()}}

    def _battery(self, second: float) -> dict[str, float]:
        """What is left in a battery that dies, as a share of full."""
        dies = self.wrong.dies_after_s
        return {} if dies is None else {"battery": round(max(1.0 - second / dies, 0.0) * FIRST_SHARE, 3)}

    def readings(self, begins: datetime) -> Iterator[tuple[datetime, list[dict[str, Any]]]]:
        """Every moment of the scenario with the readings of that moment, in the units they are posted in."""
        for row in self._rows():
            second = float(str(row["time_s"]))
            if self.wrong.dies_after_s is not None and second > self.wrong.dies_after_s:
                return
            at = begins + timedelta(seconds=second)
            stamp = (at + timedelta(seconds=self.wrong.clock_off_s)).isoformat()
            yield (
                at,
                [
                    _reading(column, self._channel(column), value, stamp) | self._battery(second)
                    for column, value in row.items()
                    if column in COLUMNS and isinstance(value, float)
                ],
            )


def _unit(channel: str) -> str:
    return QUANTITIES[CHANNELS[channel].quantity].shown("us").symbol


def _reading(column: str, channel: str, value: float, stamp: str) -> dict[str, Any]:
    unit = QUANTITIES[CHANNELS[channel].quantity].shown("us")
    return {"instrument": column, "value": round((value - unit.offset) / unit.factor, 6), "unit": unit.symbol, "at": stamp}


def load(name_or_path: str) -> Kit:
    """A shipped kit by its name, or one from a file. Raises `InvalidInput` for what is none."""
    path = Path(name_or_path) if name_or_path.endswith(".json") else KITS / f"{name_or_path}.json"
    if not path.exists():
        raise InvalidInput(f"There is no kit {name_or_path}. Shipped are: {', '.join(shipped())}.")
    try:
        plain: Mapping[str, Any] = json.loads(path.read_text())
    except ValueError as error:
        raise InvalidInput(f"{path.name} is not JSON: {error}.") from None
    unknown = set(plain) - KEYS
    if unknown or "scenario" not in plain:
        raise InvalidInput(f"{path.name}: {f'there is no {unknown.pop()!r} in a kit' if unknown else 'a kit names its scenario'}.")
    told = plain["scenario"]
    text = scenarios.shipped(told) if isinstance(told, str) else json.dumps(told)
    shares = {name: float(plain.get(name, 0.0)) for name in ("drop_share", "repeat_share", "garbage_share", "clock_off_s")}
    dies = plain.get("dies_after_s")
    return Kit(
        str(plain.get("name", path.stem)),
        scenarios.loads(text),
        Wrong(**shares, dies_after_s=None if dies is None else float(dies)),
        str(plain.get("calibrated_on", "")),
        dict(plain.get("channels", {})),
    )


def shipped() -> list[str]:
    """Names of the kits that come with Yoshi."""
    return sorted(path.stem for path in KITS.glob("*.json"))


@dataclass
class Spoiler:
    """Spoils batches as `Wrong` says: which are lost for now, which go twice, what garbage is in them."""

    wrong: Wrong
    seed: int = 1

    def __post_init__(self) -> None:
        self._dice = random.Random(self.seed)
        self._held: list[dict[str, Any]] = []

    def batches(self, rows: list[dict[str, Any]]) -> list[list[dict[str, Any]]]:
        """The batches to post now for these readings; what is held back goes with a later one."""
        rows = [*self._held, *rows]
        if self._dice.random() < self.wrong.drop_share:
            self._held = rows
            return []
        self._held = []
        if rows and self._dice.random() < self.wrong.garbage_share:
            rows = [*rows, {"instrument": "?", "value": "NaN", "unit": "furlongs", "at": "soon"}]
        return [rows, rows] if self._dice.random() < self.wrong.repeat_share else [rows]
