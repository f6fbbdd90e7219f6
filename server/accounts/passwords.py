"""What a password is: 8 to 128 characters, any of them, and not one that everybody uses.

Without a second factor at least 15, unless the owner has lowered it for the shop (NIST SP 800-63B revision 4, from memory).
None is required, and none runs out.
"""

import unicodedata

from django.contrib.auth.password_validation import CommonPasswordValidator
from django.core.exceptions import ValidationError

from accounts.models import LONGEST, SHORTEST_WITH_SECOND, Person
from yoshi_core.errors import InvalidInput

_COMMON = CommonPasswordValidator()


def normal(password: str) -> str:
    """The same characters however a keyboard composes them (NFKC)."""
    return unicodedata.normalize("NFKC", password)


def shortest_for(person: Person, *, second_factor: bool) -> int:
    if second_factor or person.shop is None:
        return SHORTEST_WITH_SECOND
    return person.shop.shortest_password


def check(person: Person, password: str, *, second_factor: bool, path: str = "/password") -> str:
    """The password as it is kept. Raises `InvalidInput` with what it lacks."""
    password = normal(password)
    shortest = shortest_for(person, second_factor=second_factor)
    if not shortest <= len(password) <= LONGEST:
        raise InvalidInput(
            "A password here has {shortest} to {longest} characters, any you like; this has {count}.",
            words={"shortest": shortest, "longest": LONGEST, "count": len(password)},
            path=path,
        )
    if any(unicodedata.category(letter) == "Cs" for letter in password):
        raise InvalidInput("There is half a character in this password; type it again.", path=path)
    try:
        _COMMON.validate(password)
    except ValidationError:
        raise InvalidInput("Too many people use this password, and those who guess try it first. Take another.", path=path) from None
    if password.casefold() in {person.username.casefold(), person.shown_name.casefold(), person.email.casefold()}:
        raise InvalidInput("Your own name is the first thing anybody tries. Take another.", path=path)
    return password
