"""Questions of judgement: what a sight or a reading means, and what comes first."""

from weary_cedar.core.drill.questions.question import Dice, Facts, NotHere, Question, choice, figure, kind
from weary_cedar.core.plan import Refrigerating
from weary_cedar.core.runbook.house import COMPRESSOR_S

OUT = "Everyone out, then call; nothing is switched inside"


@kind("carbon-monoxide", "The alarm sounds", 1)
def carbon_monoxide(facts: Facts, dice: Dice) -> Question:
    """A carbon-monoxide alarm with an engine at the house."""
    if not facts.plan.generators and not facts.plan.vehicles:
        raise NotHere("nothing in the plan burns fuel")
    return choice(
        "carbon-monoxide",
        "The carbon-monoxide alarm sounds while the engine runs. What first?",
        OUT,
        [
            (
                "Open the windows and go on",
                "nobody stays in: it has no smell and takes one’s judgement first",
            ),
            ("Silence it: it is old", "an alarm is believed until someone with a meter says otherwise"),
            ("Stop the engine through the house", "it is stopped only where it can be reached in fresh air"),
        ],
        ["Out, all of them; call from outside; the engine only if it is reached in fresh air"],
        dice,
    )


@kind("smoke", "Smoke or a hot smell", 1)
def smoke(facts: Facts, dice: Dice) -> Question:
    """Smoke at a station or the panel."""
    if not facts.plan.stations:
        raise NotHere("the plan has no station")
    return choice(
        "smoke",
        "A station smells sharp and is too hot to touch. What first?",
        OUT,
        [
            ("Pull its plug", "nothing is unplugged near a battery that heats up: out first"),
            ("Carry it outside", "nobody carries a battery that may burn in the next minute"),
            ("Turn its output off and wait", "heat in cells goes on without any load"),
        ],
        ["A hot battery can burn within a minute and its smoke is poison: out, call, tell them what it is"],
        dice,
    )


@kind("uneven", "Volts apart under load", 2)
def uneven(facts: Facts, dice: Dice) -> Question:
    """Two legs that are far apart."""
    if not facts.split:
        raise NotHere("the house has no two legs")
    a = float(dice.integers(128, 160))
    b = 240 - a
    return choice(
        "uneven",
        f"With two lamps on, leg A reads {a:.0f} V and leg B {b:.0f} V. What is it, and what do you do?",
        "The neutral is open: output off now",
        [
            (
                "The legs are unbalanced: move a load over",
                "legs that are loaded unlike differ by a volt or two, not by tens",
            ),
            ("The meter is wrong: go on and watch", "what is on the high leg burns meanwhile"),
            ("A leg is dead: look at its breaker", "a dead leg reads near nothing, not half"),
        ],
        [f"{a:.0f} + {b:.0f} = 240: both legs are there, what ties them to the middle is not"],
        dice,
        {"a": a, "b": b},
    )


@kind("dead-leg", "Nothing on one leg", 2)
def dead_leg(facts: Facts, dice: Dice) -> Question:
    """One leg without volts."""
    if not facts.split:
        raise NotHere("the house has no two legs")
    return choice(
        "dead-leg",
        "Leg A reads 121 V, leg B 2 V, and an appliance of two poles hums. What is it?",
        "One leg does not arrive: two poles off, then cord, inlet and breaker are looked at",
        [
            ("The neutral is open", "then both legs read something, together 240 V"),
            ("That is normal with little load", "both legs have their volts without any load"),
            ("The station is empty", "then both legs are off"),
        ],
        ["121 and 2: one hot wire is missing. What needs both legs is turned off, or its motor burns"],
        dice,
    )


@kind("open-ground", "The tester says “open ground”", 3)
def open_ground(facts: Facts, dice: Dice) -> Question:
    """A tester on a source whose neutral floats."""
    floats = [
        h
        for h in facts.plan.hookups.values()
        if h.source_kind == "station" and facts.plan.stations[h.source_id].neutral == "floating"
    ]
    if not floats:
        raise NotHere("no station of the plan has a floating neutral")
    station = facts.plan.stations[floats[0].source_id]
    return choice(
        "open-ground",
        f"At an outlet of {station.name} itself, nothing else plugged in, a tester says "
        "“open ground”. What does it mean there?",
        "Its neutral floats: the tester cannot tell more, and that is as its plate says",
        [
            (
                "The outlet is wired wrongly: stop",
                "such a tester looks for a bond that a floating source has not",
            ),
            (
                "Put a bonding plug in",
                "whether a bond belongs there, and only one, is what the plan’s neutral "
                "says: never as a cure for a tester’s lamp",
            ),
            ("Nothing is live", "it is live all the same"),
        ],
        ["A tester’s lamp goes by neutral to ground; with a floating neutral it has nothing to go by"],
        dice,
    )


@kind("tripped-again", "It trips a second time", 1)
def tripped_again(facts: Facts, dice: Dice) -> Question:
    """How often a trip is reset."""
    if not facts.plan.stations:
        raise NotHere("the plan has no station")
    return choice(
        "tripped-again",
        "The output tripped, was reset with everything off, and tripped again as one "
        "circuit came on. What now?",
        "That circuit stays off; the others one at a time",
        [
            ("Reset it a third time", "never a third reset: what trips twice stays off"),
            ("All others on first, then that one", "then all go dark with it"),
            ("A larger fuse, or another outlet", "what trips protects: it is not got round"),
        ],
        ["What trips twice stays off until someone has found out why"],
        dice,
    )


@kind("compressor-wait", "Before a compressor comes back", 1)
def compressor_wait(facts: Facts, dice: Dice) -> Question:
    """Minutes before a compressor is switched on again."""
    cold = [load for load in facts.plan.loads.values() if load.compressor]
    if not cold:
        raise NotHere("no load of the plan has a compressor")
    load = cold[int(dice.integers(len(cold)))]
    gone = float(dice.integers(20, 200))
    left = COMPRESSOR_S - gone
    return figure(
        "compressor-wait",
        f"{load.name} lost its power {gone:.0f} seconds ago. How many seconds do you "
        "still wait before its breaker goes on?",
        "s",
        left,
        [f"five minutes are {COMPRESSOR_S:.0f} s", f"{COMPRESSOR_S:.0f} - {gone:.0f} = {left:.0f} s"],
        {"gone": gone},
        [
            (0.0, "it would start against its pressure"),
            (COMPRESSOR_S, "it has been off for a while already"),
            (180 - gone, "three minutes are too short for some"),
        ],
    )


@kind("food", "Keep it, or throw it away", 2)
def food(facts: Facts, dice: Dice) -> Question:
    """Food over the limit for some hours."""
    kept = [
        load
        for load in facts.plan.loads.values()
        if load.role == "food" or isinstance(load.behaviour, Refrigerating)
    ]
    if not kept:
        raise NotHere("no load of the plan keeps food")
    load, hours = kept[int(dice.integers(len(kept)))], float(dice.integers(3, 7))
    warm = facts.plan.site.units.told_warmth(9.0)
    return choice(
        "food",
        f"A thermometer in {load.name} has read {warm} for {hours:.0f} hours. What of meat and milk in it?",
        "Thrown away",
        [
            ("Eaten today", "over 40 °F for two hours it is thrown away, cooked or not"),
            ("Cooled again", "cold does not undo what has grown"),
            ("Smelled at first", "what makes ill has no smell"),
        ],
        ["Over 40 °F (4.4 °C) for two hours: food agencies say throw it away"],
        dice,
        {"hours": hours},
    )


@kind("first-act", "What comes first at the panel", 2)
def first_act(facts: Facts, dice: Dice) -> Question:
    """The first handle of a change-over by an interlock."""
    feeds = [feed for feed in facts.plan.feeds.values() if feed.kind == "interlock_inlet"]
    if not feeds:
        raise NotHere("the plan has no interlock")
    return choice(
        "first-act",
        "The power is out and you change over by the interlock. Which handles first?",
        "The branch breakers, all off",
        [
            (
                "The main",
                "the branches first: nothing is switched under load, and no surge meets them when "
                "the utility is back",
            ),
            ("The feed breaker", "the interlock holds it, and behind it the cord is not in yet"),
            ("The station’s output", "its blades would be live before the cord is in"),
        ],
        [
            "Branches off, main off, interlock over; then cord, output, feed breaker; then branches one at a "
            "time"
        ],
        dice,
    )


@kind("cord-end", "Which end of the cord first", 1)
def cord_end(facts: Facts, dice: Dice) -> Question:
    """The order of plugging in."""
    if not facts.plan.feeds:
        raise NotHere("the plan has no inlet")
    return choice(
        "cord-end",
        "Both ends of the cord are out. In which order is it plugged in?",
        "At the inlet first, then at the source; its output is off",
        [
            ("At the source first", "then the blades at the other end could be live in the hand"),
            (
                "Either: the output is off",
                "an output that is off can come on; the far end goes first all the same",
            ),
            ("Output on, then both", "connectors never make or break load"),
        ],
        [
            "Far end first when connecting, source’s end first when disconnecting: the cord is dead in the "
            "hand"
        ],
        dice,
    )


@kind("cold-cells", "Charging in the cold", 2)
def cold_cells(facts: Facts, dice: Dice) -> Question:
    """Whether cells may be charged at a temperature."""
    _, station = facts.one("stations", dice)
    if station.self_heated or station.coldest_charge_c is None or isinstance(station.coldest_charge_c, str):
        raise NotHere("how cold its cells may be is not said, or they warm themselves")
    limit = float(station.coldest_charge_c)
    colder = bool(dice.integers(2))
    cells = limit - float(dice.integers(3, 9)) if colder else limit + float(dice.integers(3, 9))
    told = facts.plan.site.units.told_warmth
    right = "No: they are too cold; warm the room first" if colder else "Yes"
    wrong = (
        [
            ("Yes, slowly", "below its limit a cell takes damage that nobody sees, slowly too"),
            ("Yes: it draws current, so it warms up", "not before it is damaged"),
        ]
        if colder
        else [("No: never in winter", "it is the cells that count, and these are warm enough")]
    )
    return choice(
        "cold-cells",
        f"The cells of {station.name} are at {told(cells)}; they take charge from "
        f"{told(limit)} on. May they be charged?",
        right,
        wrong,
        [f"{told(cells)} against {told(limit)}"],
        dice,
        {"cells": cells, "limit": limit},
    )


@kind("display", "Believe the display?", 2)
def display(facts: Facts, dice: Dice) -> Question:
    """A display that shows hours while something is about to run."""
    _, station = facts.one("stations", dice)
    hours = float(dice.integers(20, 99))
    return choice(
        "display",
        f"In the evening {station.name} shows {hours:.0f} h left. Is that until when it lasts?",
        "No: it goes by what is drawn just now; reckon with what is stored and the night’s mean",
        [
            ("Yes: it measures", "it smooths the last minutes and knows of no furnace, pump or morning"),
            ("Half of it, to be safe", "half of a wrong figure is no better: reckon with Wh and watts"),
            ("Yes, if it is above 80 %", "the charge is not the question, the draw to come is"),
        ],
        ["Stored energy down to its cut-off, divided by the mean draw of the night with losses"],
        dice,
        {"hours": hours},
    )
