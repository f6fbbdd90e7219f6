"""`./test mutants`: deliberate errors put one at a time into what judges and what counts mass; a test must notice each.

    ./test mutants                all of them, for hours; `./test mutants charge job.patches` one room, one module
    ./test mutants --sample 60    so many, drawn with a fixed seed; `./test` draws of charge and books alone, and fails on them
    ./test mutants --again        what survived the last run, after new tests; the others count as they did

The core and its tests are copied to `.yoshi/mutants/` and mutated there by mutmut. Not mutated: the wording of
sentences, which the golden pages hold. Not counted as noticing: those pages and fingerprints themselves, which notice
everything and judge nothing, and the studies and the rig's own tests, which are slow. What survives and changes
nothing stands in `ops/equivalent.txt`, each with its reason.
"""

import argparse
import json
import shutil
import subprocess
import sys
from collections import defaultdict
from dataclasses import dataclass

from ops.console import say
from ops.paths import BIN, ROOT, STATE

WORK = STATE / "mutants"
LAST = STATE / "mutants.json"
SAMPLED = ("charge", "books")
NEAR = ("tests/charge", "tests/books", "tests/steps/recover", "tests/steps/weigh_in", "tests/test_properties.py")
ROOMS = ("account", "charge", "books", "tight_and_dry", "running", "steps", "job")
GOALS = {"account": 0.95, "charge": 0.95, "books": 0.95, "job": 0.95}
GOAL = 0.85
SEED = 16
LEFT_OUT = (
    "tests/test_golden.py", "tests/test_public_surface.py", "tests/cli", "tests/studies", "tests/rig", "tests/day/test_simulated_day.py",
    "tests/retrofit/test_retrofit_on_the_rig.py", "tests/diagnosis/test_first_half_on_the_rig.py",
    "tests/steps/verify/test_trim_on_the_rig.py", "tests/refrigerants",
)  # fmt: skip
PROPERTY_TESTS = """
settings.register_profile("mutants", deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
settings.load_profile("mutants")
"""  # the same examples for every mutant, however often the program runs a test in one process
READS_CODE = ("tests/steps/test_stops.py::test_every_rule_that_can_stop_has_its_cases",)  # it would read the mutants too
EQUIVALENT = ROOT / "ops" / "equivalent.txt"
KILLED = {1, 3, 24, 36, 152, 255, -24, -11, -9, 37}
SETTINGS = """
[tool.mutmut]
source_paths = ["yoshi_core"]
only_mutate = [{only}]
do_not_mutate = ["yoshi_core/steps/*/sheet.py", "yoshi_core/steps/*/handed.py", "yoshi_core/steps/*/step.py"]
pytest_add_cli_args = ["-q", "-p", "no:playwright", "-p", "no:cacheprovider", "-p", "no:django"{ignored}]
pytest_add_cli_args_test_selection = [{tests}]
timeout_multiplier = 10.0
track_dependencies = false
use_git_change_detection = false

[tool.pytest.ini_options]
addopts = "--strict-markers"
"""
DRIVER = '''
"""Runs mutmut without mutating sentences; with a number, on so many mutants drawn with a seed."""

import random
import sys

import libcst
import mutmut.__main__ as program
import mutmut.mutation.mutators as mutators


def words_only(node):
    """One change of a plain word or id; none of a sentence."""
    for changed in mutators.operator_string(node):
        if isinstance(node, libcst.SimpleString) and " " not in node.value:
            yield changed
            return


mutators.mutation_operators[:] = [
    (kind, words_only if operator is mutators.operator_string else operator) for kind, operator in mutators.mutation_operators
]
wanted, seed, names = int(sys.argv[1]), int(sys.argv[2]), tuple(sys.argv[3:])
collect = program.collect_source_file_mutation_data


def drawn(*, mutant_names=()):
    every, data = collect(mutant_names=mutant_names)
    if wanted:
        every = random.Random(seed).sample(sorted(every, key=lambda one: one[1]), min(wanted, len(every)))
    return every, data


program.collect_source_file_mutation_data = drawn
program._run(names, 2)
'''


@dataclass
class Score:
    """How many of a room's mutants were tried, and how many a test noticed."""

    tried: int = 0
    noticed: int = 0

    @property
    def share(self) -> float:
        """Noticed of tried; all of none."""
        return self.noticed / self.tried if self.tried else 1.0


def mutants(rest: list[str]) -> bool:
    """Mutate, run, say what survived, and hold it against the goals."""
    parser = argparse.ArgumentParser(prog="./test mutants")
    parser.add_argument("rooms", nargs="*", metavar="ROOM", help=f"some of: {', '.join(ROOMS)}; or ROOM.MODULE")
    parser.add_argument("--sample", type=int, default=0, help="so many mutants, drawn with a fixed seed")
    parser.add_argument("--seed", type=int, default=SEED)
    parser.add_argument("--tests", nargs="*", default=("tests",), help="only these notice; all of the core's, unless said")
    parser.add_argument("--again", action="store_true", help="only what survived the last run")
    options = parser.parse_args(rest)
    before = json.loads(LAST.read_text()) if options.again else {}
    survivors = [name for name, code in before.items() if code not in KILLED]
    _lay_out(tuple(options.rooms) or ROOMS, tuple(options.tests))
    command = [str(BIN / "python"), "drive.py", str(options.sample), str(options.seed), *survivors]
    done = subprocess.run(command, cwd=WORK, env=_environment(), stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, check=False)
    (WORK / "log").write_text(done.stdout)
    if done.returncode:
        say("\n".join(done.stdout.splitlines()[-30:]))
        return False
    results = {**before, **_results()}
    if not options.sample:
        LAST.write_text(json.dumps(results))
    return report(results, by_room=not options.sample)


def _environment() -> dict[str, str]:
    return {"PATH": f"{BIN}:/usr/bin:/bin", "HOME": str(STATE), "PYTHONHASHSEED": "0"}


def sample(rest: list[str]) -> bool:
    """A fixed small share, of the rooms that count mass, noticed by the tests beside them: quick enough for every run."""
    return mutants([*SAMPLED, "--sample", "40", "--tests", *NEAR])


def _lay_out(rooms: tuple[str, ...], tests: tuple[str, ...] = ("tests",)) -> None:
    shutil.rmtree(WORK, ignore_errors=True)
    WORK.mkdir(parents=True)
    for name in ("yoshi_core", "tests"):
        shutil.copytree(ROOT / "core" / name, WORK / name, ignore=shutil.ignore_patterns("__pycache__"))
    with (WORK / "tests" / "conftest.py").open("a") as conftest:
        conftest.write(PROPERTY_TESTS)
    for name in ("examples", "bench", "docs", "web"):
        (WORK / name).symlink_to(ROOT / name)
    only = ", ".join(f'"yoshi_core/{room.replace(".", "/")}{".py" if "." in room else "/*"}"' for room in rooms)
    ignored = "".join(f', "--ignore={name}"' for name in LEFT_OUT) + "".join(f', "--deselect={name}"' for name in READS_CODE)
    chosen = ", ".join(f'"{name}"' for name in tests)
    (WORK / "pyproject.toml").write_text(SETTINGS.format(only=only, ignored=ignored, tests=chosen))
    (WORK / "drive.py").write_text(DRIVER)


def _results() -> dict[str, int]:
    """Exit code of each mutant that was tried."""
    found = {}
    for meta in (WORK / "mutants").rglob("*.py.meta"):
        codes = json.loads(meta.read_text())["exit_code_by_key"]
        found.update({name: code for name, code in codes.items() if code is not None})
    return found


def _equivalent() -> dict[str, str]:
    """Mutants that change nothing anybody can see, with the reason; by name, as mutmut calls them."""
    lines = EQUIVALENT.read_text().splitlines() if EQUIVALENT.exists() else []
    return dict(line.split(None, 1) for line in lines if line.strip() and not line.startswith("#"))


def report(results: dict[str, int], *, by_room: bool) -> bool:
    """Say what survived and how much was noticed; whether the goals are kept, each room's own where it was tried whole."""
    known, survived = _equivalent(), []
    scores: defaultdict[str, Score] = defaultdict(Score)
    for name, code in sorted(results.items()):
        if name in known:
            if code in KILLED:
                say(f"    {EQUIVALENT.name} names one that a test noticed: {name}")
            continue
        room = name.split(".")[1]
        scores[room].tried += 1
        if code in KILLED:
            scores[room].noticed += 1
        else:
            survived.append(name)
    total = Score(sum(s.tried for s in scores.values()), sum(s.noticed for s in scores.values()))
    for name in survived:
        say(f"    survived: {name}")
    for room, score in sorted(scores.items()):
        say(f"    {room:14} {score.noticed:5} of {score.tried:5} noticed, {score.share:.0%} (goal {GOALS.get(room, GOAL):.0%})")
    say(f"    {'all':14} {total.noticed:5} of {total.tried:5} noticed, {total.share:.0%} (goal {GOAL:.0%})")
    if not by_room:
        return total.share >= min((GOALS.get(room, GOAL) for room in scores), default=GOAL)
    return total.share >= GOAL and not any(score.share < GOALS.get(room, GOAL) for room, score in scores.items())


if __name__ == "__main__":
    sys.exit(0 if mutants(sys.argv[1:]) else 1)
