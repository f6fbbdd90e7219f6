"""The files with which a browser runs the core itself: Python for the browser, and the core with its packages as one archive.

They lie beside the front end under a name made of what is in them, so that two versions never mix, and `engine.json` says which
is the present one, what is in it and how much it weighs. They are made by the set-up; nothing is fetched from elsewhere.
"""

import gzip
import hashlib
import importlib.util
import io
import json
import re
import shutil
import zipfile
from pathlib import Path

from ops.console import say
from ops.paths import ROOT, WEB

PYTHON = ("pyodide.mjs", "pyodide.asm.mjs", "pyodide.asm.wasm", "python_stdlib.zip", "pyodide-lock.json")
PACKAGES = ("psychrolib", "jsonpointer", "jinja2", "markupsafe")  # what the core needs; of each the pure Python
LEFT_OUT = ("cli", "rig", "day")  # rooms of the core a device never asks
DIST, MADE = WEB / "dist", WEB / "dist" / "engine"

DAY_ONE = (1980, 1, 1, 0, 0, 0)  # the same files give the same archive, whenever it is made


def make() -> dict[str, object]:
    """Write the files and `engine.json`, and say what was written."""
    content = {name: (WEB / "node_modules" / "pyodide" / name).read_bytes() for name in PYTHON}
    content["core.zip"] = core_archive()
    total = hashlib.sha256()
    for name, data in content.items():
        total.update(name.encode() + b"\0" + data)
    version = total.hexdigest()[:12]
    shutil.rmtree(MADE, ignore_errors=True)
    place = MADE / version
    place.mkdir(parents=True)
    rows: list[dict[str, object]] = []
    wire_bytes = 0
    for name, data in content.items():
        (place / name).write_bytes(data)
        small = gzip.compress(data, 9, mtime=0)  # the archives gain nothing, but would be packed again for everybody who asks
        (place / f"{name}.gz").write_bytes(small)
        wire_bytes += len(small)
        rows.append({"name": name, "bytes": len(data), "wire_bytes": len(small)})
    found = {"version": version, "core_version": core_version(), "files": rows, "wire_bytes": wire_bytes}
    (DIST / "engine.json").write_text(json.dumps(found, indent=1) + "\n")
    return found


def core_version() -> str:
    """The version of the core, as its package says."""
    found = re.search(r'^__version__ = "(.+)"$', (ROOT / "core" / "yoshi_core" / "__init__.py").read_text(), re.MULTILINE)
    assert found is not None
    return found[1]


def core_archive() -> bytes:
    """The core and the packages it needs, sources alone, as a zip archive."""
    found: dict[str, Path] = {}
    core = ROOT / "core" / "yoshi_core"
    for path in sorted(core.rglob("*")):
        inner = path.relative_to(core)
        if path.is_file() and "__pycache__" not in path.parts and inner.parts[0] not in LEFT_OUT:
            found[f"yoshi_core/{inner}"] = path
    for package in PACKAGES:
        spec = importlib.util.find_spec(package)
        assert spec is not None
        home = Path(spec.origin or "")
        for path in sorted(home.parent.rglob("*.py")) if home.name == "__init__.py" else [home]:
            found[str(path.relative_to(home.parent.parent if home.name == "__init__.py" else home.parent))] = path
    written = io.BytesIO()
    with zipfile.ZipFile(written, "w", zipfile.ZIP_DEFLATED, compresslevel=9) as archive:
        for name, path in sorted(found.items()):
            archive.writestr(zipfile.ZipInfo(name, DAY_ONE), path.read_bytes(), zipfile.ZIP_DEFLATED, 9)
    return written.getvalue()


if __name__ == "__main__":
    made = make()
    say(f"engine {made['version']}, core {made['core_version']}: {made['wire_bytes']} bytes over the wire")
