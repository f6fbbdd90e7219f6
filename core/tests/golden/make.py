"""What the core says today, to the digit: `python -m tests.golden.make` (in core/) writes it anew after an intended change.

Whole pages for the examples, so that a change is read as text; fingerprints for documents nobody typed, so that every
step and kind is covered. Figures count to nine digits: the last ones differ between builds of the mathematical library.
"""

import hashlib
import json
from pathlib import Path
from typing import Any

from tests.generate import document
from tests.make import NOW
from yoshi_core.document import schema
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.record.page import page

HERE = Path(__file__).parent
EXAMPLES = Path(__file__).parents[3] / "examples"
MADE = 150
DIGITS = 9


def pages() -> dict[str, str]:
    """Each example judged, as the terminal prints it."""
    found = {}
    for path in sorted(EXAMPLES.glob("*.json")):
        read = documents.loads(path.read_text(encoding="utf-8"))
        findings = evaluate(read.job, read.profile, read.now or NOW)
        found[path.stem] = page(read.job, list(findings.steps), "us") + "\n"
    return found


def fingerprints() -> dict[str, str]:
    """Of each made document and each example: the document written back, and its findings."""
    found = {}
    for seed in range(MADE):
        job = documents.load_job(document(seed))
        found[f"made-{seed}"] = _print([documents.dump_job(job), schema.dump_full(evaluate(job, Profile(), NOW))])
    for path in sorted(EXAMPLES.glob("*.json")):
        read = documents.loads(path.read_text(encoding="utf-8"))
        findings = evaluate(read.job, read.profile, read.now or NOW)
        found[path.stem] = _print([documents.dump_job(read.job), schema.dump_full(findings)])
    return found


def _print(plain: Any) -> str:
    return hashlib.sha256(json.dumps(_rounded(plain), sort_keys=True).encode()).hexdigest()[:20]


def _rounded(plain: Any) -> Any:
    if isinstance(plain, float):
        return f"{plain:.{DIGITS}g}"
    if isinstance(plain, dict):
        return {key: _rounded(value) for key, value in plain.items() if key != "core_version"}
    if isinstance(plain, list):
        return [_rounded(value) for value in plain]
    return plain


def write() -> None:
    for name, text in pages().items():
        (HERE / f"{name}.txt").write_text(text, encoding="utf-8")
    (HERE / "fingerprints.json").write_text(json.dumps(fingerprints(), indent=1) + "\n", encoding="utf-8")


if __name__ == "__main__":
    write()
