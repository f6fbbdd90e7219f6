"""Channels of instruments: what may come over them, in SI, and whether a value is steady."""

from collections.abc import Sequence
from datetime import datetime
from math import fsum, isfinite, sqrt
from typing import Literal

from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.tight_and_dry.trace import Row
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import QUANTITIES
from yoshi_core.units.text import parse_number

AHEAD_S = 120.0


OLDEST_S = 14 * 86_400.0


STEADY_S = 30.0


LEAST_READINGS = 5


@dataclass(frozen=True)
class Channel:
    """What an instrument measures: words for it, its quantity, the range outside which it is not believed (SI), and its usual make.

    `resolution` and `limit` are taken where the instrument does not say its own; `relative` is a limit as a share of the reading.
    """

    id: str
    label: str
    quantity: str
    low: float
    high: float
    resolution: float
    limit: float
    relative: float = 0.0


_PRESSURE = ("gauge_pressure", -101_325.0, 2e7, 690.0, 6_900.0)


_LINE = ("temperature", 203.15, 473.15, 0.06, 0.56)


_AIR = ("temperature", 203.15, 343.15, 0.06, 0.5)


CHANNELS: dict[str, Channel] = {
    channel.id: channel
    for channel in (
        Channel("suction_pressure", "suction", *_PRESSURE),
        Channel("liquid_pressure", "liquid", *_PRESSURE),
        Channel("suction_line", "suction line", *_LINE),
        Channel("liquid_line", "liquid line", *_LINE),
        Channel("metal", "metal", *_LINE),
        Channel("vacuum", "vacuum", "micron", 0.0, 110_000.0, 0.133322, 0.666, 0.02),
        Channel("second_vacuum", "other vacuum", "micron", 0.0, 110_000.0, 0.133322, 0.666, 0.02),
        Channel("scale", "scale", "mass", -5.0, 5_000.0, 0.005, 0.0142),
        Channel("return_air", "return air", *_AIR),
        Channel("return_wet_bulb", "wet bulb", *_AIR),
        Channel("supply", "supply air", *_AIR),
        Channel("outdoor", "outdoor", *_AIR),
        Channel("recovery_pressure", "recovery inlet", *_PRESSURE),
    )
}


def channel(name: str) -> Channel:
    """The channel of a name. Raises `InvalidInput` naming those there are."""
    found = CHANNELS.get(name)
    if found is None:
        raise InvalidInput("There is no channel {name}. Use one of: {known}.", words={"name": f"{name!r}", "known": tuple(CHANNELS)})
    return found


SI_UNITS = {"gauge_pressure": "Pa", "temperature": "K", "micron": "Pa", "mass": "kg"}


def si_unit(facts: Channel) -> str:
    """The unit a channel's SI value is written in, readable again by `read`."""
    return SI_UNITS[facts.quantity]


def read(name: str, value: object, unit: str) -> float:
    """A posted value in SI. Raises `InvalidInput` for what is no number or a wrong unit, `OutOfRange` for what cannot be."""
    facts = channel(name)
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not isfinite(value):
        raise InvalidInput("{label}: {value} is no number.", words={"label": facts.label, "value": f"{str(value)[:40]!r}"})
    try:
        found = float(value) if unit == si_unit(facts) else parse_number(float(value), facts.quantity, unit)
    except InvalidInput:
        units = tuple(u.symbol for u in QUANTITIES[facts.quantity].units)
        raise InvalidInput(
            "{label}: {unit} is not a unit of it. Use {units:or}.", words={"label": facts.label, "unit": f"{unit[:20]!r}", "units": units}
        ) from None
    if not facts.low <= found <= facts.high:
        low, high = Amount(facts.low, facts.quantity), Amount(facts.high, facts.quantity)
        raise OutOfRange(
            "{label}: {found} is outside {low} to {high}. Check the unit it posts in.",
            words={"label": facts.label, "found": Amount(found, facts.quantity), "low": low, "high": high},
            value=found,
            low=facts.low,
            high=facts.high,
        )
    return found


def check_moment(at: datetime, now: datetime) -> None:
    """Raise `InvalidInput` for a moment ahead of the clock, or older than a log is kept."""
    ahead = (at - now).total_seconds()
    if ahead > AHEAD_S:
        raise InvalidInput(
            "This reading is {ahead} ahead of the clock: set the instrument's clock, or send your own time along.",
            words={"ahead": Amount(ahead, "duration")},
        )
    if ahead < -OLDEST_S:
        raise InvalidInput("This reading is older than two weeks; import it as a log.")


Steadiness = Literal["steady", "rising", "falling", "new"]


def steadiness(recent: Sequence[Row], limit: float) -> Steadiness:
    """Whether the last half minute of a channel stands still, within its own scatter and a third of its limit.

    `recent` are `(second, SI value)` in order. `new` while there are too few to say.
    """
    if not recent:
        return "new"
    last = recent[-1][0]
    rows = [row for row in recent if last - row[0] <= STEADY_S]
    if len(rows) < LEAST_READINGS or rows[-1][0] - rows[0][0] < STEADY_S / 2.0:
        return "new"
    middle = fsum(s for s, _ in rows) / len(rows)
    mean = fsum(v for _, v in rows) / len(rows)
    spread = fsum((s - middle) ** 2 for s, _ in rows)
    slope = fsum((s - middle) * (v - mean) for s, v in rows) / spread
    scatter = sqrt(fsum((v - mean - slope * (s - middle)) ** 2 for s, v in rows) / max(len(rows) - 2, 1))
    moved = slope * (rows[-1][0] - rows[0][0])
    if abs(moved) <= max(limit / 3.0, 2.0 * scatter):
        return "steady"
    return "rising" if moved > 0.0 else "falling"
