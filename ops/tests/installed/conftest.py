"""An installation of a shop's own with the demo's rows in it, made once for these tests: not the checkout's database, and gone afterwards."""

import os
import shutil
import subprocess
from collections.abc import Iterator
from pathlib import Path

import pytest

from ops import database
from ops.console import run
from ops.installation import Installation, Settings
from ops.serving import MANAGE


@pytest.fixture(scope="session", autouse=True)
def _no_settings_of_the_tests() -> Iterator[None]:
    """What `./test` tells the server's own tests is not for an installation."""
    taken = {name: os.environ.pop(name) for name in list(os.environ) if name.startswith("YOSHI_")}
    yield
    os.environ.update(taken)


@pytest.fixture(scope="session")
def installed(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Installation]:
    installation = Installation(tmp_path_factory.mktemp("shop"))
    installation.keep(Settings("http://127.0.0.1:8420", database.free_port(), workers=2))
    try:
        installation.ensure_database()
        env = installation.environment()
        run("Database migration", [*MANAGE, "migrate", "--no-input", "-v", "0"], env=env)
        made = [*MANAGE, "new_shop", "--shop", "Ridge Cooling", "--owner", "vale", "--name", "A. Vale"]
        assert "/password#" in subprocess.run(made, env=env, check=True, capture_output=True, text=True).stdout
        fill = "from demo.management.commands.load_demo import Command; Command().load()"
        subprocess.run([*MANAGE, "shell", "-v", "0", "-c", fill], env=env, check=True, capture_output=True)
        yield installation
    finally:
        installation.instance.stop()


@pytest.fixture
def empty(tmp_path: Path, installed: Installation) -> Iterator[Installation]:
    """The same settings and key, in a folder without a database."""
    other = Installation(tmp_path / "other")
    other.keep(installed.settings)
    shutil.copy(installed.folder / "secret-key", other.folder / "secret-key")
    yield other
    other.instance.stop()
