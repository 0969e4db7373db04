"""Who comes in over the house's network: pairing by a code, and what a token may do.

On this machine itself nothing of this is asked: there the guard's rules of host and origin are enough.
"""

import hmac
import secrets
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass
from threading import Lock
from time import monotonic
from typing import Annotated

from fastapi import Depends, Request

from weary_cedar.core.errors import WearyCedarError
from weary_cedar.store.devices import DeviceStore, KnownDevice, Role

#: A code is good for so long, and for so many tries, s.
CODE_S, TRIES = 120.0, 5
#: From all addresses together no more tries than this in a minute.
MOST_TRIES, WINDOW_S = 20, 60.0
COOKIE = "weary_cedar_device"
#: A paired device stays for so long unless it is revoked, s.
STAYS_S = 180 * 86_400
SAFE_METHODS = ("GET", "HEAD", "OPTIONS")
#: What may be asked without a token: the page on which the code is typed, and the code.
OPEN_PATHS = ("/pair",)
#: What only this machine itself may ask: who comes in.
OWN_PATHS = ("/api/network",)


class NotLetIn(WearyCedarError):
    """A code that does not fit, or too many tries."""


@dataclass(frozen=True)
class Caller:
    """Who asks: this machine itself, or a device."""

    name: str
    role: Role | None = None
    session_id: str | None = None

    @property
    def own(self) -> bool:
        """Whether it is this machine itself."""
        return self.role is None


OWN = Caller("this machine")


@dataclass(frozen=True)
class Code:
    """A code under which one device may come in, and until when."""

    digits: str
    role: Role
    ends: float


class Door:
    """Pairs devices by a code that is shown on this machine, and says what each may do."""

    def __init__(self, devices: DeviceStore, now: Callable[[], float] = monotonic) -> None:
        self._devices = devices
        self._now = now
        self._code: Code | None = None
        self._wrong = 0
        self._tried: deque[float] = deque()
        self._lock = Lock()

    def new_code(self, role: Role = "full") -> Code:
        """A new code; one that was shown before is good no longer."""
        with self._lock:
            self._code = Code(f"{secrets.randbelow(1_000_000):06d}", role, self._now() + CODE_S)
            self._wrong = 0
            return self._code

    def pair(self, digits: str, name: str) -> str:
        """Let a device in by a code; returns its token.

        Raises:
            NotLetIn: the code does not fit, is over, or was used; or too many were tried.
        """
        with self._lock:
            now = self._now()
            while self._tried and now - self._tried[0] > WINDOW_S:
                self._tried.popleft()
            if len(self._tried) >= MOST_TRIES:
                raise NotLetIn("Too many tries: wait a minute, then ask for a new code.")
            self._tried.append(now)
            code = self._code
            if code is None or now > code.ends:
                self._code = None
                raise NotLetIn("There is no code just now: ask for a new one on the computer.")
            if not hmac.compare_digest(digits.encode(), code.digits.encode()):
                self._wrong += 1
                if self._wrong >= TRIES:
                    self._code = None
                    raise NotLetIn("That was wrong too often: ask for a new code on the computer.")
                raise NotLetIn("This is not the code that the computer shows.")
            self._code = None
        return self._devices.add(name, code.role)

    def caller(self, token: str) -> Caller | None:
        """Who a token is of; none where it lets nobody in."""
        found: KnownDevice | None = self._devices.of_token(token)
        return None if found is None else Caller(found.name, found.role, found.session_id)


def may(caller: Caller, method: str, path: str) -> str:
    """Why a caller may not do something; nothing where it may."""
    if caller.own:
        return ""
    if path.startswith(OWN_PATHS):
        return "This is asked only on the computer itself."
    if caller.role == "machine":
        own = f"/sessions/{caller.session_id}/readings"
        if method == "POST" and path.startswith("/api/plans/") and path.endswith(own):
            return ""
        return "This device may only send readings to its own session."
    if caller.role == "guest" and method not in SAFE_METHODS:
        return "A guest only reads."
    return ""


def caller_of(request: Request) -> Caller:
    """Who asks."""
    found: Caller = request.scope.get("weary_cedar.caller", OWN)
    return found


AtDoor = Annotated[Caller, Depends(caller_of)]
