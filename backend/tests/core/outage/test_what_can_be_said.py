"""What real set-ups have and a plan must be able to say, each in the run; and what nobody said, in words."""

import copy

import pytest
from builders import Json, load, refusals, steady
from check_plans import merged
from core.outage.test_acts import ALL, MODULE

from weary_cedar.core.electrical.flexible_cord import area_mm2, carries_a, cord_ohms_per_m
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Cord, Plan, read_plan
from weary_cedar.core.plan.battery import Bank, BankBattery
from weary_cedar.core.plan.usual_sky import season, usual_sky

HOUR_S = 3600.0
BARE: Json = {
    "idle_w": 0.0,
    "sleep_w": 0.0,
    "self_discharge_percent_per_week": 0.0,
    "inverter_efficiency": 1.0,
}


def plan(*patches: Json) -> Plan:
    return read_plan(merged(copy.deepcopy(ALL), *patches))


def run(*patches: Json) -> RunResult:
    return run_outage(plan(*patches))


def said(result: RunResult, words: str) -> bool:
    return any(words in line for line in result.verdict.assumed)


def test_a_cord_in_square_millimetres() -> None:
    """1.5 mm² carries 16 A and has 11.7 mΩ/m (BS 7671 table 4F3A from memory; 1/58 Ω·mm²/m, stranded)."""
    metric, gauge = Cord(length_m=10, mm2=1.5), Cord(length_m=10, awg=12)
    assert (carries_a(metric), carries_a(gauge), carries_a(Cord(length_m=1, mm2=1.2))) == (16.0, 25.0, 10.0)
    assert cord_ohms_per_m(metric) == pytest.approx(1.02 / 58 / 1.5)
    assert area_mm2(gauge) == pytest.approx(3.31, abs=0.01)
    thin = run({"leads": {"lamp": {"cords": [{"length_m": 30.0, "mm2": 0.5}]}}})
    thick = run({"leads": {"lamp": {"cords": [{"length_m": 30.0, "mm2": 10.0}]}}})
    assert thin.ledger is not None
    assert thick.ledger is not None
    assert thin.ledger.cord_wh > thick.ledger.cord_wh
    for cord in ({"length_m": 1.0}, {"length_m": 1.0, "awg": 12, "mm2": 2.5}):
        found = refusals(merged(ALL, {"leads": {"lamp": {"cords": [cord]}}}))
        assert "a gauge, or else mm²" in found["/leads/lamp/cords/0/awg"]


def test_a_charger_that_nobody_set_takes_what_its_input_takes() -> None:
    open_lead = copy.deepcopy(ALL["leads"])
    del open_lead["wall"]["to"]["setting_w"]
    result = run_outage(read_plan({**ALL, "leads": open_lead}))
    assert max(result.leads["wall"].watts) == pytest.approx(900.0)
    assert said(result, "it charges with as much as its input takes, 900 W")


def test_a_converter_between_a_vehicle_and_an_input() -> None:
    """200 W of the car behind a converter of 120 W: 120 W are taken."""
    end = {"converter_w": 120.0, "converter_efficiency": 0.8}
    result = run({"leads": {"car": {"to": end}}})
    assert max(result.leads["car"].watts) == pytest.approx(120.0)
    assert (
        "between a vehicle"
        in refusals(merged(ALL, {"leads": {"wall": {"to": end}}}))["/leads/wall/to/converter_w"]
    )


def test_an_engine_by_the_clock_alone() -> None:
    """From ten to twelve and no longer, full or not: it begins at eight."""
    rule = {"kind": "engine", "generator_id": "set", "on_below_percent": None,
            "hours": {"begins": "10:00:00", "ends": "12:00:00"}}  # fmt: skip
    result = run({"strategy": {"rules": [rule]}, "outage": {"start_charge_percent": {"unit": 99.9}}})
    (span,) = result.sources["generators/set"].ran
    assert (span.begins_s, span.ends_s) == (2 * HOUR_S, 4 * HOUR_S)
    assert (
        result.rules[0].words.startswith("Start set by the clock") or "by the clock" in result.rules[0].words
    )


@pytest.mark.parametrize(("with_packs", "head"), [(True, 3_000.0), (False, 5_000.0)])
def test_a_discharge_that_was_measured_with_its_packs(with_packs: bool, head: float) -> None:
    unit = {**BARE, "packs": {"p": {"name": "p", "nameplate_wh": 2_000.0}}, "delivered_wh": 5_000.0,
            "delivered_at_w": 100.0, "delivered_with_packs": with_packs}  # fmt: skip
    assert plan({"stations": {"small": unit}}).stations["small"].head_wh == pytest.approx(head)


def test_an_inverter_without_cells_of_its_own() -> None:
    """2,000 Wh in its pack, 150 W: 13 h and 20 min."""
    unit = {**BARE, "nameplate_wh": 0.0, "packs": {"p": {"name": "p", "nameplate_wh": 2_000.0}}}
    result = run({"stations": {"small": unit}, "outage": {"length_s": 20 * HOUR_S}})
    assert result.loads["lamp"].failed_at_s == pytest.approx(2_000 / 150 * HOUR_S, rel=0.01)
    assert (
        "at least 1 Wh"
        in refusals(merged(ALL, {"stations": {"small": {"nameplate_wh": 0.0}}}))["/stations/small/cell_wh"]
    )


def test_cells_that_take_all_until_they_are_full() -> None:
    """400 W at 88 % into 400 Wh less than full, nothing drawn: 1 h and 8 min, where a taper takes longer."""
    alone = {**BARE, "nameplate_wh": 8_000.0, "charge_efficiency": 0.88}
    dark = {"roof": {"seen": {"t_s": [0.0], "watts": [0.0]}}}
    quiet = {"loads": {"fridge": {"behaviour": steady(0.001)}}, "arrays": dark,
             "leads": {"car": {"to": {"when": "grid"}}}, "externals": {"tools": {"gives_w": 0.001}},
             "outage": {"start_charge_percent": {"unit": 95.0}},
             "strategy": {"rules": [{"kind": "engine", "generator_id": "set", "on_below_percent": 96.0,
                                     "off_above_percent": 100.0}]}}  # fmt: skip
    ends = {}
    for name, taper in (
        ("none", None),
        ("bent", {"knee_percent": 95.0, "end_percent": 10.0, "reference_w": 352.0}),
    ):
        made = merged(copy.deepcopy(ALL), quiet, {"stations": {"unit": {**alone, "taper": taper}}})
        ends[name] = next(e.t_s for e in run_outage(read_plan(made)).events if e.kind == "full")
    assert ends["none"] == pytest.approx(400 / 352 * HOUR_S, rel=0.01)
    assert ends["bent"] > 2 * ends["none"]


def test_batteries_of_a_bank_one_by_one_and_a_fuse_that_there_is_not() -> None:
    """100 A and 60 A side by side at 48 V: the weaker one decides, 60 A · 2 · 48 V; charging likewise."""
    made = {"nominal_v": 48.0, "lowest_v": 44.0, "parallel": 2, "batteries": {
        "a": {"name": "a", "discharge_a": 100.0, "charge_a": 50.0},
        "b": {"name": "b", "discharge_a": 60.0, "charge_a": 30.0}}}  # fmt: skip
    bank = Bank.model_validate(made)
    assert (bank.weakest_a, bank.most_draw_w, bank.most_charge_w) == (60.0, 5_760.0, 2_880.0)
    unread = bank.model_copy(update={"batteries": {"a": BankBattery(name="a")}})
    assert (unread.weakest_a, unread.most_charge_w) == (None, None)


def test_the_engine_of_a_vehicle_has_watts_and_hours() -> None:
    """Without a battery no more than its engine; 1.2 kWh by 800 W are an hour and a half."""
    engine = {"kind": "engine", "engine_w": 100.0, "tank_l": 40.0, "kwh_per_l": 2.0, "usable_kwh": None}
    made = merged(copy.deepcopy(ALL), {"vehicles": {"car": engine}})
    made["vehicles"]["car"].pop("usable_kwh")
    assert max(run_outage(read_plan(made)).leads["car"].watts) == pytest.approx(100.0)
    hybrid = {"kind": "hybrid", "may_start_engine": "yes", "engine_w": 800.0, "tank_l": 40.0,
              "kwh_per_l": 2.0, "usable_kwh": 0.3, "tops_up_below_percent": 0.0,
              "tops_up_to_percent": 100.0}  # fmt: skip
    share = run({"vehicles": {"car": hybrid}}).sources["vehicles/car"]
    assert share.engine_h == pytest.approx(1.5, rel=0.01)


def test_two_unlike_links_over_one_station_are_refused_in_words() -> None:
    links = {"a": {"name": "pair", "kind": "two_legs", "leg_a": "unit", "leg_b": "small"},
             "b": {"name": "side", "kind": "parallel", "leg_a": "small", "leg_b": "unit"}}  # fmt: skip
    found = refusals(merged(ALL, {"links": links}))
    assert "this one is in pair" in found["/links/b/leg_a"]


def test_a_charge_alone_without_a_feed_is_run_and_not_judged() -> None:
    made = {**ALL, "feeds": {}, "loads": {"fridge": load("fridge", steady(300.0))}}
    made["leads"] = {key: ALL["leads"][key] for key in ("wall", "car")}
    result = run_outage(read_plan(made))
    assert result.verdict.status == "cannot_judge"
    assert "no feed leads from" in result.verdict.sentence
    assert result.leads["wall"].taken_wh > 1_000.0
    assert result.batteries["unit"].end_percent > 30.0
    assert result.ledger is not None
    assert result.ledger.closes


def test_a_sky_that_nobody_chose_is_the_mix_of_the_season() -> None:
    """More sun in summer than in winter, less than clear in both, the seasons turned round in the south."""
    summer, winter = plan().outage.start_local.replace(month=7).date(), plan().outage.start_local.date()
    assert (season(summer, 43.0), season(winter, 43.0), season(summer, -30.0)) == (
        "summer",
        "winter",
        "winter",
    )
    assert season(summer, 10.0) == "between"
    assert usual_sky(winter, 43.0, 5)[4] == usual_sky(winter, 43.0, 1)[0]
    roof = {"roof": {"name": "roof", "module": MODULE, "station_id": "unit", "input_id": "sun"}}
    unsaid = run_outage(read_plan({**ALL, "arrays": roof}))
    assert said(unsaid, "the sky is the usual mix of the season (broken cloud, overcast")
    clear = merged(copy.deepcopy({**ALL, "arrays": roof}), {"outage": {"weather": {"sky": ["clear"]}}})
    assert 0 < unsaid.suns["roof"].offered_wh < run_outage(read_plan(clear)).suns["roof"].offered_wh


def test_what_nobody_said_is_listed_with_what_it_moves() -> None:
    usual = {"leads": {"in": {"cords": [{"length_m": 7.6, "awg": 10, "usual": True}]}, "wall": {"cords": []}}}
    result = run(usual, {"outage": {"occupancy": {"wakes": "06:30:00", "sleeps": "22:30:00"}}})
    told = ("as is mostly sold: 5 W are lost in it at 10 A", "no cord is said", "takes 65 W for itself",
            "someone is at home, awake from 06:30", "burns what is usual of its rating",
            "car is full when the power goes out", "power factors of", "guessed or typical")  # fmt: skip
    for words in told:
        assert said(result, words), words
