"""A weigh-in followed on a live scale: two cylinders, a knock, a silent scale, the cue before the mark, closed within the lead."""

import json
import re
import urllib.request
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from accounts.models import Person
from demo import world
from demo.management.commands.load_demo import make_job
from e2e.acts import verdict
from e2e.killable import Killable
from instruments.actions.pair import begin_pairing, pair, put_on_job
from jobs.models import Job
from systems.models import Circuit

DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844, "dark": True}
WEIGH = {
    "system_state": "empty",
    "scale_step": "0.5 oz",
    "draws": {
        "d1": {"cylinder": "one", "gross_start": "12 lb 0 oz", "tare": "9 lb 0 oz", "hose_loss": "0 oz"},
        "d2": {"cylinder": "two", "gross_start": "30 lb 0 oz", "tare": "9 lb 0 oz", "hose_loss": "0 oz"},
    },
}


class Scale:
    """A scale on the job, or another instrument, that posts what it is told for the last minutes."""

    def __init__(self, address: str, code: str, channel: str = "scale", unit: str = "lb", back_s: float = 300.0) -> None:
        orrin = Person.objects.get(username="orrin")
        limit = {"limit": 0.03} if channel == "scale" else {}
        gateway, self.token = pair(begin_pairing(orrin).code, channel, [{"key": "s", "channel": channel, "unit": unit, **limit}])
        self.unit, self.step = unit, 32 if channel == "scale" else 1
        put_on_job(orrin, gateway.pk, Job.objects.get(code=code).pk)
        self.address, self.last = address, datetime.now(UTC) - timedelta(seconds=back_s)

    def reads(self, first: float, last: float, seconds: int) -> None:
        """A straight course, a reading a second, right after what was posted before; never ahead of the clock."""
        begun = self.last
        rows = []
        for n in range(seconds + 1):
            self.last = min(begun + timedelta(seconds=n + 1), datetime.now(UTC))
            value = first + (last - first) * n / max(seconds, 1)
            rows.append({"instrument": "s", "value": round(value * self.step) / self.step, "unit": self.unit, "at": self.last.isoformat()})
        body = json.dumps({"readings": rows}).encode()
        headers = {"Content-Type": "application/json", "Authorization": f"Bearer {self.token}"}
        with urllib.request.urlopen(urllib.request.Request(f"{self.address}/api/gateway/readings", body, headers), timeout=20) as answer:
            assert json.loads(answer.read())["refused_count"] == 0


def made_to_weigh(key: str) -> str:
    """A job that stands at its weigh-in, two cylinders written down."""
    return make_job(
        Person.objects.get(username="orrin"),
        Circuit.objects.get(code="DL-2"),
        {"title": "Weighed live", "stages": world.stages(["paired", "close identify", "weigh"], {"weigh": {"weigh_in": WEIGH}})},
        key,
    )


def state(page: Page, name: str) -> Any:
    found = page.locator("[data-following]")
    expect(found).to_have_attribute("data-following", name)
    return found


@pytest.fixture
def killable(address: str) -> Iterator[Killable]:
    server = Killable()
    server.start()
    yield server
    server.kill()


@pytest.mark.parametrize("screen", [DESK, PHONE], ids=["desk", "phone-dark"])
def test_two_cylinders_to_the_mark(open_page: Any, address: str, screen: dict[str, Any]) -> None:
    code = made_to_weigh("e2e-weigh-live")
    page = open_page(**screen)
    page.goto(f"/job/{code}/weigh_in")
    verdict(page, "Open")
    scale = Scale(address, code)
    scale.reads(12.0, 12.0, 12)
    expect(state(page, "ready")).to_contain_text("Open the valve")
    scale.reads(12.0, 10.8, 30)
    expect(state(page, "flowing")).to_contain_text("1 lb 3")
    expect(state(page, "flowing")).to_contain_text("a minute")

    scale.reads(12.4, 12.4, 8)
    expect(state(page, "jumped")).to_contain_text("fresh reading")
    scale.reads(10.75, 9.8, 30)
    state(page, "flowing")
    page.get_by_role("button", name="Valve is shut").click()
    expect(page.get_by_text("close at 24 lb 11").first).to_be_visible()
    scale.reads(9.8, 9.8, 3)
    expect(state(page, "mount")).to_contain_text("this cylinder read 30 lb")

    scale.reads(30.0, 30.0, 12)
    expect(state(page, "ready")).to_contain_text("2 lb 3")
    scale.reads(30.0, 27.0, 60)
    state(page, "flowing")
    expect(page.get_by_text("has not posted")).to_have_count(0)
    expect(page.get_by_text("has not posted")).to_be_visible(timeout=15_000)

    scale.reads(27.0, 25.0, 40)
    cue = page.get_by_test_id("cue")
    expect(cue).to_contain_text("close at 24 lb 11")
    cue.click()
    expect(cue).to_have_count(0)
    scale.reads(24.95, 24.72, 4)
    expect(cue).to_contain_text("Close the valve now")
    cue.click()
    scale.reads(24.7, 24.7, 10)
    page.get_by_role("button", name="Valve is shut").click()
    verdict(page, "Holds")
    page.get_by_role("button", name="It is in: go to Verify").click()
    page.get_by_role("heading", name="Verify").wait_for()
    document = Job.objects.get(code=code).document
    charged = sum(row["movement"]["mass_kg"] for row in document["ledger"] if row["movement"]["kind"] == "charge")
    assert charged == pytest.approx(7.5 * 0.45359237, abs=0.02)


def test_the_server_is_killed_and_the_scale_unplugged_half_way(open_page: Any, killable: Killable) -> None:
    """What is in stays known: on the page while nobody answers, and from the kept readings afterwards."""
    code = made_to_weigh("e2e-weigh-killed")
    page = open_page()
    page.goto(f"{killable.address}/job/{code}/weigh_in")
    scale = Scale(killable.address, code)
    scale.reads(12.0, 12.0, 12)
    state(page, "ready")
    scale.reads(12.0, 10.8, 30)
    expect(state(page, "flowing")).to_contain_text("1 lb 3")

    killable.kill()
    expect(page.get_by_text("has not posted")).to_be_visible(timeout=20_000)
    expect(page.locator("[data-following]")).to_contain_text("1 lb 3")
    killable.start()
    scale.reads(10.8, 9.8, 30)
    expect(state(page, "flowing")).to_contain_text("2 lb 3")
    page.get_by_role("button", name="Valve is shut").click()
    expect(page.get_by_text("close at 24 lb 11").first).to_be_visible()

    scale.reads(30.0, 30.0, 12)
    state(page, "ready")
    scale.reads(30.0, 25.6, 60)
    killable.kill()
    killable.start()
    page.reload()
    expect(page.locator("[data-following]")).to_contain_text("6 lb 9", timeout=20_000)
    scale.reads(25.6, 24.7, 30)
    page.get_by_test_id("cue").click()
    scale.reads(24.7, 24.7, 10)
    if page.get_by_test_id("cue").count():
        page.get_by_test_id("cue").click()
    page.get_by_role("button", name="Valve is shut").click()
    verdict(page, "Holds")
    page.get_by_role("button", name="It is in: go to Verify").click()
    page.get_by_role("heading", name="Verify").wait_for()
    movements = [row["movement"] for row in Job.objects.get(code=code).document["ledger"]]
    charged = {m["source"]: m["mass_kg"] for m in movements if m["kind"] == "charge"}
    assert charged == {
        "cylinder:one": pytest.approx(2.2 * 0.45359237, abs=0.02),
        "cylinder:two": pytest.approx(5.3 * 0.45359237, abs=0.02),
    }


def test_a_step_of_charge_is_added_on_the_live_scale(open_page: Any, address: str) -> None:
    page = open_page("pell")
    page.get_by_text("Guest house heat pump, trimming").click()
    page.get_by_role("heading", name="Verify", exact=True).wait_for()
    expect(page.get_by_test_id("big-weight").first).to_contain_text("4.8oz")
    scale = Scale(address, page.url.split("/")[-2])
    scale.reads(18.2, 18.2, 12)
    page.locator('[data-live="scale"]').wait_for()
    page.get_by_role("button", name="Add on the scale").click()
    expect(page.get_by_test_id("close-at")).to_be_visible()
    scale.reads(18.2, 18.2, 6)
    expect(state(page, "ready")).to_contain_text("Open the valve")
    scale.reads(18.2, 17.95, 20)
    page.get_by_test_id("cue").click()
    scale.reads(17.9, 17.9, 10)
    expect(page.get_by_role("region", name="Instruments")).to_contain_text("17 lb 14.5 oz")  # what is shut on is what the page has
    if page.get_by_test_id("cue").count():
        page.get_by_test_id("cue").click()
    page.get_by_role("button", name="Valve is shut").click()
    expect(page.get_by_test_id("waits")).to_contain_text("It settles; the next reading in")
    expect(page.get_by_role("button", name="Add on the scale")).to_have_count(0)
    expect(page.get_by_test_id("trim-tape").first).to_have_attribute("aria-label", re.compile("in now 6 lb 9"))
