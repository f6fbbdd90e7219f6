"""How Leak search shows itself: the map's rows, figures with their why, cautions."""

from collections.abc import Mapping, Sequence
from math import fsum

from yoshi_core import refrigerants
from yoshi_core.document.plate import Plate
from yoshi_core.findings.pictures import PlaceRow
from yoshi_core.findings.verdict import Caution, Figure, Term, Why
from yoshi_core.leaks.rate import LeakBand
from yoshi_core.leaks.search import METHODS, Ranked
from yoshi_core.message import Message, headline, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.leak_search.sheet import REACHES, RESULTS, LeakSearchSheet
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import YEAR_S


def place_rows(rows: Sequence[Ranked], sheet: LeakSearchSheet) -> tuple[PlaceRow, ...]:
    """The map in the order of what to do next; ranks only on places still to do."""
    found, rank = [], 0
    for row in rows:
        todo = row.state in {"open", "doubted"} and row.method is not None
        rank += 1 if todo else 0
        found.append(
            PlaceRow(
                row.place.id,
                row.place.label,
                row.place.zone,
                row.place.side,
                row.state,
                _tried(row, sheet),
                row.share,
                rank if todo else None,
                row.method.label if row.method else "",
                row.minutes if todo else None,
                row.chance if todo else None,
                row.method.id if row.method else "",
                row.place.added,
            )
        )
    return tuple(found)


NOT_CHECKED = Message("not checked")


def _tried(row: Ranked, sheet: LeakSearchSheet) -> Message:
    place = sheet.places.get(row.place.id)
    if place is None:
        return NOT_CHECKED if row.state == "open" else headline("{so}", so=REACHES.get(row.state, row.state))
    if row.state == "closed":
        return headline("{so}", so=REACHES["closed"])
    said = tuple(
        headline("{result} by {method}", result=RESULTS[result], method=METHODS[m].label)
        for m in METHODS
        if (result := getattr(place, m)) is not None
    )
    return headline("{tries}", tries=said) if said else NOT_CHECKED


def figures(rows: Sequence[Ranked], loss_kg_s: float | None, bands: Mapping[bool, LeakBand]) -> tuple[Figure, ...]:
    """Chance and minutes of the next place, what all of them together would show, the loss, and what leaks."""
    found = []
    still = [row for row in rows if row.state in {"open", "doubted"} and row.method is not None]
    method = still[0].method if still else None
    if method is not None:
        first = still[0]
        terms = (
            Term("", Amount(first.share, "fraction"), "that it leaks here"),
            Term(
                "×",
                Amount(first.chance / first.share if first.share else 0.0, "fraction"),
                headline("that {method} shows it", method=method.label),
            ),
            Term("=", Amount(first.chance, "fraction"), "chance"),
        )
        note = Message(
            "Places are ordered by chance per minute, minutes to reach them counted. A clean result lowers a place; it never clears it."
        )
        found.append(
            Figure(
                "next_chance",
                headline("{place}, {method}", place=first.place.label, method=method.label),
                Amount(first.chance, "fraction"),
                Why((terms,), (note,), TRADE, "leak.unsure"),
            )
        )
        found.append(Figure("next_minutes", "minutes", Amount(first.minutes * 60.0, "duration"), Why((), (), TRADE, "leak.unsure")))
        every = fsum(row.chance for row in still)
        found.append(Figure("all_chance", "all of them together", Amount(every, "fraction"), Why((), (), TRADE, "leak.unsure")))
    closed = fsum(row.share for row in rows if row.state == "closed")
    if closed:
        found.append(Figure("closed_share", "in places not reached", Amount(closed, "fraction"), Why((), (), TRADE, "leak.unsure")))
    if loss_kg_s is not None:
        found.append(Figure("loss", "lost", Amount(loss_kg_s, "mass_rate"), Why((), (), "weights and days as entered", "leak.explains")))
    for after, band in bands.items():
        note = Message(
            sentence("After the repair {low} to {high}: laminar, gas side only; a guessed volume makes it wider.")
            if after
            else sentence("Before the repair {low} to {high}: laminar, gas side only; a guessed volume makes it wider."),
            {"low": Amount(band.low_kg_year / YEAR_S, "mass_rate"), "high": Amount(band.high_kg_year / YEAR_S, "mass_rate")},
        )
        label = sentence("leaks up to, after the repair") if after else sentence("leaks up to, before the repair")
        why = Why((), (note,), "Q·M/(R·T)·(p_ref² − p_air²)/(p_N2² − p_air²)·μ_N2/μ_ref", "leak.explains")
        found.append(Figure(f"leak_{'after' if after else 'before'}", label, Amount(band.high_kg_year / YEAR_S, "mass_rate"), why))
    return tuple(found)


def cautions(sheet: LeakSearchSheet, plate: Plate) -> tuple[Caution, ...]:
    """What to mind while searching, by what is inside."""
    rows = []
    if sheet.inside == "nitrogen":
        rows.append(
            Caution(
                "nitrogen",
                Message(
                    "Nitrogen only through a regulator with a relief, never oxygen or compressed air, and never above the lowest stamp of everything connected."
                ),
            )
        )
        rows.append(Caution("suffocation", Message("Nitrogen takes the air away in a closed room: keep a door open.")))
    if (
        plate.refrigerant
        and refrigerants.is_known(plate.refrigerant)
        and refrigerants.get(plate.refrigerant).is_flammable
        and sheet.inside != "nitrogen"
    ):
        rows.append(Caution("flammable", Message("Flammable: a detector rated for it, no flame, no spark, air moving.")))
    rows.append(
        Caution("ladder", Message("Roofs and ladders: a second person, and both hands free. Power locked out before a hand goes in."))
    )
    return tuple(rows)
