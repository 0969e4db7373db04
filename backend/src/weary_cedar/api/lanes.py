"""Processes that work things out, so that nothing worked out for one plan delays another.

Work begins in the quick lane. What takes longer there than a moment is stopped and begun again in the
slow lane, at lower priority, where it may take until its deadline; what was slow once begins there. A
deadline, a limit on memory or a visitor who left ends the process.
"""

import multiprocessing
import os
import resource
from collections.abc import Callable
from concurrent.futures import CancelledError, TimeoutError
from contextvars import ContextVar
from dataclasses import dataclass, field
from threading import BoundedSemaphore, Lock
from time import monotonic
from typing import Any, TypeVar

from pebble import ProcessExpired, ProcessFuture, ProcessPool

from weary_cedar.core.errors import Busy, Problem, TookTooLong

T = TypeVar("T")

#: Processes of the quick and of the slow lane.
QUICK_WORKERS, SLOW_WORKERS = 3, 2
#: What takes longer than this in the quick lane goes to the slow one, s.
QUICK_S = 0.4
#: What takes longer than this is not worked out, s.
SLOW_S = 30.0
#: Most memory of one process, bytes of address space.
MOST_MEMORY = 2 * 1024**3
#: Most pieces of work that wait for one lane.
MOST_WAITING = 64
#: Priority of the slow lane below everything else.
SLOW_NICE = 10
#: How often one who waits for a turn looks whether the visitor is still there, s.
LOOK_S = 0.05
#: Loaded once, before processes are begun: all that they work with.
LOADED = ["weary_cedar.api.app", "weary_cedar.cli", "weary_cedar.workshop.warmed"]


class Left(Exception):
    """Nobody waits for the answer any more."""


@dataclass
class Visit:
    """Someone who waits for an answer; leaving ends what is worked out for them alone."""

    left: bool = False
    _waits_for: ProcessFuture[Any] | None = None
    _lock: Lock = field(default_factory=Lock)

    def waits_for(self, future: ProcessFuture[Any] | None) -> None:
        """Say what the visitor waits for just now."""
        with self._lock:
            self._waits_for = future
            if self.left and future is not None:
                future.cancel()

    def leave(self) -> None:
        """The visitor has left."""
        with self._lock:
            self.left = True
            if self._waits_for is not None:
                self._waits_for.cancel()


#: The visit that the present request belongs to.
VISIT: ContextVar[Visit | None] = ContextVar("visit", default=None)


class Lane:
    """A few processes that work in turn."""

    def __init__(self, workers: int, most_s: float, nice: int) -> None:
        self.most_s = most_s
        self._pool = ProcessPool(
            max_workers=workers,
            max_tasks=500,
            initializer=_set_limits,
            initargs=(nice,),
            context=multiprocessing.get_context("forkserver"),
        )
        self._turns = BoundedSemaphore(workers)
        self._waiting = 0
        self._stopped = False

    def run(self, job: Callable[..., T], args: tuple[Any, ...]) -> T:
        """Work a job out in one of the processes.

        Raises:
            TimeoutError: it takes too long.
            Busy: too many wait, or the server is being stopped.
            Left: the visitor has left.
        """
        visit = VISIT.get() or Visit()
        self._take_turn(visit)
        try:
            if self._stopped:
                raise _stopping()
            future: ProcessFuture[T] = self._pool.schedule(job, args=args, timeout=self.most_s)
            visit.waits_for(future)
            return future.result()
        except CancelledError:
            raise (_stopping() if self._stopped else Left()) from None
        finally:
            visit.waits_for(None)
            self._turns.release()

    def _take_turn(self, visit: Visit) -> None:
        if self._waiting >= MOST_WAITING:
            problem = Problem("/", f"{self._waiting} are waiting", "to ask again in a moment")
            raise Busy("Too much is being worked out just now.", (problem,))
        self._waiting += 1
        try:
            while not self._turns.acquire(timeout=LOOK_S):
                if visit.left:
                    raise Left
                if self._stopped:
                    raise _stopping()
        finally:
            self._waiting -= 1

    def warm(self) -> None:
        """Begin the processes."""
        self._pool.schedule(os.getpid)

    def stop(self) -> None:
        """End all processes; what is being worked out is not finished."""
        self._stopped = True
        if self._pool.active:
            self._pool.stop()
            self._pool.join(timeout=2)


class Lanes:
    """The quick and the slow lane."""

    def __init__(self) -> None:
        multiprocessing.get_context("forkserver").set_forkserver_preload(LOADED)
        os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
        self._quick = Lane(QUICK_WORKERS, QUICK_S, nice=0)
        self._slow = Lane(SLOW_WORKERS, SLOW_S, nice=SLOW_NICE)
        self._known_slow: set[str] = set()

    def run(self, about: str, job: Callable[..., T], *args: Any) -> T:
        """Work something out in another process.

        Args:
            about: whose work it is: a plan's id, or a word for what belongs to none.
            job: a function of a module.
            args: passed on.

        Raises:
            TookTooLong: it takes longer, or more memory, than one may.
            Busy: too many wait already.
            Left: the visitor who asked has left.
        """
        kind = f"{about} {job.__qualname__}"
        if kind not in self._known_slow:
            try:
                return self._bounded(self._quick, job, args)
            except TimeoutError:
                self._known_slow.add(kind)
        begun = monotonic()
        try:
            found = self._bounded(self._slow, job, args)
        except TimeoutError:
            right = f"less to be worked out: it is stopped after {SLOW_S:.0f} s"
            raise TookTooLong(
                f"It was {right[26:]} and not finished.", (Problem("/", about, right),)
            ) from None
        if monotonic() - begun < QUICK_S / 2:
            self._known_slow.discard(kind)
        return found

    @staticmethod
    def _bounded(lane: Lane, job: Callable[..., T], args: tuple[Any, ...]) -> T:
        try:
            return lane.run(job, args)
        except (MemoryError, ProcessExpired) as error:
            right = f"less to be worked out: it may take {MOST_MEMORY // 1024**2:,} MB at most"
            problem = Problem("/", type(error).__name__, right)
            raise TookTooLong("It takes more memory than one plan may.", (problem,)) from None

    def warm(self) -> None:
        """Begin to load what the processes work with, before someone asks."""
        for lane in (self._quick, self._slow):
            lane.warm()

    def stop(self) -> None:
        """End all processes."""
        self._quick.stop()
        self._slow.stop()


def _stopping() -> Busy:
    return Busy(
        "The server is being stopped; what was saved is kept.", (Problem("/", "stopping", "to ask again"),)
    )


def _set_limits(nice: int) -> None:
    """Limits of a process that works: memory, priority, and that it ends with its server."""
    import ctypes

    die_with_parent = 1
    ctypes.CDLL(None).prctl(die_with_parent, 9)
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    os.nice(nice)
