"""Faults: power cut while saving, disk full, two servers, a damaged file, a migration."""

import json
import os
import re
import shutil
import signal
import socket
import sqlite3
import subprocess
import sys
import threading
import time
import urllib.request
from contextlib import closing
from pathlib import Path

import pytest
from alembic import command
from alembic.script import ScriptDirectory
from alembic.util.exc import CommandError
from serving import LATEST_S, OwnServer
from sqlalchemy import create_engine, event, text

from weary_cedar.core.errors import Busy, CannotStore
from weary_cedar.demo import demo_plan
from weary_cedar.store.database import FILE_NAME, DataFolder
from weary_cedar.store.plans import PlanStore

KILLS = Path(__file__).parent / "kills.py"


def test_kill_during_a_stream_of_edits(tmp_path: Path) -> None:
    """30 times: a writer is killed with no warning; every edit that it acknowledged is there."""
    command = [sys.executable, str(KILLS), str(tmp_path), "30"]
    done = subprocess.run(command, capture_output=True, text=True, timeout=300, check=False)
    assert done.returncode == 0, done.stderr
    told = re.match(r"30 kills, (\d+) acknowledged edits kept, (\d+) copies opened and whole", done.stdout)
    assert told, done.stdout
    assert int(told[1]) > 30


def test_kill_of_the_server(own_server: OwnServer) -> None:
    edit = json.dumps({"circuits": {"bath": {"mark": "keep"}}}).encode()
    at = f"{own_server.address}/api/plans/foothill-house"
    asked = urllib.request.Request(
        at, edit, {"If-Match": '"1"', "Content-Type": "application/json"}, method="PATCH"
    )
    assert urllib.request.urlopen(asked).status == 200
    own_server.stop(signal.SIGKILL)
    kept = json.load(urllib.request.urlopen(f"{own_server.start()}/api/plans/foothill-house"))
    assert (kept["revision"], kept["plan"]["circuits"]["bath"]["mark"]) == (2, "keep")


def test_disk_full_is_told_and_the_old_revision_stays(folder: DataFolder, store: PlanStore) -> None:
    """SQLite is held to the pages it has: the next write meets a full disk."""
    plan = store.create(demo_plan())
    assert folder.engine is not None
    with folder.engine.connect() as connection:
        pages = connection.execute(text("PRAGMA page_count")).scalar_one()
    folder.engine.dispose()

    @event.listens_for(folder.engine, "connect")
    def _hold(connection: sqlite3.Connection, _record: object) -> None:
        connection.execute(f"PRAGMA max_page_count={pages}")

    for number in range(2, 200):
        last = plan
        try:
            plan = store.edit(plan.id, plan.revision, {"circuits": {"bath": {"order": number}}})
        except CannotStore as error:
            told = error
            break
    else:
        pytest.fail("the disk never became full")
    assert "full" in str(told)
    assert "is kept" in str(told)
    assert "room on the disk" in told.problems[0].right
    assert store.get(plan.id) == last


def test_two_servers_on_one_folder(tmp_path: Path) -> None:
    first, second = DataFolder(tmp_path), DataFolder(tmp_path)
    first.open()
    with pytest.raises(CannotStore, match="another server uses it"):
        second.open()
    first.close()
    second.open()
    second.close()


def test_a_damaged_file_is_reported_with_its_copy(tmp_path: Path) -> None:
    folder = DataFolder(tmp_path)
    store = PlanStore(folder.open())
    for _ in range(30):
        store.create(demo_plan())
    copy = folder.copy("by-hand")
    folder.close()
    with (tmp_path / FILE_NAME).open("r+b") as file:
        file.seek(4096)
        file.write(os.urandom(20_000))
    with pytest.raises(CannotStore, match="damaged") as told:
        DataFolder(tmp_path).open()
    assert copy.name in str(told.value)
    shutil.copy(copy, tmp_path / FILE_NAME)
    again = DataFolder(tmp_path)
    assert len(PlanStore(again.open()).entries()) == 30
    again.close()
    (tmp_path / FILE_NAME).write_bytes(b"not a database at all" * 300)
    with pytest.raises(CannotStore, match="damaged"):
        DataFolder(tmp_path).open()


def set_version(folder: Path, version: str) -> None:
    with closing(sqlite3.connect(folder / FILE_NAME)) as raw, raw:
        raw.execute("UPDATE alembic_version SET version_num = ?", (version,))


def test_a_newer_database_is_refused_and_leaves_one_copy(tmp_path: Path) -> None:
    folder = DataFolder(tmp_path)
    PlanStore(folder.open()).create(demo_plan())
    folder.close()
    set_version(tmp_path, "9999")
    for _ in range(3):
        with pytest.raises(CannotStore, match="a newer Weary Cedar wrote it"):
            DataFolder(tmp_path).open()
    (copy,) = tmp_path.glob("*.copy")
    with closing(sqlite3.connect(copy)) as kept:
        assert kept.execute("SELECT count(*) FROM plans").fetchone() == (1,)


def test_a_copy_is_kept_before_a_migration(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A step that fails leaves the database as it was, with a checked copy beside it."""
    folder = DataFolder(tmp_path)
    PlanStore(folder.open()).create(demo_plan())
    folder.close()
    monkeypatch.setattr(ScriptDirectory, "get_current_head", lambda _self: "0099")

    def fails(*_given: object) -> None:
        raise CommandError("no such step")

    monkeypatch.setattr(command, "upgrade", fails)
    with pytest.raises(CannotStore, match=r"could not be brought up to date .no such step"):
        DataFolder(tmp_path).open()
    (copy,) = tmp_path.glob("*-before-0099.copy")
    monkeypatch.undo()
    assert PlanStore(DataFolder(tmp_path).open()).get("foothill-house").plan == demo_plan()
    with closing(sqlite3.connect(copy)) as kept:
        assert kept.execute("SELECT count(*) FROM revisions").fetchone() == (1,)


def test_foreign_keys_and_write_ahead_log(folder: DataFolder) -> None:
    assert folder.engine is not None
    with folder.engine.connect() as connection:
        assert connection.execute(text("PRAGMA foreign_keys")).scalar_one() == 1
        assert connection.execute(text("PRAGMA journal_mode")).scalar_one() == "wal"


def test_reset_demo_sets_a_whole_copy_aside(tmp_path: Path) -> None:
    """As after a power cut: the last edits are in the journal only; the copy has them."""
    folder = DataFolder(tmp_path)
    plan = PlanStore(folder.open()).create(demo_plan())
    PlanStore(folder.engine).edit(plan.id, 1, {"circuits": {"bath": {"mark": "keep"}}})  # type: ignore[arg-type]
    assert (tmp_path / f"{FILE_NAME}-wal").stat().st_size > 0
    for held in folder._locks:
        os.close(held)
    anew = DataFolder(tmp_path)
    assert PlanStore(anew.open(set_aside=True)).entries() == []
    assert anew.fresh
    assert "1 plans, 2 revisions, opened and checked" in anew.set_aside
    (copy,) = tmp_path.glob("*-set-aside.copy")
    (tmp_path / "kept").mkdir()
    shutil.copy(copy, tmp_path / "kept" / FILE_NAME)
    kept = PlanStore(DataFolder(tmp_path / "kept").open()).get(plan.id)
    assert (kept.revision, kept.plan.circuits["bath"].mark) == (2, "keep")


def test_reset_demo_of_a_damaged_file_moves_all_of_it(tmp_path: Path) -> None:
    (tmp_path / FILE_NAME).write_bytes(b"not a database at all" * 300)
    (tmp_path / f"{FILE_NAME}-wal").write_bytes(b"journal")
    folder = DataFolder(tmp_path)
    folder.open(set_aside=True)
    assert "damaged, its files moved as they were" in folder.set_aside
    folder.close()
    moved = {path.name.rsplit("-damaged", 1)[1] for path in tmp_path.glob("*damaged*")}
    assert moved == {".copy", ".copy-wal"}


def test_a_lock_file_that_was_deleted_lets_nobody_in(tmp_path: Path) -> None:
    first = DataFolder(tmp_path)
    first.open()
    (tmp_path / "in-use.lock").unlink()
    with pytest.raises(CannotStore, match="another server uses it"):
        DataFolder(tmp_path).open()
    first.close()


@pytest.mark.parametrize("name", ["what?mode=memory", "50%20off", "a%s#b", "plain"])
def test_the_database_stays_in_its_folder(tmp_path: Path, name: str) -> None:
    for _ in range(2):
        folder = DataFolder(tmp_path / name)
        PlanStore(folder.open()).create(demo_plan())
        folder.close()
    assert {path.name for path in tmp_path.iterdir()} == {name}
    assert {path.name for path in (tmp_path / name).iterdir()} == {FILE_NAME, "in-use.lock"}


def test_what_is_no_database_of_ours_is_reported(tmp_path: Path) -> None:
    file = tmp_path / FILE_NAME
    file.touch()
    with pytest.raises(CannotStore, match="the file is empty"):
        DataFolder(tmp_path).open()
    file.unlink()
    with closing(sqlite3.connect(file)) as raw, raw:
        raw.execute("CREATE TABLE others (x)")
    with pytest.raises(CannotStore, match="of another program"):
        DataFolder(tmp_path).open()
    file.unlink()
    (tmp_path / f"{FILE_NAME}-wal").write_bytes(b"left over")
    with pytest.raises(CannotStore, match=r"its journal .-wal. is there but the database is not"):
        DataFolder(tmp_path).open()
    assert not list(tmp_path.glob("*.copy"))


def test_a_locked_database_answers_reads_and_takes_the_edit_when_it_is_free(
    folder: DataFolder, store: PlanStore, monkeypatch: pytest.MonkeyPatch
) -> None:
    plan = store.create(demo_plan())
    other = sqlite3.connect(folder.file, isolation_level=None, check_same_thread=False)
    other.execute("BEGIN EXCLUSIVE")
    assert store.get(plan.id) == plan
    assert [entry.id for entry in store.entries()] == [plan.id]
    threading.Timer(1, lambda: other.execute("COMMIT")).start()
    saved = store.edit(plan.id, 1, {"circuits": {"bath": {"mark": "keep"}}})
    assert saved.revision == 2
    other.execute("BEGIN EXCLUSIVE")
    assert folder.engine is not None
    folder.engine.dispose()
    impatient = PlanStore(create_engine(folder.engine.url, connect_args={"timeout": 0.1}))
    with pytest.raises(Busy, match="another program has held the database") as told:
        impatient.delete(plan.id)
    assert "the other program to let go" in told.value.problems[0].right
    other.execute("ROLLBACK")
    other.close()


def test_sigterm_ends_whatever_goes_on(own_server: OwnServer) -> None:
    """Half-sent bodies are open and runs that take long go on; the journal is in the file afterwards."""
    host, port = own_server.address.removeprefix("http://").split(":")
    open_ones = []
    for head in ("PATCH /api/plans/foothill-house", "POST /api/meter/propose", "POST /api/run"):
        half = socket.create_connection((host, int(port)))
        half.sendall(f"{head} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 900\r\n\r\n{{".encode())
        open_ones.append(half)
    heavy = demo_plan().model_dump(mode="json", exclude_none=True)
    heavy["loads"]["fridge"]["behaviour"]["period_s"] = 10.0
    heavy["outage"]["length_s"] = 31 * 86_400.0
    heavy["stations"]["station"]["cell_wh"] = 900_000.0
    body = json.dumps(heavy)
    for _ in range(4):
        asking = socket.create_connection((host, int(port)))
        head = f"POST /api/run HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: {len(body.encode())}\r\n\r\n"
        asking.sendall(head.encode() + body.encode())
        open_ones.append(asking)
    time.sleep(0.6)
    assert own_server.process is not None
    own_server.process.terminate()
    assert own_server.process.wait(LATEST_S) == 0
    assert {path.name for path in own_server.data.iterdir()} == {FILE_NAME, "in-use.lock"}
    for one in open_ones:
        one.close()
