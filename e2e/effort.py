"""What a job costs its technician: presses that are not keys of the keypad, and values typed.

A field reached by the keypad's own *next* costs no press; one that is not next does. A closed list costs two, to open and to choose.
"""

from typing import Any

from playwright.sync_api import Locator, Page, expect


class Hand:
    """One hand on a phone, counting."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.taps = self.fields = 0
        self.by_step: dict[str, tuple[int, int]] = {}
        self._before = (0, 0)

    def tap(self, place: Locator, presses: int = 1) -> None:
        """Press it."""
        place.scroll_into_view_if_needed()
        place.click()
        self.taps += presses

    def button(self, name: str) -> None:
        """Press what bears that word."""
        self.tap(self.page.get_by_role("button", name=name).first)

    def put(self, key: str, text: str) -> None:
        """Type a value."""
        self.type(self.page.locator(f'[data-field="{key}"]').first.locator("input.control, textarea.control").first, text)

    def type(self, box: Locator, text: str) -> None:
        """Type into a field: by the keypad's *next* where it is next, else by a press."""
        box.wait_for()
        if not self._is_at(box):
            if self._keypad_is_open():
                self.page.keyboard.press("Enter")
            if not self._is_at(box):
                self.tap(box)
        self.page.keyboard.press("ControlOrMeta+a")
        self.page.keyboard.type(text)
        self.fields += 1

    def _keypad_is_open(self) -> bool:
        return bool(self.page.evaluate("document.activeElement.matches('input.control, textarea.control')"))

    def _is_at(self, box: Locator) -> bool:
        return bool(box.evaluate("box => document.activeElement === box"))

    def choose(self, key: str, value: str) -> None:
        """Choose one of several."""
        place = self.page.locator(f'[data-field="{key}"]').first
        place.wait_for()
        button = place.locator(f'label:has(input[type="radio"][value="{value}"])')
        if button.count():
            self.tap(button)
            return
        place.locator("select.control").select_option(value)
        self.taps += 2

    def yes(self, *keys: str) -> None:
        for key in keys:
            self.tap(self.page.locator(f'[data-field="{key}"] label').filter(has_text="Yes").first)

    def book(self, code: str) -> None:
        """Take a cylinder from the shop's book."""
        self.page.get_by_label("from the book").select_option(code)
        self.taps += 2

    def reading(self, label: str, text: str) -> None:
        """Type a reading at this moment: one press into the field where one is not there still, one to keep it."""
        form = self.page.get_by_role("region", name="Readings")
        self.type(form.get_by_label(label).first, text)
        self.tap(form.get_by_role("button", name="Type a reading"))

    def known(self, key: str, word: str) -> None:
        """Say how a figure is known."""
        place = self.page.locator(f'[data-field="{key}"]').first
        self.page.keyboard.press("Enter")
        self.tap(place.get_by_role("button", name=word, exact=True))

    def understood(self) -> None:
        """The cautions of a step, read once."""
        seen = self.page.get_by_role("button", name="Understood")
        if seen.count():
            self.tap(seen.first)
            expect(seen).to_have_count(0)

    def on(self, heading: str) -> None:
        """Close the step, and be at the next."""
        go = self.page.locator("button.btn.go[aria-disabled]")
        self.page.keyboard.press("Enter")
        expect(go).to_have_attribute("aria-disabled", "false")
        self.tap(go)
        self.page.get_by_role("heading", name=heading, exact=True).wait_for()

    def leave(self) -> None:
        """Leave the field, by the keypad."""
        self.page.keyboard.press("Enter")

    def close_at(self) -> str:
        """What the scale reads when the valve is to be shut."""
        self.leave()
        said = self.page.get_by_test_id("headline")
        expect(said).to_contain_text("Close the valve when the scale reads")
        return said.inner_text().partition("reads ")[2].rstrip(".")

    def aside(self, reason: str) -> None:
        """The step does not apply, by a reason of one's own."""
        self.button("Does not apply")
        self.type(self.page.get_by_label("reason"), reason)
        self.button("It does not apply")

    def finish(self, way: str) -> None:
        """Close the job that way, the label fixed."""
        self.tap(self.page.locator(f'label:has(input[value="{way}"])'))
        self.yes("label_fixed")
        self.button("Close the job")
        expect(self.page.get_by_role("button", name="Correct this step")).to_be_visible()
        self.mark("close out")

    def mark(self, name: str) -> None:
        """What it took since the last mark."""
        self.by_step[name] = (self.taps - self._before[0], self.fields - self._before[1])
        self._before = (self.taps, self.fields)

    def said(self) -> str:
        rows = "; ".join(f"{name} {taps}, {fields}" for name, (taps, fields) in self.by_step.items())
        return f"{self.taps} taps, {self.fields} fields ({rows})"


def shown(page: Page, claim: str) -> Any:
    """The claim of the step stands as shown."""
    return expect(page.get_by_role("region", name=f"What this shows: {claim}")).to_contain_text("Shown")
