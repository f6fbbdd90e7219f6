"""An upgrade while people work: two servers of an earlier version, one after the other replaced by this one, with faults all the while.

    python bench/rolling.py [OLD_COMMIT]      needs the repository's history; makes and ends its own in a temporary folder

The database is made and filled by the old version. It is brought to this version while both old servers write; then an old and
a new one write beside each other; then two new ones. Nothing acknowledged may be lost or doubled, and every book is exact.
"""

import io
import shutil
import subprocess
import sys
import tarfile
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT)]

from ops.trial import Trial

OLD, FAULTS, KILLS = "b56abbb", 60, {"server": 4}


def checkout(commit: str, folder: Path) -> Path:
    """The tree of a commit."""
    tar = subprocess.run(["git", "archive", commit, "core", "server", "ops"], cwd=ROOT, capture_output=True, check=True).stdout
    with tarfile.open(fileobj=io.BytesIO(tar)) as archive:
        archive.extractall(folder)
    return folder


def main() -> int:
    """Run, print; 1 where something was lost or doubled."""
    commit = sys.argv[1] if len(sys.argv) > 1 else OLD
    folder = Path(tempfile.mkdtemp(prefix="yr-", dir="/tmp"))
    bad = 0
    try:
        old = checkout(commit, folder / "old")
        with Trial(folder, servers=2, root=old) as trial:
            for name in ("two old", "the database is new, two old", "one old, one new", "two new"):
                if name.startswith("the database"):
                    trial.migrate(ROOT)
                elif "new" in name:
                    trial.replace(1 if "one" in name else 0, ROOT)
                found = trial.run(19, FAULTS, KILLS)
                wrong = found["lost"] or found["doubled"] or found["refused"] or found["books_off_kg"] >= 1e-9
                bad += bool(wrong)
                print(f"{name}: {found['acknowledged']} acknowledged so far, lost {found['lost']}, doubled {found['doubled']}, "
                      f"refused {found['refused']}, books off {found['books_off_kg']:.1e} kg", flush=True)  # fmt: skip
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
