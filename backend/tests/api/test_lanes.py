"""Work in other processes: deadlines, memory, visitors who leave, and that nothing delays another."""

import asyncio
import json
import threading
import time
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path
from typing import Any

import pytest
from builders import circuit, cycling, house, load
from fastapi.testclient import TestClient
from lane_jobs import hoards, refuses, spins, spins_until
from serving import LATEST_S

from weary_cedar.api import lanes as module
from weary_cedar.api.app import make_app
from weary_cedar.api.lanes import VISIT, Lane, Lanes, Left, Visit
from weary_cedar.core.errors import Busy, InvalidInput, Problem, TookTooLong, WearyCedarError
from weary_cedar.store.database import DataFolder


@pytest.fixture
def short(monkeypatch: pytest.MonkeyPatch) -> Iterator[Lanes]:
    """Lanes of one process each, with short deadlines."""
    monkeypatch.setattr(module, "QUICK_WORKERS", 1)
    monkeypatch.setattr(module, "SLOW_WORKERS", 1)
    monkeypatch.setattr(module, "QUICK_S", 0.3)
    monkeypatch.setattr(module, "SLOW_S", 1.5)
    running = Lanes()
    running.run("x", spins, 0)
    yield running
    running.stop()


def test_what_is_slow_is_begun_again_and_has_a_deadline(short: Lanes) -> None:
    assert short.run("plan", spins, 0.8) == "done"
    with pytest.raises(TookTooLong, match="stopped after 2 s") as told:
        short.run("plan", spins, 60)
    assert told.value.problems[0].value == "plan"
    assert short.run("other", spins, 0) == "done"


def test_memory_is_bounded_and_errors_come_back_whole(short: Lanes) -> None:
    with pytest.raises(TookTooLong, match="more memory"):
        short.run("plan", hoards, 4_000)
    with pytest.raises(InvalidInput) as refused:
        short.run("plan", refuses, "")
    assert refused.value.problems == (Problem("/x", "1", "2"),)


def test_a_process_that_ended_while_idle_is_replaced(short: Lanes) -> None:
    """It says nothing about the plan that comes next."""
    for worker in list(short._quick._all):
        worker.end()
        worker._process.join()
    assert short.run("plan", spins, 0) == "done"


def test_nobody_waits_so_nothing_is_worked_out(short: Lanes) -> None:
    visit = Visit()
    token = VISIT.set(visit)
    threading.Timer(0.15, visit.leave).start()
    with pytest.raises(Left):
        short.run("plan", spins, 60)
    VISIT.reset(token)
    assert short.run("plan", spins, 0) == "done"


def test_too_many_are_turned_away_and_stopping_ends_all(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "MOST_WAITING", 2)
    lane = Lane(1, 60.0, 0)
    lane.run(spins, (0,))
    told: list[type[BaseException]] = []

    def ask() -> None:
        try:
            lane.run(spins, (60,))
        except Exception as error:
            told.append(type(error))

    asking = [threading.Thread(target=ask) for _ in range(4)]
    for thread in asking:
        thread.start()
        time.sleep(0.15)
    assert told == [Busy]
    lane.stop()
    for thread in asking:
        thread.join(LATEST_S)
    assert told == [Busy] * 4


def test_small_plans_answer_beside_heavy_work(client: TestClient, lanes: Lanes, tmp_path: Path) -> None:
    """Eight pieces of heavy work are under way; a small plan is opened and edited meanwhile."""
    small = client.post("/api/plans", json={"name": "Small"}).json()["id"]
    done = tmp_path / "done"
    heavy = [threading.Thread(target=_spin, args=(lanes, n, done), daemon=True) for n in range(8)]
    for thread in heavy:
        thread.start()
    for revision in range(1, 13):
        patch = {"site": {"latitude": 40.0 + revision}}
        saved = client.patch(f"/api/plans/{small}", json=patch, headers={"If-Match": f'"{revision}"'})
        assert saved.status_code == 200
    assert any(thread.is_alive() for thread in heavy)
    done.touch()
    for thread in heavy:
        thread.join(LATEST_S)
        assert not thread.is_alive()


def _spin(lanes: Lanes, number: int, done: Path) -> None:
    with suppress(WearyCedarError):
        lanes.run(f"heavy {number}", spins_until, done)


def test_one_who_leaves_ends_what_is_worked_out_for_them(folder: DataFolder, lanes: Lanes) -> None:
    """The connection closes while a run of many seconds goes on: it is ended, and soon."""
    assert folder.engine is not None
    app = make_app(folder.engine, lanes)
    endless = house({"a": circuit([1])}, {"a": load("a", cycling(1.0, 0.5, 10.0))})
    endless["outage"] = {"start_local": "2026-01-12T00:00:00", "length_s": 31 * 86_400.0}
    body = json.dumps(endless).encode()
    scope = {
        "type": "http",
        "method": "POST",
        "path": "/api/run",
        "raw_path": b"/api/run",
        "query_string": b"",
        "headers": [(b"host", b"127.0.0.1"), (b"content-length", str(len(body)).encode())],
    }
    coming = [{"type": "http.request", "body": body, "more_body": False}, {"type": "http.disconnect"}]
    sent: list[Any] = []

    async def receive() -> Any:
        if len(coming) == 1:
            await asyncio.sleep(0.8)
        return coming.pop(0)

    async def send(message: Any) -> None:
        sent.append(message)

    asyncio.run(app(scope, receive, send))
    assert sent[0]["status"] == 503
    assert lanes.run("after", spins, 0) == "done"
