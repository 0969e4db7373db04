"""When to do what: better by its own run, near the best there can be, within what people and limits allow."""

import json
from pathlib import Path

import pytest
from any_house import any_house
from builders import Json, circuit, house, job, load, steady
from command_line import cedar

from weary_cedar.core.advice.schedule import Schedule, schedule
from weary_cedar.core.checks import findings_of, stops_of
from weary_cedar.core.decide.changes import patched
from weary_cedar.core.errors import InvalidInput, InvalidPlan, WearyCedarError
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.calendar import Calendar, Presence
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.demo import demo_plan
from weary_cedar.store.edits import canonical

DAY = 86_400.0


def engine_spans(run: RunResult, key: str) -> list[tuple[float, float]]:
    return [(span.begins_s, span.ends_s) for span in run.sources[f"generators/{key}"].ran]


@pytest.fixture(scope="module")
def foothill() -> Schedule:
    return schedule(demo_plan("foothill"))


def test_a_schedule_burns_less_and_is_near_the_best(foothill: Schedule) -> None:
    plan = demo_plan("foothill")
    before, after = run_outage(plan), run_outage(patched(plan, foothill.patch))
    burned = [run.sources["generators/inverter-2k"].burned_l or 0.0 for run in (before, after)]
    assert foothill.better
    assert foothill.lasts
    assert foothill.daily
    assert after.verdict.status == "lasts"
    assert burned[1] < burned[0] - 1.0
    assert foothill.gap_percent is not None
    assert foothill.gap_percent <= 3.0
    assert "instead of" in foothill.sentence
    assert "gal" in foothill.gap
    assert foothill.verdict == f"{after.verdict.headline}: {after.verdict.sentence}"
    assert len(foothill.days) == len({day.day for day in foothill.days}) == 5


def test_what_lasts_less_often_is_not_told(foothill: Schedule) -> None:
    """Of the schedules by this one run, the cheapest last in fewer outages as they may be."""
    alone = schedule(demo_plan("foothill"), outages=0)
    assert alone.better
    assert alone.chance == "Not compared in outages as they may be"
    assert "last less often and are not told" in foothill.chance
    assert alone.patch != foothill.patch


def test_hours_are_those_of_people_and_of_quiet(foothill: Schedule) -> None:
    plan = patched(demo_plan("foothill"), foothill.patch)
    calendar = Calendar(plan.site, plan.outage)
    presence, run = Presence(calendar, plan.outage), run_outage(plan)
    quiet = plan.generators["inverter-2k"].quiet
    assert quiet is not None
    closed = calendar.windows(quiet.begins, quiet.ends)
    for begins, ends in engine_spans(run, "inverter-2k"):
        assert presence.next(begins) == begins
        assert not any(a < ends - 1.0 and begins < b for a, b in closed)


def house_with_sun(first: str, last: str) -> Plan:
    """A wash of 1.2 kWh that may begin in the night or at noon, cells that are full by noon, and two days."""
    document = canonical(demo_plan("foothill"))
    patch: Json = {
        "generators": None, "strategy": {"rules": [], "room_off_below_percent": None},
        "leads": {"from-generator": None},
        "outage": {"length_s": 2 * DAY, "weather": {"sky": ["clear"]}},
        "loads": {"office": {"behaviour": job(first, last, (1200, 60))}},
    }  # fmt: skip
    return read_plan(apply_patch(document, patch))


def test_a_job_waits_for_the_sun_that_is_left_over() -> None:
    plan = house_with_sun("07:00:00", "15:00:00")
    found = schedule(plan, outages=0)
    if found.better:
        after = run_outage(patched(plan, found.patch))
        assert after.series.stored_wh[-1] >= run_outage(plan).series.stored_wh[-1] - 1.0
    starts = [rule for rule in found.patch.get("strategy", {}).get("rules", []) if rule["kind"] == "start"]
    assert all("07:00" <= rule["at"] <= "15:00" for rule in starts)


def test_from_the_cursor_on_what_was_before_stays() -> None:
    plan = demo_plan("foothill")
    from_s = 1.5 * DAY
    found = schedule(plan, from_s=from_s, outages=0)
    assert found.better
    assert not found.daily
    after = run_outage(patched(plan, found.patch))
    before = run_outage(plan)
    past = [
        [span for span in engine_spans(run, "inverter-2k") if span[0] < from_s] for run in (before, after)
    ]
    assert len(past[0]) == len(past[1]) > 0
    for one, other in zip(*past, strict=True):
        assert one[0] == pytest.approx(other[0], abs=1.0)
    acts = found.patch["outage"]["acts"].values()
    assert {act["room"] for act in acts} <= {"generators", "loads"}
    assert all(act["at_s"] >= from_s for act in acts if act["room"] == "loads")


def test_what_cannot_be_scheduled_says_why() -> None:
    stop = patched(demo_plan("foothill"), {"feeds": {"inlet": {"kind": "no_transfer"}}})
    held = schedule(stop)
    assert held.held
    assert not held.patch
    assert "First what must not be" in held.sentence
    site = {"name": "Bare", "time_zone": "UTC"}
    outage = {"start_local": "2026-01-12T00:00:00"}
    bare = read_plan({"schema_version": 2, "name": "Bare", "site": site, "outage": outage})
    assert schedule(bare).sentence.startswith("Not judged yet")
    with pytest.raises(InvalidInput, match="/from_s"):
        schedule(demo_plan("foothill"), from_s=1e9)
    quiet = read_plan(
        house({"one": circuit([1])}, {"lamp": load("one", steady(10))}, outage={"length_s": DAY})
    )
    found = schedule(quiet, outages=0)
    assert not found.better
    assert found.patch == {}
    assert "better than the plan as it stands" in found.sentence


@pytest.mark.parametrize("seed", range(24))
def test_what_is_told_is_what_comes_of_it(seed: int) -> None:
    """On houses at random: the verdict is that after taking it over, nothing is worse, and no stop is new."""
    try:
        plan = read_plan(any_house(5000 + seed))
        run = run_outage(plan)
    except (InvalidPlan, WearyCedarError):
        return
    found = schedule(plan, run, outages=0)
    if not found.better:
        assert found.patch == {}
        return
    after_plan = patched(plan, found.patch)
    after = run_outage(after_plan)
    assert found.verdict == f"{after.verdict.headline}: {after.verdict.sentence}"
    assert not stops_of(findings_of(after_plan, after))
    lost = [r.length_s if r.verdict.until_s is None else r.verdict.until_s for r in (run, after)]
    assert lost[1] >= lost[0] - 60.0


def test_schedule_on_the_command_line(tmp_path: Path) -> None:
    file = tmp_path / "plan.json"
    file.write_text(json.dumps(canonical(demo_plan("foothill"))))
    told = cedar("schedule", str(file), "--outages", "0")
    assert told.returncode == 0
    assert "By this schedule" in told.stdout
    assert "No schedule can gain more" in told.stdout
    form = json.loads(cedar("schema", "--decisions").stdout)
    found = json.loads(cedar("schedule", str(file), "--outages", "0", "--from", "36 h", "--json").stdout)
    assert set(found) == set(form["schedule"]["properties"])
    refused = cedar("schedule", str(file), "--from", "soon")
    assert refused.returncode == 2
    assert "--from" in refused.stderr


def test_what_takes_too_long_is_told_without_the_outages() -> None:
    """It is that which is found without any; and says so."""
    asked: list[int] = []

    def late() -> bool:
        asked.append(1)
        return len(asked) > 30

    found = schedule(demo_plan("foothill"), late=late)
    alone = schedule(demo_plan("foothill"), outages=0)
    assert found.chance.endswith("that would have taken too long here")
    assert found.model_copy(update={"chance": "", "tried": 0}) == alone.model_copy(
        update={"chance": "", "tried": 0}
    )
