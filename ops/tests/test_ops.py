"""What a person is told when set-up meets trouble."""

import os
import shutil
import socket
import subprocess
import sys
import tempfile
from pathlib import Path

import pytest

from ops import checks, commands, console, database, paths, setup


@pytest.fixture(autouse=True)
def _own_state(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(console, "LOGS", tmp_path / "log")
    monkeypatch.setattr(paths, "STAMPS", tmp_path / "stamps")


def failing(text: str) -> list[str]:
    return [sys.executable, "-c", f"print({text!r}); raise SystemExit(3)"]


@pytest.mark.parametrize(
    ("output", "advice"),
    [
        ("E: write error: No space left on device", "The disk is full. Free some space"),
        ("Temporary failure in name resolution", "A package could not be fetched. Check the network"),
        ("npm ERR! ENOTFOUND registry", "A package could not be fetched"),
        ("something else", "Run the command again"),
    ],
)
def test_a_failed_command_says_what_to_do_and_where_its_log_is(output: str, advice: str) -> None:
    with pytest.raises(console.Trouble) as caught:
        console.run("Doing a thing", failing(output))
    told = str(caught.value)
    assert "Doing a thing failed." in told
    assert advice in told
    assert output in told
    assert "doing-a-thing.log" in told


def test_a_long_command_shows_its_time_and_a_short_one_is_quiet(capsys: pytest.CaptureFixture[str]) -> None:
    console.run("Quick", [sys.executable, "-c", "pass"])
    assert capsys.readouterr().out == ""
    console.run("Slow", [sys.executable, "-c", "import time; time.sleep(2.6)"])
    out = capsys.readouterr().out
    assert "Slow …" in out
    assert "Slow: done in" in out


def test_a_full_disk_is_said_before_anything_is_made(monkeypatch: pytest.MonkeyPatch) -> None:
    with pytest.raises(console.Trouble, match="Free some space"):
        console.check_disk(10**9)
    console.check_disk(0)


def test_a_taken_port_names_another(capsys: pytest.CaptureFixture[str]) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        assert commands.main(["start", "--port", str(port)]) == 1
    assert f"Port {port} is taken by another program. Stop it, or choose another port: ./start --port {port + 1}" in capsys.readouterr().err


def test_stages_are_done_once_for_the_same_input(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(paths, "ROOT", tmp_path)
    source = tmp_path / "src"
    source.mkdir()
    (source / "a.txt").write_text("one")
    key = paths.digest(source)
    assert not paths.is_done("stage", key)
    paths.mark_done("stage", key)
    assert paths.is_done("stage", key)
    (source / "a.txt").write_text("two")
    assert not paths.is_done("stage", paths.digest(source))
    (source / "a.txt").write_text("one")
    (source / "b.txt").write_text("")
    assert not paths.is_done("stage", paths.digest(source))


def test_missing_debian_packages_are_named_with_their_reason(monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]) -> None:
    monkeypatch.setattr(os, "geteuid", lambda: 1000)
    monkeypatch.setattr(shutil, "which", lambda name: "/usr/bin/dpkg-query" if name == "dpkg-query" else None)
    with pytest.raises(console.Trouble) as caught:
        setup.debian_packages({"no-such-package-here": "tests the message"})
    assert "no-such-package-here: tests the message" in capsys.readouterr().out
    assert "apt-get install --no-install-recommends no-such-package-here" in str(caught.value)


def test_only_a_process_on_our_own_data_folder_is_ours(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    stranger = subprocess.Popen([sys.executable, "-c", "import time; time.sleep(30)"])
    try:
        monkeypatch.setattr(tempfile, "gettempdir", lambda: str(tmp_path))
        instance = database.Instance(tmp_path / "state")
        instance.socket_dir.mkdir()
        assert instance.running_pid() is None
        instance.pid.write_text(str(stranger.pid))
        assert instance.running_pid() is None
        instance.pid.write_text("not a number")
        assert instance.running_pid() is None
        instance.pid.write_text(str(10**8))
        assert instance.running_pid() is None
    finally:
        stranger.kill()
        stranger.wait()


def test_the_socket_path_fits_what_the_system_allows() -> None:
    assert len(str(database.Instance(Path("/" + "long/" * 60)).socket)) < 107


def test_a_folder_that_yoshi_did_not_finish_is_never_touched(tmp_path: Path) -> None:
    instance = database.Instance(tmp_path)
    assert not instance.is_made()
    instance.data.mkdir()
    assert not instance.is_made(), "an empty one is made"
    (instance.data / database.MAKING).write_text("")
    (instance.data / "half").write_text("x")
    assert not instance.is_made(), "a half-made one is made again"
    (instance.data / database.MAKING).unlink()
    with pytest.raises(console.Trouble, match="nothing in it was touched") as caught:
        instance.ensure_running()
    assert "touch" in str(caught.value)
    assert "move it elsewhere" in str(caught.value)
    assert (instance.data / "half").read_text() == "x"
    (instance.data / database.READY).write_text("")
    assert instance.is_made()


def test_a_database_is_marked_ready_last(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    instance = database.Instance(tmp_path)

    def dies(*args: object, **more: object) -> None:
        assert (instance.data / database.MAKING).exists()
        raise console.Trouble("killed")

    monkeypatch.setattr(database, "run", dies)
    with pytest.raises(console.Trouble):
        instance.make()
    assert not instance.is_made()
    monkeypatch.setattr(database, "run", lambda *_, **__: (tmp_path / "db-new" / "mysql").mkdir(parents=True))
    instance.make()
    assert sorted(path.name for path in instance.data.iterdir()) == [database.READY, "mysql"]


def test_a_shops_own_database_is_left_alone(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("YOSHI_DB_HOST", "db.example")
    assert database.ensure_running() is False
    assert database.environment() == {}


def test_help_is_there(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as caught:
        commands.main(["start", "--help"])
    assert caught.value.code == 0
    assert "--port" in capsys.readouterr().out


@pytest.mark.parametrize(("code", "passed"), [("print('seen')", True), ("print('seen'); raise SystemExit(1)", False)])
def test_a_part_run_beside_is_shown_and_judged(
    code: str, passed: bool, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    started = subprocess.Popen
    monkeypatch.setattr(subprocess, "Popen", lambda command, **more: started([sys.executable, "-c", code], **more))
    beside = checks.Beside("web")
    assert beside.result() is passed
    beside.end()
    assert "== web, run beside the others\nseen" in capsys.readouterr().out
    assert beside.seconds > 0


def test_a_part_run_beside_ends_with_the_others(monkeypatch: pytest.MonkeyPatch) -> None:
    started = subprocess.Popen
    endless = [sys.executable, "-c", "import time; time.sleep(600)"]
    monkeypatch.setattr(subprocess, "Popen", lambda command, **more: started(endless, **more))
    beside = checks.Beside("web")
    beside.end()
    assert beside.process.returncode is not None
