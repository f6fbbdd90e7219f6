"""The OpenAPI document: the API's own, with the core's definitions put in for its types."""

from typing import Any

from api.core_types import MARK
from yoshi_core.books.circuit import History
from yoshi_core.books.cylinder import Account
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate
from yoshi_core.findings.verdict import Problem
from yoshi_core.job import documents
from yoshi_core.job.evaluate import Findings
from yoshi_core.job.patches import Conflict
from yoshi_core.job.what_if import SchoolChange
from yoshi_core.message import Message
from yoshi_core.practice.card import Card
from yoshi_core.practice.debrief import Debrief
from yoshi_core.practice.inside import LookInside
from yoshi_core.practice.opinion import Opinion
from yoshi_core.practice.seen import Seen
from yoshi_core.properties.pressure_enthalpy import PhChart
from yoshi_core.units import Echo
from yoshi_core.views.ph_points import JobPoints
from yoshi_core.views.retrofit import RetrofitTable


def core_definitions() -> dict[str, Any]:
    """Every core type the API speaks, by name; fields of findings are always present."""
    found = dict(documents.json_schema()["$defs"])
    job = (Findings, Conflict, Message, Problem, Echo, Account, History, RetrofitTable, PhChart, JobPoints, SchoolChange)
    for kind in (*job, Card, Seen, LookInside, Debrief, Opinion):
        schema.definitions(kind, found, full=True)
    schema.definitions(Plate, found)
    entry = found["Entry"]
    if "anyOf" in entry:
        found["Entry"] = {key: value for key, value in entry["anyOf"][1].items() if key != "anyOf"} | {"required": ["value"]}
    return found


def with_core_types(document: dict[str, Any]) -> dict[str, Any]:
    """The document with markers replaced by references; raises when two definitions share a name."""
    components = document.setdefault("components", {}).setdefault("schemas", {})
    definitions = _walk(core_definitions())
    clash = set(components) & set(definitions)
    if clash:
        raise ValueError(f"defined twice: {sorted(clash)}")
    result: dict[str, Any] = _walk(document)
    result["components"]["schemas"].update(definitions)
    return result


def _walk(node: Any) -> Any:
    if isinstance(node, dict):
        if MARK in node:
            return {"$ref": f"#/components/schemas/{node[MARK]}"}
        return {
            key: value.replace("#/$defs/", "#/components/schemas/") if key == "$ref" and isinstance(value, str) else _walk(value)
            for key, value in node.items()
        }
    if isinstance(node, list):
        return [_walk(item) for item in node]
    return node
