"""An installation for trials: database or cluster, web servers, a shop with jobs and cylinders; killed piece by piece and looked through."""

import json
import os
import signal
import subprocess
import time
import urllib.request
from collections import Counter
from pathlib import Path
from types import TracebackType
from typing import Any, Self

from ops.backup import Server, of_instance
from ops.cluster import PASSWORD, Cluster, Node
from ops.console import Trouble, run
from ops.database import NAME, USER, Instance, free_port
from ops.faults import Account, Faults, Wire, Write, Writer, kill_in_turn, writes
from ops.paths import ROOT
from ops.serving import MANAGE, begin, server_environment, web_server
from ops.strain import STEPS, Clock, SmallDisk

FILL = """
import json, uuid
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from django.middleware.csrf import _get_new_csrf_string
from accounts.models import Person, Shop
from accounts.sessions import SessionStore
from cylinders.actions.book import add_cylinder
from jobs.actions.create_job import create_job
from api.permissions import owner_of
shop = Shop.objects.create(name="Trial")
out = []
for n in range({writers}):
    person = Person(username=f"p{{n}}", shown_name=f"P. {{n}}", role="lead", shop=shop)
    person.set_unusable_password(); person.save()
    store = SessionStore()
    store[SESSION_KEY], store[BACKEND_SESSION_KEY] = str(person.pk), "django.contrib.auth.backends.ModelBackend"
    store[HASH_SESSION_KEY] = person.get_session_auth_hash(); store.save()
    code = f"F-{{n}}"
    facts = dict(code=code, kind="recovery", refrigerant="R-410A", owner="Trial", tare="30 lb", water_capacity="238 lb", gross="200 lb")
    add_cylinder(person, uuid.uuid4().hex, facts)
    job = create_job(person, uuid.uuid4().hex, "charge", f"trial {{n}}", None)["code"]
    out.append(dict(cookie=store.session_key, token=_get_new_csrf_string(), owner=owner_of(person), job=job, cylinder=code))
print("FILLED" + json.dumps(out))
"""
WRITERS, EACH_KG = 4, 0.001
UP_S = 40.0
ENOUGH = 2  # acknowledged writes for each fault, at least
FULL_S, STEPPED_S = 4.0, 2.5


def manage(root: Path) -> list[str]:
    """The management command of a checkout; this one's packages serve them all."""
    return [MANAGE[0], str(root / "server" / "manage.py")]


class Trial:
    """Made on entering, ended on leaving; `run` does the faults and says what it found."""

    def __init__(
        self, folder: Path, *, clustered: bool = False, servers: int = 1, disk_mb: int = 0, clocks: bool = False, root: Path | None = None
    ) -> None:
        self.folder = folder
        self.cluster = Cluster(folder / "c") if clustered else None
        self.disk = SmallDisk(folder / "shop", disk_mb) if disk_mb else None
        self.clock = Clock(folder / "clock") if clocks else None
        self.instance = Instance(folder / "shop", logs_changes=disk_mb > 0)
        self.ports = [free_port() for _ in range(servers)]
        self.servers: list[subprocess.Popen[bytes]] = []
        self.people: list[dict[str, str]] = []
        self.roots = [root or ROOT for _ in self.ports]
        self.acknowledged: list[Write] = []

    def __enter__(self) -> Self:
        try:
            if self.cluster is not None:
                self.cluster.make()
            else:
                self.instance.ensure_running()
            self.migrate(self.roots[0])
            filled = subprocess.run(
                [*manage(self.roots[0]), "shell", "-v", "0", "-c", FILL.format(writers=WRITERS)],
                env=self.environment(0),
                capture_output=True,
                text=True,
                check=False,
            )
            if filled.returncode:
                raise Trouble(filled.stderr[-2000:])
            self.people = json.loads(filled.stdout.partition("FILLED")[2])
            self.servers = [self._serve(n) for n in range(len(self.ports))]
            for port in self.ports:
                self._wait(port)
        except BaseException:
            self.end()
            raise
        return self

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None) -> None:
        self.end()

    def end(self) -> None:
        """Nothing of it is left running."""
        for server in self.servers:
            server.kill()
            server.wait()
        if self.cluster is not None:
            self.cluster.end()
        else:
            self.instance.stop()
        if self.disk is not None:
            self.disk.end()

    def environment(self, number: int) -> dict[str, str]:
        """Of the server of this number: beside its own node, where there are several."""
        database = self.cluster.environment(number) if self.cluster is not None else self.instance.environment()
        paths = os.pathsep.join((str(self.roots[number] / "core"), str(self.roots[number])))
        return server_environment(database, "only-for-trials", self.ports[number], YOSHI_HOSTS="127.0.0.1", PYTHONPATH=paths)

    def migrate(self, root: Path) -> None:
        """Bring the database to the version of a checkout."""
        run(
            "Trial database",
            [*manage(root), "migrate", "--no-input", "-v", "0"],
            env={**self.environment(0), "PYTHONPATH": f"{root / 'core'}:{root}"},
        )

    def replace(self, number: int, root: Path) -> None:
        """One server gives way to one of another version, while the others go on."""
        self.servers[number].terminate()
        self.servers[number].wait()
        self.roots[number] = root
        self.servers[number] = self._serve(number)
        self._wait(self.ports[number])

    def _serve(self, number: int) -> "subprocess.Popen[bytes]":
        env = {**self.environment(number), **(self.clock.environment() if self.clock else {})}
        return begin(web_server(self.ports[number]), env, self.roots[number] / "server", silent=True)

    def _wait(self, port: int) -> None:
        until = time.monotonic() + UP_S
        while True:
            try:
                with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/health/ready", timeout=5):
                    return
            except OSError:
                if time.monotonic() > until:
                    raise Trouble("A server of the trial does not get ready.") from None
                time.sleep(0.1)

    def kill_database(self) -> None:
        """The database is killed outright and started again."""
        pid = self.instance.running_pid()
        if pid is not None:
            os.kill(pid, signal.SIGKILL)
            while self.instance.running_pid() is not None:
                time.sleep(0.02)
        self.instance.ensure_running()

    def kill_server(self) -> None:
        """A web server is killed outright, and another takes its place."""
        number = int(time.monotonic() * 1000) % len(self.servers)
        self.servers[number].kill()
        self.servers[number].wait()
        self.servers[number] = self._serve(number)
        self._wait(self.ports[number])

    def full_disk(self) -> None:
        """The disk of the database is full for a while."""
        assert self.disk is not None
        self.disk.fill()
        time.sleep(FULL_S)
        self.disk.clear()

    def step_clock(self) -> None:
        """The servers' clock is set, and set right again some moments later."""
        assert self.clock is not None
        self.clock.set(STEPS[int(time.monotonic() * 1000) % len(STEPS)])
        time.sleep(STEPPED_S)
        self.clock.set("+0")

    def kill_node(self) -> None:
        """A node is killed and comes back while the others go on."""
        assert self.cluster is not None
        node: Node = self.cluster.nodes[int(time.monotonic() * 1000) % 3]
        self.cluster.kill(node)
        time.sleep(1.0)
        self.cluster.back(node)

    def kill_all_nodes(self) -> None:
        """All three at once, as when the power goes."""
        assert self.cluster is not None
        for node in self.cluster.nodes:
            self.cluster.kill(node)
        self.cluster.back_from_nothing()

    def run(self, seed: int, count: int, kills: dict[str, int], pause_s: tuple[float, float] = (0.4, 1.2)) -> dict[str, Any]:
        """So many faults, of them so many kills; what was lost, doubled or refused, and how exact the books are."""
        faults = Faults(seed, count - sum(kills.values()), kills, ENOUGH * count)
        writers = []
        for person in self.people:
            wire = Wire(self.ports, Account(person["cookie"], person["token"], person["owner"]), faults.luck)
            writers.append(Writer(wire, writes(person["job"], person["cylinder"], EACH_KG, len(self.acknowledged)), faults))
        began = time.monotonic()
        for writer in writers:
            writer.start()
        how = {
            "database": self.kill_database,
            "server": self.kill_server,
            "node": self.kill_node,
            "all nodes": self.kill_all_nodes,
            "full disk": self.full_disk,
            "clock step": self.step_clock,
        }
        took = kill_in_turn(faults, how, writers, pause_s)
        for writer in writers:
            writer.join()
        self.acknowledged += [write for writer in writers for write in writer.acknowledged]
        refused = [
            (write.path, status, answer[:200].decode(errors="replace")) for writer in writers for write, status, answer in writer.refused
        ]
        return {
            "seed": seed,
            "faults": sum(faults.done.values()),
            "by kind": dict(faults.done),
            "acknowledged": len(self.acknowledged),
            "refused": refused[:5],
            **self._found(self.acknowledged),
            "longest_answer_s": round(max(writer.waited_s for writer in writers), 2),
            "longest_kill_s": round(max(took, default=0.0), 2),
            "seconds": round(time.monotonic() - began, 1),
        }

    def database(self) -> Server:
        """A way to ask it."""
        if self.cluster is None:
            return of_instance(self.instance)
        host, _, port = self.cluster.nodes[0].address.partition(":")
        return Server(("--no-defaults", f"--host={host}", f"--port={port}", f"--user={USER}"), {**os.environ, "MYSQL_PWD": PASSWORD}, NAME)

    def _found(self, acknowledged: list[Write]) -> dict[str, Any]:
        """What stands in the database against what was acknowledged."""
        server = self.database()
        keys = Counter(row[0] for row in server.ask("SELECT `key` FROM jobs_acceptedrequest"))
        wanted = [write.body["key"] for write in acknowledged]
        reasons = Counter(
            (row[0], row[1])
            for row in server.ask(
                "SELECT c.code, m.reason FROM cylinders_movement m JOIN cylinders_cylinder c ON c.id = m.from_cylinder_id"
            )
        )
        labels: Counter[tuple[str, str]] = Counter()
        for row in server.ask("SELECT j.code, c.payload FROM jobs_change c JOIN jobs_job j ON j.id = c.job_id WHERE c.kind = 'entries'"):
            labels.update((row[0], value) for value in json.loads(row[1].replace("\\\\", "\\"))["accepted"].values())
        moved = {(write.path.split("/")[3], write.body["reason"]) for write in acknowledged if write.kind == "movement"}
        typed = {(write.path.split("/")[3], write.body["changes"][0]["value"]) for write in acknowledged if write.kind == "entry"}
        lost = [key for key in wanted if key not in keys] + sorted(map(str, moved - set(reasons))) + sorted(map(str, typed - set(labels)))
        doubled = [name for name, times in (*reasons.items(), *labels.items(), *keys.items()) if times > 1]
        return {"lost": lost[:5], "doubled": doubled[:5], "books_off_kg": self._books_off(acknowledged, server)}

    def _books_off(self, acknowledged: list[Write], server: Server) -> float:
        """The widest difference between a cylinder's book and what was acknowledged of it."""
        sums = {
            row[0]: float(row[1])
            for row in server.ask(
                "SELECT c.code, SUM(m.mass_kg) FROM cylinders_movement m JOIN cylinders_cylinder c ON c.id = m.from_cylinder_id GROUP BY c.code"
            )
        }
        widest = 0.0
        for person in self.people:
            code = person["cylinder"]
            ours = sum(write.mass_kg for write in acknowledged if write.kind == "movement" and write.path.split("/")[3] == code)
            widest = max(widest, abs(sums.get(code, 0.0) - ours))
        return widest
