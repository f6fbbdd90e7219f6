"""A study's stamp: of every line of code its results can depend on, comments, docstrings and the number of the release aside.

It covers the study's own import closure within this repository (the core, and the other files of `bench/`) and with it
the thresholds of the practice profile. A study whose stamp is not that of today's code is run anew.
"""

import ast
import hashlib
from collections.abc import Iterator
from functools import lru_cache
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
ROOTS = (ROOT / "core", ROOT / "bench")
STEPS = ROOT / "core" / "yoshi_core" / "steps"
BY_NAME = {STEPS / "registry.py": "*/step.py"}  # loads these when they are asked for: no import in its text says so


def code_stamp(study: str | Path) -> str:
    """Sixteen hex digits over a study and all it imports; data files of the core's packages count by their bytes."""
    total = hashlib.sha256()
    for path in sorted(closure(Path(study))):
        total.update(str(path.relative_to(ROOT)).encode() + b"\0" + _content(path) + b"\0")
    return total.hexdigest()[:16]


def closure(study: Path) -> set[Path]:
    """The study's file, every module it reaches by imports, and the data beside them."""
    found: set[Path] = set()
    waiting = [study.resolve()]
    while waiting:
        path = waiting.pop()
        if path in found:
            continue
        found.add(path)
        if path.suffix == ".py":
            waiting += [reached for reached in _imports(path) if reached not in found]
            waiting += STEPS.glob(BY_NAME[path]) if path in BY_NAME else ()
            if path.name == "__init__.py":
                waiting += [*path.parent.glob("*.json"), *path.parent.glob("data/*.json")]
    return found


def _imports(path: Path) -> Iterator[Path]:
    for node in _at_run_time(_tree(path)):
        names = []
        if isinstance(node, ast.Import):
            names = [alias.name for alias in node.names]
        elif isinstance(node, ast.ImportFrom) and node.module and not node.level:
            names = [node.module, *(f"{node.module}.{alias.name}" for alias in node.names)]
        for name in names:
            yield from _files(name)


def _at_run_time(node: ast.AST) -> Iterator[ast.AST]:
    """A node and all below it, but what only a type checker reads."""
    yield node
    for child in ast.iter_child_nodes(node):
        if not (isinstance(child, ast.If) and ast.unparse(child.test) == "TYPE_CHECKING"):
            yield from _at_run_time(child)


@lru_cache(maxsize=4096)
def _files(name: str) -> tuple[Path, ...]:
    """A module's file and the packages above it; nothing for what is not of this repository."""
    found = []
    for root in ROOTS:
        place = root
        for part in name.split("."):
            place = place / part
            if (place / "__init__.py").is_file():
                found.append(place / "__init__.py")
            elif place.with_suffix(".py").is_file():
                found.append(place.with_suffix(".py"))
            else:
                break
    return tuple(found)


@lru_cache(maxsize=4096)
def _tree(path: Path) -> ast.Module:
    return ast.parse(path.read_text(encoding="utf-8"))


def _content(path: Path) -> bytes:
    if path.suffix != ".py":
        return path.read_bytes()
    tree = ast.parse(path.read_text(encoding="utf-8"))
    for node in ast.walk(tree):
        if isinstance(node, (ast.Module, ast.ClassDef, ast.FunctionDef, ast.AsyncFunctionDef)) and ast.get_docstring(node) is not None:
            node.body = node.body[1:]
    tree.body = [node for node in tree.body if not _names_a_release(node)]
    return ast.dump(tree).encode()


def _names_a_release(node: ast.stmt) -> bool:
    """Whether it only says which release this is: nothing is reckoned with it."""
    return isinstance(node, ast.Assign) and any(isinstance(target, ast.Name) and target.id == "__version__" for target in node.targets)
