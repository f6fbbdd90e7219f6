"""Who asks."""

from django.http import HttpRequest

from accounts.models import Person, Shop
from accounts.queries import shop_of


def person_of(request: HttpRequest) -> Person:
    """The signed-in person; the API's session check came before."""
    person = request.user
    if not isinstance(person, Person):
        raise PermissionError("Sign in first.")
    return person


def asking_shop(request: HttpRequest) -> Shop:
    return shop_of(person_of(request))
