"""Leak search: a map of places, what was tried where, where to look next, and whether a find explains the loss."""

from collections.abc import Mapping
from math import fsum

from yoshi_core import refrigerants
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import LeakSearchPicture, LossPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Word
from yoshi_core.leaks import rate as leak_rate
from yoshi_core.leaks import search as leak_search
from yoshi_core.leaks.places import Place, places_of
from yoshi_core.leaks.search import METHODS, Ranked, Tried, leaks_at
from yoshi_core.message import Message, headline, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties.atmosphere import absolute_pa
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.leak_search.handed import Searched
from yoshi_core.steps.leak_search.report import cautions, figures, place_rows
from yoshi_core.steps.leak_search.sheet import LeakSearchSheet, NitrogenDrop, PlaceSearched
from yoshi_core.steps.leak_search.tracer import judge_tracers
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.tight_and_dry import pressure_hold
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import YEAR_S

ONE_IN_100 = 0.01


def judge(context: StepContext) -> Judged:
    """The map ranked, and what has been found said in the job's own numbers."""
    notes = context.notes
    sheet: LeakSearchSheet = context.run.sheet if context.run else LeakSearchSheet()
    if context.run:
        ask_about_sheet(notes, sheet, context.path(), context.run.answers)
    judge_tracers(notes, context)
    loss = sheet.loss_kg_s
    rows: tuple[Ranked, ...] = ()
    bands = _leaks(sheet, notes, context)
    if notes.need(context.path("inside"), "in the system now", sheet.inside) and sheet.inside:
        found = bands.get(False, bands.get(True))
        another = loss is not None and found is not None and leak_search.explains(loss * YEAR_S, found) == "too_small"
        rows = _ranked(sheet, loss, another, notes, context)
        _contents(sheet, notes, context)
    loss_picture = _explain(rows, bands, loss, notes) if rows else None
    _decide(rows, _all_tried(context), notes)
    result = StepResult(
        step=context.step,
        state="open",
        verdict=verdict(notes, _otherwise(rows)),
        summary=_summary(rows),
        figures=figures(rows, loss, bands),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(sheet, context.plate),
        picture=LeakSearchPicture(places=place_rows(rows, sheet), loss=loss_picture, notes=_tips(rows)),
    )
    return Judged(result, _searched(bands.get(False), loss, context))


def _searched(before: leak_rate.LeakBand | None, loss: float | None, context: StepContext) -> Searched:
    """Where it leaked in any search, and where it still does: by the last word of each method at each place."""
    results: dict[str, dict[str, str]] = {}
    names: dict[str, str] = {p.id: p.label for p in places_of(context.plate.kind)}
    hits: list[str] = []
    later = None
    for number, run in enumerate(context.record.runs):
        for place_id, row in run.sheet.places.items():
            names[place_id] = row.label or names.get(place_id, "a place not named")
            results[place_id] = {**results.get(place_id, {}), **_tried(row).results}
            if leaks_at(results[place_id]):
                hits.append(place_id)
                begun = context.job.begun.get(f"/steps/{context.step}/runs/{number}/sheet/places/{place_id}")
                later = begun.at if begun is not None and number > 0 else later
    contents = context.run.sheet.inside if context.run else None
    leaking = tuple(names[place_id] for place_id, tried in results.items() if leaks_at(tried))
    return Searched(
        before,
        loss,
        contents == "empty",
        contents == "nitrogen",
        tuple(dict.fromkeys(names[place_id] for place_id in hits)),
        leaking,
        later,
    )


def _map(context: StepContext) -> list[Place]:
    """The map of this kind of system and the places somebody added to it, in this search or one before."""
    places = list(places_of(context.plate.kind))
    known = {p.id for p in places}
    labels: dict[str, str] = {}
    for run in context.record.runs:
        labels |= {place_id: row.label for place_id, row in run.sheet.places.items() if place_id not in known and row.label}
    return [*places, *(Place(place_id, label, "lines", "low", 6.0, 5.0, 3.0, added=True) for place_id, label in labels.items())]


def _tried(row: PlaceSearched) -> Tried:
    results = {method: result for method in METHODS if (result := getattr(row, method)) is not None}
    access = value_of(row.access)
    reachable = None if row.reach is None else row.reach == "open"
    return Tried(results, reachable, None if access is None else access / 60.0)


def _all_tried(context: StepContext) -> dict[str, Tried]:
    """What was done at each place over all runs: the last word of each method."""
    tried: dict[str, Tried] = {}
    for run in context.record.runs:
        for place_id, row in run.sheet.places.items():
            before, now = tried.get(place_id, Tried()), _tried(row)
            reachable = before.reachable if now.reachable is None else now.reachable
            access = before.access_min if now.access_min is None else now.access_min
            tried[place_id] = Tried({**before.results, **now.results}, reachable, access)
    return tried


def _ranked(sheet: LeakSearchSheet, loss: float | None, another: bool, notes: Notes, context: StepContext) -> tuple[Ranked, ...]:
    tried = _all_tried(context)
    places = _map(context)
    known = {p.id for p in places}
    for place_id in [p for p in tried if p not in known]:
        notes.need(context.path("places", place_id, "label"), "name of the added place", None)
        tried.pop(place_id)
    assert sheet.inside is not None
    return leak_search.search(
        places,
        tried,
        sheet.inside,
        None if loss is None else loss * YEAR_S,
        least=context.profile.value("leak.unsure"),
        tracer=context.profile.choice("leak.empty") == "tracer",
        another=another,
    )


def _contents(sheet: LeakSearchSheet, notes: Notes, context: StepContext) -> None:
    school = context.profile.school("leak.empty")
    if sheet.inside == "empty":
        notes.say(
            "leak.empty",
            "Wait",
            "Nothing is in it, so nothing can show a leak but old oil. Put dry nitrogen in, below the lowest stamp of everything connected.",
            TRADE,
            school=school,
            role="finding",
        )
    if sheet.inside == "little":
        notes.say(
            "leak.little",
            "Open",
            "Only a little is left: sniff while it lasts. Nitrogen is never put on top of refrigerant; recover first.",
            TRADE,
            school=school,
        )


def _leaks(sheet: LeakSearchSheet, notes: Notes, context: StepContext) -> dict[bool, leak_rate.LeakBand]:
    """The leak each nitrogen drop means as refrigerant, before (False) and after (True) the repair."""
    found: dict[bool, leak_rate.LeakBand] = {}
    name, volume = context.plate.refrigerant, value_of(sheet.volume)
    if not sheet.drops or name is None or not refrigerants.is_known(name):
        return found
    notes.need(context.path("volume"), "volume of the system", sheet.volume)
    for key, row in sheet.drops.items():
        band = _leak(key, row, name, volume, notes, context)
        if band is not None:
            found[bool(row.after_repair)] = band
    return found


def _leak(key: str, row: NitrogenDrop, name: str, volume: float | None, notes: Notes, context: StepContext) -> leak_rate.LeakBand | None:
    wanted = (
        ("pressure_start", "nitrogen pressure at first"),
        ("pressure_end", "nitrogen pressure at the end"),
        ("metal_start", "pipe temperature at the start"),
        ("metal_end", "pipe temperature at the end"),
        ("lasted", "how long it lasted"),
    )
    there = [notes.need(context.path("drops", key, field), label, getattr(row, field)) for field, label in wanted]
    if not all(there) or volume is None:
        return None
    altitude = value_of(context.plate.altitude) or 0.0
    start, end, t_start, t_end, lasted = (getattr(row, field).value for field, _ in wanted)
    pressures = [absolute_pa(p, context.plate.gauge_reference or "vented", altitude) for p in (start, end)]
    profile = context.profile
    site = absolute_pa(0.0, "vented", altitude)
    try:
        seen = pressure_hold.drop(
            pressures[0], t_start, pressures[1], t_end, lasted, volume, profile.value("hold.step"), profile.value("hold.metal")
        )
        shown = seen.leak_pa_m3_s if seen.seen else seen.least_pa_m3_s
        band = leak_rate.as_refrigerant(name, shown, sum(pressures) / 2.0, profile.value("leak.inside"), site)
    except CoreError as error:
        notes.refuse(context.path("drops", key, "pressure_start"), error.code, told(error))
        return None
    amounts = {
        "drop": Amount(seen.drop_pa, "gauge_pressure_delta"),
        "unsure": Amount(seen.uncertainty_pa, "gauge_pressure_delta"),
        "low": Amount(band.low_kg_year / YEAR_S, "mass_rate"),
        "high": Amount(band.high_kg_year / YEAR_S, "mass_rate"),
    }
    if seen.seen:
        text = (
            sentence("After the repair it lost {drop}, pipe temperature allowed for. As refrigerant that is {low} to {high}.")
            if row.after_repair
            else sentence("Before the repair it lost {drop}, pipe temperature allowed for. As refrigerant that is {low} to {high}.")
        )
        notes.tell("leak.drop_after" if row.after_repair else "leak.drop", "Wait" if row.after_repair else "Open", text, TRADE, amounts)
        return band
    text = (
        sentence("After the repair, nothing beyond ± {unsure} was lost. A leak under {low} to {high} could not have been seen.")
        if row.after_repair
        else sentence("Before the repair, nothing beyond ± {unsure} was lost. A leak under {low} to {high} could not have been seen.")
    )
    notes.tell("leak.drop_after" if row.after_repair else "leak.drop", "Holds", text, TRADE, amounts)
    return leak_rate.LeakBand(0.0, band.high_kg_year)


def _explain(rows: tuple[Ranked, ...], bands: dict[bool, leak_rate.LeakBand], loss: float | None, notes: Notes) -> LossPicture | None:
    """Does the found leak explain the loss? Said only where both are known."""
    if loss is None or not bands:
        if any(row.state == "hit" for row in rows):
            text = sentence(
                "Whether this leak explains the loss cannot be told: that takes the loss since it was full, and a drop under nitrogen with the volume."
            )
            notes.say("leak.explains", "Open", text, TRADE)
        return None
    band = bands.get(False, bands.get(True))
    assert band is not None
    amounts = {
        "lost": Amount(loss, "mass_rate"),
        "low": Amount(band.low_kg_year / YEAR_S, "mass_rate"),
        "high": Amount(band.high_kg_year / YEAR_S, "mass_rate"),
    }
    said = leak_search.explains(loss * YEAR_S, band)
    texts = {
        "explains": sentence("It explains the loss: {lost} were lost, and this leaks {low} to {high}."),
        "too_small": sentence("Too small, keep looking: {lost} were lost, and this leaks only {low} to {high}."),
        "cannot_tell": sentence("Cannot tell: {lost} were lost, and this leaks {low} to {high}. It may be one leak of two."),
    }
    words: dict[str, Word] = {"explains": "Holds", "too_small": "Wait", "cannot_tell": "Open"}
    source = "laminar flow, viscosities from memory; a band of a factor two"
    notes.tell("leak.explains", words[said], texts[said], source, amounts, role="finding")
    return LossPicture(amounts["lost"], amounts["low"], amounts["high"])


def _second_method(row: Ranked, tried: Mapping[str, Tried], notes: Notes) -> None:
    """One method that can be fooled: its own false alarms, and what decides."""
    said = {method: result for method, result in tried[row.place.id].results.items() if result in {"hit", "unsure"}}
    method = METHODS[next((m for m, result in said.items() if result == "hit"), next(iter(said)))]
    text = (
        sentence("{place:cap}: only {method} so far. A second method decides; known false alarms are {alarms}.")
        if said[method.id] == "hit"
        else sentence("{place:cap}: not sure by {method} so far. A second method decides; known false alarms are {alarms}.")
    )
    words = {"place": row.place.label, "method": method.label, "alarms": method.alarms}
    notes.tell("leak.second_method", "Wait", text, TRADE, {}, words, role="finding")


def _found(rows: list[Ranked], tried: Mapping[str, Tried], notes: Notes) -> None:
    """Where it leaks; bubbles that stand alone are looked at once more for their own false signs."""
    notes.say("leak.found", "Holds", "It leaks here: {places}.", TRADE, places=tuple(row.place.label for row in rows))
    alone = [row for row in rows if sum(result == "hit" for result in tried[row.place.id].results.values()) == 1]
    by = {m for row in alone for m, result in tried[row.place.id].results.items() if result == "hit"}
    if "bubbles" in by:
        text = sentence(
            "By bubbles alone: wipe it dry and soap it once more. A leak blows at the same spot again. Known false signs are {alarms}."
        )
        notes.say("leak.bubbles", "Open", text, TRADE, alarms=METHODS["bubbles"].alarms)


def _decide(rows: tuple[Ranked, ...], tried: Mapping[str, Tried], notes: Notes) -> None:
    doubted = [row for row in rows if row.state == "doubted"]
    if doubted:
        _second_method(doubted[0], tried, notes)
        return
    found = [row for row in rows if row.state == "hit"]
    if found:
        _found(found, tried, notes)
        return
    still = [row for row in rows if row.state == "open" and row.method is not None]
    closed = fsum(row.share for row in rows if row.state == "closed")
    if still and still[0].method is not None:
        few = still[0].chance < ONE_IN_100
        text = (
            sentence("Next: {place}, {method}. Under 1 in 100 that it leaks here and shows.")
            if few
            else sentence("Next: {place}, {method}. {of_100} in 100 that it leaks here and shows.")
        )
        words = {"place": still[0].place.label, "method": still[0].method.label}
        amounts = {"value": Amount(still[0].chance, "fraction"), "of_100": Amount(still[0].chance * 100.0, "count")}
        notes.tell("leak.next", "Wait", text, TRADE, amounts, words)
    elif rows and closed > 0.0:
        text = (
            sentence("What is reachable was looked at. Under 1 in 100 sit in places not reached; opening them is the customer's decision.")
            if closed < ONE_IN_100
            else sentence(
                "What is reachable was looked at. {of_100} in 100 sit in places not reached; opening them is the customer's decision."
            )
        )
        amounts = {"value": Amount(closed, "fraction"), "of_100": Amount(closed * 100.0, "count")}
        notes.tell("leak.closed", "Wait", text, TRADE, amounts)
    elif rows:
        notes.say("leak.none", "Wait", "Every place was called clean, and a clean result clears nothing. A long hold decides.", TRADE)


def _otherwise(rows: tuple[Ranked, ...]) -> Otherwise:
    if not rows:
        asks = Message("Say what is in the system now: it decides the method.")
        return Otherwise(asks, "Open", missing=asks)
    return Otherwise(headline("Leak found: {places}.", places=tuple(row.place.label for row in rows if row.state == "hit")))


def _summary(rows: tuple[Ranked, ...]) -> Message:
    if not rows:
        return Message("where it went")
    counts = {state: sum(1 for row in rows if row.state == state) for state in ("clean", "hit", "doubted", "open", "closed")}
    hits = counts["hit"] + counts["doubted"]
    left = counts["open"] + counts["closed"]
    return headline("{clean} clean, {hits} hit, {left} left", clean=_count(counts["clean"]), hits=_count(hits), left=_count(left))


def _count(number: int) -> Amount:
    return Amount(float(number), "count")


def _tips(rows: tuple[Ranked, ...]) -> tuple[Message, ...]:
    """A senior's word on the place that comes next."""
    still = [row for row in rows if row.state in {"open", "doubted"}]
    return (headline("{tip}", tip=still[0].place.tip),) if still and still[0].place.tip else ()
