"""People of the shop: invited, given a role, sent a new link, ended and taken back."""

from typing import Any

from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import transaction

from accounts import asking, trail
from accounts.actions import second_factor
from accounts.actions.access import end_sessions, invite, link_for
from accounts.models import LONGEST, MOST_OFFLINE_DAYS, OFFLINE_DAYS, SHORTEST, SHORTEST_WITH_SECOND, Person, Shop
from accounts.once import lock_shop, once
from accounts.queries import shop_of
from accounts.retry import again_when_met
from accounts.texts import one_line
from yoshi_core.errors import InvalidInput, OutOfRange

ROLES = dict(Person.ROLES)


def add_person(person: Person, key: str, username: str, name: str, role: str, mail: str) -> str:
    """Somebody new, by invitation: the link by which they set their password. Raises `InvalidInput` naming the field."""
    shop = shop_of(person)

    def act(_: Shop) -> dict[str, str]:
        if Person.objects.filter(username=username).exists():
            raise InvalidInput("This name for signing in is taken.", path="/username")
        made = Person(
            username=username, shown_name=one_line(name, 80, "/name", "A name"), role=_role(role), shop=shop, email=mail_address(mail)
        )
        made.set_unusable_password()
        made.save()
        invite(made)
        asking.tell(username)
        return {"username": username}  # the link is never kept

    content = {"person": username, "name": name, "role": role, "mail": mail}
    made = once(shop, key, content, lambda: lock_shop(shop), act)
    return link_for(Person.objects.get(username=made["username"]), "invitation")


def _role(role: str) -> str:
    if role not in ROLES:
        raise InvalidInput("A role is one of {known}.", words={"known": tuple(ROLES.values())}, path="/role")
    return role


def mail_address(mail: str) -> str:
    """A mail address, or nothing. Raises `InvalidInput` for what is none."""
    mail = mail.strip()
    if mail:
        try:
            validate_email(mail)
        except ValidationError:
            raise InvalidInput("This is no mail address.", path="/mail") from None
    return mail


@again_when_met
@transaction.atomic
def change_person(person: Person, username: str, changed: dict[str, Any]) -> None:
    """Another role, address or name, an account ended or taken back. The last owner stays one, or nobody could change it back."""
    shop = lock_shop(shop_of(person))
    other = Person.objects.get(shop=shop, username=username)
    role, active = _role(changed.get("role", other.role)), bool(changed.get("active", other.is_active))
    owners = Person.objects.filter(shop=shop, role="owner", is_active=True).exclude(pk=other.pk)
    if other.role == "owner" and (role != "owner" or not active) and not owners.exists():
        raise InvalidInput("The shop needs an owner: make somebody else owner first.", path="/role" if active else "/active")
    before = {"role": other.role, "active": other.is_active, "mail": other.email, "name": other.shown_name}
    other.role, other.is_active = role, active
    other.email = mail_address(changed.get("mail", other.email))
    other.shown_name = one_line(changed.get("name", other.shown_name), 80, "/name", "A name")
    other.save(update_fields=["role", "is_active", "email", "shown_name"])
    after = {"role": role, "active": active, "mail": other.email, "name": other.shown_name}
    if not active:
        end_sessions(other)
    trail.note_asked(shop, **{name: f"{before[name]} → {value}" for name, value in after.items() if value != before[name]})


@again_when_met
@transaction.atomic
def new_link(person: Person, username: str) -> str:
    """A link by which somebody of the shop sets a new password; the old one and their second factor are no more good, and they are signed out."""
    shop = shop_of(person)
    other = Person.objects.select_for_update().get(shop=shop, username=username, is_active=True)
    other.set_unusable_password()
    other.save(update_fields=["password"])
    end_sessions(other)
    if second_factor.is_on(other):
        second_factor.turn_off(other, person)
    trail.note_asked(shop)
    return invite(other)


@again_when_met
@transaction.atomic
def change_shop(person: Person, name: str, shortest_password: int, offline_days: int | None = None) -> None:
    """The shop's name, the shortest password without a second factor, and how long a device works on by itself (None leaves it)."""
    shop = lock_shop(shop_of(person))
    days = shop.offline_days if offline_days is None else offline_days
    if not 1 <= days <= MOST_OFFLINE_DAYS:
        raise OutOfRange(
            "Without signal a device works on for 1 to {most} days; {advised} is advised.",
            words={"most": MOST_OFFLINE_DAYS, "advised": OFFLINE_DAYS},
            path="/offline_days",
            value=days,
        )
    if not SHORTEST_WITH_SECOND <= shortest_password <= LONGEST:
        raise OutOfRange(
            "The shortest password is between {least} and {most} characters long; {advised} is advised.",
            words={"least": SHORTEST_WITH_SECOND, "most": LONGEST, "advised": SHORTEST},
            path="/shortest_password",
            value=shortest_password,
        )
    before = (shop.name, shop.shortest_password, shop.offline_days)
    shop.name, shop.shortest_password = one_line(name, 120, "/name", "The shop's name"), shortest_password
    shop.offline_days = days
    if not shop.name:
        raise InvalidInput("The shop needs a name; records show it.", path="/name")
    shop.save(update_fields=["name", "shortest_password", "offline_days"])
    after = (shop.name, shop.shortest_password, shop.offline_days)
    trail.note_asked(shop, was=", ".join(map(str, before)), now=", ".join(map(str, after)))
