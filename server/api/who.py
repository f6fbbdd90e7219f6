"""Who asks."""

from django.http import HttpRequest

from accounts.models import Person, Shop
from accounts.queries import shop_of
from yoshi_core.units.display import System


def person_of(request: HttpRequest) -> Person:
    """The signed-in person; the API's session check came before."""
    person = request.user
    if not isinstance(person, Person):
        raise PermissionError("Sign in first.")
    return person


def asking_shop(request: HttpRequest) -> Shop:
    return shop_of(person_of(request))


def units_of(request: HttpRequest) -> System:
    """The units the person of a request reads; the trade's where nobody is signed in."""
    person = getattr(request, "user", None)
    return "si" if isinstance(person, Person) and person.units == "si" else "us"
