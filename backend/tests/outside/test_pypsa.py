"""State of charge under a fixed dispatch with losses, against PyPSA (fixture made by pypsa_charge.py)."""

import json
from pathlib import Path

import pytest
from builders import job, one_load

from weary_cedar.core.outage import run_outage
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
