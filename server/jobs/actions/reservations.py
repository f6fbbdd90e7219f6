"""Refrigerant a job sets aside for another circuit on another day: the jobs of that circuit see it coming."""

import dataclasses
from collections.abc import Sequence
from typing import Any

from accounts import clock
from accounts.models import Person, Shop
from jobs.models import AT_WORK, Job
from jobs.store import read, write
from systems.models import Circuit
from systems.queries import circuits_of
from yoshi_core.document.model import Fact
from yoshi_core.document.model import Job as CoreJob
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.verdict import Problem
from yoshi_core.job.patches import Change
from yoshi_core.message import headline
from yoshi_core.steps.weigh_in.lines import COMING


def unknown_circuits(shop: Shop, changes: Sequence[Change]) -> dict[str, Problem]:
    """Acts from or to a circuit this shop does not have, by path: nothing could be booked to it."""
    named = {c.path: c.value for c in changes if c.path.startswith("/acts/") and c.path.endswith("/circuit") and isinstance(c.value, str)}
    known = set(circuits_of(shop).filter(code__in=[code.strip() for code in named.values()]).values_list("code", flat=True))
    text = "There is no circuit {code} in this shop. Take its code from its record, or leave this empty and say from where as the reason."
    return {
        path: Problem(path, "no_circuit", headline(text, code=code.strip()[:60]))
        for path, code in named.items()
        if code.strip() and code.strip() not in known
    }


def tell_coming(row: Job, before: CoreJob, job: CoreJob, person: Person) -> None:
    """Bring the open jobs of other circuits up to date with what this job means to give them, or does no more; `before` is how it stood."""
    told = f"job {row.code}"
    wanted = {act.circuit for stood in (before, job) for act in stood.acts.values() if act.circuit}
    receivers = Job.objects.select_for_update().filter(shop=row.shop, listed__in=AT_WORK, circuit__code__in=wanted).exclude(pk=row.pk)
    for receiver in receivers.select_related("circuit"):
        theirs = read(receiver)
        kept = tuple(fact for fact in theirs.facts if not (fact.kind == COMING and fact.source == told))
        facts = (*kept, *_coming(row, job, receiver.circuit.code if receiver.circuit else ""))
        if facts != theirs.facts:
            write(receiver, dataclasses.replace(theirs, facts=facts), "fact", {"coming": told}, person)


def coming_to(shop: Shop, circuit: Circuit) -> tuple[Fact, ...]:
    """What open jobs of the shop have set aside for a circuit."""
    return all_coming(shop).get(circuit.code, ())


def all_coming(shop: Shop) -> dict[str, tuple[Fact, ...]]:
    """What open jobs of the shop have set aside, by the code of the circuit it is for."""
    rows = Job.objects.filter(shop=shop, listed__in=AT_WORK, document__has_key="acts").select_related("circuit")
    found: dict[str, tuple[Fact, ...]] = {}
    for row in rows:
        if not any(act.get("circuit") for act in row.document["acts"].values()):
            continue  # most acts are of this circuit alone, and a document is dear to read
        job = read(row)
        for code in {act.circuit for act in job.acts.values() if act.circuit}:
            found[code] = (*found.get(code, ()), *_coming(row, job, code))
    return found


def _coming(row: Job, job: CoreJob, code: str) -> list[Fact]:
    """What a job has set aside for the circuit of this code and not given yet."""
    where = row.circuit.name if row.circuit else row.title
    found = []
    for key, act in job.acts.items():
        if not act.reserved or act.circuit != code or act.kind != "out":
            continue
        values: dict[str, Any] = {"on": act.planned_for, "from": where}
        values |= {name: kg for name, kg in (("mass_kg", value_of(act.mass)), ("at_most_kg", value_of(act.at_most))) if kg is not None}
        begun = job.begun.get(f"/acts/{key}")
        found.append(Fact(COMING, f"{row.code}/acts/{key}", begun.at if begun else clock.now(), f"job {row.code}", values))
    return found
