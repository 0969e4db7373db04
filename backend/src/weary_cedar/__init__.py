"""Weary Cedar: how portable power stations carry a house through an outage."""

__version__ = "0.1.0"
