"""Kills writers without warning and looks whether all that they acknowledged is kept.

    python kills.py FOLDER TURNS [SEED]

Every turn a process edits a plan and adds a row to a log as fast as it can, and says each revision once
both are saved; every tenth one first sets the database aside. It is killed at any moment; then the
database and every copy beside it are opened and checked. Run by the tests for 30 turns, by `make soak`
for 1,000.
"""

import json
import os
import random
import signal
import sqlite3
import sys
import time
from collections.abc import Iterator
from contextlib import closing
from datetime import datetime
from pathlib import Path
from typing import TextIO

from weary_cedar.core.log.session import SessionRow, begun
from weary_cedar.demo import demo_plan
from weary_cedar.store.database import FILE_NAME, DataFolder
from weary_cedar.store.log import LogStore
from weary_cedar.store.plans import PlanStore

PLAN = "foothill-house"
#: Every so many turns the database is set aside first.
SET_ASIDE_EVERY = 10


def write(folder: Path, told: TextIO, set_aside: bool) -> None:
    """What a child does until it is killed."""
    print("opening", file=told, flush=True)
    opened = DataFolder(folder)
    store = PlanStore(opened.open(set_aside=set_aside))
    if store.never_used():
        store.create(demo_plan())
    plan = store.get(PLAN)
    log, begins = LogStore(store.sessions), datetime(2026, 10, 13, 18)
    session = log.begin(PLAN, plan.revision, plan.document, begun(plan.plan, "Storm", begins))
    while True:
        order = plan.plan.circuits["bath"].order % 900 + 1
        plan = store.edit(PLAN, plan.revision, {"circuits": {"bath": {"order": order}}})
        row = SessionRow(id=f"r{plan.revision}", at=begins, entered=begins, kind="remark", told=str(order))
        log.add(PLAN, session, [row])
        print(plan.revision, order, file=told, flush=True)


def turn(folder: Path, chance: random.Random, set_aside: bool) -> tuple[int, int] | None:
    """Let one child write, kill it; returns the last revision and order that it acknowledged."""
    read, sent = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(read)
        write(folder, os.fdopen(sent, "w"), set_aside)
    os.close(sent)
    with os.fdopen(read) as told:
        told.readline()
        time.sleep(chance.uniform(0, 0.5))
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)
        lines = told.read().splitlines()
    return tuple(map(int, lines[-1].split())) if lines else None  # type: ignore[return-value]


def orders(file: Path) -> Iterator[tuple[int, int]]:
    """(revision, order) of every revision in a database that is whole."""
    with closing(sqlite3.connect(f"file:{file}?mode=rw", uri=True)) as raw:
        assert raw.execute("PRAGMA integrity_check").fetchone() == ("ok",), file
        for number, document in raw.execute("SELECT number, document FROM revisions"):
            yield number, json.loads(document)["circuits"]["bath"].get("order", 50)


def rows(file: Path) -> set[str]:
    """Ids of all rows of logs."""
    with closing(sqlite3.connect(f"file:{file}?mode=rw", uri=True)) as raw:
        return {key for (key,) in raw.execute("SELECT row_id FROM log_rows")}


def main() -> None:
    folder, turns = Path(sys.argv[1]), int(sys.argv[2])
    chance = random.Random(int(sys.argv[3]) if len(sys.argv) > 3 else 7)
    acknowledged, copies = 0, 0
    last: tuple[int, int] | None = None
    for number in range(turns):
        set_aside = number % SET_ASIDE_EVERY == SET_ASIDE_EVERY - 1
        said = turn(folder, chance, set_aside)
        kept = set(orders(folder / FILE_NAME)) if (folder / FILE_NAME).exists() else set()
        found = sorted(folder.glob("*.copy"))
        aside = {item for copy in found for item in orders(copy)}
        for whose in (last, said):
            assert whose is None or whose in kept | aside, (number, whose)
        if said is not None and not set_aside:
            assert said in kept, (number, said)
            assert f"r{said[0]}" in rows(folder / FILE_NAME), (number, said)
            acknowledged += said[0] - (last[0] if last and last[0] < said[0] else 0)
        copies += len(found)
        for copy in found:
            copy.unlink()
        last = said if said in kept else None
    print(f"{turns} kills, {acknowledged} acknowledged edits kept, {copies} copies opened and whole")


if __name__ == "__main__":
    main()
