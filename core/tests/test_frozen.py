"""A frozen class is the standard module's, however it was made."""

import copy
import dataclasses
import inspect
import pickle
from dataclasses import field
from typing import Any

import pytest

from yoshi_core import frozen
from yoshi_core.document.plate import Plate


def _classes(dataclass: Any) -> dict[str, type]:
    @dataclass(frozen=True)
    class Bare:
        """No field at all."""

    @dataclass(frozen=True)
    class One:
        """One field, so the tuple that is compared has one member."""

        mass_kg: float

    @dataclass(frozen=True)
    class Many:
        """Defaults of every kind, and a field that is neither compared nor shown."""

        name: str
        mass_kg: float = 1.5
        parts: tuple[str, ...] = ()
        seen: list[int] = field(default_factory=list, compare=False, repr=False)

    @dataclass(frozen=True)
    class Below(Many):
        """A field of its own after those of the class above."""

        more: int = 3

    @dataclass(frozen=True)
    class Awkward:
        """Fields by the names of what stands in the text of the functions."""

        put: int
        missing: tuple[int, ...] = field(default_factory=tuple)
        other: int = 1
        hash: int = 2
        object: int = 3

    @dataclass(frozen=True, kw_only=True)
    class Named:
        """By name alone."""

        first: int
        second: int = 2

    @dataclass(frozen=True)
    class Checked:
        """Refuses what it cannot be."""

        share: float

        def __post_init__(self) -> None:
            if self.share < 0:
                raise ValueError("below none")

    @dataclass(frozen=True)
    class Folded:  # noqa: PLW1641 - the decorator gives the hash
        """Says itself when it equals another."""

        name: str

        def __eq__(self, other: object) -> bool:
            return isinstance(other, Folded) and self.name.lower() == other.name.lower()

    found: dict[str, type] = {made.__name__: made for made in (Bare, One, Many, Below, Awkward, Named, Checked, Folded)}
    return found


QUICK, STANDARD = _classes(frozen.dataclass), _classes(dataclasses.dataclass)
MADE: list[tuple[str, tuple[Any, ...], dict[str, Any]]] = [
    ("Bare", (), {}),
    ("One", (2.0,), {}),
    ("One", (), {"mass_kg": float("inf")}),
    ("Many", ("a",), {}),
    ("Many", ("a", 2.0, ("b",)), {"seen": [1]}),
    ("Below", ("a",), {"more": 4}),
    ("Awkward", (1,), {}),
    ("Awkward", (1, (2,)), {"hash": 7}),
    ("Named", (), {"first": 1}),
    ("Checked", (0.5,), {}),
    ("Folded", ("Ab",), {}),
]


@pytest.mark.parametrize(("name", "given", "named"), MADE)
def test_it_holds_says_and_equals_as_the_standard_one_does(name: str, given: Any, named: Any) -> None:
    ours, theirs = QUICK[name](*given, **named), STANDARD[name](*given, **named)
    assert dataclasses.asdict(ours) == dataclasses.asdict(theirs)
    assert repr(ours) == repr(theirs)
    for _ in range(2):  # the first time compiles
        assert ours == QUICK[name](*given, **named)
        assert hash(ours) == hash(theirs)
    assert ours != theirs
    assert copy.deepcopy(ours) == ours


@pytest.mark.parametrize("name", list(QUICK))
def test_it_is_asked_for_what_the_standard_one_is(name: str) -> None:
    def asked(made: type) -> list[tuple[str, Any, bool]]:
        found = inspect.signature(made).parameters.values()
        return [(one.name, one.kind, one.default is inspect.Parameter.empty) for one in found]

    assert asked(QUICK[name]) == asked(STANDARD[name])
    assert vars(QUICK[name])["__match_args__"] == vars(STANDARD[name])["__match_args__"]


@pytest.mark.parametrize("made", [QUICK, STANDARD])
def test_nothing_of_it_is_set_or_taken_away(made: dict[str, type]) -> None:
    one: Any = made["Many"]("a")
    with pytest.raises(dataclasses.FrozenInstanceError, match="name"):
        one.name = "b"
    with pytest.raises(dataclasses.FrozenInstanceError, match="name"):
        del one.name
    with pytest.raises(TypeError):
        made["Many"]()
    with pytest.raises(ValueError, match="below none"):
        made["Checked"](-0.1)
    assert dataclasses.replace(one, mass_kg=3.0).mass_kg == 3.0
    assert one.mass_kg == 1.5


def test_unequal_and_of_another_class() -> None:
    below, many = QUICK["Below"]("a"), QUICK["Many"]("a")
    assert below != many
    assert many != QUICK["Many"]("b")
    assert many == QUICK["Many"]("a", seen=[7])
    assert QUICK["Folded"]("ab") == QUICK["Folded"]("AB")
    assert len({QUICK["Many"]("a"), QUICK["Many"]("a"), QUICK["Below"]("a")}) == 2


def test_a_class_of_the_core_goes_through_a_pickle() -> None:
    assert pickle.loads(pickle.dumps(Plate(refrigerant="R-410A"))) == Plate(refrigerant="R-410A")


def test_other_classes_are_the_standard_decorators() -> None:
    @frozen.dataclass
    class Loose:
        held: int = 1

    @frozen.dataclass(frozen=True, slots=True)
    class Slotted:
        held: int = 1

    loose = Loose()
    loose.held = 2
    assert loose == Loose(2)
    assert not hasattr(Slotted(), "__dict__")
