"""Which engine ranks the causes for this kind of system, and what it is given."""

from dataclasses import replace

from yoshi_core.diagnosis import rank, signs
from yoshi_core.diagnosis.causes import CANNOT, Check
from yoshi_core.diagnosis.observed import Family, Observed
from yoshi_core.diagnosis.rank import Ranked
from yoshi_core.diagnosis.signs import Seen, held
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import CauseRow, NextCheck, Outcome
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, sentence, told
from yoshi_core.running.targets import formula_superheat_k
from yoshi_core.steps.as_found.handed import Read
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K

LEARNED_KINDS = frozenset({None, "split", "heat_pump", "packaged"})
BOX_KINDS = {"reach_in": "reach_in", "receiver": "walk_in", "chiller": "walk_in", "vehicle": "reach_in"}
TURNED: dict[signs.Sign, signs.Sign] = {"-": "+", "=": "=", "+": "-"}
FITS = ((0.5, 4), (0.2, 3), (0.06, 2), (0.0, 1))
TYPICAL_SPLIT_K = (16.0 * FAHRENHEIT_K, 22.0 * FAHRENHEIT_K)
WEATHER_K = 8.0 * FAHRENHEIT_K
COOL_ROOM_K = 6.0 * FAHRENHEIT_K  # a cool room, not read, makes a well cabinet evaporate lower; by the rig, with no source beside it
HUMID_K = 3.0 * FAHRENHEIT_K
FIXED_SUPERHEAT_K = (5.0 * FAHRENHEIT_K, 40.0 * FAHRENHEIT_K)
USUAL_SUBCOOLING_K = 10.0 * FAHRENHEIT_K
APART_K = 5.0 * FAHRENHEIT_K
SETTLED = 0.9
COLDER_K, WARMER_K = 30.0 * FAHRENHEIT_K, 15.0 * FAHRENHEIT_K  # heating weather about 47 °F, where the outdoor air was not read
NEEDED = {
    "suction_pressure": "suction or vapour port pressure",
    "suction_line": "suction line temperature",
    "liquid_pressure": "liquid pressure",
    "liquid_line": "liquid line temperature",
    "outdoor": "air over the condenser",
    "return_air": "return air",
    "box": "box, or fluid leaving",
    "cycles_on": "what stops it",
}


@dataclass(frozen=True)
class Ranking:
    """Causes best first, the next check, and remarks about what cannot be true; `learned` says which engine spoke, `unlike` that no known case is near."""

    ranked: tuple[Ranked, ...]
    next_check: Check | None
    remarks: tuple[Message, ...]
    family: Family
    checks: dict[str, str]
    learned: bool
    unlike: bool = False

    @property
    def settled(self) -> bool:
        """Whether the leader stands clear, or no cheap check is left that could move it."""
        return not self.unlike and (self.next_check is None or self.ranked[0].share >= SETTLED)

    def rows(self) -> tuple[CauseRow, ...]:
        """Every cause that fits, as the screen lists it."""
        found = []
        for item in self.ranked:
            excluded = rank.excluded_by(item.cause, self.family, self.checks)
            fit = next(steps for least, steps in FITS if item.share >= least)
            found.append(CauseRow(item.cause, item.label, fit, item.speaks_for, item.speaks_against, excluded))
        return tuple(found)

    def check_row(self) -> NextCheck | None:
        """The check that separates the leaders, with what each outcome would mean; None where none does."""
        check = self.next_check
        if check is None:
            return None
        meanings = rank.outcomes(check, self.ranked)
        return NextCheck(check.id, check.text, check.minutes, tuple(Outcome(r, text, meanings[r]) for r, text in check.results.items()))


def wanted(sheet: AsFoundSheet, plate: Plate) -> tuple[str, ...]:
    """The readings this kind of system is best spoken about by; less is ranked by what it can tell apart."""
    if sheet.mode == "heating":
        return ("suction_pressure", "outdoor", "return_air")
    if plate.kind in LEARNED_KINDS:
        return ("suction_pressure", "suction_line", "liquid_pressure", "liquid_line")
    if plate.kind in BOX_KINDS:
        return ("liquid_pressure", "outdoor")
    return ("suction_pressure",)


def lacking(sheet: AsFoundSheet, found: Read, context: StepContext) -> tuple[str, ...]:
    """What still has to be read before anything can be said; empty as soon as one figure speaks."""
    if sheet.running == "cycling":
        return () if sheet.cycles_on or sheet.suction_swing else ("cycles_on",)
    if _learnable(sheet, found, context) or _figures(sheet, found, context):
        return ()
    return tuple(field for field in wanted(sheet, context.plate) if getattr(sheet, field) is None) or ("box",)


def _learnable(sheet: AsFoundSheet, found: Read, context: StepContext) -> bool:
    """Whether enough was read, of a kind of unit that was learned: both pressures and a line."""
    both = found.suction_pa is not None and found.liquid_pa is not None
    line = sheet.suction_line is not None or sheet.liquid_line is not None
    return sheet.mode == "cooling" and context.plate.kind in LEARNED_KINDS and both and line and sheet.running != "cycling"


def ranking(sheet: AsFoundSheet, found: Read, notes: Notes, context: StepContext) -> Ranking | None:
    """The causes ranked; None when an entry stood in the way, which is then refused by name."""
    plate = context.plate
    family: Family = "fixed" if plate.metering in {"orifice", "capillary"} else "valve"
    checks = _checks(sheet, notes, context)
    if notes.problems:
        return None
    if found.standing is not None:
        checks.setdefault("standing", found.standing)
    if _learnable(sheet, found, context):
        return _learned(sheet, found, family, checks, notes, context)
    shown = _figures(sheet, found, context)
    if not shown:
        return None
    boxed = plate.kind in BOX_KINDS
    done = {("filter" if boxed else "load_flow"): CANNOT, **checks}
    by_signs = signs.rank_by_signs(
        shown,
        family,
        done,
        heating=sheet.mode == "heating",
        reversing=plate.kind in {"heat_pump", "ductless", "vrf"},
        can_run=sheet.running != "cycling",
    )
    return Ranking(by_signs.ranked, by_signs.next_check, _remarks(sheet, found), family, done, False)


def _remarks(sheet: AsFoundSheet, found: Read) -> tuple[Message, ...]:
    """What looks the same and is no fault of the circuit, and what does not go together."""
    if sheet.running == "cycling" and sheet.cycles_on == "high" and found.standing == "below":
        return (
            Message("Nearly empty, it cannot reach its high-pressure control: read the standing pressure again, and look at that control."),
        )
    if not _stops_low(sheet):
        return ()
    return (Message("A liquid solenoid without power, or a pump-down by its own control, looks the same: see that the valve is fed."),)


def _stops_low(sheet: AsFoundSheet) -> bool:
    """Whether it cycles on its low-pressure control, as said; else as a suction that swings low says."""
    if sheet.running != "cycling":
        return False
    swings = sheet.suction_pressure is not None and sheet.suction_swing is not None
    return sheet.cycles_on == "low" or (sheet.cycles_on in {None, "unknown"} and swings)


def _checks(sheet: AsFoundSheet, notes: Notes, context: StepContext) -> dict[str, str]:
    found = {}
    for check_id, row in sheet.checks.items():
        if row.result is None:
            continue
        try:
            rank.check_results({check_id: row.result})
            found[check_id] = row.result
        except CoreError as error:
            notes.refuse(context.path("checks", check_id, "result"), error.code, told(error))
    return found


def _learned(
    sheet: AsFoundSheet, found: Read, family: Family, checks: dict[str, str], notes: Notes, context: StepContext
) -> Ranking | None:
    assert context.plate.refrigerant is not None
    observed = Observed(
        context.plate.refrigerant,
        family,
        found.suction_pa,
        value_of(sheet.suction_line),
        found.liquid_pa,
        value_of(sheet.liquid_line),
        value_of(sheet.outdoor),
        value_of(sheet.return_air),
        value_of(sheet.return_wet_bulb),
        value_of(sheet.supply),
        found.amps_share,
        value_of(context.plate.subcooling_target),
        checks=checks,
    )
    try:
        said = rank.diagnose(observed)
    except CoreError as error:
        notes.refuse(context.path("suction_pressure"), error.code, told(error))
        return None
    done = {"load_flow": CANNOT, **checks}
    ranked = said.ranked
    if context.plate.kind != "heat_pump":
        kept = [item for item in ranked if item.cause != "reversing_leak"]
        whole = sum(item.share for item in kept)
        ranked = tuple(replace(item, share=item.share / whole) for item in kept)
    return Ranking(ranked, said.next_check, said.impossible, family, done, True, said.unlike)


def _figures(sheet: AsFoundSheet, found: Read, context: StepContext) -> list[Seen]:
    """Each figure this kind of system is judged by, against its band."""
    if sheet.running == "cycling":
        return _cycling(sheet)
    shown: list[Seen | None] = [_suction(sheet, found, context), _head(sheet, found, context), _amps(found, context)]
    receiver = context.plate.kind == "receiver"
    if found.superheat_k is not None:
        shown.append(_superheat(sheet, found.superheat_k, context))
    if receiver or sheet.sight_glass not in {None, "none"}:
        shown.append(_glass(sheet))
    elif found.subcooling_k is not None:
        target = value_of(context.plate.subcooling_target) or USUAL_SUBCOOLING_K
        shown.append(
            held(
                "subcooling",
                found.subcooling_k,
                target - APART_K,
                target + APART_K,
                sentence("Subcooling is {value}; {low} to {high} is usual."),
            )
        )
    if found.split_k is not None and context.plate.kind not in BOX_KINDS and sheet.mode == "cooling":
        humid = 0.0 if sheet.return_wet_bulb is not None else HUMID_K  # a humid room splits less, a dry one more
        low_k, high_k = TYPICAL_SPLIT_K
        shown.append(
            held("split", found.split_k, low_k - humid, high_k + humid, sentence("The air split is {value}; {low} to {high} is usual."))
        )
    return [item for item in shown if item is not None]


def _superheat(sheet: AsFoundSheet, superheat_k: float, context: StepContext) -> Seen:
    """A valve keeps it in its sane band; a fixed device near the field formula's target, and anywhere usual where the weather for that was not read."""
    wet, outdoor = value_of(sheet.return_wet_bulb), value_of(sheet.outdoor)
    if context.plate.metering not in {"orifice", "capillary"}:
        low, high = context.profile.value("verify.superheat_low"), context.profile.value("verify.superheat_high")
    elif wet is not None and outdoor is not None:
        target = max(formula_superheat_k(wet, outdoor), APART_K)
        low, high = target - APART_K, target + APART_K
    else:
        low, high = FIXED_SUPERHEAT_K
    return held("superheat", superheat_k, low, high, sentence("Superheat is {value}; {low} to {high} is usual."))


def _glass(sheet: AsFoundSheet) -> Seen | None:
    """A receiver keeps liquid ready, so the glass stands for subcooling."""
    if sheet.sight_glass in {"bubbles", "empty"}:
        text = (
            sentence("The sight glass shows bubbles.") if sheet.sight_glass == "bubbles" else sentence("The sight glass shows no liquid.")
        )
        return Seen("subcooling", "-", Message(text))
    if sheet.sight_glass == "clear":
        return Seen("subcooling", "=", Message("The sight glass is clear."))
    return None


def _suction(sheet: AsFoundSheet, found: Read, context: StepContext) -> Seen | None:
    profile, kind = context.profile, context.plate.kind
    slack = profile.value("coil.slack")
    if kind in BOX_KINDS:
        if found.under_k is None:
            return None
        rule = f"coil.{BOX_KINDS[kind]}_under"
        cool = 0.0 if sheet.outdoor is not None else COOL_ROOM_K
        low_k, high_k = profile.value(f"{rule}_low") - slack, profile.value(f"{rule}_high") + slack + cool
        seen = held("suction", found.under_k, low_k, high_k, sentence("Evaporating is {value} under the box; {low} to {high} is usual."))
        return replace(seen, sign=TURNED[seen.sign])
    if sheet.mode == "heating":
        return _outdoor_coil(found, context)
    if found.evaporating_k is None:
        return None
    wider = 0.0 if sheet.outdoor is not None else WEATHER_K  # a cool day, not read, makes a healthy unit evaporate lower
    low_k, high_k = profile.value("coil.cooling_evaporating_low") - wider, profile.value("coil.cooling_evaporating_high") + wider
    return held("suction", found.evaporating_k, low_k, high_k, sentence("Evaporating at {value}; {low} to {high} is usual."), "temperature")


def _outdoor_coil(found: Read, context: StepContext) -> Seen | None:
    """In heating the outdoor coil evaporates: far under its air is a low suction, hardly under it a high one."""
    if found.under_k is None:
        return None
    profile, slack = context.profile, context.profile.value("coil.slack")
    low_k, high_k = profile.value("coil.heating_under_low"), profile.value("coil.heating_under_high") + slack
    seen = held(
        "suction", found.under_k, low_k, high_k, sentence("Evaporating is {value} under the outdoor air; {low} to {high} is usual.")
    )
    return replace(seen, sign=TURNED[seen.sign])


def _cycling(sheet: AsFoundSheet) -> list[Seen]:
    """What stops it is the one thing a unit in short turns says."""
    if sheet.cycles_on == "high":
        return [Seen("head", "+", Message("Its high-pressure control stops it."))]
    low, high = sheet.suction_pressure, sheet.suction_swing
    if not _stops_low(sheet):
        return []
    if low is not None and high is not None:
        amounts = {"low": Amount(low.value, "gauge_pressure"), "high": Amount(high.value, "gauge_pressure")}
        return [Seen("suction", "-", Message("Suction swings from {low} to {high}, and its low-pressure control stops it.", amounts))]
    return [Seen("suction", "-", Message("Its low-pressure control stops it."))]


def _amps(found: Read, context: StepContext) -> Seen | None:
    if found.amps_share is None:
        return None
    low, high = context.profile.value("coil.amps_low"), context.profile.value("coil.amps_high")
    return held(
        "power",
        found.amps_share,
        low,
        high,
        sentence("The compressor draws {value} of its rated current; {low} to {high} is usual."),
        "fraction",
    )


def _head(sheet: AsFoundSheet, found: Read, context: StepContext) -> Seen | None:
    if found.over_k is None:
        return None
    profile, slack = context.profile, context.profile.value("coil.slack")
    if sheet.mode == "heating":
        outdoor, at = value_of(sheet.outdoor), profile.value("coil.heating_at")
        coldest, warmest = (at - COLDER_K, at + WARMER_K) if outdoor is None else (outdoor, outdoor)
        share = profile.value("coil.heating_shift")
        low_k = profile.value("coil.heating_over_low") + share * (coldest - at) - slack
        high_k = profile.value("coil.heating_over_high") + share * (warmest - at) + slack
        return held("head", found.over_k, low_k, high_k, sentence("Condensing is {value} over return air; {low} to {high} is usual."))
    rule = f"coil.{BOX_KINDS[context.plate.kind]}_over" if context.plate.kind in BOX_KINDS else "coil.cooling_over"
    low_k, high_k = profile.value(f"{rule}_low") - slack, profile.value(f"{rule}_high") + slack
    return held(
        "head", found.over_k, low_k, high_k, sentence("Condensing is {value} over the air that cools it; {low} to {high} is usual.")
    )
