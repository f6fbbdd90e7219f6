"""The stream of live readings: what a browser gets at once, and that it ends with the right to watch."""

import asyncio
import json
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from accounts.models import Person, Shop
from accounts.sessions import SessionStore
from instruments.actions.ingest import ingest
from instruments.actions.pair import begin_pairing, pair, put_on_job
from instruments.models import Gateway
from jobs.actions.change_job import save_changes
from jobs.actions.create_job import create_job
from jobs.models import Job
from yoshi_core.job.patches import Change
from yoshi_server import live

pytestmark = pytest.mark.django_db(transaction=True)
SOON_S = 5.0


class Browser:
    """One open stream, driven by hand."""

    def __init__(self, session_key: str, code: str, last: bytes = b"") -> None:
        self.sent: asyncio.Queue[dict[str, Any]] = asyncio.Queue()
        self.gone = asyncio.Event()
        headers = [(b"cookie", f"sessionid={session_key}".encode()), *([(b"last-event-id", last)] if last else [])]
        self.task = asyncio.create_task(live.stream({"headers": headers}, self._receive, self._send, code))

    async def _receive(self) -> dict[str, Any]:
        await self.gone.wait()
        return {"type": "http.disconnect"}

    async def _send(self, message: Any) -> None:
        await self.sent.put(message)

    async def next(self) -> dict[str, Any]:
        return await asyncio.wait_for(self.sent.get(), SOON_S)

    async def until(self, start: bytes) -> bytes:
        while True:
            body: bytes = (await self.next()).get("body", b"")
            if start in body:
                return body

    async def leave(self) -> None:
        self.gone.set()
        await asyncio.wait_for(self.task, SOON_S)


@pytest.fixture
def orrin() -> Person:
    shop = Shop.objects.create(name="Brindlewick")
    return Person.objects.create(username="orrin", shown_name="M. Orrin", shop=shop)


@pytest.fixture
def session(orrin: Person) -> SessionStore:
    store = SessionStore()
    store.update({"_auth_user_id": str(orrin.pk), "_auth_user_backend": "django.contrib.auth.backends.ModelBackend"})
    store.create()
    return store


@pytest.fixture
def kit(orrin: Person) -> tuple[Gateway, str]:
    gateway, _ = pair(begin_pairing(orrin).code, "kit", [{"key": "v", "channel": "vacuum", "unit": "micron"}])
    code = create_job(orrin, "live-test-key-1", "charge", "live", None)["code"]
    put_on_job(orrin, gateway.pk, Job.objects.get(code=code).pk)
    gateway.refresh_from_db()
    return gateway, code


def post(gateway: Gateway, micron: float) -> None:
    ingest(gateway, [{"instrument": "v", "value": micron, "unit": "micron", "at": timezone.now().isoformat()}], None)


def test_a_reading_is_at_the_browser_as_soon_as_it_is_written(
    session: SessionStore, kit: tuple[Gateway, str], monkeypatch: pytest.MonkeyPatch
) -> None:
    gateway, code = kit
    monkeypatch.setattr(live, "ROUND_S", 60.0)

    async def watch() -> list[dict[str, Any]]:
        browser = Browser(str(session.session_key), code)
        assert (await browser.next())["status"] == 200
        await browser.until(b"retry")
        found = []
        for micron in (640.0, 615.0):
            await asyncio.to_thread(post, gateway, micron)
            body = await browser.until(b"event: readings")
            found += json.loads(body.split(b"data: ")[1])
        await browser.leave()
        return found

    readings = asyncio.run(watch())
    assert [r["seq"] for r in readings] == [1, 2]
    assert [r["channel"] for r in readings] == ["vacuum", "vacuum"]
    assert readings[0]["value"] == pytest.approx(640.0 * 0.133322, rel=1e-4)


def test_a_stream_ends_when_its_person_signs_out(session: SessionStore, kit: tuple[Gateway, str], monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(live, "BEAT_S", 0.05)
    monkeypatch.setattr(live, "ASK_AGAIN_S", 0.0)

    async def watch() -> None:
        browser = Browser(str(session.session_key), kit[1])
        await browser.until(b"still here")
        await asyncio.to_thread(session.delete)
        while (await browser.next()).get("more_body", True):
            pass
        await asyncio.wait_for(browser.task, SOON_S)

    asyncio.run(watch())


def test_a_stream_ends_at_once_with_the_account(
    orrin: Person, session: SessionStore, kit: tuple[Gateway, str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(live, "SESSIONS_S", 0.1)

    async def watch() -> None:
        browser = Browser(str(session.session_key), kit[1])
        await browser.until(b"retry")
        await asyncio.sleep(0.5)
        assert not browser.task.done()
        await asyncio.to_thread(lambda: Person.objects.filter(pk=orrin.pk).update(is_active=False))
        while (await browser.next()).get("more_body", True):
            pass
        await asyncio.wait_for(browser.task, SOON_S)

    asyncio.run(watch())


@pytest.mark.parametrize("last", ["²".encode("latin-1"), b"\xd9\xa1", b"-1", b"1e3", b"9" * 40, b" "])
def test_a_number_this_server_never_gave_is_none(session: SessionStore, kit: tuple[Gateway, str], last: bytes) -> None:
    async def watch() -> int:
        browser = Browser(str(session.session_key), kit[1], last)
        found = int((await browser.next())["status"])
        await browser.leave()
        return found

    assert asyncio.run(watch()) == 200


def test_nobody_else_may_watch(kit: tuple[Gateway, str]) -> None:
    async def watch() -> int:
        browser = Browser("", kit[1])
        return int((await browser.next())["status"])

    assert asyncio.run(watch()) == 401


def test_a_weigh_ins_scale_is_followed_to_its_mark(orrin: Person, session: SessionStore) -> None:
    gateway, _ = pair(begin_pairing(orrin).code, "kit", [{"key": "s", "channel": "scale", "unit": "lb", "limit": 0.03}])
    code = create_job(orrin, "live-scale-key", "charge", "weigh", None)["code"]
    put_on_job(orrin, gateway.pk, Job.objects.get(code=code).pk)
    gateway.refresh_from_db()
    plate = {"refrigerant": "R-410A", "factory_charge": "6 lb", "kind": "packaged", "metering": "txv"}
    changes = [Change(f"/steps/identify/runs/0/sheet/{key}", None, value) for key, value in plate.items()]
    draw = {"gross_start": "30 lb", "tare": "9 lb"}
    changes += [Change("/steps/weigh_in/runs/0/sheet/system_state", None, "empty")]
    changes += [Change(f"/steps/weigh_in/runs/0/sheet/draws/d1/{key}", None, value) for key, value in draw.items()]
    save_changes(orrin, code, "live-scale-save", changes)
    begun = timezone.now() - timedelta(seconds=20)

    def weigh() -> None:
        rows = [(n, 30.0 - 0.01 * n) for n in range(20)]
        ingest(
            gateway,
            [{"instrument": "s", "value": lb, "unit": "lb", "at": (begun + timedelta(seconds=n)).isoformat()} for n, lb in rows],
            None,
        )

    async def watch() -> dict[str, Any]:
        browser = Browser(str(session.session_key), code)
        await browser.until(b"retry")
        await asyncio.to_thread(weigh)
        body = await browser.until(b"event: scale")
        await browser.leave()
        return dict(json.loads(body.split(b"data: ")[1]))

    said = asyncio.run(watch())
    assert (said["state"], said["draw"], said["mark"]) == ("flowing", "d1", "slow")
    assert said["inside_kg"] == pytest.approx(0.19 * 0.45359237, rel=0.02)
    assert said["flow_kg_s"] == pytest.approx(0.01 * 0.45359237, rel=0.05)
