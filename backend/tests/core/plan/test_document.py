"""Reading a plan: what is wrong is named with field, value and what would be right."""

import contextlib
import copy
import json
import re
from collections.abc import Callable
from typing import Any

import pytest
from builders import circuit, cycling, house, load, steady
from places import kinds_of_places
from pydantic import TypeAdapter, ValidationError

from weary_cedar.core.errors import InvalidPlan, NotReadable, UnknownSchemaVersion
from weary_cedar.core.plan import leg_of_space, plan_schema, read_plan
from weary_cedar.core.plan.base import Noun
from weary_cedar.core.plan.upgrade import Step, Upgraded, upgraded
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.store.edits import canonical

GOOD = house(
    {"fridge": circuit([1]), "well": circuit([5, 7])},
    {"fridge": load("fridge", cycling(120, 0.4, 2400)), "lamp": load("fridge", steady(10))},
)


def with_value(pointer: str, value: Any) -> dict[str, Any]:
    document = copy.deepcopy(GOOD)
    *path, last = pointer.split("/")[1:]
    place: Any = document
    for key in path:
        place = place[key]
    place[last] = value
    return document


@pytest.mark.parametrize(
    ("pointer", "value", "field", "given", "right"),
    [
        (
            "/loads/lamp/behaviour/watts",
            -5,
            "/loads/lamp/behaviour/watts",
            "-5",
            "should be from 0 to 100,000",
        ),
        ("/loads/lamp/behaviour/watts", "10", "/loads/lamp/behaviour/watts", '"10"', "a number"),
        ("/loads/lamp/behaviour/kind", "odd", "/loads/lamp/behaviour/kind", "odd", "steady, cycling"),
        ("/loads/lamp/behaviour", None, "/loads/lamp/behaviour", "nothing", "a group of named parts"),
        ("/loads/lamp/circuit_id", "attic", "/loads/lamp/circuit_id", '"attic"', "a circuit of this plan"),
        ("/circuits/fridge/mark", "maybe", "/circuits/fridge/mark", '"maybe"', "keep, room or off"),
        ("/circuits/fridge/spaces", [2], "/feeds/feed/breaker_spaces", "space 2", "choose a free space"),
        ("/circuits/fridge/spaces", [5], "/circuits/well/spaces", "space 5", "taken by “space 1”"),
        ("/circuits/fridge/spaces", [25], "/circuits/fridge/spaces", "25", "spaces 1 to 24"),
        ("/circuits/fridge/spaces", [9, 10], "/circuits/fridge/spaces", "[9, 10]", "two spaces of one side"),
        ("/circuits/fridge/colour", "red", "/circuits/fridge/colour", '"red"', "is not known here"),
        ("/site/time_zone", "Mars/Base", "/site/time_zone", '"Mars/Base"', "IANA time zone"),
        ("/outage/start_local", "2026-01-12T00:00:00Z", "/outage/start_local", "00Z", "without an offset"),
        (
            "/feeds/feed/receptacle_id",
            "none",
            "/feeds/feed/receptacle_id",
            '"none"',
            "receptacle of that source",
        ),
        (
            "/strategy/recovery_off",
            ["attic"],
            "/strategy/recovery_off/0",
            '"attic"',
            "a circuit of this plan",
        ),
        (
            "/outage/incidents",
            {"a": {"kind": "door_open", "at_s": 0, "for_s": 9}},
            "/load_id",
            "nothing",
            "which load's door",
        ),
        (
            "/stations/unit/overload_curve",
            [{"multiple": 1.5, "seconds": 1}, {"multiple": 1.2, "seconds": 9}],
            "/stations/unit/overload_curve",
            "[[1.5, 1.0], [1.2, 9.0]]",
            "rise",
        ),
    ],
)
def test_wrong_field_is_named(pointer: str, value: Any, field: str, given: str, right: str) -> None:
    with pytest.raises(InvalidPlan) as refused:
        read_plan(with_value(pointer, value))
    problem = next(p for p in refused.value.problems if p.field.endswith(field))
    assert given in problem.value
    assert right in problem.right


@pytest.mark.parametrize(
    "text", ["", "{", "[1]", "null", '{"schema_version": NaN}', "[" * 100_000, b"\xff\xfe{"]
)
def test_what_is_no_json_object(text: str | bytes) -> None:
    with pytest.raises(NotReadable):
        read_plan(text)


@pytest.mark.parametrize("version", [None, 0, 3, "1", True])
def test_unknown_version(version: Any) -> None:
    with pytest.raises(UnknownSchemaVersion, match="version"):
        read_plan({**GOOD, "schema_version": version})


def test_a_newer_version_is_refused_with_the_reason() -> None:
    with pytest.raises(UnknownSchemaVersion) as refused:
        read_plan({**GOOD, "schema_version": 3})
    assert "a newer one wrote this" in refused.value.problems[0].right


def test_older_versions_go_up_step_by_step() -> None:
    """Two steps of versions that never were; the document given is left as it is."""
    old = {"schema_version": -1, "title": "House"}

    class Named:
        """`title` becomes `name`."""

        def __init__(self, document: dict[str, Any]) -> None:
            rest = {key: value for key, value in document.items() if key != "title"}
            self.document = {"name": document["title"], **rest}

        def told(self, pointer: str) -> str:
            return "/title" if pointer == "/name" else pointer

    class Placed:
        """The house gets a site."""

        def __init__(self, document: dict[str, Any]) -> None:
            self.document = {**document, "site": {"name": document["name"]}}

        def told(self, pointer: str) -> str:
            return "/name" if pointer == "/site/name" else pointer

    steps: dict[int, Callable[[dict[str, Any]], Step]] = {-1: Named, 0: Placed}
    assert upgraded(old, steps) == {"schema_version": 1, "name": "House", "site": {"name": "House"}}
    assert Upgraded(old, steps).told("/site/name") == "/title"
    assert old == {"schema_version": -1, "title": "House"}
    assert upgraded({"schema_version": 5}, steps) == {"schema_version": 5}


def test_reading_what_was_written_is_the_identity() -> None:
    for plan in (read_plan(GOOD), demo_plan()):
        written = json.dumps(plan.model_dump(mode="json", exclude_none=True))
        again = read_plan(written)
        assert again == plan
        assert json.dumps(again.model_dump(mode="json", exclude_none=True)) == written


def test_schema_names_itself() -> None:
    schema = plan_schema()
    assert schema["$id"] == "urn:weary-cedar:plan:2"
    assert schema["properties"]["schema_version"]["const"] == 2
    assert {"Circuit", "Load", "Station", "Feed", "Lead", "Outage"} <= set(schema["$defs"])


def test_tandem_halves_share_a_space() -> None:
    document = copy.deepcopy(GOOD)
    document["circuits"]["a"] = circuit([9], half="upper")
    document["circuits"]["b"] = circuit([9], half="lower")
    assert read_plan(document).circuit_legs("a") == ("A",)
    document["circuits"]["c"] = circuit([9])
    with pytest.raises(InvalidPlan, match="taken"):
        read_plan(document)


def test_legs_of_spaces() -> None:
    assert [leg_of_space(n) for n in range(1, 9)] == list("AABBAABB")
    assert leg_of_space(1, "B") == "B"
    with pytest.raises(ValueError, match="from 1"):
        leg_of_space(0)


JARGON = re.compile(r"/[a-z]|[Ii]nput should|\bvalid\b|\bdict|None|tuple|\bid\b")
BAD: tuple[Any, ...] = ("nonsense", -1e9, [], {}, True, "", None)


def replaced(document: dict[str, Any], path: tuple[Any, ...], value: Any) -> dict[str, Any]:
    """The document with another value at a place."""
    changed: dict[str, Any] = json.loads(json.dumps(document))
    inside: Any = changed
    for step in path[:-1]:
        inside = inside[step]
    inside[path[-1]] = value
    return changed


@pytest.mark.parametrize("demo", DEMOS)
def test_words_of_errors_are_for_people(demo: str) -> None:
    """What would be right, whatever stands in a document: no pointer, type or field of the code."""
    document = canonical(demo_plan(demo))
    fields = {step for path in kinds_of_places(document) for step in path if "_" in str(step)}
    seen, refused = set(), 0
    for path in kinds_of_places(document):
        kind = tuple("*" if index == 1 or isinstance(step, int) else step for index, step in enumerate(path))
        if kind in seen:
            continue
        seen.add(kind)
        for bad in BAD:
            try:
                read_plan(replaced(document, path, bad))
            except InvalidPlan as error:
                refused += 1
                for problem in error.problems:
                    assert problem.right, problem
                    assert not JARGON.search(problem.right), problem
                    assert not any(field in problem.right for field in fields), problem
            except UnknownSchemaVersion:
                pass
    assert refused > 500


def test_a_copy_with_other_leads_has_other_hookups() -> None:
    """They are worked out once for each plan, and anew for each copy."""
    plan = demo_plan()
    assert plan.hookups is plan.hookups
    fewer = plan.model_copy(update={"leads": {}})
    assert (set(fewer.hookups), set(fewer.recharges)) == (set(), set())
    assert set(plan.hookups) == {"inlet"}
    assert plan == demo_plan()


def nouns(kind: type[Noun] = Noun) -> set[type[Noun]]:
    return {kind}.union(*map(nouns, kind.__subclasses__()))


@pytest.mark.filterwarnings("ignore:Pydantic serializer warnings")
def test_that_there_is_none_is_written_where_something_is_usual() -> None:
    """Over all nouns: what is left out is read as usual, so none must be written; an engine by the clock."""
    told = set()
    for kind in nouns():
        for field in kind.said_to_be_none():
            with contextlib.suppress(ValidationError):
                TypeAdapter[Any](kind.model_fields[field].annotation or Any).validate_python(None)
                written = kind.model_construct(**{field: None}).model_dump(mode="json", exclude_none=True)
                assert written[field] is None, (kind.__name__, field)
                told.add((kind.__name__, field))
    assert told >= {("EngineRule", "on_below_percent"), ("Station", "taper")}
    document = canonical(demo_plan("foothill"))
    document["strategy"]["rules"][0]["on_below_percent"] = None
    document["stations"][next(iter(document["stations"]))]["taper"] = None
    plan = read_plan(document)
    assert read_plan(canonical(plan)) == plan
