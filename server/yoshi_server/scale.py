"""The live scale of a weigh-in: what the core says of its last readings, for the browsers that watch the job."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from jobs.models import Job
from yoshi_core.document import schema
from yoshi_core.errors import CoreError
from yoshi_core.findings import weigh_follow
from yoshi_core.findings.pictures import ScaleAnchors
from yoshi_core.tight_and_dry.trace import Row

SCALE = "scale"


@dataclass
class Scales:
    """The anchors of every watched job, as of the change they were read at."""

    kept: dict[int, tuple[int, ScaleAnchors | None]] = field(default_factory=dict)

    def stale(self, jobs: Mapping[int, int]) -> list[int]:
        """Of jobs and their last change: those whose anchors are of an earlier one."""
        return [job for job, seq in jobs.items() if self.kept.get(job, (-1, None))[0] != seq]

    def keep(self, rows: Mapping[int, tuple[int, ScaleAnchors | None]]) -> None:
        self.kept.update(rows)

    def follow(self, job: int, recent: Sequence[Row], limit: float, pressures: tuple[float, float] | None) -> dict[str, Any] | None:
        """What the core says; None where no weigh-in waits for the scale."""
        anchors = self.kept.get(job, (-1, None))[1]
        if anchors is None or not recent:
            return None
        try:
            return dict(schema.dump_full(weigh_follow.follow(anchors, recent, limit, pressures)))
        except CoreError:
            return None


def anchors_of(jobs: Sequence[int]) -> dict[int, tuple[int, ScaleAnchors | None]]:
    """From the stored findings: each job's last change and what its scale is followed against, by the last open step that has it on."""
    found: dict[int, tuple[int, ScaleAnchors | None]] = {}
    for pk, seq, findings in Job.objects.filter(pk__in=jobs).values_list("pk", "seq", "findings"):
        open_steps = [row["picture"].get("scale") for row in findings.get("steps", ()) if row["state"] == "open"]
        plain = next((scale for scale in reversed(open_steps) if scale), None)
        try:
            found[pk] = (seq, schema.load(ScaleAnchors, plain) if plain else None)
        except CoreError:
            found[pk] = (seq, None)
    return found
