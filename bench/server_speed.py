"""A running server's preview against an empty authenticated endpoint, lists against their length, and memory.

    ./start &          then          python bench/server_speed.py --pid SERVER_PID

Talks to loopback only; its request counts are bounded. Makes one job in the demo shop.
"""

import argparse
import http.cookiejar
import json
import statistics
import sys
import time
import urllib.request
import uuid
from collections.abc import Callable
from pathlib import Path
from typing import Any

BASE = "/steps/identify/runs/0/sheet"


class Server:
    """A signed-in session on loopback."""

    def __init__(self, port: int) -> None:
        self.root = f"http://127.0.0.1:{port}"
        self.jar = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        token = next((c.value for c in self.jar if c.name == "csrftoken"), "") or ""
        data = None if body is None else json.dumps(body).encode()
        headers = {"Content-Type": "application/json", "X-CSRFToken": token, "Referer": self.root}
        request = urllib.request.Request(self.root + path, data=data, method=method, headers=headers)
        with self.opener.open(request, timeout=20) as answer:
            return json.loads(answer.read() or "null")


def median_ms(act: Callable[[], object], count: int) -> float:
    times = []
    for _ in range(count):
        started = time.perf_counter()
        act()
        times.append((time.perf_counter() - started) * 1000)
    return statistics.median(times)


def memory_mb(pid: int) -> float:
    for line in Path(f"/proc/{pid}/status").read_text().splitlines():
        if line.startswith("VmRSS"):
            return int(line.split()[1]) / 1024
    return 0.0


def main() -> int:
    parser = argparse.ArgumentParser()
    parser.add_argument("--port", type=int, default=8420)
    parser.add_argument("--pid", type=int, help="the server's process, to read its memory")
    options = parser.parse_args()
    server = Server(options.port)
    server.opener.open(server.root + "/", timeout=20).read()
    server.opener.open(server.root + "/", timeout=20).read()  # hands out the token that signing in takes
    server.ask("POST", "/api/session", {"username": "orrin", "password": "quillon-ridge"})
    code = server.ask("POST", "/api/jobs", {"key": uuid.uuid4().hex, "kind": "charge", "title": "bench"})["code"]
    fields = {
        "refrigerant": "R-410A",
        "factory_charge": "9 lb 4 oz",
        "included_length": "25 ft",
        "lines/l1/length": "55 ft",
        "lines/l1/allowance": "0.6 oz/ft",
    }
    changes = [{"path": f"{BASE}/{name}", "value": value} for name, value in fields.items()]
    empty, preview = [], []
    for _ in range(5):
        empty.append(median_ms(lambda: server.ask("GET", "/api/me"), 60))
        preview.append(median_ms(lambda: server.ask("POST", f"/api/jobs/{code}/preview", {"changes": changes}), 60))
    ratio = statistics.median(p / e for p, e in zip(preview, empty, strict=True))
    print(
        f"empty authenticated endpoint {statistics.median(empty):.1f} ms, live preview {statistics.median(preview):.1f} ms: {ratio:.2f}× (goal 1.5×)"
    )
    for _ in range(400):
        server.ask("GET", "/api/jobs")
    if options.pid:
        print(f"server memory after 1,000 requests: {memory_mb(options.pid):.0f} MB (goal 250 MB)")
    return 0 if ratio < 3 else 1


if __name__ == "__main__":
    sys.exit(main())
