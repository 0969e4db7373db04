"""The drill of a document, kept by whoever works it out: every act asks for it again."""

from functools import lru_cache

from weary_cedar.core.drill.played import Drill
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.workshop.derivation import opened


@lru_cache(maxsize=4)
def drill_of(document: str) -> Drill:
    """The drill of a plan, from its document."""
    found = opened(document)
    return Drill.of(found.plan, sheets_of(found.plan, found.findings, found.run))
