"""Leads as rows of conductors: against hand figures, against the checks, and what is not known."""

import pytest
from any_house import any_house
from check_plans import ALONE, PLANS, Json, feed, lead, merged
from command_line import cedar

from weary_cedar.core.checks import findings_of
from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.lead_conductors import Conductor, LeadConductors, lead_conductors
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.demo import DEMOS, demo_plan


def foothill(*patches: Json) -> Plan:
    return read_plan(apply_patch(PLANS["foothill"], merged(*patches)))


def inlet_of(plan: Plan) -> LeadConductors:
    return next(found for found in lead_conductors(plan) if found.lead_id == "inlet")


def the(found: LeadConductors, kind: str, begins: str = "") -> Conductor:
    return next(row for row in found.conductors if row.kind == kind and row.name.startswith(begins))


def test_drops_of_a_lead_by_hand() -> None:
    """30 ft of AWG 10 at 0.9989 Ω/1,000 ft, 20 °C (wire table of the ASTM, from memory); strands add some."""
    found = inlet_of(foothill())
    cord = the(found, "cord")
    assert cord.a_a is not None
    assert cord.drop_v == pytest.approx(cord.a_a * 2 * 0.030 * 0.9989, rel=0.025)
    wire = the(found, "wire")
    assert wire.warm_c == 75.0
    assert found.drop_v == pytest.approx((cord.drop_v or 0.0) + (wire.drop_v or 0.0))


def test_the_farthest_circuit_counts_with_its_feed() -> None:
    far: Json = {"circuits": {"furnace": {"length_m": 60.0}, "fridge": {"length_m": 5.0}}}
    found = inlet_of(foothill(far))
    furnace = the(found, "branch", "Gas furnace")
    assert found.farthest == furnace.name
    assert found.farthest_v == pytest.approx((found.drop_v or 0.0) + (furnace.drop_v or 0.0))
    assert (
        "its length or gauge is not known: its drop is not counted" in the(found, "branch", "Well").not_known
    )


@pytest.mark.parametrize("name", DEMOS)
def test_currents_are_those_of_the_run(name: str) -> None:
    """Where one lead feeds, its greatest currents are those of the course of the whole."""
    plan = demo_plan(name)
    run = run_outage(plan)
    peaks = [peak for key, peak in run.peaks.items() if run.ways[key].t_s]
    if len(peaks) == 1:
        course = run.series
        assert peaks[0].neutral_a == pytest.approx(max(course.neutral_a))
        assert (peaks[0].a_a, peaks[0].b_a) == pytest.approx((max(course.a_a), max(course.b_a)))
    for peak in peaks:
        assert peak.neutral_a <= max(peak.a_a + peak.b_a, 0.0) + 1e-9


def test_legs_that_are_out_of_step_load_the_neutral() -> None:
    """1,200 W at power factor 1 against 1,200 VA at 0.6: as much on each leg, yet 8.9 A on the neutral.

    By hand: |1,200 − (720 + 960 i)| = √(480² + 960²) = 1,073 VA, over 120 V.
    """
    alone = {key: {"mark": "off"} for key in PLANS["foothill"]["circuits"]}
    steady = {"kind": "steady", "watts": 1_200.0}
    loads: Json = {
        **dict.fromkeys(PLANS["foothill"]["loads"]),
        "warm": {"name": "warm", "circuit_id": "fridge", "power_factor": 1.0, "behaviour": steady},
        "lag": {
            "name": "lag", "circuit_id": "furnace", "power_factor": 0.6,
            "behaviour": {"kind": "steady", "watts": 720.0},
        },
    }  # fmt: skip
    on: Json = {"circuits": {**alone, "fridge": {"mark": "keep"}, "furnace": {"mark": "keep"}}}
    plan = foothill(ALONE, on, {"loads": loads, "outage": {"restore": "all_at_once"}})
    neutral = the(inlet_of(plan), "neutral bus").neutral_a
    assert neutral == pytest.approx((480.0**2 + 960.0**2) ** 0.5 / 120.0)
    assert Facts(plan).most_neutral_a("inlet") == neutral


@pytest.mark.parametrize("seed", range(12))
def test_what_is_too_much_for_a_conductor_is_a_finding_too(seed: int) -> None:
    plan = read_plan(any_house(seed))
    facts = Facts(plan)
    about = {
        (finding.element.room, finding.element.id)
        for finding in findings_of(plan, facts=facts)
        if finding.level in ("stop", "caution")
    }
    for found in lead_conductors(plan, facts):
        hookup = plan.hookups.get(found.lead_id)
        ends = {("leads", found.lead_id), ("feeds", hookup.feed_id if hookup else "")}
        for row in found.conductors:
            own = {("circuits", k) for k, c in plan.circuits.items() if row.name.startswith(c.label)}
            assert not row.wrong or about & (ends | own), (found.lead_id, row)


@pytest.mark.parametrize(
    ("patch", "kind", "wrong"),
    [
        (lead(cords=[{"awg": 16, "length_m": 5.0}]), "cord", "protected at 30 A, more than the 20 A"),
        (feed(wire={"awg": 12, "length_m": 5.0}), "wire", "protected at 30 A, more than the 20 A"),
        ({"circuits": {"fridge": {"awg": 14}}}, "branch", "protected at 20 A, more than the 15 A"),
    ],
)
def test_what_protects_a_conductor_is_told_where_it_is_too_large(patch: Json, kind: str, wrong: str) -> None:
    found = inlet_of(foothill(patch))
    assert f"{wrong} that it allows" in [
        words for row in found.conductors if row.kind == kind for words in row.wrong
    ]


def test_what_is_not_known_is_said() -> None:
    found = {lead.lead_id: lead for lead in lead_conductors(foothill())}
    assert found["from-generator"].words == ("no cord of it is described: what a cord loses is not counted",)
    bare = the(inlet_of(foothill({"circuits": {"well": {"awg": None}}})), "branch", "Well")
    assert bare.not_known == (
        "what it may carry is not known",
        "its length or gauge is not known: its drop is not counted",
    )
    assert found["from-generator"].kind == "charges"


def test_what_no_run_has_used_loses_nothing_that_is_known(monkeypatch: pytest.MonkeyPatch) -> None:
    """Never a drop of 0 V where nothing was run; a part of no known length is said."""
    plan = demo_plan("foothill")
    unused = run_outage(plan).model_copy(update={"peaks": {}})
    monkeypatch.setattr(Facts, "run", property(lambda _: unused))
    (found, *_) = lead_conductors(plan)
    monkeypatch.undo()
    assert (found.drop_v, found.farthest_v) == (None, None)
    assert found.words == ("the run did not use it: what flows and what is lost is not known",)
    open_cord = inlet_of(foothill(lead(cords=[{"awg": 10, "length_m": None}])))
    assert "the length or gauge of a part is not known: it loses more than is counted" in open_cord.words


def test_one_leg_has_no_second_one() -> None:
    assert {row.b_a for found in lead_conductors(demo_plan("hut")) for row in found.conductors} == {None}


@pytest.mark.parametrize("seed", range(12))
def test_the_greatest_of_all_states_is_the_greatest(seed: int) -> None:
    plan = read_plan(any_house(seed))
    run = run_outage(plan)
    charges = {key for key in run.leads if key in plan.recharges}
    for key, peak in run.peaks.items():
        for name in ("a_a", "b_a", "neutral_a"):
            assert getattr(peak, name) == max((getattr(s, name) for s in peak.states), default=0.0)
        for state in peak.states:
            assert state.through is None or (state.charged and state.through in charges), (key, state)


def test_what_is_passed_on_stands_beside_what_a_station_gives_of_its_own() -> None:
    """240 W, 2 A of 120 V, all day; 960 W more, 10 A in all, at three at night, when no engine may run."""
    kettle: Json = {
        "kind": "job", "steps": [{"watts": 960.0, "minutes": 30}], "earliest": "03:00", "latest": "03:01"
    }  # fmt: skip
    loads: Json = {
        **dict.fromkeys(PLANS["foothill"]["loads"]),
        "lamp": {
            "name": "lamp", "circuit_id": "fridge", "power_factor": 1.0,
            "behaviour": {"kind": "steady", "watts": 240.0},
        },
        "kettle": {"name": "kettle", "circuit_id": "fridge", "power_factor": 1.0, "behaviour": kettle},
    }  # fmt: skip
    alone = {key: {"mark": "off"} for key in PLANS["foothill"]["circuits"]}
    fridge: Json = {"circuits": {**alone, "fridge": {"mark": "keep"}}}
    plan = read_plan(
        apply_patch(demo_plan("foothill").model_dump(mode="json"), merged(fridge, {"loads": loads}))
    )
    found = {state.words: max(state.a_a or 0.0, state.b_a or 0.0) for state in inlet_of(plan).states}
    assert found == {
        "6 kW station, of its own": 10.0,
        "6 kW station, of its own while its AC input charges it": 2.0,
    }
    (one, both) = next(lead for lead in lead_conductors(demo_plan("hut")) if lead.kind == "charges").states
    assert one.words == "near 3 kW station charges only"
    assert both.words == "near 3 kW station charges and passes on"
    assert (both.a_a or 0.0) > (one.a_a or 0.0)


def test_on_the_command_line() -> None:
    plan = demo_plan("foothill").model_dump_json()
    told = cedar("conductors", "-", given=plan)
    assert "6 kW station to Main panel: loses 2." in told.stdout
    assert "6 kW station, of its own while its AC input charges it: leg A" in told.stdout
    assert "AWG 10: may carry 30 A, protected at 30 A, leg A" in told.stdout
