"""Closed forms between two moments."""
