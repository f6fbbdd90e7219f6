"""The commands of `yoshi` that read a job document; loaded only when one is asked for."""

import argparse
import json
import sys
from datetime import UTC, datetime
from pathlib import Path

from yoshi_core.document import schema
from yoshi_core.job import documents
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.record.page import page


def _read(options: argparse.Namespace) -> tuple[documents.Export, Findings]:
    text = sys.stdin.read() if options.file == "-" else Path(options.file).read_text(encoding="utf-8")
    export = documents.loads(text)
    now = schema.load(datetime, options.now, "--now") if options.now else export.now or datetime.now(UTC)
    return export, evaluate(export.job, export.profile, now)


def plan(options: argparse.Namespace) -> int:
    """`yoshi plan`: total charge and scale marks of a document."""
    export, findings = _read(options)
    wanted = {"identify", "weigh_in"}
    return _print(options, export, findings, wanted)


def judge(options: argparse.Namespace) -> int:
    """`yoshi judge`: all findings of a document."""
    export, findings = _read(options)
    return _print(options, export, findings, None)


def _print(options: argparse.Namespace, export: documents.Export, findings: Findings, wanted: set[str] | None) -> int:
    results = [r for r in findings.steps if wanted is None or r.step in wanted]
    if options.json:
        plain = schema.dump_full(findings)
        plain["steps"] = [schema.dump_full(r) for r in results]
        print(json.dumps(plain, indent=1, ensure_ascii=False))
    else:
        print(page(export.job, results, options.units))
    return 1 if any(r.verdict.word == "Stop" for r in results) else 0


def print_schema(_: argparse.Namespace) -> int:
    """`yoshi schema`: the JSON Schema of a document."""
    print(json.dumps(documents.json_schema(), indent=1))
    return 0
