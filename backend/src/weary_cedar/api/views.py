"""What the screens show of a plan: the document, what follows from it, and where it stands in its history."""

from datetime import datetime

from pydantic import BaseModel

from weary_cedar.store.plans import HistoryEntry
from weary_cedar.workshop.derivation import DerivedView


class PlanView(DerivedView):
    """A plan at a revision, its panels laid out, its verdict, and what could not be made."""

    id: str
    revision: int
    saved_at: datetime
    can_undo: bool
    can_redo: bool
    merged: bool
    #: What the last edit changed, as the history says it.
    last_change: str
    #: The plan that this one is a variant of.
    variant_of: str | None


class PlanLine(BaseModel):
    """A line in the list of plans."""

    id: str
    name: str
    revision: int
    saved_at: datetime


class HistoryLine(BaseModel):
    """A line of a plan's history."""

    revision: int
    kind: str
    summary: str
    saved_at: datetime
    current: bool


def line_of(entry: HistoryEntry) -> HistoryLine:
    """A line of history, as the store tells it."""
    return HistoryLine(**vars(entry))


class HistoryView(BaseModel):
    """The newest lines of a plan's history, and how much of it is kept."""

    lines: list[HistoryLine]
    kept: int
    thinned: int
    bytes: int
    rule: str
