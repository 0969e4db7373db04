"""The state machine of the house: orders that are right pass, and every wrong one is caught at its step."""

import pytest
from orders import (
    BACK,
    BRANCHES_OFF,
    CHANGE,
    CORD_IN,
    ENGINE_ON,
    HANDLES,
    LOADS,
    ON,
    OVER,
    TO_SWITCH,
    UNPLUGGED,
    acts,
    bonded,
    cords,
    furnace,
    paired,
    standby,
    two_panels,
    wired,
    with_feed,
)

from weary_cedar.core.errors import InvalidInput, InvalidPlan, NotReadable
from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.replay import Replay, replay
from weary_cedar.core.runbook.steps import read_steps, steps_schema

RIGHT: dict[str, tuple[Plan, str]] = {
    "interlock": (with_feed(), CHANGE + BACK),
    "interlock, the generator afterwards": (
        with_feed(),
        CHANGE + BACK.removesuffix(" interlock/feed=utility main/main=on")
        + " load_end/gen=in source_end/gen=in engine/gen=on output/generator/gen=on+180 feed_breaker/feed=on "
        "breaker/fridge=on+300 breaker/lights=on",
    ),
    "per-circuit switch": (
        with_feed(**HANDLES), UNPLUGGED + TO_SWITCH + "handle/feed/fridge=source handle/feed/lights=source",
    ),
    "furnace switch": (
        furnace(), "transfer/feed=off " + CORD_IN + "output/station/unit=on transfer/feed=source",
    ),
    "cords": (
        cords(), "home_plug/cord=out load_end/cord=in source_end/cord=in output/station/unit=on",
    ),
    "sub-panel transfer": (
        standby(), UNPLUGGED + BRANCHES_OFF + "lockout/array/roof=locked lockout/generator/gen=locked "
        "transfer/feed=off " + CORD_IN + "output/station/unit=on transfer/feed=source " + LOADS,
    ),
    "two panels": (
        two_panels(),
        UNPLUGGED + BRANCHES_OFF + "breaker/feeder=off breaker/lamp=off main/barn=off interlock/barn=source "
        + OVER + CORD_IN + "load_end/barn=in source_end/barn=in " + ON
        + "output/station/other=on feed_breaker/barn=on " + LOADS + " breaker/lamp=on",
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", RIGHT)
def test_an_order_that_is_right_passes(name: str) -> None:
    plan, text = RIGHT[name]
    assert replay(plan, acts(text)) == Replay(safe=True, done=len(acts(text)))


#: Plan, order, code, and the act at which it is caught.
WRONG: list[tuple[str, Plan, str, str, str]] = [
    ("main on beside the source", with_feed(), OVER + "main/main=on", "interlock_main", "main/main=on"),
    ("interlock while the main is on", with_feed(), "interlock/feed=source", "interlock_over", "interlock/feed=source"),
    ("feed breaker with the main on", with_feed(), "feed_breaker/feed=on", "interlock_feed", "feed_breaker/feed=on"),
    ("feed breaker before the interlock", with_feed(), "main/main=off feed_breaker/feed=on", "interlock_feed", "feed_breaker/feed=on"),
    ("interlock back under the feed breaker", with_feed(), CHANGE + " interlock/feed=utility", "interlock_back", "interlock/feed=utility"),
    ("everything left on", with_feed(), UNPLUGGED + OVER + CORD_IN + ON, "left_on", "feed_breaker/feed=on"),
    ("the range left on", with_feed(), UNPLUGGED + BRANCHES_OFF.replace("breaker/range=off ", "") + OVER + CORD_IN + ON, "left_on", "feed_breaker/feed=on"),
    ("the range switched on later", with_feed(), CHANGE + " breaker/range=on", "left_on", "breaker/range=on"),
    ("no cord, feed breaker on, utility's leg", with_feed(kind="no_transfer"), "feed_breaker/feed=on", "live_blades", "feed_breaker/feed=on"),
    ("nothing between source and utility", with_feed(kind="no_transfer"), CORD_IN + "feed_breaker/feed=on", "back_feed", "feed_breaker/feed=on"),
    ("the main closed beside a source", with_feed(kind="no_transfer"), "main/main=off " + BRANCHES_OFF + UNPLUGGED + CORD_IN + ON + "main/main=on", "back_feed", "main/main=on"),
    ("a plug into a house outlet", with_feed(kind="receptacle_backfeed"), CORD_IN, "house_outlet", "source_end/feed=in"),
    ("the cord pulled under load", with_feed(), CHANGE + " source_end/feed=out", "moved_live", "source_end/feed=out"),
    ("the far end pulled under load", with_feed(), CHANGE + " load_end/feed=out", "moved_live", "load_end/feed=out"),
    ("the cord plugged into a live outlet", with_feed(), OVER + "load_end/feed=in output/station/unit=on source_end/feed=in", "moved_live", "source_end/feed=in"),
    ("the source's end first", with_feed(), OVER + "source_end/feed=in", "free_end", "source_end/feed=in"),
    ("the far end out first", with_feed(), CHANGE + BACK.split(" source_end", maxsplit=1)[0] + " load_end/feed=out", "free_end", "load_end/feed=out"),
    ("the cord moved while its feed breaker is on", with_feed(), UNPLUGGED + BRANCHES_OFF + OVER + CORD_IN + "feed_breaker/feed=on source_end/feed=out", "moved_closed", "source_end/feed=out"),
    ("two cords for one inlet", with_feed(), OVER + CORD_IN + "load_end/gen=in", "occupied", "load_end/gen=in"),
    ("in already", with_feed(), OVER + CORD_IN + "source_end/feed=in", "already", "source_end/feed=in"),
    ("off already", with_feed(), "main/main=off main/main=off", "already", "main/main=off"),
    ("the pump last", with_feed(), UNPLUGGED + BRANCHES_OFF + OVER + CORD_IN + ON + "breaker/fridge=on breaker/lights=on breaker/pump=on", "over_curve", "breaker/pump=on"),
    ("the compressor too soon", with_feed(), CHANGE + " breaker/fridge=off breaker/fridge=on+60", "compressor", "breaker/fridge=on"),
    ("the feed breaker off and on with a compressor behind it", with_feed(), CHANGE + " feed_breaker/feed=off feed_breaker/feed=on", "compressor", "feed_breaker/feed=on"),
    ("the generator started loaded", with_feed(), OVER + "output/generator/gen=on engine/gen=on", "engine_loaded", "engine/gen=on"),
    ("the generator stopped loaded", with_feed(), ENGINE_ON + "engine/gen=off", "engine_loaded", "engine/gen=off"),
    ("the pump on the generator", with_feed(), BRANCHES_OFF + UNPLUGGED + OVER + "load_end/gen=in source_end/gen=in " + ENGINE_ON + "feed_breaker/feed=on breaker/pump=on", "over_curve", "breaker/pump=on"),
    ("a handle straight across", with_feed(**HANDLES), CORD_IN + "output/station/unit=on handle/feed/fridge=source", "through_off", "handle/feed/fridge=source"),
    ("a handle straight back", with_feed(**HANDLES), TO_SWITCH + "handle/feed/fridge=source handle/feed/fridge=utility", "through_off", "handle/feed/fridge=utility"),
    ("a motor that still turns", with_feed(**HANDLES), CORD_IN + "output/station/unit=on handle/feed/fridge=off handle/feed/fridge=source+1", "motor_turning", "handle/feed/fridge=source"),
    ("the cord moved with a handle at the source", with_feed(**HANDLES), TO_SWITCH + "handle/feed/lights=source output/station/unit=off source_end/feed=out", "moved_closed", "source_end/feed=out"),
    ("a transfer straight across", standby(), CORD_IN + "transfer/feed=source", "through_off", "transfer/feed=source"),
    ("the roof's solar not locked", standby(), UNPLUGGED + BRANCHES_OFF + "lockout/generator/gen=locked transfer/feed=off " + CORD_IN + "output/station/unit=on transfer/feed=source", "array_free", "transfer/feed=source"),
    ("the set that starts by itself not locked", standby(), UNPLUGGED + BRANCHES_OFF + "lockout/array/roof=locked transfer/feed=off " + CORD_IN + "output/station/unit=on transfer/feed=source", "standby_free", "transfer/feed=source"),
    ("a lock taken off while it feeds", standby(), RIGHT["sub-panel transfer"][1] + " lockout/array/roof=free", "array_free", "lockout/array/roof=free"),
    ("transfer with everything on", standby(), UNPLUGGED + "lockout/array/roof=locked lockout/generator/gen=locked transfer/feed=off " + CORD_IN + "output/station/unit=on transfer/feed=source", "left_on", "transfer/feed=source"),
    ("the furnace's switch at once", furnace(), CORD_IN + "output/station/unit=on transfer/feed=source", "through_off", "transfer/feed=source"),
    ("the furnace's cord under its switch", furnace(), RIGHT["furnace switch"][1] + " output/station/unit=off source_end/feed=out", "moved_closed", "source_end/feed=out"),
    ("an appliance still in the wall", cords(), "load_end/cord=in", "home_plug", "load_end/cord=in"),
    ("an appliance back in the wall while on the cord", cords(), RIGHT["cords"][1] + " home_plug/cord=in", "home_plug", "home_plug/cord=in"),
    ("a cord into a live station", cords(), "home_plug/cord=out load_end/cord=in output/station/unit=on source_end/cord=in", "moved_live", "source_end/cord=in"),
    ("the station's own charger on its panel", with_feed(), BRANCHES_OFF + OVER + CORD_IN + ON + "breaker/wall=on", "charger_on_itself", "breaker/wall=on"),
    ("the charger plugged in afterwards", with_feed(), CHANGE + " breaker/wall=on source_end/charger=in load_end/charger=in", "charger_on_itself", "load_end/charger=in"),
    ("the main between two fed panels", two_panels(), RIGHT["two panels"][1] + " main/barn=on", "interlock_main", "main/barn=on"),
    ("two stations on one panel", two_panels("keep", kind="no_transfer"), UNPLUGGED + BRANCHES_OFF + "breaker/lamp=off load_end/barn=in source_end/barn=in " + OVER + CORD_IN + ON + "output/station/other=on feed_breaker/barn=on", "two_sources", "feed_breaker/barn=on"),
    ("a bonding plug on a panel", bonded(), OVER + CORD_IN, "two_bonds", "source_end/feed=in"),
    ("half of a shared neutral", paired(), TO_SWITCH + "handle/feed/lights=utility handle/feed/fridge=source", "pair_apart", "handle/feed/fridge=source"),
    ("a wired source unplugged", wired(), "source_end/feed=out", "wired", "source_end/feed=out"),
]  # fmt: skip


def test_there_are_enough_of_them() -> None:
    assert len(WRONG) >= 40
    assert len({code for _, _, _, code, _ in WRONG}) >= 20


@pytest.mark.parametrize(
    ("plan", "text", "code", "caught"), [item[1:] for item in WRONG], ids=[w[0] for w in WRONG]
)
def test_a_wrong_order_is_caught_at_its_step(plan: Plan, text: str, code: str, caught: str) -> None:
    order = acts(text)
    found = replay(plan, order)
    assert (found.safe, found.code) == (False, code), found
    assert found.step is not None
    assert found.why
    assert f"{order[found.step - 1].what}={order[found.step - 1].to}" == caught
    assert found.done == found.step - 1


def test_how_the_house_stands_before_is_judged_too() -> None:
    found = replay(with_feed(), [], {"feed_breaker/feed": "on", "interlock/feed": "source"})
    assert (found.step, found.code) == (0, "live_blades")
    assert replay(with_feed(), [], {"main/main": "off"}).safe


def test_what_there_is_not_is_named() -> None:
    with pytest.raises(
        InvalidInput, match="/acts/1/what: got breaker/none; an element of this plan, such as main/main"
    ):
        replay(with_feed(), acts("main/main=off breaker/none=on"))
    with pytest.raises(InvalidInput, match="got source; on or off"):
        replay(with_feed(), acts("main/main=source"))
    with pytest.raises(InvalidInput, match="got up; on or off"):
        replay(with_feed(), [], {"main/main": "up"})


def test_a_file_of_steps_is_read_or_refused() -> None:
    read = read_steps('{"acts": [{"what": "main/main", "to": "off", "wait_s": 60}]}')
    assert read.acts[0].wait_s == 60.0
    with pytest.raises(NotReadable):
        read_steps("[]")
    with pytest.raises(InvalidPlan, match="wait_s"):
        read_steps('{"acts": [{"what": "main/main", "to": "off", "wait_s": -1}]}')
    assert set(steps_schema()["properties"]) == {"begins", "acts"}
