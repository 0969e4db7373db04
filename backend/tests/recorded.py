"""Rows of a record as the server has them, once those that are awaited have arrived."""

from collections.abc import Callable
from typing import Any

from playwright.sync_api import Page
from serving import Server

#: Rows are asked for again after so long, ms, and so often: a busy machine is not a fault.
AGAIN_MS, MOST = 200, 600


def recorded(page: Page, server: Server, there: int | Callable[[list[Any]], bool]) -> list[Any]:
    """Rows of the foothill house once so many, or such, are there: they go out after the screen goes on."""
    rows: list[Any] = []
    for _ in range(MOST):
        rows = page.request.get(f"{server.address}/api/plans/foothill-house/record").json()["rows"]
        if len(rows) >= there if isinstance(there, int) else there(rows):
            break
        page.wait_for_timeout(AGAIN_MS)
    return rows
