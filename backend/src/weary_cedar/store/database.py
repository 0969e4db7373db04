"""The database file: opened by one server at a time, migrated with a copy kept, checked at start."""

import fcntl
import shutil
import sqlite3
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Any

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from alembic.util.exc import CommandError
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.exc import DatabaseError

from weary_cedar.core.errors import CannotStore, Problem

FILE_NAME = "weary-cedar.sqlite3"


class DataFolder:
    """A folder with the database. Holds a lock on it for as long as it is open."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.file = folder / FILE_NAME
        self._lock: IO[str] | None = None
        self.engine: Engine | None = None

    def open(self, *, set_aside: bool = False) -> Engine:
        """Lock, check and migrate the database.

        Args:
            set_aside: begin anew; the old file stays as a copy.

        Raises:
            CannotStore: folder not writable, used by another server, or database damaged.
        """
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            self._lock = (self.folder / "in-use.lock").open("w")
        except OSError as error:
            raise _cannot(self.folder, f"{error.strerror}; choose a folder that can be written") from None
        try:
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise _cannot(
                self.folder, "another server uses it; stop that one or choose another folder"
            ) from None
        try:
            if set_aside:
                self._set_aside()
            self._check()
            self.engine = _engine(self.file)
            self._migrate(self.engine)
        except CannotStore:
            self.close()
            raise
        return self.engine

    def close(self) -> None:
        """Let go of the database and the lock."""
        if self.engine is not None:
            self.engine.dispose()
        if self._lock is not None:
            self._lock.close()

    def _check(self) -> None:
        if not self.file.exists():
            return
        try:
            with closing(sqlite3.connect(self.file)) as raw:
                answer = raw.execute("PRAGMA quick_check").fetchone()[0]
        except sqlite3.DatabaseError as error:
            answer = str(error)
        if answer != "ok":
            raise _cannot(self.file, f"the database is damaged ({answer}); {self._where_copies_are()}")

    def _where_copies_are(self) -> str:
        copies = sorted(self.folder.glob(f"{FILE_NAME}.*.copy"))
        if not copies:
            return "no copy was kept yet; move the file away to begin anew"
        return f"the newest copy is {copies[-1].name} in the same folder"

    def _migrate(self, engine: Engine) -> None:
        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        try:
            with engine.connect() as connection:
                present = MigrationContext.configure(connection).get_current_revision()
            newest = ScriptDirectory.from_config(config).get_current_head()
            if present == newest:
                return
            if present is not None:
                self.copy(f"before-{newest}")
            with engine.begin() as connection:
                config.attributes["connection"] = connection
                command.upgrade(config, "head")
        except (DatabaseError, CommandError) as error:
            reason = f"it could not be brought up to date ({error}); {self._where_copies_are()}"
            raise _cannot(self.file, reason) from None

    def copy(self, why: str) -> Path:
        """Keep a copy of the database beside it; returns where."""
        stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%S")
        target = self.folder / f"{FILE_NAME}.{stamp}-{why}.copy"
        with closing(sqlite3.connect(self.file)) as source, closing(sqlite3.connect(target)) as copied:
            source.backup(copied)
        return target

    def _set_aside(self) -> None:
        """Move the database away (for a fresh demo); the old one stays as a copy."""
        if self.file.exists():
            stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%S%f")
            for suffix in ("", "-wal", "-shm"):
                part = self.file.with_name(self.file.name + suffix)
                if part.exists():
                    shutil.move(part, self.folder / f"{FILE_NAME}.{stamp}-set-aside{suffix}.copy")


def _cannot(where: Path, right: str) -> CannotStore:
    return CannotStore(f"{where}: {right}", (Problem("/data", str(where), right),))


def _engine(file: Path) -> Engine:
    engine = create_engine(f"sqlite:///{file}", connect_args={"timeout": 10})

    @event.listens_for(engine, "connect")
    def _pragmas(connection: Any, _record: Any) -> None:
        connection.isolation_level = None
        for pragma in ("journal_mode=WAL", "foreign_keys=ON", "synchronous=FULL"):
            connection.execute(f"PRAGMA {pragma}")

    @event.listens_for(engine, "begin")
    def _begin(connection: Any) -> None:
        connection.exec_driver_sql("BEGIN IMMEDIATE")

    return engine
