"""Where to look next for a leak: chance per minute, what a negative is worth, and whether a find explains the loss."""

from collections.abc import Mapping, Sequence
from dataclasses import field
from math import fsum, prod
from typing import Literal

from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.leaks.places import Place
from yoshi_core.leaks.rate import LeakBand

Contents = Literal["refrigerant", "little", "empty", "nitrogen"]
State = Literal["hit", "doubted", "clean", "open", "closed"]
Explains = Literal["explains", "too_small", "cannot_tell"]
SMALL_KG_YEAR = 0.1
FALSE_HIT, FALSE_SURE_HIT = 0.08, 0.02
SURE = frozenset({"bubbles", "tracer", "isolation"})  # what grows, or is smelled, at one spot under pressure: one of these decides


@dataclass(frozen=True)
class Method:
    """A way to look: minutes at a place beyond reaching it, and the chance to show a leak by what is inside.

    `small` is what is left of that chance for a leak under about 3 oz a year. `alarms` are its known false alarms.
    Common practice, no source.
    """

    id: str
    label: str
    minutes: float
    sees: Mapping[str, float]
    small: float
    alarms: str


METHODS: dict[str, Method] = {
    method.id: method
    for method in (
        Method(
            "eyes",
            "eyes, for oil",
            1.0,
            {"refrigerant": 0.4, "little": 0.4, "empty": 0.4, "nitrogen": 0.4},
            0.6,
            "old oil from an earlier repair",
        ),
        Method(
            "electronic",
            "electronic",
            2.0,
            {"refrigerant": 0.85, "little": 0.6, "empty": 0.0, "nitrogen": 0.0},
            0.9,
            "adhesives, insulation, cleaning agents, an airstream that carries it away",
        ),
        Method(
            "bubbles",
            "bubbles",
            3.0,
            {"refrigerant": 0.75, "little": 0.5, "empty": 0.0, "nitrogen": 0.85},
            0.6,
            "dripping water, foam that fizzes by itself",
        ),
        Method(
            "ultrasonic",
            "ultrasonic",
            2.0,
            {"refrigerant": 0.45, "little": 0.2, "empty": 0.0, "nitrogen": 0.55},
            0.4,
            "drafts, bearings, a neighbour's air line",
        ),
        Method(
            "tracer",
            "tracer gas",
            3.0,
            {"refrigerant": 0.0, "little": 0.0, "empty": 0.0, "nitrogen": 0.9},
            0.95,
            "tracer left from the filling",
        ),
        Method(
            "isolation",
            "shut off alone",
            25.0,
            {"refrigerant": 0.9, "little": 0.7, "empty": 0.0, "nitrogen": 0.95},
            0.9,
            "a valve that does not seal",
        ),
    )
}


@dataclass(frozen=True)
class Tried:
    """What was done at a place: result by method, whether it can be reached, minutes to open it where given."""

    results: Mapping[str, str] = field(default_factory=dict)
    reachable: bool | None = None
    access_min: float | None = None


@dataclass(frozen=True)
class Ranked:
    """A place as it stands: `share` that it leaks here; the best method still to try with its chance to show, and minutes."""

    place: Place
    state: State
    share: float
    method: Method | None
    chance: float
    minutes: float

    @property
    def per_minute(self) -> float:
        """Chance to find it here for each minute spent."""
        return self.chance / self.minutes if self.minutes > 0.0 else 0.0


def sees(method: Method, contents: Contents, loss_kg_year: float | None) -> float:
    """Chance that a method shows a leak here, with this inside; smaller for a leak known to be small."""
    chance = method.sees[contents]
    return chance * method.small if loss_kg_year is not None and loss_kg_year < SMALL_KG_YEAR else chance


def search(
    places: Sequence[Place],
    tried: Mapping[str, Tried],
    contents: Contents,
    loss_kg_year: float | None = None,
    *,
    least: float = 0.1,
    tracer: bool = False,
    another: bool = False,
) -> tuple[Ranked, ...]:
    """Every place with its share, best to look at next first; places not reached, called clean or hit after those.

    A negative lowers a place by what the method would have shown, never under `least`: it does not clear it.
    `another`: what was found does not explain the loss, so a second leak is somewhere else.
    Raises `InvalidInput` for an unknown place or method.
    """
    known = {place.id for place in places}
    for place_id, done in tried.items():
        if place_id not in known:
            raise InvalidInput("There is no place {place_id} on this map.", words={"place_id": place_id}, path=f"/places/{place_id}")
        for method_id in done.results:
            if method_id not in METHODS:
                raise InvalidInput(
                    "There is no method {method_id}.", words={"method_id": method_id}, path=f"/places/{place_id}/{method_id}"
                )
    weights = {p.id: p.prior * _seen(tried.get(p.id, Tried()), contents, loss_kg_year, least) for p in places}
    if another:
        weights = {place_id: 0.0 if state_of(tried.get(place_id, Tried())) == "hit" else w for place_id, w in weights.items()}
    whole = fsum(weights.values()) or 1.0
    rows = [_ranked(p, tried.get(p.id, Tried()), weights[p.id] / whole, contents, loss_kg_year, tracer) for p in places]
    order: dict[State, int] = {"doubted": 0, "open": 0, "clean": 2, "closed": 1, "hit": 3}
    return tuple(sorted(rows, key=lambda row: (order[row.state], -row.per_minute, row.place.id)))


def _seen(done: Tried, contents: Contents, loss: float | None, least: float) -> float:
    hits = [m for m, result in done.results.items() if result == "hit"]
    missed = [1.0 - sees(METHODS[m], contents, loss) for m, result in done.results.items() if result == "clean"]
    return max(prod(missed), least if missed else 1.0) * prod(
        max(sees(METHODS[m], contents, loss), 0.3) / (FALSE_SURE_HIT if m in SURE else FALSE_HIT) for m in hits
    )


def state_of(done: Tried) -> State:
    """Hit when two methods say so, or bubbles, tracer or shutting off alone; doubted when another does; clean when one was clean and none hit."""
    hits = {method for method, result in done.results.items() if result == "hit"}
    if len(hits) >= 2 or hits & SURE:
        return "hit"
    if hits or "unsure" in done.results.values():
        return "doubted"
    if "clean" in done.results.values():
        return "clean"
    return "closed" if done.reachable is False else "open"


def leaks_at(results: Mapping[str, str]) -> bool:
    """Whether it leaks there by these results: some method says so, and neither bubbles nor tracer says clean against a mere alarm."""
    hits = {method for method, result in results.items() if result == "hit"}
    return bool(hits & SURE) or bool(hits and not any(results.get(method) == "clean" for method in ("bubbles", "tracer")))


def _ranked(place: Place, done: Tried, share: float, contents: Contents, loss: float | None, tracer: bool) -> Ranked:
    state = state_of(done)
    access = place.access_min if done.access_min is None else done.access_min
    left = [m for m in METHODS.values() if m.id not in done.results and m.id != "isolation" and (tracer or m.id != "tracer")]
    best: Method | None = None
    chance, minutes = 0.0, access + place.search_min
    for method in left:
        shows = share * sees(method, contents, loss)
        takes = access + place.search_min + method.minutes
        if shows > 0.0 and (best is None or shows / takes > chance / minutes):
            best, chance, minutes = method, shows, takes
    return Ranked(place, state, share, best, chance, minutes)


def explains(lost_kg_year: float, leak: LeakBand) -> Explains:
    """Whether a leak of this band accounts for what was lost in a year.

    Too small when even the band's upper end is under the loss; cannot tell when the loss is above the band's
    middle; explains otherwise.
    """
    if leak.high_kg_year < lost_kg_year:
        return "too_small"
    if leak.low_kg_year * leak.high_kg_year < lost_kg_year**2:
        return "cannot_tell"
    return "explains"
