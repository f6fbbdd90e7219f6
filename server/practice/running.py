"""Letting practice time run: one process keeps the benches that go, second by second, and says what stands before each person.

A bench is its exercise and its acts. Whoever takes a run over, after a restart or from a process that is gone, plays its acts again and
goes on at the second it had reached. Time is stepped in whole practice seconds, so that what is played again is the same to the digit.
"""

import logging
from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

from django.db.models import Q
from django.utils import timezone

from instruments.actions.ingest import ingest
from instruments.models import Gateway
from practice.actions.act import end, kept_acts
from practice.actions.begin import practice_time
from practice.models import Act, Run
from practice.queries import LONGEST_TICK_S, exercise_of
from yoshi_core.document import schema
from yoshi_core.errors import CoreError
from yoshi_core.instruments import channels
from yoshi_core.message import told
from yoshi_core.practice.bench import Bench
from yoshi_core.practice.debrief import acts_from, replayed
from yoshi_core.practice.entries import at
from yoshi_core.practice.exercise import LONGEST_S
from yoshi_core.practice.inside import inside
from yoshi_core.practice.seen import seen
from yoshi_core.practice.shown import Shown

log = logging.getLogger("yoshi.practice")
LEASE = timedelta(seconds=10)
UNSEEN = timedelta(minutes=10)
LOOKED = timedelta(minutes=1)
POST_S, SLOW_POST_S = 0.5, 2.0
ROWS_A_POST = 5
FAST = {
    "suction_pressure": "suction_pa",
    "liquid_pressure": "liquid_pa",
    "suction_line": "suction_line_k",
    "liquid_line": "liquid_line_k",
    "scale": "scale_kg",
    "vacuum": "vacuum_pa",
    "metal": "metal_k",
}
SLOW = {"return_air": "return_k", "return_wet_bulb": "wet_bulb_k", "supply": "supply_k", "outdoor": "outdoor_k"}
Row = tuple[int, Shown]


@dataclass
class Going:
    """A bench that is kept, what it showed since the last post, and when it was posted by the office's clock."""

    bench: Bench
    gateway: Gateway
    carried_s: float = 0.0
    rows: list[Row] = field(default_factory=list)
    posted_at: datetime | None = None
    slow_at: datetime | None = None
    slow_s: float = -1.0


class Runner:
    """Keeps the benches of this process. `round` is called some times a second; `hurry` lets time run so much faster than told, for tests."""

    def __init__(self, me: str, hurry: int = 1) -> None:
        self.me, self.hurry = me, hurry
        self.kept: dict[int, Going] = {}

    def round(self, now: datetime | None = None) -> int:
        """Let every run's time run on to now, and do what was asked; how many runs that were."""
        now = now or timezone.now()
        mine = list(self._taken(now))
        for gone in set(self.kept) - {run.pk for run in mine}:
            del self.kept[gone]
        for run in mine:
            try:
                self._on(run, now)
            except Exception:
                log.exception("practice run %s does not go on; it is tried again", run.code)
                self.kept.pop(run.pk, None)
        return len(mine)

    def _taken(self, now: datetime) -> Iterable[Run]:
        """The runs somebody looks at, or whose time goes, that are this process's or nobody's."""
        alive = Q(state="going") | Q(state="paused", seen_at__gt=now - LOOKED)
        free = Q(taken_by=self.me) | Q(taken_until=None) | Q(taken_until__lt=now)
        rows = Run.objects.filter(alive, free).defer("shown", "inside", "result", "text").select_related("job")
        for run in rows:
            if run.taken_by == self.me and run.taken_until is not None and run.taken_until > now + LEASE / 2:
                yield run
            elif Run.objects.filter(free, pk=run.pk).update(taken_by=self.me, taken_until=now + LEASE):
                if run.taken_by != self.me:
                    self.kept.pop(run.pk, None)  # another process had it meanwhile
                yield run

    def _on(self, run: Run, now: datetime) -> None:
        going = self.kept.get(run.pk)
        if going is None:
            going = self.kept[run.pk] = self._loaded(run)
        late = min(max((now - run.ticked_at).total_seconds(), 0.0), LONGEST_TICK_S)
        elapsed = late * self.hurry if run.state == "going" else 0.0
        acted = self._pass(run, going, elapsed)
        with practice_time(at(going.bench.time_s)):
            self._post(going, now, stands=run.state != "going")
        asleep = run.state == "going" and now - run.seen_at > UNSEEN
        moved: dict[str, Any] = {"ticked_at": now, "time_s": round(going.bench.time_s)}
        if asleep:
            moved |= {"state": "paused", "asleep": True}
        if elapsed or acted or run.time_s != moved["time_s"] or going.posted_at is None:
            moved |= {"shown": schema.dump_full(seen(going.bench)), "inside": schema.dump_full(inside(going.bench))}
        Run.objects.filter(pk=run.pk, taken_by=self.me).exclude(state="ended").update(**moved)
        if going.bench.time_s >= LONGEST_S:
            end(run.person, run.code)

    def _loaded(self, run: Run) -> Going:
        """The bench as it was at its last second, from its acts."""
        whole = Run.objects.get(pk=run.pk)
        exercise = exercise_of(whole)
        bench = replayed(exercise, acts_from(kept_acts(run)), float(whole.time_s))
        return Going(bench, Gateway.objects.get(job=run.job))

    def _pass(self, run: Run, going: Going, elapsed: float) -> bool:
        """Whole seconds of practice up to now, each act at its own: it was asked so long before now."""
        waiting = list(run.acts.filter(at_s=None, refused__isnull=True).order_by("pk"))
        whole = elapsed * run.speed + going.carried_s
        steps = int(whole)
        going.carried_s = whole - steps if run.state == "going" else 0.0
        began = going.bench.time_s
        for act in waiting:
            before = (act.asked_at - run.ticked_at).total_seconds() * run.speed * self.hurry if run.state == "going" else 0.0
            self._until(going, min(max(began + int(before), going.bench.time_s), began + steps))
            self._do(going, act)
        self._until(going, began + steps)
        if steps and not going.rows:
            going.rows.append((round(going.bench.time_s), going.bench.shown))
        return bool(waiting)

    def _until(self, going: Going, second: float) -> None:
        bench = going.bench
        while bench.time_s < second - 0.5:
            bench.run(1.0)
            going.rows.append((round(bench.time_s), bench.shown))

    def _do(self, going: Going, act: Act) -> None:
        try:
            going.bench.do(act.do, act.what, act.to)
        except CoreError as error:
            act.refused = {"message": schema.dump_full(told(error)), "path": error.path}
            act.save(update_fields=["refused"])
        else:
            act.at_s = round(going.bench.time_s)
            act.save(update_fields=["at_s"])

    def _post(self, going: Going, now: datetime, *, stands: bool) -> None:
        """What the displays said since the last post, a few rows of it, through the door every kit posts through; all of them where time has come to stand."""
        if not going.rows and stands and going.slow_s < going.bench.time_s:
            going.rows.append((round(going.bench.time_s), going.bench.shown))
        if not going.rows or (going.posted_at is not None and (now - going.posted_at).total_seconds() < POST_S):
            return
        every = max(len(going.rows) // ROWS_A_POST, 1)
        rows = going.rows[::-1][::every][:ROWS_A_POST][::-1]
        names = dict(FAST)
        if stands or going.slow_at is None or (now - going.slow_at).total_seconds() >= SLOW_POST_S:
            names, going.slow_at, going.slow_s = {**FAST, **SLOW}, now, going.bench.time_s
        batch = [
            {"instrument": name, "value": value, "unit": channels.si_unit(channels.channel(name)), "at": at(second)}
            for second, shown in (rows if len(rows) > 1 else rows[-1:])
            for name, field_name in names.items()
            if (value := getattr(shown, field_name)) is not None and (name in FAST or second == rows[-1][0])
        ]
        if batch:
            ingest(going.gateway, batch, None)
        going.rows, going.posted_at = [], now
