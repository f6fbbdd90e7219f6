"""Loads a study from `bench/`, which is no package."""

import importlib.util
import sys
from pathlib import Path
from typing import Any

BENCH = Path(__file__).resolve().parents[3] / "bench"


def load(name: str) -> Any:
    """The module `bench/NAME.py`."""
    spec = importlib.util.spec_from_file_location(name, BENCH / f"{name}.py")
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    sys.modules[name] = module
    spec.loader.exec_module(module)
    return module
