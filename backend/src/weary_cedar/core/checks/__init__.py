"""Everything that must not be allowed, must be read, or is worth knowing."""

from weary_cedar.core.checks.finding import Figure, Finding, Level
from weary_cedar.core.checks.registry import findings_of, stops_of

__all__ = ["Figure", "Finding", "Level", "findings_of", "stops_of"]
