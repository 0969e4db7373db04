"""Faults: power cut while saving, disk full, two servers, a damaged file, a migration."""

import json
import os
import shutil
import signal
import sqlite3
import subprocess
import sys
import urllib.request
from pathlib import Path

import pytest
from conftest import Server
from sqlalchemy import event, text

from weary_cedar.core.errors import CannotStore
from weary_cedar.demo import demo_plan
from weary_cedar.store.database import FILE_NAME, DataFolder
from weary_cedar.store.plans import PlanStore

#: Forks a writer 200 times, kills it without warning, and looks whether what it told is kept.
WRITER = """
import os, random, signal, sys, time
from pathlib import Path
from weary_cedar.store.database import DataFolder
from weary_cedar.store.plans import PlanStore
where, chance = Path(sys.argv[1]), random.Random(7)
for turn in range(200):
    read, write = os.pipe()
    child = os.fork()
    if child == 0:
        store = PlanStore(DataFolder(where).open())
        plan = store.get("foothill-house")
        while True:
            order = plan.plan.circuits["bath"].order % 900 + 1
            plan = store.edit(plan.id, plan.revision, {"circuits": {"bath": {"order": order}}})
            os.write(write, f"{plan.revision} {order}\\n".encode())
    os.close(write)
    told = os.fdopen(read)
    last = told.readline()
    time.sleep(chance.uniform(0, 0.03))
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    last = (told.readlines() or [last])[-1]
    revision, order = map(int, last.split())
    folder = DataFolder(where)
    plan = PlanStore(folder.open()).get("foothill-house")
    folder.close()
    assert plan.revision in (revision, revision + 1), (turn, plan.revision, revision)
    expected = order if plan.revision == revision else order % 900 + 1
    assert plan.plan.circuits["bath"].order == expected, turn
print("kept", revision)
"""


def test_kill_during_a_stream_of_edits(tmp_path: Path) -> None:
    """200 times: a writer is killed with no warning; every edit that it acknowledged is there."""
    folder = DataFolder(tmp_path)
    PlanStore(folder.open()).create(demo_plan())
    folder.close()
    done = subprocess.run(
        [sys.executable, "-c", WRITER, str(tmp_path)],
        capture_output=True,
        text=True,
        timeout=300,
        check=False,
    )
    assert done.returncode == 0, done.stderr
    assert done.stdout.startswith("kept ")


def test_kill_of_the_server(server: Server) -> None:
    edit = json.dumps({"circuits": {"bath": {"mark": "keep"}}}).encode()
    at = f"{server.address}/api/plans/foothill-house"
    asked = urllib.request.Request(
        at, edit, {"If-Match": '"1"', "Content-Type": "application/json"}, method="PATCH"
    )
    assert urllib.request.urlopen(asked).status == 200
    server.stop(signal.SIGKILL)
    kept = json.load(urllib.request.urlopen(f"{server.start()}/api/plans/foothill-house"))
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


def test_a_copy_is_kept_before_a_migration(tmp_path: Path) -> None:
    folder = DataFolder(tmp_path)
    PlanStore(folder.open()).create(demo_plan())
    folder.close()
    with sqlite3.connect(tmp_path / FILE_NAME) as raw:
        raw.execute("UPDATE alembic_version SET version_num = '0000'")
    raw.close()
    with pytest.raises(CannotStore, match="brought up to date"):
        DataFolder(tmp_path).open()
    copies = list(tmp_path.glob("*.copy"))
    assert len(copies) == 1
    with sqlite3.connect(copies[0]) as kept:
        assert kept.execute("SELECT count(*) FROM plans").fetchone() == (1,)
    kept.close()


def test_foreign_keys_and_write_ahead_log(folder: DataFolder) -> None:
    assert folder.engine is not None
    with folder.engine.connect() as connection:
        assert connection.execute(text("PRAGMA foreign_keys")).scalar_one() == 1
        assert connection.execute(text("PRAGMA journal_mode")).scalar_one() == "wal"


def test_reset_demo_sets_the_old_file_aside(tmp_path: Path) -> None:
    folder = DataFolder(tmp_path)
    PlanStore(folder.open()).create(demo_plan())
    folder.close()
    anew = DataFolder(tmp_path)
    assert PlanStore(anew.open(set_aside=True)).entries() == []
    anew.close()
    assert any("set-aside" in path.name for path in tmp_path.iterdir())
