"""What a careful technician's hands and eyes do on the bench, whatever the task: open ports, hold a display, follow a scale, write it down."""

from collections import deque
from collections.abc import Callable
from statistics import fmean

from yoshi_core.document.model import Job
from yoshi_core.findings.result import StepResult
from yoshi_core.frozen import dataclass
from yoshi_core.practice.bench import Bench
from yoshi_core.practice.entries import Desk, kind_of, read_off
from yoshi_core.practice.exercise import Exercise
from yoshi_core.practice.looking import look
from yoshi_core.practice.questions import from_displays
from yoshi_core.practice.shown import Shown

BY = "careful"
GAUGES_S, READ_S = 60.0, 20.0
STALLS_S, STALLED_KG = 45.0, 0.004
LONGEST_POUR_S = 2400.0


@dataclass(frozen=True)
class Played:
    """How a run ended: the bench as it stands, the job on paper, and what was said at the end.

    `ended`: proven, stopped for a reason, named (a cause is found), answered, or given up.
    """

    exercise: Exercise
    bench: Bench
    job: Job
    ended: str
    why: str


class Hands:
    """A bench, and a job on paper; `rows` readings were written down."""

    def __init__(self, exercise: Exercise) -> None:
        self.exercise, self.bench = exercise, Bench(exercise)
        self.desk = Desk(exercise, kind_of(exercise), BY)
        self.rows = 0

    def _do(self, do: str, what: str = "", to: str = "") -> None:
        self.bench.do(do, what, to)

    def _gauges(self) -> None:
        self._do("valve", "suction_port", "open")
        self._do("valve", "liquid_port", "open")
        self.bench.run(GAUGES_S)

    def _read(self) -> dict[str, str]:
        """The displays held for a while, and their mean: the last digit flickers."""
        read = read_off(self._held())
        if self.exercise.weather.mode == "heating":
            read.pop("suction_line", None)  # hot gas is in that line then; nothing is judged by it
        return read

    def _look(self, check: str) -> str:
        self._do("look", check)
        return look(check, self.bench.hidden)

    def _scale(self) -> float:
        """The scale held for a while, kg."""
        seen = []
        for _ in range(10):
            self.bench.run(1.0)
            if self.bench.shown.scale_kg is not None:
                seen.append(self.bench.shown.scale_kg)
        return fmean(seen)

    def _follow(self, there: Callable[[float, float], bool]) -> bool:
        """Watch the scale and how fast it moves, kg and kg/s, until it is there or does not move any more."""
        seen: deque[tuple[float, float]] = deque(maxlen=int(STALLS_S) + 1)
        for _ in range(int(LONGEST_POUR_S)):
            self.bench.run(1.0)
            reading = self.bench.shown.scale_kg
            if reading is None:
                continue
            seen.append((self.bench.time_s, reading))
            back = seen[max(len(seen) - 11, 0)]
            rate = (back[1] - reading) / max(self.bench.time_s - back[0], 1.0)
            if there(reading, rate):
                return True
            if len(seen) > STALLS_S and abs(seen[0][1] - reading) < STALLED_KG:
                return False
        return False

    def _ended(self, ended: str, result: StepResult | None = None) -> Played:
        why = result.verdict.headline.show() if result else ""
        return Played(self.exercise, self.bench, self.desk.job, ended, why)

    def _tell(self, question: str) -> None:
        """Answer from what the displays say; a cylinder that is asked about is put on the scale for it."""
        asked = next(one for one in self.exercise.asks if one.id == question)
        if asked.cylinder and self.bench.hooked != asked.cylinder:
            self._do("hook", "", asked.cylinder)
            self.bench.run(READ_S)  # the scale comes to rest
        said = from_displays(self.bench, asked, self._held())
        if said is not None:
            self._do("answer", question, said)

    def _held(self, seconds: float = READ_S) -> Shown:
        """The displays held for a while, and their mean."""
        seen = []
        for _ in range(int(seconds)):
            self.bench.run(1.0)
            seen.append(self.bench.shown)
        return _mean(seen)


def _mean(seen: list[Shown]) -> Shown:
    def mean(name: str) -> float | None:
        known = [value for one in seen if (value := getattr(one, name)) is not None]
        return fmean(known) if known else None

    names = [name for name in vars(seen[0]) if name != "time_s"]
    return Shown(seen[-1].time_s, **{name: mean(name) for name in names})
