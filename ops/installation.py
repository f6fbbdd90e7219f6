"""A shop's own installation: where it is, how it is reached, and its database, in a folder of its own."""

import json
import os
import secrets
from dataclasses import asdict, dataclass, field
from pathlib import Path
from urllib.parse import urlsplit

from ops.console import Trouble
from ops.database import Instance
from ops.serving import server_environment

SETTINGS, SECRET = "settings.json", "secret-key"
PROXIES_WITH_TLS = 1


@dataclass(frozen=True)
class Settings:
    """What `init` was told. `server` names a database server elsewhere; empty is the installation's own."""

    url: str
    port: int = 8420
    workers: int = 2
    server: dict[str, str] = field(default_factory=dict)
    mail: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Installation:
    """A folder with settings, secret key, database, logs and backups."""

    folder: Path

    @property
    def settings(self) -> Settings:
        """Raises `Trouble` where there is none yet."""
        path = self.folder / SETTINGS
        if not path.exists():
            raise Trouble(f"There is no installation in {self.folder}. Make one:  ./yoshi-admin init --shop … --owner … --url https://…")
        return Settings(**json.loads(path.read_text()))

    def exists(self) -> bool:
        return (self.folder / SETTINGS).exists()

    def keep(self, settings: Settings) -> None:
        """Write the settings, and the secret key where there is none; nobody else on the machine may read them."""
        self.folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        path = self.folder / SETTINGS
        path.write_text(json.dumps(asdict(settings), indent=1) + "\n")
        path.chmod(0o600)
        key = self.folder / SECRET
        if not key.exists():
            key.write_text(secrets.token_urlsafe(50))
            key.chmod(0o600)

    @property
    def instance(self) -> Instance:
        return Instance(self.folder, logs_changes=True)

    def ensure_database(self) -> bool:
        """Start the installation's own database; whether this call started it."""
        return False if self.settings.server else self.instance.ensure_running()

    def database(self) -> dict[str, str]:
        """Where its database is, as the server wants it."""
        return self.settings.server or self.instance.environment()

    def environment(self) -> dict[str, str]:
        """The environment of every process of this installation."""
        settings = self.settings
        parts = urlsplit(settings.url)
        tls = parts.scheme == "https"
        counts = self.folder / "metrics"
        counts.mkdir(exist_ok=True)
        return server_environment(
            self.database(),
            (self.folder / SECRET).read_text(),
            settings.port,
            YOSHI_URL=settings.url,
            YOSHI_HOSTS=",".join(dict.fromkeys([parts.hostname or "127.0.0.1", "127.0.0.1"])),
            YOSHI_HTTPS="true" if tls else "false",
            YOSHI_PROXIES=str(PROXIES_WITH_TLS if tls else 0),
            YOSHI_LOG="json",
            YOSHI_LOG_DIR=str(self.folder / "log"),
            YOSHI_METRICS_TOKEN=self._metrics_token(),
            PROMETHEUS_MULTIPROC_DIR=str(counts),
            **settings.mail,
        )

    def _metrics_token(self) -> str:
        path = self.folder / "metrics-token"
        if not path.exists():
            path.write_text(secrets.token_urlsafe(24))
            path.chmod(0o600)
        return path.read_text()


def default_folder() -> Path:
    """Where an installation is unless it is said: beside nothing of the demo."""
    return Path(os.environ.get("YOSHI_DATA") or "/var/lib/yoshi")
