"""A sentence as a template: whole at the call that writes it, with what it names beside it.

Numbers go in as `amounts`, so that one sentence reads in pounds or kilograms alike; names, days and lists go in as
`words`. Nothing is formatted, and nothing joined, before it is known who reads it, in which units and which language.
Whoever collects the sentences looks for the first text of `Message`, `headline`, `sentence`, `plural`, and of `say`, `tell`,
`refuse`, `need` of a step's notes: each is a literal there (held by a test).
"""

import re
from collections.abc import Callable, Mapping
from dataclasses import field
from datetime import date
from typing import Union

from yoshi_core.errors import CoreError
from yoshi_core.frozen import dataclass
from yoshi_core.rows import NAME, in_a_row
from yoshi_core.units.display import Amount, System, show_amount

Named = Union[str, "Message", tuple[Union[str, "Message"], ...]]


@dataclass(frozen=True)
class Message:
    """A sentence; `{name}` stands for the amount or the words of that name, or for itself where there is none.

    Words are a name as it is, a sentence of its own, or a row of these: read “a, b and c”. `{name:or}` reads the row “a, b or
    c”, `{name:list}` “a, b, c”, `{name:cap}` begins with a capital, `{name:day}` is a day (ISO) as people say it. A sentence among the words may use the names around it.
    """

    text: str
    amounts: Mapping[str, Amount] = field(default_factory=dict)
    words: Mapping[str, Named] = field(default_factory=dict)

    def show(self, system: System = "us") -> str:
        """The sentence in one system of units."""
        return _filled(self, system, {})

    def __str__(self) -> str:
        return self.show()

    def naming(self, amounts: Mapping[str, Amount], words: Mapping[str, Named]) -> "Message":
        """The same sentence with more names; its own stay as they are."""
        own = {*self.amounts, *self.words}
        more = {name: one for name, one in amounts.items() if name not in own}
        said = {name: one for name, one in words.items() if name not in own}
        return Message(self.text, {**self.amounts, **more}, {**self.words, **said}) if more or said else self


def _filled(message: Message, system: System, around: Mapping[str, Amount | Named]) -> str:
    names: dict[str, Amount | Named] = {**around, **message.words, **message.amounts}
    among = tuple(one for one in names.values() if isinstance(one, Amount))

    def said(found: re.Match[str]) -> str:
        name, way = found.groups()
        if name not in names:
            return found[0]
        one = names[name]
        if isinstance(one, Amount):
            return show_amount(one, system, among)
        rest = {key: other for key, other in names.items() if key != name}
        shown = _worded(one, way, lambda inner: _filled(inner, system, rest))
        return shown[:1].upper() + shown[1:] if way == "cap" else shown

    return NAME.sub(said, message.text)


def _worded(named: Named, way: str | None, show: Callable[[Message], str]) -> str:
    if isinstance(named, tuple):
        said = [_worded(one, None, show) for one in named]
        return ", ".join(said) if way == "list" else in_a_row(said, "or" if way == "or" else "and")
    if isinstance(named, Message):
        return show(named)
    return f"{date.fromisoformat(named[:10]):%d %b %Y}" if way == "day" else named


Label = str | Message  # a name by itself, or one with something of this job in it


def sentence(text: str) -> str:
    """The text itself: written here, shown by somebody else. Marks it for whoever collects the sentences."""
    return text


def headline(text: str, **named: Amount | Named) -> Message:
    """A message from named amounts and words."""
    amounts, words = apart(named)
    return Message(text, amounts, words)


def plural(count: int, one: str, many: str, **named: Amount | Named) -> Message:
    """One of two sentences by how many there are; `{n}` in them is that count. Both are collected as forms of one sentence."""
    return headline(one if count == 1 else many, n=Amount(float(count), "count"), **named)


def joined(*messages: Message | None) -> Message:
    """Whole sentences one after another, each with its own amounts; those that are None are left out."""
    said = [message for message in messages if message is not None]
    if len(said) == 1:
        return said[0]
    return Message(" ".join(f"{{s{n}}}" for n in range(len(said))), {}, {f"s{n}": message for n, message in enumerate(said)})


def worded(label: Label, system: System = "us") -> str:
    """A label as it is read."""
    return label.show(system) if isinstance(label, Message) else label


def told(error: CoreError) -> Message:
    """What an error says, for whoever knows in which units it is read."""
    amounts, words = apart(error.words)
    return Message(error.text, amounts, {name: one if isinstance(one, (str, tuple, Message)) else str(one) for name, one in words.items()})


def apart(named: Mapping[str, Amount | Named]) -> tuple[dict[str, Amount], dict[str, Named]]:
    """Amounts and words, each by name."""
    amounts = {name: one for name, one in named.items() if isinstance(one, Amount)}
    words = {name: one for name, one in named.items() if not isinstance(one, Amount)}
    return amounts, words
