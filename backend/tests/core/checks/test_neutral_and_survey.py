"""The neutral matrix, cell by cell; and that what is not known is never fine."""

from dataclasses import replace

import pytest
from check_plans import PLANS, merged, survey
from hypothesis import given, settings
from hypothesis import strategies as st

from weary_cedar.core.checks import findings_of
from weary_cedar.core.checks.survey import answer_of, asked, questions
from weary_cedar.core.network.neutral_matrix import judged
from weary_cedar.core.plan import Cord, Hookup, Lead, Outlet, ToLoads, read_plan
from weary_cedar.core.plan.hookup import to_appliances
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.demo import DEMOS


def feed(kind: str, switched: str, **more: object) -> Hookup:
    """A station `x` on a panel, or on appliances by cord."""
    cord = Cord(length_m=1.0, awg=10)
    lead = Lead(source=Outlet(kind="station", id="x", outlet="y"), cords=(cord,), to=ToLoads())
    return replace(to_appliances("lead", lead, ToLoads()), kind=kind, neutral_switched=switched, **more)  # type: ignore[arg-type]


NOT_SWITCHED, SWITCHED, CORDS = ("interlock_inlet", "no"), ("transfer_panel", "yes"), ("cords", "no")


@pytest.mark.parametrize(
    ("neutral", "gfci", "column", "cell"),
    [
        ("floating", "no", NOT_SWITCHED, "right"),
        ("floating", "yes", NOT_SWITCHED, "right"),
        ("floating", "no", SWITCHED, "neutral-floating-switched"),
        ("floating", "no", CORDS, "floats"),
        ("bonded", "no", NOT_SWITCHED, "neutral-double-bond"),
        ("bonded", "yes", NOT_SWITCHED, "neutral-gfci-bond"),
        ("bonded", "unknown", NOT_SWITCHED, "neutral-unknown"),
        ("bonded", "no", SWITCHED, "right"),
        ("bonded", "yes", SWITCHED, "right"),
        ("bonded", "no", CORDS, "right"),
        ("changes", "no", NOT_SWITCHED, "neutral-unknown"),
        ("unknown", "no", SWITCHED, "neutral-unknown"),
        ("unknown", "no", CORDS, "note"),
        ("floating", "no", ("interlock_inlet", "unknown"), "neutral-unknown"),
        ("floating", "no", ("appliance_switch", "no"), "right"),
        ("bonded", "no", ("appliance_switch", "no"), "neutral-double-bond"),
        ("bonded", "yes", ("appliance_switch", "no"), "neutral-gfci-bond"),
        ("bonded", "unknown", ("appliance_switch", "no"), "neutral-unknown"),
        ("switchable", "no", NOT_SWITCHED, "neutral-unknown"),
    ],
)
def test_matrix(neutral: str, gfci: str, column: tuple[str, str], cell: str) -> None:
    assert judged(neutral, gfci, feed(*column), split_phase=True) == cell


def test_a_bonding_plug_bonds_and_an_island_bonds_itself() -> None:
    plugged = feed(*NOT_SWITCHED, bonding_plug="yes")
    assert judged("floating", "no", plugged, split_phase=True) == "neutral-double-bond"
    assert judged("floating", "no", feed(*SWITCHED), split_phase=False) == "island"
    several = feed("appliance_switch", "yes", circuit_ids=("a", "b"))
    assert judged("floating", "no", several, split_phase=True) == "neutral-floating-switched"


@settings(max_examples=40)
@given(st.sampled_from(list(DEMOS)), st.data())
def test_what_is_not_known_is_never_fine(name: str, data: st.DataObject) -> None:
    """Any question: yes is silent, no is a finding, no answer is `cannot judge`."""
    plan = read_plan(PLANS[name])
    row, key = data.draw(st.sampled_from(asked(plan)))
    for answer in ("yes", "no", None):
        document = apply_patch(PLANS[name], survey(row["room"], key, row["question_id"], answer))
        changed = read_plan(document)
        assert answer_of(changed, row, key) == (answer or "unknown")
        found = [
            f
            for f in findings_of(changed)
            if f.asks and f.asks.question_id == row["question_id"] and f.asks.id == key
        ]
        levels = {f.level for f in found}
        if answer == "yes":
            assert not levels
        elif answer == "no":
            assert levels and "cannot_judge" not in levels  # noqa: PT018
        else:
            assert levels == {"cannot_judge"}
            assert all(row["statement"] in f.missing for f in found)


def test_questions_are_asked_only_where_they_apply() -> None:
    plan = read_plan(PLANS["foothill"])
    ids = {row["question_id"] for row, _ in asked(plan)}
    assert "single-main" in ids
    assert not {"neutral-separate", "service-rated", "polarity-checked", "breaker-locked"} & ids
    assert {row["question_id"] for row in questions()} >= ids
    nothing = read_plan(apply_patch(PLANS["foothill"], merged({"feeds": None, "leads": None})))
    assert not {row["question_id"] for row, _ in asked(nothing)} & {
        "single-main",
        "retainer",
        "legs-measured",
    }
