"""The run of an outage: exact, event by event."""

from weary_cedar.core.outage.result import RunResult
from weary_cedar.core.outage.run import first_part, run_outage

__all__ = ["RunResult", "first_part", "run_outage"]
