"""How a step says what it can show: its claim without anybody's word for it, from what the steps handed on of the same work."""

from dataclasses import dataclass, field
from datetime import datetime
from typing import Literal

from yoshi_core.document.model import StepRecord
from yoshi_core.findings.claims import Evidence
from yoshi_core.findings.verdict import Missing
from yoshi_core.message import Label, Message, headline
from yoshi_core.steps.contract import StepContext

Found = Literal["shown", "contradicted", "not_yet", "not_in_question"]


@dataclass
class Told:
    """Collects what speaks for and against a claim, and what is missing; `say` gives its standing and its sentence."""

    standing: Found = "not_yet"
    words: Message = field(default_factory=lambda: Message(""))
    shows: list[Evidence] = field(default_factory=list)
    against: list[Evidence] = field(default_factory=list)
    missing: list[Missing] = field(default_factory=list)
    mode: str = ""
    awaits: str = ""

    def pro(self, step: str, message: Message) -> None:
        """Something that points to it."""
        self.shows.append(Evidence(message, step))

    def con(self, step: str, message: Message) -> None:
        """Something that points away from it."""
        self.against.append(Evidence(message, step))

    def lacks(self, path: str, label: Label) -> None:
        """What would show it, and the field it belongs in."""
        self.missing.append(Missing(path, label))

    def later(self, step: str, context: StepContext) -> None:
        """A step still to come can show it: until it is settled nobody has to answer for it."""
        events = context.job.steps.get(step, StepRecord()).events
        if not events or events[-1].kind == "reopened":
            self.awaits = step

    def say(self, standing: Found, words: Message) -> "Told":
        """With its standing and its sentence."""
        self.standing, self.words = standing, words
        return self


def opened(context: StepContext) -> bool:
    """Whether the circuit was opened in this job, by what was done and read: a step being there opens nothing."""
    handed = context.handed
    repaired, held, pumped, recovered = handed.repair, handed.pressure_hold, handed.evacuate, handed.recover
    return bool(
        (repaired is not None and repaired.done)
        or (held is not None and held.filled)
        or (pumped is not None and pumped.begun)
        or (recovered is not None and recovered.finished)
        or handed.weigh_in.state in {"empty", "precharged"}
    )


def lost(context: StepContext) -> tuple[str, Message] | None:
    """What says that the circuit had lost charge, with its step; None where nothing does."""
    recovered, found, searched = context.handed.recover, context.handed.as_found, context.handed.leak_search
    if recovered is not None and recovered.short is not None:
        return "recover", recovered.short
    if found is not None and found.at_air and context.handed.weigh_in.state != "precharged":
        return "as_found", Message("It stood at the air's own pressure: its charge was gone.")
    if found is not None and found.standing == "below":
        return "as_found", Message("Standing, it held no liquid: most of its charge was gone.")
    if searched is not None and searched.hits:
        return "leak_search", headline("It leaked at {places}.", places=searched.hits)
    return None


def reopened(context: StepContext, read_at: datetime | None) -> bool:
    """Whether the circuit was opened again after a reading first typed at that moment: it shows nothing of what is there now."""
    repaired = context.handed.repair
    return repaired is not None and read_at is not None and any(moment > read_at for moment in repaired.again(read_at))


def still_hit(context: StepContext) -> tuple[str, ...]:
    """Places where it leaks and nothing was mended since."""
    searched, repaired = context.handed.leak_search, context.handed.repair
    if searched is None or not searched.leaking:
        return ()
    if repaired is None or not repaired.done:
        return searched.leaking
    later = searched.last_hit_at is not None and repaired.typed and searched.last_hit_at > max(repaired.typed)
    return searched.leaking if later else ()
