"""Instruments that post for themselves: paired by code, held, pulled three times, watched, captured and closed."""

import re
import threading
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from accounts.models import Person
from demo import world
from demo.management.commands.load_demo import make_job
from e2e.acts import choose, enter, headline, say_yes, verdict
from standins.kit import load
from standins.post import Poster, pair
from systems.models import Circuit

DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844, "dark": True}
PULLS = (("pump", 60.0), ("nitrogen", 52.0), ("pump", 48.0), ("nitrogen", 40.0), ("pump", 36.0), ("isolated", 16.0))
BUTTONS = {"pump": "Pump again", "nitrogen": "Broken with nitrogen", "isolated": "Shut off now"}

Post = Callable[[str, str, float], None]


@pytest.fixture
def post(address: str) -> Post:
    """Starts a kit that has been posting for so many minutes."""

    def start(code: str, name: str, minutes: float) -> None:
        kit = load(name)
        poster = Poster(address, pair(address, code, kit), kit, datetime.now(UTC) - timedelta(minutes=minutes))
        threading.Thread(target=poster.run, args=(datetime.now(UTC) + timedelta(minutes=4),), daemon=True).start()

    return start


def job_at_hold() -> str:
    person, circuit = Person.objects.get(username="orrin"), Circuit.objects.get(code="CR-1")
    stages = world.stages(["opened", "repaired", "close repair"])
    return make_job(person, circuit, {"title": "Control room, closed up", "kind": "service", "stages": stages}, "e2e-closed-up")


def bring(page: Page, post: Post, code: str, kit: str, minutes: float) -> None:
    """Pair a kit from the instruments' page and put it on the job."""
    page.goto(f"/instruments?job={code}")
    page.get_by_role("button", name="Pair a kit").click()
    shown = page.get_by_test_id("pairing-code").locator(".num")
    expect(shown).to_have_text(re.compile("^[A-Z2-9]{6}$"))
    post(shown.inner_text(), kit, minutes)
    row = page.get_by_role("listitem").filter(has=page.get_by_role("heading", name=load(kit).name))
    row.get_by_role("button", name="Put it on the job I came from").click()
    expect(row.get_by_label("on the job")).to_have_value(code)


def at(page: Page, key: str, minutes_ago: float) -> None:
    """Set a moment by the device's own clock."""
    moment = datetime.now() - timedelta(minutes=minutes_ago)
    page.locator(f'[data-field="{key}"] input').fill(moment.strftime("%Y-%m-%dT%H:%M:%S"))
    page.keyboard.press("Enter")


@pytest.mark.parametrize("screen", [DESK, PHONE], ids=["desk", "phone-dark"])
def test_held_pulled_three_times_watched_captured_and_closed(open_page: Any, post: Post, screen: dict[str, Any]) -> None:
    page = open_page(**screen)
    code = job_at_hold()
    bring(page, post, code, "hold-tight", 45.0)
    page.goto(f"/job/{code}/pressure_hold")
    expect(page.locator('[data-live="liquid_pressure"]')).to_contain_text("psig")
    enter(page, "stamps.s1.label", "indoor coil")
    enter(page, "stamps.s1.pressure", "250 psig")
    enter(page, "test_pressure", "260 psig")
    expect(headline(page)).to_contain_text("260.0 psig is above the lowest stamp connected")
    enter(page, "test_pressure", "250 psig")
    choose(page, "gas", "nitrogen")
    choose(page, "fed", "both")
    choose(page, "metal_by", "clamp")
    say_yes(page, "regulator")
    at(page, "filled_at", 45.0)
    choose(page, "bubbles", "clean")
    expect(headline(page)).to_contain_text("It holds")
    verdict(page, "Holds")
    page.get_by_role("button", name="It holds: go on").click()
    page.get_by_role("heading", name="Evacuate", exact=True).wait_for()

    bring(page, post, code, "triple", 60.0)
    page.goto(f"/job/{code}/evacuate")
    choose(page, "method", "triple")
    choose(page, "place", "far")
    for key in ("energized", "valves_open", "cores_out"):
        say_yes(page, key)
    page.get_by_role("button", name="Pump is on").click()
    at_once = page.get_by_text("What was done when, to correct it")
    at_once.click()
    at(page, "events.e1.at", PULLS[0][1])
    for n, (what, ago) in enumerate(PULLS[1:], 2):
        page.get_by_role("button", name=BUTTONS[what]).click()
        at(page, f"events.e{n}.at", ago)
    expect(headline(page)).to_contain_text("Tight and dry:")
    expect(page.get_by_role("img", name="Shut off:")).to_be_visible()
    expect(page.get_by_role("region", name="In this order").locator('[aria-current="step"]')).to_contain_text("Shut off and watch")
    expect(page.locator('[data-live="vacuum"]')).to_contain_text("steady")
    page.get_by_role("button", name="Hold to capture").click(delay=700)
    expect(page.get_by_text("One reading")).to_be_visible()
    verdict(page, "Holds")
    page.get_by_role("button", name="Tight and dry: go on").click()
    page.get_by_role("heading", name="Weigh in").wait_for()
    page.goto(f"/job/{code}/evacuate")
    expect(headline(page)).to_contain_text("Tight and dry:")


def test_a_plugged_port_is_said_and_a_silent_gauge_shows_its_age(open_page: Any, post: Post) -> None:
    page = open_page()
    code = job_at_hold()
    bring(page, post, code, "plugged-port", 14.0)
    page.goto(f"/job/{code}/evacuate")
    page.get_by_role("button", name="Pump is on").click()
    page.get_by_text("What was done when, to correct it").click()
    at(page, "events.e1.at", 14.0)
    page.get_by_role("button", name="Shut off now").click()
    at(page, "events.e2.at", 4.0)
    expect(headline(page)).to_contain_text("a port between them is closed or plugged")
    other = open_page("vesk")
    other.goto(f"/job/{code}/evacuate")
    expect(other.locator('[data-live="second_vacuum"]')).to_contain_text("now")
