"""Runs of schema 1 say what they said when they were frozen, to 1e-9, or the change is named here."""

import json
from pathlib import Path
from typing import Any

import pytest

from frozen.plans import said
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan

FROZEN: dict[str, Any] = json.loads(Path(__file__).with_name("schema_1.json").read_text("utf-8"))
ENGINE = "its sun, engine, second station or linked units are counted now"
SEQUENCE = "a start in the course of a heater's call is no longer added to what the call drew before it"
HEATER = "a heater that runs already is no longer judged as starting when limits are looked at"
ROOM = "a room circuit that is off for its charge is not brought back when a limit has room again"
EQUALS = (
    "what matters alike comes back as it stands in the panel, and of it the least that is enough is given "
    "up; before, both went by id"
)
#: Numbers of the random plans in which loads of one mark and order are shed or come back.
EQUAL = (
    0,
    17,
    19,
    33,
    42,
    43,
    98,
    99,
    103,
    115,
    118,
    122,
    139,
    145,
    148,
    152,
    156,
    170,
    174,
    188,
    195,
    208,
    228,
    259,
    294,
)
WAKES = "a job that wakes in the second in which power goes waits until its latest hour, and is dropped then"
CYCLES = "a cycling load goes on where it stopped when power is back, and makes up at the end of its next run"
#: Numbers of the random plans in which a cycling load misses power.
CYCLING = (
    1, 7, 18, 24, 50, 56, 57, 62, 63, 65, 67, 68, 75, 77, 79, 85, 87, 90, 100, 101, 106, 114, 117, 133,
    136, 141, 144, 153, 166, 169, 171, 172, 180, 192, 197, 198, 217, 218, 239, 245, 247, 249, 250, 252,
    253, 258, 260, 262, 268, 271, 278, 280, 287, 288, 295,
)  # fmt: skip
RETURNS = "circuits come back so that every start finds room, where the person's order would trip a source"
#: Plan → why its run says something else than when it was frozen.
CHANGED: dict[str, str] = {
    "foothill": ENGINE,
    "canal": ENGINE,
    "hut": ENGINE,
    "random 116": ROOM,
    "random 155": RETURNS,
    "random 157": SEQUENCE,
    "random 269": SEQUENCE,
    "random 290": SEQUENCE,
    "random 296": RETURNS,
    "random 298": HEATER,
    **dict.fromkeys((f"random {number}" for number in EQUAL), EQUALS),
    **dict.fromkeys((f"random {number}" for number in (23, 158, 159, 161, 168, 261)), WAKES),
    **dict.fromkeys((f"random {number}" for number in CYCLING), CYCLES),
}
#: What says something else in all plans: `until` is the moment at which a load lost power, not that
#: moment plus its tolerance, and a gap that comes back within an hour goes on with the one before it.
SOONER = ("until_s", "status", "first_lost")


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


def sooner(was: Any, now: Any) -> str:
    """The verdict may only be stricter: it ends no later, and nothing that did not last lasts now."""
    if was["status"] == "does_not_last" and now["status"] != "does_not_last":
        return f"/status: {was['status']} and now {now['status']}"
    if was["until_s"] is not None and now["until_s"] > was["until_s"] + 1e-6:
        return f"/until_s: {was['until_s']} and now {now['until_s']}"
    return ""


def rest(told: Any) -> Any:
    events = {kind: found for kind, found in told["events"].items() if kind != "keep_lost"}
    return {key: value for key, value in told.items() if key not in SOONER} | {"events": events}


def test_results_are_as_they_were() -> None:
    found = {}
    for name, item in FROZEN.items():
        now = json.loads(json.dumps(said(run_outage(read_plan(item["plan"])))))
        change = differs(rest(item["said"]), rest(now)) or sooner(item["said"], now)
        if bool(change) != (name in CHANGED):
            found[name] = change or "says what it said: it is named without reason"
    assert found == {}


def test_the_frozen_plans_say_something() -> None:
    """They last and do not, trip, shed, run dry and come back: a kernel that does nothing would not pass."""
    stati = [item["said"]["status"] for item in FROZEN.values()]
    assert min(stati.count("lasts"), stati.count("does_not_last")) > 40
    kinds = {kind for item in FROZEN.values() for kind in item["said"]["events"]}
    assert kinds >= {"trip", "shed", "back", "empty", "room_shed", "idle_cutout", "reset", "dip", "unplugged"}
    assert differs({"a": [1.0]}, {"a": [1.0 + 1e-7]}) == "/a/0: 1.0 and now 1.0000001"
    assert sooner({"status": "lasts", "until_s": None}, {"status": "does_not_last", "until_s": 1.0}) == ""
    assert sooner({"status": "does_not_last", "until_s": 5.0}, {"status": "lasts", "until_s": None})
