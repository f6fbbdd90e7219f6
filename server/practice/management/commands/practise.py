"""`practise`: let the time of practice runs run, until told to end."""

import logging
import signal
import threading
from typing import Any

from django.core.management.base import BaseCommand
from django.db import DatabaseError, close_old_connections

from practice.running import Runner
from tasks.queue import name_of_process

log = logging.getLogger("yoshi.practice")
TICK_S, IDLE_S = 0.25, 1.0


class Command(BaseCommand):
    help = "Let the time of practice runs run, until told to end."

    def handle(self, *args: Any, **options: Any) -> None:
        ends = threading.Event()
        for number in (signal.SIGTERM, signal.SIGINT):
            signal.signal(number, lambda *_: ends.set())
        runner, going = Runner(name_of_process()), 0
        while not ends.is_set():
            close_old_connections()
            try:
                going = runner.round()
            except DatabaseError:
                log.exception("The database does not answer; practice waits.")
            ends.wait(TICK_S if going else IDLE_S)
