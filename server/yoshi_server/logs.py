"""Logs: a line of JSON each, with the number of the request and without what was in it or who asked.

Errors and slow statements are kept in files of their own as well, which a shop can send: they turn over by size.
"""

import logging
from pathlib import Path
from typing import Any

from accounts import asking

FIELDS = "%(asctime)s %(levelname)s %(name)s %(message)s %(request)s"
JSON = {"()": "pythonjsonlogger.json.JsonFormatter", "fmt": FIELDS, "rename_fields": {"asctime": "at", "levelname": "level", "name": "log"}}
KEPT = {"class": "logging.handlers.RotatingFileHandler", "maxBytes": 1_000_000, "backupCount": 5, "delay": True, "filters": ["request"]}


class Request(logging.Filter):
    """The number of the request that is being answered, on every line."""

    def filter(self, record: logging.LogRecord) -> bool:
        record.request = asking.now.get().id
        return True


def logs(folder: str, *, plain: bool) -> dict[str, Any]:
    """The configuration: to the console, as words or JSON; with a folder, errors and slow statements into it too."""
    handlers: dict[str, Any] = {
        "console": {"class": "logging.StreamHandler", "formatter": "plain" if plain else "json", "filters": ["request"]}
    }
    kept: dict[str, list[str]] = {"errors": [], "slow": []}
    if folder:
        Path(folder).mkdir(parents=True, exist_ok=True)
        for name in kept:
            handlers[name] = {**KEPT, "filename": str(Path(folder) / f"{name}.jsonl"), "formatter": "json"}
            kept[name] = [name]
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "filters": {"request": {"()": "yoshi_server.logs.Request"}},
        "formatters": {"plain": {"format": "%(levelname)s %(name)s: %(message)s"}, "json": JSON},
        "handlers": handlers,
        "root": {"handlers": ["console"], "level": "WARNING"},
        "loggers": {
            "yoshi": {"handlers": kept["errors"], "level": "WARNING"},
            "yoshi.slow": {"handlers": ["console", *kept["slow"]], "level": "WARNING", "propagate": False},
            "yoshi.requests": {"handlers": ["console"], "level": "WARNING" if plain else "INFO", "propagate": False},
        },
    }
