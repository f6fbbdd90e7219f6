"""A write that is safe to send twice: done once, the same answer each time."""

import hashlib
import json
from collections.abc import Callable
from typing import Any, TypeVar

from django.db import OperationalError, transaction

from accounts import trail
from accounts.models import AcceptedRequest, Shop
from yoshi_core.errors import InvalidInput

DEADLOCK, LOCK_TIMEOUT = 1213, 1205
TRIES = 4
Root = TypeVar("Root")


class KeyReused(InvalidInput):
    """A request key that came before with another content."""

    code = "key_reused"


def once(person_shop: Shop, key: str, content: Any, lock: Callable[[], Root], act: Callable[[Root], dict[str, Any]]) -> dict[str, Any]:
    """Do a write once: lock its root, look up the key, act, keep the answer.

    The same key again gives the same answer; the same key with other content is refused. Deadlocks
    and lock waits are tried again outside the transaction.
    """
    digest = hashlib.sha256(json.dumps(content, sort_keys=True, default=str).encode()).hexdigest()
    for attempt in range(TRIES):
        try:
            with transaction.atomic():
                row = lock()
                before = AcceptedRequest.objects.filter(shop=person_shop, key=key).first()
                if before is not None:
                    if before.digest != digest:
                        raise KeyReused("This request's key was used for something else; nothing was changed.", path="/key")
                    answer: dict[str, Any] = before.answer
                    return answer
                answer = act(row)
                AcceptedRequest.objects.create(shop=person_shop, key=key, digest=digest, answer=answer)
                trail.note_asked(person_shop)
                return answer
        except OperationalError as error:
            if error.args[:1] not in ((DEADLOCK,), (LOCK_TIMEOUT,)) or attempt == TRIES - 1:
                raise
    raise AssertionError("unreachable")
