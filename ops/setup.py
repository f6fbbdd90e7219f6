"""Installing what is missing: Debian packages, Python packages, the front end."""

import os
import shutil
import subprocess
import sys

from ops.console import Trouble, check_disk, run, say
from ops.paths import BIN, ROOT, STATE, VENV, WEB, digest, is_done, mark_done

UV = "uv==0.13.9"
DEBIAN_RUN = {
    "mariadb-server": "the database",
    "libmariadb-dev": "headers to build the database driver",
    "pkg-config": "finds those headers",
    "gcc": "builds the database driver",
    "python3-dev": "headers to build the database driver",
    "python3-venv": "an environment of our own for Python packages",
    "libpango-1.0-0": "sets the text of printed records",
    "libpangoft2-1.0-0": "sets the text of printed records",
    "libharfbuzz-subset0": "keeps fonts in printed records small",
    "fonts-dejavu-core": "a fallback font for printed records",
}
DEBIAN_TEST = {
    "chromium-headless-shell": "drives the real interface in the tests",
    "mariadb-backup": "a backup and its restoring are rehearsed",
    "faketime": "a server's clock is set while it runs",
    "age": "encrypts that backup",
    "nginx-light": "the example of a TLS proxy is tried",
    "openssl": "makes that proxy a certificate",
    "systemd": "looks through the service units",
}


def debian_packages(wanted: dict[str, str]) -> None:
    """Install the Debian packages that are missing, saying which and why."""
    if shutil.which("dpkg-query") is None:
        say("  This is not a Debian system: make sure MariaDB, Pango and a C compiler are here.")
        return
    asked = subprocess.run(
        ["dpkg-query", "-W", "-f", "${Package} ${Status}\n", *wanted], capture_output=True, text=True, check=False
    ).stdout
    present = {line.split()[0] for line in asked.splitlines() if line.endswith("install ok installed")}
    missing = [name for name in wanted if name not in present]
    if not missing:
        return
    say("  Debian packages to install:")
    for name in missing:
        say(f"    {name}: {wanted[name]}")
    prefix = [] if os.geteuid() == 0 else ["sudo"] if shutil.which("sudo") else None
    if prefix is None:
        raise Trouble("Installing them takes root. Run this as root:\n    apt-get install --no-install-recommends " + " ".join(missing))
    check_disk(2500)
    env = dict(os.environ, DEBIAN_FRONTEND="noninteractive")
    run("Package lists", [*prefix, "apt-get", "update", "-qq"], env=env)
    run("Debian packages", [*prefix, "apt-get", "install", "-y", "-qq", "--no-install-recommends", *missing], env=env)


def python_packages(kind: str) -> None:
    """Bring our own environment to the lock file; `kind` is run or test (which holds run)."""
    lock = ROOT / "requirements" / f"{kind}.lock"
    key = digest(lock) + sys.version
    if is_done("python-test", digest(ROOT / "requirements" / "test.lock") + sys.version) or is_done(f"python-{kind}", key):
        return
    check_disk(1500)
    if not (BIN / "python").exists():
        run("Python environment", [sys.executable, "-m", "venv", str(VENV)])
    if not (BIN / "uv").exists():
        run("Package installer", [str(BIN / "pip"), "install", "-q", UV])
    run(
        f"Python packages ({kind})",
        [str(BIN / "uv"), "pip", "install", "--python", str(BIN / "python"), "--require-hashes", "-r", str(lock)],
    )
    (VENV / "lib" / f"python3.{sys.version_info.minor}" / "site-packages" / "yoshi.pth").write_text(
        f"{ROOT / 'core'}\n{ROOT / 'server'}\n{ROOT}\n"
    )
    command = BIN / "yoshi"
    command.write_text(f"#!{BIN / 'python'}\nimport sys\nfrom yoshi_core.cli.main import main\nsys.exit(main())\n")
    command.chmod(0o755)
    mark_done(f"python-{kind}", key)


def node_env() -> dict[str, str]:
    """The environment in which node and npm of our own are found first."""
    return dict(os.environ, PATH=f"{BIN}:{os.environ['PATH']}", npm_config_update_notifier="false", npm_config_fund="false")


def node_packages() -> None:
    key = digest(WEB / "package-lock.json")
    if is_done("node", key) and (WEB / "node_modules").exists():
        return
    check_disk(1000)
    run("Front-end packages", [str(BIN / "npm"), "ci", "--no-audit", "--silent"], env=node_env(), cwd=WEB)
    mark_done("node", key)


def build_web() -> None:
    """Build the front end when its sources changed since the last build."""
    sources = [WEB / n for n in ("src", "public", "index.html", "package-lock.json", "vite.config.ts", "tsconfig.json")]
    key = digest(*[s for s in sources if s.exists()])
    if is_done("web", key) and (WEB / "dist" / "index.html").exists():
        build_engine()
        return
    node_packages()
    run("Front end build", [str(BIN / "npm"), "run", "--silent", "build"], env=node_env(), cwd=WEB)
    run("Front end, made small for slow links", [str(BIN / "python"), "-m", "whitenoise.compress", "--quiet", str(WEB / "dist")])
    mark_done("web", key)
    build_engine()


def build_engine() -> None:
    """Make the files with which a browser runs the core, when the core, its packages or Python for the browser changed."""
    sources = (ROOT / "core" / "yoshi_core", WEB / "package-lock.json", ROOT / "requirements" / "run.lock", ROOT / "ops" / "engine.py")
    key = digest(*sources)
    if is_done("engine", key) and (WEB / "dist" / "engine.json").exists():
        return
    run("The core, for work without signal", [str(BIN / "python"), "-m", "ops.engine"], cwd=ROOT)
    mark_done("engine", key)


def set_up(kind: str) -> None:
    """Everything a fresh machine needs for `run` or `test`."""
    STATE.mkdir(exist_ok=True)
    debian_packages(DEBIAN_RUN if kind == "run" else DEBIAN_RUN | DEBIAN_TEST)
    python_packages(kind)
