"""What this server counts, in the text format that monitoring reads. Names of routes, never what was in them."""

import os
from typing import Any

from django.conf import settings
from django.db import DatabaseError
from django.http import HttpRequest, HttpResponse
from django.utils.crypto import constant_time_compare
from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, CollectorRegistry, Counter, Gauge, Histogram, generate_latest
from prometheus_client.multiprocess import MultiProcessCollector

from tasks.models import Task

MULTI: dict[str, Any] = {"multiprocess_mode": "livesum"}
REQUESTS = Counter("yoshi_requests_total", "Requests answered.", ("method", "route", "status"))
SECONDS = Histogram(
    "yoshi_request_seconds", "How long answers took.", ("route",), buckets=(0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0)
)
SLOW = Counter("yoshi_slow_statements_total", "Statements the database took long for.")
ERRORS = Counter("yoshi_unexpected_errors_total", "Requests that failed for no reason of their own.")
STREAMS = Gauge("yoshi_streams", "Event streams that are open.", **MULTI)
ALONE = CollectorRegistry()
TASKS = Gauge("yoshi_tasks", "Tasks that have not ended.", ("state",), registry=ALONE)


def metrics(request: HttpRequest) -> HttpResponse:
    """All counts; for who brings the token of the settings, and nobody where there is none."""
    given = str(request.META.get("HTTP_AUTHORIZATION") or "").removeprefix("Bearer ")
    if not settings.METRICS_TOKEN or not constant_time_compare(given, settings.METRICS_TOKEN):
        return HttpResponse(status=404)
    registry = REGISTRY
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        registry = CollectorRegistry()
        MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
    try:
        for state in ("waiting", "running"):
            TASKS.labels(state).set(Task.objects.filter(state=state).count())
        queue = generate_latest(ALONE)
    except DatabaseError:
        queue = b""
    return HttpResponse(generate_latest(registry) + queue, content_type=CONTENT_TYPE_LATEST)
