"""`new_shop`: a shop and its first owner, who chooses a password by the link this prints."""

from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.db import transaction

from accounts import trail
from accounts.actions.access import invite, link_for
from accounts.actions.people import mail_address
from accounts.models import Person, Shop
from accounts.texts import one_line
from yoshi_core.errors import CoreError


class Command(BaseCommand):
    help = "Make a shop with its first owner."

    def add_arguments(self, parser: ArgumentParser) -> None:
        for name in ("shop", "owner", "name"):
            parser.add_argument(f"--{name}", required=True)
        parser.add_argument("--mail", default="")

    def handle(self, *args: Any, **options: Any) -> None:
        """Made once: the same owner again gets a new link while no password is chosen."""
        try:
            with transaction.atomic():
                person = Person.objects.filter(username=options["owner"]).select_related("shop").first() or self._made(options)
        except CoreError as error:
            raise CommandError(error.message) from None
        if person.has_usable_password() or person.shop is None or person.shop.name != options["shop"].strip():
            raise CommandError(f"{person.username} signs in here already.")
        self.stdout.write(f"{settings.PUBLIC_URL}{link_for(person, 'invitation')}")

    def _made(self, options: dict[str, Any]) -> Person:
        shop = Shop.objects.create(name=one_line(options["shop"], 120, "/shop", "The shop's name"))
        shown = one_line(options["name"], 80, "/name", "A name")
        person = Person(username=options["owner"], shown_name=shown, role="owner", shop=shop, email=mail_address(options["mail"]))
        person.set_unusable_password()
        person.save()
        trail.note(shop, None, "made the shop", shop.name, owner=person.username)
        invite(person)
        return person
