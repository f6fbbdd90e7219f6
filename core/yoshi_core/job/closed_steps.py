"""A closed step of an open job says what it said when it was closed, also under a later version; what today's rules would say stands beside it."""

from contextlib import suppress
from typing import Any, get_type_hints

from yoshi_core import __version__
from yoshi_core.document import schema
from yoshi_core.errors import CoreError
from yoshi_core.findings.result import StepResult

WORDS = ("word", "headline")
PARTS = {name: kind for name, kind in get_type_hints(StepResult).items() if name not in {"step", "state", "picture"}}


def as_closed(document: dict[str, Any], findings: dict[str, Any]) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    """The findings with what closed steps showed put back, and for those that would say otherwise today: what, and under which version they were closed.

    Only steps closed under another version than this are looked at: under this one nothing differs.
    """
    kept = _of_another_version(document)
    if not kept:
        return findings, []
    steps, otherwise = [], []
    for fresh in findings["steps"]:
        event = kept.get(fresh["step"])
        if event is None or fresh["state"] != "closed":
            steps.append(fresh)
            continue
        shown = {**_shape(event["shown"], fresh), "state": "closed"}
        steps.append(shown)
        if _said(shown) != _said(fresh):
            verdict = fresh["verdict"]
            otherwise.append(
                {"step": fresh["step"], "core_version": event["core_version"], "word": verdict["word"], "headline": verdict["headline"]}
            )
    return {**findings, "steps": steps}, otherwise


def _said(step: dict[str, Any]) -> Any:
    """What a step says, whatever its words: an older version may have written the same in another sentence."""
    verdict = step["verdict"]
    reasons = [(row["rule_id"], row["word"], row["value"], row["limit"]) for row in verdict["reasons"]]
    return verdict["word"], reasons, {row["id"]: row["amount"] for row in step["figures"]}


def _of_another_version(document: dict[str, Any]) -> dict[str, dict[str, Any]]:
    """The closing of each step that was closed under another version, with what it showed."""
    found = {}
    for step, record in document.get("steps", {}).items():
        last = (record.get("events") or [{}])[-1]
        if last.get("kind") == "closed" and last.get("core_version") != __version__ and isinstance(last.get("shown"), dict):
            found[step] = {"core_version": "", **last}
    return found


def _shape(shown: dict[str, Any], fresh: dict[str, Any]) -> dict[str, Any]:
    """What was shown, as this version's screens take it: part by part, and of a part they cannot take, today's; the words of the verdict always."""
    found = dict(fresh)
    for name, kind in PARTS.items():
        with suppress(CoreError):
            if name in shown:
                found[name] = _whole(kind, shown[name])
    verdict = shown.get("verdict", {})
    found["verdict"] = {**found["verdict"], **{name: verdict[name] for name in WORDS if name in verdict}}
    picture = shown.get("picture")
    if isinstance(picture, dict) and picture.keys() == fresh["picture"].keys():
        found["picture"] = picture
    return found


def _whole(kind: Any, part: Any) -> Any:
    """A part as it was kept, with what this version has beside it. Raises `CoreError` for one of another shape."""
    return schema.dump_full(schema.load(kind, part))
