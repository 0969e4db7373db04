"""Acts hold on every kind of part, outlet and input, until an act undoes them."""

from typing import Any

import pytest
from builders import Json, load, refusals, steady
from check_plans import merged
from whole_houses import DUPLEX, HOUSE, charge, cords, engine, inlet, lead, small, unit

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan

HOUR_S = 3600.0
SOCKET: Json = {"kind": "socket_12v", "low_v": 10.0, "high_v": 60.0, "most_a": 30.0, "most_w": 400.0}
SUN: Json = {"kind": "solar", "low_v": 0.0, "high_v": 400.0, "most_a": 30.0, "most_w": 900.0}
MODULE: Json = {"watts": 400.0, "voc_v": 37.0, "vmp_v": 31.0, "isc_a": 13.6, "imp_a": 12.9}
#: One of everything that can be switched, each giving something all the time, for ten hours.
ALL: Json = {
    **HOUSE,
    "loads": {
        "fridge": load("fridge", steady(300.0)),
        "lamp": {"name": "lamp", "behaviour": steady(100.0), "mark": "keep"},
        "pump": {"name": "pump", "behaviour": steady(50.0), "mark": "keep"},
    },
    "stations": {
        "unit": unit(
            ac_inputs={"wall": {"volts": 120, "most_w": 900.0, "passes_through": False}},
            dc_inputs={"sun": SUN, "car": SOCKET, "cells": SOCKET},
        ),
        "small": small(receptacles={**DUPLEX, "side": DUPLEX["duplex"]}),
    },
    "generators": {"set": engine(output="120", receptacles=DUPLEX, auto_start=True)},
    "vehicles": {"car": {"name": "car", "outlet": "socket_12v", "most_w": 200.0, "usable_kwh": 40.0,
                         "told_to_stay": "yes"}},
    "externals": {"tools": {"name": "tools", "wh": 4_000.0, "lowest_v": 20.0, "highest_v": 29.0,
                            "gives_w": 100.0, "station_id": "unit", "input_id": "cells"}},
    "arrays": {"roof": {"name": "roof", "module": MODULE, "station_id": "unit", "input_id": "sun",
                        "seen": {"t_s": [0.0], "watts": [150.0]}}},
    "feeds": {"inlet": inlet()},
    "leads": {
        "in": lead(),
        "lamp": cords("lamp", outlet="duplex"),
        "pump": cords("pump", outlet="side"),
        "wall": charge("generator", "set", watts=400.0, to={"when": "always"}, outlet="duplex"),
        "car": charge("vehicle", "car", input="car", watts=150.0, to={"when": "always"}),
    },
    "outage": {"start_local": "2026-11-10T08:00:00", "length_s": 10 * HOUR_S, "changeover_after_s": 0.0,
               "start_charge_percent": {"unit": 30.0},
               "occupancy": {"wakes": "00:00:00", "sleeps": "00:00:00"}},
    "strategy": {"shedding": "by_hand", "rules": [
        {"kind": "engine", "generator_id": "set", "on_below_percent": 90.0, "off_above_percent": 99.0}]},
}  # fmt: skip


def run(*acts: Json, more: Json | None = None) -> RunResult:
    told = {f"act-{index}": act for index, act in enumerate(acts)}
    return run_outage(read_plan(merged(ALL, {"outage": {"acts": told}}, more or {})))


def flowing(result: RunResult, room: str, key: str, at_s: float) -> float:
    """What flows of a course at a moment, W."""
    share: Any = getattr(result, room)[key]
    values = {"suns": "taken_w", "load_series": "watts", "sources": "a_w"}.get(room, "watts")
    rows = [w for t, w in zip(share.t_s, getattr(share, values), strict=True) if t <= at_s]
    return float(rows[-1]) if rows else 0.0


@pytest.mark.parametrize(
    ("part", "course"),
    [
        ({"room": "circuits", "part_id": "fridge"}, ("load_series", "fridge")),
        ({"room": "loads", "part_id": "lamp"}, ("load_series", "lamp")),
        ({"room": "stations", "part_id": "small"}, ("load_series", "lamp")),
        ({"room": "stations", "part_id": "small", "outlet_id": "duplex"}, ("load_series", "lamp")),
        ({"room": "stations", "part_id": "unit", "input_id": "wall"}, ("leads", "wall")),
        ({"room": "stations", "part_id": "unit", "input_id": "car"}, ("leads", "car")),
        ({"room": "stations", "part_id": "unit", "input_id": "cells"}, ("externals", "tools")),
        ({"room": "stations", "part_id": "unit", "input_id": "sun"}, ("suns", "roof")),
        ({"room": "generators", "part_id": "set"}, ("leads", "wall")),
        ({"room": "generators", "part_id": "set", "outlet_id": "duplex"}, ("leads", "wall")),
        ({"room": "vehicles", "part_id": "car"}, ("leads", "car")),
        ({"room": "externals", "part_id": "tools"}, ("externals", "tools")),
        ({"room": "arrays", "part_id": "roof"}, ("suns", "roof")),
        ({"room": "leads", "part_id": "lamp"}, ("load_series", "lamp")),
        ({"room": "leads", "part_id": "wall"}, ("leads", "wall")),
        ({"room": "leads", "part_id": "car"}, ("leads", "car")),
    ],
)
def test_what_is_off_by_an_act_stays_off_until_an_act_undoes_it(part: Json, course: tuple[str, str]) -> None:
    """Off in the second of the change-over, or later; on again at six. No change-over undoes it."""
    assert flowing(run(), *course, 5 * HOUR_S) > 0.0
    for at_s in (0.0, 2 * HOUR_S):
        result = run({"at_s": at_s, **part, "turn": "off"}, {"at_s": 6 * HOUR_S, **part, "turn": "on"})
        assert flowing(result, *course, at_s + 60.0) == 0.0
        assert flowing(result, *course, 5.9 * HOUR_S) == 0.0
        assert flowing(result, *course, 6.2 * HOUR_S) > 0.0
        assert sum(event.kind == "act" for event in result.events) == 2


def test_two_acts_hold_one_lead_until_both_are_undone() -> None:
    by_lead = {"room": "leads", "part_id": "lamp"}
    by_outlet = {"room": "stations", "part_id": "small", "outlet_id": "duplex"}
    off = [{"at_s": HOUR_S, **part, "turn": "off"} for part in (by_lead, by_outlet)]
    result = run(
        *off, {"at_s": 2 * HOUR_S, **by_lead, "turn": "on"}, {"at_s": 3 * HOUR_S, **by_outlet, "turn": "on"}
    )
    assert flowing(result, "load_series", "lamp", 2.5 * HOUR_S) == 0.0
    assert flowing(result, "load_series", "lamp", 3.5 * HOUR_S) == 100.0
    assert flowing(result, "load_series", "pump", 2.5 * HOUR_S) == 50.0


def test_what_is_off_by_choice_is_not_lost() -> None:
    result = run(
        {"at_s": HOUR_S, "room": "stations", "part_id": "small", "outlet_id": "duplex", "turn": "off"}
    )
    assert result.loads["lamp"].failed_at_s is None
    assert "left off by choice: lamp" in result.verdict.sentence


@pytest.mark.parametrize(
    ("part", "field", "right"),
    [
        (
            {"room": "loads", "part_id": "lamp", "outlet_id": "duplex"},
            "outlet_id",
            "only sources have outlets",
        ),
        ({"room": "stations", "part_id": "small", "outlet_id": "no"}, "outlet_id", "an outlet of that part"),
        (
            {"room": "generators", "part_id": "set", "input_id": "wall"},
            "input_id",
            "only stations have inputs",
        ),
        ({"room": "stations", "part_id": "unit", "input_id": "no"}, "input_id", "an input of that station"),
        (
            {"room": "stations", "part_id": "unit", "input_id": "wall", "outlet_id": "l14"},
            "input_id",
            "two acts",
        ),
        ({"room": "arrays", "part_id": "barn"}, "part_id", "an array of this plan"),
    ],
)
def test_what_there_is_not_is_named(part: Json, field: str, right: str) -> None:
    found = refusals(merged(ALL, {"outage": {"acts": {"a": {"at_s": 0.0, "turn": "off", **part}}}}))
    assert right in found[f"/outage/acts/a/{field}"]


def test_a_vehicle_gives_less_than_it_loses_at_its_socket() -> None:
    """150 W at the socket for ten hours: 1.5 kWh of what it gives, 1.875 kWh of its battery at 80 %."""
    result = run(more={"vehicles": {"car": {"inverter_efficiency": 0.8, "usable_kwh": 1.5}}})
    assert result.leads["car"].taken_wh == pytest.approx(1_200.0)
    whole = run(more={"vehicles": {"car": {"inverter_efficiency": 0.8, "usable_kwh": 4.0}}})
    assert whole.leads["car"].left_wh == pytest.approx(4_000.0 - 1_500.0 / 0.8)
