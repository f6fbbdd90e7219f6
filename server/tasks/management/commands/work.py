"""`work`: do what waits in the queue, and what has to be done every hour."""

import logging
import signal
import threading
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand
from django.db import DatabaseError, close_old_connections
from django.utils.module_loading import import_string

from tasks.queue import name_of_process, run_all

log = logging.getLogger("yoshi.tasks")
PAUSE_S, EVERY_S = 1.0, 3600.0


class Command(BaseCommand):
    help = "Work on the tasks that wait, until told to end."

    def handle(self, *args: Any, **options: Any) -> None:
        ends = threading.Event()
        for number in (signal.SIGTERM, signal.SIGINT):
            signal.signal(number, lambda *_: ends.set())
        me, until_hourly = name_of_process(), 0.0
        while not ends.is_set():
            close_old_connections()
            try:
                run_all(me)
                if until_hourly <= 0.0:
                    for path in settings.HOURLY:
                        import_string(path)()
                    until_hourly = EVERY_S
            except DatabaseError:
                log.exception("The database does not answer; the tasks wait.")
            ends.wait(PAUSE_S)
            until_hourly -= PAUSE_S
