"""`./test`: the same set-up as `./start`, then every check; prints minutes by part and the share of tests."""

import argparse
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from ops import database, setup
from ops.console import Trouble, say
from ops.mutants import mutants, sample
from ops.paths import BIN, ROOT, WEB

CODE = (".py", ".ts", ".tsx", ".css", ".html", ".sh")
SLOWEST = ("--durations=20", "--durations-min=1")
MADE = (".gen.", "package-lock", "/migrations/")


def test(options: argparse.Namespace) -> int:
    """Run the chosen part, or all of them, and say which failed."""
    say("Yoshi is getting ready for its checks.")
    setup.set_up("test")
    setup.node_packages()
    wanted = [name for name in PARTS if name not in ASKED_FOR] if options.part == "all" else [options.part]
    started_database = False
    if {"server", "e2e", "checks", "pictures"} & set(wanted):
        started_database = database.ensure_running()
    if {"e2e", "pictures"} & set(wanted):
        setup.build_web()
    failed: list[str] = []
    took: dict[str, float] = {}
    beside = Beside("beside") if options.part == "all" else None
    try:
        for name in wanted:
            if beside is not None and name in BESIDE:
                continue
            if beside is not None and name == "e2e":
                _note(beside.part, beside.result(), beside.seconds, failed, took)
            started = time.monotonic()
            say(f"\n== {name}")
            passed = PARTS[name](options.rest)
            _note(name, passed, time.monotonic() - started, failed, took)
    finally:
        if beside is not None:
            beside.end()
        if started_database:
            database.stop()
    say("\nMinutes by part: " + ", ".join(f"{name} {seconds / 60:.1f}" for name, seconds in took.items()))
    say(f"Test lines: {test_share():.0%} of hand-written lines.")
    say("All checks passed." if not failed else "FAILED: " + ", ".join(failed))
    return 1 if failed else 0


class Beside:
    """A part that needs no database, run beside the others so that two cores are used; its output is shown when it is asked for."""

    def __init__(self, part: str) -> None:
        self.part, self.started, self.seconds = part, time.monotonic(), 0.0
        self.output = tempfile.TemporaryFile("w+")  # noqa: SIM115 - open as long as the process writes
        command = [sys.executable, "-m", "ops", "test", part]
        self.process = subprocess.Popen(command, cwd=ROOT, stdout=self.output, stderr=subprocess.STDOUT)

    def result(self) -> bool:
        """Wait for it, show what it said, and say whether it passed."""
        passed = self.process.wait() == 0
        self.seconds = time.monotonic() - self.started
        self.output.seek(0)
        say(f"\n== {self.part}, run beside the others\n{self.output.read()}")
        return passed

    def end(self) -> None:
        """Nothing of it is left when the others were broken off."""
        if self.process.poll() is None:
            self.process.terminate()
            self.process.wait()
        self.output.close()


def _note(name: str, passed: bool, seconds: float, failed: list[str], took: dict[str, float]) -> None:
    took[name] = seconds
    if not passed:
        failed.append(name)


def environment() -> dict[str, str]:
    env = {
        **os.environ,
        "PATH": f"{BIN}:{os.environ['PATH']}",
        "PYTHONPATH": os.pathsep.join(str(ROOT / p) for p in ("core", "server", ".")),
        "DJANGO_SETTINGS_MODULE": "yoshi_server.settings",
        "YOSHI_SECRET_KEY": "only-for-tests",
        "DJANGO_ALLOW_ASYNC_UNSAFE": "true",
    }
    if os.environ.get("YOSHI_DB_HOST") or database.OWN.settings.exists():
        env |= database.environment()
    return env


def call(*command: str, cwd: Path = ROOT) -> bool:
    """Run one check, its output shown; whether it passed."""
    say("  $ " + " ".join(command).replace(str(BIN) + "/", "").replace(str(ROOT) + "/", ""))
    try:
        return subprocess.run(command, cwd=cwd, env=environment(), check=False).returncode == 0
    except FileNotFoundError as error:
        raise Trouble(f"{error.filename} is missing; remove .yoshi/stamps and run ./test again.") from None


def all_of(*results: bool) -> bool:
    return all(results)


def static(rest: list[str]) -> bool:
    """Formatter, linter, strict types, layers, generated files and migrations in step."""
    python = str(BIN / "python")
    return all_of(
        call(str(BIN / "ruff"), "format", "--check", "--quiet", "."),
        call(str(BIN / "ruff"), "check", "--quiet", "."),
        call(str(BIN / "mypy"), "--no-error-summary"),
        call(str(BIN / "lint-imports"), "--no-cache"),
        unused(),
        call(str(BIN / "deptry"), "--config", "ops/deptry.toml", "core/yoshi_core", "server", "ops", "standins"),
        call(python, "server/manage.py", "makemigrations", "--check", "--dry-run", "-v", "0"),
    )


def unused() -> bool:
    """Functions, classes and imports nobody uses; fields and constants are data, and are read by name elsewhere."""
    say("  $ vulture")
    found = subprocess.run([str(BIN / "vulture")], cwd=ROOT, env=environment(), capture_output=True, text=True, check=False)
    dead = [line for line in (found.stdout + found.stderr).splitlines() if "unused variable" not in line and "unused attribute" not in line]
    say("\n".join(dead))
    return not dead


def core(rest: list[str]) -> bool:
    return call(str(BIN / "pytest"), "core/tests", "ops/tests", "-q", "-p", "no:playwright", *SLOWEST, *rest)


def server(rest: list[str]) -> bool:
    return call(str(BIN / "pytest"), "server", "-q", "-p", "no:playwright", *SLOWEST, *rest)


def web(rest: list[str]) -> bool:
    npm = str(BIN / "npm")
    return all_of(
        call(npm, "run", "--silent", "format:check", cwd=WEB),
        call(npm, "run", "--silent", "lint", cwd=WEB),
        call(npm, "run", "--silent", "types", cwd=WEB),
        call(npm, "run", "--silent", "unused", cwd=WEB),
        call(npm, "run", "--silent", "layers", cwd=WEB),
        call(npm, "run", "--silent", "api:check", cwd=WEB),
        call(npm, "run", "--silent", "test", cwd=WEB),
    )


def without_database(rest: list[str]) -> bool:
    """What needs no database, one after the other: it runs beside what does."""
    return all_of(*[_timed(name, rest) for name in BESIDE])


def _timed(name: str, rest: list[str]) -> bool:
    started = time.monotonic()
    passed = PARTS[name](rest)
    say(f"  {name}: {(time.monotonic() - started) / 60:.1f} minutes")
    return passed


def e2e(rest: list[str]) -> bool:
    """Two at a time, each with its own database, server and browser; migrations are the server's tests' business."""
    return call(str(BIN / "pytest"), "e2e", "-q", "-n", "2", "--dist", "worksteal", "--nomigrations", *SLOWEST, *rest)


def pictures(rest: list[str]) -> bool:
    """Not a check: makes the pictures in docs/screenshots/ anew."""
    return call(str(BIN / "pytest"), "e2e/make_screenshots.py", "-q", *rest)


PARTS: dict[str, Callable[[list[str]], bool]] = {
    "checks": static,
    "core": core,
    "server": server,
    "sample": sample,
    "web": web,
    "e2e": e2e,
    "pictures": pictures,
    "mutants": mutants,
    "beside": without_database,
}
ASKED_FOR = frozenset({"pictures", "mutants", "beside"})
BESIDE = ("core",)


def test_share() -> float:
    """Share of test lines in all hand-written, non-blank lines."""
    files = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=False).stdout.splitlines()
    lines = {True: 0, False: 0}
    for name in files:
        path = ROOT / name
        if not name.endswith(CODE) or any(mark in name for mark in MADE) or not path.is_file():
            continue
        is_test = "/tests/" in f"/{name}" or name.startswith("e2e/") or ".test." in name
        lines[is_test] += sum(1 for line in path.read_text(errors="replace").splitlines() if line.strip())
    total = lines[True] + lines[False]
    return lines[True] / total if total else 0.0
