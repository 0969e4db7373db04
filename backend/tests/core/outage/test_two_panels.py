"""Panels that are fed apart run apart; without a source of its own a panel hangs on its feeder."""

from builders import Json, circuit, house, load, steady

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan

HOUR_S = 3600.0


def two_panels(own_wh: float, **outage: object) -> Json:
    """A house on a station, and an annex behind its feeder with an inlet and a station of its own."""
    plan = house(
        {"a": circuit([1]), "feeder": circuit([9, 11]), "b": {**circuit([1]), "panel_id": "annex"}},
        {"a": load("a", steady(100.0)), "b": load("b", steady(200.0), tolerance_s=1200.0)},
        {"nameplate_wh": 20_000.0},
    )
    plan["schema_version"] = 2
    plan["panels"]["annex"] = {"name": "Annex", "spaces": 12, "fed_from": "feeder"}
    plan["stations"]["own"] = plan["stations"]["unit"] | {"name": "own", "nameplate_wh": own_wh}
    feed = plan["feeds"]["feed"]
    cords, outlet = feed.pop("cords"), feed.pop("receptacle_id")
    feed.pop("source_id")
    annex = {"kind": "transfer_panel", "inlet_a": 30.0, "panel_id": "annex", "breaker_a": 30.0}
    plan["feeds"]["annex"] = annex
    for name, station, to in (("house", "unit", "feed"), ("away", "own", "annex")):
        source = {"kind": "station", "id": station, "outlet": outlet}
        plan["leads"] = {
            **plan.get("leads", {}),
            name: {"source": source, "cords": cords, "to": {"end": "feed", "feed_id": to}},
        }
    plan["outage"] |= {"length_s": 12 * HOUR_S, **outage}
    return plan


def run(plan: Json) -> RunResult:
    return run_outage(read_plan(plan))


def test_each_panel_is_carried_by_its_own_station_at_the_same_time() -> None:
    result = run(two_panels(20_000.0))
    assert result.verdict.status == "lasts"
    given = {name: share.given_wh for name, share in result.batteries.items()}
    assert given["unit"] < 13 * 100.0
    assert given["own"] > 11 * 200.0


def test_what_its_own_station_no_longer_carries_hangs_on_the_feeder_again() -> None:
    result = run(two_panels(1_000.0))
    empty = next(event.t_s for event in result.events if event.kind == "empty")
    assert 4.9 * HOUR_S < empty < 5.1 * HOUR_S
    assert result.verdict.status == "lasts", "dark for the five minutes of closing the feeder, and bears 20"
    assert 290.0 < result.loads["b"].without_power_s < 320.0


def test_in_a_window_of_the_utility_both_come_back_to_it_and_leave_it_again() -> None:
    result = run(two_panels(20_000.0, grid={"w": {"at_s": 2 * HOUR_S, "for_s": HOUR_S}}))
    assert result.ledger is not None
    assert 200.0 < result.ledger.grid_wh < 300.0
    assert result.batteries["own"].given_wh < 11 * 200.0 + 60.0
    assert result.verdict.status == "lasts"
