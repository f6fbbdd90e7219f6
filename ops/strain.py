"""What a machine does to a server that runs on it: its disk is full, its clock steps."""

import subprocess
from pathlib import Path

from ops.console import Trouble, run

CLOCK = "libfaketimeMT.so.1"
STEPS = ("-3d", "-2h", "-90s", "+90s", "+2h", "+3d", "+400d")


class SmallDisk:
    """A disk of its own for a folder, so small that it can be filled; to mount it takes root."""

    def __init__(self, folder: Path, megabytes: int) -> None:
        self.folder = folder
        folder.mkdir(parents=True, exist_ok=True)
        run("Small disk", ["mount", "-t", "tmpfs", "-o", f"size={megabytes}m", "tmpfs", str(folder)])

    @property
    def _filler(self) -> Path:
        return self.folder / "filler"

    def fill(self) -> None:
        """Not a byte is left."""
        with self._filler.open("wb", buffering=0) as file:
            for size in (1 << 20, 1 << 12):
                try:
                    while True:
                        file.write(b"\0" * size)
                except OSError:
                    continue

    def clear(self) -> None:
        """Somebody made room."""
        self._filler.unlink(missing_ok=True)

    def end(self) -> None:
        subprocess.run(["umount", "--lazy", str(self.folder)], check=False)


class Clock:
    """A clock of its own for the processes of an environment, which can be set while they run (libfaketime); they look at it each second."""

    def __init__(self, file: Path) -> None:
        self.file = file
        self.set("+0")
        found = sorted(Path("/usr/lib").glob(f"*/faketime/{CLOCK}"))
        if not found:
            raise Trouble(f"{CLOCK} is missing; Debian's package faketime has it.")
        self.library = found[0]

    def set(self, off: str) -> None:
        """So far off from now on, such as `-2h`; `+0` is right. Written in one go, for it is read at any moment."""
        fresh = self.file.with_suffix(".new")
        fresh.write_text(off)
        fresh.replace(self.file)

    def environment(self) -> dict[str, str]:
        """What makes a process take it; how long something lasts is not touched."""
        return {
            "LD_PRELOAD": str(self.library),
            "FAKETIME_TIMESTAMP_FILE": str(self.file),
            "FAKETIME_CACHE_DURATION": "1",
            "FAKETIME_DONT_FAKE_MONOTONIC": "1",
        }
