"""The run of an outage: runtime cases, shedding, overload, people, incidents."""

from typing import Any

import pytest
from builders import Json, circuit, cycling, house, job, load, one_load, steady

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.demo import demo_plan


def run(document: Json) -> RunResult:
    result = run_outage(read_plan(document))
    assert result.ledger is None or result.ledger.closes
    return result


def kinds(result: RunResult, *wanted: str) -> list[tuple[float, str]]:
    return [(event.t_s, event.kind) for event in result.events if event.kind in wanted]


@pytest.mark.parametrize(
    ("cell_wh", "idle_w", "load_w", "hours"),
    [(5120, 50, 64.6, 44.7), (5120, 50, 150, 25.6), (6500, 0, 183, 35.5), (512, 0, 40, 12.8)],
)
def test_runtime_cases(cell_wh: float, idle_w: float, load_w: float, hours: float) -> None:
    """Common practice (see supply/test_station_energy), now through the whole run."""
    station = {"nameplate_wh": float(cell_wh), "idle_w": float(idle_w)}
    result = run(one_load(steady(load_w), station=station, load={"tolerance_s": 0.0}))
    assert result.verdict.dark_at_s == pytest.approx(hours * 3600, rel=2e-3)
    assert result.verdict.until_s == result.verdict.dark_at_s
    assert result.verdict.status == "does_not_last"
    assert result.verdict.first_lost == "only"


def test_idle_draw_alone() -> None:
    """Common practice: 5,120 Wh at 50 W idle, no load, 102 h."""
    result = run(one_load(steady(0), station={"idle_w": 50.0}, outage={"length_s": 110 * 3600.0}))
    assert kinds(result, "empty")[0][0] == pytest.approx(102.4 * 3600)


def test_window_packs_and_start_charge() -> None:
    station = {
        "cutoff_percent": 10.0,
        "cell_wh": 5000.0,
        "packs": {"p": {"name": "pack", "nameplate_wh": 2500.0, "count": 2}},
    }
    outage = {"start_charge_percent": {"unit": 60.0}}
    result = run(one_load(steady(500), station=station, outage=outage))
    assert kinds(result, "empty")[0][0] == pytest.approx(10 * 3600)
    assert result.verdict.stranded_wh == pytest.approx(1000)


def test_every_loss_has_its_line() -> None:
    station = {
        "inverter_efficiency": 0.8,
        "idle_w": 40.0,
        "sleep_w": 10.0,
        "self_discharge_percent_per_week": 1.0,
    }
    document = one_load(
        steady(400), station=station, outage={"length_s": 7200.0, "changeover_after_s": 3600.0}
    )
    document["feeds"]["feed"]["cords"] = [{"length_m": 30.0, "awg": 14}]
    ledger = run(document).ledger
    assert ledger is not None
    assert ledger.loads_wh == pytest.approx(400)
    assert ledger.idle_wh == pytest.approx(40)
    assert ledger.sleep_wh == pytest.approx(10)
    assert ledger.self_discharge_wh == pytest.approx(5120 * 0.01 / 168 * 2)
    assert ledger.inverter_loss_wh == pytest.approx((400 + ledger.cord_wh) * 0.25)
    assert ledger.cord_wh == pytest.approx(2 * 30 * 0.00845 * (400 / 120) ** 2, rel=0.01)
    assert ledger.residual < 1e-12


def test_cannot_judge_is_never_fine() -> None:
    document = one_load(steady(10))
    document["feeds"] = {}
    assert run(document).verdict.missing == (
        "no feed leads from a station or an engine to a panel or an appliance",
    )
    document = one_load(steady(10), station={"output": "120"})
    document["feeds"]["feed"]["breaker_spaces"] = [2]
    verdict = run(document).verdict
    assert verdict.status == "cannot_judge"
    assert "does not reach every leg" in verdict.sentence


def test_empty_from_the_start() -> None:
    result = run(one_load(steady(10), outage={"start_charge_percent": {"unit": 0.0}}))
    assert kinds(result, "empty") == [(0.0, "empty")]
    assert result.ledger is not None
    assert result.ledger.loads_wh == 0


# ---------------------------------------------------------------- tolerance


@pytest.mark.parametrize(
    ("changeover_s", "tolerance_s", "failed_s"),
    [(900.0, 900.0, None), (901.0, 900.0, 0.0), (3600.0, 7200.0, None), (3600.0, 0.0, 0.0)],
)
def test_tolerance_runs_from_the_start(
    changeover_s: float, tolerance_s: float, failed_s: float | None
) -> None:
    outage = {"changeover_after_s": changeover_s, "length_s": 7200.0}
    result = run(one_load(steady(10), outage=outage, load={"tolerance_s": tolerance_s}))
    assert result.verdict.until_s == failed_s
    assert (result.verdict.status == "lasts") == (failed_s is None)


def test_waiting_for_its_turn_does_not_count() -> None:
    circuits = {f"c{n}": circuit([n], order=n) for n in (1, 3, 5)}
    loads = {key: load(key, steady(10)) for key in circuits}
    result = run(house(circuits, loads, outage={"changeover_after_s": 900.0, "restore_interval_s": 600.0}))
    assert result.verdict.status == "lasts"
    assert kinds(result, "restored") == [(900.0 + 2 * 600.0, "restored")]


# ---------------------------------------------------------------- shedding


def two_heaters(strategy: Json, **outage: Any) -> Json:
    circuits = {"a": circuit([1], order=1), "b": circuit([5], order=2), "c": circuit([3], order=3)}
    loads = {
        "a": load("a", steady(2000)),
        "b": load("b", job("01:00:00", "01:00:00", (1500, 30))),
        "c": load("c", steady(1500)),
    }
    station = {"nameplate_wh": 1e6}
    return house(
        circuits, loads, station=station, outage={"length_s": 4 * 3600.0, **outage}, strategy=strategy
    )


def test_automatic_shedding_takes_the_last_that_helps() -> None:
    """Leg A goes over by the second heater: that one waits, leg B is left alone."""
    result = run(two_heaters({"shedding": "automatic"}))
    shed = next(event for event in result.events if event.kind == "shed")
    assert (shed.t_s, shed.loads) == (3600.0, ("b",))
    assert max(result.series.account) == 0
    assert max(result.series.a_va) <= result.leg_limit_va


def test_room_goes_before_keep_and_comes_back() -> None:
    document = two_heaters({"shedding": "automatic"})
    document["circuits"]["a"]["mark"] = "room"
    result = run(document)
    assert [(e.t_s, e.kind, e.loads) for e in result.events if e.kind in ("shed", "back")] == [
        (3600.0, "shed", ("a",)),
        (3600.0 + 1800.0, "back", ("a",)),
    ]


def test_no_shedding_trips_and_recovers() -> None:
    """3,500 VA on a 3,000 VA leg is 1.167 times: carried about 122 s, then dark until the reset."""
    strategy = {"shedding": "none", "reset_after_s": 600.0, "recovery_off": ["b"]}
    result = run(two_heaters(strategy))
    events = kinds(result, "over_limit", "trip", "reset")
    assert [kind for _, kind in events] == ["over_limit", "trip", "reset"]
    carried_s = 180 * (10 / 180) ** ((3500 / 3000 - 1.15) / 0.13)
    assert events[1][0] == pytest.approx(3600 + carried_s)
    assert events[2][0] == pytest.approx(events[1][0] + 600)
    assert result.loads["b"].unserved_wh > 0


def test_a_reset_with_the_overload_still_on_trips_again() -> None:
    document = one_load(steady(3300), station={"nameplate_wh": 1e6}, outage={"length_s": 7200.0})
    document["strategy"] = {"shedding": "none", "reset_after_s": 600.0}
    trips = kinds(run(document), "trip")
    assert [t for t, _ in trips] == pytest.approx([600, 1800, 3000, 4200, 5400, 6600])


@pytest.mark.parametrize(
    ("strategy", "hours", "shed_s"),
    [
        ({"reaction_s": 60.0}, ("00:00:00", "00:00:00"), 3660.0),
        ({"reaction_s": 60.0}, ("01:01:30", "23:00:00"), 3690.0),
        ({"reaction_s": 60.0}, ("07:00:00", "23:00:00"), None),
    ],
)
def test_by_hand_only_when_someone_is_awake(
    strategy: Json, hours: tuple[str, str], shed_s: float | None
) -> None:
    occupancy = {"wakes": hours[0], "sleeps": hours[1]}
    result = run(two_heaters({"shedding": "by_hand", **strategy}, occupancy=occupancy))
    shed = kinds(result, "shed")
    assert [t for t, _ in shed] == ([] if shed_s is None else [shed_s])
    assert bool(kinds(result, "trip")) == (shed_s is None)


def test_nobody_home_means_nobody_resets() -> None:
    occupancy = {
        "wakes": "00:00:00",
        "sleeps": "00:00:00",
        "away": [{"leaves": "00:30:00", "returns": "03:00:00"}],
    }
    result = run(two_heaters({"shedding": "none", "reset_after_s": 600.0}, occupancy=occupancy))
    assert kinds(result, "reset")[0] == (3 * 3600.0, "reset")


def test_room_goes_off_below_a_charge() -> None:
    document = two_heaters({"shedding": "automatic", "room_off_below_percent": 50.0})
    document["stations"]["unit"]["nameplate_wh"] = 7000.0
    document["circuits"]["c"]["mark"] = "room"
    result = run(document)
    assert kinds(result, "room_shed")[0][0] == pytest.approx(3600.0, abs=1)
    assert result.load_series["c"].watts[-1] == 0


# ---------------------------------------------------------------- starts


def starter(va: float, seconds: float = 1.0, **more: Any) -> Json:
    return {"start": {"va": va, "seconds": seconds}, **more}


@pytest.mark.parametrize(("va", "trips"), [(4400, False), (4501, True)])
def test_start_against_the_curve(va: float, trips: bool) -> None:
    """A leg of 3,000 VA carries 1.5 times for 1 s."""
    result = run(one_load(cycling(500, 0.5, 1200), load=starter(va), outage={"length_s": 3600.0}))
    assert bool(kinds(result, "trip")) == trips
    assert result.verdict.start_pinch is not None
    assert result.verdict.start_pinch.share == pytest.approx(va / 4500)


def test_never_a_third_reset_on_the_same_start() -> None:
    result = run(one_load(cycling(500, 0.5, 1200), load=starter(9000), outage={"length_s": 86_400.0}))
    assert len(kinds(result, "trip")) == 2
    assert len(kinds(result, "left_off")) == 1


def test_others_yield_to_a_start_that_can_be_carried() -> None:
    circuits = {"pump": circuit([1], order=1), "heat": circuit([5], "room")}
    loads = {
        "pump": load("pump", cycling(700, 0.5, 1200, phase=0.5), **starter(4000)),
        "heat": load("heat", steady(1500)),
    }
    automatic = run(house(circuits, loads, outage={"length_s": 3600.0}))
    assert kinds(automatic, "shed")
    assert not kinds(automatic, "trip")
    nobody = run(house(circuits, loads, outage={"length_s": 3600.0}, strategy={"shedding": "none"}))
    assert kinds(nobody, "trip")


def test_a_compressor_restarts_hard() -> None:
    """Practice: within 5 min of stopping the start is half as much again."""
    incident = {"kind": "cord_unplugged", "at_s": 300.0, "for_s": 120.0}
    more = starter(3200, compressor=True)
    outage = {"length_s": 3600.0, "incidents": {"cord": incident}}
    result = run(one_load(cycling(500, 0.5, 1200, phase=0.0), load=more, outage=outage))
    assert kinds(result, "unplugged", "plugged_in", "trip")[:3] == [
        (300.0, "unplugged"),
        (420.0, "plugged_in"),
        (420.0, "trip"),
    ]
    outage["incidents"] = {"cord": {**incident, "for_s": 600.0}}
    assert not kinds(run(one_load(cycling(500, 0.5, 1200, phase=0.0), load=more, outage=outage)), "trip")


def test_a_dip_drops_what_needs_a_hand() -> None:
    circuits = {"pump": circuit([1], order=1), "saw": circuit([3], order=2)}
    loads = {
        "pump": load("pump", cycling(700, 0.5, 1200, phase=0.5), **starter(4200)),
        "saw": load("saw", steady(300), drops_on_dip=True),
    }
    result = run(house(circuits, loads, outage={"length_s": 3000.0}))
    dips = kinds(result, "dip", "hand")
    assert [kind for _, kind in dips[:2]] == ["dip", "hand"]
    assert dips[1][0] == pytest.approx(dips[0][0] + 900)


@pytest.mark.parametrize(("restore", "trips"), [("one_at_a_time", 0), ("all_at_once", 1)])
def test_all_at_once_adds_the_starts(restore: str, trips: int) -> None:
    circuits = {f"c{n}": circuit([n], order=n) for n in (1, 5, 9)}
    loads = {key: load(key, cycling(200, 0.5, 1200, phase=0.0), **starter(1800)) for key in circuits}
    outage = {"restore": restore, "length_s": 900.0, "changeover_after_s": 60.0, "restore_interval_s": 20.0}
    assert len(kinds(run(house(circuits, loads, outage=outage)), "trip")) == trips


@pytest.mark.parametrize(("starting_va", "heavy_s"), [(1_900.0, 840.0), (2_500.0, 820.0)])
def test_circuits_return_in_the_persons_order_unless_a_start_finds_no_room(
    starting_va: float, heavy_s: float
) -> None:
    """A leg carries 4,500 VA for 1 s: beside 2,500 W a start of 2,500 VA is too much, so it comes first."""
    circuits = {"heavy": circuit([1], order=1), "light": circuit([5], order=2)}
    loads = {
        "heavy": load("heavy", steady(2_500)),
        "light": load("light", cycling(100, 0.9, 86_400, phase=0.0), **starter(starting_va)),
    }
    outage = {"length_s": 900.0, "changeover_after_s": 60.0, "restore_interval_s": 20.0}
    result = run(house(circuits, loads, outage=outage))
    assert not kinds(result, "trip")
    assert result.loads["heavy"].served_wh == pytest.approx(2_500 * heavy_s / 3600)


# ---------------------------------------------------------------- incidents and idle cut-out


def test_a_station_that_is_empty_as_it_turns_itself_off_ends_the_run_all_the_same() -> None:
    """500 Wh at 50 W idle: on 1 h of every 1.25, the cells are empty at the very end of an hour."""
    document = house({"c": circuit([1])}, {})
    document["stations"]["unit"].update(
        nameplate_wh=500.0, idle_w=50.0, idle_cutout={"threshold_w": 10.0, "after_s": 3600.0}
    )
    document["outage"].update(length_s=45_001.0, changeover_after_s=0.0)
    events = run(document).events
    empty = [event.t_s for event in events if event.kind == "empty"]
    assert empty == [44_100.0]
    assert all(event.t_s < 44_100.0 for event in events if event.kind == "idle_cutout")
    assert events[-1].kind == "outage_ends"


def test_idle_cutout_needs_a_hand() -> None:
    station = {"idle_cutout": {"threshold_w": 10.0, "after_s": 1800.0}}
    outage = {"length_s": 3 * 3600.0}
    result = run(one_load(cycling(100, 0.25, 7200, phase=0.0), station=station, outage=outage))
    assert kinds(result, "idle_cutout", "reset")[:2] == [(3600.0, "idle_cutout"), (4500.0, "reset")]
    assert not kinds(run(one_load(steady(20), station=station, outage=outage)), "idle_cutout")


def test_an_open_door_costs_energy() -> None:
    incident = {"kind": "door_open", "at_s": 900.0, "for_s": 1200.0, "load_id": "only"}
    outage = {"length_s": 7200.0}
    closed = run(one_load(cycling(600, 0.5, 1200, phase=0.0), outage=outage))
    opened = run(
        one_load(cycling(600, 0.5, 1200, phase=0.0), outage={**outage, "incidents": {"door": incident}})
    )
    assert closed.ledger
    assert opened.ledger
    assert opened.ledger.loads_wh - closed.ledger.loads_wh == pytest.approx(100)


# ---------------------------------------------------------------- clock and whole result


@pytest.mark.parametrize(
    ("start", "expected_h"), [("2026-10-31T18:00:00", 14.0), ("2026-03-07T18:00:00", 12.0)]
)
def test_jobs_follow_the_clock_through_daylight_saving(start: str, expected_h: float) -> None:
    document = one_load(
        job("07:00:00", "07:30:00", (600, 10)), outage={"start_local": start, "length_s": 86_400.0}
    )
    document["site"]["time_zone"] = "America/Los_Angeles"
    series = run(document).load_series["only"]
    assert series.t_s[1] == expected_h * 3600


def test_same_plan_same_bytes() -> None:
    first, second = (run_outage(demo_plan()).model_dump_json() for _ in range(2))
    assert first == second


def test_pinch_is_the_tightest_element() -> None:
    document = one_load(steady(1200), outage={"length_s": 3600.0})
    document["feeds"]["feed"]["inlet_a"] = 20.0
    verdict = run(document).verdict
    assert verdict.pinch is not None
    assert verdict.pinch.key in ("inlet", "only")
    assert verdict.pinch.share == pytest.approx(0.5)
    assert (verdict.lean_w, verdict.lean_wh) == (1.0, 1.0)


def test_demo_tells_its_story() -> None:
    result = run_outage(demo_plan())
    assert result.verdict.status == "lasts"
    assert result.ledger is not None
    assert result.ledger.closes
    assert result.ledger.sun_wh > 15_000
    engine = result.sources["generators/inverter-2k"]
    assert (engine.starts or 0) > 3
    assert engine.burned_l == pytest.approx(0.18 * engine.on_s / 3600 + 0.5 * engine.given_wh / 1000)
    assert all(event.what for event in result.events)
    assert [e.t_s for e in result.events] == sorted(e.t_s for e in result.events)
