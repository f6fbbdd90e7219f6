"""What Plan the change hands to the steps after it."""

from yoshi_core import refrigerants
from yoshi_core.frozen import dataclass
from yoshi_core.retrofit import candidates as retrofit
from yoshi_core.retrofit.candidates import Candidate, Charge, Present


@dataclass(frozen=True)
class Change:
    """What later steps build on: from what to what, at which charges, and how it is finished.

    `by_weight`: all of it is weighed in, nothing is trimmed. `candidate` has what the cycle says of valve and glide;
    `glide_more_k` is how much more of it the condenser has, in K.
    """

    old: str
    new: str
    present: Present
    candidate: Candidate
    charge: Charge | None
    by_weight: bool
    glide_more_k: float = 0.0

    @property
    def oil_changes(self) -> bool:
        """Whether the oil in it does not carry with the new refrigerant; False too while it is not known."""
        oil = (self.present.oil or "").strip()
        return bool(oil) and not retrofit.oil_suits(refrigerants.get(self.new), oil)
