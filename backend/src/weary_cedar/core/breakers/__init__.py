"""The breakers of a house as a table: one row each, with what hangs on it."""

from weary_cedar.core.breakers.applied import with_breakers
from weary_cedar.core.breakers.changes import told_changes
from weary_cedar.core.breakers.figures import running_w, usual_load, with_day_use, with_running_w
from weary_cedar.core.breakers.row import BreakerRow, SaidLoad, Unsaid, told_spaces
from weary_cedar.core.breakers.usual import with_usual_loads

__all__ = [
    "BreakerRow",
    "SaidLoad",
    "Unsaid",
    "running_w",
    "told_changes",
    "told_spaces",
    "usual_load",
    "with_breakers",
    "with_day_use",
    "with_running_w",
    "with_usual_loads",
]
