"""Posting as a gateway does: pair once, then batches with a token; what could not be posted is tried again."""

import json
import time
import urllib.error
import urllib.request
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any

from standins.kit import Kit, Spoiler

MOST_ROWS = 4000
LATER = frozenset({408, 429})  # and everything from 500 on: the same batch again, later; any other refusal is for ever


class Refused(Exception):
    """The server said no, and why."""


class SentAway(Refused):
    """The gateway may not post any more."""


def _post(url: str, body: Any, token: str = "") -> dict[str, Any]:
    headers = {"Content-Type": "application/json", **({"Authorization": f"Bearer {token}"} if token else {})}
    request = urllib.request.Request(url, json.dumps(body).encode(), headers)
    try:
        with urllib.request.urlopen(request, timeout=20) as answer:
            found: dict[str, Any] = json.loads(answer.read())
            return found
    except urllib.error.HTTPError as error:
        detail = _detail(error)
        if error.code in LATER or error.code >= 500:
            raise OSError(detail) from None
        raise (SentAway if error.code in {401, 403} else Refused)(f"{error.code}: {detail}") from None


def _detail(error: urllib.error.HTTPError) -> str:
    """What the server says of it; a proxy between may say nothing that can be read."""
    try:
        return str(json.loads(error.read()).get("detail", error.reason))
    except (ValueError, AttributeError):
        return str(error.reason)


def pair(server: str, code: str, kit: Kit) -> str:
    """Pair a kit; the token it posts with. Raises `Refused`."""
    return str(_post(f"{server}/api/gateway/pair", {"code": code, "name": kit.name, "instruments": kit.describe()})["token"])


@dataclass
class Poster:
    """Posts a kit's readings from a moment on: the past at once, then each as its time comes."""

    server: str
    token: str
    kit: Kit
    begins: datetime
    pause_s: float = 1.0
    quiet: bool = True
    spoiler: Spoiler = field(init=False)
    unsent: list[list[dict[str, Any]]] = field(init=False)
    refused: list[list[dict[str, Any]]] = field(init=False)

    def run(self, until: datetime | None = None) -> int:
        """Post until the scenario ends, or until a moment; how many readings were accepted."""
        self.spoiler, self.unsent, self.refused = Spoiler(self.kit.wrong), [], []
        accepted = 0
        waiting: list[dict[str, Any]] = []
        for at, rows in self.kit.readings(self.begins):
            if until is not None and at > until:
                break
            if at > datetime.now(UTC) or len(waiting) >= MOST_ROWS:
                accepted += self._send(waiting)
                waiting = []
            while (ahead := (at - datetime.now(UTC)).total_seconds()) > 0:
                time.sleep(min(ahead, self.pause_s))
            waiting += rows
        return accepted + self._send(waiting)

    def _send(self, rows: list[dict[str, Any]]) -> int:
        """Post what is due; what does not get through is kept and goes first next time. The server knows what came before.

        A batch it will never take is put aside, and the rest goes on. Raises `SentAway` when nothing is taken any more.
        """
        accepted = 0
        self.unsent += [batch for batch in self.spoiler.batches(rows) if batch]
        while self.unsent:
            try:
                accepted += self._post(self.unsent[0])
            except OSError as error:
                if not self.quiet:
                    print(f"{self.kit.name}: {error}; tried again.", flush=True)
                time.sleep(self.pause_s)
                return accepted
            except SentAway:
                raise
            except Refused as error:
                print(f"{self.kit.name}: {error}; this batch is put aside.", flush=True)
                self.refused.append(self.unsent[0])
            self.unsent.pop(0)
        return accepted

    def _post(self, batch: list[dict[str, Any]]) -> int:
        clock = timedelta(seconds=self.kit.wrong.clock_off_s)
        body = {"sent_at": (datetime.now(UTC) + clock).isoformat(), "readings": batch}
        taken = _post(f"{self.server}/api/gateway/readings", body, self.token)
        if taken["refused"] and not self.quiet:
            print(f"{self.kit.name}: refused {taken['refused_count']}: {taken['refused'][0]['reason']}", flush=True)
        return int(taken["accepted"])
