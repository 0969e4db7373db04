"""The run of an outage: exact, event by event."""

from weary_cedar.core.outage.result import RunResult
from weary_cedar.core.outage.run import first_part, run_outage, state_at
from weary_cedar.core.outage.state import RunState

__all__ = ["RunResult", "RunState", "first_part", "run_outage", "state_at"]
