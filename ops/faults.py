"""Faults, with a fixed seed, into a running installation; and what must hold after them: nothing acknowledged lost or doubled.

Every writer acts as a device does: it keeps what it wants written under a key, and sends it until it has an answer. Between
writer and server a wire loses answers, cuts requests, sends twice or in another order, and goes dead; database, servers and,
in a cluster, nodes are killed outright; devices' clocks jump. A fault of the wire is done only while something answers behind it,
between kills and not before them all, and the writing goes on until enough was acknowledged to say something. Afterwards every
write stands once, and every book is exact.
"""

import http.client
import itertools
import json
import random
import socket
import threading
import time
import uuid
from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any

TIMEOUT_S = 6.0
PATIENCE_S = 90.0
APART_S = 0.02
PARTS = 30
EACH = 3  # requests that are answered, for a fault on the wire
LATER = (0, 401, 408, 429)  # by a clock a year ahead a session has run out: what was typed waits for its person
ON_THE_WIRE = ("dropped", "doubled", "torn", "reordered", "silent", "clock")


@dataclass
class Write:
    """One thing to be written: where, and what, under its key; once it was sent, its content stays."""

    path: str
    body: dict[str, Any]
    kind: str
    mass_kg: float = 0.0
    sent: bool = False


@dataclass
class Account:
    """Who signs in, with the cookie and the token of the session."""

    cookie: str
    token: str
    owner: str


@dataclass
class Wire:
    """The way from one writer to the servers: any of them, and the next when one does not answer."""

    ports: list[int]
    account: Account
    luck: random.Random
    done: Counter[str] = field(default_factory=Counter)
    dead_until: float = 0.0

    def send(self, write: Write, fault: str = "") -> tuple[int, bytes]:
        """The status and answer; 0 when there is none. A fault is done to the first try."""
        if time.monotonic() < self.dead_until:
            time.sleep(min(self.dead_until - time.monotonic(), 0.2))
            return 0, b""
        if fault == "silent":
            self.dead_until = time.monotonic() + self.luck.uniform(0.2, 1.0)
            return 0, b""
        data = json.dumps(write.body).encode()
        if fault == "torn":
            self._torn(write.path, data)
            return 0, b""
        if fault == "doubled":
            twin = threading.Thread(target=self._whole, args=(write.path, data))
            twin.start()
            answer = self._whole(write.path, data)
            twin.join()
            return answer
        answer = self._whole(write.path, data)
        return (0, b"") if fault == "dropped" else answer

    def _headers(self, length: int) -> dict[str, str]:
        account = self.account
        return {
            "Content-Type": "application/json",
            "Content-Length": str(length),
            "Cookie": f"sessionid={account.cookie}; csrftoken={account.token}",
            "X-CSRFToken": account.token,
            "X-Yoshi-Owner": account.owner,
        }

    def _whole(self, path: str, data: bytes) -> tuple[int, bytes]:
        port = self.luck.choice(self.ports)
        connection = http.client.HTTPConnection("127.0.0.1", port, timeout=TIMEOUT_S)
        try:
            connection.request("POST", path, data, self._headers(len(data)))
            answer = connection.getresponse()
            return answer.status, answer.read()
        except (OSError, http.client.HTTPException):
            return 0, b""
        finally:
            connection.close()

    def _torn(self, path: str, data: bytes) -> None:
        """Half of a request, then nothing."""
        head = "".join(f"{name}: {value}\r\n" for name, value in self._headers(len(data)).items())
        try:
            with socket.create_connection(("127.0.0.1", self.luck.choice(self.ports)), timeout=TIMEOUT_S) as line:
                line.sendall(f"POST {path} HTTP/1.1\r\nHost: 127.0.0.1\r\n{head}\r\n".encode() + data[: len(data) // 2])
        except OSError:
            pass


class Writer(threading.Thread):
    """Sends its writes, each until it is answered for good; later ones may overtake one that waits."""

    def __init__(self, wire: Wire, writes: Iterator[Write], faults: "Faults") -> None:
        super().__init__(daemon=True)
        self.wire, self.writes, self.faults = wire, writes, faults
        self.acknowledged: list[Write] = []
        self.refused: list[tuple[Write, int, bytes]] = []
        self.waited_s = 0.0
        self.answered = False  # the last request that no fault was done to

    def run(self) -> None:
        queue: list[Write] = []
        until = time.monotonic() + PATIENCE_S
        while queue or not self.faults.over():
            while len(queue) < 2 and not self.faults.over():
                queue.append(next(self.writes))
            if not queue:
                break
            fault = self.faults.next_on_the_wire() if self.answered else ""
            if fault in ("reordered", "clock"):
                fault = self._bent(fault, queue)
            write = queue[0]
            write.sent = True
            began = time.monotonic()
            status, answer = self.wire.send(write, fault)
            later = status in LATER or status >= 500
            if not fault:
                self.answered = not later
            if later:
                if time.monotonic() > until:
                    self.refused.append((queue.pop(0), status, answer))
                    until = time.monotonic() + PATIENCE_S
                time.sleep(0.1)
                continue
            until = time.monotonic() + PATIENCE_S
            time.sleep(APART_S)
            self.waited_s = max(self.waited_s, time.monotonic() - began)
            queue.pop(0)
            if 200 <= status < 300:
                self.acknowledged.append(write)
                self.faults.acknowledged()
            else:
                self.refused.append((write, status, answer))

    def _bent(self, fault: str, queue: list[Write]) -> str:
        """Done to what waits: it overtakes, or was typed by a clock days or years off. None where nothing waits that it can be done to."""
        fresh = [write for write in queue if write.kind == "entry" and not write.sent] if fault == "clock" else queue[1:]
        if not fresh:
            self.faults.give_back(fault)
            return ""
        queue.remove(fresh[0])
        queue.insert(0, fresh[0])
        if fault == "clock":
            for change in fresh[0].body["changes"]:
                off = timedelta(days=self.faults.luck.choice((-100, -3, 2, 400, 3650)))
                change["typed_at"] = (datetime.now(UTC) + off).isoformat()
        return fault


class Faults:
    """Which fault comes when: drawn once from a seed, counted as they are done."""

    def __init__(self, seed: int, on_the_wire: int, kills: dict[str, int], enough: int) -> None:
        self.luck = random.Random(seed)  # noqa: S311 - a fixed sequence is wanted
        self.lock = threading.Lock()
        self.left = [self.luck.choice(ON_THE_WIRE) for _ in range(on_the_wire)]
        self.kills = [name for name, number in kills.items() for _ in range(number)]
        self.luck.shuffle(self.kills)
        self.on_the_wire, self.wanting, self.asked, self.killed_yet = on_the_wire, enough, 0, 0
        self.done: Counter[str] = Counter()

    def over(self) -> bool:
        """Whether every fault was done, and enough was acknowledged meanwhile."""
        return self.killed_yet == len(self.kills) and not self.left and self.wanting <= 0

    def next_on_the_wire(self) -> str:
        """A fault for the next request, or none: every third, and between two kills no more than its share of them."""
        with self.lock:
            share = self.on_the_wire * (self.killed_yet + 1) / (len(self.kills) + 1)
            self.asked += 1
            if self.asked % EACH or not self.left or self.on_the_wire - len(self.left) >= share:
                return ""
            fault = self.left.pop()
            self.done[fault] += 1
            return fault

    def give_back(self, fault: str) -> None:
        """It could not be done."""
        with self.lock:
            self.left.append(fault)
            self.done[fault] -= 1

    def acknowledged(self) -> None:
        with self.lock:
            self.wanting -= 1

    def killed(self, name: str) -> None:
        with self.lock:
            self.done[name] += 1
            self.killed_yet += 1


def kill_in_turn(faults: Faults, how: dict[str, Callable[[], None]], writers: list[Writer], pause_s: tuple[float, float]) -> list[float]:
    """Kill one after the other while the writers write; how long each took to be back."""
    took = []
    for name in faults.kills:
        time.sleep(faults.luck.uniform(*pause_s))
        assert all(writer.is_alive() for writer in writers)
        began = time.monotonic()
        how[name]()
        took.append(time.monotonic() - began)
        faults.killed(name)
    return took


def writes(job: str, cylinder: str, each_kg: float, first: int = 0) -> Iterator[Write]:
    """In turn: another label of one of a job's parts, and a mass out of a cylinder, each of its own size; numbered from `first`."""
    for n in itertools.count(first):
        path = f"/steps/identify/runs/0/sheet/parts/p{n % PARTS}/label"
        changes = [{"path": path, "value": f"part {n}", "force": True}]
        yield Write(f"/api/jobs/{job}/changes", {"key": uuid.uuid4().hex, "changes": changes}, "entry")
        mass = each_kg * (1.0 + n / 1000.0)
        body = {"key": uuid.uuid4().hex, "to_kind": "lost", "mass": f"{mass!r} kg", "reason": f"fault trial {n}"}
        yield Write(f"/api/cylinders/{cylinder}/move", body, "movement", mass)
