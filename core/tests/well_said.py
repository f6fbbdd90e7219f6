"""Whether findings are fit to be shown: every value of its declared type, every sentence whole, every path a field that is there."""

import csv
import dataclasses
import math
import re
import types
from collections.abc import Iterator, Mapping
from datetime import datetime
from fnmatch import fnmatch
from functools import cache
from pathlib import Path
from typing import Any, Literal, Union, get_args, get_origin, get_type_hints

from tests.sentences import collected
from yoshi_core.errors import CoreError
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Missing, Problem, Question, Reason
from yoshi_core.job import patches
from yoshi_core.message import Message, Named
from yoshi_core.rows import NAME
from yoshi_core.units.display import Amount, show_amount

RULES = Path(__file__).parent / "steps" / "rules.csv"
SHOWN = RULES.with_name("shown.csv")
BY_A_SHOP = re.compile(r".+, revision \d+")  # a threshold that a shop changed says whose it is


@cache
def carried() -> dict[str, dict[str, set[str]]]:
    """What each rule carries, by hand: its role, whether it says what it read and against what, and where it comes from."""
    with RULES.open() as table:
        return {row["rule"]: {name: set(text.split(" | ")) for name, text in row.items()} for row in csv.DictReader(table)}


@cache
def shown() -> dict[str, dict[str, list[str]]]:
    """The figures and cautions each step may show, by hand; `*` stands for the row it is of."""
    with SHOWN.open() as table:
        return {row["step"]: {name: row[name].split() for name in ("figures", "cautions")} for row in csv.DictReader(table)}


@cache
def _hints(kind: type) -> dict[str, Any]:
    return get_type_hints(kind)


def faults(value: Any, hint: Any, path: str = "") -> Iterator[str]:
    """What is wrong with a value of a declared type, each with its place."""
    origin = get_origin(hint)
    if hint is Any or hint is object:
        hint, origin = type(value), None
    if origin in {Union, types.UnionType}:
        tried = [list(faults(value, one, path)) for one in get_args(hint)]
        yield from min(tried, key=len)
    elif origin is Literal:
        if value not in get_args(hint):
            yield f"{path}: {value!r} is none of {get_args(hint)}"
    elif origin is tuple:
        yield from _of_rows(value, get_args(hint), path)
    elif origin is not None and issubclass(origin, Mapping):
        if not isinstance(value, Mapping):
            yield f"{path}: {value!r} is no mapping"
            return
        for key, item in value.items():
            yield from faults(key, get_args(hint)[0], f"{path}[{key}]")
            yield from faults(item, get_args(hint)[1], f"{path}[{key}]")
    elif dataclasses.is_dataclass(hint) and isinstance(hint, type):
        yield from _of_dataclass(value, hint, path)
    else:
        yield from _plain(value, hint, path)


def _of_rows(value: Any, kinds: tuple[Any, ...], path: str) -> Iterator[str]:
    if not isinstance(value, tuple):
        yield f"{path}: {value!r} is no tuple"
        return
    each = [kinds[0]] * len(value) if kinds[-1] is Ellipsis else list(kinds)
    if len(each) != len(value):
        yield f"{path}: {len(value)} items, not {len(each)}"
    for n, (item, kind) in enumerate(zip(value, each, strict=False)):
        yield from faults(item, kind, f"{path}[{n}]")


def _plain(value: Any, hint: Any, path: str) -> Iterator[str]:
    wanted = (int, float) if hint is float else hint
    if hint in {str, int, float, bool, datetime, type(None)} and (
        not isinstance(value, wanted) or (isinstance(value, bool) and hint in {int, float})
    ):
        yield f"{path}: {value!r} is no {hint.__name__}"
    if isinstance(value, float) and not math.isfinite(value):
        yield f"{path}: {value!r}"


def _of_dataclass(value: Any, hint: type, path: str) -> Iterator[str]:
    if not isinstance(value, hint):
        yield f"{path}: {value!r} is no {hint.__name__}"
        return
    before = 0
    for name, kind in _hints(type(value)).items():
        if isinstance(value, Message) and name == "words":
            continue
        for fault in faults(getattr(value, name), kind, f"{path}.{name}"):
            before += 1
            yield fault
    if before:
        return
    if isinstance(value, Message):
        yield from _sentence(value, path, {})
    if isinstance(value, Amount):
        yield from _amount(value, path)
    if isinstance(value, Reason):
        yield from _reason(value, path)
    if isinstance(value, StepResult):
        yield from _ids(value, path)
    if isinstance(value, (Missing, Problem, Question)):
        yield from _leads_somewhere(value.path, path)


def _reason(reason: Reason, path: str) -> Iterator[str]:
    known = carried().get(reason.rule_id)
    if known is None:
        yield f"{path}: rule {reason.rule_id!r} has no line in {RULES.name}"
        return
    says = {"role": reason.role, "value": "no" if reason.value is None else "yes", "limit": "no" if reason.limit is None else "yes"}
    for name, said in says.items():
        if said not in known[name]:
            yield f"{path}: {reason.rule_id} has {name} {said}, its line says {sorted(known[name])}"
    if "*" not in known["source"] and reason.source not in known["source"] and not BY_A_SHOP.fullmatch(reason.source):
        yield f"{path}: {reason.rule_id} comes from {reason.source!r}, its line says {sorted(known['source'])}"


def _ids(result: StepResult, path: str) -> Iterator[str]:
    for name, rows in (("figures", result.figures), ("cautions", result.cautions)):
        for row in rows:
            if not any(fnmatch(row.id, known) for known in shown()[result.step][name]):
                yield f"{path}.{name}: {row.id!r} is none of {result.step}'s in {SHOWN.name}"


def _sentence(message: Message, path: str, around: Mapping[str, Amount | Named]) -> Iterator[str]:
    """Whole, collectable, and with everything it names; a sentence inside another may use the names around it."""
    named: dict[str, Amount | Named] = {**around, **message.words, **message.amounts}
    wanted = {name for name, _ in NAME.findall(message.text)}
    if wanted - set(named):
        yield f"{path}: {message.text!r} names {wanted}, has {set(named)}"
    if set(message.words) & set(message.amounts):
        yield f"{path}: {message.text!r} has two of {set(message.words) & set(message.amounts)}"
    if not message.text.strip() or message.text != message.text.strip():
        yield f"{path}: {message.text!r} is no sentence"
    if NAME.sub("", message.text).strip() and message.text not in collected():
        yield f"{path}: {message.text!r} is put together, or written where nobody collects it"
    for name, word in message.words.items():
        for one in word if isinstance(word, tuple) else (word,):
            if isinstance(one, Message):
                yield from _sentence(one, f"{path}.{name}", {key: other for key, other in named.items() if key != name})
            elif not isinstance(one, str):
                yield f"{path}.{name}: {one!r} is neither words nor a sentence"


def _amount(amount: Amount, path: str) -> Iterator[str]:
    try:
        shown = [show_amount(amount, system) for system in ("us", "si")]
    except (CoreError, KeyError, ValueError) as error:
        yield f"{path}: {amount} cannot be shown: {error!r}"
        return
    if not all(shown):
        yield f"{path}: {amount} shows nothing"


def _leads_somewhere(pointer: str, path: str) -> Iterator[str]:
    try:
        patches.locate(pointer)
    except CoreError as error:
        yield f"{path}: {error.message}"
