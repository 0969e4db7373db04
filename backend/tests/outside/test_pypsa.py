"""State of charge with losses, against PyPSA (fixtures made by pypsa_charge.py and pypsa_three.py)."""

import json
from bisect import bisect_left
from pathlib import Path

import pytest
from builders import Json, circuit, house, job, load, one_load

from outside import pypsa_three as three
from weary_cedar.core.outage import run_outage
from weary_cedar.core.outage.result import BatteryShare
from weary_cedar.core.plan import read_plan

FIXTURE = json.loads(Path(__file__).with_name("pypsa_charge.json").read_text())


def test_charge_hour_by_hour() -> None:
    """One job of hourly steps, on a station with the same efficiency, idle draw and self-discharge."""
    hours = FIXTURE["loads_w"]
    per_week = 100 * FIXTURE["self_w"] * 168 / FIXTURE["capacity_wh"]
    station = {
        "nameplate_wh": FIXTURE["capacity_wh"],
        "inverter_efficiency": FIXTURE["efficiency"],
        "idle_w": FIXTURE["idle_w"],
        "self_discharge_percent_per_week": per_week,
    }
    outage = {"length_s": len(hours) * 3600.0, "start_charge_percent": {"unit": 100 * FIXTURE["start"]}}
    spec = job("00:00:00", "00:30:00", *((float(watts), 60.0) for watts in hours))
    result = run_outage(read_plan(one_load(spec, station=station, outage=outage)))
    at = dict(zip(result.series.t_s, result.series.stored_wh, strict=True))
    for hour, expected in enumerate(FIXTURE["stored_wh"], start=1):
        assert at[hour * 3600.0] == pytest.approx(expected, rel=1e-6), hour
    assert result.ledger is not None
    drawn = sum(FIXTURE["inverter_in_w"])
    assert result.ledger.loads_wh + result.ledger.inverter_loss_wh == pytest.approx(drawn, rel=1e-6)


THREE = json.loads(Path(__file__).with_name("pypsa_three.json").read_text())


def three_stations() -> Json:
    """The plan of `pypsa_three`: the same figures, as a person would write them."""
    document = house({}, {})
    plain = document["stations"].pop("unit")
    whole = {"taper": {"end_percent": 100.0, "reference_w": 9_000.0}, "inverter_efficiency": three.EFFICIENCY}
    wall = {"ac": {"volts": 120, "most_w": 2_000.0, "cap_a": 20.0, "passes_through": False}}
    feed = document["feeds"].pop("feed")
    for key, hours in three.LOADS.items():
        document["panels"][key] = {"name": key, "spaces": 24}
        document["circuits"][key] = {**circuit([1]), "panel_id": key}
        steps = [(float(watts), 60.0) for watts in hours]
        document["loads"][key] = load(key, job("00:00:00", "00:30:00", *steps))
        document["stations"][key] = {
            **plain,
            **whole,
            "name": key,
            "nameplate_wh": three.CAPACITY_WH[key],
            "idle_w": three.IDLE_W[key],
            "charge_efficiency": three.CHARGE,
            "ac_inputs": wall,
        }
        document["feeds"][key] = {**feed, "source_id": key, "panel_id": key}
    entry = {"low_v": 12.0, "high_v": 500.0, "most_a": 100.0, "most_w": 4_000.0}
    document["stations"]["near"]["dc_inputs"] = {"dc": {**entry, "efficiency": three.SUN_IN}}
    module = {"watts": 400.0, "voc_v": 37.0, "vmp_v": 31.0, "isc_a": 13.6, "imp_a": 12.9}
    seen = {"t_s": [3600.0 * hour for hour in range(three.HOURS)], "watts": [float(w) for w in three.SUN_W]}
    array = {"name": "sun", "module": module, "series": 3, "station_id": "near", "input_id": "dc"}
    document["arrays"] = {"sun": {**array, "seen": seen}}
    outlet = {"out": {"kind": "5-20", "rating_a": 40.0}}
    document["generators"] = {"set": {"name": "set", "rated_w": 4_000.0, "output": "120", "auto_start": True}}
    document["generators"]["set"]["receptacles"] = outlet
    link = {"input_id": "ac", "from_id": "set", "kind": "generator"}
    document["recharges"] = {
        key: {**link, "name": key, "station_id": key, "setting_w": watts}
        for key, watts in three.ENGINE_W.items()
    }
    chain = {"name": "chain", "station_id": "last", "input_id": "ac", "kind": "station", "from_id": "far"}
    document["recharges"]["chain"] = {**chain, "setting_w": three.CHAIN_W, "when": "always"}
    span = {"begins": "05:00:00", "ends": "08:00:00"}
    rule = {"kind": "engine", "generator_id": "set", "on_below_percent": 99.0, "off_above_percent": 100.0}
    document["strategy"] = {"rules": [{**rule, "hours": span, "purpose": "charging"}]}
    begins = {key: 100.0 * share for key, share in three.START.items()}
    document["outage"] |= {"length_s": three.HOURS * 3600.0, "start_charge_percent": begins}
    return document


def test_three_stations_with_sun_engine_and_chain_hour_by_hour() -> None:
    """Several batteries at once: 1e-6 of every charge at every hour, sun that does not fit included."""
    result = run_outage(read_plan(three_stations()))
    for key, expected in THREE["stored_wh"].items():
        battery = result.batteries[key]
        for hour, wh in enumerate(expected, start=1):
            assert held(battery, 3600.0 * hour) == pytest.approx(wh, rel=1e-6), (key, hour)
    assert result.suns["sun"].taken_wh == pytest.approx(sum(THREE["sun_wh"]), rel=1e-6)
    assert result.suns["sun"].curtailed_wh > 500.0, "some of it does not fit"
    assert result.sources["generators/set"].given_wh == pytest.approx(sum(THREE["engine_wh"]), rel=1e-6)
    assert result.ledger is not None
    assert result.ledger.closes


def held(battery: BatteryShare, t: float) -> float:
    """Energy at a moment, straight between two rows."""
    after = bisect_left(battery.t_s, t)
    t1, t2 = battery.t_s[after - 1], battery.t_s[after]
    one, other = battery.stored_wh[after - 1], battery.stored_wh[after]
    return one + (other - one) * (t - t1) / (t2 - t1)
