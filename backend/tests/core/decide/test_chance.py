"""The chance of lasting: against closed forms, the run itself, and what weather files have."""

import json
import math
from itertools import pairwise
from pathlib import Path
from statistics import NormalDist, variance

import numpy as np
import pvlib
import pytest
from any_house import any_house
from builders import circuit, house, load, steady
from command_line import cedar
from scipy.stats import binom, binomtest

from weary_cedar.core.decide.chance import (
    Chance,
    Varying,
    as_plan,
    chance_of,
    drawn,
    tally,
    try_outages,
    why_not,
)
from weary_cedar.core.decide.chance.drawn import STAYS, chain, forecast
from weary_cedar.core.decide.needs import DOUBT
from weary_cedar.core.errors import RunTooLong
from weary_cedar.core.network import Network
from weary_cedar.core.outage import run_outage
from weary_cedar.core.outage.judged import judge
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.usual_sky import MIX, season
from weary_cedar.demo import DEMOS, demo_plan

SURE = Varying(no_start=0.0, forgets=0.0)


def toy(watts: float, hours: float = 24.0) -> Plan:
    """One guessed load on an ideal station of 5,120 Wh whose cells were measured."""
    document = house(
        {"one": circuit([1])},
        {"lamp": load("one", steady(watts), origin="estimate", tolerance_s=0)},
        outage={"start_local": "2026-05-01T00:00:00", "length_s": hours * 3600, "changeover_after_s": 0,
                "ac_on_at_start": True},
    )  # fmt: skip
    plan = read_plan(document)
    unit = plan.stations["unit"].model_copy(update={"capacity_origin": "measured", "cutoff_percent": 0.0})
    return plan.model_copy(update={"stations": {"unit": unit}})


def truth(watts: float, hours: float = 24.0) -> float:
    """Φ(ln(E/PT)/σ), σ² = ln(1 + 0.5)² + ln(1 + 0.02)²: two log-normal factors."""
    spread = math.hypot(math.log1p(DOUBT["estimate"]), math.log1p(0.02))
    return NormalDist().cdf(math.log(5120.0 / (watts * hours)) / spread)


@pytest.mark.parametrize("watts", [120.0, 200.0])
def test_the_interval_covers_the_truth_of_a_plan_with_a_closed_form(watts: float) -> None:
    """As often as Wilson's interval for 20 outages does by the binomial law (SciPy), to three deviations."""
    plan, covered, seeds, likely = toy(watts), 0, 200, truth(watts)
    for seed in range(seeds):
        varying = SURE.model_copy(update={"seed": seed})
        found = tally(plan, try_outages(plan, range(20), varying))
        covered += found.low <= likely <= found.high
    bounds = [binomtest(k, 20).proportion_ci(0.9, method="wilson") for k in range(21)]
    exact = sum(binom.pmf(k, 20, likely) for k, (low, high) in enumerate(bounds) if low <= likely <= high)
    assert exact > 0.8
    assert covered >= seeds * exact - 3 * math.sqrt(seeds * exact * (1 - exact))
    many = tally(plan, try_outages(plan, range(600), SURE))
    assert many.share == pytest.approx(truth(watts), abs=3.3 * math.sqrt(0.25 / 600))


@pytest.mark.parametrize("first", [0, 40])
def test_what_is_judged_is_the_verdict_of_the_whole_run(first: int) -> None:
    tried = 0
    plans = [*map(demo_plan, DEMOS)] if not first else []
    for plan in [*plans, *(read_plan(any_house(seed)) for seed in range(first, first + 40))]:
        if why_not(plan):
            continue
        network = Network(plan)
        try:
            verdict = run_outage(plan).verdict
        except RunTooLong:
            continue
        judged = judge(network, network.plan)
        assert (judged.lasts, judged.until_s if not verdict.unreached else verdict.until_s) == (
            verdict.status == "lasts",
            verdict.until_s,
        )
        assert judged.first_lost == verdict.first_lost
        tried += 1
    assert tried > 20


def test_the_same_numbers_give_the_same_outages_in_whatever_pieces() -> None:
    plan = demo_plan("orchard")
    whole = try_outages(plan, range(12))
    pieces = [*try_outages(plan, range(5)), *try_outages(plan, range(5, 12))]
    assert tally(plan, pieces).model_dump_json() == tally(plan, whole).model_dump_json()
    other = Varying(seed=2)
    assert tally(plan, try_outages(plan, range(12), other)) != tally(plan, whole)


def test_what_is_drawn_for_one_part_does_not_hang_on_another() -> None:
    plan = demo_plan("foothill")
    fewer = plan.model_copy(update={"loads": dict(list(plan.loads.items())[1:])})
    for number in range(5):
        both = drawn(plan, number, Varying()), drawn(fewer, number, Varying())
        assert both[1].off == {key: both[0].off[key] for key in both[1].off}
        for key in fewer.loads:
            assert both[0].plan.loads[key] == both[1].plan.loads[key]


def test_common_dice_make_differences_surer() -> None:
    """The same outages for a plan and its variant: their difference varies less than of outages apart."""
    plan, variant = toy(200.0), toy(170.0)

    def scores(of: Plan, first: int) -> list[float]:
        return [item.score for item in try_outages(of, range(first, first + 80), SURE)]

    mine, common, apart = scores(plan, 0), scores(variant, 0), scores(variant, 1000)
    together = variance(a - b for a, b in zip(common, mine, strict=True))
    assert together < 0.25 * variance(a - b for a, b in zip(apart, mine, strict=True))


def test_days_come_as_often_as_the_season_has_them_and_stay() -> None:
    plan, dice = demo_plan("foothill"), np.random.default_rng(1)
    mix = MIX[season(plan.outage.start_local.date(), plan.site.latitude)]
    rows = [chain(plan, 8, dice) for _ in range(3_000)]
    for kind in set(mix):
        often = sum(row[-1] == kind for row in rows) / len(rows)
        assert often == pytest.approx(mix.count(kind) / len(mix), abs=0.03)
    kept = sum(a == b for row in rows for a, b in pairwise(row)) / sum(len(row) - 1 for row in rows)
    same = sum((mix.count(kind) / len(mix)) ** 2 for kind in set(mix))
    assert kept == pytest.approx(STAYS + (1 - STAYS) * same, abs=0.02)
    said = [forecast(("clear", "overcast"), 3, dice) for _ in range(2_000)]
    assert sum(row[1] == "overcast" for row in said) / len(said) == pytest.approx(STAYS, abs=0.04)
    assert {row[1] for row in said} == {"broken_cloud", "overcast", "rain"}


def test_days_of_weather_files_stay_alike_more_often_than_by_chance() -> None:
    """Source: the typical years that pvlib ships (Sand Point 703165, Greensboro 723170).

    Days by three kinds of their share of the clear sky's sun: bright, middling, dark. The share of days that
    are of the kind of the day before, beyond chance, says how much a chain stays: less than ours, which makes
    bad spells longer, on the careful side.
    """
    data = Path(pvlib.__file__).parent / "data"
    for name in ("703165TY.csv", "723170TYA.CSV"):
        frame, meta = pvlib.iotools.read_tmy3(data / name, coerce_year=1990, map_variables=True)
        place = pvlib.location.Location(meta["latitude"], meta["longitude"])
        clear = place.get_clearsky(frame.index, model="simplified_solis")["ghi"]
        share = (frame["ghi"].resample("D").sum() / clear.resample("D").sum()).dropna()
        kinds = [min(2, int(value / 0.34)) for value in share]
        kept = sum(a == b for a, b in pairwise(kinds)) / (len(kinds) - 1)
        by_chance = sum((kinds.count(kind) / len(kinds)) ** 2 for kind in set(kinds))
        stays = (kept - by_chance) / (1 - by_chance)
        assert 0.05 < stays < STAYS, (name, stays)


def test_an_engine_that_never_comes_on_is_as_none() -> None:
    plan = demo_plan("foothill")
    never = Varying(no_start=1.0, forgets=0.0)
    network = Network(plan)
    one = drawn(network.plan, 3, never)
    assert one.fails_at == dict.fromkeys(plan.generators, 1)
    judged = judge(network, one.plan, one.fails_at)
    assert judged.engine_starts == 1, "it is tried once, and not again"
    usual = judge(network, one.plan)
    assert usual.engine_starts > 1
    assert (judged.until_s or math.inf) <= (usual.until_s or math.inf)


def test_a_chance_says_what_fails_first_and_what_to_measure_next() -> None:
    found = chance_of(demo_plan("orchard"), 60)
    assert 0 < found.low < found.share < found.high < 1
    assert found.sentence.startswith(f"lasts in {100 * found.share:.0f} of 100 outages like this")
    assert found.brief == found.sentence.removeprefix("lasts in ").partition(";")[0].replace(
        " outages like this", ""
    )
    assert sum(item.share for item in found.first_failures) == pytest.approx(1.0)
    assert found.doubts == tuple(sorted(found.doubts, key=lambda item: -item.share))
    assert sum(item.share for item in found.doubts) <= 1.0 + 1e-9
    assert found.next == next(item.remedy for item in found.doubts if item.remedy)
    for band in found.bands.values():
        assert len(band.percent["50"]) == len(band.t_s) == 97
        for low, high in pairwise(("5", "25", "50", "75", "95")):
            assert all(a <= b for a, b in zip(band.percent[low], band.percent[high], strict=True))
    assert found.worst is not None
    judged = {item.number: item.judged for item in try_outages(demo_plan("orchard"), [found.worst])}
    assert not judged[found.worst].lasts


def test_every_house_can_be_drawn_at_its_bounds() -> None:
    """Whatever varies as much as it may: every house at random is drawn, run and added up."""
    wide = Varying(begins="any_hour", one_in_ten_s=14 * 86_400.0, no_start=0.5, forgets=0.5)
    plans = [plan for seed in range(400, 440) if not why_not(plan := read_plan(any_house(seed)))]
    assert len(plans) > 20
    for plan in plans:
        found = tally(plan, try_outages(plan, range(2), wide), 2, wide)
        assert found.outages + found.skipped == 2
        assert found.varying == wide


def test_it_can_be_stopped_after_any_step() -> None:
    found = chance_of(demo_plan("orchard"), 200, stop=lambda: True)
    assert (found.outages, found.done) == (20, False)


def test_no_number_where_nothing_can_be_told() -> None:
    nothing = toy(100.0).model_copy(update={"leads": {}})
    assert chance_of(nothing).sentence == "chance not worked out: nothing feeds anything yet"
    plan = toy(100.0)
    room = plan.circuits["one"].model_copy(update={"mark": "room"})
    found = chance_of(plan.model_copy(update={"circuits": {"one": room}}))
    assert (found.outages, found.why_not) == (0, "nothing is marked keep yet")


@pytest.fixture(scope="module")
def paper(tmp_path_factory: pytest.TempPathFactory) -> Path:
    path = tmp_path_factory.mktemp("chance") / "plan.json"
    path.write_text(demo_plan("orchard").model_dump_json(exclude_none=True))
    return path


def test_the_command_says_it_and_ends_as_documented(paper: Path) -> None:
    done = cedar("chance", str(paper), "--outages", "20", "--json")
    found = Chance.model_validate_json(done.stdout)
    assert (found.outages, done.returncode) == (20, 1)
    likely = cedar("chance", str(paper), "--outages", "20", "--wanted", "0.1")
    assert likely.returncode == 0
    assert likely.stdout.startswith("Lasts in ")
    wrong = cedar("chance", str(paper), "--one-in-ten", "90 d")
    assert (wrong.returncode, "--one-in-ten: got 90 d" in wrong.stderr) == (2, True)
    forms = json.loads(cedar("schema", "--decisions").stdout)
    decided = {"chance", "start", "suggest", "why", "schedule", "size", "heat", "ways-in", "for-ever"}
    assert set(forms) == decided


def test_what_is_told_by_the_hour_begins_at_no_other() -> None:
    """Sun, warmth and what was measured stand at their hours: moved, the sun would shine at night."""
    any_hour, plan = Varying(begins="any_hour"), demo_plan("foothill")
    starts = {drawn(plan, number, any_hour).plan.outage.start_local.hour for number in range(12)}
    assert len(starts) > 5
    weather = plan.outage.weather.model_copy(update={"hourly_c": (5.0,) * 97})
    told = plan.model_copy(update={"outage": plan.outage.model_copy(update={"weather": weather})})
    assert drawn(told, 3, any_hour).plan.outage.start_local == plan.outage.start_local
    (note,) = tally(told, try_outages(told, range(2), any_hour), varying=any_hour).notes
    assert note.startswith("It begins when the plan says: its weather is told hour by hour")


@pytest.mark.parametrize("name", DEMOS)
def test_an_outage_as_a_plan_goes_as_the_tried_one(name: str) -> None:
    """Engines that do not come on are held off from that start on."""
    plan, varying = demo_plan(name), Varying(no_start=0.4)
    for one in try_outages(plan, range(6), varying):
        judged = run_outage(as_plan(plan, one.number, varying)).verdict
        assert (judged.status == "lasts") == one.judged.lasts
        if one.judged.until_s is not None and judged.until_s is not None and not judged.unreached:
            assert judged.until_s == pytest.approx(one.judged.until_s, abs=120.0)
