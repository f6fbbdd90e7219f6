"""Where things are. Everything made at run time is under `.yoshi/`."""

import hashlib
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
STATE = ROOT / ".yoshi"
LOGS = STATE / "log"
STAMPS = STATE / "stamps"
VENV = STATE / "venv"
BIN = VENV / "bin"
WEB = ROOT / "web"


def digest(*paths: Path) -> str:
    """SHA-256 over files and the files below folders, names included."""
    total = hashlib.sha256()
    for path in paths:
        files = sorted(p for p in path.rglob("*") if p.is_file() and "__pycache__" not in p.parts) if path.is_dir() else [path]
        for file in files:
            total.update(str(file.relative_to(ROOT)).encode() + b"\0" + file.read_bytes() + b"\0")
    return total.hexdigest()


def is_done(name: str, key: str) -> bool:
    """Whether a stage was finished for this very input."""
    stamp = STAMPS / name
    return stamp.exists() and stamp.read_text() == key


def mark_done(name: str, key: str) -> None:
    STAMPS.mkdir(parents=True, exist_ok=True)
    (STAMPS / name).write_text(key)
