"""The run of an outage: exact, event by event."""

from weary_cedar.core.outage.result import RunResult
from weary_cedar.core.outage.run import run_outage

__all__ = ["RunResult", "run_outage"]
