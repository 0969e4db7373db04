"""Shared: a store on an empty folder, a client of the API, a running server, a browser."""

import shutil
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings
from playwright.sync_api import expect
from serving import OwnServer, Server

from weary_cedar.api.app import make_app
from weary_cedar.api.lanes import Lanes
from weary_cedar.api.memory import Memory
from weary_cedar.demo import demo_plan
from weary_cedar.store.database import DataFolder
from weary_cedar.store.plans import PlanStore

settings.register_profile(
    "here", deadline=None, derandomize=True, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("here")

#: How long a screen may take to show something, ms: a busy machine is not a fault of the screen.
expect.set_options(timeout=120_000)

#: Debian's browser, wherever it is.
CHROMIUM = shutil.which("chromium") or shutil.which("chromium-browser") or "chromium"
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


@pytest.fixture(scope="session")
def memory() -> Memory:
    """What was worked out of the demos, once for all tests."""
    return Memory()


@pytest.fixture
def client(folder: DataFolder, store: PlanStore, lanes: Lanes) -> Iterator[TestClient]:
    """A client of the API with the demo plan at /api/plans/foothill-house."""
    assert folder.engine is not None
    store.create(demo_plan())
    app = make_app(folder.engine, lanes)
    with TestClient(app, base_url="http://127.0.0.1:8642", raise_server_exceptions=False) as running:
        yield running


@pytest.fixture
def server(tmp_path: Path, lanes: Lanes, memory: Memory) -> Iterator[Server]:
    """The app on a folder of its own, served by this process."""
    running = Server(tmp_path / "served", lanes, memory)
    running.start()
    yield running
    running.stop()


@pytest.fixture
def own_server(tmp_path: Path) -> Iterator[OwnServer]:
    """The app as a process of its own, where that it is one is the point."""
    running = OwnServer(tmp_path / "served")
    running.start()
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
