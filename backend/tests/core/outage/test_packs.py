"""Packs that balance, join and leave: figures by hand, and a run of seconds that knows no marks."""

from typing import Any

import pytest
from builders import Json, house, load, refusals, steady
from builders import circuit as breaker

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan

HOUR_S = 3600.0


def plan(watts: float, head: float, **percents: float) -> Json:
    """A head unit of 2,000 Wh with packs of 2,000 Wh each, all ideal, at charges in %."""
    document = house({"a": breaker([1])}, {"a": load("a", steady(watts))} if watts else {})
    packs = {key: {"name": f"pack {key}", "nameplate_wh": 2000.0} for key in percents}
    document["stations"]["unit"].update(nameplate_wh=2000.0, packs=packs)
    outage = document["outage"]
    outage.update(length_s=12 * HOUR_S, start_charge_percent={"unit": head})
    outage["pack_charge_percent"] = {"unit": percents}
    return document


def run(document: Json) -> RunResult:
    result = run_outage(read_plan(document))
    assert result.ledger is not None
    assert result.ledger.closes
    return result


def told(result: RunResult, kind: str) -> list[float]:
    return [event.t_s for event in result.events if event.kind == kind]


def reading(result: RunResult, key: str, t: float) -> float:
    """What a display shows at a moment, straight between two rows."""
    row = result.batteries["unit"].readings[key]
    after = next(i for i, at in enumerate(row.t_s) if at >= t)
    if row.t_s[after] == t or after == 0:
        return row.percent[after]
    share = (t - row.t_s[after - 1]) / (row.t_s[after] - row.t_s[after - 1])
    return row.percent[after - 1] + share * (row.percent[after] - row.percent[after - 1])


def test_the_fuller_feeds_the_emptier_until_they_are_within_the_band() -> None:
    """60 points apart; 1,050 W closes 105 points an hour between 2,000 Wh and 2,000 Wh."""
    result = run(plan(0.0, 20.0, p=80.0))
    assert told(result, "packs_even") == [pytest.approx(56 / 105 * HOUR_S)]
    assert reading(result, "head", 1000.0) == pytest.approx(20 + 52.5 * 1000 / HOUR_S)
    shares = result.batteries["unit"].readings
    assert [shares[key].end_percent for key in ("head", "p")] == pytest.approx([48.0, 52.0])
    assert result.batteries["unit"].stored_end_wh == pytest.approx(2000.0)


def test_within_the_band_they_share_and_keep_their_difference_until_one_is_empty() -> None:
    result = run(plan(100.0, 40.0, p=44.0))
    shares = result.batteries["unit"].readings
    for t in (HOUR_S, 5 * HOUR_S, 10 * HOUR_S):
        assert reading(result, "p", t) - reading(result, "head", t) == pytest.approx(4.0)
    assert told(result, "empty") == []
    assert shares["p"].end_percent == pytest.approx(44.0 - 30.0)
    long = plan(100.0, 40.0, p=44.0)
    long["outage"]["length_s"] = 30 * HOUR_S
    assert told(run(long), "empty") == [pytest.approx(16.8 * HOUR_S)], "judged on the sum"


def test_a_draw_over_what_balances_turns_the_output_off_while_the_pack_still_holds_energy() -> None:
    """Head unit of 100 Wh at 2,050 W against 1,050 W of balance: 100 Wh last 6 min."""
    document = plan(2050.0, 5.0, p=100.0)
    result = run(document)
    assert told(result, "empty")[0] == pytest.approx(360.0)
    assert reading(result, "p", 360.0) == pytest.approx(100 - 100 * 105 / 2000)
    assert result.verdict.until_s == pytest.approx(360.0)
    # It is switched on again when the head unit is at 10 %: 200 Wh at 1,050 W.
    assert told(result, "restarted")[0] == pytest.approx(360.0 + 200 / 1050 * HOUR_S)


def test_a_draw_under_what_balances_goes_on_to_the_last_watt_hour() -> None:
    result = run(plan(1000.0, 5.0, p=100.0))
    assert told(result, "empty") == [pytest.approx(2.1 * HOUR_S)]
    assert result.batteries["unit"].stranded_wh == pytest.approx(0.0, abs=1e-6)


def test_balance_of_the_station_counts_not_a_usual_one() -> None:
    document = plan(1000.0, 5.0, p=100.0)
    document["stations"]["unit"]["balance_w"] = 500.0
    assert told(run(document), "empty")[0] == pytest.approx(100 / 500 * HOUR_S)


def test_a_pack_that_is_plugged_in_later_lasts_longer_and_one_that_leaves_takes_its_energy() -> None:
    never = plan(200.0, 100.0)
    assert told(run(never), "empty") == [pytest.approx(10 * HOUR_S)]

    comes = plan(200.0, 100.0, p=50.0)
    act = {"at_s": 5 * HOUR_S, "room": "stations", "part_id": "unit", "pack_id": "p", "turn": "on"}
    comes["outage"].update(length_s=20 * HOUR_S, acts={"plug": act})
    result = run(comes)
    assert reading(result, "p", 4 * HOUR_S) == 50.0, "it is not there before"
    assert told(result, "empty") == [pytest.approx(15 * HOUR_S)]
    assert "is plugged into" in next(e.what for e in result.events if e.kind == "act")

    goes = plan(200.0, 100.0, p=100.0)
    goes["outage"].update(length_s=20 * HOUR_S, acts={"pull": {**act, "turn": "off"}})
    result = run(goes)
    assert told(result, "empty") == [pytest.approx(12.5 * HOUR_S)], "1,500 Wh left in the head unit"
    assert result.batteries["unit"].stranded_wh == pytest.approx(1500.0)


def test_a_pack_that_comes_after_the_station_is_empty_brings_it_back() -> None:
    document = plan(200.0, 10.0, p=100.0)
    act = {"at_s": 3 * HOUR_S, "room": "stations", "part_id": "unit", "pack_id": "p", "turn": "on"}
    document["outage"]["acts"] = {"plug": act}
    result = run(document)
    assert told(result, "empty")[0] == pytest.approx(HOUR_S)
    assert told(result, "restarted")[0] == pytest.approx(3 * HOUR_S + 200 / 1050 * HOUR_S)


def test_packs_alike_are_one_store_and_need_no_readings() -> None:
    alike = plan(100.0, 60.0, p=60.0)
    told_apart = run(alike)
    alike["outage"]["pack_charge_percent"] = {}
    assert run(alike).series == told_apart.series
    assert told_apart.batteries["unit"].readings == {}


@pytest.mark.parametrize(
    ("watts", "head", "packs", "sun"),
    [
        (300.0, 30.0, {"p": 90.0}, 0.0),
        (300.0, 90.0, {"p": 30.0}, 0.0),
        (900.0, 20.0, {"p": 90.0, "q": 55.0}, 0.0),
        (150.0, 70.0, {"p": 20.0, "q": 95.0}, 400.0),
        (50.0, 85.0, {"p": 97.0, "q": 40.0}, 800.0),
    ],
)
def test_a_run_by_the_second_says_the_same(
    watts: float, head: float, packs: dict[str, float], sun: float
) -> None:
    """Energy of every store within 0.1 % of what all of them hold, at every hour, taper included."""
    document = plan(watts, head, **packs)
    if sun:
        entry = {"low_v": 12.0, "high_v": 500.0, "most_a": 100.0, "most_w": 900.0, "efficiency": 1.0}
        module = {"watts": 400.0, "voc_v": 37.0, "vmp_v": 31.0, "isc_a": 13.6, "imp_a": 12.9}
        seen = {"t_s": [0.0], "watts": [sun]}
        array = {"name": "sun", "module": module, "series": 3, "station_id": "unit", "input_id": "dc"}
        document["stations"]["unit"]["dc_inputs"] = {"dc": entry}
        document["arrays"] = {"sun": {**array, "seen": seen}}
    result = run(document)
    seconds = by_the_second(watts, {"head": head, **packs}, sun)
    for hour, told_then in enumerate(seconds):
        for key, percent in told_then.items():
            got = reading(result, key, hour * HOUR_S)
            assert got == pytest.approx(percent, abs=0.1 * len(seconds[0])), (hour, key)


def by_the_second(watts: float, percents: dict[str, float], sun: float) -> list[dict[str, float]]:
    """Stores of 2,000 Wh, Euler: at every hour the charge of each, %."""
    wh = {key: 20.0 * percent for key, percent in percents.items()}
    even = {"head"}
    told_at: list[dict[str, float]] = []
    on = True
    for second in range(int(12 * HOUR_S)):
        if second % 3600 == 0:
            told_at.append({key: held / 20.0 for key, held in wh.items()})
        for key in sorted(wh.keys() - even, key=lambda k: abs(wh[k] - common(wh, even))):
            if abs(wh[key] - common(wh, even)) <= 4.0 * 20.0:
                even.add(key)
        draw = watts if on else 0.0
        share = common(wh, even) / 2000.0
        most = (900.0 if sun else 6000.0) * (1.0 if share <= 0.95 else 1 - 0.65 * (share - 0.95) / 0.05)
        fuller = [key for key in wh.keys() - even if wh[key] > common(wh, even)]
        flows = {key: -min(1050.0, (most + draw) / len(fuller)) for key in fuller}
        flows |= dict.fromkeys(wh.keys() - even - flows.keys(), 1050.0)
        net = min(most, -draw - sum(flows.values()) + sun)
        able = [key for key in even if (wh[key] < 2000.0 if net > 0 else wh[key] > 0.0)]
        for key in able:
            wh[key] = min(2000.0, max(0.0, wh[key] + net / len(able) / 3600))
        for key, flow in flows.items():
            wh[key] += flow / 3600
        on = on and common(wh, even) > 0
    return told_at


def common(wh: dict[str, float], even: set[str]) -> float:
    """What those that give and take as one hold on average, Wh."""
    return sum(wh[key] for key in even) / len(even)


def test_what_an_act_with_a_pack_must_name() -> None:
    act: dict[str, Any] = {"at_s": 0.0, "room": "stations", "part_id": "unit", "turn": "on"}
    document = plan(1.0, 50.0, p=50.0)
    document["outage"]["acts"] = {"x": {**act, "pack_id": "gone"}}
    assert "pack of that station" in refusals(document)["/outage/acts/x/pack_id"]
    document["stations"]["unit"]["cell_wh"] = 0.0
    document["outage"]["acts"] = {"x": {**act, "pack_id": "p"}}
    assert "stay plugged in" in refusals(document)["/outage/acts/x/pack_id"]
    document["outage"]["acts"] = {"x": {**act, "room": "circuits", "part_id": "a", "pack_id": "p"}}
    assert "only stations" in refusals(document)["/outage/acts/x/pack_id"]
