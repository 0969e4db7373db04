"""Single appliances that hang on a lead by their own plugs, with or without a breaker at home."""

import pytest
from builders import Json, circuit, house, load, refusals, steady

from weary_cedar.core.checks import findings_of
from weary_cedar.core.decide.needs import need_list
from weary_cedar.core.network import ACROSS, LEG_B, Network, network_of
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.panel_schedule import panel_schedule
from weary_cedar.core.plan import Plan, read_plan, upgraded

HOUR_S = 3600.0


def document(*hangs: str, **more: Json) -> Json:
    """A kitchen circuit with two appliances, a tent lamp without a home, and a strip that some hang on."""
    made = house(
        {"kitchen": circuit([1], order=10), "pump": circuit([5])},
        {
            "fridge": load("kitchen", steady(100.0)),
            "kettle": load("kitchen", steady(1_000.0)),
            "pump": load("pump", steady(200.0)),
        },
        outage={"length_s": 10 * HOUR_S},
    )
    made = upgraded(made)
    made["loads"]["lamp"] = {"name": "tent lamp", "behaviour": steady(40.0)}
    station = made["stations"]["unit"]
    station["receptacles"]["side"] = {"kind": "5-20", "rating_a": 20.0, "leg": "B", "gfci": "no"}
    made["leads"]["strip"] = {
        "source": {"kind": "station", "id": "unit", "outlet": "side"},
        "cords": [{"length_m": 10.0, "awg": 14}],
        "to": {"end": "loads", "load_ids": list(hangs)},
    }
    for key, part in more.items():
        made["loads"][key] |= part
    return made


def plan(*hangs: str, **more: Json) -> Plan:
    return read_plan(document(*hangs, **more))


def run(made: Plan) -> RunResult:
    result = run_outage(made)
    assert result.ledger is not None
    assert result.ledger.closes
    return result


def test_one_of_a_circuit_hangs_on_a_lead_and_the_rest_stays_on_its_breaker() -> None:
    made = plan("fridge", "lamp")
    network = Network(made)
    assert network.way("strip").branches == {"plug:fridge": LEG_B, "plug:lamp": LEG_B}
    assert network.way("strip").circuits == {}
    assert set(network.way("feed").branches) == {"kitchen", "pump"}
    assert network.legs_of("fridge") == ("B",)
    assert network.legs_of("kettle") == ("A",)
    result = run(made)
    assert result.loads["lamp"].served_wh == pytest.approx(40 * 5120 / 1340, rel=0.01)
    assert max(result.ways["strip"].b_va) == pytest.approx(140.0)
    assert max(result.ways["feed"].a_va) == pytest.approx(1_200.0)
    breaker = next(flow for flow in result.flows if flow.key == "kitchen")
    assert breaker.flow == pytest.approx(1_000 / 120), "the refrigerator is not on it any more"
    assert not any(flow.key.startswith("plug:") for flow in result.flows), "no breaker is in its way"


def test_the_lead_that_comes_out_darkens_what_hangs_on_it_alone() -> None:
    made = document("fridge", lamp={"mark": "off"})
    made["outage"]["incidents"] = {
        "out": {"kind": "cord_unplugged", "lead_id": "strip", "at_s": HOUR_S, "for_s": HOUR_S}
    }
    made["loads"]["kettle"]["behaviour"] = steady(10.0)
    result = run(read_plan(made))
    assert result.loads["fridge"].without_power_s == pytest.approx(HOUR_S)
    assert result.loads["pump"].without_power_s <= 1.0
    assert result.verdict.first_lost == "fridge"


def test_what_hangs_nowhere_is_said_in_run_and_checks() -> None:
    made = plan()
    result = run(made)
    assert ("tent lamp", "it hangs on no breaker and on no lead") in [(u.name, u.why) for u in result.unused]
    assert result.verdict.unreached == ("lamp",)
    found = [f for f in findings_of(made) if f.check_id == "blind-spot"]
    assert [f.element.id for f in found] == ["lamp"]
    assert not [f for f in findings_of(plan("lamp")) if f.check_id == "blind-spot"]


def test_marks_and_order_are_its_own() -> None:
    off = plan("lamp", lamp={"mark": "off"})
    assert run(off).loads.keys() == {"fridge", "kettle", "pump"}
    room = plan("lamp", lamp={"mark": "room", "order": 3})
    assert network_of(room).hangs["lamp"].order == 3
    needs = {need.load_id: need for need in need_list(room).needs}
    assert (needs["lamp"].mark, needs["lamp"].circuit_id, needs["lamp"].lead_id) == ("room", None, "strip")
    assert (needs["kettle"].mark, needs["kettle"].lead_id) == ("keep", None)


def test_240_v_needs_an_outlet_with_both_legs() -> None:
    heater = {"plate_volts": 240.0}
    dead = plan("lamp", lamp=heater)
    assert Network(dead).way("strip").dead == ("plug:lamp",)
    assert "one hot only" in run_outage(dead).verdict.sentence
    both = document("lamp", lamp=heater)
    both["leads"]["strip"]["source"]["outlet"] = "out"
    del both["leads"]["feed"]
    assert Network(read_plan(both)).way("strip").branches == {"plug:lamp": ACROSS}


def test_the_panel_does_not_count_what_is_on_a_lead() -> None:
    kitchen = panel_schedule(plan("fridge"), "main").circuits["kitchen"]
    assert kitchen.on_w == 1_000.0
    assert panel_schedule(plan(), "main").circuits["kitchen"].on_w == 1_100.0


def test_checks_look_at_cord_and_outlet_of_a_single_load() -> None:
    heavy = plan("kettle", kettle={"behaviour": steady(2_300.0)})
    found = {f.check_id: f for f in findings_of(heavy) if f.element.id == "strip"}
    assert found["cord-ampacity"].figures[0].value == pytest.approx(2_300 / 120)
    assert not [f for f in findings_of(heavy) if f.element.id == "kitchen" and f.check_id == "continuous-80"]
    furnace = plan("lamp", lamp={"role": "heat", "needs_bonded": True})
    named = {f.check_id for f in findings_of(furnace) if f.element.id == "lamp"}
    assert "furnace-cord" in named


def test_a_wet_place_asks_for_the_outlet_of_the_lead() -> None:
    made = document("lamp", lamp={"place_id": "yard"})
    made["places"] = {"yard": {"name": "yard", "kind": "outdoors"}}
    assert [f.element.id for f in findings_of(read_plan(made)) if f.check_id == "wet-no-gfci"] == ["lamp"]
    made["stations"]["unit"]["receptacles"]["side"]["gfci"] = "yes"
    assert not [f for f in findings_of(read_plan(made)) if f.check_id == "wet-no-gfci"]


def test_what_is_refused() -> None:
    assert "load of this plan" in refusals(document("gone"))["/leads/strip/to/load_ids/0"]
    assert "only once" in refusals(document("lamp", "lamp"))["/leads/strip/to/load_ids/1"]
    assert "its breaker counts" in refusals(document(fridge={"mark": "room"}))["/loads/fridge/mark"]
    assert refusals(document("fridge", fridge={"mark": "room", "order": 2})) == {}
