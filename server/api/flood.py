"""Keeping one that floods from harming the others: so much at once, so much a second, then a refusal."""

import threading
import time
from collections import OrderedDict

from ninja.errors import Throttled

MOST_KEYS = 10_000


class Bucket:
    """A bucket for each key that holds `burst` and fills by `a_second`; in this process only."""

    def __init__(self, burst: float, a_second: float) -> None:
        self.burst, self.a_second = burst, a_second
        self._left: OrderedDict[str, tuple[float, float]] = OrderedDict()
        self._lock = threading.Lock()

    def spend(self, key: str, cost: float) -> None:
        """Take from the bucket. Raises `Throttled` where it does not hold as much."""
        now = time.monotonic()
        with self._lock:
            left, at = self._left.pop(key, (self.burst, now))
            left = min(self.burst, left + (now - at) * self.a_second)
            enough = cost <= left
            self._left[key] = (left - cost if enough else left, now)
            while len(self._left) > MOST_KEYS:
                self._left.popitem(last=False)
        if not enough:
            raise Throttled(wait=int(cost / self.a_second) + 1)
