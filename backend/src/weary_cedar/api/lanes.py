"""Processes that work things out, so that nothing worked out for one plan delays another.

Work begins in the quick lane. What takes longer there than a moment is stopped and begun again in the
slow lane, at lower priority, where it may take until its deadline; what was slow once begins there. A
deadline, a limit on memory or a visitor who left ends the process; another takes its place.
"""

import gc
import multiprocessing
import os
import resource
import traceback
from collections.abc import Callable
from contextvars import ContextVar
from dataclasses import dataclass, field
from multiprocessing.connection import Connection
from queue import Empty, SimpleQueue
from threading import Lock, Thread
from time import monotonic, sleep
from typing import Any, TypeVar

from weary_cedar.core.errors import Busy, Problem, TookTooLong

T = TypeVar("T")

#: Processes of the quick and of the slow lane.
QUICK_WORKERS, SLOW_WORKERS = 3, 2
#: What takes longer than this in the quick lane goes to the slow one, s.
QUICK_S = 0.8
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
#: A process that could not be begun is tried again after so long, s.
AGAIN_S = 1.0
#: A run makes many small objects that all stay: they are looked through for rubbish less often than usual.
COLLECT_EVERY = 50_000
#: Loaded once, before processes are begun: all that they work with.
LOADED = ["weary_cedar.api.app", "weary_cedar.cli", "weary_cedar.workshop.warmed"]


class Left(Exception):
    """Nobody waits for the answer any more."""


class Late(Exception):
    """A job took longer than it may."""


class Died(Exception):
    """The process that worked has ended before it answered."""


@dataclass
class Visit:
    """Someone who waits for an answer; leaving ends what is worked out for them alone."""

    left: bool = False
    _end: Callable[[], None] | None = None
    _lock: Lock = field(default_factory=Lock)

    def waits_for(self, end: Callable[[], None] | None) -> None:
        """Say how to end what the visitor waits for just now."""
        with self._lock:
            self._end = end
            if self.left and end is not None:
                end()

    def leave(self) -> None:
        """The visitor has left."""
        with self._lock:
            self.left = True
            if self._end is not None:
                self._end()


#: The visit that the present request belongs to.
VISIT: ContextVar[Visit | None] = ContextVar("visit", default=None)


class Worker:
    """One process that does one job after another."""

    def __init__(self, nice: int) -> None:
        context = multiprocessing.get_context("forkserver")
        self._line, theirs = context.Pipe()
        self._process = context.Process(target=_work, args=(theirs, nice), daemon=True)
        self._process.start()
        theirs.close()

    def do(self, job: Callable[..., T], args: tuple[Any, ...], most_s: float) -> T:
        """Have a job done.

        Raises:
            Late: it takes too long; the process goes on with it and must be ended.
            Died: the process has ended.
        """
        try:
            self._line.send((job, args))
            if not self._line.poll(most_s):
                raise Late
            done, answer = self._line.recv()
        except (OSError, EOFError):
            raise Died from None
        if not done:
            raise answer
        found: T = answer
        return found

    @property
    def alive(self) -> bool:
        """Whether the process is still there."""
        return self._process.is_alive()

    def end(self) -> None:
        """End the process."""
        self._process.kill()

    def close(self) -> None:
        """End the process and let go of it."""
        self._process.kill()
        self._process.join()
        self._line.close()


class Lane:
    """A few processes that work in turn."""

    def __init__(self, workers: int, most_s: float, nice: int) -> None:
        self._count = workers
        self._most_s = most_s
        self._nice = nice
        self._idle: SimpleQueue[Worker] = SimpleQueue()
        self._all: set[Worker] = set()
        self._lock = Lock()
        self._begun = self._stopped = False
        self._waiting = 0

    def begin(self) -> None:
        """Begin the processes, if that was not done yet; they are there a moment later."""
        with self._lock:
            begun, self._begun = self._begun, True
        if not begun:
            for _ in range(self._count):
                self._begin_one()

    def _begin_one(self) -> None:
        Thread(target=self._add, daemon=True).start()

    def _add(self) -> None:
        while True:
            try:
                worker = Worker(self._nice)
                break
            except OSError:
                if self._stopped:
                    return
                sleep(AGAIN_S)
        with self._lock:
            self._all.add(worker)
            stopped = self._stopped
        if stopped:
            worker.end()
        self._idle.put(worker)

    def run(self, job: Callable[..., T], args: tuple[Any, ...]) -> T:
        """Work a job out in one of the processes.

        Raises:
            Late: it takes too long.
            Died: the process ended, for want of memory or by a fault.
            Busy: too many wait, or the server is being stopped.
            Left: the visitor has left.
        """
        self.begin()
        visit = VISIT.get() or Visit()
        worker = self._take_turn(visit)
        visit.waits_for(worker.end)
        fit = True
        try:
            return worker.do(job, args, self._most_s)
        except (Late, Died) as error:
            fit = False
            if self._stopped:
                raise _stopping() from None
            raise (Left() if visit.left else error) from None
        finally:
            visit.waits_for(None)
            if fit and not visit.left:
                self._idle.put(worker)
            else:
                self._replace(worker)

    def _take_turn(self, visit: Visit) -> Worker:
        if self._waiting >= MOST_WAITING:
            problem = Problem("/", f"{self._waiting} are waiting", "to ask again in a moment")
            raise Busy("Too much is being worked out just now.", (problem,))
        self._waiting += 1
        try:
            while True:
                if self._stopped:
                    raise _stopping()
                if visit.left:
                    raise Left
                try:
                    worker = self._idle.get(timeout=LOOK_S)
                except Empty:
                    continue
                if worker.alive:
                    return worker
                self._replace(worker)
        finally:
            self._waiting -= 1

    def _replace(self, worker: Worker) -> None:
        with self._lock:
            self._all.discard(worker)
        worker.close()
        self._begin_one()

    def stop(self) -> None:
        """End all processes; what is being worked out is not finished."""
        with self._lock:
            self._stopped = True
            for worker in self._all:
                worker.end()


class Lanes:
    """The quick and the slow lane."""

    def __init__(self) -> None:
        os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
        multiprocessing.get_context("forkserver").set_forkserver_preload(LOADED)
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
        try:
            if kind not in self._known_slow:
                try:
                    return self._quick.run(job, args)
                except Late:
                    self._known_slow.add(kind)
            begun = monotonic()
            found = self._slow.run(job, args)
        except Late:
            problem = Problem("/", about, f"less to be worked out than {SLOW_S:.0f} s are enough for")
            raise TookTooLong(f"It was stopped after {SLOW_S:.0f} s, unfinished.", (problem,)) from None
        except (MemoryError, Died) as error:
            right = f"less to be worked out: it may take {MOST_MEMORY // 1024**2:,} MB at most"
            problem = Problem("/", type(error).__name__, right)
            raise TookTooLong("It takes more memory than one plan may.", (problem,)) from None
        if monotonic() - begun < QUICK_S / 2:
            self._known_slow.discard(kind)
        return found

    def run_slowly(self, about: str, job: Callable[..., T], *args: Any) -> T:
        """The same for work of which nobody waits for the end: it begins in the slow lane."""
        self._known_slow.add(f"{about} {job.__qualname__}")
        return self.run(about, job, *args)

    def warm(self) -> None:
        """Begin the processes before someone asks."""
        self._quick.begin()
        self._slow.begin()

    def stop(self) -> None:
        """End all processes."""
        self._quick.stop()
        self._slow.stop()


def _stopping() -> Busy:
    problem = Problem("/", "stopping", "to ask again when it is there")
    return Busy("The server is being stopped; what was saved is kept.", (problem,))


def _work(line: Connection, nice: int) -> None:
    """What a worker does: jobs in, answers out, until nobody is at the other end."""
    _set_limits(nice)
    gc.freeze()
    gc.set_threshold(COLLECT_EVERY)
    while True:
        try:
            job, args = line.recv()
        except EOFError:
            return
        try:
            answer = (True, job(*args))
        except Exception as error:
            error.add_note(traceback.format_exc())
            answer = (False, error)
        line.send(answer)


def _set_limits(nice: int) -> None:
    """Limits of a process that works: memory, priority, and that it ends with its server."""
    import ctypes

    ends_with_parent, kill = 1, 9
    ctypes.CDLL(None).prctl(ends_with_parent, kill)
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    os.nice(nice)
