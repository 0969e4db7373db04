"""Questions about amps, legs and breakers of the own panel."""

from typing import Any

from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.drill.questions.question import Dice, Facts, NotHere, Question, choice, figure, kind
from weary_cedar.core.plan import Circuit

#: What runs for three hours and more may take so much of a breaker. Common practice; 210.20(A) from memory.
CONTINUOUS = 0.8


def _circuit(facts: Facts, dice: Dice, poles: int | None = None) -> Circuit:
    found = [
        circuit
        for circuit in facts.plan.circuits.values()
        if isinstance(circuit.breaker_a, int | float) and (poles is None or len(circuit.spaces) == poles)
    ]
    if not found:
        raise NotHere("the plan has no breaker with a rating of that kind")
    return found[int(dice.integers(len(found)))]


def _load(facts: Facts, dice: Dice, least_w: float = 0.0) -> Any:
    found = [load for load in facts.plan.loads.values() if on_watts(load) >= max(1.0, least_w)]
    if not found:
        raise NotHere("no load of the plan draws so much")
    return found[int(dice.integers(len(found)))]


def _split(facts: Facts) -> None:
    if not facts.split:
        raise NotHere("the house has no two legs")


@kind("amps", "Amps of an appliance", 1)
def amps(facts: Facts, dice: Dice) -> Question:
    """Amps from watts on one leg."""
    load = _load(facts, dice)
    volts, watts = facts.leg_v, float(round(on_watts(load)))
    found = watts / volts
    return figure(
        "amps",
        f"{load.name} draws {watts:,.0f} W at {volts:.0f} V. How many amps is that, at a power "
        "factor of one?",
        "A",
        found,
        [f"{watts:,.0f} / {volts:.0f} = {found:.1f} A"],
        {"watts": watts, "volts": volts},
        [
            (watts / (2 * volts), "that is at twice the volts"),
            (watts * volts, "divide, do not multiply"),
            (10 * found, "a place of the decimal was lost"),
        ],
    )


@kind("two-poles", "Amps of a load across both legs", 1)
def two_poles(facts: Facts, dice: Dice) -> Question:
    """Amps on each leg of a two-pole load."""
    _split(facts)
    watts = float(dice.integers(6, 46) * 100)
    return figure(
        "two-poles",
        f"A heater of {watts:,.0f} W is on a breaker of two poles, at 240 V. How many amps "
        "does each leg carry?",
        "A",
        watts / 240,
        [f"{watts:,.0f} / 240 = {watts / 240:.1f} A, on both legs alike"],
        {"watts": watts},
        [
            (watts / 120, "it is across both legs: 240 V"),
            (watts / 480, "the same amps flow on both legs; they are not shared out"),
        ],
    )


@kind("breaker", "How much a breaker carries for hours", 1)
def breaker(facts: Facts, dice: Dice) -> Question:
    """Watts of a continuous load on a breaker of the panel."""
    circuit = _circuit(facts, dice, 1)
    rated, volts = float(circuit.breaker_a or 0.0), facts.leg_v
    watts = CONTINUOUS * rated * volts
    return figure(
        "breaker",
        f"The breaker of {circuit.label} is one of {rated:.0f} A at {volts:.0f} V. How many "
        "watts may run on it for hours?",
        "W",
        watts,
        [f"80 % of {rated:.0f} A are {CONTINUOUS * rated:.0f} A", f"· {volts:.0f} V = {watts:,.0f} W"],
        {"rated": rated, "volts": volts},
        [
            (rated * volts, "for three hours and more only 80 % count"),
            (rated * 2 * volts, "it has one pole"),
            (CONTINUOUS * rated, "these are amps"),
        ],
    )


@kind("inlet", "What an inlet carries", 2)
def inlet(facts: Facts, dice: Dice) -> Question:
    """VA of an inlet of the plan."""
    _, feed = facts.one("feeds", dice)
    if facts.plan.site.split_phase and not str(feed.inlet).startswith("L14"):
        raise NotHere("its inlet is not of two legs")
    volts, rated = (240.0 if facts.split else 230.0), float(feed.inlet_a)
    va = rated * volts
    return figure(
        "inlet",
        f"The inlet of {rated:.0f} A carries {volts:.0f} V"
        + (" across its legs" if facts.split else "")
        + ". How many VA may come in through it at most?",
        "VA",
        va,
        [f"{rated:.0f} · {volts:.0f} = {va:,.0f} VA" + (f": {va / 2:,.0f} a leg" if facts.split else "")],
        {"rated": rated, "volts": volts},
        [
            (va / 2, "that is one leg"),
            (CONTINUOUS * va, "that is what it carries for hours"),
            (rated * 2 * volts, "the legs are 240 V from one to the other, not 480"),
        ],
    )


@kind("leg", "On which leg a breaker is", 1)
def leg(facts: Facts, dice: Dice) -> Question:
    """The leg of a breaker by its space."""
    _split(facts)
    circuit_id = (
        list(facts.plan.circuits)[int(dice.integers(len(facts.plan.circuits)))] if facts.plan.circuits else ""
    )
    if not circuit_id:
        raise NotHere("the plan has no circuits")
    circuit = facts.plan.circuits[circuit_id]
    legs = facts.plan.circuit_legs(circuit_id)
    right = "on both" if len(legs) > 1 else f"on leg {legs[0]}"
    names = ["on leg A", "on leg B", "on both"]
    spaces = " and ".join(str(space) for space in circuit.spaces)
    wrong = [
        (
            name,
            "legs change with each row: spaces beside each other are on one leg, those below on the other"
            if name != "on both"
            else "one pole is on one leg only",
        )
        for name in names
        if name != right
    ]
    return choice(
        "leg",
        f"{circuit.label} is in space {spaces}. On which leg of the panel is it?",
        right,
        wrong,
        [
            "Rows from the top change from one leg to the other; a breaker of two poles is on both",
            f"{circuit.label}: {right}",
        ],
        dice,
        {"space": float(circuit.spaces[0]), "poles": float(len(circuit.spaces))},
    )


@kind("imbalance", "What the neutral carries", 2)
def imbalance(facts: Facts, dice: Dice) -> Question:
    """Amps of the neutral from two legs."""
    _split(facts)
    a, b = float(dice.integers(4, 24) * 50), float(dice.integers(4, 24) * 50)
    if abs(a - b) < 100:
        b += 250.0
    found = abs(a - b) / 120
    return figure(
        "imbalance",
        f"Leg A carries {a:,.0f} W and leg B {b:,.0f} W, all at 120 V and a power factor of "
        "one. How many amps flow in the neutral?",
        "A",
        found,
        [f"{a / 120:.1f} A and {b / 120:.1f} A", f"the difference: {found:.1f} A"],
        {"a": a, "b": b},
        [
            ((a + b) / 120, "in the neutral the legs take away from each other"),
            (abs(a - b) / 240, "loads of one leg are at 120 V"),
            (abs(a - b), "that is the imbalance in watts"),
        ],
    )


@kind("room", "What a leg has left", 2)
def room(facts: Facts, dice: Dice) -> Question:
    """VA left on the leg of a station."""
    _, station = facts.one("stations", dice)
    limit = float(round(station.leg_limit_va))
    carried = float(round(limit * dice.uniform(0.3, 0.85) / 10) * 10)
    legs = station.output == "120/240"
    return figure(
        "room",
        f"{'One leg of ' if legs else ''}{station.name} carries {limit:,.0f} VA; on it run {carried:,.0f} "
        "VA. " + "How much more may be switched on there?",
        "VA",
        limit - carried,
        [f"{limit:,.0f} - {carried:,.0f} = {limit - carried:,.0f} VA"],
        {"limit": limit, "carried": carried},
        [
            (2 * limit - carried, "each leg has its own limit: what the other has left does not help"),
            (CONTINUOUS * limit - carried, "the 80 % are a rule for breakers, not for what a station gives"),
        ],
    )


@kind("start", "May it start now?", 3)
def start(facts: Facts, dice: Dice) -> Question:
    """Whether a start fits beside what runs, with the rating of a leg."""
    starting = [load for load in facts.plan.loads.values() if load.start is not None]
    if not starting or not facts.plan.stations:
        raise NotHere("no load of the plan has a start of its own")
    load = starting[int(dice.integers(len(starting)))]
    assert load.start is not None
    _, station = facts.one("stations", dice)
    limit, start_va = float(round(station.leg_limit_va)), float(round(load.start.va))
    carried = float(round(limit * dice.uniform(0.2, 0.9) / 10) * 10)
    return figure(
        "start",
        f"{load.name} takes {start_va:,.0f} VA while it starts; beside it {carried:,.0f} VA run "
        f"on the same leg. The leg gives {limit:,.0f} VA. "
        "How many VA are drawn at that moment?",
        "VA",
        start_va + carried,
        [
            f"{start_va:,.0f} + {carried:,.0f} = {start_va + carried:,.0f} VA",
            f"against {limit:,.0f} VA: "
            + (
                "it starts"
                if start_va + carried <= limit
                else "over its rating: it starts only if the station bears that long enough"
            ),
        ],
        {"start": start_va, "carried": carried},
        [
            (start_va, "what runs beside it counts, too"),
            (on_watts(load) + carried, "a motor takes more to start than to run"),
            (limit - carried, "that is the room there is"),
        ],
    )


@kind("first-on", "Which breaker first", 3)
def first_on(facts: Facts, dice: Dice) -> Question:
    """The load with the largest start over its running, first."""
    loads = [
        load
        for load in facts.plan.loads.values()
        if load.start is not None and load.start.va > on_watts(load)
    ]
    if len(loads) < 2:
        raise NotHere("fewer than two loads have a start of their own")
    order = [loads[int(place)] for place in dice.permutation(len(loads))][:3]
    over = sorted(order, key=lambda load: on_watts(load) - (load.start.va if load.start else 0.0))
    gaps = [round((load.start.va if load.start else 0.0) - on_watts(load)) for load in over]
    if gaps[0] - gaps[1] < 50:
        raise NotHere("their starts are alike")
    told = "; ".join(
        f"{load.name} starts with {load.start.va:,.0f} VA and runs with {on_watts(load):,.0f} W"
        for load in order
        if load.start
    )
    return choice(
        "first-on",
        f"{told}. They come back one after the other and all stay on. Which first, so that the "
        "limit is least in the way?",
        over[0].name,
        [
            (
                load.name,
                "its start exceeds its running by less: what starts high goes first, while little runs",
            )
            for load in over[1:]
        ],
        [
            "By how much the start exceeds running: "
            + ", ".join(f"{load.name} {gap:,.0f}" for load, gap in zip(over, gaps, strict=True)),
            "the largest first",
        ],
        dice,
    )


@kind("dryer", "Watts into a circuit of the house", 2)
def dryer(facts: Facts, dice: Dice) -> Question:
    """Watts that a two-pole circuit of the panel could draw."""
    _split(facts)
    circuit = _circuit(facts, dice, 2)
    rated = float(circuit.breaker_a or 0.0)
    return figure(
        "dryer",
        f"{circuit.label} is on a breaker of {rated:.0f} A with two poles. How many watts could "
        "flow there at most?",
        "W",
        rated * 240,
        [f"{rated:.0f} · 240 = {rated * 240:,.0f} W"],
        {"rated": rated},
        [
            (rated * 120, "two poles are 240 V"),
            (CONTINUOUS * rated * 240, "that is what may run for hours"),
            (rated * 480, "the legs are 240 V from one to the other"),
        ],
    )
