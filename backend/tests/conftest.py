"""Shared: a store on an empty folder, a client of the API, a running server, a browser."""

import os
import re
import signal
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings
from playwright.sync_api import expect

from weary_cedar.api.app import make_app
from weary_cedar.api.lanes import Lanes
from weary_cedar.demo import demo_plan
from weary_cedar.store.database import DataFolder
from weary_cedar.store.plans import PlanStore

settings.register_profile(
    "here", deadline=None, derandomize=True, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("here")

#: How long a screen may take to show something, ms: a busy machine is not a fault of the screen.
expect.set_options(timeout=40_000)

CHROMIUM = "/usr/bin/chromium"
FLAGS = [
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


@pytest.fixture
def folder(tmp_path: Path) -> Iterator[DataFolder]:
    data = DataFolder(tmp_path / "data")
    data.open()
    yield data
    data.close()


@pytest.fixture
def store(folder: DataFolder) -> PlanStore:
    assert folder.engine is not None
    return PlanStore(folder.engine)


@pytest.fixture(scope="session")
def lanes() -> Iterator[Lanes]:
    """The processes that work, one set for all tests."""
    running = Lanes()
    yield running
    running.stop()


@pytest.fixture
def client(folder: DataFolder, store: PlanStore, lanes: Lanes) -> Iterator[TestClient]:
    """A client of the API with the demo plan at /api/plans/foothill-house."""
    assert folder.engine is not None
    store.create(demo_plan())
    app = make_app(folder.engine, lanes)
    with TestClient(app, base_url="http://127.0.0.1:8642", raise_server_exceptions=False) as running:
        yield running


class Server:
    """A server process on a free port; stopped by its own id."""

    def __init__(self, data: Path) -> None:
        self.data = data
        self.process: subprocess.Popen[str] | None = None
        self.address = ""

    def launch(self, *options: str) -> None:
        """Begin to start; `start` waits until it is there."""
        command = [sys.executable, "-m", "weary_cedar", "serve", "--port", "0", "--data", str(self.data)]
        self.process = subprocess.Popen([*command, *options], stdout=subprocess.PIPE, text=True)

    def start(self, *options: str) -> str:
        if self.process is None or self.process.poll() is not None:
            self.launch(*options)
        assert self.process is not None
        assert self.process.stdout is not None
        found = re.search(r"http://\S+", self.process.stdout.readline())
        assert found, "the server did not say where it is"
        self.address = found[0]
        return self.address

    def stop(self, sign: int = signal.SIGTERM) -> None:
        if self.process is not None and self.process.poll() is None:
            os.kill(self.process.pid, sign)
            self.process.wait(20)
        if self.process is not None and self.process.stdout is not None:
            self.process.stdout.close()


def launched(folders: pytest.TempPathFactory) -> Server:
    one = Server(folders.mktemp("served") / "data")
    one.launch()
    return one


@pytest.fixture(scope="session")
def ahead() -> Iterator[list[Server]]:
    """The server of the next test, which starts while this one runs."""
    waiting: list[Server] = []
    yield waiting
    for one in waiting:
        one.stop()


@pytest.fixture
def server(tmp_path_factory: pytest.TempPathFactory, ahead: list[Server]) -> Iterator[Server]:
    running = ahead.pop() if ahead else launched(tmp_path_factory)
    running.start()
    ahead.append(launched(tmp_path_factory))
    yield running
    running.stop()


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return {"executable_path": CHROMIUM, "args": FLAGS}


@pytest.fixture
def browser_context_args(browser_context_args: dict[str, Any]) -> dict[str, Any]:
    return {
        **browser_context_args, "viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce",
        "service_workers": "block",
    }  # fmt: skip
