"""The account of a circuit: its lines in the order they happened, and what is inside after each.

A balance is a mass with its standard uncertainty, or a floor and a ceiling of which either may be missing. Adding adds
both; taking subtracts the most from the floor and the least from the ceiling; neither goes below nought. *Emptied*
forgets what was before. More taken than the ceiling is no error: what was there before was more than was thought.
"""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import UTC, datetime
from itertools import groupby
from math import fsum, sqrt

from yoshi_core.account.lines import KNOWN_BEST_FIRST, MASS_WITHIN_KG, How, Line
from yoshi_core.account.weighing import Weighing
from yoshi_core.frozen import dataclass

NEVER = datetime(1, 1, 1, tzinfo=UTC)


@dataclass(frozen=True)
class Balance:
    """What is inside, in kg: at least `low_kg`, at most `high_kg` (None: nobody knows), ± `u_kg`, known as well as its weakest part."""

    low_kg: float = 0.0
    high_kg: float | None = None
    u_kg: float = 0.0
    known: How = "not_said"

    @property
    def mass_kg(self) -> float | None:
        """The mass in kg where it is one; None where only bounds are known."""
        return self.low_kg if self.high_kg is not None and self.high_kg - self.low_kg <= MASS_WITHIN_KG else None


UNKNOWN = Balance()


@dataclass(frozen=True)
class Booked:
    """A line with the balances before and after it; `raised_kg` is by how much more was inside before than was thought."""

    line: Line
    before: Balance
    after: Balance
    raised_kg: float = 0.0


@dataclass(frozen=True)
class Account:
    """All lines of a circuit, oldest first."""

    booked: tuple[Booked, ...] = ()

    @property
    def balance(self) -> Balance:
        """What is inside after the last line; not known where nothing was said."""
        return self.booked[-1].after if self.booked else UNKNOWN

    @property
    def charge(self) -> Balance | None:
        """The charge inside, where it is a mass above nought; else None."""
        return self.balance if self.balance.mass_kg else None

    def after_last(self, ids: Iterable[str]) -> Balance | None:
        """The balance after the latest of these lines; None where none of them stands in the account."""
        wanted = set(ids)
        return next((row.after for row in reversed(self.booked) if row.line.id in wanted), None)

    def before_first(self, ids: Iterable[str]) -> Balance:
        """The balance before the earliest of these lines; the present one where none of them stands in the account."""
        wanted = set(ids)
        return next((row.before for row in self.booked if row.line.id in wanted), self.balance)

    def moved_kg(self, ids: Iterable[str]) -> float:
        """What these lines changed together, in kg: added less taken, by the least each can be."""
        wanted = set(ids)
        signs = {"added": 1.0, "taken": -1.0, "lost": -1.0}
        return fsum(signs.get(row.line.kind, 0.0) * row.line.low_kg for row in self.booked if row.line.id in wanted)

    def round_of(self, ids: Iterable[str]) -> tuple[bool, tuple[Booked, ...]]:
        """Whether it was emptied before the first of these lines, and the lines from then to the last of them; without them, to the end."""
        wanted = set(ids)
        begins, ends = 0, len(self.booked)
        places = [n for n, row in enumerate(self.booked) if row.line.id in wanted]
        if places:
            ends = places[-1] + 1
        for n, row in enumerate(self.booked[: places[0] if places else ends]):
            if row.line.kind == "emptied":
                begins = n + 1
        return begins > 0, self.booked[begins:ends]

    def since_emptied(self) -> tuple[Booked, ...]:
        """The lines after the last one that emptied it; all of them where none did."""
        last = max((n for n, row in enumerate(self.booked) if row.line.kind == "emptied"), default=-1)
        return self.booked[last + 1 :]


def account_of(lines: Sequence[Line]) -> Account:
    """The account of these lines, whatever order they are given in. Lines must have ids of their own."""
    found: list[Booked] = []
    now = UNKNOWN
    parts: list[Line] = []
    for line in in_order(lines):
        after, parts, raised = _after(now, parts, line)
        found.append(Booked(line, now, after, raised))
        now = after
    return Account(tuple(found))


def in_order(lines: Sequence[Line]) -> tuple[Line, ...]:
    """Oldest first.

    A job is typed while it is done, or afterwards in its own order: within a visit lines stand as they were first typed, and
    those of which a person says when they were stand among each other by that, or before another that came after it. Nothing typed stands with its neighbours of
    the same run. Ties: step, run, row, id. What is said to be inside is from before the first that went in after it was last empty.
    """
    placed: list[tuple[int, datetime, tuple[int, int, int, int, str], Line]] = []
    last = NEVER
    for _, run in groupby(sorted(lines, key=_place), key=lambda line: _place(line)[:3]):
        mine = list(run)
        last = next((line.typed_at for line in mine if line.typed_at is not None), last)
        for line in mine:
            last = line.typed_at or last
            placed.append((line.order.visit, last, _place(line), line))
    typed = [row[3] for row in sorted(placed, key=lambda row: row[:3])]
    return tuple(_openings_first(_before_another(_by_what_was_said(typed))))


def _by_what_was_said(lines: Sequence[Line]) -> list[Line]:
    """Lines of one visit whose moment was said, by that moment; the others keep their places."""
    found = [*lines]
    for visit in {line.order.visit for line in lines}:
        slots = [n for n, line in enumerate(lines) if line.order.visit == visit and line.said_at is not None]
        said = sorted((lines[n] for n in slots), key=lambda line: line.said_at or NEVER)
        for n, line in zip(slots, said, strict=True):
            found[n] = line
    return found


def _before_another(lines: list[Line]) -> list[Line]:
    """A line of which a person says what came after it stands before that; one that names itself, or nothing there is, stays."""
    found = [*lines]
    for line in lines:
        place = next((n for n, other in enumerate(found) if line.before and other.origin == line.before and other is not line), None)
        if place is not None and place < found.index(line):
            found.remove(line)
            found.insert(place, line)
    return found


def _openings_first(lines: Sequence[Line]) -> list[Line]:
    found: list[Line] = []
    for line in lines:
        begins = max((n for n, before in enumerate(found) if before.kind == "emptied"), default=-1) + 1
        first = next((n for n in range(begins, len(found)) if found[n].kind == "added"), len(found))
        found.insert(first if line.kind == "opening" else len(found), line)
    return found


def _place(line: Line) -> tuple[int, int, int, int, str]:
    order = line.order
    return order.visit, order.step, order.run, order.row, line.id


def _after(now: Balance, parts: list[Line], line: Line) -> tuple[Balance, list[Line], float]:
    if line.kind in {"beside", "shut_in", "let_back"}:
        return now, parts, 0.0
    if line.kind == "replaced" and parts and now.mass_kg is not None:
        line = replace(line, kind="added")
    if line.kind in {"opening", "replaced", "emptied"}:
        if line.kind == "opening" and parts and now.mass_kg is not None:
            return now, parts, 0.0  # a later word for what the account knows already
        parts = [line]
        return Balance(line.low_kg, line.high_kg, line.u_kg, line.known), parts, 0.0
    parts = [*parts, line]
    raised = 0.0
    if line.kind == "added":
        low = now.low_kg + line.low_kg
        high = None if now.high_kg is None or line.high_kg is None else now.high_kg + line.high_kg
    else:
        low = 0.0 if line.high_kg is None else max(0.0, now.low_kg - line.high_kg)
        high = None if now.high_kg is None else max(0.0, now.high_kg - line.low_kg)
        raised = 0.0 if now.high_kg is None else max(0.0, line.low_kg - now.high_kg)
    return Balance(low, high, _spread_kg(parts), weakest(part.known for part in parts if part.high_kg != 0.0)), parts, raised


def weakest(known: Iterable[How]) -> How:
    """How a sum is known: as its weakest part."""
    return max(known, key=KNOWN_BEST_FIRST.index, default="not_said")


def _spread_kg(parts: Sequence[Line]) -> float:
    """Standard uncertainty of a sum in kg: readings that follow on one cylinder are one weighing, first less last; the rest in squares."""
    squares = [part.u_kg**2 for part in parts if part.weighing is None]
    chains: dict[str, Weighing] = {}
    for part in parts:
        if part.weighing is None:
            continue
        running = chains.get(part.weighing.cylinder)
        if running is not None and part.weighing.follows(running):
            chains[part.weighing.cylinder] = replace(running, after_kg=part.weighing.after_kg, after_u_kg=part.weighing.after_u_kg)
            continue
        if running is not None:
            squares += [running.before_u_kg**2, running.after_u_kg**2]
        chains[part.weighing.cylinder] = part.weighing
    for running in chains.values():
        squares += [running.before_u_kg**2, running.after_u_kg**2]
    return sqrt(fsum(squares))
