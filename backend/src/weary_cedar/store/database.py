"""The database file: opened by one server at a time, migrated with a copy kept, checked at start."""

import fcntl
import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import Any
from urllib.parse import quote

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from alembic.util.exc import CommandError
from sqlalchemy import URL, Engine, create_engine, event
from sqlalchemy.exc import DatabaseError

from weary_cedar.core.errors import CannotStore, Problem

FILE_NAME = "weary-cedar.sqlite3"
#: Files that SQLite keeps beside the database while it is open.
BESIDE = ("-wal", "-shm")
#: How every SQLite database begins.
MAGIC = b"SQLite format 3\x00"
#: How long a write waits for another program that holds the database, s.
PATIENCE_S = 10.0
#: Execution option of an engine whose transactions only read: they take no lock that a writer needs.
READS_ONLY = "reads_only"


class DataFolder:
    """A folder with the database. Holds a lock on it for as long as it is open."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.file = folder / FILE_NAME
        self.engine: Engine | None = None
        #: Whether the database was made by this opening.
        self.fresh = False
        #: What was set aside by this opening, in words; nothing if nothing was.
        self.set_aside = ""
        self._locks: list[int] = []

    def open(self, *, set_aside: bool = False) -> Engine:
        """Lock, check and migrate the database.

        Args:
            set_aside: begin anew; the old file stays as a copy that was opened and checked.

        Raises:
            CannotStore: folder not writable, used by another server, or a database that is damaged,
                empty, of another program or of a newer version. Nothing is changed then.
        """
        self._lock()
        try:
            self._clear_halves()
            if set_aside:
                self._set_aside()
            self._check()
            if self.fresh:
                self._begin_anew()
            self.engine = _engine(self.file)
            self._migrate(self.engine)
        except CannotStore:
            self.close()
            raise
        return self.engine

    def close(self) -> None:
        """Let go of the database and the lock; what is in the journal goes into the file first."""
        if self.engine is not None:
            self.engine.dispose()
            self.engine = None
            with closing(sqlite3.connect(self.file, timeout=1.0)) as raw:
                raw.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        while self._locks:
            os.close(self._locks.pop())

    # ------------------------------------------------------------ one server

    def _lock(self) -> None:
        """Lock the folder itself, and the file that older versions lock: either alone could be missing."""
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            self._locks.append(os.open(self.folder, os.O_RDONLY | os.O_CLOEXEC))
            mark = os.O_WRONLY | os.O_CREAT | os.O_CLOEXEC
            self._locks.append(os.open(self.folder / "in-use.lock", mark, 0o644))
        except OSError as error:
            self.close()
            raise _cannot(self.folder, f"{error.strerror}; choose a folder that can be written") from None
        try:
            for held in self._locks:
                fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            self.close()
            raise _cannot(
                self.folder, "another server uses it; stop that one or choose another folder"
            ) from None

    def _clear_halves(self) -> None:
        """Copies that were cut off while they were made: what they were made from is still there."""
        for half in self.folder.glob(f"{FILE_NAME}.*.half*"):
            half.unlink(missing_ok=True)

    # ------------------------------------------------------------ what is there

    def _check(self) -> None:
        """Refuse a file that is not a whole database of this program; find out whether there is none."""
        if not self.file.exists():
            left = [suffix for suffix in BESIDE if self._beside(suffix).exists()]
            if left:
                right = (
                    f"its journal ({left[0]}) is there but the database is not; put the database back, "
                    f"or move the journal away; {self._where_copies_are()}"
                )
                raise _cannot(self.file, right)
            self.fresh = True
            return
        if self.file.stat().st_size == 0:
            raise _cannot(self.file, f"the file is empty (0 bytes); {self._where_copies_are()}")
        answer = _fault_in(self.file)
        if answer:
            raise _cannot(self.file, f"the database is damaged ({answer}); {self._where_copies_are()}")

    def _beside(self, suffix: str) -> Path:
        return self.file.with_name(self.file.name + suffix)

    def _where_copies_are(self) -> str:
        copies = sorted(self.folder.glob(f"{FILE_NAME}.*.copy"))
        if not copies:
            return "no copy was kept yet; move the file away to begin anew"
        return f"the newest copy is {copies[-1].name} in the same folder"

    def _begin_anew(self) -> None:
        """Make the database under another name first: one that is there is always whole."""
        made = self.file.with_name(f"{FILE_NAME}.new")
        try:
            for suffix in ("", *BESIDE):
                made.with_name(made.name + suffix).unlink(missing_ok=True)
            engine = _engine(made)
            self._upgrade(engine)
            engine.dispose()
            with closing(sqlite3.connect(made)) as raw:
                raw.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            _settle(made)
            made.replace(self.file)
            _settle(self.folder)
        except (DatabaseError, OSError) as error:
            raise _cannot(self.folder, f"a database could not be made ({error})") from None

    # ------------------------------------------------------------ migration

    def _migrate(self, engine: Engine) -> None:
        scripts = ScriptDirectory.from_config(_alembic())
        newest = scripts.get_current_head()
        try:
            with engine.connect() as connection:
                present = MigrationContext.configure(connection).get_current_revision()
        except DatabaseError as error:
            raise _cannot(self.file, f"it could not be read ({error.orig})") from None
        if present == newest:
            return
        if present is None:
            right = f"this is a database of another program; {self._where_copies_are()}"
            raise _cannot(self.file, right)
        if present not in {script.revision for script in scripts.walk_revisions()}:
            self.copy(f"of-version-{present}", once=True)
            right = (
                f"version {present} of it is not known here, a newer Weary Cedar wrote it; "
                f"use that one; it could not be brought up to date; {self._where_copies_are()}"
            )
            raise _cannot(self.file, right)
        self.copy(f"before-{newest}")
        try:
            self._upgrade(engine)
        except (DatabaseError, CommandError) as error:
            reason = f"it could not be brought up to date ({error}); {self._where_copies_are()}"
            raise _cannot(self.file, reason) from None

    @staticmethod
    def _upgrade(engine: Engine) -> None:
        config = _alembic()
        with engine.begin() as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, "head")

    # ------------------------------------------------------------ copies

    def copy(self, why: str, *, once: bool = False) -> Path:
        """Keep a whole copy of the database beside it, opened and checked; returns where.

        Args:
            why: part of its name.
            once: if a copy of that name is there, keep that one.

        Raises:
            CannotStore: it could not be copied whole; there is no half copy then.
        """
        there = sorted(self.folder.glob(f"{FILE_NAME}.*-{why}.copy"))
        if once and there:
            return there[-1]
        stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%S%f")
        target = self.folder / f"{FILE_NAME}.{stamp}-{why}.copy"
        half = target.with_name(f"{target.name}.half")
        try:
            with closing(sqlite3.connect(self.file)) as source, closing(sqlite3.connect(half)) as copied:
                source.backup(copied)
                copied.execute("PRAGMA journal_mode=DELETE")
            fault = _fault_in(half) or ("" if _counts(half) == _counts(self.file) else "rows are missing")
            if fault:
                raise _cannot(target, f"the copy is not whole ({fault}); nothing was changed")
            _settle(half)
            half.replace(target)
            _settle(self.folder)
        except (sqlite3.Error, OSError) as error:
            raise _cannot(target, f"it could not be copied ({error}); nothing was changed") from None
        finally:
            half.unlink(missing_ok=True)
        return target

    def _set_aside(self) -> None:
        """Put the database away (for a fresh demo): a checked copy, or the files as they are if damaged."""
        parts = [part for part in map(self._beside, ("", *BESIDE)) if part.exists()]
        if not parts:
            return
        if self.file.exists() and self.file.stat().st_size > 0 and not _fault_in(self.file):
            kept = self.copy("set-aside")
            plans, revisions = _counts(kept)
            self.set_aside = f"{kept.name}: {plans} plans, {revisions} revisions, opened and checked"
            for part in parts[::-1]:
                part.unlink()
            return
        stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%S%f")
        for part in parts:
            suffix = part.name.removeprefix(FILE_NAME)
            part.rename(self.folder / f"{FILE_NAME}.{stamp}-damaged.copy{suffix}")
        self.set_aside = f"{FILE_NAME}.{stamp}-damaged.copy: damaged, its files moved as they were"


def _fault_in(file: Path) -> str:
    """What is wrong with a database file; empty if nothing is. One that is none is not opened at all."""
    try:
        with file.open("rb") as begins:
            if begins.read(len(MAGIC)) != MAGIC:
                return "file is not a database"
        with _read(file) as raw:
            answer = str(raw.execute("PRAGMA quick_check").fetchone()[0])
    except (sqlite3.DatabaseError, OSError) as error:
        answer = str(error)
    return "" if answer == "ok" else answer


def _counts(file: Path) -> tuple[int, int]:
    """Plans and revisions in a database file; none where it has no such tables."""
    with _read(file) as raw:
        names = {name for (name,) in raw.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        if not {"plans", "revisions"} <= names:
            return 0, 0
        plans, revisions = (
            raw.execute(f"SELECT count(*) FROM {table}").fetchone()[0] for table in ("plans", "revisions")
        )
        return plans, revisions


@contextmanager
def _read(file: Path) -> Iterator[sqlite3.Connection]:
    """A connection that cannot make a file that is not there."""
    with closing(sqlite3.connect(f"file:{quote(str(file.resolve()))}?mode=rw", uri=True)) as raw:
        yield raw


def _settle(path: Path) -> None:
    """Have the system write a file or folder to the disk."""
    held = os.open(path, os.O_RDONLY)
    try:
        os.fsync(held)
    finally:
        os.close(held)


def _cannot(where: Path, right: str) -> CannotStore:
    return CannotStore(f"{where}: {right}", (Problem("/data", str(where), right),))


def _alembic() -> Config:
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations").replace("%", "%%"))
    return config


def _engine(file: Path) -> Engine:
    url = URL.create("sqlite", database=str(file.resolve()))
    engine = create_engine(url, connect_args={"timeout": PATIENCE_S}, pool_size=16, max_overflow=48)

    @event.listens_for(engine, "connect")
    def _pragmas(connection: Any, _record: Any) -> None:
        connection.isolation_level = None
        for pragma in ("journal_mode=WAL", "foreign_keys=ON", "synchronous=FULL"):
            connection.execute(f"PRAGMA {pragma}")

    @event.listens_for(engine, "begin")
    def _begin(connection: Any) -> None:
        reads = connection.get_execution_options().get(READS_ONLY)
        connection.exec_driver_sql("BEGIN" if reads else "BEGIN IMMEDIATE")

    return engine
