"""A whole job walked through the screens, with the clock of the device set to when each thing was done."""

import re
from datetime import UTC, datetime, timedelta
from typing import Any

from playwright.sync_api import Page, expect

from e2e.acts import pick, unfolded
from e2e.device import set_by_hand, set_the_clock

HEADINGS = {
    "identify": "Identify",
    "as_found": "As found",
    "leak_search": "Leak search",
    "recover": "Recover",
    "repair": "Repair",
    "pressure_hold": "Pressure hold",
    "evacuate": "Evacuate",
    "weigh_in": "Weigh in",
    "verify": "Verify",
    "close_out": "Close out",
}
REPAIRED = {
    "opened_for": "30 min",
    "joining": "brazed",
    "at_zero": True,
    "both_open": True,
    "fire_watch": True,
    "nitrogen_flow": True,
    "drier": "new",
    "drier_way": True,
    "drier_size": True,
    "cores": True,
}
HELD = {"stamps.s1.label": "coil", "gas": "nitrogen", "fed": "both", "metal_by": "none", "regulator": True}
PULLED = {"method": "single", "place": "far", "energized": True, "cores_out": True, "oil_fresh": True}
SETTLED = {"run_in": "15 min", "filter_ok": True, "coils_ok": True}


class Walk:
    """One job, from a name to its record."""

    def __init__(self, page: Page, hours: float = 9.0) -> None:
        self.page = page
        self.begun = datetime.now(UTC) - timedelta(hours=hours)
        set_by_hand(page)

    def at(self, minutes: float) -> "Walk":
        """So many minutes after arrival, by the device's clock."""
        set_the_clock(self.page, self.begun + timedelta(minutes=minutes))
        return self

    def begin(self, title: str, circuit: str = "") -> None:
        """A whole job, on a circuit of the record or on a unit that is on none."""
        self.page.get_by_role("button", name="New job").click()
        if circuit:
            self.page.get_by_label("circuit", exact=True).select_option(label=circuit)
        else:
            self.page.get_by_label("name of the job").fill(title)
        self.page.get_by_role("button", name="Whole job: gauges on first").click()
        self.heading("Identify")

    @property
    def code(self) -> str:
        """The job's code."""
        return self.page.url.split("/job/")[1].split("/")[0].split("?")[0]

    def heading(self, text: str) -> None:
        """Be where that is the heading."""
        self.page.get_by_role("heading", name=text, exact=True).wait_for()

    def go(self, step: str) -> "Walk":
        """To a step, by the list of steps; by its address where that is not in sight."""
        link = self.page.locator(f'a[href="/job/{self.code}/{step}"]').first
        if link.is_visible():
            link.click()
        else:
            self.page.goto(f"/job/{self.code}/{step}")
        self.heading(HEADINGS[step])
        return self

    def fill(self, values: dict[str, Any]) -> None:
        """Fields by their keys: yes and no, a choice, or what is typed."""
        for key, value in values.items():
            box = unfolded(self.page.locator(f'[data-field="{key}"]')).first
            if isinstance(value, bool):
                box.locator("label").filter(has_text="Yes" if value else "No").click()
                continue
            control = box.locator("input.control, select.control, textarea.control, input[type=radio]").first
            if control.evaluate("place => place.tagName === 'SELECT' || place.type === 'radio'"):
                pick(box, value)
            else:
                control.fill(value)
                control.blur()

    def leak_here(self, inside: str) -> None:
        """It leaks at the place that comes first: by bubbles at once, by what can be fooled with a second method."""
        self.fill({"inside": inside})
        headline = self.page.get_by_test_id("headline")
        self.page.get_by_role("button", name="Leak here").click()
        expect(headline).to_contain_text(re.compile("A second method decides|Leak found:"))
        if "A second method decides" in headline.inner_text():
            self.page.get_by_role("button", name="Leak here").click()
        expect(headline).to_contain_text("Leak found:")

    def keep(self) -> None:
        """Say of everything asked about that it is right as it was typed."""
        asked = self.page.get_by_role("button", name="It is right, keep it")
        while asked.count():
            before = asked.count()
            asked.first.click()
            expect(asked).to_have_count(before - 1)

    def close(self, reason: str = "") -> None:
        """Close the step one is at: as it stands, or with a reason, and be at another."""
        here = self.page.url
        if reason:
            self.page.get_by_role("button", name="Close").filter(has_text="with a reason").or_(
                self.page.get_by_role("button", name="Close it all the same")
            ).click()
            self.page.get_by_label("Reason, kept in the record").fill(reason)
            self.page.get_by_role("button", name="Close with this reason").click()
        else:
            go = self.page.locator("button.btn.go[aria-disabled]")
            expect(go).to_have_attribute("aria-disabled", "false")
            go.click()
        self.page.wait_for_url(lambda url: url != here)

    def leave(self, reason: str) -> None:
        """Say that the step does not apply."""
        here = self.page.url
        self.page.get_by_role("button", name="Does not apply").click()
        self.page.get_by_label("reason").fill(reason)
        self.page.get_by_role("button", name="It does not apply").click()
        self.page.wait_for_url(lambda url: url != here)

    def again(self, step: str, reason: str) -> None:
        """Open a closed step anew, the round before kept."""
        self.go(step)
        self.page.get_by_role("button", name="Correct this step").click()
        self.page.get_by_label("Reason, kept in the record").fill(reason)
        self.page.get_by_role("button", name="Do it over, keep the old run").click()
        expect(self.page.get_by_role("dialog")).to_have_count(0)

    def end_visit(self, way: str, reason: str, awaited: str) -> None:
        """End the visit; the job goes on another day."""
        self.page.get_by_role("button", name="End this visit").first.click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("radio", name=way).check()
        dialog.get_by_label("why it ends this way").fill(reason)
        dialog.get_by_label("what is awaited").fill(awaited)
        dialog.get_by_role("button", name="End the visit").click()
        expect(dialog).to_have_count(0)

    def come_back(self) -> None:
        """Start another visit."""
        self.page.get_by_role("region", name="Between visits").get_by_role("button").click()
        expect(self.page.get_by_role("region", name="Between visits")).to_have_count(0)

    def act(self, side: str, way: str, values: dict[str, Any], button: str) -> None:
        """Refrigerant in or out, or a part shut off, beside the steps."""
        self.page.get_by_role("button", name="Refrigerant in or out").first.click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_text(side, exact=True).click()
        dialog.get_by_label(way).check()
        for label, value in values.items():
            box = dialog.get_by_label(label, exact=True)
            box.fill(value)
            box.blur()
        dialog.get_by_role("button", name=button).click()
        expect(dialog).to_have_count(0)

    def read(self, **fields: str) -> None:
        """Type a reading at this moment."""
        form = self.page.get_by_role("region", name="Readings")
        for label, value in fields.items():
            form.get_by_label(label).first.fill(value)
        form.get_by_role("button", name="Type a reading").click()

    def held(self, minutes: float, psig: str, lasts: float, stamp: str = "450 psig", bubbles: str = "clean") -> None:
        """A hold filled at that moment, settled, and read twice so far apart."""
        self.go("pressure_hold").fill({**HELD, "stamps.s1.pressure": stamp, "test_pressure": psig})
        self.at(minutes)
        self.page.get_by_role("button", name="Shut now").click()
        self.fill({"bubbles": bubbles})
        for moment in (minutes + 16, minutes + 16 + lasts):
            self.at(moment).read(gauge=psig)
        self.at(minutes + 17 + lasts)

    def pulled(self, minutes: float, shut: str, later: tuple[tuple[float, str], ...], more: dict[str, Any] | None = None) -> None:
        """A pull of 40 minutes, shut off at a reading, and what it read so many minutes later."""
        self.go("evacuate").fill({**PULLED, **(more or {})})
        self.at(minutes)
        self.page.get_by_role("button", name="Pump is on").click()
        self.at(minutes + 40)
        self.page.get_by_role("button", name="Shut off now").click()
        self.read(gauge=shut)
        for after, micron in later:
            self.at(minutes + 40 + after).read(gauge=micron)

    def finish(self, way: str, reason: str = "", **more: str) -> str:
        """Close the job that way; the record as it prints."""
        self.go("close_out")
        self.page.locator(f'[data-field="outcome"] input[value="{way}"]').check()
        if reason:
            self.fill({"reason": reason})
        self.fill(more)
        self.fill({"label_fixed": True})
        update = self.page.locator('[data-field="update_circuit"]')
        if update.count():
            self.fill({"update_circuit": True})
        go = self.page.get_by_role("button", name="Close the job")
        expect(go).to_have_attribute("aria-disabled", "false")
        go.click()
        expect(self.page.get_by_role("button", name="Correct this step")).to_be_visible()
        return self.page.request.get(f"/api/jobs/{self.code}/record").text()
