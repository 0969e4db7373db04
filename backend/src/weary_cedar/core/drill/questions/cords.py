"""Questions about cords, fuses and the battery side."""

from weary_cedar.core.drill.questions.question import Dice, Facts, NotHere, Question, choice, figure, kind
from weary_cedar.core.electrical.ampacity import cord_ampacity_a
from weary_cedar.core.electrical.conductor import ohms_per_m

M_PER_FT = 0.3048
#: Ω of 1,000 m of copper, times its mm²; at 20 °C, from memory.
COPPER = 17.2
#: Fuses that are sold. Common practice.
FUSES = (10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 125, 150, 175, 200, 250, 300, 400)
#: A fuse is so much larger than what flows. Common practice.
ABOVE = 1.25
GAUGES = (16, 14, 12, 10)


@kind("drop", "Volts that a cord loses", 3)
def drop(facts: Facts, dice: Dice) -> Question:
    """Volts lost there and back."""
    amps = float(dice.integers(6, 14))
    if facts.plan.site.units.length == "ft":
        awg, length = int(dice.choice([14, 12, 10])), float(dice.integers(2, 5) * 25)
        ohms, unit, wire = round(1000 * ohms_per_m(awg) * M_PER_FT, 2), "ft", f"AWG {awg}"
    else:
        area, length = float(dice.choice([1.5, 2.5])), float(dice.integers(2, 6) * 10)
        ohms, unit, wire = round(COPPER / area, 1), "m", f"{area:g} mm²"
    volts = 2 * length * ohms / 1000 * amps
    return figure(
        "drop",
        f"A cord of {wire} is {length:.0f} {unit} long; the wire has {ohms:g} Ω for 1,000 {unit}. "
        f"{amps:.0f} A flow. How many volts are lost?",
        "V",
        volts,
        [
            f"there and back {2 * length:.0f} {unit}: {2 * length * ohms / 1000:.3f} Ω",
            f"· {amps:.0f} A = {volts:.1f} V",
        ],
        {"length": length, "ohms": ohms, "amps": amps},
        [
            (volts / 2, "the current flows there and back"),
            (volts * amps, "these are watts, the warmth of the cord"),
            (10 * volts, "a place of the decimal was lost"),
        ],
    )


@kind("cord-heat", "How warm a cord gets", 2)
def cord_heat(facts: Facts, dice: Dice) -> Question:
    """Watts lost in a cord."""
    amps, ohms = float(dice.integers(6, 16)), round(float(dice.uniform(0.05, 0.4)), 2)
    return figure(
        "cord-heat",
        f"A cord with {ohms:g} Ω there and back carries {amps:.0f} A. How many watts warm it?",
        "W",
        amps * amps * ohms,
        [f"{amps:.0f} · {amps:.0f} · {ohms:g} = {amps * amps * ohms:.1f} W"],
        {"amps": amps, "ohms": ohms},
        [
            (amps * ohms, "these are the volts that are lost"),
            (2 * amps * amps * ohms, "there and back was counted already"),
        ],
    )


@kind("cord-size", "Which cord", 2)
def cord_size(facts: Facts, dice: Dice) -> Question:
    """The thinnest cord that carries the amps."""
    if facts.plan.site.units.wire != "awg":
        raise NotHere("cords are told in mm² here")
    amps = float(dice.integers(8, 25))
    carries = {awg: cord_ampacity_a(awg) for awg in GAUGES}
    fit = [awg for awg, most in carries.items() if most >= amps]
    if not fit or len(fit) == len(GAUGES):
        raise NotHere("every cord would do")
    right = max(fit)
    wrong = [
        (
            f"AWG {awg}",
            f"it carries {carries[awg]:.0f} A only"
            if carries[awg] < amps
            else "it would do, but a thinner one does, too",
        )
        for awg in GAUGES
        if awg != right
    ]
    return choice(
        "cord-size",
        f"{amps:.0f} A flow through a cord with two wires that carry. Which is the thinnest that bears it?",
        f"AWG {right}",
        wrong,
        ["What cords carry: " + ", ".join(f"AWG {awg} {most:.0f} A" for awg, most in carries.items())],
        dice,
        {"amps": amps},
    )


@kind("dc-amps", "Amps on the battery side", 3)
def dc_amps(facts: Facts, dice: Dice) -> Question:
    """Amps at the cells of an inverter at low volts."""
    watts, volts, eta = float(dice.integers(4, 25) * 100), float(dice.choice([12, 24, 48])), 0.9
    found = watts / (eta * volts)
    return figure(
        "dc-amps",
        f"An inverter gives {watts:,.0f} W from a battery of {volts:.0f} V and is 90 % "
        "efficient. How many amps flow on the battery side?",
        "A",
        found,
        [f"{watts:,.0f} / 0.9 = {watts / eta:,.0f} W", f"/ {volts:.0f} V = {found:.0f} A"],
        {"watts": watts, "volts": volts},
        [
            (watts / volts, "the losses come on top"),
            (watts * eta / volts, "losses make the current larger"),
            (watts / 120, "that is at the outlet"),
        ],
    )


@kind("fuse", "Which fuse", 2)
def fuse(facts: Facts, dice: Dice) -> Question:
    """The next fuse above 1.25 times what flows."""
    amps = float(dice.integers(12, 220))
    wanted = ABOVE * amps
    index = next(place for place, size in enumerate(FUSES) if size >= wanted)
    near = sorted({max(0, index - 1), index, min(len(FUSES) - 1, index + 1), min(len(FUSES) - 1, index + 3)})
    wrong = [
        (
            f"{FUSES[place]} A",
            "it would blow in daily use"
            if FUSES[place] < wanted
            else "it protects the cable less: take the next one up, no more",
        )
        for place in near
        if place != index
    ]
    return choice(
        "fuse",
        f"{amps:.0f} A flow at most between battery and inverter. Which fuse?",
        f"{FUSES[index]} A",
        wrong,
        [
            f"1.25 · {amps:.0f} = {wanted:.0f} A",
            f"the next size: {FUSES[index]} A; the cable carries at least that",
        ],
        dice,
        {"amps": amps},
    )
