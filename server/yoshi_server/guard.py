"""The server's last guard in time: a request that computes for longer than any should is broken off, so that its worker is free again.

Every computation on a request is bounded by counted steps and answers long before; this is for the one nobody thought of. The
exception is put into the worker's thread from outside, and the transaction around it goes back.
"""

import ctypes
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

LIMIT_S = 20.0
LOOK_S = 0.5


class TookTooLong(BaseException):
    """Broken off by the guard; nothing on the way out may take it for an error of its own."""


class Guard:
    """One thread that looks at all requests under way."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._until: dict[int, float] = {}
        self._thread: threading.Thread | None = None

    @contextmanager
    def watching(self, limit_s: float) -> Iterator[None]:
        """While this is open, the thread is broken off after so many seconds."""
        me = threading.get_ident()
        with self._lock:
            self._until[me] = time.monotonic() + limit_s
            if self._thread is None or not self._thread.is_alive():
                self._thread = threading.Thread(target=self._look, name="guard", daemon=True)
                self._thread.start()
        try:
            yield
        finally:
            with self._lock:
                if self._until.pop(me, None) is None:
                    ctypes.pythonapi.PyThreadState_SetAsyncExc(ctypes.c_ulong(me), None)  # told just now, not yet raised

    def _look(self) -> None:
        while True:
            time.sleep(LOOK_S)
            now = time.monotonic()
            with self._lock:
                for thread in [thread for thread, until in self._until.items() if until < now]:
                    del self._until[thread]
                    ctypes.pythonapi.PyThreadState_SetAsyncExc(ctypes.c_ulong(thread), ctypes.py_object(TookTooLong))


guard = Guard()
