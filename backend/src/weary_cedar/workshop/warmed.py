"""Imported once before processes are begun: a demo derived here fills their tables and caches."""

from weary_cedar.demo import demo_plan
from weary_cedar.store.edits import made_of
from weary_cedar.workshop.derivation import derive

derive(made_of(demo_plan()).document)
