"""What a plan may say of a station: measured energy, idle by its class, steps of charging, displays."""

import pytest
from builders import Json, circuit, house, load, refusals, steady

from weary_cedar.core.electrical.conductor import ohms_per_m
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Station, read_plan, upgraded
from weary_cedar.core.supply.station_energy import runtime_h

HOUR_S = 3600.0


def document(**station: object) -> Json:
    return house({"a": circuit([1])}, {"a": load("a", steady(200.0))}, station=dict(station))


def run(made: Json) -> RunResult:
    result = run_outage(read_plan(made))
    assert result.ledger is not None
    assert result.ledger.closes
    return result


@pytest.mark.parametrize(
    ("rated_va", "idle_w"), [(300.0, 8.0), (500.0, 10.0), (3600.0, 41.0), (12_000.0, 70.0)]
)
def test_idle_draw_follows_the_rating_where_it_is_not_said(rated_va: float, idle_w: float) -> None:
    """Common practice: 8 to 70 W are seen; 40 W on a half-kilowatt-hour station would be wrong by hours."""
    made = Station(name="unit", rated_va=rated_va, nameplate_wh=500.0)
    assert made.idle_draw_w == pytest.approx(idle_w)
    assert made.model_copy(update={"idle_w": 3.0}).idle_draw_w == 3.0


def test_a_plan_of_version_1_keeps_what_it_meant() -> None:
    old = document()
    del old["stations"]["unit"]["idle_w"]
    assert read_plan(old).stations["unit"].idle_draw_w == 40.0
    assert upgraded(old)["stations"]["unit"]["idle_w"] == 40.0


def test_what_was_delivered_is_not_charged_losses_twice() -> None:
    """4,000 Wh at 200 W lasted 20 h: so it does in the run, at η 0.9 and 30 W idle."""
    told = {"inverter_efficiency": 0.9, "idle_w": 30.0, "delivered_wh": 4_000.0, "delivered_at_w": 200.0}
    made = document(**told)
    cells = read_plan(made).stations["unit"].total_cell_wh
    assert runtime_h(cells, 200.0, 0.9, 30.0) == pytest.approx(20.0)
    assert run(made).verdict.until_s == pytest.approx(20 * HOUR_S)
    made["loads"]["a"]["behaviour"] = steady(20.0)
    hours = cells / (20 / 0.9 + 30)
    made["outage"]["length_s"] = 200 * HOUR_S
    assert run(made).verdict.until_s == pytest.approx(hours * HOUR_S)


def test_both_figures_of_a_test_and_no_second_one() -> None:
    assert "mean load" in refusals(document(delivered_wh=900.0))["/stations/unit/delivered_at_w"]
    twice = document(delivered_wh=900.0, delivered_at_w=100.0, cell_wh=1_000.0)
    assert "follows from" in refusals(twice)["/stations/unit/cell_wh"]


def charged(length_m: float = 0.0, **entry: object) -> Json:
    """The utility charges an idle station at 1,200 W by a cord, for two hours."""
    made = document(nameplate_wh=10_000.0)
    made["stations"]["unit"]["ac_inputs"] = {"wall": {"volts": 120, "most_w": 1_500.0, **entry}}
    made["circuits"]["b"] = circuit([5])
    link = {"name": "wall", "station_id": "unit", "input_id": "wall", "kind": "circuit", "from_id": "b"}
    cords = [{"length_m": length_m, "awg": 14}] if length_m else []
    made["recharges"] = {"wall": {**link, "setting_w": 1_200.0, "cords": cords}}
    made["outage"] |= {
        "length_s": 4 * HOUR_S,
        "start_charge_percent": {"unit": 20.0},
        "grid": {"w": {"at_s": HOUR_S, "for_s": 2 * HOUR_S}},
    }
    return made


def test_cords_of_a_charging_lead_take_their_part() -> None:
    """30 m of AWG 14 at 10 A: out and back, I²·R, on top of what arrives."""
    bare, by_cord = run(charged()), run(charged(30.0))
    lost = 10.0**2 * 2 * 30.0 * ohms_per_m(14)
    assert by_cord.leads["wall"].taken_wh == pytest.approx(bare.leads["wall"].taken_wh)
    charging_h = bare.leads["wall"].taken_wh / 1_200.0
    extra = by_cord.sources["grid"].given_wh - bare.sources["grid"].given_wh
    assert extra == pytest.approx(lost * charging_h, rel=1e-6)
    assert by_cord.ledger is not None
    assert by_cord.ledger.cord_wh == pytest.approx(extra)


def test_only_steps_that_an_input_offers_can_be_set() -> None:
    assert refusals(charged(steps_w=[400.0, 800.0, 1_200.0])) == {}
    wrong = refusals(charged(steps_w=[400.0, 800.0]))
    assert "400, 800 W" in wrong["/recharges/wall/setting_w"]


def test_a_display_that_is_off_changes_no_energy() -> None:
    made = document(nameplate_wh=2_000.0, packs={"p": {"name": "p", "nameplate_wh": 2_000.0}})
    plain = run(made)
    made = upgraded(made)
    made["stations"]["unit"]["packs"]["p"]["reading_offset_percent"] = -3.0
    shown = run_outage(read_plan(made))
    assert shown.verdict.until_s == plain.verdict.until_s
    readings = shown.batteries["unit"].readings
    assert readings["p"].start_percent == 97.0
    assert readings["head"].start_percent == 100.0


def test_days_with_nobody_there_wait_for_a_hand() -> None:
    """A trip at once; someone resets after 15 min, or when they are back after six hours."""
    made = document(rated_va=150.0)
    made["strategy"] = {"shedding": "none"}
    resets = [e.t_s for e in run(made).events if e.kind == "reset"]
    made["outage"]["occupancy"] |= {"gone": [{"at_s": 0.0, "for_s": 6 * HOUR_S}]}
    later = [e.t_s for e in run(made).events if e.kind == "reset"]
    assert later[0] == pytest.approx(6 * HOUR_S)
    assert resets[0] < HOUR_S


def test_someone_who_switches_it_on_again_clears_a_trip() -> None:
    made = document(rated_va=150.0)
    made["strategy"] = {"shedding": "none", "reset_after_s": 7_200.0}
    made["outage"]["length_s"] = HOUR_S
    made["outage"]["acts"] = {"on": {"at_s": 600.0, "room": "stations", "part_id": "unit", "turn": "on"}}
    drawn = run(made).load_series["a"]
    assert 600.0 in [t for t, watts in zip(drawn.t_s, drawn.watts, strict=True) if watts > 0]
