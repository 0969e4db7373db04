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


@pytest.mark.parametrize("kind", ["no_transfer", "receptacle_backfeed"])
def test_refused_ways_are_not_run(kind: str) -> None:
    spaces: Json = {"breaker_spaces": []} if kind == "receptacle_backfeed" else {}
    result = run(two(kind=kind, **spaces))
    assert (result.verdict.status, result.ledger) == ("cannot_judge", None)
    assert "can kill" in result.verdict.sentence


def test_one_hot_on_both_legs_feeds_120_volt_circuits_only() -> None:
    """Both circuits on leg A of the source; a two-pole one gets no voltage; the neutral carries the sum."""
    document = two(kind="bridged")
    document["circuits"]["dryer"] = circuit([5, 7])
    document["loads"]["dryer"] = load("dryer", steady(1000))
    result = run(document)
    assert (max(result.series.a_w), max(result.series.b_w)) == (300, 0)
    assert max(result.series.neutral_a) == pytest.approx(300 / 120)
    assert result.verdict.unreached == ("dryer",)
    assert "one hot only" in result.verdict.sentence


def test_one_hot_on_one_leg_feeds_that_leg_only() -> None:
    result = run(two(kind="half_leg", breaker_spaces=[2]))
    assert set(result.loads) == {"a"}
    assert "b must run but" in result.verdict.sentence
    result = run(two(kind="half_leg", breaker_spaces=[4]))
    assert set(result.loads) == {"b"}


def test_cords_from_a_120_volt_outlet_draw_on_its_leg() -> None:
    cords = two(kind="cords", breaker_spaces=[], circuit_ids=["a", "b"])
    cords["stations"]["unit"]["receptacles"]["out"] = {"kind": "5-20", "rating_a": 20.0, "leg": "B"}
    result = run(cords)
    assert (max(result.series.a_w), max(result.series.b_w)) == (0, 300)
    del cords["stations"]["unit"]["receptacles"]["out"]["leg"]
    assert "is on leg A" in run(cords).verdict.assumed[0]


def test_cords_in_a_single_phase_house() -> None:
    plan = demo_plan("hut")
    result = run_outage(plan)
    assert set(result.loads) == {"boiler", "radio", "freezer", "lights", "beacons"}
    assert result.ledger is not None
    assert result.ledger.closes
    assert max(result.series.b_w) == 0


def test_a_source_that_does_not_fit_is_named() -> None:
    document = two()
    document["stations"]["unit"]["output"] = "120"
    assert run(document).verdict.missing == ("unit gives 120 V where the house takes 120/240 V",)
    document["feeds"] = {}
    assert "no feed leads" in run(document).verdict.sentence


def test_a_cord_takes_its_circuit_out_of_the_panel() -> None:
    """Whatever the order of the keys: the circuit on the cord is fed by the cord, the rest by the inlet."""
    document = two()
    cord = {**document["feeds"]["feed"], "kind": "cords", "breaker_spaces": [], "circuit_ids": ["a"]}
    document["feeds"] = {"a-cord": cord, "b-inlet": document["feeds"]["feed"]}
    first = run(document)
    document["feeds"] = dict(reversed(document["feeds"].items()))
    assert run(document).model_dump_json() == first.model_dump_json()
    flows = {(flow.feed, flow.key): flow.flow for flow in first.flows}
    assert flows["a-cord", "cord"] == pytest.approx(100 / 120)
    assert flows["b-inlet", "cord"] == pytest.approx(200 / 120)


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
def test_demos_use_all_that_they_own(name: str) -> None:
    result = run_outage(demo_plan(name))
    assert (result.unused, result.verdict.left_out) == ((), ())
    assert result.ledger is not None
    assert result.ledger.closes


def test_what_is_not_used_is_named_with_why() -> None:
    document = two()
    module = {"watts": 400.0, "voc_v": 37.0, "vmp_v": 31.0, "isc_a": 13.6, "imp_a": 12.9}
    document["arrays"] = {"roof": {"name": "roof", "kind": "grid_tied", "module": module}}
    document["externals"] = {"old": {"name": "old", "wh": 1000.0, "lowest_v": 11.0, "highest_v": 14.0}}
    document["stations"]["unit"]["ac_inputs"] = {"wall": {"most_w": 1500.0}}
    link = {"name": "wall", "station_id": "unit", "input_id": "wall", "kind": "circuit", "from_id": "a"}
    document["recharges"] = {"wall": {**link, "setting_w": 1000.0}}
    unused = {item.name: item.why for item in run(document).unused}
    assert "utility is off" in unused["roof"]
    assert "no input" in unused["old"]
    assert "does not come back" in unused["wall"]


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
