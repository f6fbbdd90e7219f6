"""What is still needed is called by the name its field has on the screen: one thing, one name."""

import ast
from collections.abc import Iterator
from pathlib import Path

import yoshi_core
from yoshi_core.document.schema import facts_of
from yoshi_core.steps import registry

STEPS = Path(yoshi_core.__file__).parent / "steps"
ITS_OWN = {  # the field's name says too little by itself, or the same field is asked for in two ways
    ("recover", "finished"), ("repair", "oil_removed"), ("repair", "oil_grade"), ("pressure_hold", "bubbles"), ("identify", "flooding_charge"),
    ("change_over", "no_controls"),
}  # fmt: skip


def asked() -> Iterator[tuple[str, str, str, str]]:
    """Step, field, what it is called where it is missing, what it is called on the form."""
    for step, known in registry.STEPS.items():
        facts = facts_of(known.sheet)
        for path in (STEPS / step).glob("*.py"):
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr == "need" and len(node.args) > 1:
                    place, label = node.args[0], node.args[1]
                    if (
                        isinstance(place, ast.Call)
                        and ast.unparse(place.func) == "context.path"
                        and len(place.args) == 1
                        and isinstance(place.args[0], ast.Constant)
                        and isinstance(label, ast.Constant)
                        and place.args[0].value in facts
                    ):
                        name = str(place.args[0].value)
                        yield step, name, str(label.value), facts[name][0].label


def test_what_is_missing_has_the_name_of_its_field() -> None:
    found = list(asked())
    assert len(found) > 80
    assert [row for row in found if row[2] != row[3] and row[:2] not in ITS_OWN] == []
