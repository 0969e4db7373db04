"""Every check: what triggers it, what is just inside, and what is missing.

Rows are merge patches on a demo plan. Limits are those of the catalogue: codes from memory,
the rest common practice with no source.
"""

import json
from collections.abc import Iterator
from functools import cache, reduce
from math import isfinite

import pytest
from check_plans import (
    CORDS,
    HUT_PANEL,
    PLANS,
    SUB,
    Json,
    array,
    bank,
    feed,
    hut,
    lead,
    loads,
    merged,
    second,
    station,
    survey,
)
from check_rows import ROWS
from check_rulings import RULINGS

from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.checks.conductors import held_a
from weary_cedar.core.checks.finding import LEVELS
from weary_cedar.core.checks.mending import MENDERS
from weary_cedar.core.checks.registry import CHECKS, catalogue, check, seen
from weary_cedar.core.checks.survey import asked as asked_questions
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.demo import demo_plan

PARAMETERS = [pytest.param(*item, id=f"{index}-{item[0]}") for index, item in enumerate([*ROWS, *RULINGS])]


@cache
def findings_in(document: str) -> list[Finding]:
    """Findings of a plan; most plans are asked about by several tests."""
    return findings_of(read_plan(document))


def every(plan: str, *patches: Json) -> list[Finding]:
    document = reduce(apply_patch, patches, PLANS[plan])
    return findings_in(json.dumps(document, sort_keys=True))


def found(plan: str, patch: Json, check_id: str) -> list[Finding]:
    return [finding for finding in every(plan, patch) if finding.check_id == check_id]


@pytest.mark.parametrize(("check_id", "plan", "bad", "inside", "missing", "level"), PARAMETERS)
def test_triggers_inside_and_missing(
    check_id: str, plan: str, bad: Json, inside: Json | None, missing: Json | None, level: str
) -> None:
    hits = found(plan, bad, check_id)
    assert level in {finding.level for finding in hits}, hits
    hit = next(finding for finding in hits if finding.level == level)
    assert hit.element.name
    assert hit.why
    assert hit.remedy
    assert all(figure.limit is None or figure.value != figure.limit for figure in hit.figures)
    if inside is not None or bad != {}:
        assert [f for f in found(plan, inside or {}, check_id) if f.level in ("stop", "caution", level)] == []
    if missing is not None:
        assert "cannot_judge" in {finding.level for finding in found(plan, missing, check_id)}


def test_every_check_has_a_row_and_every_row_a_check() -> None:
    findings_of(demo_plan())
    assert set(CHECKS) == set(catalogue())
    assert {item[0] for item in [*ROWS, *RULINGS]} == set(CHECKS)


def fixes() -> Iterator[tuple[str, Json, Finding]]:
    for check_id, plan, bad, *_ in ROWS:
        for finding in found(plan, bad, check_id):
            if finding.fix is not None:
                yield plan, bad, finding


def test_a_fix_takes_its_finding_away() -> None:
    mended = 0
    for plan, bad, finding in fixes():
        assert finding.fix is not None
        after = every(plan, bad, finding.fix)
        assert finding.key not in {f.key for f in after if f.level == finding.level}, finding
        mended += 1
    assert mended > 10


def test_an_answer_never_hides_a_stop() -> None:
    """Answered as a caution; then the same finding is a stop, and stands."""
    answer = {
        "check_answers": {"interlock-unlisted@feeds/inlet": {"reason": "looked at it", "by": "licence 1"}}
    }
    unlisted = merged(answer, survey("feeds", "inlet", "kit-listed", "no"))
    (caution,) = found("foothill", unlisted, "interlock-unlisted")
    assert (caution.level, caution.answered) == ("caution", "looked at it (licence 1)")
    home_made = merged(answer, survey("feeds", "inlet", "kit-bought", "no"))
    (stop,) = found("foothill", home_made, "interlock-unlisted")
    assert (stop.level, stop.answered, stop.answerable) == ("stop", None, False)


def test_a_coincidence_comes_with_its_chance() -> None:
    patch = loads(freezer={"start": {"va": 4600.0, "seconds": 0.4}})
    (caution,) = found("foothill", patch, "start-trip")
    chance = next(figure for figure in caution.figures if figure.name == "chance at one start")
    assert 0 < chance.value < 100
    assert "starts in the outage" in caution.detail


@pytest.mark.parametrize(("live", "level"), [("no", "caution"), ("unknown", "cannot_judge"), ("yes", None)])
def test_a_front_outlet_of_a_linked_unit(live: str, level: str | None) -> None:
    outlet = {"kind": "TT-30", "rating_a": 30.0, "live_while_linked": live, "shown_on_when_dead": "yes"}
    front = {
        "source": {"kind": "station", "id": "left", "outlet": "tt-30"},
        "cords": [{"length_m": 5.0, "awg": 12}],
        "to": {"end": "loads", "plug": "5-20", "plug_a": 20.0},
    }
    patch = {"stations": {"left": {"receptacles": {"tt-30": outlet}}}, "leads": {"front": front}}
    hits = [f for f in found("canal", patch, "blind-spot") if f.element.room == "leads"]
    assert [f.level for f in hits] == ([level] if level else [])
    assert all("shows it on" in f.detail for f in hits if f.level == "caution")


@pytest.mark.parametrize(("overhead_w", "trips"), [(0.0, False), (25.0, True)])
def test_what_passing_through_takes_counts_at_the_inlet(overhead_w: float, trips: bool) -> None:
    """Kept loads of 12,000 W at 240 V are 50 A; 25 W more are over (practice)."""
    plan = read_plan(apply_patch(PLANS["foothill"], {}))
    kept = sum(
        on_watts(load) for load in plan.loads.values() if plan.circuits[str(load.circuit_id)].mark == "keep"
    )
    inlet = {"wall-240": {"passes_through": True, "cap_a": kept / 240.0 + 0.05}}
    charger = {"input_id": "wall-240", "when": "strategy"}
    patch = merged(
        station(ac_inputs=inlet, passthrough_overhead_w=overhead_w),
        {"leads": {"from-generator": {"to": charger}}},
    )
    assert bool(found("foothill", patch, "passthrough-cap")) == trips


ASKED = [
    ("exclusive", second()),
    ("own-main-interlocked", SUB),
    ("load-management", feed(kind="automatic", breaker_spaces=[])),
    ("bonding-plug-allowed", merged(CORDS, lead(bonding_plug="yes"))),
    ("neutral-set", station(neutral="switchable")),
    ("own-electrode", HUT_PANEL),
    ("island-bond", HUT_PANEL),
    ("rcd-both-ways", hut(kind="interlock_inlet", breaker_spaces=[11])),
]


@pytest.mark.parametrize(("question", "patch"), ASKED)
def test_facts_that_checks_look_at_are_asked_where_they_matter(question: str, patch: Json) -> None:
    plan = "hut" if "board" in patch.get("feeds", {}) else "foothill"
    asked_of = {row["question_id"] for row, _ in asked_questions(read_plan(apply_patch(PLANS[plan], patch)))}
    assert question in asked_of
    assert question not in {row["question_id"] for row, _ in asked_questions(read_plan(PLANS[plan]))}


def test_every_question_of_a_check_is_on_the_survey() -> None:
    """What a finding asks can be answered: its question is asked of that very part of the plan."""
    seen = set()
    for _, plan, bad, _, missing, _ in ROWS:
        for patch in (bad, missing):
            document = read_plan(apply_patch(PLANS[plan], patch or {}))
            on_survey = {(row["question_id"], row["room"], key) for row, key in asked_questions(document)}
            for finding in every(plan, patch or {}):
                if finding.asks is not None:
                    asks = finding.asks
                    assert (asks.question_id, asks.room, asks.id) in on_survey, finding
                    seen.add(asks.question_id)
    assert {question for question, _ in ASKED} - {"exclusive", "load-management"} <= seen


@pytest.mark.parametrize(
    ("times", "amps", "held"),
    [
        ((0, 10_800, 20_000), (25.0, 0.0, 0.0), 25.0),
        ((0, 10_799, 20_000), (25.0, 0.0, 0.0), 0.0),
        ((0, 5_000, 12_000, 20_000), (25.0, 26.0, 10.0, 10.0), 25.0),
        ((0, 5_000, 5_001, 20_000), (25.0, 10.0, 26.0, 26.0), 26.0),
        ((0, 5_000, 5_001, 12_000), (25.0, 10.0, 26.0, 26.0), 0.0),
        ((), (), 0.0),
    ],
)
def test_three_hours_on_end(times: tuple[float, ...], amps: tuple[float, ...], held: float) -> None:
    assert held_a(times, amps, 24.0) == held


@pytest.mark.parametrize(
    ("check_id", "plan", "patch", "name", "value"),
    [
        # 20 mF full to 95 % in 3 s is 50 Ω, 1 A, 52 W on 51.2 V (textbook); 6.7 µF per VA is typical
        ("dc-precharge", "foothill", bank(precharge="no"), "pre-charge resistor", 3 / (3 * 6.7e-6 * 6000)),
        # 11,600 Wh by 1,500 W at 0.88
        ("passthrough-none", "foothill", station(output_while_charging=False), "dark while it charges from empty",
         11_600 / (1500 * 0.88)),
        ("leg-lean", "canal", {}, "the first unit is empty after", 3400 * 0.97 / (10_443 / 24 / 0.9 + 30)),
        ("leg-lean", "canal", {}, "with legs in proportion, both after", 2 * 3400 * 0.97 / (10_443 / 24 / 0.9 + 60)),
    ],
)  # fmt: skip
def test_figures_that_a_finding_adds(check_id: str, plan: str, patch: Json, name: str, value: float) -> None:
    hit = next(f for f in found(plan, patch, check_id) if f.figures)
    figures = {figure.name: figure.value for figure in hit.figures}
    assert figures[name] == pytest.approx(value, rel=1e-3)


def test_clipping_says_what_a_day_loses_and_what_would_lose_least() -> None:
    """Ten of 400 W in a row into 2,600 W; five in a row twice over has too many amps."""
    (hit,) = found("foothill", array(series=10), "pv-clip")
    lost = next(figure for figure in hit.figures if figure.name == "clipped on a clear day")
    assert 0 < lost.value < 10 * 400 * 10
    (narrow,) = found("foothill", array(series=4, parallel=2), "pv-clip")
    assert narrow.detail == "most is harvested by 8 in series, 1 in parallel"
    (nowhere,) = found("foothill", array(series=2, parallel=2), "pv-clip")
    assert "series" in nowhere.detail


def test_a_stop_or_caution_has_its_figures_unless_its_row_says_that_there_are_none() -> None:
    """And none is inside its own limit on the wrong side of it: what is told as too much is more."""
    bare = {key for key, row in catalogue().items() if row["figures"] == "no"}
    for _, plan, bad, *_ in [*ROWS, *RULINGS]:
        for finding in every(plan, bad):
            assert finding.figures or finding.level in ("note", "cannot_judge") or finding.check_id in bare
            assert all(isfinite(figure.value) for figure in finding.figures)


def test_a_row_and_its_function_agree_about_figures() -> None:
    with pytest.raises(ValueError, match="says something else of its figures"):
        seen("leg-over")(lambda facts: iter(()))
    with pytest.raises(ValueError, match="registered twice"):
        check("leg-over")(lambda facts: iter(()))


#: Rows of checks whose remedy the app can do, once for each finding that it is about.
MENDED = [item[:3] for item in [*ROWS, *RULINGS] if item[0] in MENDERS]


@pytest.mark.parametrize(
    ("check_id", "plan", "bad"), MENDED, ids=[f"{n}-{r[0]}" for n, r in enumerate(MENDED)]
)
def test_a_remedy_clears_its_finding_and_raises_none_of_its_level(
    check_id: str, plan: str, bad: Json
) -> None:
    before = every(plan, bad)
    known = {(finding.check_id, finding.element.id) for finding in before}
    for finding in [f for f in before if f.check_id == check_id and f.fix and f.level != "cannot_judge"][:2]:
        assert finding.fix is not None
        assert finding.fix_words
        after = every(plan, bad, finding.fix)
        assert finding.key not in {other.key for other in after}
        graver = LEVELS[: LEVELS.index(finding.level) + 1]
        assert {(f.check_id, f.element.id) for f in after if f.level in graver} <= known


def test_thirty_findings_have_a_remedy_that_the_app_can_do() -> None:
    offered = {
        finding.check_id
        for _, plan, bad, *_ in [*ROWS, *RULINGS]
        for finding in every(plan, bad)
        if finding.fix
    }
    assert len(offered) >= 30
    assert set(MENDERS) - {"total-over"} <= offered
