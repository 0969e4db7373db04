"""Which circuits a feed reaches in the run, and which feeds are not run at all."""

from typing import Any

import pytest
from builders import Json, circuit, cycling, house, load, steady

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.demo import DEMOS, demo_plan


def two(**feed: Any) -> Json:
    """Two kept circuits of 100 and 200 W."""
    document = house(
        {"a": circuit([1]), "b": circuit([3])}, {"a": load("a", steady(100)), "b": load("b", steady(200))}
    )
    document["feeds"]["feed"].update(feed)
    return document


def run(document: Json) -> RunResult:
    return run_outage(read_plan(document))


SWITCH: Json = {"kind": "transfer_switch", "breaker_spaces": [], "circuit_ids": ["a"]}


def test_a_switch_carries_only_what_is_wired_to_it() -> None:
    result = run(two(**SWITCH))
    assert set(result.loads) == {"a"}
    assert result.verdict.status == "does_not_last"
    assert result.verdict.unreached == ("b",)
    assert result.verdict.sentence.startswith("b must run but no feed reaches it; the rest: ")
    document = two(**SWITCH)
    document["circuits"]["b"]["mark"] = "room"
    assert run(document).verdict.status == "lasts"


@pytest.mark.parametrize(
    ("kind", "told"),
    [
        ("no_transfer", "can kill"),
        ("bridged", "both legs is not computed"),
        ("half_leg", "one leg is not computed"),
    ],
)
def test_refused_and_unknown_ways_are_not_run(kind: str, told: str) -> None:
    result = run(two(kind=kind))
    assert (result.verdict.status, result.ledger) == ("cannot_judge", None)
    assert told in result.verdict.sentence


def test_cords_and_links_are_said_to_be_not_computed() -> None:
    cords = run(two(kind="cords", breaker_spaces=[], circuit_ids=["a"]))
    assert "by cords from a 120 V outlet" in cords.verdict.sentence
    assert "linked" in run_outage(demo_plan("canal")).verdict.sentence


def test_cords_in_a_single_phase_house() -> None:
    plan = demo_plan("hut")
    result = run_outage(plan)
    assert set(result.loads) == {"boiler", "radio", "freezer", "lights"}
    assert result.ledger is not None
    assert result.ledger.closes
    assert max(result.series.b_w) == 0


def test_a_generator_alone_is_no_run() -> None:
    document = two(source_id="set", receptacle_id="out")
    document["generators"] = {
        "set": {
            "name": "set",
            "rated_w": 3000.0,
            "receptacles": {"out": {"kind": "L14-30", "rating_a": 30.0}},
        }
    }
    assert run(document).verdict.missing == ("no feed leads from a station to a panel or an appliance",)


def test_the_first_station_into_a_panel_is_run() -> None:
    document = two()
    cord = {**document["feeds"]["feed"], "kind": "cords", "breaker_spaces": [], "circuit_ids": ["a"]}
    document["feeds"] = {"a-cord": cord, "b-inlet": document["feeds"]["feed"]}
    assert set(run(document).loads) == {"a", "b"}


def sub_panel(feeder_mark: str = "keep") -> Json:
    document = two()
    document["panels"]["sub"] = {"name": "Sub", "spaces": 8, "fed_from": "feeder", "first_leg": "B"}
    document["circuits"]["feeder"] = circuit([5, 7], feeder_mark)
    document["circuits"]["far"] = {**circuit([1]), "panel_id": "sub"}
    document["loads"]["far"] = load("far", cycling(400, 0.5, 1200))
    return document


def test_a_sub_panel_is_carried_through_its_feeder() -> None:
    result = run(sub_panel())
    assert set(result.loads) == {"a", "b", "far"}
    assert max(result.series.b_w) == 600
    assert set(run(sub_panel("off")).loads) == {"a", "b"}
    assert run(sub_panel("off")).verdict.unreached == ("far",)


def test_cords_in_a_row_add_up() -> None:
    one = {"length_m": 30.0, "awg": 14}
    ledgers = []
    for cords in ([one], [one, one]):
        document = two(cords=cords)
        document["stations"]["unit"]["nameplate_wh"] = 100_000.0
        ledgers.append(run(document).ledger)
    single, double = ledgers
    assert single is not None
    assert double is not None
    assert double.cord_wh == pytest.approx(2 * single.cord_wh)


@pytest.mark.parametrize("name", DEMOS)
def test_what_is_left_out_is_named(name: str) -> None:
    plan = demo_plan(name)
    expected = [array.name for array in plan.arrays.values()]
    expected += [link.name for link in plan.recharges.values() if link.when != "grid"]
    verdict = run_outage(plan).verdict
    assert list(verdict.left_out) == (expected if verdict.status != "cannot_judge" else [])


@pytest.mark.parametrize(
    ("station", "pack", "start_wh"),
    [(100.0, None, 8000.0), (50.0, None, 4000.0), (50.0, 100.0, 5500.0), (0.0, 20.0, 600.0)],
)
def test_head_unit_and_pack_begin_at_their_own_charge(
    station: float, pack: float | None, start_wh: float
) -> None:
    """5,000 Wh in the head unit and 3,000 Wh that the pack's cells really give."""
    document = two()
    unit = document["stations"]["unit"]
    unit.update(nameplate_wh=5000.0, packs={"p": {"name": "p", "nameplate_wh": 3500.0, "cell_wh": 3000.0}})
    document["outage"]["start_charge_percent"] = {"unit": station}
    document["outage"]["pack_charge_percent"] = {} if pack is None else {"unit": {"p": pack}}
    result = run(document)
    assert result.ledger is not None
    assert result.ledger.stored_start_wh == pytest.approx(start_wh)
    assert result.ledger.closes


def test_the_wire_in_the_wall_loses_too() -> None:
    """Nothing in the cord: what is lost is I²·R of 30 m of solid AWG 14, out, back and neutral."""
    wire = {"length_m": 30.0, "awg": 14}
    plain, wired = run(two()), run(two(wire=wire, breaker_a=15.0, inlet_a=15.0))
    assert plain.ledger is not None
    assert wired.ledger is not None
    assert plain.ledger.cord_wh == 0
    ohms = 30 * 2.525 / 304.8  # ASTM B258, solid copper at 20 °C, Ω/1000 ft
    hours = wired.ledger.loads_wh / 300.0
    a, b = 100 / 120, 200 / 120
    lost = ohms * (a**2 + b**2 + (b - a) ** 2) * hours
    assert wired.ledger.cord_wh == pytest.approx(lost, rel=2e-3)
