"""Sheets of steps at the panel, and the state machine of the house that judges them."""
