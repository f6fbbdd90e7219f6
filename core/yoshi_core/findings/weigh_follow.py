"""A live scale followed to its marks: what is in the system now, how fast it goes, how long to the next mark.

Readings are gross, kg by seconds, of the cylinder the marks belong to. A scale that was bumped, zeroed or lost its
cylinder in the middle is noticed by a step no flow can make; counting goes on from a fresh reading.
"""

from collections.abc import Sequence
from math import fsum, sqrt
from statistics import median
from typing import Literal

from yoshi_core.errors import InvalidInput
from yoshi_core.findings.pictures import Mark, ScaleAnchors
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, sentence
from yoshi_core.tight_and_dry.trace import Row
from yoshi_core.units.display import Amount

FLOW_S, LEAST_FLOW_S = 10.0, 3.0
STILL_S = 20.0
NEAR_S = 10.0
FASTEST_KG_S, FASTEST_SHARE_S = 0.06, 0.002
LAST_READINGS, SPARSE_S = 3, 240.0
SETTLES_S, SETTLED_S = 2.0, 6.0
GONE_SHARE = 0.6
FOLLOWS_PA, FOLLOWS_KG = 150e3, 0.25

FAR_KG = 0.5
State = Literal["mount", "ready", "flowing", "near", "close_now", "past", "stalled", "still", "jumped", "gone"]


@dataclass(frozen=True)
class Following:
    """Where the weigh-in stands at the last reading. Masses in kg, ± as a limit; flow in kg/s, `seconds` to the next mark.

    `last_good_kg` is the last gross reading before a jump. `lead_kg` is what still comes while a hand shuts the valve.
    """

    state: State
    text: Message
    draw: str
    gross_kg: float
    inside_kg: float
    limit_kg: float
    mark: str
    mark_kg: float
    to_mark_kg: float
    flow_kg_s: float | None = None
    seconds: float | None = None
    lead_kg: float = 0.0
    last_good_kg: float | None = None
    warning: Message | None = None


def follow(anchors: ScaleAnchors, recent: Sequence[Row], limit_kg: float, pressures_pa: tuple[float, float] | None = None) -> Following:
    """Follow the last readings `(second, gross kg)`, in order. `pressures_pa` are suction and liquid, where gauges are live.

    Raises `InvalidInput` without a reading or without a mark to close at.
    """
    close = next((mark for mark in anchors.marks if mark.id == "close"), None)
    if not recent or close is None:
        raise InvalidInput("A scale is followed with a reading and a mark to close at.")
    gross = recent[-1][1]
    belongs = [_belongs(kg, anchors, close, limit_kg) for _, kg in recent]
    if not any(belongs):
        return _other_on_the_scale(anchors, gross, limit_kg, close)
    if belongs[-1]:
        recent = [row for row, own in zip(recent, belongs, strict=True) if own]
    else:
        recent = recent[belongs.index(True) :]
    broken = _jump(recent, limit_kg)
    if broken is not None:
        return _told_of_a_jump(anchors, recent, broken, limit_kg, close)
    flow = _flow_kg_s(recent, limit_kg)
    mark = _next_mark(anchors.marks, gross, close)
    inside = _inside(anchors, gross)
    to_mark = max(gross - mark.gross_kg, 0.0)
    seconds = to_mark / flow if flow else None
    lead = (flow or 0.0) * anchors.reaction_s
    state = _state(anchors, recent, gross, flow, seconds, lead, close, limit_kg)
    return Following(
        state,
        _text(state, anchors, mark, gross, inside),
        anchors.draw,
        gross,
        inside,
        limit_kg * sqrt(2.0),
        mark.id,
        mark.gross_kg,
        to_mark,
        flow,
        seconds,
        lead,
        None,
        _restriction(anchors, inside, pressures_pa),
    )


def _belongs(gross: float, anchors: ScaleAnchors, close: Mark, limit_kg: float) -> bool:
    """Whether this cylinder can read so much; another one, or none, reads something else."""
    return close.gross_kg - FAR_KG <= gross <= anchors.start_kg + _room(limit_kg)


def _room(limit_kg: float) -> float:
    return 3.0 * limit_kg + 0.01


def _other_on_the_scale(anchors: ScaleAnchors, gross: float, limit_kg: float, close: Mark) -> Following:
    text = sentence("The scale reads {now}, and this cylinder read {start}. Put it on, or correct its first reading.")
    told = Message(text, {"now": Amount(gross, "mass"), "start": Amount(anchors.start_kg, "mass")})
    limit = limit_kg * sqrt(2.0)
    return Following(
        "mount", told, anchors.draw, gross, anchors.before_kg, limit, close.id, close.gross_kg, anchors.start_kg - close.gross_kg
    )


def _inside(anchors: ScaleAnchors, gross: float) -> float:
    return anchors.before_kg + max(0.0, anchors.start_kg - anchors.hose_kg - gross)


def _jump(recent: Sequence[Row], limit_kg: float) -> int | None:
    """The last row before a step that no flow makes and that stayed; a knock that rang out is none."""
    room = _room(limit_kg)
    fastest = max(FASTEST_KG_S, FASTEST_SHARE_S * recent[0][1])
    for n in range(len(recent) - 1, 0, -1):
        (before_s, before), (after_s, after) = recent[n - 1], recent[n]
        moved = after - before
        if -(fastest * (after_s - before_s) + room) <= moved <= room:
            continue
        base = median(kg for _, kg in recent[:n][-LAST_READINGS:])
        until_s, settled = _settled(recent[n:], before_s)
        if settled - base > room or settled - base < -(fastest * (until_s - before_s) + room):
            return n - 1
    return None


def _settled(after: Sequence[Row], jumped_s: float) -> Row:
    """Where it came to rest some seconds after a step, else where it is now."""
    rows = [row for row in after if SETTLES_S < row[0] - jumped_s <= SETTLED_S] or list(after[-1:])
    return rows[-1][0], median(kg for _, kg in rows)


def _flow_kg_s(recent: Sequence[Row], limit_kg: float) -> float | None:
    """What leaves the cylinder in kg/s over the last seconds; zero where it stands still, None while it cannot be told."""
    last = recent[-1][0]
    rows = [row for row in recent if last - row[0] <= FLOW_S]
    if len(rows) < LAST_READINGS:
        rows = [row for row in recent[-LAST_READINGS:] if last - row[0] <= SPARSE_S]
    if len(rows) < LAST_READINGS or rows[-1][0] - rows[0][0] < LEAST_FLOW_S:
        return None
    middle, mean = fsum(s for s, _ in rows) / len(rows), fsum(kg for _, kg in rows) / len(rows)
    spread = fsum((s - middle) ** 2 for s, _ in rows)
    slope = fsum((s - middle) * (kg - mean) for s, kg in rows) / spread
    moved = -slope * (rows[-1][0] - rows[0][0])
    few = len(rows) < 2 * LAST_READINGS
    return max(-slope, 0.0) if moved > limit_kg * (1.5 if few else 0.5) else 0.0


def _next_mark(marks: Sequence[Mark], gross: float, close: Mark) -> Mark:
    """The next one to act on; where liquid stops by itself is none."""
    return next((mark for mark in marks if mark.id == "slow" and gross > mark.gross_kg), close)


def _state(
    anchors: ScaleAnchors,
    recent: Sequence[Row],
    gross: float,
    flow: float | None,
    seconds: float | None,
    lead: float,
    close: Mark,
    limit_kg: float,
) -> State:
    drawn = anchors.start_kg - gross
    if gross < close.gross_kg - limit_kg:
        return "past"
    if gross - lead <= close.gross_kg + 1e-9:
        return "close_now"
    if drawn <= 2.0 * limit_kg:
        return "ready"
    still = flow == 0.0 and recent[-1][0] - recent[0][0] >= STILL_S and _spread(recent) <= 2.0 * limit_kg
    if still:
        stall = next((mark for mark in anchors.marks if mark.id == "stall"), None)
        expected = stall is not None and stall.high_kg is not None and gross <= stall.high_kg + limit_kg
        return "stalled" if anchors.off and expected else "still"
    return "near" if seconds is not None and seconds <= NEAR_S + anchors.reaction_s else "flowing"


def _spread(recent: Sequence[Row]) -> float:
    last = recent[-1][0]
    values = [kg for second, kg in recent if last - second <= STILL_S]
    return max(values) - min(values)


def _text(state: State, anchors: ScaleAnchors, mark: Mark, gross: float, inside: float) -> Message:
    amounts = {
        "mark": Amount(mark.gross_kg, "mass"),
        "inside": Amount(inside, "mass"),
        "over": Amount(max(inside - anchors.total_kg, 0.0), "mass"),
        "net": Amount(max(gross - anchors.tare_kg, 0.0), "mass"),
        "left": Amount(max(anchors.total_kg - inside, 0.0), "mass"),
    }
    texts = {
        "mount": "",
        "ready": sentence("Open the valve. The first mark is {mark}."),
        "flowing": sentence("Slow down at {mark}.") if mark.id == "slow" else sentence("Close the valve at {mark}."),
        "near": sentence("Slow down: {mark} is next.") if mark.id == "slow" else sentence("Hand on the valve: close at {mark}."),
        "close_now": sentence("Close the valve now."),
        "past": sentence("Past the mark by {over}: close the valve. Take the surplus out before it runs."),
        "stalled": sentence(
            "It has stopped where it was expected, {inside} in: start the unit and throttle the other {left} in. Warm water helps."
        ),
        "still": sentence(
            "Nothing flows, {inside} are in. Is the valve open? The cylinder is down to {net}; cold, it has no pressure. Warm water helps."
        ),
        "jumped": "",
        "gone": "",
    }
    return Message(texts[state], amounts)


def _told_of_a_jump(anchors: ScaleAnchors, recent: Sequence[Row], at: int, limit_kg: float, close: Mark) -> Following:
    good = median(kg for _, kg in recent[: at + 1][-LAST_READINGS:])
    now = recent[-1][1]
    inside = _inside(anchors, good)
    gone = now < GONE_SHARE * max(anchors.tare_kg, 0.5 * good)
    amounts = {"good": Amount(good, "mass"), "now": Amount(now, "mass"), "inside": Amount(inside, "mass")}
    told = (
        sentence(
            "The scale fell from {good} to {now}: zeroed, or the cylinder is off it. {inside} were in. Shut the valve, put it back, go on from a fresh reading."
        )
        if gone
        else sentence(
            "The scale jumped from {good} to {now}: bumped, or something lies on it. {inside} were in. Shut the valve and go on from a fresh reading."
        )
    )
    state: State = "gone" if gone else "jumped"
    to_mark = max(good - close.gross_kg, 0.0)
    limit = limit_kg * sqrt(2.0)
    return Following(state, Message(told, amounts), anchors.draw, now, inside, limit, close.id, close.gross_kg, to_mark, last_good_kg=good)


def _restriction(anchors: ScaleAnchors, inside: float, pressures_pa: tuple[float, float] | None) -> Message | None:
    """The high side fills and the low side does not follow, the unit off."""
    if pressures_pa is None or not anchors.off or inside - anchors.before_kg < FOLLOWS_KG:
        return None
    suction, liquid = pressures_pa
    if liquid - suction <= FOLLOWS_PA:
        return None
    amounts = {"low": Amount(suction, "gauge_pressure"), "high": Amount(liquid, "gauge_pressure")}
    text = sentence(
        "The high side stands at {high} and the low side does not follow, {low}: a restriction, or a valve shut. Look before it is closed up."
    )
    return Message(text, amounts)
