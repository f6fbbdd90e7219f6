"""A thousand faults into a running installation: kills, a full disk, clock steps, and a wire that loses, doubles, tears, reorders, falls silent.

    python bench/faults.py [SEED] [FAULTS] [--cluster]     needs nothing running; makes and ends its own in a temporary folder

A disk of its own takes root. With --cluster three nodes and two servers, nodes killed too. Prints what was done, what was found, and how long answers took.
"""

import json
import shutil
import sys
import tempfile
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT)]

from ops.trial import Trial

SHARES = {"database": 0.03, "server": 0.03, "clock step": 0.02, "full disk": 0.003}
DISK_MB = 600
CLUSTER_SHARES = {"node": 0.04, "server": 0.04, "all nodes": 0.01}


def main() -> int:
    """Run, print, keep the figures; 1 where something was lost or doubled."""
    numbers = [int(text) for text in sys.argv[1:] if text.isdigit()]
    seed, count = (numbers + [19, 1000][len(numbers) :])[:2]
    clustered = "--cluster" in sys.argv
    folder = Path(tempfile.mkdtemp(prefix="yf-", dir="/tmp"))
    folder.chmod(0o755)  # the nodes run as another user
    shares = CLUSTER_SHARES if clustered else SHARES
    try:
        one: dict[str, Any] = {"disk_mb": DISK_MB, "clocks": True}
        with Trial(folder, clustered=clustered, servers=2 if clustered else 1, **({} if clustered else one)) as trial:
            result = trial.run(seed, count, {name: round(count * share) for name, share in shares.items()})
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    print(json.dumps(result, indent=1))
    name = "faults_cluster.json" if clustered else "faults.json"
    (ROOT / "bench" / "results" / name).write_text(json.dumps(result, indent=1) + "\n")
    return 0 if not result["lost"] and not result["doubled"] and not result["refused"] and result["books_off_kg"] < 1e-9 else 1


if __name__ == "__main__":
    sys.exit(main())
