"""Whether any document that loads makes the judging raise: made and mutilated ones, as in the tests but many more.

    python bench/never_raises_study.py [DOCUMENTS] [FROM_SEED]      prints what was judged, what did not load, and each failure with its seed

Half are made from nothing, half are whole jobs with up to eight places dropped, shifted or doubled and acts beside their steps.
As many again are whole jobs with up to twelve numbers and moments far outside their field's range, as a file from elsewhere may hold.
Exits with 1 where one raised.
"""

import sys
from collections import Counter
from pathlib import Path
from random import Random

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "core")]

from tests import generate
from tests.job.test_far_outside import tried
from tests.job.test_never_raises import mutilated, whole
from tests.make import NOW
from yoshi_core.errors import CoreError
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile

DOCUMENTS, FROM = 100_000, 1_000_000


def study(count: int, first: int) -> Counter[str]:
    """How many were judged, did not load, or raised."""
    bases, found = list(whole()), Counter[str]()
    for seed in range(first, first + count):
        dice = Random(seed)
        try:
            made = seed % 2 == 0
            plain = generate.document(seed, 0.15 + seed % 8 * 0.12) if made else mutilated(bases[seed % len(bases)], dice)
            job = documents.load_job(plain)
        except CoreError:
            found["did not load"] += 1
            continue
        try:
            evaluate(job, Profile(), NOW)
            found["judged"] += 1
        except Exception as error:  # noqa: BLE001 - it is what is looked for
            found["raised"] += 1
            print(f"seed {seed}: {type(error).__name__}: {error}", flush=True)
    return found


def far_outside(count: int, first: int) -> Counter[str]:
    """The same of documents far outside what fields hold."""
    found = Counter[str]()
    for seed, what in tried(range(first, first + count)):
        found[what.split()[0]] += 1
        if what.startswith("raised"):
            print(f"seed {seed} far outside: {what}", flush=True)
    return found


def main() -> int:
    """Run it and say what came out."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else DOCUMENTS
    first = int(sys.argv[2]) if len(sys.argv) > 2 else FROM
    raised = 0
    for name, found in (("documents", study(count, first)), ("documents far outside", far_outside(count, first))):
        print(f"{count} {name} from seed {first}: " + ", ".join(f"{number} {what}" for what, number in sorted(found.items())))
        raised += found["raised"]
    return 1 if raised else 0


if __name__ == "__main__":
    raise SystemExit(main())
