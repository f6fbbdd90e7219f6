"""Simulated instruments: every shipped kit runs, and each posts wrongly just as it says."""

import json
import urllib.request
from datetime import UTC, datetime, timedelta
from email.message import Message
from io import BytesIO
from pathlib import Path
from typing import Any
from urllib.error import HTTPError

import pytest

from standins import post as posting
from standins.kit import COLUMNS, Spoiler, Wrong, load, shipped
from standins.post import Poster, Refused, SentAway, pair
from yoshi_core.errors import InvalidInput
from yoshi_core.instruments.channels import read

BEGINS = datetime(2026, 6, 18, 15, 0, tzinfo=UTC)
NAMED = {
    "tight", "moist", "leaking", "both", "plugged-port", "oil-laden", "dying-battery", "drifting-zero", "dropped-and-repeated", "clock-an-hour-off",
}  # fmt: skip


def test_every_named_fault_ships_as_a_kit() -> None:
    assert set(shipped()) >= NAMED


@pytest.mark.parametrize("name", shipped())
def test_a_kit_says_only_what_its_channels_take(name: str) -> None:
    kit = load(name)
    named = {i["key"]: i["channel"] for i in kit.describe()}
    moments = kit.readings(BEGINS)
    for _ in range(40):
        _, rows = next(moments)
        for row in rows:
            assert row["instrument"] in COLUMNS
            read(named[row["instrument"]], row["value"], row["unit"])


def test_a_kit_gives_the_same_at_every_run() -> None:
    first, again = ([rows for _, rows in zip(range(30), load("moist").readings(BEGINS), strict=False)] for _ in range(2))
    assert first == again


def test_a_battery_dies_and_a_clock_is_off() -> None:
    dying = [at for at, _ in load("dying-battery").readings(BEGINS)]
    assert (dying[-1] - BEGINS).total_seconds() <= 3600
    _, [row] = next(load("clock-an-hour-off").readings(BEGINS))
    assert datetime.fromisoformat(row["at"]) - BEGINS > timedelta(minutes=59)


def test_posts_that_are_lost_come_later_and_some_come_twice() -> None:
    spoiler = Spoiler(Wrong(drop_share=0.4, repeat_share=0.4, garbage_share=0.2), seed=3)
    sent = [batch for n in range(200) for batch in spoiler.batches([{"n": n}])]
    numbers = [row["n"] for batch in sent for row in batch if "n" in row]
    assert set(numbers) >= set(range(195))
    assert len(numbers) > len(set(numbers))
    assert any("n" not in row for batch in sent for row in batch)


@pytest.mark.parametrize(
    ("plain", "said"),
    [
        ('{"name": "x"}', "names its scenario"),
        ('{"scenario": "vacuum-tight", "wings": 2}', "no 'wings' in a kit"),
        ("{", "not JSON"),
        ('{"scenario": "no-such"}', "There is no scenario"),
    ],
)
def test_a_kit_that_is_none_is_refused(tmp_path: Path, plain: str, said: str) -> None:
    path = tmp_path / "kit.json"
    path.write_text(plain)
    with pytest.raises(InvalidInput, match=said):
        load(str(path))
    with pytest.raises(InvalidInput, match="There is no kit"):
        load("no-such-kit")


def test_what_does_not_get_through_is_posted_again_in_order(monkeypatch: pytest.MonkeyPatch) -> None:
    taken: list[list[dict[str, Any]]] = []
    fails = iter([True, True, False] + [False] * 1000)

    def answer(url: str, body: Any, token: str = "") -> dict[str, Any]:
        if next(fails):
            raise OSError("down")
        taken.append(body["readings"])
        return {"accepted": len(body["readings"]), "refused": []}

    monkeypatch.setattr(posting, "_post", answer)
    begins = datetime.now(UTC) - timedelta(minutes=5)
    poster = Poster("http://nowhere", "t", load("tight"), begins, pause_s=0.0)
    accepted = poster.run(datetime.now(UTC))
    accepted += poster._send([])
    accepted += poster._send([])
    rows = [row["at"] for batch in taken for row in batch]
    assert accepted == len(rows) == len(set(rows))
    assert rows == sorted(rows)
    assert accepted >= 148


def test_a_refusal_is_told(monkeypatch: pytest.MonkeyPatch) -> None:
    def refuse(url: str, body: Any, token: str = "") -> dict[str, Any]:
        raise Refused("422: This code is not good")

    monkeypatch.setattr(posting, "_post", refuse)
    with pytest.raises(Refused, match="not good"):
        pair("http://nowhere", "ABC", load("tight"))


def test_a_batch_that_is_never_taken_is_put_aside_and_the_rest_goes_on(monkeypatch: pytest.MonkeyPatch) -> None:
    taken: list[Any] = []

    def answer(url: str, body: Any, token: str = "") -> dict[str, Any]:
        if len(taken) == 1:
            taken.append(None)
            raise Refused("422: no time of ours")
        taken.append(body["readings"])
        return {"accepted": len(body["readings"]), "refused": []}

    monkeypatch.setattr(posting, "_post", answer)
    monkeypatch.setattr(posting, "MOST_ROWS", 40)
    poster = Poster("http://nowhere", "t", load("tight"), datetime.now(UTC) - timedelta(minutes=5), pause_s=0.0)
    accepted = poster.run(datetime.now(UTC))
    assert len(taken) > 3
    assert len(poster.refused) == 1
    assert accepted == sum(len(batch) for batch in taken if batch)
    assert poster.unsent == []


@pytest.mark.parametrize(
    ("status", "raised"),
    [
        (400, Refused),
        (401, SentAway),
        (403, SentAway),
        (408, OSError),
        (413, Refused),
        (422, Refused),
        (429, OSError),
        (500, OSError),
        (503, OSError),
    ],
)
@pytest.mark.parametrize("said", [b'{"detail": "no"}', b"<html>", b""])
def test_never_is_told_from_later(monkeypatch: pytest.MonkeyPatch, status: int, raised: type[Exception], said: bytes) -> None:
    def urlopen(*of: Any, **more: Any) -> Any:
        raise HTTPError("http://nowhere", status, "words", Message(), BytesIO(said))

    monkeypatch.setattr(urllib.request, "urlopen", urlopen)
    with pytest.raises(raised) as caught:
        posting._post("http://nowhere", {})
    assert type(caught.value) is raised
    assert ("no" if b"no" in said else "words") in str(caught.value)


def test_a_kit_sent_away_stops(monkeypatch: pytest.MonkeyPatch) -> None:
    def away(url: str, body: Any, token: str = "") -> dict[str, Any]:
        raise SentAway("401: sent away")

    monkeypatch.setattr(posting, "_post", away)
    with pytest.raises(SentAway):
        Poster("http://nowhere", "t", load("tight"), datetime.now(UTC) - timedelta(minutes=5), pause_s=0.0).run(datetime.now(UTC))


def test_kits_are_open_files() -> None:
    for path in (Path(posting.__file__).parent / "kits").glob("*.json"):
        assert "scenario" in json.loads(path.read_text())
