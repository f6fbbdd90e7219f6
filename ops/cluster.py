"""Three nodes of one database on this machine, as a shop of many would have them on three: for trying, not for serving.

A node is killed and started again here as an operator would: by the position it had, and after the loss of all from the one that came furthest.
"""

import os
import re
import shutil
import signal
import subprocess
import time
from dataclasses import dataclass, field
from pathlib import Path

from ops.console import Trouble, run
from ops.database import NAME, USER, free_port

PROVIDER = "/usr/lib/libgalera_smm.so"
PASSWORD = "only-for-trying"  # noqa: S105 - of a database that lasts as long as a trial
SYNCED_S = 90.0
NODE_OPTIONS = (
    "--no-defaults", "--bind-address=127.0.0.1", "--skip-name-resolve", "--character-set-server=utf8mb4",
    "--collation-server=utf8mb4_unicode_ci", "--transaction-isolation=READ-COMMITTED", "--binlog-format=ROW",
    "--innodb-autoinc-lock-mode=2", "--innodb-buffer-pool-size=64M", "--innodb-log-file-size=32M", "--wsrep-on=ON",
    f"--wsrep-provider={PROVIDER}", "--wsrep-cluster-name=yoshi-trial", "--wsrep-sst-method=rsync",
)  # fmt: skip
TIMES = "gcache.size=64M;gcache.recover=yes;evs.keepalive_period=PT0.3S;evs.suspect_timeout=PT2S;evs.inactive_timeout=PT4S;evs.inactive_check_period=PT0.5S"


@dataclass
class Node:
    """One of the nodes: its folder, its ports (group, catching up, copy, clients)."""

    number: int
    folder: Path
    ports: tuple[int, int, int, int]
    process: "subprocess.Popen[bytes] | None" = None

    @property
    def socket(self) -> Path:
        return self.folder / "s"

    @property
    def address(self) -> str:
        return f"127.0.0.1:{self.ports[3]}"

    def ask(self, statement: str) -> str:
        """What a statement answers, as root; empty when the node does not."""
        command = ["mariadb", "--no-defaults", f"--socket={self.socket}", "--user=root", "--batch", "--skip-column-names"]
        return subprocess.run(command, input=statement, text=True, capture_output=True, check=False).stdout

    def state(self) -> tuple[str, int]:
        """Whether it is synced, and with how many others."""
        rows = self.ask("SHOW STATUS WHERE Variable_name IN ('wsrep_local_state_comment', 'wsrep_cluster_size')")
        said = dict(line.split("\t") for line in rows.splitlines() if "\t" in line)
        return said.get("wsrep_local_state_comment", ""), int(said.get("wsrep_cluster_size", "0"))


@dataclass
class Cluster:
    """Three nodes below a folder that the user they run as can reach: a short one, and not in root's home."""

    folder: Path
    nodes: list[Node] = field(default_factory=list)

    def __post_init__(self) -> None:
        for number in range(3):
            ports = (free_port(), free_port(), free_port(), free_port())
            self.nodes.append(Node(number, self.folder / f"n{number}", ports))

    @property
    def user(self) -> str:
        """As root the copy between nodes fails (its helper becomes nobody), so the nodes run as Debian's own database user."""
        return "mysql" if os.geteuid() == 0 else str(os.getuid())

    def command(self, node: Node, *more: str) -> list[str]:
        group, catching_up, copy, clients = node.ports
        members = ",".join(f"127.0.0.1:{other.ports[0]}" for other in self.nodes)
        provider = f"base_host=127.0.0.1;base_port={group};gmcast.listen_addr=tcp://127.0.0.1:{group};ist.recv_addr=127.0.0.1:{catching_up};{TIMES}"
        return [
            shutil.which("mariadbd") or "/usr/sbin/mariadbd", *NODE_OPTIONS, f"--datadir={node.folder / 'data'}", f"--socket={node.socket}",
            f"--pid-file={node.folder / 'pid'}", f"--log-error={node.folder / 'log.err'}", f"--port={clients}", f"--wsrep-node-name=n{node.number}",
            f"--wsrep-node-address=127.0.0.1:{group}", f"--wsrep-sst-receive-address=127.0.0.1:{copy}", f"--wsrep-cluster-address=gcomm://{members}",
            f"--wsrep-provider-options={provider}", *([f"--user={self.user}"] if os.geteuid() == 0 else []), *more,
        ]  # fmt: skip

    def make(self) -> None:
        """Make the first node's database, and start all three one after the other."""
        self.folder.mkdir(parents=True, exist_ok=True)
        for node in self.nodes:
            (node.folder / "data").mkdir(parents=True)
        first = self.nodes[0].folder / "data"
        options = ["--no-defaults", f"--datadir={first}", "--auth-root-authentication-method=normal", "--skip-test-db"]
        run("New cluster", ["mariadb-install-db", *options])
        if os.geteuid() == 0:
            subprocess.run(["chown", "-R", self.user, str(self.folder)], check=True)
            self.folder.chmod(0o755)
        self.start(self.nodes[0], "--wsrep-new-cluster")
        self.nodes[0].ask(
            f"CREATE DATABASE {NAME} CHARACTER SET utf8mb4; CREATE USER '{USER}'@'127.0.0.1' IDENTIFIED BY '{PASSWORD}';"
            f"GRANT ALL ON *.* TO '{USER}'@'127.0.0.1';"
        )
        for node in self.nodes[1:]:
            self.start(node)

    def start(self, node: Node, *more: str) -> None:
        """Start a node and wait until it is in step with the others. Raises `Trouble` with the end of its log."""
        with (node.folder / "out").open("wb") as out:
            node.process = subprocess.Popen(self.command(node, *more), stdout=out, stderr=out, start_new_session=True)
        until = time.monotonic() + SYNCED_S
        while node.state()[0] != "Synced":
            if time.monotonic() > until or node.process.poll() is not None:
                log = node.folder / "log.err"
                tail = log.read_text(errors="replace").splitlines()[-12:] if log.exists() else []
                raise Trouble(f"Node {node.number} is not in step after {SYNCED_S:.0f} s.\n" + "\n".join(tail))
            time.sleep(0.1)

    def kill(self, node: Node) -> None:
        """As if its machine lost power."""
        if node.process is not None and node.process.poll() is None:
            os.killpg(node.process.pid, signal.SIGKILL)
            node.process.wait()

    def back(self, node: Node) -> None:
        """Start a node that was killed, from the position it had: without a whole copy."""
        position = self.position(node)
        self.start(node, f"--wsrep-start-position={position}")

    def position(self, node: Node) -> str:
        """How far a node came before it was killed."""
        log = node.folder / "recover.err"
        log.unlink(missing_ok=True)
        command = [part for part in self.command(node) if not part.startswith(("--pid-file", "--log-error"))]
        more = [f"--pid-file={node.folder / 'pid2'}", f"--log-error={log}", "--wsrep-recover"]
        done = subprocess.run([*command, *more], capture_output=True, text=True, check=False)
        said = log.read_text(errors="replace") if log.exists() else ""
        found = re.findall(r"Recovered position: (\S+)", said + done.stderr)
        if not found:
            raise Trouble(f"Node {node.number} does not say how far it came.\n{said[-1500:]}{done.stderr[-1500:]}{done.stdout[-500:]}")
        return str(found[-1])

    def back_from_nothing(self) -> None:
        """After all were killed: the one that came furthest begins, the others follow."""
        positions = {node.number: self.position(node) for node in self.nodes}
        order = sorted(self.nodes, key=lambda node: -int(positions[node.number].rpartition(":")[2]))
        state = order[0].folder / "data" / "grastate.dat"
        state.write_text(state.read_text().replace("safe_to_bootstrap: 0", "safe_to_bootstrap: 1"))
        self.start(order[0], "--wsrep-new-cluster", f"--wsrep-start-position={positions[order[0].number]}")
        for node in order[1:]:
            self.start(node, f"--wsrep-start-position={positions[node.number]}")

    def environment(self, nearest: int) -> dict[str, str]:
        """What a server needs that stands beside one of the nodes."""
        order = [self.nodes[(nearest + turn) % len(self.nodes)] for turn in range(len(self.nodes))]
        host, _, port = order[0].address.partition(":")
        return {
            "YOSHI_DB_NODES": ",".join(node.address for node in order),
            "YOSHI_DB_HOST": host,
            "YOSHI_DB_PORT": port,
            "YOSHI_DB_NAME": NAME,
            "YOSHI_DB_USER": USER,
            "YOSHI_DB_PASSWORD": PASSWORD,
        }

    def end(self) -> None:
        """Nothing of it is left running."""
        for node in self.nodes:
            self.kill(node)
