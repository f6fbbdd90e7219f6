"""People of the shop and their roles."""

from django.db import transaction

from accounts.models import Person, Shop
from accounts.once import once
from accounts.queries import shop_of
from yoshi_core.errors import InvalidInput

ROLES = dict(Person.ROLES)


def add_person(person: Person, key: str, username: str, name: str, role: str, password: str) -> dict[str, str]:
    """Somebody new who may sign in. Raises `InvalidInput` naming the field."""
    shop = shop_of(person)

    def act(_: Shop) -> dict[str, str]:
        if Person.objects.filter(username=username).exists():
            raise InvalidInput("This name for signing in is taken.", path="/username")
        if role not in ROLES:
            raise InvalidInput(f"A role is one of {', '.join(ROLES.values())}.", path="/role")
        if len(password) < 12:
            raise InvalidInput("A password takes at least 12 characters.", path="/password")
        made = Person(username=username, shown_name=name, role=role, shop=shop)
        made.set_password(password)
        made.save()
        return {"username": username}

    content = {"person": username, "name": name, "role": role}
    return once(shop, key, content, lambda: Shop.objects.select_for_update().get(pk=shop.pk), act)


def set_role(person: Person, username: str, role: str) -> None:
    """Change a role. The last owner stays one, or nobody could change it back."""
    if role not in ROLES:
        raise InvalidInput(f"A role is one of {', '.join(ROLES.values())}.", path="/role")
    with transaction.atomic():
        shop = Shop.objects.select_for_update().get(pk=shop_of(person).pk)
        other = Person.objects.get(shop=shop, username=username)
        owners = Person.objects.filter(shop=shop, role="owner").exclude(pk=other.pk)
        if other.role == "owner" and role != "owner" and not owners.exists():
            raise InvalidInput("The shop needs an owner: make somebody else owner first.", path="/role")
        other.role = role
        other.save(update_fields=["role"])
