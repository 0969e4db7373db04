"""The same work without a browser."""

from weary_cedar.cli import breakers, decisions, drill, plans, serving, session
from weary_cedar.cli.terminal import app, main

__all__ = ["app", "breakers", "decisions", "drill", "main", "plans", "serving", "session"]
