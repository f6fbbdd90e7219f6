"""A job before anybody has typed anything."""

import pytest

from tests.make import NOW
from yoshi_core.document.model import Circuit, JobKind, ProfileEvent, Run, Visit
from yoshi_core.job.new_job import new_job
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import registry
from yoshi_core.steps.plan_change.sheet import PlanChangeSheet
from yoshi_core.steps.registry import STEPS
from yoshi_core.steps.weigh_in.sheet import WeighInSheet

CIRCUIT, PROFILE = Circuit(id="A"), Profile(revision=3)
CHANGE = PlanChangeSheet(refrigerant="R-407C")


@pytest.mark.parametrize("kind", ["charge", "service", "quick", "retrofit"])
@pytest.mark.parametrize("change", [None, CHANGE])
def test_one_empty_run_of_every_step_in_the_first_visit(kind: JobKind, change: PlanChangeSheet | None) -> None:
    found = new_job("j1", kind, "Control room", CIRCUIT, PROFILE, "M. Orrin", NOW, change)
    assert (found.id, found.kind, found.title, found.circuit) == ("j1", kind, "Control room", CIRCUIT)
    assert found.visits == (Visit("v1", NOW, ("M. Orrin",)),)
    assert found.profile_events == (ProfileEvent(PROFILE, NOW, "M. Orrin", "job created"),)
    order = registry.order("charge" if kind == "quick" else kind)
    assert list(found.steps) == list(order)
    said = {"weigh_in": WeighInSheet(system_state="empty")} if kind in {"quick", "retrofit"} else {}
    if change is not None and kind == "retrofit":
        said["plan_change"] = change  # type: ignore[assignment]
    for step in order:
        assert found.steps[step].runs == (Run(said.get(step, STEPS[step].sheet()), visit="v1", started_at=NOW),)
        assert found.steps[step].events == ()
