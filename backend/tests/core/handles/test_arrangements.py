"""The search over handles against brute force, random walks, and the state machine of the panel."""

import json
import random
from collections import deque
from collections.abc import Iterator

import pytest
from any_house import any_house
from check_plans import (
    BRIDGED,
    FEED,
    LEAD,
    PLANS,
    SUB,
    SWITCH,
    Json,
    feed,
    merged,
    recharge,
    second,
    station,
    survey,
)
from check_rulings import ANNEX, NOTHING_APART, OWN_MAIN, OWN_SWITCH, PANEL_SWITCH, other_at_the_inlet

from weary_cedar.core.checks import findings_of
from weary_cedar.core.handles.arrangements import arrangements
from weary_cedar.core.handles.conductors import Conductors
from weary_cedar.core.handles.elements import elements_of
from weary_cedar.core.handles.mechanisms import forbidden, moved
from weary_cedar.core.handles.supplies import meetings
from weary_cedar.core.handles.way_there import DECIDING
from weary_cedar.core.network import Network, network_of
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.runbook.house import House
from weary_cedar.core.runbook.steps import Move

#: Checks that tell of what meets.
MEET = {
    "feed-no-transfer", "feed-male-plug", "feed-two-sources", "two-inlet-interlock", "feed-upstream",
    "auto-start-source", "pair-unsynced", "panel-no-main",
}  # fmt: skip
#: What the state machine calls a meeting → what the search calls it.
SAME = {"driven": "two_sources", "house_outlet": "back_feed"}
NUMBERS = range(0, 120, 3)
OWN = "own-main-interlocked"
HOUSES: dict[str, Json] = {
    "as it is": {},
    "nothing between": feed(kind="no_transfer"),
    "two inlets": second(),
    "two inlets, one device": second(survey={"exclusive": "yes"}),
    "a switch for its own circuits": OWN_SWITCH,
    "a switch before the main": PANEL_SWITCH,
    "a switch that nothing keeps apart": merged(PANEL_SWITCH, NOTHING_APART),
    "two cords, one inlet": other_at_the_inlet(None),
    "two cords that both fit one inlet": other_at_the_inlet("no"),
    "a sub-panel, its own main interlocked": merged(
        SUB, survey("panels", "sub", "own-main-interlocked", "yes")
    ),
    "a sub-panel, interlocked elsewhere": merged(SUB, survey("panels", "sub", "own-main-interlocked", "no")),
    "several mains": survey("panels", "main", "single-main", "no"),
    "one hot": BRIDGED,
    "circuits of a switch": SWITCH,
}
#: What is wrong as soon as something feeds.
STANDING: dict[str, tuple[Json, str]] = {
    "floating, and its neutral switched": (merged(PANEL_SWITCH, feed(neutral_switched="yes")), "no_bond"),
    "the same on the circuits of a switch": (merged(SWITCH, feed(neutral_switched="yes")), "no_bond"),
    "bonded behind a ground-fault outlet": (
        station(neutral="bonded", receptacles={"l14-30": {"gfci": "yes"}}), "device_between"),
    "a charger on what its station feeds": (recharge(when="always"), "charging_circle"),
}  # fmt: skip
SOUND = {
    "as it is", "two inlets, one device", "a switch for its own circuits", "a switch before the main",
    "two cords, one inlet", "a sub-panel, its own main interlocked", "one hot", "circuits of a switch",
}  # fmt: skip


def plan_of(patch: Json) -> Plan:
    """The foothill house without its charging leads: fewer handles, the same conductors."""
    bare = {"leads": {"from-generator": None}, "strategy": {"rules": []}}
    return read_plan(json.dumps(apply_patch(apply_patch(PLANS["foothill"], bare), patch)))


def free_acts(plan: Plan, at: dict[str, str]) -> Iterator[tuple[str, str]]:
    """Everything that a hand can do next, in the order in which cords are handled."""
    joined = Conductors(network_of(plan), at)
    for key, element in elements_of(plan).items():
        kind, _, of = key.partition("/")
        for to in element.positions if kind in DECIDING else ():
            if to == at[key] or forbidden(plan, at, key, to):
                continue
            if kind in ("source_end", "load_end") and moved(joined, kind, of, to):
                continue
            if kind == "transfer" and "off" not in (at[key], to):
                continue
            yield key, to


def met(plan: Plan, at: dict[str, str]) -> set[str]:
    found = meetings(Conductors(network_of(plan), at))
    return {SAME.get(fault.code, fault.code) for fault in found}


def by_brute_force(plan: Plan) -> dict[str, int]:
    """Every meeting that any order of acts reaches, with the fewest acts to it."""
    begins = {key: element.begins for key, element in elements_of(plan).items()}
    seen, found = {tuple(begins.values())}, dict.fromkeys(met(plan, begins), 0)
    queue = deque([(begins, 0)])
    while queue:
        at, acts = queue.popleft()
        for key, to in free_acts(plan, at):
            after = {**at, key: to}
            if tuple(after.values()) in seen:
                continue
            seen.add(tuple(after.values()))
            for code in met(plan, after):
                found.setdefault(code, acts + 1)
            queue.append((after, acts + 1))
    return found


@pytest.mark.parametrize("name", HOUSES)
def test_the_search_finds_what_brute_force_finds_and_no_longer_way(name: str) -> None:
    plan = plan_of(HOUSES[name])
    looked = arrangements(Network(plan))
    told: dict[str, int] = {}
    for danger in looked.dangers:
        assert danger.acts is not None
        told[danger.code] = min(len(danger.acts), told.get(danger.code, 99))
    assert told == by_brute_force(plan)
    assert (told == {}) == (name in SOUND)
    assert looked.words.startswith("No arrangement of ") == (name in SOUND)


@pytest.mark.parametrize("name", sorted(HOUSES.keys() - SOUND))
def test_every_shortest_way_is_dangerous_at_its_last_act(name: str) -> None:
    plan = plan_of(HOUSES[name])
    for danger in arrangements(Network(plan)).dangers:
        house = House(plan)
        faults = [house.do(Move(what=act.what, to=act.to)) for act in danger.acts or ()]
        assert faults[:-1] == [None] * (len(faults) - 1), danger.words
        assert faults[-1] is not None
        assert SAME.get(faults[-1].code, faults[-1].code) in {danger.code, "back_feed", "two_sources"}


@pytest.mark.parametrize("name", STANDING)
def test_the_way_to_what_is_wrong_once_it_feeds(name: str) -> None:
    patch, code = STANDING[name]
    plan = plan_of(patch)
    danger = next(danger for danger in arrangements(Network(plan)).dangers if danger.code == code)
    house = House(plan)
    faults = [house.do(Move(what=act.what, to=act.to)) for act in danger.acts or ()]
    assert faults[:-1] == [None] * (len(faults) - 1), danger.words
    assert faults[-1] is not None
    assert faults[-1].code in {code, "charger_on_itself"}
    told = {finding.detail for finding in findings_of(plan) if danger.words in finding.detail}
    assert told, danger.words


def loosened(number: int) -> Plan:
    """A house at random; every other one without the interlocks that it may have."""
    document = any_house(number)
    for one in document.get("feeds", {}).values() if number % 2 else ():
        one["kind"] = "no_transfer" if one["kind"] == "interlock_inlet" else one["kind"]
    return read_plan(document)


def test_houses_at_random_are_sound_and_not() -> None:
    sound = [not arrangements(Network(loosened(number))).dangers for number in NUMBERS]
    assert min(sound.count(True), sound.count(False)) >= 5


@pytest.mark.parametrize("number", NUMBERS)
def test_no_walk_reaches_what_the_search_denies(number: int) -> None:
    """Sixty acts at random, three times, over houses at random."""
    plan = loosened(number)
    looked = arrangements(Network(plan))
    known = {danger.code for danger in looked.dangers}
    for walk in range(3):
        chooser = random.Random(1_000 * number + walk)
        at = {key: element.begins for key, element in elements_of(plan).items()}
        for _ in range(60):
            choices = list(free_acts(plan, at))
            if not choices:
                break
            key, to = chooser.choice(choices)
            at[key] = to
            assert met(plan, at) <= known, (number, walk, key, to)


@pytest.mark.parametrize("name", sorted(HOUSES.keys() - SOUND))
def test_what_the_search_finds_is_a_stop(name: str) -> None:
    """Whatever can meet has a finding, whichever check tells it, with the way there."""
    stops = [f for f in findings_of(plan_of(HOUSES[name])) if f.level == "stop" and f.check_id in MEET]
    assert stops
    assert any("the shortest way: " in stop.detail for stop in stops) == (name != "several mains")


def test_what_is_not_known_is_said() -> None:
    looked = arrangements(Network(plan_of(SUB)))
    assert looked.words.startswith("Not all of it could be looked at (")
    assert "whether the interlock is on the own main of Sub" in looked.words
    assert arrangements(Network(plan_of(merged(ANNEX, OWN_MAIN)))).words.startswith(
        "No arrangement of 13 handles"
    )


def test_feeds_that_share_nothing_are_looked_at_apart() -> None:
    """Sixteen panels with a switch each: two arrangements for each of them, not two to the sixteenth."""
    document: Json = apply_patch(
        PLANS["foothill"], {"leads": {"from-generator": None}, "strategy": {"rules": []}}
    )
    document["feeds"], document["leads"] = {}, {}
    for number in range(16):
        key, switch = f"p{number}", {"kind": "transfer_panel", "breaker_spaces": [], "panel_id": f"p{number}"}
        document["panels"][key] = {"name": key, "spaces": 8}
        document["stations"][key] = {**PLANS["foothill"]["stations"]["station"], "name": key}
        document["feeds"][key] = {**FEED, **switch}
        source = {"kind": "station", "id": key, "outlet": "l14-30"}
        document["leads"][key] = {**LEAD, "source": source, "to": {"end": "feed", "feed_id": key}}
    looked = arrangements(Network(read_plan(json.dumps(document))))
    assert (looked.looked_at, looked.left_out, looked.dangers) == (32, "", ())


def test_what_is_left_out_is_said(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("weary_cedar.core.handles.arrangements.MOST_ARRANGEMENTS", 1)
    assert arrangements(Network(plan_of({}))).words.endswith("more than 1 arrangements")


def test_it_names_what_it_trusts_and_the_way() -> None:
    looked = arrangements(Network(plan_of({})))
    assert looked.words.endswith("It trusts interlock of feed of Main panel: listed and whole")
    danger = arrangements(Network(plan_of(feed(kind="no_transfer", name="garage cord")))).dangers[0]
    assert danger.words.endswith("feed breaker of garage cord on: 3 acts")
    assert LEAD["source"]["id"] == "station"
