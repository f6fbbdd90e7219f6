"""A write that is safe to send twice: done once, the same answer each time."""

import hashlib
import json
from collections.abc import Callable
from typing import Any, TypeVar

from django.db import transaction
from django.db.models import F

from accounts import trail
from accounts.models import AcceptedRequest, Shop
from accounts.retry import again
from yoshi_core.errors import InvalidInput

Root = TypeVar("Root")


class KeyReused(InvalidInput):
    """A request key that came before with another content."""

    code = "key_reused"


def lock_shop(shop: Shop) -> Shop:
    """Whoever writes a shop's books or people has it alone until the transaction ends.

    It writes the row, and does not only lock it: a lock does not reach another node of a cluster, but two that write one
    row meet at the commit.
    """
    Shop.objects.filter(pk=shop.pk).update(turn=F("turn") + 1)
    return Shop.objects.get(pk=shop.pk)


def once(person_shop: Shop, key: str, content: Any, lock: Callable[[], Root], act: Callable[[Root], dict[str, Any]]) -> dict[str, Any]:
    """Do a write once: lock its root, look up the key, act, keep the answer.

    The same key again gives the same answer; the same key with other content is refused. Deadlocks, lock waits and a lost
    database are tried again outside the transaction: by its key it is known whether it was done.
    """
    digest = hashlib.sha256(json.dumps(content, sort_keys=True, default=str).encode()).hexdigest()

    def whole() -> dict[str, Any]:
        with transaction.atomic():
            row = lock()
            before = AcceptedRequest.objects.filter(shop=person_shop, key=key).first()
            if before is not None:
                if before.digest != digest:
                    raise KeyReused("This request's key was used for something else; nothing was changed.", path="/key")
                kept: dict[str, Any] = before.answer
                return kept
            answer = act(row)
            AcceptedRequest.objects.create(shop=person_shop, key=key, digest=digest, answer=answer)
            trail.note_asked(person_shop)
            return answer

    return again(whole)
