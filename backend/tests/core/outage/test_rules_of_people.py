"""What people do by rule: hand-cycling, bedtime, the utility, swaps, order of recharging, jobs, arrays."""

import pytest
from builders import Json, circuit, house, job, load, refusals, steady
from check_plans import merged

from weary_cedar.core.checks import findings_of
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan

HOUR_S = 3600.0
SUN: Json = {"high_v": 60.0, "most_a": 30.0, "most_w": 1_000.0, "efficiency": 1.0}
MODULE: Json = {"watts": 400.0, "voc_v": 40.0, "vmp_v": 33.0, "isc_a": 12.0, "imp_a": 11.0}


def plan(*rules: Json, hours: float = 24.0, **outage: object) -> Json:
    """5,120 Wh for a steady 100 W that is kept and 200 W that run when there is room; both by rule."""
    made = house(
        {"a": circuit([1]), "b": circuit([5], "room")},
        {"a": load("a", steady(100.0)), "b": load("b", steady(200.0))},
        outage={"length_s": hours * HOUR_S, **outage},
    )
    made["strategy"] = {"rules": list(rules), "shedding": "none"}
    return made


def run(document: Json) -> RunResult:
    result = run_outage(read_plan(document))
    assert result.ledger is None or result.ledger.closes
    return result


def on_h(result: RunResult, key: str) -> list[tuple[float, float]]:
    """Hours from when to when a load drew."""
    drawn = result.load_series[key]
    ends = [*drawn.t_s[1:], result.length_s]
    steps = zip(drawn.t_s, ends, drawn.watts, strict=True)
    return [(a / HOUR_S, b / HOUR_S) for a, b, watts in steps if watts > 0 and b > a]


def told(result: RunResult, kind: str) -> list[float]:
    return [event.t_s / HOUR_S for event in result.events if event.kind == kind]


def near(spans: list[tuple[float, float]], *right: tuple[float, float]) -> bool:
    return len(spans) == len(right) and all(
        got == pytest.approx(want, abs=0.01) for got, want in zip(spans, right, strict=True)
    )


def test_hand_cycling_runs_a_load_for_a_while_of_every_stretch() -> None:
    rule = {"kind": "hand_cycle", "load_ids": ["b"], "on_s": HOUR_S, "every_s": 4 * HOUR_S}
    result = run(plan(rule, hours=12))
    assert near(on_h(result, "b"), (0, 1), (4, 5), (8, 9))
    assert result.rules[0].acted == 3
    spans = [(span.begins_s / HOUR_S, span.ends_s / HOUR_S) for span in result.rules[0].off]
    assert [(round(a, 2), round(b, 2)) for a, b in spans] == [(1, 4), (5, 8), (9, 12)]
    assert result.rules[0].keeps_off == "b"
    assert result.rules[0].words == "Switch on b for 60 min of every 4 h"
    assert result.verdict.status == "lasts", "off by choice is not power that is missing"
    assert near(on_h(run(plan({**rule, "on": False}, hours=12)), "b"), (0, 12))


def test_nobody_switches_by_hand_while_asleep() -> None:
    """From midnight on; people sleep from 1:30 to 7:00."""
    rule = {"kind": "hand_cycle", "load_ids": ["b"], "on_s": HOUR_S, "every_s": 3 * HOUR_S}
    awake = {"wakes": "07:00:00", "sleeps": "01:30:00"}
    result = run(plan(rule, hours=12, occupancy=awake))
    assert near(on_h(result, "b"), (0, 1), (7, 8), (10, 11))


@pytest.mark.parametrize(("percent", "off"), [(45.0, False), (60.0, True)])
def test_what_is_left_at_bedtime_decides_about_the_night(percent: float, off: bool) -> None:
    """300 W for 8 h take 2,400 of 5,120 Wh: 53 % are left at eight."""
    times = {"bedtime": "08:00:00", "until": "12:00:00"}
    rule = {"kind": "reserve", "circuit_ids": ["b"], "percent": percent, **times}
    result = run(plan(rule, hours=16))
    spans = [(0, 8), (12, 16)] if off else [(0, 16)]
    assert near(on_h(result, "b"), *spans)
    assert result.rules[0].acted == int(off)
    assert [(span.begins_s, span.ends_s) for span in result.rules[0].off] == [(8 * HOUR_S, 12 * HOUR_S)] * off
    assert [event.why for event in result.events if event.kind == "room_shed"] == [
        f"Less than {percent:.0f} % left at bedtime"
    ] * off


def test_a_night_that_has_begun_counts_from_the_change_over() -> None:
    times = {"bedtime": "22:00:00", "until": "06:00:00"}
    rule = {"kind": "reserve", "circuit_ids": ["b"], "percent": 80.0, **times}
    low = {"start_charge_percent": {"unit": 70.0}}
    assert near(on_h(run(plan(rule, hours=8, **low)), "b"), (6, 8))


def rolling(*rules: Json) -> Json:
    """The utility is there from the second to the tenth hour and fills the station at 1,000 W."""
    made = plan(
        *rules, hours=12, grid={"w": {"at_s": 2 * HOUR_S, "for_s": 8 * HOUR_S}}, changeover_after_s=0.0
    )
    made["stations"]["unit"]["ac_inputs"] = {"wall": {"most_w": 1_000.0, "volts": 120}}
    made["strategy"]["swap_s"] = 0.0
    return made


def test_back_on_the_utility_only_where_the_charge_is_low() -> None:
    """At 300 W 60 % are left after 6.83 h."""
    assert run(rolling()).sources["grid"].on_s == pytest.approx(8 * HOUR_S, rel=0.01)
    rule = {"kind": "utility", "back_below_percent": 60.0, "away_above_percent": 95.0}
    result = run(rolling(rule))
    back = 0.4 * 5120 / 300
    assert result.sources["grid"].given_wh == pytest.approx(300 * (10 - back), rel=0.01)
    assert result.rules[0].acted == 1
    never = run(plan(rule))
    assert "does not come back" in never.rules[0].never


def two_stations(*rules: Json) -> Json:
    """A second station that takes turns with the first at one inlet."""
    made = plan(*rules, hours=40)
    made["stations"]["other"] = {**made["stations"]["unit"], "name": "other"}
    made["feeds"]["second"] = {**made["feeds"]["feed"], "source_id": "other"}
    made["strategy"]["swap_s"] = 600.0
    return made


def test_another_station_takes_over_before_the_first_is_empty() -> None:
    """80 % of 5,120 Wh at 300 W: 13.65 h; without the rule at 17.07 h."""
    assert told(run(two_stations()), "swap")[0] == pytest.approx(5120 / 300 + 600 / HOUR_S, abs=0.01)
    rule = {"kind": "swap", "lead_id": "second", "below_percent": 20.0, "back_above_percent": 80.0}
    result = run(two_stations(rule))
    assert told(result, "swap")[0] == pytest.approx(0.8 * 5120 / 300 + 600 / HOUR_S, abs=0.01)
    # The second one runs dry; what is left in the first one is used at the end.
    assert told(result, "swap")[1] == pytest.approx(1.8 * 5120 / 300 + 2 * 600 / HOUR_S, abs=0.02)
    assert result.rules[0].acted == 1
    alone = run(plan({**rule, "lead_id": "feed"}))
    assert alone.rules[0].never == "no other lead ends at its feed"


def test_the_order_of_recharging_says_what_yields() -> None:
    """400 W of sun and 300 W of a battery into cells that take 500 W: what comes second yields."""
    made = plan(hours=2, start_charge_percent={"unit": 10.0})
    made["loads"] = {}
    made["stations"]["unit"].update(dc_inputs={"sun": SUN, "port": SUN}, max_charge_w=500.0)
    made["arrays"] = {
        "sun": {"name": "sun", "station_id": "unit", "input_id": "sun", "module": MODULE}
        | {"seen": {"t_s": [0.0], "watts": [400.0]}}
    }
    battery = {"name": "cells", "wh": 5_000.0, "lowest_v": 40.0, "highest_v": 54.0, "gives_w": 300.0}
    joined = {"station_id": "unit", "input_id": "port", "transfer_efficiency": 1.0}
    made["externals"] = {"cells": {**battery, **joined}}
    usual = run(made)
    assert usual.suns["sun"].taken_wh == pytest.approx(800.0)
    assert usual.externals["cells"].taken_wh == pytest.approx(200.0)
    made["strategy"]["rules"] = [{"kind": "order", "sources": ["battery", "sun"]}]
    told_so = run(made)
    assert told_so.suns["sun"].taken_wh == pytest.approx(400.0)
    assert told_so.externals["cells"].taken_wh == pytest.approx(600.0)
    assert told_so.rules[0].lasting
    assert "more than one source" in run(plan({"kind": "order", "sources": ["sun"]})).rules[0].never


def test_a_job_is_begun_when_the_rule_says() -> None:
    made = plan({"kind": "start", "load_id": "b", "at": "15:00:00"})
    made["loads"]["b"]["behaviour"] = job("08:00:00", "09:00:00", (500.0, 30))
    assert near(on_h(run(made), "b"), (15, 15.5))
    made["strategy"]["rules"][0]["on"] = False
    assert near(on_h(run(made), "b"), (8, 8.5))


def test_an_array_is_turned_by_rule_and_gives_more_in_the_afternoon() -> None:
    made = plan(hours=24)
    made["site"] |= {"latitude": 40.0, "longitude": 0.0}
    made["stations"]["unit"]["dc_inputs"] = {"sun": SUN}
    array = {"name": "sun", "station_id": "unit", "input_id": "sun", "module": MODULE}
    made["arrays"] = {"sun": {**array, "tilt_deg": 60.0, "azimuth_deg": 120.0}}
    fixed = run(made).suns["sun"].offered_wh
    made["strategy"]["rules"] = [
        {"kind": "turn", "array_id": "sun", "at": "12:00:00", "tilt_deg": 60.0, "azimuth_deg": 240.0}
    ]
    turned = run(made)
    assert turned.suns["sun"].offered_wh > fixed * 1.1
    assert turned.rules[0].acted == 1
    # It is the same as hours that the array has of its own.
    made["strategy"]["rules"] = []
    facings = [("00:00:00", 120.0), ("12:00:00", 240.0)]
    made["arrays"]["sun"]["moved"] = [{"at": at, "tilt_deg": 60.0, "azimuth_deg": a} for at, a in facings]
    assert run(made).suns["sun"].offered_wh == pytest.approx(turned.suns["sun"].offered_wh)


RULES: dict[str, Json] = {
    "hand_cycle": {"load_ids": ["gone"]},
    "reserve": {"circuit_ids": ["gone"]},
    "swap": {"lead_id": "gone"},
    "start": {"load_id": "gone"},
    "turn": {"array_id": "gone"},
}


@pytest.mark.parametrize("kind", RULES)
def test_a_rule_names_a_part_that_there_is(kind: str) -> None:
    wrong = refusals(plan({"kind": kind, **RULES[kind]}))
    assert all("should be a" in right for right in wrong.values())
    assert len(wrong) == 1


@pytest.mark.parametrize(
    ("rule", "field", "words"),
    [
        ({"kind": "start", "load_id": "b"}, "load_id", "a job"),
        ({"kind": "hand_cycle", "load_ids": ["b"], "on_s": 9e3, "every_s": 9e3}, "every_s", "more than"),
        ({"kind": "order", "sources": ["sun", "sun"]}, "sources", "once"),
        ({"kind": "utility", "back_below_percent": 95.0}, "away_above_percent", "above the 95 %"),
        ({"kind": "reserve", "circuit_ids": ["b"], "until": "22:00:00"}, "until", "another time"),
    ],
)
def test_figures_of_a_rule_that_cannot_be(rule: Json, field: str, words: str) -> None:
    assert words in refusals(plan(rule))[f"/strategy/rules/0/{field}"]


def test_a_rule_that_can_never_act_is_a_finding_of_what_it_speaks_about() -> None:
    rules: list[Json] = [
        {"kind": "utility"},
        {"kind": "swap", "lead_id": "feed"},
        {"kind": "hand_cycle", "load_ids": ["b"]},
    ]
    made = merged(plan(*rules), {"circuits": {"b": {"mark": "off"}}})
    found = [f for f in findings_of(read_plan(made)) if f.check_id == "rule-never"]
    assert {f.element.room for f in found} == {"site", "leads", "loads"}
