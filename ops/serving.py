"""The processes of a running Yoshi: web servers, the one that works on tasks, and what is named beside; all end together."""

import ctypes
import os
import signal
import subprocess
import time
from pathlib import Path

from ops.paths import BIN, ROOT

PR_SET_PDEATHSIG = 1  # linux/prctl.h
LOOK_S = 0.5
MANAGE = [str(BIN / "python"), str(ROOT / "server" / "manage.py")]


def server_environment(database: dict[str, str], secret_key: str, port: int, **more: str) -> dict[str, str]:
    """The environment every process of the server runs in."""
    return {
        **os.environ,
        **database,
        "DJANGO_SETTINGS_MODULE": "yoshi_server.settings",
        "YOSHI_SECRET_KEY": secret_key,
        "YOSHI_PORT": str(port),
        "PYTHONPATH": os.pathsep.join((str(ROOT / "core"), str(ROOT))),
        **more,
    }


def web_server(port: int, workers: int = 1) -> list[str]:
    """The command line of the web server: stateless, so as many processes as there are processors to use."""
    command = [str(BIN / "uvicorn"), "yoshi_server.asgi:application", "--host", "127.0.0.1", "--port", str(port)]
    command += ["--lifespan", "off", "--timeout-graceful-shutdown", "3", "--log-level", "warning", "--no-proxy-headers"]
    return [*command, "--workers", str(workers)] if workers > 1 else command


def _die_with_parent() -> None:
    """A server whose start command was killed ends too, so that a plain restart finds its port free."""
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGTERM)


def begin(command: list[str], env: dict[str, str], folder: Path = ROOT, *, silent: bool = False) -> "subprocess.Popen[bytes]":
    """Start one process that ends with this one."""
    errors = subprocess.DEVNULL if silent else None
    return subprocess.Popen(command, env=env, cwd=folder, stderr=errors, preexec_fn=_die_with_parent)


def until_told(
    main: "subprocess.Popen[bytes]", beside: "list[tuple[list[str], dict[str, str]]]", others: "list[subprocess.Popen[bytes]]"
) -> int:
    """Wait for the web server, until it ends or this process is told to; `beside` are started, and again when they fall, `others` only ended."""

    def pass_on(number: int, frame: object) -> None:
        main.send_signal(signal.SIGTERM)

    signal.signal(signal.SIGTERM, pass_on)
    signal.signal(signal.SIGINT, pass_on)
    kept = [begin(command, env) for command, env in beside]
    while (code := main.poll()) is None:
        time.sleep(LOOK_S)
        for place, (command, env) in enumerate(beside):
            if kept[place].poll() is not None and main.poll() is None:
                kept[place] = begin(command, env)
    for process in (*kept, *others):
        process.terminate()
        process.wait()
    return 0 if code in (0, -signal.SIGTERM, 143) else code
