"""What was read on the running unit, and what follows from it at once."""

from collections.abc import Mapping
from dataclasses import field
from typing import Literal

from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, sentence
from yoshi_core.profile.fixed import fixed
from yoshi_core.properties import saturation
from yoshi_core.units.display import Amount

Family = Literal["valve", "fixed"]
FEATURES = ("evaporating", "over_outdoor", "superheat", "subcooling", "split", "power", "standing")
EVAPORATOR_DEW_SHARE = 0.6
SLACK_K = 1.5


@dataclass(frozen=True)
class Observed:
    """Readings of a unit in cooling: absolute pressures in Pa, temperatures in K; what was not read is None.

    `power_share` is current or power over rated. `standing_pa` was read switched off and equalized, with
    `standing_cold_k` the coldest part then. `subcooling_target_k` is the plate's, else None.
    `checks` are results of cheap checks by their id.
    """

    refrigerant: str
    family: Family
    suction_pa: float | None = None
    suction_line_k: float | None = None
    liquid_pa: float | None = None
    liquid_line_k: float | None = None
    outdoor_k: float | None = None
    return_k: float | None = None
    return_wet_bulb_k: float | None = None
    supply_k: float | None = None
    power_share: float | None = None
    subcooling_target_k: float | None = None
    standing_pa: float | None = None
    standing_cold_k: float | None = None
    checks: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Derived:
    """Saturation and differences in K, `standing_k` of standing saturation over the coldest part; None where a reading is missing. Means are for coil rules, never for superheat or subcooling."""

    evaporating_k: float | None
    condensing_k: float | None
    bubble_k: float | None
    superheat_k: float | None
    subcooling_k: float | None
    over_outdoor_k: float | None
    split_k: float | None
    standing_k: float | None


def derive(observed: Observed) -> Derived:
    """Superheat on dew, subcooling on bubble, coil means by glide.

    Raises `OutOfRange`, `UnknownRefrigerant`, and `InvalidInput` for suction above liquid.
    """
    name = observed.refrigerant
    evaporating = superheat = condensing = bubble = subcooling = None
    if observed.suction_pa is not None and observed.liquid_pa is not None and observed.suction_pa > observed.liquid_pa:
        raise InvalidInput("Suction pressure is above liquid pressure: the hoses or the two entries are swapped.", path="/suction_pa")
    if observed.suction_pa is not None:
        dew = saturation.dew_temperature_k(name, observed.suction_pa)
        low_bubble = saturation.bubble_temperature_k(name, observed.suction_pa)
        evaporating = EVAPORATOR_DEW_SHARE * dew + (1.0 - EVAPORATOR_DEW_SHARE) * low_bubble
        superheat = None if observed.suction_line_k is None else observed.suction_line_k - dew
    if observed.liquid_pa is not None:
        bubble = saturation.bubble_temperature_k(name, observed.liquid_pa)
        condensing = 0.5 * (bubble + saturation.dew_temperature_k(name, observed.liquid_pa))
        subcooling = None if observed.liquid_line_k is None else bubble - observed.liquid_line_k
    over = None if condensing is None or observed.outdoor_k is None else condensing - observed.outdoor_k
    split = None if observed.return_k is None or observed.supply_k is None else observed.return_k - observed.supply_k
    standing = None
    if observed.standing_pa is not None and observed.standing_cold_k is not None:
        mean = 0.5 * (
            saturation.dew_temperature_k(name, observed.standing_pa) + saturation.bubble_temperature_k(name, observed.standing_pa)
        )
        standing = mean - observed.standing_cold_k
    return Derived(evaporating, condensing, bubble, superheat, subcooling, over, split, standing)


def impossible(observed: Observed, derived: Derived) -> tuple[Message, ...]:
    """What cannot be true together: liquid leaves the condenser no colder than the air that cools it."""
    said = []
    liquid_k = observed.liquid_line_k
    if liquid_k is not None and observed.outdoor_k is not None and liquid_k < observed.outdoor_k - SLACK_K:
        said.append(
            Message(
                "The liquid line reads {line}, colder than the outdoor air at {air} that cools it: "
                "an instrument is wrong, or it is another refrigerant.",
                {"line": Amount(liquid_k, "temperature"), "air": Amount(observed.outdoor_k, "temperature")},
            )
        )
    if liquid_k is not None and observed.outdoor_k is None and derived.subcooling_k is not None and derived.subcooling_k > 0.0:
        said.append(
            Message(
                "Outdoor air above {air} is impossible with these readings: subcooling ends there.",
                {"air": Amount(liquid_k, "temperature")},
            )
        )
    if derived.superheat_k is not None and derived.superheat_k < -2.0 * SLACK_K:
        said.append(
            Message(
                "Superheat of {value} is below zero by more than clamps are wrong: check the clamp, the gauge and the refrigerant.",
                {"value": Amount(derived.superheat_k, "temperature_delta")},
            )
        )
    wet_k, dry_k = observed.return_wet_bulb_k, observed.return_k
    if wet_k is not None and dry_k is not None and wet_k > dry_k + fixed("air.wet_over_dry"):
        text = sentence("A wet bulb is never over its dry bulb: {wet} against {dry}. Read both again; the two may be swapped.")
        said.append(Message(text, {"wet": Amount(wet_k, "temperature"), "dry": Amount(dry_k, "temperature")}))
    return tuple(said)
