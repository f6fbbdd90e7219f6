"""From a total to the scale: what to weigh, from which cylinder, to which reading."""

from collections.abc import Sequence
from math import ceil, fsum
from typing import Literal

from yoshi_core.charge.total import ChargeBuildUp
from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.units.display import Amount

ROUNDING_KG = 1e-9

Contents = Literal["new", "recovered"]


@dataclass(frozen=True)
class Source:
    """A cylinder or can: gross reading now, tare, what stays in the hose, and what stays in it, all in kg.

    An unknown heel counts as zero: drawing is not barred by an unknown water capacity. `given_kg` is what a source
    that is done gave. A can that was not weighed yet has its label's net weight as gross and a tare of nothing, and
    `weighed` false: it can be planned with, and has no mark.
    """

    id: str
    gross_kg: float
    tare_kg: float
    hose_loss_kg: float = 0.0
    heel_kg: float = 0.0
    given_kg: float | None = None
    contents: Contents = "new"
    weighed: bool = True

    @property
    def available_kg(self) -> float:
        """What can reach the system from this cylinder."""
        return max(0.0, self.gross_kg - self.tare_kg - self.heel_kg - self.hose_loss_kg)


@dataclass(frozen=True)
class Take:
    """What one source is to give: mass into the system, and the scale reading at which to shut the valve; `given_kg` once it gave."""

    source_id: str
    take_kg: float
    start_gross_kg: float
    slow_gross_kg: float
    stop_gross_kg: float
    given_kg: float | None = None
    weighed: bool = True

    @property
    def done(self) -> bool:
        """Whether it gave what it gives."""
        return self.given_kg is not None

    @property
    def counted_stop_kg(self) -> float:
        """The same stop on a scale zeroed at the start."""
        return self.stop_gross_kg - self.start_gross_kg

    @property
    def counted_slow_kg(self) -> float:
        """The slow-down on a scale zeroed at the start."""
        return self.slow_gross_kg - self.start_gross_kg


@dataclass(frozen=True)
class WeighInPlan:
    """`weigh_kg` may be negative: recover that much. `short_kg` is what the sources cannot give, also not those that were shut early; `more` sources like the last one would do."""

    weigh_kg: float
    takes: tuple[Take, ...]
    short_kg: float
    more: int = 0

    @property
    def now(self) -> Take | None:
        """The source that is drawn from next."""
        return next((take for take in self.takes if not take.done and take.take_kg > ROUNDING_KG), None)

    @property
    def shown(self) -> Take | None:
        """The source whose marks stand on the tape: the one drawn from next, else the last that was."""
        return self.now or next((take for take in reversed(self.takes) if take.done and take.take_kg > ROUNDING_KG), None)


def check_source(source: Source) -> None:
    """Raise `InvalidInput` for a cylinder lighter than its tare."""
    if source.gross_kg < source.tare_kg:
        raise InvalidInput(
            "The cylinder reads {gross}, less than its tare of {tare}. Check the tare stamped on it and that the scale was zeroed empty.",
            words={"gross": Amount(source.gross_kg, "mass"), "tare": Amount(source.tare_kg, "mass")},
            path="/gross_start",
            gross_kg=source.gross_kg,
            tare_kg=source.tare_kg,
        )


def in_order(sources: Sequence[Source], first: Contents) -> tuple[Source, ...]:
    """The sources as they are drawn from: those that are done, then by what they hold, otherwise as given."""
    return tuple(sorted(sources, key=lambda s: (s.given_kg is None, s.given_kg is None and s.contents != first)))


def plan(build_up: ChargeBuildUp, inside_kg: float, sources: Sequence[Source] = (), *, slow_share: float = 0.1) -> WeighInPlan:
    """Spread `total − inside` over the sources in order; what a source already gave counts as it was weighed.

    `stop = start − take − hose loss`, never below tare + heel. Raises `InvalidInput` for a cylinder
    lighter than its tare.
    """
    weigh = build_up.total_kg - inside_kg
    left = max(0.0, weigh)
    takes = []
    for source in sources:
        check_source(source)
        take = min(left, source.available_kg)
        stop = source.gross_kg - take - (source.hose_loss_kg if take > 0 else 0.0)
        takes.append(Take(source.id, take, source.gross_kg, stop + slow_share * take, stop, source.given_kg, source.weighed))
        left = max(0.0, left - (take if source.given_kg is None else source.given_kg))
    still = fsum(max(0.0, source.available_kg - source.given_kg) for source in sources if source.given_kg is not None)
    short = left - still if left - still > ROUNDING_KG else 0.0
    return WeighInPlan(weigh, tuple(takes), short, _more_like_the_last(short, sources))


def _more_like_the_last(short_kg: float, sources: Sequence[Source]) -> int:
    """How many more sources like the last one make up for what is short; none where that one gives nothing."""
    full = sources[-1].available_kg if sources else 0.0
    return ceil((short_kg - ROUNDING_KG) / full) if short_kg > 0.0 and full > ROUNDING_KG else 0
