"""A restore rehearsed: what comes back is what was there, to the last row and the last bit of every mass."""

import shutil
import subprocess
import threading
import time
from datetime import UTC, datetime
from pathlib import Path

import pytest

from ops import admin, backup, database, doctor, setup
from ops.backup import of_instance
from ops.console import Trouble
from ops.installation import Installation, Settings


@pytest.fixture(scope="module")
def taken(installed: Installation, tmp_path_factory: pytest.TempPathFactory) -> Path:
    return backup.backup(installed, tmp_path_factory.mktemp("backups"))


def test_a_backup_comes_back_with_every_figure(installed: Installation, taken: Path, empty: Installation) -> None:
    before = of_instance(installed.instance).figures()
    assert before["rows"]["jobs_job"] > 10
    assert before["mass"]
    backup.restore(empty, taken)
    assert of_instance(empty.instance).figures() == before
    with pytest.raises(Trouble, match="is not empty"):
        backup.restore(empty, taken)


def test_a_backup_taken_in_use_is_of_one_moment(installed: Installation, empty: Installation, tmp_path: Path) -> None:
    """While it is taken, pairs of rows are written in one transaction each: no pair comes back as a half."""
    instance, ends = installed.instance, threading.Event()
    instance.sql(f"CREATE TABLE {database.NAME}.pairs (id INT AUTO_INCREMENT PRIMARY KEY, n INT)")

    def write() -> None:
        client = ["mariadb", "--no-defaults", f"--socket={instance.socket}", "--user=root", database.NAME]
        with subprocess.Popen(client, stdin=subprocess.PIPE, text=True) as process:
            assert process.stdin is not None
            for n in range(100_000):
                if ends.is_set():
                    break
                process.stdin.write(f"BEGIN; INSERT INTO pairs (n) VALUES ({n}); INSERT INTO pairs (n) VALUES ({n}); COMMIT;\n")
                process.stdin.flush()
                time.sleep(0.002)

    writer = threading.Thread(target=write)
    writer.start()
    try:
        time.sleep(0.3)
        file = backup.backup(installed, tmp_path / "in-use")
    finally:
        ends.set()
        writer.join()
    backup.restore(empty, file)
    halves = of_instance(empty.instance).ask("SELECT COUNT(*) FROM (SELECT n FROM pairs GROUP BY n HAVING COUNT(*) <> 2) x")
    some = of_instance(empty.instance).ask("SELECT COUNT(*) FROM pairs")
    instance.sql(f"DROP TABLE {database.NAME}.pairs")
    assert halves == [["0"]]
    assert int(some[0][0]) > 20


def test_it_goes_on_to_a_moment_between_two_changes(installed: Installation, empty: Installation, tmp_path: Path) -> None:
    instance = installed.instance
    instance.sql(f"CREATE TABLE {database.NAME}.notes (word VARCHAR(20))")
    file = backup.backup(installed, tmp_path / "before")
    instance.sql(f"INSERT INTO {database.NAME}.notes VALUES ('kept')")
    time.sleep(1.1)
    moment = datetime.now(UTC).strftime("%Y-%m-%d %H:%M:%S")
    time.sleep(1.1)
    instance.sql(f"INSERT INTO {database.NAME}.notes VALUES ('a slip')")
    backup.restore(empty, file, until=moment, binlogs=instance.binlogs)
    found = of_instance(empty.instance).ask("SELECT word FROM notes")
    instance.sql(f"DROP TABLE {database.NAME}.notes")
    assert found == [["kept"]]


def test_a_later_moment_takes_the_binary_logs(taken: Path, empty: Installation) -> None:
    with pytest.raises(Trouble, match="takes the binary logs"):
        backup.restore(empty, taken, until="2030-01-01 00:00:00")


def test_an_encrypted_backup_opens_with_its_key_alone(installed: Installation, empty: Installation, tmp_path: Path) -> None:
    made = [subprocess.run(["age-keygen"], capture_output=True, text=True, check=True).stdout for _ in range(2)]
    for n, text in enumerate(made):
        (tmp_path / f"key{n}").write_text(text)
    recipient = next(line.partition(": ")[2] for line in made[0].splitlines() if line.startswith("# public key"))
    file = backup.backup(installed, tmp_path / "secret", encrypt_to=recipient)
    assert file.suffix == ".age"
    assert b"Ridge Cooling" not in file.read_bytes()
    with pytest.raises(Trouble, match="cannot be read as a backup"):
        backup.check(file)
    with pytest.raises(Trouble, match="Decryption failed"):
        backup.restore(empty, file, identity=str(tmp_path / "key1"))
    backup.restore(empty, file, identity=str(tmp_path / "key0"))
    assert of_instance(empty.instance).figures()["rows"]["accounts_shop"] == 2


def test_a_damaged_or_short_backup_is_not_taken_for_one(taken: Path, empty: Installation, tmp_path: Path) -> None:
    whole = taken.read_bytes()
    for name, content in (
        ("short", whole[: len(whole) // 2]),
        ("bent", whole[:-5000] + bytes(byte ^ 0xFF for byte in whole[-5000:-4950]) + whole[-4950:]),  # a run of zeros packs to zeros
        ("nothing", b"x" * 100),
    ):
        file = tmp_path / name
        file.write_bytes(content)
        with pytest.raises(Trouble):
            backup.restore(empty, file)
        assert not empty.instance.data.exists(), name
    with pytest.raises(Trouble, match="There is no"):
        backup.check(tmp_path / "nowhere")


def test_a_dump_of_a_server_elsewhere_comes_back_too(installed: Installation, empty: Installation, tmp_path: Path) -> None:
    there = Installation(tmp_path / "there")
    there.keep(Settings(installed.settings.url, server=installed.database()))
    file = backup.backup(there, tmp_path / "dumps")
    with pytest.raises(Trouble, match="is not empty"):
        backup.restore(there, file)
    empty.ensure_database()
    into = Installation(tmp_path / "into")
    into.keep(Settings(installed.settings.url, server=empty.database()))
    backup.restore(into, file)
    assert of_instance(empty.instance).figures() == of_instance(installed.instance).figures()


def test_a_failed_upgrade_goes_back_to_what_was(
    installed: Installation, taken: Path, empty: Installation, monkeypatch: pytest.MonkeyPatch
) -> None:
    backup.restore(empty, taken)
    before = of_instance(empty.instance).figures()

    def half(what: str, *_: object, **__: object) -> None:
        if what == "Database migration":
            empty.instance.sql(f"DROP TABLE {database.NAME}.jobs_keptrecord")
            raise Trouble("the migration broke off")
        raise AssertionError(what)

    for name in ("set_up", "debian_packages", "build_web"):
        monkeypatch.setattr(setup, name, lambda *_: None)
    monkeypatch.setattr(admin, "run", half)
    assert admin.main(["--data", str(empty.folder), "upgrade"]) == 1
    assert of_instance(empty.instance).figures() == before
    assert list(empty.folder.glob("db-failed-*")), "what failed is kept to be looked into"


def test_the_doctor_says_what_is_well_and_what_is_not(installed: Installation, capsys: pytest.CaptureFixture[str]) -> None:
    assert doctor.doctor(installed) == 1
    said = capsys.readouterr().out
    assert "WRONG  TLS" in said
    assert "well   database: answers" in said
    assert "WRONG  last backup" in said
    shutil.rmtree(installed.folder / "backups", ignore_errors=True)
    backup.backup(installed, installed.folder / "backups")
    (installed.folder / "secret-key").chmod(0o644)
    doctor.doctor(installed)
    said = capsys.readouterr().out
    assert "well   last backup" in said
    assert "WRONG  settings: others on this machine can read the secret key" in said
    (installed.folder / "secret-key").chmod(0o600)
