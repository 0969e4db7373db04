"""A whole outage practised: stops, choices that are acts, and what each was worth."""

import pytest
from any_house import any_house
from builders import one_load, steady

from weary_cedar.core.drill.whole import (
    AfterTalk,
    WholeDrill,
    after_talk,
    play_whole,
    read_whole_steps,
    why_no_outage,
)
from weary_cedar.core.drill.whole.surprises import is_of_people, with_people
from weary_cedar.core.errors import InvalidInput, InvalidPlan
from weary_cedar.core.network import network_of
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.demo import DEMOS, demo_plan


def played(plan: Plan, seed: int, prefer: tuple[str, ...] = ()) -> WholeDrill:
    """An outage to its end: at each stop the first preferred choice that there is, else going on."""
    steps = WholeDrill(seed=seed)
    play = play_whole(plan, steps)
    last = -1.0
    while play.stop is not None:
        assert play.outcome is None
        assert play.stop.at_s > last, "stops come one after the other"
        last = play.stop.at_s
        keys = [choice.key for choice in play.stop.choices]
        assert keys[0] == "go-on"
        assert len(set(keys)) == len(keys)
        assert all(0 <= charge.percent <= 100 for charge in play.stop.charges)
        key = next((one for want in prefer for one in keys if one.startswith(want)), "go-on")
        steps = WholeDrill(seed=seed, chosen=(*steps.chosen, key))
        play = play_whole(plan, steps)
    assert play.outcome is not None
    return steps


@pytest.mark.parametrize("name", DEMOS)
@pytest.mark.parametrize("prefer", [(), ("room-off", "one-off"), ("engine-off", "all-back")])
def test_every_demo_is_played_to_its_end_and_weighed(name: str, prefer: tuple[str, ...]) -> None:
    plan = demo_plan(name)
    steps = played(plan, 2, prefer)
    talk = after_talk(plan, steps)
    assert len(talk.choices) == len(steps.chosen) <= 10
    assert (talk.best.lasts, talk.best.until_s) >= (talk.played.lasts, talk.played.until_s - 900)
    assert (talk.best.lasts, talk.best.until_s) >= (talk.as_planned.lasts, talk.as_planned.until_s - 900)
    assert all(item.lost_h >= -0.25 for item in talk.choices), "nothing beats the best from there"
    assert talk.choices[-1].outcome == talk.played, "what the last choice came to is the end"
    if not prefer:
        assert talk.played == talk.as_planned
        assert all(item.won_h == 0 for item in talk.choices)
    assert after_talk(plan, steps) == talk, "the same number is the same outage"


def test_leaving_off_what_eats_most_makes_it_last_longer() -> None:
    """A closed form: 1,000 Wh at 90 % and two loads of 50 W; one left off doubles the rest of the time."""
    document = one_load(steady(50))
    document["loads"]["other"] = {**document["loads"]["only"], "name": "other", "behaviour": steady(60)}
    document["outage"]["length_s"] = 6 * 86_400.0
    document["outage"]["occupancy"] = {"wakes": "00:00:00", "sleeps": "00:00:00"}
    plan = read_plan(document)
    alone = after_talk(plan, played(plan, 4))
    less = after_talk(plan, played(plan, 4, ("one-off",)))
    assert less.played.until_s > 1.5 * alone.played.until_s
    assert less.choices[0].won_h == pytest.approx(
        (less.choices[0].outcome.until_s - alone.played.until_s) / 3600
    )
    assert "longer than by going on" in less.sentence
    assert not alone.passed
    assert less.passed


def test_an_engine_that_does_not_come_on_is_told_and_can_be_seen_to() -> None:
    plan = demo_plan("foothill")
    steps = played(plan, 2)
    stops = [
        play_whole(plan, WholeDrill(seed=2, chosen=steps.chosen[:n])).stop for n in range(len(steps.chosen))
    ]
    found = [stop for stop in stops if stop is not None and "does not come on" in stop.why]
    assert len(found) == 1
    assert any("does not come on" in words for words in found[0].happened)
    assert any("See to small inverter generator" in choice.words for choice in found[0].choices)
    mended = after_talk(plan, played(plan, 2, ("engine-on",)))
    alone = after_talk(plan, steps)
    assert mended.played.burned_l > alone.played.burned_l == 0


def test_what_people_plug_in_is_told_once_it_is_on_and_can_be_agreed_on() -> None:
    """Never before; once agreed on it is off for good, and leaves more for the rest."""
    plan, told = demo_plan("foothill"), "Someone has the fan heater on, 1,500 W on Kitchen counter left"
    steps = played(plan, 16)
    stops = [play_whole(plan, WholeDrill(seed=16, chosen=steps.chosen[:n])).stop for n in range(10)]
    seen = False
    for stop in filter(None, stops):
        seen = seen or told in stop.happened
        offered = [choice.words for choice in stop.choices if "fan heater" in choice.words]
        assert offered == (["Agree that the fan heater stays off until the utility is back"] if seen else [])
    assert seen
    agreed = played(plan, 16, ("agree",))
    last = play_whole(plan, WholeDrill(seed=16, chosen=agreed.chosen[:-1])).stop
    assert last is not None
    assert not any("fan heater" in words for words in (*last.happened, *(c.words for c in last.choices)))
    assert after_talk(plan, agreed).played.left_percent > after_talk(plan, steps).played.left_percent


@pytest.mark.parametrize("seed", range(0, 24, 2))
def test_what_people_plug_in_hangs_on_what_is_fed_and_asks_for_nothing(seed: int) -> None:
    plan = read_plan(any_house(seed))
    worlds = [with_people(plan, number) for number in range(8)]
    assert worlds == [with_people(plan, number) for number in range(8)]
    for world in worlds:
        new = world.loads.keys() - plan.loads.keys()
        assert len(new) <= 1
        for key in new:
            assert is_of_people(key)
            assert any(world.loads[key].circuit_id in way.branches for way in network_of(world).ways)
            lost = [event.part for event in run_outage(world).events if event.kind == "keep_lost"]
            assert not any(part.endswith(key) for part in lost)


def test_what_is_shown_at_a_stop_is_not_what_is_to_come() -> None:
    """Two outages that differ only later show the same until then; the first stop is the change-over."""
    plan = demo_plan("hut")
    stops = {seed: play_whole(plan, WholeDrill(seed=seed)).stop for seed in (1, 2, 3)}
    assert all(stop is not None and "changed over" in stop.why for stop in stops.values())


@pytest.mark.parametrize("seed", range(0, 40, 5))
def test_any_house_is_played_or_says_why_not(seed: int) -> None:
    plan = read_plan(any_house(seed))
    plan = plan.model_copy(
        update={"outage": plan.outage.model_copy(update={"length_s": min(plan.outage.length_s, 86_400.0)})}
    )
    if why_no_outage(plan):
        with pytest.raises(InvalidInput, match="an outage can be run"):
            play_whole(plan, WholeDrill())
        return
    steps = played(plan, 3, ("room-off", "engine-off", "all-back"))
    assert isinstance(after_talk(plan, steps), AfterTalk)
    assert run_outage(plan).ledger is not None


def test_wrong_steps_are_named() -> None:
    plan = demo_plan("hut")
    with pytest.raises(InvalidInput) as refused:
        play_whole(plan, WholeDrill(chosen=("go-on", "sing")))
    assert (refused.value.problems[0].field, "go-on" in refused.value.problems[0].right) == (
        "/chosen/1",
        True,
    )
    with pytest.raises(InvalidPlan, match="/seed"):
        read_whole_steps('{"seed": -1}')
    assert read_whole_steps('{"seed": 7, "chosen": ["go-on"]}') == WholeDrill(seed=7, chosen=("go-on",))
