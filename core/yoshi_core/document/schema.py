"""One walk over dataclasses and their facts: reading, writing and the JSON Schema of documents.

Strict where JSON is loose: no text for a number, no true for 1, no NaN, no unknown key. A wrong
value raises `DocumentError` with the JSON pointer of its field.
"""

import dataclasses
import types
from collections.abc import Callable, Mapping
from datetime import datetime
from functools import cache, lru_cache
from typing import Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

from yoshi_core.document import bounds
from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.errors import CoreError, DocumentError, OutOfRange
from yoshi_core.units.display import show_in
from yoshi_core.units.quantities import QUANTITIES
from yoshi_core.units.text import parse

Loader = Callable[[Any, str], Any]
PLAIN = frozenset({str, int, float, bool, type(None)})


def pointer(path: str, key: str | int) -> str:
    """A JSON pointer one step further (RFC 6901)."""
    return f"{path}/{str(key).replace('~', '~0').replace('/', '~1')}"


def load(kind: Any, plain: Any, path: str = "") -> Any:
    """Plain JSON data as an instance of `kind`. Raises `DocumentError` with the path of the wrong field."""
    return _loader(kind)(plain, path)


@lru_cache(maxsize=512)
def _loader(kind: Any) -> Loader:
    origin, args = get_origin(kind), get_args(kind)
    if origin is Annotated:
        facts = next((a for a in args[1:] if isinstance(a, Facts)), None)
        return _annotated_loader(args[0], facts)
    if origin in (Union, types.UnionType):
        return _optional_loader(args)
    if origin is Literal:
        return _literal_loader(args)
    if origin is tuple:
        return _tuple_loader(args[0])
    if origin in (dict, Mapping):
        return _mapping_loader(args[1])
    if dataclasses.is_dataclass(kind) and isinstance(kind, type):
        return _dataclass_loader(kind)
    if kind in _PLAIN:
        return _PLAIN[kind]
    raise TypeError(f"no loader for {kind}")


def _wrong(path: str, wanted: str, got: Any) -> DocumentError:
    shown = repr(got)
    return DocumentError(
        "{place}: expected {wanted}, found {shown}.",
        words={"place": path or "/", "wanted": wanted, "shown": shown[:60]},
        path=path,
        wanted=wanted,
    )


def _number(plain: Any, path: str) -> float:
    if isinstance(plain, bool) or not isinstance(plain, (int, float)):
        raise _wrong(path, "a number", plain)
    if not bounds.holds(plain):
        raise _wrong(path, "a finite number no larger than 1e12", plain)
    return float(plain)


def _integer(plain: Any, path: str) -> int:
    if isinstance(plain, bool) or not isinstance(plain, int):
        raise _wrong(path, "a whole number", plain)
    if not bounds.holds(plain):
        raise _wrong(path, "a whole number no larger than 1e12", plain)
    return plain


def _text(plain: Any, path: str) -> str:
    if not isinstance(plain, str):
        raise _wrong(path, "text", plain)
    return plain


def _yesno(plain: Any, path: str) -> bool:
    if not isinstance(plain, bool):
        raise _wrong(path, "true or false", plain)
    return plain


def _moment(plain: Any, path: str) -> datetime:
    if not isinstance(plain, str):
        raise _wrong(path, "a time such as 2026-06-18T15:11:00+00:00", plain)
    try:
        moment = datetime.fromisoformat(plain)
    except ValueError:
        raise _wrong(path, "a time such as 2026-06-18T15:11:00+00:00", plain) from None
    if moment.tzinfo is None:
        raise _wrong(path, "a time with its offset from UTC", plain)
    if not bounds.is_of_our_time(moment):
        raise _wrong(path, "a time from 1970 to 2199", plain)
    return moment


_PLAIN: dict[Any, Loader] = {
    float: _number,
    int: _integer,
    str: _text,
    bool: _yesno,
    datetime: _moment,
    Any: lambda plain, _: plain,
}


def _optional_loader(args: tuple[Any, ...]) -> Loader:
    inner = [a for a in args if a is not type(None)]
    if len(inner) != 1:
        return _by_kind_loader(args)
    load_inner = _loader(inner[0])
    return lambda plain, path: None if plain is None else load_inner(plain, path)


def _by_kind_loader(args: tuple[Any, ...]) -> Loader:
    """Of several types the one whose kind of JSON it is: text, object or list."""
    by_kind = {dict if dataclasses.is_dataclass(kind) else list if get_origin(kind) is tuple else str: kind for kind in args}
    if len(by_kind) != len(args):
        raise TypeError(f"these unions cannot be told apart: {args}")
    loaders = {kind: _loader(known) for kind, known in by_kind.items()}

    def load_by_kind(plain: Any, path: str) -> Any:
        load = loaders.get(type(plain))
        if load is None:
            raise _wrong(path, "text, an object or a list", plain)
        return load(plain, path)

    return load_by_kind


def _literal_loader(options: tuple[Any, ...]) -> Loader:
    def load_literal(plain: Any, path: str) -> Any:
        if not isinstance(plain, str) or plain not in options:
            raise _wrong(path, "one of " + ", ".join(map(str, options)), plain)
        return plain

    return load_literal


def _tuple_loader(kind: Any) -> Loader:
    load_item = _loader(kind)

    def load_tuple(plain: Any, path: str) -> tuple[Any, ...]:
        if not isinstance(plain, list):
            raise _wrong(path, "a list", plain)
        return tuple(load_item(item, pointer(path, n)) for n, item in enumerate(plain))

    return load_tuple


def _mapping_loader(kind: Any) -> Loader:
    load_item = _loader(kind)

    def load_mapping(plain: Any, path: str) -> dict[str, Any]:
        if not isinstance(plain, dict):
            raise _wrong(path, "an object", plain)
        return {_text(k, path): load_item(v, pointer(path, k)) for k, v in plain.items()}

    return load_mapping


def _annotated_loader(kind: Any, facts: Facts | None) -> Loader:
    inner = _loader(kind)
    if facts is None or facts.quantity not in QUANTITIES:
        return inner

    def load_entry(plain: Any, path: str) -> Any:
        if isinstance(plain, str):
            return read_entry(facts, plain, path)
        if isinstance(plain, dict) and "value" not in plain and isinstance(plain.get("text"), str):
            return read_entry(facts, plain, path)
        return inner(plain, path)

    return load_entry


@cache
def types_of(kind: type) -> Mapping[str, Any]:
    """What each field of a class of the document is declared as, with the facts of its field."""
    return get_type_hints(kind, include_extras=True)


def _dataclass_loader(kind: type) -> Loader:
    @cache
    def planned() -> tuple[list[tuple[str, Loader, bool]], set[str]]:
        """Read when first wanted: a type may hold itself."""
        hints = types_of(kind)
        plan = [
            (f.name, _loader(hints[f.name]), f.default is dataclasses.MISSING and f.default_factory is dataclasses.MISSING)
            for f in dataclasses.fields(kind)
        ]
        return plan, {name for name, _, _ in plan}

    def load_dataclass(plain: Any, path: str) -> Any:
        if not isinstance(plain, dict):
            raise _wrong(path, "an object", plain)
        plan, known = planned()
        for key in plain:
            if key not in known:
                raise DocumentError("{place}: there is no such field.", words={"place": pointer(path, key)}, path=pointer(path, key))
        values = {}
        for name, load_field, required in plan:
            if name in plain:
                values[name] = load_field(plain[name], pointer(path, name))
            elif required:
                raise DocumentError("{place}: this field is missing.", words={"place": pointer(path, name)}, path=pointer(path, name))
        return kind(**values)

    return load_dataclass


def read_entry(facts: Facts, typed: str | Mapping[str, Any], path: str = "") -> Entry:
    """An entry from what a person typed, checked against the field's hard range.

    `typed` is the text, or an object with `text` and optionally `unit` (for a bare number),
    `source`, `limit` and so on. Raises `UnitError`, `OutOfRange` or `DocumentError`, each at `path`.
    """
    given = {"text": typed} if isinstance(typed, str) else dict(typed)
    unit = given.pop("unit", "") or default_unit(facts, "us")
    text = _text(given.pop("text", None), pointer(path, "text"))
    given.pop("value", None)
    try:
        parsed = parse(facts.quantity, text, default_unit=unit)
        check_range(facts, parsed.value, parsed.unit, parsed.canonical_text)
    except CoreError as error:
        raise error.at(path) from None
    extras: Entry = load(Entry, {"value": parsed.value, **given}, path)
    source = extras.source if "source" in given else facts.source
    return dataclasses.replace(extras, text=parsed.canonical_text, unit=parsed.unit, source=source)


def default_unit(facts: Facts, system: str) -> str:
    """The unit a bare number is read in."""
    override = facts.unit_us if system == "us" else facts.unit_si
    return override or QUANTITIES[facts.quantity].shown(system).symbol


def check_range(facts: Facts, value: float, unit: str, typed: str) -> None:
    """Raise `OutOfRange` when a value is outside the field's hard range, in the unit that was typed, in words a person can act on."""
    if facts.hard is None or facts.hard[0] <= value <= facts.hard[1]:
        return
    low, high = (show_in(bound, facts.quantity, unit) for bound in facts.hard)
    raise OutOfRange(
        "{label:cap} must be from {low} to {high}; {typed} is not. Check the number and its unit.",
        words={"label": facts.label, "low": low, "high": high, "typed": typed},
        value=value,
        low=facts.hard[0],
        high=facts.hard[1],
    )


def dump(value: Any) -> Any:
    """Plain JSON data of any dataclass instance; fields at their defaults are left out of sheets and documents."""
    kind: Any = type(value)
    if kind in PLAIN:
        return value
    fields = _fields(kind)
    if fields is None:
        return _dump_plain(value, dump)
    return {name: dump(item) for name, is_default in fields if not is_default(item := getattr(value, name))}


def dump_full(value: Any) -> Any:
    """Plain JSON data with every field present, as the API sends findings."""
    kind: Any = type(value)
    if kind in PLAIN:
        return value
    fields = _fields(kind)
    if fields is None:
        return _dump_plain(value, dump_full)
    return {name: dump_full(getattr(value, name)) for name, _ in fields}


def _dump_plain(value: Any, again: Callable[[Any], Any]) -> Any:
    if isinstance(value, Mapping):
        return {key: again(item) for key, item in value.items()}
    if isinstance(value, (tuple, list)):
        return [again(item) for item in value]
    if isinstance(value, datetime):
        return value.isoformat()
    return value


@cache
def _fields(kind: type) -> tuple[tuple[str, Callable[[Any], bool]], ...] | None:
    """Names of a dataclass's fields, and what tells each one's default; worked out once, for findings hold thousands of values.

    None for any other type.
    """
    return tuple((f.name, _is_default(f)) for f in dataclasses.fields(kind)) if dataclasses.is_dataclass(kind) else None


def _is_default(f: "dataclasses.Field[Any]") -> Callable[[Any], bool]:
    made = f.default_factory
    if made is not dataclasses.MISSING:
        return lambda value: bool(value == made())
    default, kind = f.default, type(f.default)  # of a field without one it is MISSING, whose type no value has
    return lambda value: type(value) is kind and bool(value == default)


def definitions(kind: Any, found: dict[str, Any], *, full: bool = False) -> dict[str, Any]:
    """JSON Schema of a type; named definitions go into `found`. `full`: every field is always present (findings)."""
    origin, args = get_origin(kind), get_args(kind)
    if origin is Annotated:
        facts = next((a for a in args[1:] if isinstance(a, Facts)), None)
        schema = definitions(args[0], found, full=full)
        return {**schema, "title": facts.label} if facts else schema
    if origin in (Union, types.UnionType):
        return {"anyOf": [definitions(a, found, full=full) for a in args]}
    if origin is Literal:
        return {"type": "string", "enum": list(args)}
    if origin is tuple:
        return {"type": "array", "items": definitions(args[0], found, full=full)}
    if origin in (dict, Mapping):
        return {"type": "object", "additionalProperties": definitions(args[1], found, full=full)}
    if dataclasses.is_dataclass(kind) and isinstance(kind, type):
        return _dataclass_schema(kind, found, full)
    return dict(_PLAIN_SCHEMAS[kind])


_PLAIN_SCHEMAS: dict[Any, dict[str, Any]] = {
    float: {"type": "number"},
    int: {"type": "integer"},
    str: {"type": "string"},
    bool: {"type": "boolean"},
    type(None): {"type": "null"},
    datetime: {"type": "string", "format": "date-time"},
    Any: {},
}


def _dataclass_schema(kind: type, found: dict[str, Any], full: bool) -> dict[str, Any]:
    reference = {"$ref": f"#/$defs/{kind.__name__}"}
    if kind.__name__ in found:
        return reference
    found[kind.__name__] = {}
    hints = get_type_hints(kind, include_extras=True)
    required = [
        f.name for f in dataclasses.fields(kind) if full or (f.default is dataclasses.MISSING and f.default_factory is dataclasses.MISSING)
    ]
    found[kind.__name__] = {
        "type": "object",
        "description": (kind.__doc__ or "").split("\n")[0],
        "properties": {f.name: definitions(hints[f.name], found, full=full) for f in dataclasses.fields(kind)},
        "additionalProperties": False,
        **({"required": required} if required else {}),
    }
    return reference


FieldFacts = dict[str, tuple[Facts, type | None]]
_FACTS: dict[type, FieldFacts] = {}


def facts_of(kind: type) -> FieldFacts:
    """Field name → its facts, and for a record the type of its rows."""
    if kind not in _FACTS:
        _FACTS[kind] = _read_facts(kind)
    return _FACTS[kind]


def _read_facts(kind: type) -> FieldFacts:
    found: FieldFacts = {}
    for name, hint in get_type_hints(kind, include_extras=True).items():
        facts = next((a for a in get_args(hint)[1:] if isinstance(a, Facts)), None) if get_origin(hint) is Annotated else None
        if facts is not None:
            row = get_args(get_args(hint)[0])[1] if facts.quantity == "record" else None
            found[name] = (facts, row)
    return found
