"""Tight: what Pressure hold can show with the tests beside it."""

from yoshi_core.message import Message, headline, joined, sentence
from yoshi_core.steps.claiming import Told, lost, opened, reopened, still_hit
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.pressure_hold.handed import Held

CLEAN = Message("Clean at every joint made.")


def claim(context: StepContext) -> Told:
    """Nothing lost between two readings, and a sensitive test clean or a decay that passed. Most holds are blind to a small leak: it is said, and fails nothing."""
    told = Told()
    held, gone = context.handed.pressure_hold, lost(context)
    if held is None or (not opened(context) and gone is None):
        return told.say("not_in_question", Message("Nothing was opened and no charge was lost."))
    before = reopened(context, held.read_at)
    if not before:
        _against(held, told, context)
    _unmended(gone, told, context)
    if told.against:
        return told.say("contradicted", told.against[0].message)
    if before:
        return _not_yet(told, Message("It was opened again after the hold: hold it again."), context)
    return _shown(held, gone, told, context)


def _against(held: Held, told: Told, context: StepContext) -> None:
    if held.drops and held.words is not None:
        told.con(context.step, joined(held.words, Message("It leaks.")))
    if held.joints == "leaks":
        told.con(context.step, Message("A joint made here leaks."))


def _unmended(gone: tuple[str, Message] | None, told: Told, context: StepContext) -> None:
    """A leak found, or a charge lost, and nothing at all mended since."""
    hits, repaired = still_hit(context), context.handed.repair
    if hits:
        told.con("leak_search", headline("It leaks at {places}, and nothing was mended since.", places=hits))
    elif gone is not None and (repaired is None or not repaired.done):
        told.con(gone[0], joined(gone[1], Message("Nothing was mended since.")))


def _shown(held: Held, gone: tuple[str, Message] | None, told: Told, context: StepContext) -> Told:
    pumped, searched = context.handed.evacuate, context.handed.leak_search
    decay = pumped is not None and pumped.proven and not reopened(context, pumped.read_at)
    if held.kept and held.words is not None:
        told.pro(context.step, held.words)
    if held.joints == "clean":
        told.pro(context.step, CLEAN)
    if decay and pumped is not None and pumped.words is not None:
        told.pro("evacuate", pumped.words)
    explained = gone is None or bool(searched is not None and searched.hits)
    said = [evidence.message for evidence in told.shows]
    if not held.kept:
        text = (
            sentence("It was filled, and the pressure not read twice.")
            if held.filled and held.words is None
            else sentence("Not held under nitrogen.")
        )
        unexplained = () if explained or gone is None else (gone[1], Message("No place was found that explains it."))
        return _not_yet(told, joined(held.words or Message(text), *unexplained), context)
    blind = [] if held.unseen is None else [held.unseen]
    if held.joints != "clean" and not decay:
        told.later("evacuate", context)
        return _not_yet(told, joined(*said, Message("No bubbles or detector at the joints."), *blind), context)
    if not explained and gone is not None:
        return _not_yet(told, joined(*said, gone[1], Message("No place was found that explains it."), *blind), context)
    return told.say("shown", joined(*said, *blind))


def _not_yet(told: Told, words: Message, context: StepContext) -> Told:
    held = context.handed.pressure_hold
    if held is None or not held.kept:
        told.lacks(context.path("readings"), "two readings of the pressure")
    if held is None or held.joints != "clean":
        told.lacks(context.path("bubbles"), "bubbles or a detector at every joint made")
    return told.say("not_yet", words)
