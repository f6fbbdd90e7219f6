"""The same questions to the core here and to the core in a browser, and where their answers differ."""

import json
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

from playwright.sync_api import Page

from yoshi_core.device.door import answer

DIST = Path(__file__).resolve().parents[1] / "web" / "dist"
NEARLY = 1e-9
AT_ONCE = 50

STARTED = """async ([worker, place]) => {
  const made = new Worker(worker, { type: "module" });
  const began = performance.now();
  const said = await new Promise((done) => { made.onmessage = ({ data }) => done(data); made.onerror = (e) => done({ failed: e.message });
    made.postMessage({ start: new URL(place, location.href).href }); });
  window.core = { made, last: 0 };
  return { ...said, ms: performance.now() - began };
}"""
ASKED = """(questions) => new Promise((done) => {
  const { made } = window.core;
  const found = [];
  made.onmessage = ({ data }) => { found.push(data); if (found.length === questions.length) done(found); };
  for (const [id, question] of questions.entries()) made.postMessage({ id, question });
})"""


def start(page: Page) -> dict[str, Any]:
    """Start the engine in the page as the application does; what it says of itself, and how long that took in `ms`. Raises `RuntimeError`."""
    engine = json.loads((DIST / "engine.json").read_text())
    [worker] = DIST.glob("assets/worker-*.js")
    said: dict[str, Any] = page.evaluate(STARTED, [f"/assets/{worker.name}", f"/engine/{engine['version']}/"])
    if "failed" in said:
        raise RuntimeError(str(said["failed"]))
    return said


def asked(page: Page, questions: Sequence[str]) -> Iterator[dict[str, Any]]:
    """The browser's answer to each question with the milliseconds it took there, in their order."""
    for first in range(0, len(questions), AT_ONCE):
        yield from page.evaluate(ASKED, list(questions[first : first + AT_ONCE]))


def differences(page: Page, questions: Sequence[str]) -> Iterator[str]:
    """Where the browser's core says otherwise than this one: the question's number, the place, and both values."""
    for number, (question, reply) in enumerate(zip(questions, asked(page, questions), strict=True)):
        if "broke" in reply:
            yield f"{number}: broke: {reply['broke']}"
            continue
        for place, here, there in unlike(json.loads(answer(question)), json.loads(reply["answer"])):
            yield f"{number}{place}: {here!r} here, {there!r} there"


def unlike(here: Any, there: Any, place: str = "") -> Iterator[tuple[str, Any, Any]]:
    """Every place at which two answers differ: words exactly, numbers beyond a billionth of themselves."""
    if isinstance(here, dict) and isinstance(there, dict):
        for key in sorted(here.keys() | there.keys()):
            yield from unlike(here.get(key), there.get(key), f"{place}/{key}")
    elif isinstance(here, list) and isinstance(there, list) and len(here) == len(there):
        for n, (one, other) in enumerate(zip(here, there, strict=True)):
            yield from unlike(one, other, f"{place}/{n}")
    elif isinstance(here, float) and isinstance(there, (int, float)) and not isinstance(there, bool):
        if abs(here - there) > NEARLY * max(1.0, abs(here), abs(there)):
            yield place, here, there
    elif here != there or isinstance(here, bool) is not isinstance(there, bool):
        yield place, here, there


def question(job: dict[str, Any], version: int, now: str, profile: dict[str, Any] | None = None) -> str:
    """A document as a question to judge it."""
    return json.dumps({"ask": "judge", "job": job, "version": version, "profile": profile or {}, "by": "M. Orrin", "now": now})
