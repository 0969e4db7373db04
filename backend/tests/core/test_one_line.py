"""The one-line diagram, the sign at the inlet, and what is handed over: the plan’s own figures."""

import pytest
from check_plans import merged
from whole_houses import FLAT, FLAT_UNIT, HOUSE, KIT, SUB, UNIT

from weary_cedar.core.handover import authority_asks, electricians_jobs, load_basis, record_of_tests
from weary_cedar.core.inlet_sign import inlet_signs
from weary_cedar.core.network.neutral_states import neutral_states
from weary_cedar.core.one_line import NOT_KNOWN, one_line
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import Json, apply_patch
from weary_cedar.demo import DEMOS, demo_plan


def house(*patches: Json) -> Plan:
    return read_plan(apply_patch(HOUSE, merged(*patches)))


def words_of(plan: Plan) -> list[str]:
    return [
        f"{part.title}: {words}" for row in one_line(plan).rows for part in row.parts for words in part.words
    ]


@pytest.mark.parametrize("name", DEMOS)
def test_every_lead_of_the_demos_is_drawn_with_its_figures(name: str) -> None:
    plan = demo_plan(name)
    found = one_line(plan)
    assert [row.lead_id for row in found.rows] == list(plan.hookups)
    suns = [key for key, array in plan.arrays.items() if array.station_id]
    assert [row.lead_id for row in found.charging] == [*plan.recharges, *suns]
    assert {panel.panel_id for panel in found.panels} == set(plan.panels)
    for row in found.rows:
        hookup = plan.hookups[row.lead_id]
        told = " ".join(words for part in row.parts for words in part.words)
        for cord in hookup.cords:
            assert f"AWG {cord.awg}" in told
            assert plan.site.units.told_length(cord.length_m) in told
        if hookup.breaker_a is not None and hookup.panel_id:
            assert f"{hookup.breaker_a:g} A" in told
        assert len(row.bonds) == len(neutral_states(plan, hookup)) + (1 if hookup.panel_id else 0)
    unknown = {part.title for row in found.rows for part in row.parts if NOT_KNOWN in part.words}
    assert all(any(title in words for words in found.missing) for title in unknown)


@pytest.mark.parametrize(
    ("neutral", "switched", "bond"),
    [
        ("floating", "no", "service"), ("bonded", "no", "two"), ("bonded", "yes", "source"),
        ("floating", "yes", "none"), ("unknown", "no", "unknown"), ("floating", "unknown", "unknown"),
    ],
)  # fmt: skip
def test_where_the_bond_is(neutral: str, switched: str, bond: str) -> None:
    """The matrix of the trade: one bond in each state, or it is said that there are two, or none."""
    feed: Json = {"feeds": {"inlet": {"neutral_switched": switched}}}
    plan = house(UNIT, {"stations": {"unit": {"neutral": neutral}}}, feed)
    (row,) = one_line(plan).rows
    assert (row.bonds[0].bond, row.bonds[1].bond) == ("service", bond)
    (sign,) = inlet_signs(plan)
    assert bool(sign.missing) == (bond in ("two", "none", "unknown"))
    if switched == "no":
        assert "NONSEPARATELY DERIVED (FLOATING NEUTRAL)" in sign.warning
    elif switched == "yes":
        assert "A SEPARATELY DERIVED (BONDED NEUTRAL)" in sign.warning


def test_a_refused_feed_has_no_sign_that_may_be_hung() -> None:
    plan = house(UNIT, {"feeds": {"inlet": {"kind": "receptacle_backfeed", "breaker_spaces": []}}})
    (row,) = one_line(plan).rows
    assert row.refused
    assert "A HOUSE OUTLET: refused" in [part.title for part in row.parts]
    assert "nothing keeps it and the utility apart: refused" in inlet_signs(plan)[0].missing


def test_links_sub_panels_and_other_countries() -> None:
    assert "Outlet L14-30: 120/240 V through the kit" in words_of(house(KIT))
    sub = one_line(house(UNIT, SUB))
    fed = next(panel for panel in sub.panels if panel.fed_from)
    assert fed.feeder.startswith("feeder: 2-pole ")
    flat = read_plan(apply_patch(FLAT, FLAT_UNIT))
    assert one_line(flat).supply.startswith("Utility 230 V, single phase, earthing ")
    assert not any("UL" in words.split() for words in authority_asks(flat))


def test_what_is_tested_and_asked() -> None:
    """Practice of the trade: the panel proven dead first; one leg has no second one to be read."""
    plan = house(UNIT)
    lines = record_of_tests(plan, "in")
    assert lines[0].what.startswith("Panel proven dead")
    assert {"L1 to L2", "L2 to N"} <= {line.what for line in lines}
    assert load_basis(plan) == "Manual, loads selected by the user (702.4(B)(1))."
    assert any("Interlock kit listed" in words for words in electricians_jobs(plan))
    by_cord = demo_plan("hut")
    assert not any("Interlock" in line.what for line in record_of_tests(by_cord, "cords"))
    bare = house(UNIT, {"feeds": {"inlet": {"wire": None}}})
    assert any("Say which wire" in words for words in electricians_jobs(bare))
    automatic = house(UNIT, {"feeds": {"inlet": {"kind": "automatic", "breaker_spaces": []}}})
    assert load_basis(automatic).startswith("Automatic")
