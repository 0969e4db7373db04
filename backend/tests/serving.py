"""Servers for tests: one that is a process of its own, and one in this process that begins at once."""

import os
import re
import signal
import subprocess
import sys
from pathlib import Path
from threading import Thread

import uvicorn

from weary_cedar.api.app import make_app
from weary_cedar.api.lanes import Lanes
from weary_cedar.api.memory import Memory
from weary_cedar.api.serve import HOST, Roomy, listen
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.store.database import DataFolder
from weary_cedar.store.plans import PlanStore

#: How long anything may take to begin or to end before it counts as hanging, s.
LATEST_S = 180


class OwnServer:
    """A server process on a free port; stopped by its own id."""

    def __init__(self, data: Path) -> None:
        self.data = data
        self.process: subprocess.Popen[str] | None = None
        self.address = ""

    def start(self, *options: str) -> str:
        command = [sys.executable, "-m", "weary_cedar", "serve", "--port", "0", "--data", str(self.data)]
        self.process = subprocess.Popen([*command, *options], stdout=subprocess.PIPE, text=True)
        assert self.process.stdout is not None
        found = re.search(r"http://\S+", self.process.stdout.readline())
        assert found, "the server did not say where it is"
        self.address = found[0]
        return self.address

    def stop(self, sign: int = signal.SIGTERM) -> None:
        if self.process is not None and self.process.poll() is None:
            os.kill(self.process.pid, sign)
            self.process.wait(LATEST_S)
        if self.process is not None and self.process.stdout is not None:
            self.process.stdout.close()


class Server:
    """The app on a fresh folder and a free port, in a thread; what works for it is shared by all tests."""

    def __init__(self, data: Path, lanes: Lanes, memory: Memory) -> None:
        self.data = data
        self.address = ""
        self._lanes = lanes
        self._memory = memory
        self._running: tuple[uvicorn.Server, Thread, DataFolder] | None = None

    def start(self, port: int = 0) -> str:
        """Serve; of a folder that was served before, what it holds."""
        folder = DataFolder(self.data)
        engine = folder.open()
        store = PlanStore(engine)
        if store.never_used():
            for name in reversed(DEMOS):
                store.create(demo_plan(name), "demo", "Demo household")
        listener = listen(port)
        self.address = f"http://{HOST}:{listener.getsockname()[1]}"
        app = Roomy(make_app(engine, self._lanes, self._memory))
        server = uvicorn.Server(uvicorn.Config(app, log_level="critical", timeout_graceful_shutdown=2))
        thread = Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
        thread.start()
        self._running = (server, thread, folder)
        return self.address

    def stop(self) -> None:
        """Stop serving; everything that was saved stays in the folder."""
        if self._running is None:
            return
        server, thread, folder = self._running
        self._running = None
        server.should_exit = True
        thread.join(LATEST_S)
        folder.close()
