"""Every question on which schools of the trade differ, with a default and its reason."""

from collections.abc import Mapping

from yoshi_core.frozen import dataclass


@dataclass(frozen=True)
class Choice:
    """A question on which schools differ; `options` maps each school to its words."""

    id: str
    text: str
    options: Mapping[str, str]
    default: str
    reason: str


CHOICES: dict[str, Choice] = {
    choice.id: choice
    for choice in (
        Choice(
            "line.shorter_than_included",
            "A line shorter than the plate covers",
            {"leave": "leave the plate charge as it is", "deduct": "deduct the missing length"},
            "leave",
            "Deducting is right only when the maker says so; a little too much line charge is safer than a guess.",
        ),
        Choice(
            "charge.set_by",
            "The charge is set",
            {"weight": "by weight, then verified", "readings": "by superheat or subcooling alone"},
            "weight",
            "Weight does not depend on the weather or on clean coils; readings then prove it.",
        ),
        Choice(
            "retrofit.ozone",
            "Ozone-depleting refrigerants go into a retrofit",
            {"never": "never", "reclaimed": "where reclaimed is sold and the law allows it"},
            "never",
            "Phased out under the Montreal Protocol (from memory); places differ about what is left.",
        ),
        Choice(
            "retrofit.oil",
            "A refrigerant that needs another oil",
            {"change": "may go in: the oil is changed until little of the old is left", "stop": "does not go in"},
            "change",
            "Oil is changed and counted; where a sealed compressor has no drain, or nobody pays for it, it is a stop.",
        ),
        Choice(
            "retrofit.subcooling",
            "Another refrigerant's subcooling is set",
            {
                "coil": "to the plate's, less half of what the condenser's glide has grown",
                "plate": "to the plate's own figure, from bubble",
            },
            "coil",
            "The same liquid in the same coil reads that much less from bubble: the coil works at its mean. "
            "On the practice rig the plate's own figure overfills a blend by a seventh.",
        ),
        Choice(
            "recovered.use",
            "A recovered charge goes",
            {"reuse": "back in, when it is clean and stays with its owner", "new": "for reclaim; new refrigerant goes in"},
            "reuse",
            "Clean refrigerant of the same owner is as good as it was; after a burnout, with acid, or from a blend that leaked far, it is not.",
        ),
        Choice(
            "recovered.last",
            "The last of it that will not leave as liquid",
            {"heel": "stays in the cylinder as its heel", "vapour": "is drawn as vapour, the cylinder warmed"},
            "heel",
            "Vapour of a blend has another composition; of a single refrigerant it may be drawn.",
        ),
        Choice(
            "leak.rate",
            "The yearly leak rate is worked out",
            {
                "annualized": "from the last addition and the time since the one before",
                "rolling": "from all additions of the last 365 days",
            },
            "annualized",
            "It shows a leak that grows sooner; either is allowed, and a place keeps to one.",
        ),
        Choice(
            "leak.checks",
            "Leak checks come round",
            {"co2e": "by CO₂ equivalent: yearly from 5 t, half-yearly from 50 t, quarterly from 500 t", "none": "by no fixed rule"},
            "co2e",
            "EU 517/2014 (from memory); elsewhere it is a sound habit, and local law prevails.",
        ),
        Choice(
            "leak.empty",
            "An empty system is searched",
            {
                "nitrogen": "with dry nitrogen alone",
                "tracer": "with a little of its own refrigerant under nitrogen, where the law allows it",
            },
            "nitrogen",
            "A tracer is refrigerant lost, and not lawful everywhere; its weight stands in the ledger as lost.",
        ),
        Choice(
            "vacuum.proof",
            "A vacuum is proven",
            {
                "stays": "at 500 micron, isolated, when it stays under 500 and does not climb like a leak",
                "thousand": "at 500 micron, isolated, when it stays under 1000 and does not climb like a leak",
                "deep": "at 250 micron, isolated, when it stays under 500 and does not climb like a leak",
            },
            "stays",
            "Pump-on readings flatter; what it does after isolation tells, and 500 leaves room for a gauge's error.",
        ),
        Choice(
            "vacuum.watch",
            "An isolated vacuum is watched",
            {
                "volume": "10 minutes, longer above 50 L, half a day on chillers",
                "five": "5 minutes",
                "ten": "10 minutes",
                "overnight": "overnight on anything above 50 L",
                "day": "a whole day on anything above 50 L",
            },
            "volume",
            "The same leak climbs slower in a larger volume, so a large one is watched longer to see it.",
        ),
        Choice(
            "hold.yardstick",
            "A hold is measured against",
            {
                "none": "what the shop sets, and says what it could not have seen",
                "interval": "a leak that takes the charge's tolerance between two services",
            },
            "none",
            "Few holds are long enough to see what a unit may lose in a year; they say so instead of being called too short.",
        ),
        Choice(
            "vacuum.replaces_hold",
            "A vacuum that holds replaces the pressure hold",
            {"no": "no, both are done", "yes": "yes"},
            "no",
            "A vacuum has one atmosphere to show a leak with, the nitrogen many; and a joint may leak one way only.",
        ),
        Choice(
            "vacuum.gauge",
            "The micron gauge sits",
            {"far": "far from the pump, on its own tee", "manifold": "on a manifold with the other side shut, its way proven open"},
            "far",
            "Near the pump a gauge reads lower than the system is.",
        ),
        Choice(
            "vacuum.pulls",
            "A system is pulled",
            {"wet": "once; three times with nitrogen between when it was wet or long open", "triple": "always three times"},
            "wet",
            "A dry system gains nothing from more pulls; nitrogen carries water out of a wet one.",
        ),
        Choice(
            "weigh_in.order",
            "Of several cylinders the first is",
            {"recovered": "what was recovered, then new", "new": "new, then what was recovered"},
            "recovered",
            "What is the owner's own goes back first, and less of it is left over.",
        ),
        Choice(
            "weigh_in.precharged",
            "A precharged unit is opened",
            {"liquid": "on the liquid side first, slowly", "suction": "on the suction side first"},
            "liquid",
            "The line fills before the compressor can see liquid; the unit's manual prevails.",
        ),
        Choice(
            "weigh_in.low_pressure",
            "A low-pressure vessel is charged",
            {"vapour": "as vapour until it cannot freeze, then as liquid", "liquid": "as liquid at once, drawn by the vacuum"},
            "vapour",
            "Liquid into a deep vacuum boils far below freezing and splits tubes that hold water.",
        ),
        Choice(
            "blend.state",
            "Blends are charged",
            {"liquid": "as liquid, throttled on the suction side", "vapour": "as vapour where the maker allows it"},
            "liquid",
            "Vapour drawn from a blend has another composition than the liquid it leaves behind.",
        ),
        Choice(
            "day.week",
            "The shop works on",
            {"five": "Monday to Friday", "six": "Monday to Saturday", "seven": "every day"},
            "five",
            "The plan puts no work outside the shop's hours; whoever is called out says so on the day.",
        ),
    )
}
