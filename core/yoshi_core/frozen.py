"""`dataclass`, quick to make: what a frozen class has from here is the standard one but for how long making it takes.

The standard decorator compiles six functions a class. The core has some 270 frozen classes, and that took longer than reading all
of its code; on a phone, seconds. Here `__init__` is compiled with the class, equality and hash when a class is first compared, and
the three others say the same of every class. `fields`, `replace` and `is_dataclass` of the standard module work on these classes.
Anything but a plain frozen class goes to the standard decorator.
"""

import dataclasses
from collections.abc import Iterable
from functools import partial
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from dataclasses import dataclass

__all__ = ["dataclass"]


def _compiled(cls: type, name: str, asked: Iterable[str], lines: list[str], known: dict[str, Any]) -> Any:
    """A function of the class, from its text: names of fields and what stands here, nothing from outside."""
    exec(f"def {name}({','.join(asked)}):\n " + ("\n ".join(lines) or "pass"), known)  # noqa: S102 - as the standard module does
    made = known[name]
    made.__qualname__ = f"{cls.__qualname__}.{name}"
    made.__module__ = cls.__module__
    return made


def _init(cls: type, fields: list[dataclasses.Field[Any]]) -> Any:
    """The function that fills the fields, in their order, with their defaults; then `__post_init__` where there is one."""
    known: dict[str, Any] = {"_put_": object.__setattr__, "_none_": dataclasses.MISSING}  # names no field has
    asked: list[str] = ["self"]
    named: list[str] = []
    lines: list[str] = []
    for field in fields:
        name, taken = field.name, field.name
        if field.default is not dataclasses.MISSING:
            known[f"_default_{name}"] = field.default
            asked_as = f"{name}=_default_{name}"
        elif field.default_factory is not dataclasses.MISSING:
            known[f"_make_{name}"] = field.default_factory
            asked_as, taken = f"{name}=_none_", f"_make_{name}() if {name} is _none_ else {name}"
        else:
            asked_as = name
        (named if field.kw_only else asked).append(asked_as)
        lines.append(f"_put_(self,{name!r},{taken})")
    if hasattr(cls, "__post_init__"):
        lines.append("self.__post_init__()")
    return _compiled(cls, "__init__", [*asked, *(["*", *named] if named else [])], lines, known)


def _shared(made: Any, fields: list[dataclasses.Field[Any]]) -> dict[str, Any]:
    """The five other functions over these fields; the two that are asked often are compiled when they are first asked."""
    compared = [field.name for field in fields if field.compare]
    shown = [field.name for field in fields if field.repr]

    def values(of: str) -> str:
        return "(" + "".join(f"{of}.{name}," for name in compared) + ")"

    def first_equals(self: Any, other: Any) -> Any:
        lines = ["if other.__class__ is self.__class__:", f" return {values('self')} == {values('other')}", "return NotImplemented"]
        made.__eq__ = _compiled(made, "__eq__", ("self", "other"), lines, {})
        return made.__eq__(self, other)

    def first_hash(self: Any) -> int:
        made.__hash__ = _compiled(made, "__hash__", ("self",), [f"return hash({values('self')})"], {})
        found: int = made.__hash__(self)
        return found

    def said(self: Any) -> str:
        return f"{self.__class__.__qualname__}({', '.join(f'{name}={getattr(self, name)!r}' for name in shown)})"

    return {"__eq__": first_equals, "__hash__": first_hash, "__repr__": said, "__setattr__": _no_setting, "__delattr__": _no_deleting}


def _no_setting(_self: Any, name: str, _value: Any) -> None:
    raise dataclasses.FrozenInstanceError(f"cannot assign to field {name!r}")


def _no_deleting(_self: Any, name: str) -> None:
    raise dataclasses.FrozenInstanceError(f"cannot delete field {name!r}")


def _quick(cls: type, kw_only: bool = False) -> Any:
    made: Any = dataclasses.dataclass(init=False, repr=False, eq=False, kw_only=kw_only)(cls)
    fields = list(dataclasses.fields(made))
    made.__init__ = _init(made, fields)
    for name, function in _shared(made, fields).items():
        if made.__dict__.get(name) is None:  # Python puts None for the hash of a class with an `__eq__` of its own
            setattr(made, name, function)
    return made


if not TYPE_CHECKING:

    def dataclass(cls: type | None = None, /, **options: Any) -> Any:
        """The standard decorator's meaning and options; a class that is frozen and nothing else, or keyword-only besides, is made quickly."""
        if cls is not None:
            return dataclasses.dataclass(cls)
        if options.get("frozen") and options.keys() <= {"frozen", "kw_only"}:
            return partial(_quick, kw_only=options.get("kw_only", False))
        return dataclasses.dataclass(**options)
