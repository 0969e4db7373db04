"""The same work without a browser."""

from weary_cedar.cli import decisions, plans, serving, session
from weary_cedar.cli.terminal import app, main

__all__ = ["app", "decisions", "main", "plans", "serving", "session"]
