"""Bodies and answers outside the workers: a slow client waits alone, a long one is refused, and an application gets all or nothing."""

import asyncio
import json
from collections.abc import Iterable
from typing import Any

import pytest

from yoshi_server.bodies import MOST, STRANGER, Bodies

SIGNED = (b"cookie", b"sessionid=x")


class Client:
    """One connection driven by hand: parts it sends, then silence or going away; what it is sent, read or not."""

    def __init__(self, parts: Iterable[bytes] = (), *, goes: bool = False, reads: bool = True) -> None:
        self.parts, self.goes, self.reads = list(parts), goes, reads
        self.sent: list[Any] = []

    async def receive(self) -> dict[str, Any]:
        if self.parts:
            body = self.parts.pop(0)
            return {"type": "http.request", "body": body, "more_body": bool(self.parts) or body.endswith(b"...")}
        if self.goes:
            return {"type": "http.disconnect"}
        await asyncio.Event().wait()
        raise AssertionError

    async def send(self, message: Any) -> None:
        if not self.reads:
            await asyncio.Event().wait()
        self.sent.append(message)

    @property
    def status(self) -> int:
        return int(self.sent[0]["status"])

    @property
    def code(self) -> str:
        return str(json.loads(self.sent[-1]["body"])["code"])


class App:
    """An application that keeps the bodies it was given and answers each with a long one."""

    def __init__(self) -> None:
        self.bodies: list[bytes] = []

    async def __call__(self, scope: Any, receive: Any, send: Any) -> None:
        message = await receive()
        assert not message["more_body"]
        self.bodies.append(message["body"])
        await send({"type": "http.response.start", "status": 200, "headers": []})
        for _ in range(50):
            await send({"type": "http.response.body", "body": b"x" * 1000, "more_body": True})
        await send({"type": "http.response.body", "body": b"", "more_body": False})


def scope(*headers: tuple[bytes, bytes], query: bytes = b"") -> dict[str, Any]:
    return {"type": "http", "method": "POST", "path": "/api/jobs", "query_string": query, "headers": list(headers)}


def length(size: int) -> tuple[bytes, bytes]:
    return b"content-length", str(size).encode()


def asked(client: Client, *headers: tuple[bytes, bytes], query: bytes = b"", held: int = 10_000_000) -> App:
    app = App()
    whole = Bodies(app, first_s=0.05, held=held)

    async def run() -> None:
        await asyncio.wait_for(whole(scope(*headers, query=query), client.receive, client.send), 20.0)
        assert whole.free == held

    asyncio.run(run())
    return app


def test_a_body_in_parts_is_given_whole() -> None:
    client = Client([b"one...", b"two...", b"three"])
    assert asked(client, SIGNED, length(17)).bodies == [b"one...two...three"]
    assert client.status == 200
    assert len(client.sent) == 52


def test_no_body_is_an_empty_one() -> None:
    assert asked(Client([b""])).bodies == [b""]


def test_silence_ends_the_request_and_reaches_no_worker() -> None:
    client = Client([b"{..."])
    assert asked(client, SIGNED, length(1000)).bodies == []
    assert (client.status, client.code) == (408, "too_slow")


def test_who_goes_away_is_asked_nothing() -> None:
    client = Client([b"{..."], goes=True)
    assert asked(client, SIGNED, length(1000)).bodies == []
    assert client.sent == []


@pytest.mark.parametrize("announced", [True, False])
def test_too_long_is_refused_whether_it_says_so_or_not(announced: bool) -> None:
    part = b"x" * 999_997 + b"..."
    client = Client([part] * 6)
    app = asked(client, SIGNED, length(6_000_000) if announced else (b"transfer-encoding", b"chunked"))
    assert (client.status, client.code, app.bodies) == (413, "too_large", [])
    assert "5 MB" in json.loads(client.sent[-1]["body"])["detail"]


def test_a_stranger_has_nothing_long_to_say() -> None:
    for size, status in ((STRANGER, 200), (STRANGER + 1, 413)):
        client = Client([b"x" * size])
        asked(client, length(size))
        assert client.status == status
    client = Client([b"x" * MOST])
    asked(client, SIGNED, length(MOST))
    assert client.status == 200


def test_no_more_is_held_in_memory_than_there_is_room_for() -> None:
    client = Client([b"x" * 2000])
    app = asked(client, SIGNED, length(2000), held=1999)
    assert (client.status, client.code, app.bodies) == (503, "busy", [])
    assert (b"retry-after", b"2") in client.sent[0]["headers"]


@pytest.mark.parametrize("text", [b"-1", b"1e3", b"\xd9\xa3", b"", b"9" * 19])
def test_a_length_that_is_no_number_is_refused(text: bytes) -> None:
    client = Client([b""])
    asked(client, SIGNED, (b"content-length", text))
    assert (client.status, client.code) == (400, "bad_length")


def test_an_address_with_other_bytes_is_refused() -> None:
    client = Client([b""])
    asked(client, query="q=é".encode())
    assert (client.status, client.code) == (400, "bad_address")


def test_an_answer_nobody_reads_is_given_up_and_its_application_was_done_long_before() -> None:
    app = App()
    done = asyncio.Event()

    async def ending(*of: Any) -> None:
        await app(*of)
        done.set()

    async def run() -> None:
        client = Client([b"{}"], reads=False)
        asking = asyncio.create_task(Bodies(ending, first_s=0.05)(scope(SIGNED, length(2)), client.receive, client.send))
        await asyncio.wait_for(done.wait(), 20.0)
        assert not asking.done()
        await asyncio.wait_for(asking, 30.0)

    asyncio.run(run())


def test_silent_clients_take_no_part_of_what_others_are_given() -> None:
    """A hundred that fall silent, and one that does not: it is answered while they are still waited for."""
    app = App()

    async def run() -> None:
        whole = Bodies(app, first_s=5.0)
        silent = [Client([b"{..."]) for _ in range(100)]
        waiting = [asyncio.create_task(whole(scope(SIGNED, length(9)), one.receive, one.send)) for one in silent]
        quick = Client([b"{}"])
        await asyncio.wait_for(whole(scope(SIGNED, length(2)), quick.receive, quick.send), 20.0)
        assert quick.status == 200
        assert not any(task.done() for task in waiting)
        for task in waiting:
            task.cancel()

    asyncio.run(run())


def test_what_is_no_request_is_passed_on() -> None:
    seen = []

    async def other(scope: Any, receive: Any, send: Any) -> None:
        seen.append(scope["type"])

    asyncio.run(Bodies(other)({"type": "lifespan"}, Client().receive, Client().send))
    assert seen == ["lifespan"]
