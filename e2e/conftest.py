"""The real interface: uvicorn in a thread, Debian's Chromium, a fresh demo world for every test."""

import contextlib
import os
import socket
import threading
import time
from collections.abc import Callable, Iterator
from typing import Any

import pytest
import uvicorn
from django.core.management import call_command
from django.db import DatabaseError, connection
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright
from pytest_django import Settings

from practice.running import Runner
from tasks.queue import run_all
from yoshi_server.asgi import application

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
CHROMIUM = os.environ.get("YOSHI_CHROMIUM", "/usr/bin/chromium-headless-shell")  # a quarter less work than the whole browser
FLAGS = [
    "--no-sandbox",
    "--disable-dev-shm-usage",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
PASSWORD = "quillon-ridge"
KEPT_BY_FLUSH = {"django_migrations", "django_content_type", "auth_permission"}
FAILED = pytest.StashKey[bool]()
PATIENCE_MS = int(os.environ.get("YOSHI_PATIENCE_MS", "45000"))  # shared machines stall; nothing here is a timed test
expect.set_options(timeout=PATIENCE_MS)


@pytest.hookimpl(hookwrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Iterator[None]:
    """Remember a failure, so that the page it happened on can be told."""
    outcome = yield
    report = outcome.get_result()  # type: ignore[attr-defined]
    if report.when == "call" and report.failed:
        item.stash[FAILED] = True


def pytest_terminal_summary(terminalreporter: pytest.TerminalReporter) -> None:
    """What the usual jobs cost, in presses and fields."""
    counted = [
        (report.nodeid.partition("::test_")[2].replace("_", " "), value)
        for report in terminalreporter.getreports("passed")
        if report.when == "call"
        for name, value in report.user_properties
        if name == "effort"
    ]
    if counted:
        terminalreporter.section("presses and fields of the usual jobs")
    for job, value in sorted(counted):
        terminalreporter.line(f"{job}: {value}")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """The longest walks first, so that two workers end together."""
    items.sort(key=lambda item: "accessible" not in item.name)


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture(scope="session")
def demo_world() -> dict[str, tuple[list[str], list[tuple[Any, ...]]]]:
    """Every row of the demo world, by table; loaded once and put back before each test."""
    return {}


def put_demo(kept: dict[str, tuple[list[str], list[tuple[Any, ...]]]]) -> None:
    """The demo world, from the rows kept where it was loaded before."""
    with connection.cursor() as cursor:
        if not kept:
            call_command("load_demo", verbosity=0)
            for table in sorted(set(connection.introspection.table_names()) - KEPT_BY_FLUSH):
                cursor.execute(
                    "SELECT column_name FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = %s AND extra NOT LIKE '%%GENERATED%%'",
                    [table],
                )
                made = ", ".join(f"`{name}`" for (name,) in cursor.fetchall())
                cursor.execute(f"SELECT {made} FROM `{table}`")
                kept[table] = ([column[0] for column in cursor.description], list(cursor.fetchall()))
            return
        cursor.execute("SET FOREIGN_KEY_CHECKS = 0")
        for table, (columns, rows) in kept.items():
            if rows:
                names, marks = ", ".join(f"`{c}`" for c in columns), ", ".join(["%s"] * len(columns))
                cursor.executemany(f"INSERT INTO `{table}` ({names}) VALUES ({marks})", rows)
        cursor.execute("SET FOREIGN_KEY_CHECKS = 1")


@pytest.fixture
def address(transactional_db: None, settings: Settings, demo_world: dict[str, Any]) -> Iterator[str]:
    """A served Yoshi with the demo world."""
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    put_demo(demo_world)
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    settings.CSRF_TRUSTED_ORIGINS = [f"http://127.0.0.1:{port}"]
    server = uvicorn.Server(uvicorn.Config(application, port=port, lifespan="off", log_level="error"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    deadline = time.monotonic() + 60
    while not server.started and time.monotonic() < deadline:
        time.sleep(0.02)
    yield f"http://127.0.0.1:{port}"
    server.should_exit = True
    thread.join(timeout=10)


Open = Callable[..., Page]


@pytest.fixture
def open_page(chromium: Browser, address: str, request: pytest.FixtureRequest) -> Iterator[Open]:
    """Opens Yoshi signed in; fails the test on any error in the page."""
    contexts: list[BrowserContext] = []
    errors: list[str] = []

    def opener(username: str = "orrin", *, width: int = 1280, height: int = 800, dark: bool = False, **options: Any) -> Page:
        first = options.pop("first", "/jobs")
        context = chromium.new_context(
            viewport={"width": width, "height": height},
            color_scheme="dark" if dark else "light",
            base_url=address,
            service_workers=options.pop("service_workers", "block"),
            **options,
        )
        contexts.append(context)
        page = context.new_page()
        page.set_default_timeout(PATIENCE_MS)
        page.on("pageerror", lambda error: errors.append(str(error)))
        page.goto("/")
        page.get_by_label("name").fill(username)
        page.get_by_label("password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("button", name="New job").wait_for()
        if first != "/":
            page.goto(first)
            page.get_by_role("button", name="New job").wait_for()
        return page

    yield opener
    if request.node.stash.get(FAILED, False):
        for page in (page for context in contexts for page in context.pages):
            print(f"\n== {page.url}\n{page.locator('body').inner_text()}")
    for context in contexts:
        context.close()
    assert not errors, errors


@pytest.fixture
def bench_time(address: str, request: pytest.FixtureRequest) -> Iterator[None]:
    """What `practise` and `work` do beside the server, here in a thread, and twenty times as fast as told unless the test says otherwise."""
    hurry: int = getattr(request, "param", 20)
    ends = threading.Event()

    def go() -> None:
        runner = Runner("e2e", hurry=hurry)
        while not ends.is_set():
            with contextlib.suppress(DatabaseError):  # two that met: the next round does it, as beside a server
                runner.round()
                run_all()
            ends.wait(0.1)
        connection.close()

    thread = threading.Thread(target=go, daemon=True)
    thread.start()
    yield
    ends.set()
    thread.join(timeout=20)
