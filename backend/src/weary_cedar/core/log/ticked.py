"""What was ticked at the panel, as rows of the session during which it was done."""

from collections.abc import Iterator, Sequence
from datetime import datetime
from zoneinfo import ZoneInfo

from weary_cedar.core.log.session import SessionRow
from weary_cedar.core.record import RecordEntry

#: Before each: what the tick said.
KINDS = {
    "done": "", "undone": "taken back: ", "left_off": "left off: ", "deviates": "not as written: ",
    "tripped": "it tripped: ",
}  # fmt: skip


def ticked(
    entries: Sequence[RecordEntry], sessions: Sequence[tuple[str, datetime]], zone: str, now: datetime
) -> Iterator[tuple[str, SessionRow]]:
    """Rows out of ticks, each with the session that it belongs to.

    Args:
        entries: ticks of sheets, with what was read at them.
        sessions: ids and beginnings by the clock of the site.
        zone: of the site.
        now: by the clock of the site.

    Returns:
        For each tick after the beginning of a session a row of the one that began last before it.
    """
    for entry in entries:
        at = entry.at.astimezone(ZoneInfo(zone)).replace(tzinfo=None, microsecond=0)
        begun = [(begins, key) for key, begins in sessions if begins <= at]
        if not begun:
            continue
        read = "; ".join(f"{place} {typed}" for place, typed in entry.read.items() if typed)
        told = f"{KINDS[entry.kind]}{entry.action}{f' ({read})' if read else ''}"
        yield (
            max(begun)[1],
            SessionRow(
                id=f"tick-{entry.id}"[:60], at=at, entered=max(at, now), told=told[:300],
                kind="happening" if entry.kind == "tripped" else "remark",
                what="trip" if entry.kind == "tripped" else "",
                text=f"{entry.sheet}, step {entry.step}"[:300], by="the sheet",
            ),
        )  # fmt: skip
