"""Who wants to know at once that a job got readings: listeners of this process, told after the commit.

A listener only saves waiting; whoever reads must still find the readings of other processes by asking.
"""

from collections.abc import Callable

Listener = Callable[[int], None]
_listeners: list[Listener] = []


def listen(listener: Listener) -> None:
    """Call `listener` with the job's key after every batch that was written, in the thread that wrote it."""
    _listeners.append(listener)


def announce(job_id: int) -> None:
    for listener in _listeners:
        listener(job_id)
