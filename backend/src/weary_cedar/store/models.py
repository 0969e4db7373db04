"""Tables: a plan and its line of revisions."""

from datetime import UTC, datetime

from sqlalchemy import DateTime, ForeignKey, Index, MetaData, String, Text
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Root of the tables; constraint names are fixed so that migrations can name them."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_name)s",
            "uq": "uq_%(table_name)s_%(column_0_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )


def now() -> datetime:
    """The present moment in UTC."""
    return datetime.now(UTC)


class PlanRow(Base):
    """One plan; `head` is the revision that is current. A deleted plan keeps its rows until purged."""

    __tablename__ = "plans"

    id: Mapped[str] = mapped_column(String(40), primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    head: Mapped[int]
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    deleted_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True), default=None)
    #: The plan that this one is a variant of; it is not in the list of plans then.
    variant_of: Mapped[str | None] = mapped_column(String(40), default=None)


class RevisionRow(Base):
    """One line of history. `undo_to` and `redo_to` are the revisions that undo and redo lead to."""

    __tablename__ = "revisions"
    __table_args__ = (Index("ix_revisions_plan_id_number", "plan_id", "number", unique=True),)

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    plan_id: Mapped[str] = mapped_column(ForeignKey("plans.id", ondelete="CASCADE"))
    number: Mapped[int]
    kind: Mapped[str] = mapped_column(String(20))
    summary: Mapped[str] = mapped_column(String(300))
    document: Mapped[str] = mapped_column(Text)
    undo_to: Mapped[int | None] = mapped_column(default=None)
    redo_to: Mapped[int | None] = mapped_column(default=None)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class RecordRow(Base):
    """Something done at the panel: when it was done, and when it came to be known here."""

    __tablename__ = "record_rows"
    __table_args__ = (Index("ix_record_rows_plan_id_row_id", "plan_id", "row_id", unique=True),)

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    plan_id: Mapped[str] = mapped_column(ForeignKey("plans.id", ondelete="CASCADE"))
    row_id: Mapped[str] = mapped_column(String(64))
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    entered_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    document: Mapped[str] = mapped_column(Text)


class LogSession(Base):
    """An outage or a test as it goes, with the plan that it began from."""

    __tablename__ = "log_sessions"
    __table_args__ = (Index("ix_log_sessions_plan_id", "plan_id"),)

    id: Mapped[str] = mapped_column(String(40), primary_key=True)
    plan_id: Mapped[str] = mapped_column(ForeignKey("plans.id", ondelete="CASCADE"))
    revision: Mapped[int]
    plan_document: Mapped[str] = mapped_column(Text)
    #: The session without its rows.
    document: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class LogRow(Base):
    """A row of a session; it is never changed, and the same row twice counts once."""

    __tablename__ = "log_rows"
    __table_args__ = (
        Index("ix_log_rows_session_id_row_id", "session_id", "row_id", unique=True),
        Index("ix_log_rows_session_id_what", "session_id", "what", "part", "pack", "at"),
        Index("ix_log_rows_session_id_corrects", "session_id", "corrects"),
    )

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    session_id: Mapped[str] = mapped_column(ForeignKey("log_sessions.id", ondelete="CASCADE"))
    row_id: Mapped[str] = mapped_column(String(64))
    #: What it is about, out of the document: rows are found by it. The moment is by the clock of the site.
    at: Mapped[str] = mapped_column(String(32), default="")
    kind: Mapped[str] = mapped_column(String(12), default="")
    what: Mapped[str] = mapped_column(String(20), default="")
    part: Mapped[str] = mapped_column(String(90), default="")
    pack: Mapped[str] = mapped_column(String(40), default="")
    corrects: Mapped[str] = mapped_column(String(60), default="")
    document: Mapped[str] = mapped_column(Text)
    #: When it came to be known here.
    kept_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True), default=now)


class Device(Base):
    """What may come in over the house's network: by the hash of its token alone."""

    __tablename__ = "devices"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    name: Mapped[str] = mapped_column(String(60))
    #: full, guest, or machine: that one only sends readings to one session.
    role: Mapped[str] = mapped_column(String(12))
    token_hash: Mapped[str] = mapped_column(String(64))
    session_id: Mapped[str | None] = mapped_column(
        ForeignKey("log_sessions.id", ondelete="CASCADE"), default=None
    )
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    last_used_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True), default=None)
    revoked_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True), default=None)


class DrillRow(Base):
    """One time that an exercise of a plan was played."""

    __tablename__ = "drill_rows"
    __table_args__ = (Index("ix_drill_rows_plan_id", "plan_id"),)

    id: Mapped[int] = mapped_column(primary_key=True, autoincrement=True)
    plan_id: Mapped[str] = mapped_column(ForeignKey("plans.id", ondelete="CASCADE"))
    document: Mapped[str] = mapped_column(Text)
