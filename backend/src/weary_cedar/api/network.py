"""The listener on the house's network: there only while it is asked for."""

import array
import fcntl
import socket
import struct
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from threading import Lock, Thread

import uvicorn
from starlette.types import ASGIApp

from weary_cedar.api.certificate import Certificate, given, made
from weary_cedar.api.door import Door
from weary_cedar.api.gate import Gate
from weary_cedar.core.errors import CannotStore, Problem

#: Kernel's number of the question which address an interface has.
SIOCGIFADDR = 0x8915
GRACE_S, LATEST_S = 1, 10.0


@dataclass(frozen=True)
class Wanted:
    """How the network is opened: on which addresses (all of this machine's, if none), encrypted or not."""

    addresses: tuple[str, ...] = ()
    tls: bool = False
    certificate: Path | None = None
    key: Path | None = None


class Network:
    """Opens and closes the app to the house's network."""

    def __init__(
        self, app: ASGIApp, door: Door, folder: Path, port: int, wanted: Wanted | None = None
    ) -> None:
        self.door = door
        self._app = app
        self._folder = folder
        self._port = port
        self._wanted = wanted or Wanted()
        self._running: tuple[uvicorn.Server, Thread, list[socket.socket]] | None = None
        self._certificate: Certificate | None = None
        self._lock = Lock()
        self.hosts: frozenset[str] = frozenset()

    @property
    def on(self) -> bool:
        """Whether it can be reached."""
        return self._running is not None

    @property
    def fingerprint(self) -> str:
        """Of its certificate; empty where it is not encrypted."""
        return self._certificate.fingerprint if self._certificate else ""

    @property
    def certificate_is_own(self) -> bool:
        """Whether its certificate was made here, so that browsers do not know it."""
        return self._certificate is not None and self._certificate.own

    @property
    def addresses(self) -> list[str]:
        """Where another device finds it."""
        scheme = "https" if self._certificate else "http"
        return [f"{scheme}://{host}" for host in sorted(self.hosts)]

    def open(self) -> None:
        """Listen on the network.

        Raises:
            CannotStore: this machine has no address there, or the port is in use.
        """
        with self._lock:
            if self._running is not None:
                return
            addresses = list(self._wanted.addresses) or own_addresses()
            if not addresses:
                right = "a network, or the address of this machine by --lan-address"
                problem = Problem("--lan", "no address besides 127.0.0.1", right)
                raise CannotStore("This machine is in no network just now.", (problem,))
            self._certificate = self._certified(addresses)
            listeners = _listeners(addresses, self._port)
            self.hosts = frozenset("{}:{}".format(*listener.getsockname()[:2]) for listener in listeners)
            safe = self._certificate
            config = uvicorn.Config(
                Gate(self._app, self.door, self), log_level="critical", access_log=False, server_header=False,
                timeout_graceful_shutdown=GRACE_S, proxy_headers=False,
                ssl_certfile=safe.file if safe else None, ssl_keyfile=safe.key if safe else None,
            )  # fmt: skip
            server = uvicorn.Server(config)
            thread = Thread(target=server.run, kwargs={"sockets": listeners}, daemon=True)
            thread.start()
            self._running = (server, thread, listeners)

    def close(self) -> None:
        """Listen no more; whoever was paired stays paired."""
        with self._lock:
            running, self._running = self._running, None
            self.hosts = frozenset()
            self._certificate = None
        if running is not None:
            server, thread, listeners = running
            server.should_exit = True
            thread.join(LATEST_S)
            for listener in listeners:
                listener.close()

    def _certified(self, addresses: Sequence[str]) -> Certificate | None:
        if self._wanted.certificate is not None and self._wanted.key is not None:
            return given(self._wanted.certificate, self._wanted.key)
        return made(self._folder, addresses) if self._wanted.tls else None


def own_addresses() -> list[str]:
    """Addresses of this machine on its networks, without its own 127."""
    found = []
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asked:
        for _, name in socket.if_nameindex():
            request = array.array("b", struct.pack("256s", name.encode()[:15]))
            try:
                fcntl.ioctl(asked.fileno(), SIOCGIFADDR, request, True)
            except OSError:
                continue
            address = socket.inet_ntoa(request.tobytes()[20:24])
            if not address.startswith("127."):
                found.append(address)
    return found


def _listeners(addresses: Sequence[str], port: int) -> list[socket.socket]:
    """A listener on each address; all of them, or none."""
    found: list[socket.socket] = []
    for address in addresses:
        listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        found.append(listener)
        try:
            listener.bind((address, port))
            listener.listen(64)
        except OSError as error:
            for each in found:
                each.close()
            right = "an address of this machine, and a port that is free there"
            problem = Problem("--lan-address", f"{address}:{port}", right)
            raise CannotStore(f"{address}:{port}: {error.strerror}; {right}", (problem,)) from None
    return found
