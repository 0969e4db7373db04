"""Alarms that reach someone: a command or an address of the person's own is called, once for each alarm."""

import json
import logging
import shlex
import subprocess
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from threading import Event, Lock, Thread
from urllib.request import Request, urlopen

from weary_cedar.core.errors import WearyCedarError

#: Sessions are looked at so often, s; and those whose last row is no older than this.
EVERY_S = 300.0
FRESH = timedelta(hours=24)
#: A command or an address may take so long, s.
MOST_S = 30.0
log = logging.getLogger("weary_cedar")


@dataclass(frozen=True)
class Reach:
    """What is called with an alarm: a command, which gets it as JSON on its input, and an address."""

    command: str = ""
    address: str = ""

    @property
    def wanted(self) -> bool:
        """Whether anything is called at all."""
        return bool(self.command or self.address)


@dataclass(frozen=True)
class Alarm:
    """One alarm of one session."""

    plan: str
    session: str
    words: str


class Alarms:
    """Calls what the person gave, once for each alarm of a session."""

    def __init__(self, reach: Reach) -> None:
        self._reach = reach
        self._told: set[Alarm] = set()
        self._lock = Lock()
        self._stop = Event()

    def tell(self, alarm: Alarm) -> bool:
        """Tell an alarm unless it was told; returns whether it was told now."""
        with self._lock:
            if alarm in self._told or not self._reach.wanted:
                return False
            self._told.add(alarm)
        body = json.dumps({"plan": alarm.plan, "session": alarm.session, "alarm": alarm.words}).encode()
        if self._reach.command:
            _call(lambda: _run(self._reach.command, body))
        if self._reach.address:
            _call(lambda: _send(self._reach.address, body))
        return True

    def watch(self, look: Callable[[], list[Alarm]], every_s: float = EVERY_S) -> None:
        """Look again and again, and tell what is found, until it is stopped."""

        def watching() -> None:
            while not self._stop.wait(every_s):
                try:
                    for alarm in look():
                        self.tell(alarm)
                except WearyCedarError as error:
                    log.error("alarms could not be looked for: %s", error.detail)

        Thread(target=watching, daemon=True).start()

    def stop(self) -> None:
        """Look no more."""
        self._stop.set()


def is_fresh(last: datetime | None) -> bool:
    """Whether a session goes on: its last row came to be known a short time ago."""
    return last is not None and datetime.now(UTC) - last < FRESH


def _call(how: Callable[[], None]) -> None:
    try:
        how()
    except (OSError, subprocess.SubprocessError, ValueError) as error:
        log.error("an alarm did not reach anyone: %s", error)


def _run(command: str, body: bytes) -> None:
    subprocess.run(shlex.split(command), input=body, timeout=MOST_S, check=True, stdout=subprocess.DEVNULL)


def _send(address: str, body: bytes) -> None:
    urlopen(Request(address, body, {"Content-Type": "application/json"}), timeout=MOST_S).close()
