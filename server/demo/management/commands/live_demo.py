"""Pairs the demo's simulated instruments, each with a live job, and writes what they need to post."""

import json
import secrets
from datetime import timedelta
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction
from django.utils import timezone

from accounts.models import Person, Shop
from demo import world
from demo.management.commands.load_demo import make_job
from instruments.actions.pair import begin_pairing, digest, pair, put_on_job
from instruments.models import Gateway
from jobs.models import Job
from standins.kit import load
from systems.models import Circuit

CURRENT = timedelta(hours=2.4)


class Command(BaseCommand):
    help = "Pair the simulated instruments of the demo; writes a file for `python -m standins --config`."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("out", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        shop = Shop.objects.filter(people__username=world.PEOPLE[0]["username"]).first()
        rows = [self._kit(shop, live) for live in world.LIVE] if shop else []
        out: Path = options["out"]
        out.touch(mode=0o600)
        out.chmod(0o600)
        out.write_text(json.dumps(rows))

    @transaction.atomic
    def _kit(self, shop: Shop, live: dict[str, Any]) -> dict[str, str]:
        """A kit whose scenario still runs goes on with a new token; else the live job is begun anew."""
        now = timezone.now()
        kit = load(live["kit"])
        gateway = Gateway.objects.filter(shop=shop, name=kit.name, revoked_at=None).order_by("-pk").first()
        if gateway is not None and now - gateway.paired_at < CURRENT:
            token = secrets.token_urlsafe(32)
            gateway.token_digest = digest(token)
            gateway.save(update_fields=["token_digest"])
        else:
            Gateway.objects.filter(shop=shop, name=kit.name).update(revoked_at=now, job=None)
            person = Person.objects.get(username=live["by"])
            circuit = Circuit.objects.get(system__site__shop=shop, code=live["circuit"])
            code = make_job(person, circuit, live, f"live-{live['kit']}-{now:%Y%m%d%H%M%S}")
            gateway, token = pair(begin_pairing(person).code, kit.name, kit.describe())
            put_on_job(person, gateway.pk, Job.objects.get(code=code).pk)
        begins = gateway.paired_at - timedelta(minutes=live["back"])
        return {"token": token, "kit": live["kit"], "begins": begins.isoformat()}
