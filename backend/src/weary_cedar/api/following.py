"""Follows a station that tells what it shows over HTTP: its readings become rows of a session."""

import json
import re
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from hashlib import blake2b
from pathlib import Path
from threading import Event, Lock, Thread
from typing import Any
from urllib.error import URLError
from urllib.request import Request, urlopen

from weary_cedar.core.errors import InvalidInput, Problem, WearyCedarError
from weary_cedar.core.log.pushed import PushedReading
from weary_cedar.core.log.session import Session

#: Watts are written down no more often than this, by the clock of the site, s; a charge whenever it changes.
WATTS_EVERY_S = 600.0
#: Without a word from it for so long, it is asked anew; and after so long again, s.
QUIET_S, AGAIN_S = 30.0, 2.0
#: Such an address is on this machine: nothing else is followed from here.
HERE = re.compile(r"^http://(127\.0\.0\.1|localhost):\d{1,5}$")


@dataclass
class Followed:
    """What is followed for one session, and how it goes."""

    address: str
    simulated: bool
    stop: Event = field(default_factory=Event)
    process: "subprocess.Popen[str] | None" = None
    #: The moment of what it told last, by the clock of the site.
    at: datetime | None = None
    rows: int = 0
    trouble: str = ""
    ended: bool = False

    def end(self) -> None:
        """Follow no more; a simulated station ends."""
        self.stop.set()
        if self.process is not None:
            self.process.kill()
            self.process.wait()
            for pipe in (self.process.stdin, self.process.stdout):
                if pipe is not None:
                    pipe.close()


class Following:
    """Stations that are followed, one for a session at most."""

    def __init__(self) -> None:
        self._known: dict[str, Followed] = {}
        self._lock = Lock()

    def of(self, session_id: str) -> Followed | None:
        """What a session follows."""
        return self._known.get(session_id)

    def begin(
        self, session_id: str, found: Followed, add: Callable[[Sequence[PushedReading]], int]
    ) -> Followed:
        """Follow a station; another one that the session followed is left."""
        self.end(session_id)
        with self._lock:
            self._known[session_id] = found
        Thread(target=_follow, args=(found, add), daemon=True).start()
        return found

    def end(self, session_id: str) -> None:
        """Follow no more for a session."""
        with self._lock:
            found = self._known.pop(session_id, None)
        if found is not None:
            found.end()

    def switched(self, session_id: str, session: Session) -> None:
        """Tell a simulated station what was switched; a real one knows."""
        found = self.of(session_id)
        if found is None or not found.simulated:
            return
        body = session.model_dump_json().encode()
        told = Request(f"{found.address}/session", body, {"Content-Type": "application/json"})
        try:
            urlopen(told, timeout=QUIET_S).close()
        except OSError as error:
            found.trouble = f"what was switched could not be told: {error}"

    def stop(self) -> None:
        """Follow nothing any more."""
        for session_id in list(self._known):
            self.end(session_id)


def at_address(address: str) -> Followed:
    """A station at an address of this machine.

    Raises:
        InvalidInput: it is of another form.
    """
    if not HERE.fullmatch(address.rstrip("/")):
        right = "an address on this machine such as http://127.0.0.1:9000; others send their readings"
        problem = Problem("/address", address[:60], right)
        raise InvalidInput(str(problem), (problem,))
    return Followed(address.rstrip("/"), simulated=False)


def simulated(
    document: str, session: Session, station: str, seed: int, speed: float, from_s: float
) -> Followed:
    """A simulated station of a plan, as a process of its own on this machine.

    Raises:
        InvalidInput: it could not be begun.
    """
    with tempfile.TemporaryDirectory() as folder:
        plan = Path(folder) / "plan.json"
        plan.write_text(document, encoding="utf-8")
        told = [
            "stand-in", "station", str(plan), "--station", station, "--seed", str(seed),
            "--speed", f"{speed:g}", "--begins", session.begins.strftime("%Y-%m-%dT%H:%M:%S"),
            "--from", f"{from_s:g} s", "--until-closed",
        ]  # fmt: skip
        process = subprocess.Popen(
            [sys.executable, "-m", "weary_cedar", *told], stdin=subprocess.PIPE, stdout=subprocess.PIPE,
            text=True,
        )  # fmt: skip
        assert process.stdout is not None
        found = re.search(r"(http://\S+?)/station", process.stdout.readline())
    if found is None:
        process.kill()
        problem = Problem("/station", station, "a station of this plan that can be simulated")
        raise InvalidInput(str(problem), (problem,))
    return Followed(found[1], simulated=True, process=process)


def _follow(found: Followed, add: Callable[[Sequence[PushedReading]], int]) -> None:
    last: dict[str, tuple[datetime, float]] = {}
    while not found.stop.is_set():
        try:
            for shown in _events(found):
                found.trouble = ""
                readings = readings_of(shown, last)
                if readings:
                    found.rows += add(readings)
                found.at = datetime.fromisoformat(shown["at"])
            if not found.stop.is_set():
                found.ended = True
            return
        except WearyCedarError as error:
            found.trouble = error.detail
        except (URLError, OSError) as error:
            found.trouble = f"it cannot be reached: {error}"
        except (ValueError, KeyError, TypeError, AttributeError) as error:
            found.trouble = f"what it tells is not understood: {error}"
        found.stop.wait(AGAIN_S)


def _events(found: Followed) -> Iterator[dict[str, Any]]:
    """What a station tells, as it goes on."""
    with urlopen(f"{found.address}/station/events", timeout=QUIET_S) as told:
        for line in told:
            if found.stop.is_set():
                return
            if line.startswith(b"data:"):
                yield json.loads(line[5:])


def readings_of(shown: dict[str, Any], last: dict[str, tuple[datetime, float]]) -> list[PushedReading]:
    """Readings out of what a station shows, those that are new.

    Args:
        shown: as it tells it: at, station, charge_percent by head and pack, in_w, sun_w, out_w, left_h.
        last: what was written down last, by what it is; it is kept up to date here.

    Raises:
        ValueError, KeyError: it is not of that form.
    """
    at = datetime.fromisoformat(shown["at"])
    told: list[tuple[str, str, str, float]] = [
        ("charge", "" if pack == "head" else pack, "%", float(value))
        for pack, value in shown["charge_percent"].items()
    ]
    told += [
        (what, "", "W", float(shown[what]))
        for what in ("in_w", "sun_w", "out_w")
        if shown.get(what) is not None
    ]
    if shown.get("left_h") is not None:
        told.append(("shown_h", "", "h", min(999.0, float(shown["left_h"]))))
    found = []
    for what, pack, unit, value in told:
        key = f"{what} {pack}"
        before = last.get(key)
        fresh = before is None or (at - before[0]).total_seconds() >= WATTS_EVERY_S
        if what == "charge":
            fresh = before is None or before[1] != value
        if fresh:
            last[key] = (at, value)
            name = blake2b(f"{shown['station']} {key} {at}".encode(), digest_size=12).hexdigest()
            part = f"stations/{shown['station']}"
            fields = {
                "id": name,
                "at": at,
                "part": part,
                "pack": pack,
                "what": what,
                "value": value,
                "unit": unit,
            }
            found.append(PushedReading.model_validate(fields))
    return found
