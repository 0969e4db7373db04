"""The repository: every edit is kept, undo and redo go along one line, edits merge or are told apart."""

import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from weary_cedar.core.errors import EditConflict, InvalidPlan, NotFound, NothingToUndo
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.merge import Json, apply_patch, make_patch
from weary_cedar.demo import demo_plan
from weary_cedar.store.describe import describe_change
from weary_cedar.store.edits import Made, canonical
from weary_cedar.store.plans import PlanStore, StoredPlan

FROZEN = Path(__file__).parents[1] / "frozen" / "schema_1.json"
MARK = {"circuits": {"bath": {"mark": "keep"}}}


def mark(plan: StoredPlan, circuit: str = "bath") -> str:
    return plan.plan.circuits[circuit].mark


def test_undo_and_redo_along_one_line(store: PlanStore) -> None:
    plan = store.create(demo_plan())
    plan = store.edit(plan.id, 1, MARK)
    plan = store.edit(plan.id, 2, {"circuits": {"bath": {"mark": "room"}}})
    seen = []
    for way in ("undo", "undo", "redo", "redo", "undo", "redo", "undo", "undo"):
        plan = getattr(store, way)(plan.id, plan.revision)
        seen.append(mark(plan))
    assert seen == ["keep", "off", "keep", "room", "keep", "room", "keep", "off"]
    with pytest.raises(NothingToUndo):
        store.undo(plan.id, plan.revision)
    plan = store.edit(plan.id, plan.revision, {"circuits": {"bath": {"mark": "keep"}}})
    with pytest.raises(NothingToUndo):
        store.redo(plan.id, plan.revision)
    summaries = [line.summary for line in store.history(plan.id)]
    assert summaries[0] == "Bathroom: mark off → keep"
    assert summaries[-4] == "Undo: Bathroom: mark keep → room"
    assert summaries[-6] == "Redo: Bathroom: mark off → keep"
    assert len(summaries) == plan.revision == 12


def test_a_plan_of_version_1_is_edited_undone_and_merged_across_the_step(store: PlanStore) -> None:
    """Stored before the version changed: its edits, its undo and its conflicts are those of today's plan."""
    old = json.loads(FROZEN.read_text("utf-8"))["foothill"]["plan"]
    plan = store.create(Made(json.dumps(old), old["name"]))
    assert store.edit(plan.id, 1, {"circuits": {"bath": {"mark": "off"}}}).revision == 1, "nothing changed"
    longer = {"leads": {"inlet": {"cords": [{"length_m": 12.0, "awg": 10}]}}}
    plan = store.edit(plan.id, 1, longer)
    assert json.loads(plan.document)["schema_version"] == 2
    assert "length 29.53 ft → 39.37 ft" in store.history(plan.id)[0].summary
    merged = store.edit(plan.id, 1, MARK)
    assert (merged.merged, mark(merged), merged.plan.leads["inlet"].cords[0].length_m) == (True, "keep", 12.0)
    with pytest.raises(EditConflict):
        store.edit(plan.id, 1, {"leads": {"inlet": {"cords": [{"length_m": 7.0, "awg": 10}]}}})
    plan = store.undo(plan.id, store.undo(plan.id, 3).revision)
    assert plan.plan == read_plan(old)
    assert mark(store.redo(plan.id, plan.revision)) == "off"


def test_what_later_versions_added_is_no_change_of_anybody(store: PlanStore) -> None:
    """A document of before a setting existed: its history tells the edit alone, not what was filled in."""
    old = canonical(demo_plan())
    del old["site"]["units"]["clock"], old["site"]["pipes_c"]
    plan = store.create(Made(json.dumps(old), old["name"]))
    assert store.edit(plan.id, 1, {"circuits": {"bath": {"mark": "off"}}}).revision == 1, "nothing changed"
    store.edit(plan.id, 1, MARK)
    assert store.history(plan.id)[0].summary == "Bathroom: mark off → keep"


def test_an_edit_without_effect_writes_nothing(store: PlanStore) -> None:
    plan = store.create(demo_plan())
    assert store.edit(plan.id, 1, {"circuits": {"bath": {"mark": "off"}}}).revision == 1


def test_edits_to_different_things_merge(store: PlanStore) -> None:
    plan = store.create(demo_plan())
    store.edit(plan.id, 1, MARK)
    merged = store.edit(plan.id, 1, {"circuits": {"bath": {"order": 3}, "dish": {"mark": "room"}}})
    assert merged.merged
    assert (mark(merged), mark(merged, "dish"), merged.plan.circuits["bath"].order) == ("keep", "room", 3)


@pytest.mark.parametrize(
    "patch",
    [
        {"circuits": {"bath": {"mark": "room"}}},
        {"circuits": {"bath": None}, "loads": {"dryer-hair": None}},
        {"circuits": None},
    ],
)
def test_edits_to_the_same_thing_are_told_apart(store: PlanStore, patch: Json) -> None:
    plan = store.create(demo_plan())
    store.edit(plan.id, 1, MARK)
    with pytest.raises(EditConflict) as told:
        store.edit(plan.id, 1, patch)
    assert told.value.revision == 2
    assert told.value.clashes
    assert store.get(plan.id).revision == 2


def test_the_same_edit_twice_is_no_conflict(store: PlanStore) -> None:
    plan = store.create(demo_plan())
    store.edit(plan.id, 1, MARK)
    assert store.edit(plan.id, 1, MARK).revision == 2


def test_a_wrong_edit_stores_nothing(store: PlanStore) -> None:
    plan = store.create(demo_plan())
    with pytest.raises(InvalidPlan, match="/loads/dryer-hair/circuit_id"):
        store.edit(plan.id, 1, {"circuits": {"bath": None}})
    with pytest.raises(InvalidPlan, match="taken"):
        store.edit(plan.id, 1, {"circuits": {"bath": {"spaces": [2]}}})
    assert store.get(plan.id) == plan


def test_bring_back_duplicate_and_delete(store: PlanStore) -> None:
    plan = store.create(demo_plan())
    store.edit(plan.id, 1, MARK)
    assert mark(store.revision(plan.id, 1)) == "off"
    back = store.restore(plan.id, 2, 1)
    assert (back.revision, mark(back)) == (3, "off")
    assert mark(store.undo(plan.id, 3)) == "keep"
    with pytest.raises(EditConflict):
        store.restore(plan.id, 2, 1)
    with pytest.raises(NotFound):
        store.restore(plan.id, 4, 99)
    second = store.create(demo_plan())
    assert second.id == "foothill-house-2"
    store.delete(plan.id)
    with pytest.raises(NotFound):
        store.get(plan.id)
    assert [entry.id for entry in store.entries()] == [second.id]
    assert store.undelete(plan.id).revision == 4


leaf = st.one_of(st.booleans(), st.integers(), st.text(max_size=3), st.lists(st.integers(), max_size=2))
inner = st.dictionaries(st.sampled_from("abc/~"), leaf, max_size=3)
documents = leaf | st.dictionaries(st.sampled_from("abc/~"), leaf | inner, max_size=4)
objects = st.dictionaries(st.sampled_from("abc/~"), documents, max_size=4)


@given(objects, objects)
def test_a_patch_leads_from_one_to_the_other(old: Json, new: Json) -> None:
    """RFC 7396 on documents without null, as ours are; empty objects stay."""
    assert apply_patch(old, make_patch(old, new)) == new


def test_examples_of_rfc_7396() -> None:
    """Rows of RFC 7396, appendix A (from memory)."""
    for target, patch, expected in [
        ({"a": "b"}, {"a": "c"}, {"a": "c"}),
        ({"a": "b", "b": "c"}, {"a": None}, {"b": "c"}),
        ({"a": ["b"]}, {"a": "c"}, {"a": "c"}),
        ({"a": {"b": "c"}}, {"a": {"b": "d", "c": None}}, {"a": {"b": "d"}}),
        ({"e": None}, {"a": 1}, {"e": None, "a": 1}),
        ({}, {"a": {"bb": {"ccc": None}}}, {"a": {"bb": {}}}),
        ([1, 2], {"a": "b", "c": None}, {"a": "b"}),
    ]:
        assert apply_patch(target, patch) == expected


def test_what_is_stored_is_what_is_exported(store: PlanStore) -> None:
    plan = demo_plan()
    stored = store.create(plan)
    assert json.dumps(canonical(stored.plan)) == json.dumps(canonical(plan))


@pytest.mark.parametrize(
    ("patch", "words"),
    [
        (
            {
                "leads": {
                    "inlet": {"cords": [{"name": "30 A cord", "length_m": 9, "awg": 12, "conductors": 4}]}
                }
            },
            "awg 10 → 12",
        ),
        ({"leads": {"inlet": {"cords": [{"length_m": 9, "awg": 10}] * 2}}}, "inlet: cords 1 → 2"),
        ({"generators": {"inverter-2k": None}}, "generator small inverter generator removed"),
        ({"box": {"new": {"part": "cord", "length_m": 3, "awg": 14}}}, "in the box, new added"),
        (
            {"stations": {"station": {"bank": {"nominal_v": 48, "lowest_v": 44}}}},
            "6 kW station: nominal none → 48 V",
        ),
        ({"site": {"design_low_c": -18}}, "design low: 15.8 °F → -0.4 °F"),
        ({"outage": {"length_s": 7200.0}}, "length: 96 h → 2 h"),
        (
            {"generators": {"inverter-2k": {"tank_l": 7.57}}},
            "small inverter generator: tank 1.057 gal → 2 gal",
        ),
        ({"arrays": {"ground": {"lead_m": 30.48}}}, "ground panels: lead 49.21 ft → 100 ft"),
        (
            {"arrays": {"ground": {"moved": [{"at": "08:00:00", "tilt_deg": 40, "azimuth_deg": 100}]}}},
            "ground panels: moved",
        ),
    ],
)
def test_history_says_what_changed_inside_lists(patch: Json, words: str) -> None:
    old = demo_plan().model_dump(mode="json", exclude_none=True)
    told = describe_change(old, apply_patch(old, patch))
    assert words in told
    assert "…" not in told
