"""Serving on this machine: one data folder, one port, the demo on first start."""

import socket
from pathlib import Path

import uvicorn

from weary_cedar.api.app import make_app
from weary_cedar.core.errors import CannotStore, Problem
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.store.database import DataFolder
from weary_cedar.store.plans import PlanStore

HOST = "127.0.0.1"


def serve_forever(port: int, data: Path, reset_demo: bool) -> None:
    """Open the data folder, add the demo if there is no plan, and serve until stopped.

    Raises:
        CannotStore: the folder or the port is in use, or the database is damaged.
    """
    folder = DataFolder(data)
    listener = _listen(port)
    try:
        engine = folder.open(set_aside=reset_demo)
        store = PlanStore(engine)
        if not store.entries():
            for name in reversed(DEMOS):
                store.create(demo_plan(name), "demo", "Demo household")
        address = f"http://{HOST}:{listener.getsockname()[1]}"
        print(f"Weary Cedar is at {address}", flush=True)
        config = uvicorn.Config(make_app(engine), log_level="warning", access_log=False, server_header=False)
        uvicorn.Server(config).run(sockets=[listener])
    finally:
        listener.close()
        folder.close()


def _listen(port: int) -> socket.socket:
    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((HOST, port))
        listener.listen(64)
    except OSError as error:
        listener.close()
        right = "a port that is free, or 0 to take one"
        raise CannotStore(
            f"Port {port}: {error.strerror}; {right}", (Problem("--port", str(port), right),)
        ) from None
    return listener
