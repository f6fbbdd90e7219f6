"""Thresholds that belong to a method and not to a shop's practice: named once, each with why and where it is from.

They are not on the profile page: who changed one would have to run the study named beside it anew.
"""

from yoshi_core.frozen import dataclass
from yoshi_core.profile.rules import TRADE

STUDY = "tuned on one seed of bench/tight_dry_study.py, published on another"
STATISTICS = "usual statistical practice"


@dataclass(frozen=True)
class Fixed:
    """A figure in SI, or a count or share; why it is that, and its source."""

    value: float
    why: str
    source: str


FIXED: dict[str, Fixed] = {
    "decay.better": Fixed(6.0, "one model must beat the other by a score about e³ times as likely before it is believed", STATISTICS),
    "decay.sure": Fixed(3.0, "a slope passes with three standard uncertainties on it: one wrong pass in some hundreds", STATISTICS),
    "decay.leak_sure": Fixed(2.0, "a leak is called with two: a false alarm costs a look, a missed leak costs the charge", STATISTICS),
    "decay.leak_window": Fixed(300.0, "under five minutes what evens out inside looks like a leak", TRADE),
    "decay.both_points": Fixed(7, "leak and moisture together have four unknowns; three readings more than that", STATISTICS),
    "decay.peak": Fixed(300.0, "a peak in the first five minutes is pressure evening out, not a rise", TRADE),
    "decay.unseen": Fixed(
        60.0, "between readings further apart a peak in the first five minutes may rise and half come down unseen", TRADE
    ),
    "decay.unseen_fall": Fixed(900.0, "a peak nobody saw is taken to come down with up to so long a time constant", TRADE),
    "decay.pulling": Fixed(180.0, "what only falls for three minutes is not isolated", TRADE),
    "decay.two": Fixed(3, "with fewer readings nothing is fitted", STATISTICS),
    "decay.tail_points": Fixed(5, "so many last readings say whether it has levelled off", STUDY),
    "decay.scatter_points": Fixed(8, "so many readings say how far they really scatter", STATISTICS),
    "decay.slowest_share": Fixed(4.0, "moisture may take up to four windows to level off before it is called a leak alone", STUDY),
    "decay.slower": Fixed(2.0, "a slower levelling off replaces a faster one when it fits better by this score", STATISTICS),
    "decay.levelled": Fixed(2.5, "a rise is called levelling off when it was watched for so many of its time constants", STUDY),
    "decay.water_most": Fixed(
        6630.0, "what water holds at 100 °F, in Pa: above that it is not moisture", "vapour pressure of water (ASHRAE, by PsychroLib)"
    ),
    "decay.most_readings": Fixed(400, "further readings reckoned with in forecasting when two models stand apart", STUDY),
    "decay.farthest": Fixed(9.0, "nothing is forecast beyond so many times what was watched", STUDY),
    "decay.good_fit": Fixed(1.5, "readings that scatter more than this share of what was allowed for do not sharpen a slope", STUDY),
    "decay.independent": Fixed(10.0, "readings closer than ten seconds see the same gas", TRADE),
    "decay.gauge_floor": Fixed(1.05, "readings within a twentieth of a gauge's lowest are its floor, not the system", TRADE),
    "air.wet_over_dry": Fixed(0.6, "two thermometers in the same air differ by a degree Fahrenheit or so", TRADE),
    "verify.wet_over_dry": Fixed(30.0, "a wet bulb so far over the air outside is the two entries swapped", TRADE),
    "cylinder.warmest": Fixed(324.82, "warmer than 125 °F liquid may fill it to the brim", "cylinder labels, 125 °F (52 °C)"),
    "decay.at_once": Fixed(30.0, "a reading within half a minute of shutting off is where the rise begins", TRADE),
    "decay.just_before": Fixed(
        300.0, "the gauge on a running pump hardly moves in five minutes: its last reading is where the rise begins", TRADE
    ),
    "weigh_in.short_share": Fixed(1.0 / 3.0, "a cylinder short by under a third of what the charge may be out still does", TRADE),
    "hold.settles_by": Fixed(0.02, "nitrogen warmed by its filling loses up to a fiftieth of its pressure as it cools to the metal", TRADE),
    "hold.settles_first": Fixed(
        600.0, "for ten minutes after filling gas may be so much warmer than its metal that a loss tells nothing", TRADE
    ),
    "hold.below_search": Fixed(0.97, "a hold may be so much below the pressure of the search before it is not the last word on it", TRADE),
}


def fixed(name: str) -> float:
    """The figure of that name; `KeyError` for one there is not."""
    return FIXED[name].value
