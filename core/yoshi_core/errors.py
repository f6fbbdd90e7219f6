"""Errors of the core: an impossible question raises one of these; bad news is a returned verdict.

CoreError
 ├─ InvalidInput        a value that cannot be read or cannot be true
 │   ├─ UnitError       a text that is not a quantity; `reason` says why
 │   ├─ UnknownRefrigerant
 │   └─ DocumentError   a document that is not one; `path` is the JSON pointer of the wrong field
 ├─ OutOfRange          a value outside where a method or a table is true

None of them is a `ValueError`: libraries between the core and its caller must not swallow them.
"""

from collections.abc import Mapping
from typing import Any

from yoshi_core.rows import NAME, in_a_row


class CoreError(Exception):
    """Base of all errors of the core; `code` is stable, `message` is for people, `params` are the numbers.

    `text` is the sentence with `{names}` in it and `words` what these stand for: amounts, texts, or rows of texts; whoever
    knows the reader's units shows it from these (`message.told`).
    """

    code = "core"

    def __init__(self, text: str, *, path: str = "", words: Mapping[str, Any] | None = None, **params: Any) -> None:
        self.text = text
        self.words = words or {}
        self.path = path
        self.params = params
        super().__init__(self.message)

    @property
    def message(self) -> str:
        """The sentence as the trade reads it where no reader is known."""
        return NAME.sub(lambda found: _named(self.words[found[1]], found[2]) if found[1] in self.words else found[0], self.text)

    def at(self, path: str) -> "CoreError":
        """The same error, known to belong to the field at this JSON pointer."""
        self.path = path + self.path
        return self


class InvalidInput(CoreError):
    """A value that cannot be read or cannot be true."""

    code = "invalid_input"


class UnitError(InvalidInput):
    """A text that is not the quantity it should be.

    `reason` is one of: empty, not_a_number, negative, too_large, mixed_units, ounces_over_15,
    fraction_beside_ounces, comma (may be a decimal sign: ask), needs_unit, unknown_unit.
    """

    code = "unit"

    def __init__(self, reason: str, text: str, *, path: str = "", words: Mapping[str, Any] | None = None, **params: Any) -> None:
        super().__init__(text, path=path, words=words, reason=reason, **params)
        self.reason = reason


class UnknownRefrigerant(InvalidInput):
    """A designation that is not in the catalogue."""

    code = "unknown_refrigerant"


class DocumentError(InvalidInput):
    """A document that cannot be read; `path` names the wrong field."""

    code = "document"


class OutOfRange(CoreError):
    """A value outside the range where a table, a method or a field is true."""

    code = "out_of_range"


def _named(word: Any, way: str | None) -> str:
    shown = in_a_row([str(one) for one in word], "or" if way == "or" else "and") if isinstance(word, tuple) else str(word)
    return shown[:1].upper() + shown[1:] if way == "cap" else shown
