"""What a cluster of three costs in time: one write and one read through the server, beside a single database in the same run.

    python bench/cluster_speed.py      needs nothing running; makes and ends its own in a temporary folder

One database, the cluster, one database again: ratios against the mean of the two. One writer, no faults. All nodes stand on this
machine, so what is measured is the work of agreeing, not a network's way.
"""

import http.client
import json
import shutil
import statistics
import sys
import tempfile
import time
import uuid
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT)]

from ops.trial import Trial

COUNT = 200


def measured(*, clustered: bool) -> dict[str, list[float]]:
    """Milliseconds of each write and each read."""
    folder = Path(tempfile.mkdtemp(prefix="ys-", dir="/tmp"))
    folder.chmod(0o755)  # the nodes run as another user
    try:
        with Trial(folder, clustered=clustered) as trial:
            person, port = trial.people[0], trial.ports[0]
            times: dict[str, list[float]] = {"write": [], "read": []}
            for n in range(-10, COUNT):
                change = {"path": "/steps/identify/runs/0/sheet/parts/p1/label", "value": f"part {n}", "force": True}
                write = _asked(person, port, "POST", f"/api/jobs/{person['job']}/changes", {"key": uuid.uuid4().hex, "changes": [change]})
                read = _asked(person, port, "GET", f"/api/jobs/{person['job']}", None)
                if n >= 0:
                    times["write"].append(write)
                    times["read"].append(read)
            return times
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def _asked(person: dict[str, str], port: int, method: str, path: str, body: object) -> float:
    headers = {
        "Content-Type": "application/json",
        "Cookie": f"sessionid={person['cookie']}; csrftoken={person['token']}",
        "X-CSRFToken": person["token"],
        "X-Yoshi-Owner": person["owner"],
    }
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=20)
    began = time.perf_counter()
    connection.request(method, path, None if body is None else json.dumps(body), headers)
    answer = connection.getresponse()
    answer.read()
    took = (time.perf_counter() - began) * 1000
    connection.close()
    if answer.status != 200:
        raise SystemExit(f"{method} {path}: {answer.status}")
    return took


def main() -> int:
    """Run it and say what came out."""
    before, cluster, after = (measured(clustered=clustered) for clustered in (False, True, False))
    for kind in ("read", "write"):
        alone = statistics.median(before[kind] + after[kind])
        together = statistics.median(cluster[kind])
        late = sorted(cluster[kind])[int(0.99 * COUNT)] / sorted(before[kind] + after[kind])[int(0.99 * 2 * COUNT)]
        print(f"{kind}: one database {alone:.1f} ms, three nodes {together:.1f} ms: {together / alone:.2f}×; 99 in 100 {late:.2f}×")
    return 0


if __name__ == "__main__":
    sys.exit(main())
