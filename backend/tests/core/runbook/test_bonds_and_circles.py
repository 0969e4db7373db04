"""What the state machine knows of bonds, of what is driven, of circles of charging, kits and compressors.

What is asked of an order is common practice of the trade; every house is made up.
"""

from typing import Any

import pytest
from builders import Json
from check_plans import merged
from orders import (
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
    cords,
    document,
    furnace,
    standby,
    two_panels,
    with_feed,
)
from whole_houses import HOUSE, KIT, LONE, WALL, charge, small

from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.runbook.replay import replay
from weary_cedar.core.runbook.steps import Move

TRANSFERRED: Json = {"kind": "transfer_panel", "neutral_switched": "yes"}
TRANSFER = "transfer/feed=off " + CORD_IN
CLOSED = "output/station/unit=on transfer/feed=source "
FURNACE_ON = "transfer/feed=off " + CORD_IN + "output/station/unit=on transfer/feed=source"
GEN_IN = "load_end/gen=in source_end/gen=in "


def floating(plug: str = "no", neutral: str = "floating", gfci: str = "unknown", **feed: Any) -> Plan:
    """The house behind a transfer that parts the neutral, its station floating unless said otherwise."""
    made = document()
    made["stations"]["unit"] |= {"neutral": neutral}
    for outlet in made["stations"]["unit"]["receptacles"].values():
        outlet["gfci"] = gfci
    made["feeds"]["feed"] |= {**TRANSFERRED, "breaker_spaces": [], **feed}
    made["leads"]["feed"] |= {"bonding_plug": plug}
    return read_plan(made)


def joined(**engine: Any) -> Plan:
    """Two inlets on one panel, nothing between them: a station, and an engine behind a second breaker."""
    made = document()
    made["feeds"]["feed"] |= {"kind": "no_transfer", "breaker_spaces": [14, 16]}
    made["feeds"]["second"] = made["feeds"]["feed"] | {"breaker_spaces": [18, 20]}
    made["leads"]["gen"]["to"] = {"end": "feed", "feed_id": "second"}
    made["generators"]["gen"] |= engine
    return read_plan(made)


DARK = UNPLUGGED + BRANCHES_OFF + "main/main=off "


def around(*legs: tuple[str, str, str], watts: float = 500.0, rated: float = 4_500.0) -> Plan:
    """The house with stations beside it: leads from what to which input, charging one another."""
    made = document()
    del made["leads"]["charger"]
    made["stations"]["unit"]["ac_inputs"] = WALL
    made["stations"]["unit"]["rated_va"] = rated
    made["stations"]["unit"]["receptacles"]["side"] = {"kind": "5-20", "rating_a": 20.0}
    for name in ("second", "third"):
        made["stations"][name] = small(name=name, ac_inputs=WALL, place_id=None)
    outlets = {"unit": "side", "second": "duplex", "third": "duplex"}
    for source, station, key in legs:
        kind = "circuit" if source == "wall" else "station"
        made["leads"][key] = charge(kind, source, station, watts=watts, outlet=outlets.get(source))
    return read_plan(made)


def passing(neutral: str, *, passes: bool = True, rated: float = 5_000.0, watts: float = 500.0) -> Plan:
    """The house, and an engine at an input of its station: bonded or not, behind a ground-fault device."""
    made = document()
    del made["leads"]["charger"]
    made["stations"]["unit"] |= {"neutral": "floating", "neutral_in_bypass": "passes"}
    made["stations"]["unit"]["ac_inputs"] = {"wall": WALL["wall"] | {"passes_through": passes, "cap_a": 40.0}}
    made["generators"]["gen"] |= {"neutral": neutral, "rated_w": rated, "output": "120", "starting_w": None,
                                  "receptacles": {"duplex": {"kind": "5-20", "rating_a": 20.0, "gfci": "yes"}}}  # fmt: skip
    made["leads"]["gen"] = charge("generator", "gen", "unit", watts=watts, outlet="duplex")
    return read_plan(made)


def two_charges(watts: float) -> Plan:
    """An engine with leads into two stations."""
    made = document()
    del made["leads"]["charger"]
    made["stations"]["unit"]["ac_inputs"] = WALL
    made["stations"]["second"] = small(name="second", ac_inputs=WALL, place_id=None)
    made["generators"]["gen"] |= {"rated_w": 3_000.0, "starting_w": None}
    made["generators"]["gen"]["receptacles"] = {
        "one": {"kind": "5-20", "rating_a": 20.0}, "two": {"kind": "5-20", "rating_a": 20.0}}  # fmt: skip
    del made["leads"]["gen"]
    made["leads"]["a"] = charge("generator", "gen", "unit", watts=watts, outlet="one")
    made["leads"]["b"] = charge("generator", "gen", "second", watts=watts, outlet="two")
    return read_plan(made)


def by_car() -> Plan:
    """A car of which the outlet gives less than the charge is set to."""
    made = document()
    del made["leads"]["charger"]
    made["stations"]["unit"]["ac_inputs"] = WALL
    made["vehicles"] = {"car": {"name": "car", "most_w": 1_000.0}}
    made["leads"]["car"] = charge("vehicle", "car", watts=1_500.0)
    return read_plan(made)


def kit(charging: str) -> Plan:
    """A linked pair at the inlet, one of its units with a lead from a circuit, its kit as said."""
    beside: Json = {
        "stations": {"l": {"ac_inputs": WALL}, "third": small(name="third")},
        "links": {"pair": {"ac_charging": charging}},
        "leads": {"top": charge("station", "third", "l", watts=600.0, outlet="duplex")},
    }
    return read_plan(merged(HOUSE, merged(LONE, merged(KIT, beside))))


KIT_DARK = "".join(
    f"breaker/{key}=off " for key in ("fridge", "router", "lights", "furnace", "well", "left", "right")
)
KIT_ON = (
    KIT_DARK + "main/main=off interlock/inlet=source load_end/in=in source_end/in=in output/link/pair=on "
    "feed_breaker/inlet=on "
)
TOP = "load_end/top=in source_end/top=in output/station/third=on"
FED = CHANGE.replace(UNPLUGGED, "")
GEN_CHARGES = "load_end/gen=in source_end/gen=in engine/gen=on output/generator/gen=on"
GEN_TWO = "load_end/a=in source_end/a=in load_end/b=in source_end/b=in engine/gen=on output/generator/gen=on"
CHAIN_B = "load_end/b=in source_end/b=in output/station/second=on "
RETURN = (
    " breaker/pump=off breaker/fridge=off breaker/lights=off feed_breaker/feed=off output/station/unit=off "
    "source_end/feed=out load_end/feed=out interlock/feed=utility main/main=on "
)

#: Plan, order, code, and the act at which it is caught.
WRONG: dict[str, tuple[Plan, str, str, str]] = {
    "a floating station behind a transfer that parts the neutral": (
        floating(), UNPLUGGED + BRANCHES_OFF + TRANSFER + CLOSED, "no_bond", "transfer/feed=source"),
    "the same, its output on afterwards": (
        floating(), UNPLUGGED + BRANCHES_OFF + TRANSFER + "transfer/feed=source", "no_bond", "transfer/feed=source"),
    "an automatic transfer that parts the neutral": (
        floating(kind="automatic"), UNPLUGGED + BRANCHES_OFF + TRANSFER + CLOSED, "no_bond", "transfer/feed=source"),
    "a hybrid's transfer that parts the neutral": (
        floating(kind="hybrid"), UNPLUGGED + BRANCHES_OFF + TRANSFER + CLOSED, "no_bond", "transfer/feed=source"),
    "a switch per circuit that parts the neutral": (
        floating(**HANDLES), UNPLUGGED + TO_SWITCH + "handle/feed/lights=source", "no_bond", "handle/feed/lights=source"),
    "two appliances on a switch that parts the neutral": (
        floating(kind="appliance_switch", circuit_ids=["fridge", "lights"], inlet="5-15"), FURNACE_ON, "no_bond",
        "transfer/feed=source"),
    "the bonding plug taken out before the transfer": (
        floating("yes"), UNPLUGGED + BRANCHES_OFF + "bonding_plug/feed=out " + TRANSFER + CLOSED, "no_bond",
        "transfer/feed=source"),
    "the bonding plug taken out behind a closed transfer": (
        floating("yes"), UNPLUGGED + BRANCHES_OFF + TRANSFER + "transfer/feed=source bonding_plug/feed=out", "moved_closed",
        "bonding_plug/feed=out"),
    "an engine at rest behind the second breaker": (
        joined(), DARK + CORD_IN + GEN_IN + ON + "feed_breaker/second=on", "driven", "feed_breaker/second=on"),
    "an engine at rest, its breaker on": (
        joined(), DARK + CORD_IN + GEN_IN + "output/generator/gen=on " + ON + "feed_breaker/second=on", "driven",
        "feed_breaker/second=on"),
    "an engine that runs, its breaker off": (
        joined(), DARK + CORD_IN + GEN_IN + "engine/gen=on " + ON + "feed_breaker/second=on", "driven",
        "feed_breaker/second=on"),
    "a station that is off, behind a running engine": (
        joined(), DARK + CORD_IN + GEN_IN + ENGINE_ON + "feed_breaker/second=on feed_breaker/feed=on", "driven",
        "feed_breaker/feed=on"),
    "the second output on, both breakers on": (
        joined(), DARK + CORD_IN + GEN_IN + "feed_breaker/feed=on feed_breaker/second=on output/station/unit=on", "driven",
        "output/station/unit=on"),
    "the blades of a second inlet": (
        joined(), DARK + CORD_IN + ON + "feed_breaker/second=on", "live_blades", "feed_breaker/second=on"),
    "a second cord, its source end out": (
        joined(), DARK + CORD_IN + "load_end/gen=in " + ON + "feed_breaker/second=on", "live_blades", "feed_breaker/second=on"),
    "a sub-panel's own station, off, behind the feeder": (
        two_panels("keep", kind="no_transfer"),
        UNPLUGGED + BRANCHES_OFF + "breaker/lamp=off load_end/barn=in source_end/barn=in " + OVER + CORD_IN + ON
        + "feed_breaker/barn=on", "driven", "feed_breaker/barn=on"),
    "a sub-panel's station that is switched off under the other": (
        two_panels("keep", kind="no_transfer"),
        UNPLUGGED + BRANCHES_OFF + "breaker/lamp=off breaker/feeder=off " + OVER + CORD_IN + ON
        + "main/barn=off load_end/barn=in source_end/barn=in feed_breaker/barn=on main/barn=on breaker/feeder=on", "driven",
        "breaker/feeder=on"),
    "a station that charges the one that feeds it": (
        around(("unit", "second", "a"), ("second", "unit", "b")),
        "load_end/a=in source_end/a=in output/station/unit=on " + CHAIN_B, "charging_circle", "output/station/second=on"),
    "from the house to a second station, and back": (
        around(("wall", "second", "a"), ("second", "unit", "b"), watts=100.0),
        FED + " " + CHAIN_B + "breaker/wall=on", "charging_circle", "breaker/wall=on"),
    "the same, the wall's breaker first": (
        around(("wall", "second", "a"), ("second", "unit", "b")),
        FED + " breaker/wall=on " + CHAIN_B, "charging_circle", "output/station/second=on"),
    "through two others": (
        around(("wall", "second", "a"), ("second", "third", "b"), ("third", "unit", "c")),
        FED + " breaker/wall=on " + CHAIN_B + "load_end/c=in source_end/c=in output/station/third=on", "charging_circle",
        "output/station/third=on"),
    "a charger that is more than the inlet's breaker carries, by its breaker": (
        around(("wall", "second", "a"), watts=1_800.0), FED.replace(LOADS, "breaker/pump=on+60 breaker/fridge=on breaker/lights=on")
        + " breaker/wall=on", "over_curve", "breaker/wall=on"),
    "a charger plugged in that is more than the source carries": (
        around(("wall", "second", "a"), watts=1_800.0), "source_end/a=out load_end/a=out " + FED
        + " breaker/wall=on load_end/a=in source_end/a=in", "over_curve",
        "source_end/a=in"),
    "a kit that takes no charge while it is on": (kit("refused"), KIT_ON + TOP, "kit_refuses", "output/station/third=on"),
    "a kit that drops its outputs when charged": (kit("drops_output"), KIT_ON + TOP, "kit_drops", "output/station/third=on"),
    "such a kit, charged before it is turned on": (
        kit("drops_output"), TOP + " " + KIT_ON, "kit_drops", "output/link/pair=on"),
    "a bonded station behind a ground-fault outlet, the house's bond kept": (
        floating(neutral="bonded", neutral_switched="no", gfci="yes"), UNPLUGGED + BRANCHES_OFF + TRANSFER + CLOSED,
        "device_between", "transfer/feed=source"),
    "an engine bonded behind its device, passed through into the house": (
        passing("bonded"), FED.replace(UNPLUGGED, "") + " " + GEN_CHARGES, "device_between", "output/generator/gen=on"),
    "the same by a handle of a switch": (
        floating(neutral="bonded", neutral_switched="no", gfci="yes", **HANDLES),
        UNPLUGGED + TO_SWITCH + "handle/feed/lights=source", "device_between", "handle/feed/lights=source"),
    "the charge on, then loads that make it too much": (
        around(("unit", "second", "a"), watts=1_800.0, rated=2_400.0),
        "load_end/a=in source_end/a=in " + FED.replace("breaker/pump=on+60 ", ""), "over_charge", "breaker/lights=on"),
    "an engine that is to charge and to carry what is passed through": (
        passing("floating", rated=1_500.0, watts=1_000.0), FED + " " + GEN_CHARGES, "over_charge",
        "output/generator/gen=on"),
    "a station that is to charge and to carry what is passed through": (
        around(("second", "unit", "a")), FED + " load_end/a=in source_end/a=in output/station/second=on",
        "over_charge", "output/station/second=on"),
    "an engine that charges two with more than it gives": (
        two_charges(1_800.0), GEN_TWO, "over_charge", "output/generator/gen=on"),
    "a car that is to charge with more than its outlet gives": (
        by_car(), "load_end/car=in source_end/car=in output/vehicle/car=on", "over_charge", "output/vehicle/car=on"),
    "a compressor back on the utility at once": (
        with_feed(), CHANGE + RETURN + "breaker/lights=on breaker/fridge=on", "compressor", "breaker/fridge=on"),
    "a compressor back on the utility by its handle": (
        with_feed(**HANDLES), UNPLUGGED + TO_SWITCH + "handle/feed/fridge=source handle/feed/fridge=off "
        "handle/feed/fridge=utility+60", "compressor", "handle/feed/fridge=utility"),
    "a compressor back on the utility by the main": (
        with_feed(), CHANGE + RETURN.replace("main/main=on", "breaker/fridge=on main/main=on"), "compressor", "main/main=on"),
    "a compressor back in the wall at once": (
        cords(), "home_plug/cord=out load_end/cord=in source_end/cord=in output/station/unit=on output/station/unit=off "
        "source_end/cord=out load_end/cord=out home_plug/cord=in", "compressor", "home_plug/cord=in"),
    "a compressor back by an appliance's switch": (
        furnace(), FURNACE_ON + " transfer/feed=off transfer/feed=utility+20", "compressor", "transfer/feed=utility"),
    "a compressor back by a sub-panel transfer": (
        standby(), UNPLUGGED + BRANCHES_OFF + "lockout/array/roof=locked lockout/generator/gen=locked " + TRANSFER + CLOSED
        + LOADS + " transfer/feed=off transfer/feed=utility", "compressor", "transfer/feed=utility"),
    "a compressor behind the feeder, back on the utility": (
        two_panels("keep"), UNPLUGGED + BRANCHES_OFF + "breaker/lamp=off " + OVER + CORD_IN + ON + LOADS + RETURN
        + "breaker/fridge=on+100", "compressor", "breaker/fridge=on"),
}  # fmt: skip

RIGHT: dict[str, tuple[Plan, str]] = {
    "a floating station with its bonding plug in, behind a transfer that parts the neutral": (
        floating("yes"), UNPLUGGED + BRANCHES_OFF + TRANSFER + CLOSED + LOADS),
    "a bonded station behind a transfer that parts the neutral": (
        floating(neutral="bonded"), UNPLUGGED + BRANCHES_OFF + TRANSFER + CLOSED + LOADS),
    "a floating station behind a transfer that leaves the neutral": (
        floating(neutral_switched="no"), UNPLUGGED + BRANCHES_OFF + TRANSFER + CLOSED + LOADS),
    "one appliance on a floating station": (
        floating(kind="appliance_switch", circuit_ids=["fridge"], inlet="5-15"), FURNACE_ON),
    "two cords on one panel, one breaker on": (joined(), DARK + CORD_IN + GEN_IN + ENGINE_ON + ON.replace("feed_breaker/feed=on", "feed_breaker/second=on").replace("output/station/unit=on ", "")),
    "a station that charges another, that charges a third": (
        around(("unit", "second", "a"), ("second", "third", "b")),
        "load_end/a=in source_end/a=in output/station/unit=on " + CHAIN_B),
    "several outlets of one station at once": (
        around(("unit", "second", "a")), "load_end/a=in source_end/a=in " + CHANGE.replace(UNPLUGGED, "")),
    "an engine that floats, passed through into the house": (
        passing("floating", watts=1_000.0), FED + " " + GEN_CHARGES),
    "an engine bonded behind its device, charging a station that is not passed through": (
        passing("bonded", passes=False), FED + " " + GEN_CHARGES),
    "two charges within what the source gives": (two_charges(1_000.0), GEN_TWO),
    "a bonded station without such a device, the house's bond kept": (
        floating(neutral="bonded", neutral_switched="no", gfci="no"), UNPLUGGED + BRANCHES_OFF + TRANSFER + CLOSED + LOADS),
    "a kit that is charged while it is off": (kit("drops_output"), TOP),
    "a kit that allows it": (kit("allowed"), KIT_ON + TOP),
    "a compressor back on the utility after its rest": (
        with_feed(), CHANGE + RETURN + "breaker/lights=on breaker/fridge=on+300"),
}  # fmt: skip


def test_there_are_enough_of_them_too() -> None:
    assert len(WRONG) >= 40
    assert {code for _, _, code, _ in WRONG.values()} >= {
        "no_bond", "device_between", "driven", "live_blades", "charging_circle", "over_charge", "over_curve",
        "kit_refuses", "kit_drops", "compressor"}  # fmt: skip


@pytest.mark.parametrize("name", WRONG)
def test_a_wrong_order_is_caught_at_its_step(name: str) -> None:
    plan, text, code, caught = WRONG[name]
    order = acts(text)
    found = replay(plan, order)
    assert (found.safe, found.code) == (False, code), found
    assert found.step
    assert f"{order[found.step - 1].what}={order[found.step - 1].to}" == caught
    assert found.why
    assert "{" not in found.why


@pytest.mark.parametrize("name", RIGHT)
def test_an_order_that_is_right_passes(name: str) -> None:
    plan, text = RIGHT[name]
    found = replay(plan, acts(text))
    assert found.safe, found


def test_how_it_stands_after_each_act_is_told_where_asked() -> None:
    order = acts(CHANGE)
    assert replay(with_feed(), order).states == []
    states = replay(with_feed(), order, states=True).states
    assert [state.step for state in states] == list(range(1, len(order) + 1))
    first, last = states[0], states[-1]
    assert "fridge" in first.utility
    assert (first.live, first.giving, first.bonds) == ({}, [], {})
    assert last.live == {"pump": "feed", "fridge": "feed", "lights": "feed"}
    assert (last.giving, last.utility) == (["station/unit"], [])
    assert last.at_s == sum(act.wait_s for act in order)
    #: Of an order that is wrong: as far as it goes.
    wrong = [*order, Move(what="main/main", to="on")]
    assert replay(with_feed(), wrong, states=True).states == states


@pytest.mark.parametrize(
    ("plan", "told"),
    [
        (floating(), []),
        (floating("yes"), ["bonding plug"]),
        (floating(neutral="bonded"), ["source"]),
        (floating(neutral="unknown"), ["unknown"]),
        (floating(neutral_switched="no"), []),
    ],
)
def test_what_ties_the_neutral(plan: Plan, told: list[str]) -> None:
    """Before the transfer is closed nothing of the house ties it."""
    assert replay(plan, acts(TRANSFER), states=True).states[-1].bonds == {"feed": told}


def test_the_house_ties_a_neutral_that_is_left() -> None:
    states = replay(
        floating(neutral_switched="no"), acts(UNPLUGGED + BRANCHES_OFF + TRANSFER + CLOSED), states=True
    )
    assert states.states[-1].bonds == {"feed": ["house"]}
