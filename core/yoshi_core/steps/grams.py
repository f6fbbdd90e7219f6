"""Which charges are named in grams first, whatever else a person reads in pounds and ounces."""

from yoshi_core import refrigerants
from yoshi_core.document.plate import Plate
from yoshi_core.profile.profile import Profile


def grams_first(plate: Plate, total_kg: float | None, profile: Profile) -> bool:
    """A charge the plate gives in grams, a small one, and any of the most flammable class, whose limits are in grams.

    Common practice, no source: small scales read in grams, and a tenth of an ounce is too coarse for them.
    """
    if plate.factory_charge is not None and plate.factory_charge.unit == "g":
        return True
    name = plate.refrigerant
    if name is not None and refrigerants.is_known(name) and refrigerants.get(name).safety_class.endswith("3"):
        return True
    return total_kg is not None and total_kg <= profile.value("weigh_in.grams")
