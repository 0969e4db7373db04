"""Runs of schema 1 say what they said when they were frozen, to 1e-9, or the change is named here."""

import json
from pathlib import Path
from typing import Any

import pytest

from frozen.plans import said
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan

FROZEN: dict[str, Any] = json.loads(Path(__file__).with_name("schema_1.json").read_text("utf-8"))
#: Plan → why its run says something else than when it was frozen.
CHANGED: dict[str, str] = {}


def differs(was: Any, now: Any, at: str = "") -> str:
    """Where two results differ by more than 1e-9; empty if nowhere."""
    if isinstance(was, dict) and isinstance(now, dict):
        if was.keys() != now.keys():
            return f"{at}: {sorted(was.keys() ^ now.keys())}"
        return next((found for key in was if (found := differs(was[key], now[key], f"{at}/{key}"))), "")
    if isinstance(was, list) and isinstance(now, list):
        if len(was) != len(now):
            return f"{at}: {len(was)} and now {len(now)}"
        pairs = enumerate(zip(was, now, strict=True))
        return next((found for n, (a, b) in pairs if (found := differs(a, b, f"{at}/{n}"))), "")
    if isinstance(was, float) and isinstance(now, int | float):
        return "" if now == pytest.approx(was, rel=1e-9, abs=1e-9) else f"{at}: {was} and now {now}"
    return "" if was == now else f"{at}: {was} and now {now}"


def test_results_are_as_they_were() -> None:
    found = {}
    for name, item in FROZEN.items():
        now = json.loads(json.dumps(said(run_outage(read_plan(item["plan"])))))
        change = differs(item["said"], now)
        if change and name not in CHANGED:
            found[name] = change
    assert found == {}


def test_the_frozen_plans_say_something() -> None:
    """They last and do not, trip, shed, run dry and come back: a kernel that does nothing would not pass."""
    stati = [item["said"]["status"] for item in FROZEN.values()]
    assert min(stati.count("lasts"), stati.count("does_not_last")) > 40
    kinds = {kind for item in FROZEN.values() for kind in item["said"]["events"]}
    assert kinds >= {"trip", "shed", "back", "empty", "room_shed", "idle_cutout", "reset", "dip", "unplugged"}
    assert differs({"a": [1.0]}, {"a": [1.0 + 1e-7]}) == "/a/0: 1.0 and now 1.0000001"
