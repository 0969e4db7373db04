"""The repository of devices that may come in over the house's network: tokens are kept as hashes only."""

import hashlib
import hmac
import secrets
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Literal
from uuid import uuid4

from sqlalchemy import select

from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.store.models import Device
from weary_cedar.store.sessions import Sessions

Role = Literal["full", "guest", "machine"]
#: That a device was used is written down no more often than this.
USED_EVERY = timedelta(minutes=1)


@dataclass(frozen=True)
class KnownDevice:
    """A device as it is listed."""

    id: str
    name: str
    role: Role
    session_id: str | None
    created_at: datetime
    last_used_at: datetime | None


class DeviceStore:
    """Devices in a database; safe to use from several threads."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def add(self, name: str, role: Role, session_id: str | None = None) -> str:
        """Let a device in; returns its token, which is told only now."""
        key, secret = uuid4().hex[:16], secrets.token_urlsafe(32)
        with self._sessions.writing() as database:
            database.add(
                Device(id=key, name=name, role=role, token_hash=_hash(secret), session_id=session_id)
            )
        return f"{key}.{secret}"

    def of_token(self, token: str) -> KnownDevice | None:
        """The device of a token; none where it is unknown or was taken away."""
        key, _, secret = token.partition(".")
        if not key or not secret:
            return None
        with self._sessions.reading() as database:
            found = database.get(Device, key[:32])
            if found is None or found.revoked_at is not None:
                return None
            if not hmac.compare_digest(found.token_hash, _hash(secret)):
                return None
            known = _known(found)
        present = datetime.now(UTC)
        if known.last_used_at is None or present - known.last_used_at > USED_EVERY:
            with self._sessions.writing() as database:
                used = database.get(Device, known.id)
                if used is not None:
                    used.last_used_at = present
        return known

    def all(self) -> list[KnownDevice]:
        """Devices that may come in, the newest first."""
        with self._sessions.reading() as database:
            asked = select(Device).where(Device.revoked_at.is_(None)).order_by(Device.created_at.desc())
            return [_known(found) for found in database.scalars(asked)]

    def revoke(self, device_id: str) -> None:
        """Let a device in no more.

        Raises:
            NotFound: no such device, or it was revoked before.
        """
        with self._sessions.writing() as database:
            found = database.get(Device, device_id)
            if found is None or found.revoked_at is not None:
                problem = Problem("/device_id", shown(device_id), "a device of the list")
                raise NotFound(str(problem), (problem,))
            found.revoked_at = datetime.now(UTC)


def _known(found: Device) -> KnownDevice:
    def utc(moment: datetime | None) -> datetime | None:
        return None if moment is None else moment.replace(tzinfo=UTC)

    role: Role = found.role  # type: ignore[assignment]
    created = utc(found.created_at) or datetime.now(UTC)
    return KnownDevice(found.id, found.name, role, found.session_id, created, utc(found.last_used_at))


def _hash(secret: str) -> str:
    return hashlib.sha256(secret.encode()).hexdigest()
