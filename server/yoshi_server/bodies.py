"""Bodies read and answers sent outside the workers: whoever is slow waits by himself, and holds nobody up.

A worker is given a request when its body is here whole, within its size and its time, and is done when its answer is
handed over, however slowly it is then read.
"""

import asyncio
import contextlib
import json
import re
from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any

from yoshi_core.message import headline

Scope = MutableMapping[str, Any]
Message = MutableMapping[str, Any]
Send = Callable[[Message], Awaitable[None]]
Receive = Callable[[], Awaitable[Message]]
App = Callable[[Scope, Receive, Send], Awaitable[None]]

MOST = 5_000_000
STRANGER = 65_536  # who shows neither a session nor a kit's token has nothing long to say
LARGER: tuple[tuple[re.Pattern[str], int], ...] = ()  # routes that take more than the rest
FIRST_S, SLOWEST_BYTES_S = 15.0, 10_000.0
HELD = 128_000_000  # what may wait in memory in all, of a process
PROOFS = (b"cookie", b"authorization")


class Refused(Exception):
    """A body that is not taken: status, code and words."""

    def __init__(self, status: int, code: str, detail: str) -> None:
        super().__init__(detail)
        self.status, self.code, self.detail = status, code, detail


class Bodies:
    """Hands an application whole bodies, and takes whole answers from it."""

    def __init__(self, app: App, *, first_s: float = FIRST_S, held: int = HELD) -> None:
        self.app, self.first_s, self.free = app, first_s, held

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """One request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        try:
            _plain(scope)
            most = _most(scope)
            taken = self._make_room(_announced(scope, most))
        except Refused as refused:
            await _refuse(send, refused)
            return
        try:
            body = await self._read(receive, most)
            answer = _Answer(send, self.first_s)
            try:
                await self.app(scope, _replay(body, receive), answer.take)
            finally:
                await answer.sent()
        except Refused as refused:
            await _refuse(send, refused)
        except ConnectionError:
            return
        finally:
            self.free += taken

    def _make_room(self, size: int) -> int:
        if size > self.free:
            raise Refused(503, "busy", "Too much is on its way here at once. Try again in a moment.")
        self.free -= size
        return size

    async def _read(self, receive: Receive, most: int) -> bytes:
        """All of it; raises `Refused` for one too long or too slow, `ConnectionError` for a client that went away."""
        parts: list[bytes] = []
        size, begun = 0, asyncio.get_running_loop().time()
        while True:
            left = self.first_s + size / SLOWEST_BYTES_S - (asyncio.get_running_loop().time() - begun)
            try:
                message = await asyncio.wait_for(receive(), max(left, 0.0))
            except TimeoutError:
                raise Refused(408, "too_slow", "The request did not come in time. Send it again.") from None
            if message["type"] == "http.disconnect":
                raise ConnectionError
            part = message.get("body", b"")
            size += len(part)
            if size > most:
                raise Refused(
                    413, "too_large", str(headline("This takes up to {most} MB at a time. Send it in parts.", most=f"{most / 1e6:g}"))
                )
            parts.append(part)
            if not message.get("more_body", False):
                return b"".join(parts)


class _Answer:
    """What an application answers, sent at the pace of who reads it and not of who wrote it."""

    def __init__(self, send: Send, first_s: float) -> None:
        self.send, self.first_s = send, first_s
        self.queue: asyncio.Queue[Message | None] = asyncio.Queue()
        self.size = 0
        self.task = asyncio.get_running_loop().create_task(self._send())

    async def take(self, message: Message) -> None:
        """Keep one part of it; never waits."""
        self.size += len(message.get("body", b""))
        self.queue.put_nowait(message)

    async def sent(self) -> None:
        """Wait until it is read, or until that has taken too long: then it is cut off."""
        self.queue.put_nowait(None)
        with contextlib.suppress(TimeoutError):
            await asyncio.wait_for(self.task, self.first_s + self.size / SLOWEST_BYTES_S)

    async def _send(self) -> None:
        while (message := await self.queue.get()) is not None:
            await self.send(message)


def _plain(scope: Scope) -> None:
    """Raise `Refused` for an address with bytes in it that no address of ours has."""
    if not scope.get("query_string", b"").isascii():
        raise Refused(400, "bad_address", "This address is not one of ours.")


def _most(scope: Scope) -> int:
    if not any(name in PROOFS for name, _ in scope["headers"]):
        return STRANGER
    return next((most for route, most in LARGER if route.match(scope["path"])), MOST)


def _announced(scope: Scope, most: int) -> int:
    """How long it says it is, the most it may be where it comes in parts; raises `Refused` where that is too long, or no length."""
    headers = dict(scope["headers"])
    if b"transfer-encoding" in headers:
        return most
    text = headers.get(b"content-length", b"0")
    if not re.fullmatch(rb"[0-9]{1,18}", text):
        raise Refused(400, "bad_length", "The length of this request cannot be read.")
    if int(text) > most:
        raise Refused(413, "too_large", str(headline("This takes up to {most} MB at a time. Send it in parts.", most=f"{most / 1e6:g}")))
    return int(text)


def _replay(body: bytes, receive: Receive) -> Receive:
    given = False

    async def again() -> Message:
        nonlocal given
        if given:
            return await receive()
        given = True
        return {"type": "http.request", "body": body, "more_body": False}

    return again


async def _refuse(send: Send, refused: Refused) -> None:
    title = refused.code.replace("_", " ").capitalize()
    body = {"type": "about:blank", "title": title, "status": refused.status, "code": refused.code, "detail": refused.detail}
    headers = [(b"content-type", b"application/problem+json"), (b"connection", b"close"), (b"cache-control", b"no-store")]
    if refused.status == 503:
        headers.append((b"retry-after", b"2"))
    await send({"type": "http.response.start", "status": refused.status, "headers": headers})
    await send({"type": "http.response.body", "body": json.dumps({**body, "path": "", "params": {}}).encode()})
