"""Units, ranges and words of every field, for whoever draws a form; and the run of steps."""

from typing import Any

from yoshi_core.document.acts import Act, Section
from yoshi_core.document.plate import LINELESS_KINDS, ONLY_COOL
from yoshi_core.document.schema import default_unit, facts_of
from yoshi_core.document.sheets import Facts
from yoshi_core.findings.glossary import GLOSSARY
from yoshi_core.instruments.channels import CHANNELS
from yoshi_core.profile.groups import grouped
from yoshi_core.profile.profile import CHOICES, RULES, Rule
from yoshi_core.steps import registry
from yoshi_core.steps.step import Step
from yoshi_core.units.quantities import QUANTITIES


def forms() -> dict[str, Any]:
    """Everything a form needs to know, as plain data."""
    return {
        "quantities": {name: _quantity(name) for name in QUANTITIES},
        "steps": {kind: [{"id": step, "label": registry.label(step)} for step in registry.order(kind)] for kind in registry.KINDS},
        "step": {step.id: _step(step) for step in registry.STEPS.values()},
        "sheets": {step.id: _sheet(step.sheet) for step in registry.STEPS.values()},
        "kinds": {"lineless": sorted(LINELESS_KINDS), "only_cool": sorted(ONLY_COOL)},
        "acts": _sheet(Act),
        "sections": _sheet(Section),
        "channels": {c.id: {"label": c.label, "quantity": c.quantity} for c in CHANNELS.values()},
        "rules": {rule.id: _rule(rule) for rule in RULES.values()},
        "rule_groups": [{"title": title, "rules": list(ids)} for title, ids in grouped()],
        "choices": {
            choice.id: {"text": choice.text, "options": dict(choice.options), "default": choice.default, "reason": choice.reason}
            for choice in CHOICES.values()
        },
        "glossary": [{"word": term.word, "also": list(term.also), "meaning": term.meaning} for term in GLOSSARY],
    }


def _step(step: Step) -> dict[str, Any]:
    """What the interface must know of a step besides its sheet."""
    capture = step.capture and {
        "way": step.capture.way,
        "record": step.capture.record,
        "row": step.capture.row,
        "fields": [{"field": name, "channels": list(channels)} for name, channels in step.capture.fields],
        "begun": list(step.capture.begun),
        "first_open": step.capture.first_open,
    }
    return {
        "label": step.label,
        "holds": step.holds,
        "must": step.must,
        "left_out": list(step.left_out),
        "early": step.early,
        "channels": list(step.channels),
        "capture": capture,
    }


def _rule(rule: Rule) -> dict[str, Any]:
    return {
        "text": rule.text,
        "quantity": rule.quantity,
        "default": rule.default,
        "low": rule.low,
        "high": rule.high,
        "source": rule.source,
    }


def _quantity(name: str) -> dict[str, Any]:
    quantity = QUANTITIES[name]
    units = [{"symbol": u.symbol, "factor": u.factor, "offset": u.offset, "decimals": u.decimals} for u in quantity.units]
    return {"us": quantity.shown("us").symbol, "si": quantity.shown("si").symbol, "units": units}


def _sheet(kind: type) -> dict[str, Any]:
    return {name: _field(facts, row) for name, (facts, row) in facts_of(kind).items()}


def _field(facts: Facts, row: type | None) -> dict[str, Any]:
    plain: dict[str, Any] = {"quantity": facts.quantity, "label": facts.label}
    if facts.quantity in QUANTITIES:
        plain["unit"] = {"us": default_unit(facts, "us"), "si": default_unit(facts, "si")}
        plain["hard"] = list(facts.hard) if facts.hard else None
    if facts.options:
        plain["options"] = dict(facts.options)
    if facts.quantity == "text":
        plain["maxLength"] = facts.max_length
    if row is not None:
        plain["row"] = _sheet(row)
    return plain
