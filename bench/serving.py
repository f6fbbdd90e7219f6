"""A server of this checkout for a benchmark, as a process of its own: on its port when it answers."""

import os
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]


def serving(port: int, database_name: str = "", workers: int = 1) -> subprocess.Popen[bytes]:
    """Serve the database of that name, else the checkout's own, by so many processes; the caller ends it."""
    env = {**os.environ, "YOSHI_PORT": str(port), "PYTHONPATH": os.pathsep.join(str(ROOT / part) for part in ("core", "server", "."))}
    if database_name:
        env["YOSHI_DB_NAME"] = database_name
    command = [sys.executable, "-m", "uvicorn", "yoshi_server.asgi:application", "--port", str(port), "--lifespan", "off"]
    command += ["--workers", str(workers)] if workers > 1 else []
    server = subprocess.Popen([*command, "--log-level", "critical"], cwd=ROOT / "server", env=env)
    for _ in range(200):
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health", timeout=2)
        except OSError:
            time.sleep(0.1)
        else:
            return server
    server.kill()
    raise SystemExit("the server does not answer")
