"""Telling a person what is going on, and running a command with its progress shown."""

import os
import subprocess
import sys
import time
from pathlib import Path

from ops.paths import LOGS

QUIET_S = 2.0
PLAIN_EVERY_S = 10.0


class Trouble(Exception):
    """Something a person must do; the message says what happened and what to do."""


def say(text: str) -> None:
    print(text, flush=True)


def run(what: str, command: list[str], *, env: dict[str, str] | None = None, cwd: Path | None = None, hint: str = "") -> None:
    """Run a command quietly, showing time once it takes longer than two seconds; its output goes to a log.

    Raises `Trouble` with the end of the output and what to do when it fails.
    """
    LOGS.mkdir(parents=True, exist_ok=True)
    log = LOGS / (what.split(":", maxsplit=1)[0].lower().replace(" ", "-") + ".log")
    started = time.monotonic()
    with log.open("wb") as sink:
        process = subprocess.Popen(command, stdout=sink, stderr=subprocess.STDOUT, stdin=subprocess.DEVNULL, env=env, cwd=cwd)
        _wait(what, process, started)
    took = time.monotonic() - started
    if process.returncode != 0:
        raise Trouble(f"{what} failed.\n{_tail(log)}\n{_advice(log, hint)}\nThe whole output is in {log}.")
    if took >= QUIET_S:
        say(f"  {what}: done in {took:.0f} s")


def _wait(what: str, process: "subprocess.Popen[bytes]", started: float) -> None:
    spinning, next_plain = sys.stdout.isatty(), PLAIN_EVERY_S
    announced = False
    while True:
        try:
            process.wait(timeout=0.5)
            break
        except subprocess.TimeoutExpired:
            took = time.monotonic() - started
        if took < QUIET_S:
            continue
        if spinning:
            print(f"\r  {what} … {took:.0f} s", end="", flush=True)
        elif not announced or took >= next_plain:
            say(f"  {what} … {took:.0f} s")
            announced, next_plain = True, took + PLAIN_EVERY_S
    if spinning:
        print("\r" + " " * (len(what) + 16) + "\r", end="", flush=True)


def _tail(log: Path) -> str:
    return "\n".join("    " + line for line in log.read_text(errors="replace").splitlines()[-12:])


def _advice(log: Path, hint: str) -> str:
    text = log.read_text(errors="replace").lower()
    if "no space left" in text or "disk full" in text or "enospc" in text:
        return "The disk is full. Free some space (df -h shows where) and run the command again."
    signs = (
        "could not resolve",
        "temporary failure",
        "connection refused",
        "timed out",
        "network",
        "unable to locate",
        "failed to fetch",
        "enotfound",
        "etimedout",
        "404",
    )
    if any(sign in text for sign in signs):
        return "A package could not be fetched. Check the network and the package registries, then run the command again; what is already installed is kept."
    return hint or "Run the command again; what is already done is kept."


def check_disk(needed_mb: int) -> None:
    """Raise `Trouble` when the disk cannot hold what is about to be made."""
    stat = os.statvfs(".")
    free_mb = stat.f_bavail * stat.f_frsize // 1_000_000
    if free_mb < needed_mb:
        raise Trouble(
            f"Only {free_mb} MB are free on this disk; Yoshi needs about {needed_mb} MB here. Free some space and run the command again."
        )
