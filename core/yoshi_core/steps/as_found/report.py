"""How As found shows itself: figures with their why, the temperature ladder, cautions."""

from yoshi_core import refrigerants
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import Entry, value_of
from yoshi_core.findings.pictures import Band, Rung
from yoshi_core.findings.verdict import Caution, Figure, Term, Why
from yoshi_core.message import Message
from yoshi_core.running.readings import Side
from yoshi_core.steps.as_found.handed import Read
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.steps.contract import StepContext
from yoshi_core.units.display import Amount

SOURCE = "readings as entered; dew and bubble from the core's tables, made from CoolProp"


def _t(kelvin: float) -> Amount:
    return Amount(kelvin, "temperature")


def _d(kelvin: float, u: float | None = None) -> Amount:
    return Amount(kelvin, "temperature_delta", u)


def _difference(figure_id: str, label: str, first: tuple[str, float], second: tuple[str, float], u: float | None = None) -> Figure:
    terms = (Term("", _t(first[1]), first[0]), Term("−", _t(second[1]), second[0]), Term("=", _d(first[1] - second[1]), label))
    return Figure(figure_id, label, _d(first[1] - second[1], u), Why((terms,), (), SOURCE, f"as_found.{figure_id}"))


def figures(sheet: AsFoundSheet, found: Read) -> tuple[Figure, ...]:
    """Superheat, subcooling, split, and the coils against their air, each with its formula."""
    rows: list[Figure] = []
    if found.low:
        rows.append(
            _difference(
                "superheat", "superheat", ("suction line", found.low.line_k), ("dew", found.low.saturation_k), found.low.uncertainty_k
            )
        )
    if found.high:
        rows.append(
            _difference(
                "subcooling",
                "subcooling",
                ("bubble", found.high.saturation_k),
                ("liquid line", found.high.line_k),
                found.high.uncertainty_k,
            )
        )
    returned, supplied = value_of(sheet.return_air), value_of(sheet.supply)
    if found.split_k is not None and returned is not None and supplied is not None:
        pair = (("supply", supplied), ("return", returned))
        first, second = pair if sheet.mode == "heating" else pair[::-1]
        rows.append(_difference("split", "split", first, second))
    air = returned if sheet.mode == "heating" else value_of(sheet.outdoor)
    if found.condensing_k is not None and air is not None:
        label = "over return air" if sheet.mode == "heating" else "over outdoor air"
        rows.append(_difference("over", label, ("condensing, mean of the coil", found.condensing_k), ("air", air)))
    cold = value_of(sheet.box)
    if found.evaporating_k is not None and cold is not None:
        rows.append(_difference("under", "under the box", ("box", cold), ("evaporating, mean of the coil", found.evaporating_k)))
    if found.evaporating_k is not None:
        terms = (
            Term("", Amount(value_of(sheet.suction_pressure) or 0.0, "gauge_pressure"), "suction"),
            Term("=", _t(found.evaporating_k), "mean of the coil"),
        )
        note = Message("A blend evaporates over its glide; the mean counts for coil rules, dew for superheat.")
        rows.append(Figure("evaporating", "evaporating", _t(found.evaporating_k), Why((terms,), (note,), SOURCE, "as_found.evaporating")))
    if found.condensing_k is not None:
        reading = sheet.suction_pressure if sheet.mode == "heating" and sheet.suction_pressure else sheet.liquid_pressure
        terms = (
            Term("", Amount(value_of(reading) or 0.0, "gauge_pressure"), "high side"),
            Term("=", _t(found.condensing_k), "mean of the coil"),
        )
        note = (
            Message("In heating the vapour port is the high side.")
            if sheet.mode == "heating"
            else Message("Subcooling is from bubble, never from the mean.")
        )
        rows.append(Figure("condensing", "condensing", _t(found.condensing_k), Why((terms,), (note,), SOURCE, "as_found.condensing")))
    return tuple(rows)


def bands(found: Read, context: StepContext) -> tuple[Band, ...]:
    """What hangs on the ladder: superheat from dew, subcooling from bubble. As found has no verdict on them."""
    rows = []
    if found.low:
        rows.append(_band("superheat", "low", found.low, None))
    if found.high:
        rows.append(_band("subcooling", "high", found.high, value_of(context.plate.subcooling_target)))
    return tuple(rows)


def _band(band_id: str, side: str, hung: Side, target: float | None) -> Band:
    return Band(
        band_id,
        band_id,
        "low" if side == "low" else "high",
        _d(hung.difference_k, hung.uncertainty_k),
        None,
        None,
        target,
        _t(hung.saturation_k),
        _t(hung.line_k),
        "Open",
        _t(hung.across_k),
    )


def rungs(sheet: AsFoundSheet, found: Read) -> tuple[Rung, ...]:
    """Air and coil temperatures that stand on the ladder by themselves."""
    named: tuple[tuple[str, str, Entry | None], ...] = (
        ("return_air", "return air", sheet.return_air),
        ("supply", "supply air", sheet.supply),
        ("outdoor", "outdoor air", sheet.outdoor),
        ("box", "box", sheet.box),
    )
    rows = [Rung(rung_id, label, _t(entry.value)) for rung_id, label, entry in named if entry is not None]
    if found.low is None and found.evaporating_k is not None:
        rows.append(Rung("evaporating", "evaporating", _t(found.evaporating_k)))
    if found.high is None and found.condensing_k is not None:
        rows.append(Rung("condensing", "condensing", _t(found.condensing_k)))
    return tuple(rows)


def cautions(sheet: AsFoundSheet, plate: Plate, known: bool) -> tuple[Caution, ...]:
    """What to mind with gauges on a unit nobody has looked at yet."""
    rows = [
        Caution(
            "gauges",
            Message(
                "Hoses on and off with gloves and glasses: liquid freezes skin and eyes. Moving fans, hot discharge line, live terminals."
            ),
        )
    ]
    if known and plate.refrigerant and refrigerants.get(plate.refrigerant).is_flammable:
        rows.append(Caution("flammable", Message("Flammable: rated gauges and detector, no flame or spark near a hose, air the room.")))
    if sheet.iced:
        rows.append(Caution("thaw", Message("Thaw with air or warm water, never with a flame or a pick.")))
    if sheet.running == "cycling":
        rows.append(Caution("cycling", Message("Each short start overheats the compressor; switch it off while you think.")))
    return tuple(rows)
