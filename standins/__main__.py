"""Run simulated instruments: `python -m standins --server URL --code CODE KIT`, or several by `--config FILE`."""

import argparse
import json
import sys
import threading
from datetime import UTC, datetime, timedelta
from pathlib import Path

from standins.kit import load, shipped
from standins.post import Poster, Refused, pair
from yoshi_core.errors import InvalidInput


def main() -> int:
    parser = argparse.ArgumentParser(prog="standins", description=__doc__)
    parser.add_argument("kit", nargs="?", help=f"a kit file, or one of: {', '.join(shipped())}")
    parser.add_argument("--server", default="http://127.0.0.1:8420")
    parser.add_argument("--code", help="the pairing code shown in Yoshi")
    parser.add_argument("--back", type=float, default=0.0, help="the scenario began so many minutes ago")
    parser.add_argument("--stop-now", action="store_true", help="post the past and end")
    parser.add_argument("--config", type=Path, help="a JSON list of {token, kit, begins}, as the server writes it for its demo")
    given = parser.parse_args()
    try:
        if given.config:
            return _several(given.server, given.config)
        if not (given.kit and given.code):
            parser.error("name a kit and give the pairing code")
        kit = load(given.kit)
        now = datetime.now(UTC)
        poster = Poster(given.server, pair(given.server, given.code, kit), kit, now - timedelta(minutes=given.back), quiet=False)
        print(f"{kit.name}: paired.", flush=True)
        print(f"{poster.run(now if given.stop_now else None)} readings accepted.", flush=True)
    except (InvalidInput, Refused) as error:
        print(error, file=sys.stderr)
        return 2
    except KeyboardInterrupt:
        pass
    return 0


def _several(server: str, config: Path) -> int:
    posters = [
        Poster(server, row["token"], load(row["kit"]), datetime.fromisoformat(row["begins"])) for row in json.loads(config.read_text())
    ]
    threads = [threading.Thread(target=poster.run, daemon=True) for poster in posters]
    for thread in threads:
        thread.start()
    for thread in threads:
        while thread.is_alive():
            thread.join(1.0)
    return 0


if __name__ == "__main__":
    sys.exit(main())
