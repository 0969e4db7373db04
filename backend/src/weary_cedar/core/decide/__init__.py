"""Decisions: balance of the legs, choice of circuits, what to measure next."""
