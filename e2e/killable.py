"""A second server on the same database, as a process of its own that can be killed like a crash kills one."""

import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

from django.db import connection

ROOT = Path(__file__).resolve().parents[1]


class Killable:
    """Started on its own port; `kill` is SIGKILL, `start` begins again on the same one."""

    def __init__(self) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}"
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        env = {**os.environ, "YOSHI_DB_NAME": str(connection.settings_dict["NAME"]), "YOSHI_PORT": str(self.port)}
        command = [sys.executable, "-m", "uvicorn", "yoshi_server.asgi:application", "--port", str(self.port)]
        command += ["--lifespan", "off", "--log-level", "critical"]
        self.process = subprocess.Popen(command, cwd=ROOT / "server", env=env)
        deadline = time.monotonic() + 60
        while time.monotonic() < deadline:
            try:
                urllib.request.urlopen(f"{self.address}/api/health", timeout=2)
                return
            except OSError:
                time.sleep(0.1)
        raise AssertionError("the server does not answer")

    def kill(self) -> None:
        assert self.process is not None
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()
