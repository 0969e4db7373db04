"""Weary Cedar: how portable power stations carry a house through an outage."""

from weary_cedar.machine_code import prefer

__version__ = "0.1.0"

prefer()
