"""Before nitrogen goes in: what is inside, the lowest stamp of everything connected, and whether the bottle lasts."""

from collections.abc import Mapping, Sequence

from yoshi_core import refrigerants
from yoshi_core.charge import recovery
from yoshi_core.charge.volume import Volume
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import value_of
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, Named, joined, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.properties.atmosphere import absolute_pa
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.inside import may_hold_refrigerant
from yoshi_core.steps.pressure_hold.sheet import HoldSheet
from yoshi_core.steps.sections import open_stamps, rest_alone, unit_shut_in
from yoshi_core.tight_and_dry import nitrogen
from yoshi_core.tight_and_dry.nitrogen import Needs
from yoshi_core.units.display import Amount

STAMPS = "stamps of the equipment"


@dataclass(frozen=True)
class Plan:
    """Lowest stamp and planned test pressure as gauge pressures in Pa, None while unknown; what the bottle reads after it."""

    lowest_pa: float | None
    lowest_label: str
    test_pa: float | None
    left_pa: float | None


def judge_plan(sheet: HoldSheet, volume: Volume, notes: Notes, context: StepContext) -> Plan:
    """What must be known and right before the valve is opened."""
    _empty(sheet, notes, context)
    notes.need(context.path("gas"), "test gas", sheet.gas, hard=True)
    if sheet.gas == "other":
        _danger("hold.gas", sentence("Only dry nitrogen. Oxygen or compressed air with oil explodes."), TRADE, sheet, notes)
    if sheet.from_low:
        text = sentence(
            "From a cylinder that stands no higher than the test, its own pressure is the limit. Never so from a nitrogen bottle."
        )
        notes.say("hold.from_low", "Open", text, TRADE)
    elif notes.need(context.path("regulator"), "regulator and relief valve on", sheet.regulator, hard=True) and sheet.regulator is False:
        text = sentence("Never straight from the bottle: a regulator, and a relief valve below the lowest stamp.")
        _danger("hold.regulator", text, TRADE, sheet, notes)
    lowest, label = lowest_stamp(sheet, Plate() if unit_shut_in(context) else context.plate, open_stamps(context))
    test = value_of(sheet.test_pressure)
    if lowest is None and sheet.no_stamp:
        text = sentence(
            "No stamp was found on anything connected, so nothing here says how much it takes. Closing it needs a name and a reason."
        )
        notes.say("hold.no_stamp", "Wait", text, STAMPS)
    elif lowest is None:
        text = sentence("the lowest pressure stamped on anything connected")
        notes.need(context.path("stamps", "s1", "pressure"), text, None)
    rest = rest_alone(context, "hold")
    if rest:
        notes.say("hold.lines", "Open", rest, TRADE)
    notes.need(context.path("test_pressure"), "test pressure", sheet.test_pressure)
    if lowest is not None and test is not None:
        _held_against(test, lowest, label, sheet, notes)
    _low_pressure_machine(test, sheet, notes, context)
    _through_a_port(lowest, sheet, notes, context)
    notes.need(context.path("fed"), "pressure fed to", sheet.fed)
    if sheet.fed == "one":
        text = sentence(
            "An expansion valve may shut hard: one side is then not tested at all. Feed both, or see the other side follow within minutes."
        )
        notes.say("hold.fed", "Wait", text, TRADE)
    notes.need(context.path("metal_by"), "pipe temperature read by", sheet.metal_by)
    notes.need(context.path("filled_at"), "filled at", sheet.filled_at)
    if sheet.filled_at is not None:
        _bubbles(sheet, notes, context)
    return Plan(lowest, label, test, _bottle(sheet, test, volume, notes, context))


def _bubbles(sheet: HoldSheet, notes: Notes, context: StepContext) -> None:
    """A sensitive test at every joint made: the hold itself is blind to a small leak."""
    notes.need(context.path("bubbles"), "bubbles on every joint", sheet.bubbles)
    if sheet.bubbles == "leaks":
        notes.say("hold.bubbles", "Stop", "A joint bubbles: it leaks there. Let it down, mend it, and hold again.", TRADE)
    elif sheet.bubbles == "no":
        notes.say("hold.bubbles", "Open", "Bubbles on every joint while it waits: a hold alone does not see a small leak.", TRADE)
    elif sheet.bubbles == "some":
        notes.say("hold.bubbles", "Open", "Joints that were not reached are not tested: a hold alone does not see a small leak.", TRADE)
    elif sheet.bubbles == "unsaid":
        notes.need(context.path("bubbles"), "what the bubbles showed", None)


def _danger(
    rule_id: str,
    text: str,
    source: str,
    sheet: HoldSheet,
    notes: Notes,
    amounts: Mapping[str, Amount] | None = None,
    words: Mapping[str, Named] | None = None,
) -> None:
    """A Stop no reason lifts, until it is let down; what was done then stays in the record as a remark."""
    said = Message(text)
    if sheet.let_down_at is None:
        notes.tell(rule_id, "Stop", said, source, amounts or {}, words, role="hard")
    else:
        notes.tell(rule_id, "Open", joined(Message("Done, and let down since."), said), source, amounts or {}, words)


def _empty(sheet: HoldSheet, notes: Notes, context: StepContext) -> None:
    if may_hold_refrigerant(context):
        text = sentence(
            "Refrigerant may still be inside: Recover does not say that it is empty. Never put nitrogen on top of it; recover first."
        )
        _danger("hold.refrigerant", text, TRADE, sheet, notes)


def lowest_stamp(sheet: HoldSheet, plate: Plate, parts: Sequence[tuple[float, str]] = ()) -> tuple[float | None, str]:
    """The lowest pressure stamped on the plate, on parts that are open or on anything else connected, and what carries it."""
    stamped = [(row.pressure.value, row.label or "a stamp") for row in sheet.stamps.values() if row.pressure is not None]
    stamped += parts
    if plate.design_low is not None:
        stamped.append((plate.design_low.value, "the plate, low side"))
    if plate.design_high is not None and (plate.design_low is not None or sheet.stamps):
        stamped.append((plate.design_high.value, "the plate, high side"))
    return min(stamped, default=(None, ""), key=lambda pair: pair[0] or 0.0)


def _held_against(test: float, lowest: float, label: str, sheet: HoldSheet, notes: Notes) -> None:
    amounts = {"value": Amount(test, "gauge_pressure"), "limit": Amount(lowest, "gauge_pressure")}
    if test > lowest * (1.0 + 1e-9):
        text = sentence("{value} is above the lowest stamp connected: {limit} on {label}.")
        _danger("hold.stamp", text, STAMPS, sheet, notes, amounts, {"label": label})
    else:
        notes.tell("hold.stamp", "Holds", "{value} stays under the lowest stamp: {limit} on {label}.", STAMPS, amounts, {"label": label})


def _through_a_port(lowest: float | None, sheet: HoldSheet, notes: Notes, context: StepContext) -> None:
    """More than the system takes, put on a blocked port to free it: asked whether the system was behind it; only then it is a Stop."""
    limits = [lowest, context.profile.value("hold.low_pressure") if low_pressure(context.plate) else None]
    known = [limit for limit in limits if limit is not None]
    for key, act in context.job.acts.items():
        if act.kind != "freed" or not act.was_done or act.pressure is None or not known or act.pressure.value <= min(known):
            continue
        amounts = {"value": Amount(act.pressure.value, "gauge_pressure"), "limit": Amount(min(known), "gauge_pressure")}
        notes.need(f"/acts/{key}/behind", "whether the system stood open behind the blocked port", act.behind)
        if act.behind:
            text = sentence("{value} went on the system through a port: it takes {limit}.")
            _danger("hold.port", text, STAMPS, sheet, notes, amounts)
        elif act.behind is None:
            text = sentence("{value} were put on a blocked port, and the system takes {limit}. Was the system open behind it?")
            notes.tell("hold.port", "Wait", text, STAMPS, amounts)
        else:
            text = sentence("{value} were on the port alone, the system shut off from it.")
            notes.tell("hold.port", "Open", text, STAMPS, amounts)


def low_pressure(plate: Plate) -> bool:
    """Whether this is a low-pressure machine, by its refrigerant's class."""
    name = plate.refrigerant
    return bool(name and plate.kind == "chiller" and refrigerants.is_known(name) and recovery.pressure_class(name) == "low")


def _low_pressure_machine(test: float | None, sheet: HoldSheet, notes: Notes, context: StepContext) -> None:
    limit = context.profile.value("hold.low_pressure")
    if test is not None and low_pressure(context.plate) and test > limit:
        text = sentence("A low-pressure machine takes at most {limit}, not {value}: its rupture disc lets go soon above.")
        amounts = {"value": Amount(test, "gauge_pressure"), "limit": Amount(limit, "gauge_pressure")}
        _danger("hold.low_pressure", text, context.profile.source("hold.low_pressure"), sheet, notes, amounts)


def _bottle(sheet: HoldSheet, test: float | None, volume: Volume, notes: Notes, context: StepContext) -> float | None:
    """What the bottle reads once the system is filled, the volume taken at the upper end of its band."""
    reads, holds = value_of(sheet.bottle_pressure), nitrogen.bottle_m3(value_of(sheet.bottle_volume), sheet.bottle_size)
    if reads is None or holds is None or test is None:
        return None
    site = absolute_pa(0.0, "vented", value_of(context.plate.altitude) or 0.0)
    largest = volume.m3 * volume.band
    left = nitrogen.account(reads, holds, largest, Needs(test_pa=test), site, context.profile).left_pa
    reach = (reads * holds) / (holds + largest)
    amounts = {"value": Amount(left, "gauge_pressure"), "limit": Amount(test, "gauge_pressure"), "reach": Amount(reach, "gauge_pressure")}
    if left < test:
        text = sentence("The bottle does not last: it and the system would meet at {reach}, under the {limit} asked for.")
        notes.tell("hold.bottle", "Wait", text, TRADE, amounts)
        return left
    notes.tell("hold.bottle", "Holds", "The bottle lasts: {value} are left in it at {limit} in the system.", TRADE, amounts)
    repaired = context.handed.repair
    breaks, sweeps = nitrogen.after(None, bool(repaired is not None and repaired.wet))
    later = nitrogen.account(reads, holds, largest, Needs(test_pa=test, breaks=breaks, sweeps=sweeps), site, context.profile)
    if breaks and later.left_pa < 0.0:
        text = sentence("Not enough for the evacuation: it is wet, and two breaks with nitrogen take {takes} more than the bottle has.")
        notes.say("hold.bottle_later", "Open", text, TRADE, takes=Amount(later.takes_m3 - later.gives_m3, "volume"))
    return left
