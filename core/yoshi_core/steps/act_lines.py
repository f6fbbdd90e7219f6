"""What acts enter into the account: refrigerant in or out beside the sheets, weighed, told, or with nobody weighing it."""

from collections.abc import Iterator
from dataclasses import replace

from yoshi_core.account.lines import SOURCES, How, Kind, Line, Order
from yoshi_core.account.weighing import Weighing
from yoshi_core.charge.total import LIMIT_TO_STANDARD
from yoshi_core.document.acts import Act
from yoshi_core.document.model import Job
from yoshi_core.document.sheets import limit_of
from yoshi_core.steps.entered import visit_of
from yoshi_core.steps.sections import REFRIGERANT, moment

ACTS = "acts"
KINDS: dict[str, Kind] = {
    "in": "added", "out": "taken", "lost": "lost", "tracer": "added", "found": "opening", "let_back": "let_back", "shut": "shut_in",
}  # fmt: skip
SAYS_NOTHING = frozenset({"at_zero", "passes", "freed"})  # of a part, not of the charge
NOT_NAMED = "cylinder not named:"  # a place of the book that is no cylinder of it
LAST = 1000  # acts stand behind what the steps entered at the same moment


def act_lines(job: Job, refrigerant: str, scale_limit_kg: float) -> Iterator[Line]:
    """A line for each act that is more than planned; what nobody weighed has a floor and no ceiling."""
    shared = _shared_kg(job)
    for row, (key, act) in enumerate(job.acts.items()):
        if act.kind is None or act.reserved or not (act.done or act.mass is not None or act_kg(act) is not None):
            continue  # chosen and not written down yet
        if act.kind in SAYS_NOTHING or (act.kind == "shut" and act.medium not in REFRIGERANT):
            continue
        line = _line(job, row, key, act, refrigerant, scale_limit_kg)
        if key in shared and line.weighing is None and act.mass is None:
            most = shared[key] if line.high_kg is None else min(line.high_kg, shared[key])
            line = replace(line, high_kg=most, known="weighed" if line.known == "not_said" else line.known)
        yield line
        if act.empties and act.kind in {"out", "lost"}:
            nothing = replace(line, id=f"{job.id}/{ACTS}/{key}/2", kind="emptied", low_kg=0.0, high_kg=0.0, known="measured", u_kg=0.0)
            yield replace(nothing, weighing=None, source="", destination="")


def act_kg(act: Act) -> float | None:
    """What went in or came out by the scale, in kg; None where it was not weighed twice."""
    if act.gross_before is None or act.gross_after is None:
        return None
    fell = act.gross_before.value - act.gross_after.value
    return -fell if act.kind == "out" else fell


def _shared_kg(job: Job) -> dict[str, float]:
    """The most that went with each act nobody weighed by itself: what its cylinder fell by from one reading to the next, over all acts between.

    None of them gets a mass by it: which had how much of it nobody saw.
    """
    most: dict[str, float] = {}
    since: dict[str, tuple[bool, float, list[str]]] = {}
    for key in sorted(job.acts, key=lambda key: moment(job, key)):
        act = job.acts[key]
        if act.kind not in {"in", "out", "tracer"} or act.reserved or not act.cylinder:
            continue
        fills = act.kind == "out"
        if act.cylinder in since and since[act.cylinder][0] != fills:
            del since[act.cylinder]  # it went the other way meanwhile: what it fell by bounds nothing
        if act_kg(act) is not None:
            continue
        if act.gross_before is not None:
            since[act.cylinder] = (fills, act.gross_before.value, [])
        if act.cylinder not in since:
            continue
        _, before, keys = since[act.cylinder]
        keys.append(key)
        if act.gross_after is not None:
            fell = (act.gross_after.value - before) * (1.0 if fills else -1.0)
            most |= dict.fromkeys(keys, fell) if fell >= 0.0 else {}
            del since[act.cylinder]
    return most


def _line(job: Job, row: int, key: str, act: Act, refrigerant: str, scale_limit_kg: float) -> Line:
    path = f"/acts/{key}"
    begun = job.begun.get(path)
    weighed = act_kg(act)
    low, high, known = _mass(act, weighed)
    circuit, place = f"circuit:{job.circuit.id or job.id}", f"cylinder:{act.cylinder}" if act.cylinder else NOT_NAMED
    if act.circuit:
        place = f"circuit:{act.circuit}"
    places = {"in": (place, circuit), "tracer": (place, circuit), "out": (circuit, place), "lost": (circuit, "air")}.get(
        act.kind or "", ("", "")
    )
    limit = scale_limit_kg if act.mass is None else limit_of(act.mass, 0.0)
    return Line(
        id=f"{job.id}/{ACTS}/{key}/1",
        kind=KINDS[act.kind or "in"],
        step=ACTS,
        order=Order(visit_of(job, begun.visit if begun else "", act.at), LAST, 0, row),
        low_kg=low,
        high_kg=high,
        known=known,
        refrigerant=refrigerant,
        said_at=act.at,
        typed_at=begun.at if begun else None,
        u_kg=0.0 if weighed is not None or act.mass is None else LIMIT_TO_STANDARD * limit,
        weighing=_weighing(key, act, weighed, scale_limit_kg),
        origin=path,
        source=places[0],
        destination=places[1],
        before=f"/acts/{act.before}" if act.before in job.acts else act.before or "",
        tracer=act.kind == "tracer",
        provenance="weighed" if weighed is not None else act.mass.source if act.mass else "",
    )


def _mass(act: Act, weighed: float | None) -> tuple[float, float | None, How]:
    """Floor and ceiling in kg, and how it is known."""
    if weighed is not None:
        return max(weighed, 0.0), max(weighed, 0.0), "weighed"
    most = None if act.at_most is None else act.at_most.value
    if act.kind in {"let_back", "shut"}:
        return 0.0, 0.0, "measured"
    if act.mass is None:
        return 0.0, most, "not_said" if most is None else SOURCES[act.at_most.source if act.at_most else "typed"]
    if act.kind == "found" or act.mass.source in {"told", "assumed"}:
        return (act.mass.value, act.mass.value, SOURCES[act.mass.source]) if most is None else (0.0, most, SOURCES[act.mass.source])
    return act.mass.value, act.mass.value if most is None else most, SOURCES[act.mass.source]


def _weighing(key: str, act: Act, weighed: float | None, scale_limit_kg: float) -> Weighing | None:
    if weighed is None or act.gross_before is None or act.gross_after is None or act.kind == "found":
        return None
    before, after = (LIMIT_TO_STANDARD * limit_of(entry, scale_limit_kg) for entry in (act.gross_before, act.gross_after))
    return Weighing(act.cylinder or key, act.gross_before.value, act.gross_after.value, before, after)
