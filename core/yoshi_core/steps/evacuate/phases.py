"""What was done to a system under vacuum, as phases: pulls, isolations and rests under nitrogen."""

from collections.abc import Sequence
from datetime import datetime
from typing import Literal

from yoshi_core.findings.pictures import CauseRow
from yoshi_core.frozen import dataclass
from yoshi_core.profile.fixed import fixed
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.evacuate.sheet import EvacuateSheet
from yoshi_core.tight_and_dry.evacuation import DecayVerdict
from yoshi_core.tight_and_dry.pull_down import Forecast
from yoshi_core.tight_and_dry.trace import Row

Doing = Literal["pull", "isolated", "nitrogen", "sweep"]
AT_ONCE_S, JUST_BEFORE_S = fixed("decay.at_once"), fixed("decay.just_before")
STARTS: dict[str, Doing] = {"pump": "pull", "isolated": "isolated", "nitrogen": "nitrogen", "sweep": "sweep"}


@dataclass(frozen=True)
class Phase:
    """From one event to the next: seconds after the first event, and the readings in between. `ends_s` is None for the last."""

    doing: Doing
    starts_at: datetime
    starts_s: float
    ends_s: float | None
    log: tuple[Row, ...]

    @property
    def lowest(self) -> float | None:
        """The lowest pressure read in it, Pa; None without a reading."""
        return min((value for _, value in self.log), default=None)


@dataclass(frozen=True)
class Watched:
    """Everything the log gave: phases, the decay's verdict and the pull's forecast, None where there is none yet."""

    phases: tuple[Phase, ...]
    decay: DecayVerdict | None
    forecast: Forecast | None
    causes: tuple[CauseRow, ...]


def events(sheet: EvacuateSheet, notes: Notes, context: StepContext) -> list[tuple[datetime, str]]:
    """Events in order of time; one without a time is asked for."""
    found = []
    for key, row in sheet.events.items():
        if row.do is None:
            continue
        if notes.need(context.path("events", key, "at"), "when that was done", row.at) and row.at is not None:
            found.append((row.at, row.do))
    return sorted(found)


def phases(done: Sequence[tuple[datetime, str]], log: Sequence[Row]) -> tuple[Phase, ...]:
    """Phases from the first event on; `log` counts its seconds from there."""
    if not done:
        return ()
    origin = done[0][0]
    starts = [(at, STARTS[what]) for at, what in done if what in STARTS]
    found: list[Phase] = []
    for n, (at, doing) in enumerate(starts):
        begins = (at - origin).total_seconds()
        ends = (starts[n + 1][0] - origin).total_seconds() if n + 1 < len(starts) else None
        part = tuple(row for row in log if begins - 1.0 <= row[0] and (ends is None or row[0] <= ends))
        if doing == "isolated" and found and found[-1].doing == "pull":
            part = _as_shut(found[-1].log, begins, part)
        found.append(Phase(doing, at, begins, ends, part))
    return tuple(found)


def _as_shut(pulled: tuple[Row, ...], begins_s: float, log: tuple[Row, ...]) -> tuple[Row, ...]:
    """A rise with the pump's last reading as its start, where nobody read it as the valve was shut.

    What stands there just after is a peak and no level; the pump's own reading is lower than the system is, so a rise from it is never too flat.
    """
    if not pulled or not log or log[0][0] <= begins_s + AT_ONCE_S or begins_s - pulled[-1][0] > JUST_BEFORE_S:
        return log
    return ((begins_s, pulled[-1][1]), *log)


def ballast_open(done: Sequence[tuple[datetime, str]]) -> bool | None:
    """Whether the gas ballast stands open; None where nothing was said."""
    said = [what for _, what in done if what in {"ballast_open", "ballast_shut"}]
    return said[-1] == "ballast_open" if said else None
