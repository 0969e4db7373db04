"""Serving on this machine: one data folder, one port, the demo on first start."""

import logging
import os
import socket
from pathlib import Path
from threading import Thread, Timer
from types import FrameType

import anyio.to_thread
import uvicorn
from starlette.types import ASGIApp, Receive, Scope, Send

from weary_cedar.api.alarms import Reach
from weary_cedar.api.app import make_app
from weary_cedar.api.desk import Desk
from weary_cedar.api.door import Door
from weary_cedar.api.guard import MOST_AT_ONCE
from weary_cedar.api.lanes import Lanes
from weary_cedar.api.log_answers import alarms_now
from weary_cedar.api.network import Network, Wanted
from weary_cedar.api.networks import code_of
from weary_cedar.core.errors import CannotStore, Problem
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.store.database import DataFolder
from weary_cedar.store.devices import DeviceStore
from weary_cedar.store.plans import PlanStore

HOST = "127.0.0.1"
#: Requests that are under way may go on for so long when the server is told to stop, s.
GRACE_S = 2
#: Then it ends whatever still hangs, s after it was told to.
LATEST_S = 4.0


class Stopping(uvicorn.Server):
    """A server that ends what is being worked out when it is told to stop, and then itself for certain."""

    def __init__(
        self, config: uvicorn.Config, lanes: Lanes, folder: DataFolder, network: Network, desk: Desk
    ) -> None:
        super().__init__(config)
        self._desk = desk
        self._lanes = lanes
        self._folder = folder
        self._network = network

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        """Stop on a signal; the signal is not raised again, so that the database is closed after it."""
        if self.should_exit:
            self.force_exit = True
            return
        self.should_exit = True
        Thread(target=self._lanes.stop, daemon=True).start()
        Thread(target=self._network.close, daemon=True).start()
        Thread(target=self._desk.following.stop, daemon=True).start()
        last = Timer(LATEST_S, self._end)
        last.daemon = True
        last.start()

    def _end(self) -> None:
        self._folder.close()
        os._exit(0)


def serve_forever(
    port: int,
    data: Path,
    reset_demo: bool,
    lanes: Lanes,
    lan: bool = False,
    wanted: Wanted | None = None,
    reach: Reach | None = None,
) -> None:
    """Open the data folder, add the demo if there has been no plan yet, and serve until stopped.

    Raises:
        CannotStore: the folder or the port is in use, or the database is damaged.
    """
    folder = DataFolder(data)
    listener = listen(port)
    try:
        engine = folder.open(set_aside=reset_demo)
        _log_into(data)
        store = PlanStore(engine)
        if store.never_used():
            for name in reversed(DEMOS):
                store.create(demo_plan(name), "demo", "Demo household")
        store.thin()
        address = f"http://{HOST}:{listener.getsockname()[1]}"
        print(f"Weary Cedar is at {address}", flush=True)
        if folder.set_aside:
            print(f"The data before is kept as {folder.set_aside}", flush=True)
        app = make_app(engine, lanes, reach=reach)
        desk: Desk = app.state.desk
        if reach is not None and reach.wanted:
            desk.alarms.watch(lambda: alarms_now(desk))
        roomy = Roomy(app)
        network = Network(roomy, Door(DeviceStore(store.sessions)), data, listener.getsockname()[1], wanted)
        app.state.network = network
        if lan:
            _open(network)
        config = uvicorn.Config(
            roomy,
            log_level="critical",
            access_log=False,
            server_header=False,
            timeout_graceful_shutdown=GRACE_S,
        )
        Stopping(config, lanes, folder, network, desk).run(sockets=[listener])
    finally:
        listener.close()
        folder.close()


def _open(network: Network) -> None:
    """Open the app to the house's network, and say where and with which code."""
    network.open()
    code = code_of(network.door, network)
    print(f"On the house's network: {', '.join(network.addresses)}", flush=True)
    print(f"A phone pairs at {code.address} with the code {code.digits}, for two minutes", flush=True)
    if network.fingerprint:
        print(f"Its certificate: {network.fingerprint}", flush=True)
    else:
        print("What goes over the network is not encrypted; --tls encrypts it.", flush=True)


class Roomy:
    """An app with a thread for everyone who waits: those who wait for an answer take no time."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "lifespan":
            anyio.to_thread.current_default_thread_limiter().total_tokens = MOST_AT_ONCE + 8
        await self._app(scope, receive, send)


def _log_into(folder: Path) -> None:
    """Faults are written to a file of the data folder; nothing else is."""
    handler = logging.FileHandler(folder / "faults.log", encoding="utf-8", delay=True)
    handler.setFormatter(logging.Formatter("%(asctime)s %(message)s"))
    logging.getLogger("weary_cedar").addHandler(handler)


def listen(port: int) -> socket.socket:
    """A listener on this machine only; port 0 takes a free one."""
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
