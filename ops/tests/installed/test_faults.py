"""Fifty faults with a fixed seed: nothing acknowledged is lost or doubled, and every book is exact. The thousand are in `bench/faults.py`."""

import shutil
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from ops.faults import ON_THE_WIRE
from ops.trial import Trial


@pytest.fixture
def folder() -> Iterator[Path]:
    """A short one, that another user reaches: a socket's path holds 107 bytes."""
    made = Path(tempfile.mkdtemp(prefix="yt-", dir="/tmp"))
    made.chmod(0o755)
    yield made
    shutil.rmtree(made, ignore_errors=True)


def nothing_is_lost(found: dict[str, Any], faults: int) -> None:
    assert found["faults"] == faults
    assert found["lost"] == []
    assert found["doubled"] == []
    assert found["refused"] == []
    assert found["books_off_kg"] < 1e-9
    assert found["acknowledged"] >= 2 * faults


def test_forty_faults_into_one_database_and_one_server(folder: Path) -> None:
    with Trial(folder, clocks=True) as trial:
        found = trial.run(19, 40, {"database": 2, "server": 2, "clock step": 2}, (0.3, 0.8))
    assert set(found["by kind"]) == {*ON_THE_WIRE, "database", "server", "clock step"}
    nothing_is_lost(found, 40)


def test_ten_faults_into_three_nodes_and_two_servers(folder: Path) -> None:
    with Trial(folder, clustered=True, servers=2) as trial:
        found = trial.run(19, 10, {"node": 1, "all nodes": 1, "server": 1})
    assert {"node", "all nodes", "server"} <= set(found["by kind"])
    nothing_is_lost(found, 10)
