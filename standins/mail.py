"""A mail server that keeps what it is given as files and sends nothing: for the demo and the tests.

python -m standins.mail --port 2525 --folder DIR
"""

import argparse
import asyncio
import itertools
import signal
from pathlib import Path

from aiosmtpd.controller import Controller
from aiosmtpd.smtp import SMTP, Envelope, Session


class Kept:
    """Every mail a file, numbered as they came."""

    def __init__(self, folder: Path) -> None:
        folder.mkdir(parents=True, exist_ok=True)
        self.folder = folder
        self.numbers = itertools.count(len(list(folder.glob("*.eml"))) + 1)

    async def handle_DATA(self, _server: SMTP, _session: Session, envelope: Envelope) -> str:  # noqa: N802 - named by the library
        """Keep one mail."""
        content = envelope.content
        data = content if isinstance(content, bytes) else str(content).encode()
        (self.folder / f"{next(self.numbers):05d}.eml").write_bytes(data)
        return "250 kept"


def catcher(port: int, folder: Path) -> Controller:
    """A mail server on loopback; the caller starts and stops it."""
    return Controller(Kept(folder), hostname="127.0.0.1", port=port)


def main() -> None:
    """Catch mail until told to end."""
    parser = argparse.ArgumentParser(prog="standins.mail")
    parser.add_argument("--port", type=int, required=True)
    parser.add_argument("--folder", type=Path, required=True)
    options = parser.parse_args()
    controller = catcher(options.port, options.folder)
    controller.start()
    ends = asyncio.Event()

    async def wait() -> None:
        for number in (signal.SIGTERM, signal.SIGINT):
            asyncio.get_running_loop().add_signal_handler(number, ends.set)
        await ends.wait()

    asyncio.run(wait())
    controller.stop()


if __name__ == "__main__":
    main()
