"""A vacuum of two rooms: the gauge in a small one near the pump, a larger one behind a narrow way; a burst of gas and a leak.

Shares nothing with what judges: two balances of gas stepped through time. What the small room gives off when it is shut off
stands as a peak that comes down into the large one, and while it comes down it hides as much of a leak as it falls by. Read by a
log, or typed: a few times, in whole microns, by some gauges in tens.
"""

import math
import random

from yoshi_core.tight_and_dry.evacuation import Limits
from yoshi_core.units.quantities import MICRON_PA

Row = tuple[float, float]


def moments(dice: random.Random, way: str, watch_s: float, looks: tuple[float, ...]) -> list[float]:
    """When it is read: logged every so often, or typed two to four times in the first watch and twice before each later look."""
    if way == "logged":
        every = dice.choice((5.0, 15.0, 30.0, 60.0, 120.0)) * max(1.0, watch_s / 600.0) ** 0.8
        return [n * every for n in range(int(watch_s * looks[-1] / every) + 1)]
    typed = {0.0, *(watch_s * dice.uniform(0.15, 0.98) for _ in range(dice.randint(2, 4)))}
    for look in looks:
        typed |= {watch_s * look, *(watch_s * (look - dice.uniform(0.02, 0.4)) for _ in range(2 if look > 1.0 else 0))}
    return sorted(typed)


def rows(dice: random.Random, volume_m3: float, limits: Limits, times: float, when: list[float], *, typed: bool) -> tuple[Row, ...]:
    """What the gauge shows in Pa at these seconds, with a leak of `times` the limit, most often into the far room."""
    small = volume_m3 * dice.uniform(0.05, 0.3)
    large = volume_m3 - small
    falls_s = dice.uniform(120.0, 360.0) * (max(1.0, limits.hold_s / 600.0) if dice.random() < 0.3 else 1.0)
    way = small * large / volume_m3 / falls_s
    leak, far = times * limits.leak_pa_m3_s, dice.random() < 0.7
    near_pa = limits.target_pa * dice.uniform(0.35, 0.9)
    far_pa = near_pa * dice.uniform(1.0, 1.1)  # gas came out of it through the small room: it stands higher
    room = limits.stays_pa - near_pa
    burst, burst_s = dice.uniform(0.0, 1.5) * room, dice.uniform(8.0, 40.0)
    dry, dry_s = dice.uniform(0.0, 0.2) * room, dice.uniform(0.1, 0.4) * limits.hold_s
    step = dice.choice((1.0, 1.0, 10.0)) if typed else 1.0
    scale, scatter, now, shown = 1.0 + dice.gauss(0.0, 0.01), dice.uniform(0.2, 1.0), 0.0, []
    for second in when:
        while now < second - 1e-9:
            part = min(2.0 if now < 1800.0 else max(2.0, falls_s / 20.0), second - now)
            flow = way * (far_pa - near_pa)
            near_pa += (small * burst / burst_s * math.exp(-now / burst_s) + (0.0 if far else leak) + flow) * part / small
            far_pa += (large * dry / dry_s * math.exp(-now / dry_s) + (leak if far else 0.0) - flow) * part / large
            now += part
        read = near_pa * scale + dice.gauss(0.0, 1.0) * scatter * max(3.0 * MICRON_PA, 0.006 * near_pa)
        shown.append((second, max(round(read / MICRON_PA / step), 1) * step * MICRON_PA))
    return tuple(shown)
