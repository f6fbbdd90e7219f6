"""Live readings to browsers: server-sent events out of the database, through one hub in each process.

The hub asks the database for every job somebody watches: at once when this process wrote a reading of one, and
once a round for what others wrote. Streams are numbered by the
job's own counter, so any process may serve any browser and none misses a reading.
"""

import asyncio
import contextlib
import json
import logging
import re
import time
from collections import defaultdict, deque
from collections.abc import Awaitable, Callable, MutableMapping
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from datetime import datetime
from http.cookies import SimpleCookie
from importlib import import_module
from typing import Any

from django.conf import settings
from django.contrib.auth import SESSION_KEY
from django.db import close_old_connections
from django.utils import timezone

from accounts.models import Person, SignedIn
from instruments.news import listen
from instruments.queries import since_seq
from jobs.models import Job
from jobs.queries import seen_by
from practice.queries import as_player, asked_for
from yoshi_core.instruments import channels
from yoshi_server.metrics import STREAMS
from yoshi_server.scale import SCALE, Scales, anchors_of

log = logging.getLogger("yoshi")

Scope = MutableMapping[str, Any]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]
Receive = Callable[[], Awaitable[MutableMapping[str, Any]]]
ROUND_S, APART_S = 0.15, 0.02
BEAT_S, ASK_AGAIN_S, SESSIONS_S = 15.0, 30.0, 2.0
BEAT = b": still here\n\n"
QUEUE = 400
NUMBER = re.compile(r"[0-9]{1,18}")  # as this server numbered its events; no other script's digits
RECENT, CLOSEST_S = 80, 0.45
HEADERS = [
    (b"content-type", b"text/event-stream; charset=utf-8"),
    (b"cache-control", b"no-store"),
    (b"x-accel-buffering", b"no"),
]


@dataclass(eq=False)
class Watcher:
    """One open stream: whose session it lives by, the last reading and the last change of the job it was sent."""

    session: str
    job_id: int
    seq: int
    change: int
    queue: "asyncio.Queue[bytes | None]" = field(default_factory=lambda: asyncio.Queue(QUEUE))


class Hub:
    """One task a process that reads for all watchers and hands out what is new."""

    def __init__(self) -> None:
        self.watchers: set[Watcher] = set()
        self.thread = ThreadPoolExecutor(1, thread_name_prefix="live")
        self.task: asyncio.Task[None] | None = None
        self.loop: asyncio.AbstractEventLoop | None = None
        self.news = asyncio.Event()
        self.watched: frozenset[int] = frozenset()
        self.scales = Scales()
        self.recent: dict[tuple[int, str], deque[tuple[float, float]]] = defaultdict(lambda: deque(maxlen=RECENT))

    async def ask(self, work: Callable[..., Any], *args: Any) -> Any:
        """Run a database question in the hub's own thread, which keeps its connection."""
        return await asyncio.get_running_loop().run_in_executor(self.thread, _fresh, work, *args)

    def join(self, watcher: Watcher) -> None:
        self.watchers.add(watcher)
        self.watched = frozenset(other.job_id for other in self.watchers)
        if self.task is None or self.task.done():
            self.task = asyncio.get_running_loop().create_task(self._run())

    def leave(self, watcher: Watcher) -> None:
        self.watchers.discard(watcher)
        self.watched = frozenset(other.job_id for other in self.watchers)

    def wake(self, job_id: int) -> None:
        """Readings of a job were written in this process; called from the thread that wrote them."""
        if self.loop is not None and job_id in self.watched:
            with contextlib.suppress(RuntimeError):
                self.loop.call_soon_threadsafe(self.news.set)

    async def _run(self) -> None:
        self.loop, self.news = asyncio.get_running_loop(), asyncio.Event()
        looked = time.monotonic()
        while self.watchers:
            self.news.clear()
            try:
                await self._round()
                if time.monotonic() - looked > SESSIONS_S:
                    looked = time.monotonic()
                    await self._end_with_sessions()
            except Exception:
                log.exception("A round of live readings failed; the next one reads again from where each stream stands.")
            await asyncio.sleep(APART_S)
            with contextlib.suppress(TimeoutError):
                await asyncio.wait_for(self.news.wait(), ROUND_S)

    async def _round(self) -> None:
        lowest: dict[int, int] = {}
        for watcher in self.watchers:
            lowest[watcher.job_id] = min(watcher.seq, lowest.get(watcher.job_id, watcher.seq))
        found, changes = await self.ask(_news, tuple(lowest.items()))
        by_job: dict[int, list[dict[str, Any]]] = defaultdict(list)
        for job_id, reading in found:
            by_job[job_id].append({**reading, "steady": self._steady(job_id, reading)})
        weighing = {job: changes.get(job, 0) for job, rows in by_job.items() if any(r["channel"] == SCALE for r in rows)}
        if stale := self.scales.stale(weighing):
            self.scales.keep(await self.ask(anchors_of, stale))
        followed = {job: event for job in weighing if (event := self._follow(job, by_job[job])) is not None}
        for watcher in tuple(self.watchers):
            news = [r for r in by_job.get(watcher.job_id, ()) if r["seq"] > watcher.seq]
            if news:
                watcher.seq = news[-1]["seq"]
                self._put(watcher, _event("readings", news, watcher.seq))
                if watcher.job_id in followed:
                    self._put(watcher, _event("scale", followed[watcher.job_id]))
            change = changes.get(watcher.job_id, watcher.change)
            if change != watcher.change:
                watcher.change = change
                self._put(watcher, _event("job", {"seq": change}))

    async def _end_with_sessions(self) -> None:
        """A stream ends when its session does, or the account behind it."""
        keys = {watcher.session for watcher in self.watchers}
        alive = await self.ask(_alive, tuple(keys))
        for watcher in tuple(self.watchers):
            if watcher.session not in alive:
                self._drop(watcher)

    def _steady(self, job_id: int, reading: dict[str, Any]) -> str:
        recent = self.recent[(job_id, reading["channel"])]
        second = datetime.fromisoformat(reading["at"]).timestamp()
        if not recent or second > recent[-1][0]:
            if len(recent) > 1 and second - recent[-2][0] < CLOSEST_S:
                recent.pop()
            recent.append((second, reading["value"]))
        return channels.steadiness(tuple(recent), reading["limit"])

    def _follow(self, job_id: int, news: list[dict[str, Any]]) -> dict[str, Any] | None:
        """What the weigh-in's scale comes to, with the gauges where they are live."""
        limit = next(r["limit"] for r in reversed(news) if r["channel"] == SCALE)
        gauges = [self.recent.get((job_id, channel)) for channel in ("suction_pressure", "liquid_pressure")]
        pressures = (gauges[0][-1][1], gauges[1][-1][1]) if gauges[0] and gauges[1] else None
        return self.scales.follow(job_id, tuple(self.recent[(job_id, SCALE)]), limit, pressures)

    def _put(self, watcher: Watcher, event: bytes) -> None:
        """A browser that does not read fast enough loses its stream and comes back with the last number it had."""
        try:
            watcher.queue.put_nowait(event)
        except asyncio.QueueFull:
            self._drop(watcher)

    def _drop(self, watcher: Watcher) -> None:
        self.leave(watcher)
        if watcher.queue.full():
            watcher.queue.get_nowait()
        watcher.queue.put_nowait(None)


hub = Hub()
listen(hub.wake)


def _fresh(work: Callable[..., Any], *args: Any) -> Any:
    close_old_connections()
    return work(*args)


def _news(places: tuple[tuple[int, int], ...]) -> tuple[list[tuple[int, dict[str, Any]]], dict[int, int]]:
    return since_seq(places), dict(Job.objects.filter(pk__in=[job for job, _ in places]).values_list("pk", "seq"))


def _alive(sessions: tuple[str, ...]) -> set[str]:
    """Of these sessions those that are open, of people who may still sign in."""
    rows = SignedIn.objects.filter(session_key__in=sessions, expire_date__gt=timezone.now(), person__is_active=True)
    return set(rows.values_list("session_key", flat=True))


def _event(name: str, data: Any, number: int | None = None) -> bytes:
    head = f"id: {number}\n" if number is not None else ""
    return f"{head}event: {name}\ndata: {json.dumps(data, separators=(',', ':'))}\n\n".encode()


def _watched(session_key: str, code: str) -> tuple[int, int] | None:
    """The job a signed-in person may watch, and its last change; None for anybody else."""
    store = import_module(settings.SESSION_ENGINE).SessionStore(session_key)
    person = Person.objects.filter(pk=store.get(SESSION_KEY), is_active=True).first() if session_key else None
    if person is None or person.shop_id is None:
        return None
    run = asked_for(person, code, "")
    return seen_by(person if run is None else as_player(run, person)).filter(code=code).values_list("pk", "seq").first()


async def stream(scope: Scope, receive: Receive, send: Send, code: str) -> None:
    """Answer one browser until it goes away."""
    headers = {name.decode(): value.decode("latin-1") for name, value in scope["headers"]}
    cookie = SimpleCookie(headers.get("cookie", "")).get(settings.SESSION_COOKIE_NAME)
    key = cookie.value if cookie else ""
    found = await hub.ask(_watched, key, code)
    if found is None:
        await send({"type": "http.response.start", "status": 401, "headers": [(b"content-type", b"text/plain")]})
        await send({"type": "http.response.body", "body": b"Sign in first."})
        return
    last = headers.get("last-event-id", "")
    watcher = Watcher(key, found[0], int(last) if NUMBER.fullmatch(last) else 0, found[1])
    await send({"type": "http.response.start", "status": 200, "headers": HEADERS})
    await send({"type": "http.response.body", "body": b"retry: 1000\n\n", "more_body": True})
    hub.join(watcher)
    STREAMS.inc()
    gone: asyncio.Future[Any] = asyncio.ensure_future(_until_gone(receive))
    try:
        await _feed(watcher, gone, send, lambda: hub.ask(_watched, key, code))
    finally:
        hub.leave(watcher)
        STREAMS.dec()
        gone.cancel()


async def _feed(watcher: Watcher, gone: "asyncio.Future[Any]", send: Send, still: Callable[[], Awaitable[Any]]) -> None:
    """Send what comes; ends when the browser is gone, does not read, or may no longer watch."""
    asked = time.monotonic()
    while not gone.done():
        following: asyncio.Future[Any] = asyncio.ensure_future(watcher.queue.get())
        await asyncio.wait([following, gone], timeout=BEAT_S, return_when=asyncio.FIRST_COMPLETED)
        event = following.result() if following.done() else BEAT
        following.cancel()
        if gone.done():
            return
        if event is not None and time.monotonic() - asked > ASK_AGAIN_S:
            asked = time.monotonic()
            event = event if await still() else None
        await send({"type": "http.response.body", "body": event or b"", "more_body": event is not None})
        if event is None:
            return


async def _until_gone(receive: Receive) -> None:
    while (await receive())["type"] != "http.disconnect":
        pass
