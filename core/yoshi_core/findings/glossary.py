"""The trade's words in a sentence each, for whoever meets one for the first time: common practice, no source."""

from yoshi_core.frozen import dataclass


@dataclass(frozen=True)
class Term:
    """A word with what it means; `also` are its other forms and names, as they stand on the screens."""

    word: str
    meaning: str
    also: tuple[str, ...] = ()


def _term(word: str, meaning: str, *also: str) -> Term:
    return Term(word, meaning, also)


GLOSSARY: tuple[Term, ...] = (
    _term("accumulator", "A vessel in the suction line that keeps liquid away from the compressor. It holds charge that is slow to move."),
    _term("approach", "How far the liquid line is above the air or water that cools the condenser."),
    _term("as found", "What the system reads before anything is done to it.", "fingerprint"),
    _term("blend", "A refrigerant made of two or more. It is charged as liquid, or its mix changes.", "zeotropic"),
    _term("bubble", "The temperature at which liquid begins to boil at a pressure. Subcooling is counted from it.", "bubble point"),
    _term("capillary", "A thin fixed tube that meters the refrigerant. The charge must be right to the gram.", "cap tube"),
    _term("circuit", "One closed loop of refrigerant. A system has one or more.", "circuits"),
    _term("critically charged", "It runs right only with the exact weight: small systems with a capillary."),
    _term("data plate", "The plate on the unit with refrigerant, charge and pressures. It comes before any rule of thumb.", "plate"),
    _term("decay test", "Shut the pump off and watch the vacuum: a climb that levels off is moisture, one that goes on is a leak."),
    _term("design pressure", "The highest pressure the side is built for, off the data plate.", "design, high side", "design, low side"),
    _term("dew", "The temperature at which vapour begins to condense at a pressure. Superheat is counted from it.", "dew point"),
    _term("drier", "The filter that takes water and dirt out of the liquid. It is new after every opening.", "filter drier"),
    _term("EEV", "An expansion valve moved by a motor. It is charged by subcooling, in the maker's test mode.", "electronic valve"),
    _term("evacuation", "Pulling the air and the water out with a vacuum pump before the charge goes in.", "evacuate", "vacuum"),
    _term("fixed orifice", "A metering device with one size of hole. It is charged by superheat.", "orifice", "piston"),
    _term("flash gas", "Bubbles in the liquid line: it is short of subcooling, or something restricts it."),
    _term("gauge pressure", "Pressure above the air around you. It changes with altitude; absolute pressure does not.", "psig"),
    _term("glide", "How far bubble and dew of a blend lie apart at one pressure."),
    _term("gross", "What the scale reads with cylinder and refrigerant together."),
    _term("GWP", "How much a refrigerant warms the air, compared with the same weight of CO₂."),
    _term("head pressure", "The pressure on the high side while it runs.", "high side", "discharge pressure"),
    _term("heel", "What stays in a cylinder because it will not come out as liquid."),
    _term("included length", "The line length that the factory charge already covers.", "line length it covers"),
    _term("isolation valve", "A valve between pump and system. Shut it before the decay test, so that the pump cannot leak in.", "isolate"),
    _term("line set", "The two lines between outdoor and indoor unit.", "lines"),
    _term("line-set allowance", "What a longer line takes on top of the factory charge, by the foot or metre.", "allowance"),
    _term("liquid line", "The small warm line from the condenser to the metering device.", "liquid pressure"),
    _term("low side", "Evaporator, suction line and compressor inlet: the cold side of a cooling system."),
    _term("metering device", "What lets the liquid into the evaporator: orifice, TXV, EEV or capillary."),
    _term("micron", "A unit of vacuum: a thousandth of a millimetre of mercury. Dry and tight is under 500.", "microns"),
    _term("net", "What is in the cylinder: gross less tare."),
    _term("nitrogen", "Dry gas for pressure tests, and for brazing without scale. Always through a regulator and a relief valve."),
    _term("non-condensables", "Air or nitrogen left in the system. Head pressure is high for the condensing temperature.", "air in it"),
    _term("overcharge", "More in it than belongs in it: high subcooling, high head pressure.", "overcharged"),
    _term("practice profile", "The limits and the ways of working this shop has chosen, each with its reason."),
    _term("pressure hold", "Nitrogen shut in and watched, with the pipe temperature allowed for.", "pressure test", "hold"),
    _term("pump-down", "Pulling the charge into the condenser or receiver and shutting it in there.", "pumped down"),
    _term("purge", "To push the air out of a hose before it can get into the system.", "purged"),
    _term("receiver", "A vessel after the condenser that stores liquid. Such a system is charged by its sight glass and by weight."),
    _term("recovered", "Taken out of the system into a cylinder, by weight.", "recover", "recovery", "recovery machine"),
    _term("regulator", "The valve that brings a nitrogen bottle down to test pressure."),
    _term("retest", "The date by which a refillable cylinder is tested again. After it, it is not filled.", "retest due"),
    _term("return air", "The air that goes back to the indoor coil. Its wet bulb sets the superheat target.", "wet bulb", "return wet bulb"),
    _term("saturation", "Where liquid and vapour are together: then pressure and temperature belong together.", "saturated"),
    _term("scale mark", "What the scale will read when the right weight has gone in: shut the valve there.", "mark"),
    _term("sight glass", "The window in the liquid line. Bubbles mean little by themselves; so does a clear glass."),
    _term("standing pressure", "The pressure after a long stop. It tells which refrigerant is in it, and not how much."),
    _term("subcooling", "How far the liquid line is colder than bubble at its pressure.", "subcooling target"),
    _term("suction line", "The large cold line from the evaporator to the compressor.", "suction", "suction pressure"),
    _term("superheat", "How far the suction line is warmer than dew at its pressure.", "superheat target", "total superheat"),
    _term("tare", "What the cylinder weighs empty: TW on the collar."),
    _term("target", "The superheat or subcooling the unit should show with the right charge in it."),
    _term("total charge", "All that belongs in it: data plate, lines and parts, with its ±.", "whole charge", "full charge"),
    _term("trim", "The last small additions on the running unit, each with a wait, until the target is met."),
    _term("TXV", "An expansion valve that holds the superheat by itself. It is charged by subcooling.", "expansion valve"),
    _term("undercharge", "Less in it than belongs in it: high superheat, low subcooling.", "short of charge", "undercharged"),
    _term("water capacity", "How much water the cylinder holds: WC on the collar. A refillable one takes 80 % of it as liquid."),
    _term("weigh-in", "Putting the charge in by the scale, to the mark.", "weigh in", "weighing in"),
)  # fmt: skip
