"""Questions about what is stored: how long, how much is left, what takes it."""

from weary_cedar.core.drill.questions.question import Dice, Facts, NotHere, Question, figure, kind
from weary_cedar.core.plan import Cycling, Job, Station
from weary_cedar.core.supply.station_energy import delivered_wh, runtime_h

#: Hours of a night.
NIGHT_H = 9.0


def _wh(station: Station) -> float:
    return float(round(station.total_cell_wh))


@kind("night", "Enough for the night?", 2)
def night(facts: Facts, dice: Dice) -> Question:
    """Per cent left in the morning."""
    _, station = facts.one("stations", dice)
    wh, eta, idle = _wh(station), station.inverter_efficiency, round(station.idle_draw_w)
    watts = float(round(wh * dice.uniform(0.02, 0.05) / 10) * 10)
    percent = float(dice.integers(70, 96))
    used = (watts / eta + idle) * NIGHT_H
    left = percent - 100 * used / wh
    return figure(
        "night",
        f"At bedtime {station.name} ({wh:,.0f} Wh at the cells, {100 * eta:.0f} % efficient, {idle} W of "
        "its own) shows "
        f"{percent:.0f} %. The night draws {watts:.0f} W on average for {NIGHT_H:.0f} hours. What does it "
        "show in the "
        "morning?",
        "%",
        max(0.0, left),
        [
            f"At the cells {watts:.0f} / {eta:g} + {idle} = {watts / eta + idle:.0f} W",
            f"In {NIGHT_H:.0f} h {used:,.0f} Wh: {100 * used / wh:.0f} % of {wh:,.0f} Wh",
            f"{percent:.0f} - {100 * used / wh:.0f} = {left:.0f} %",
        ],
        {"wh": wh, "eta": eta, "idle": idle, "watts": watts, "percent": percent, "hours": NIGHT_H},
        [
            (
                percent - 100 * watts * NIGHT_H / wh,
                "neither the inverter’s losses nor its own draw were counted",
            ),
            (percent - 100 * watts / eta * NIGHT_H / wh, "what the station draws for itself was left out"),
            (percent * (1 - used / wh), "per cents were taken of what was left, not of all that it holds"),
        ],
    )


@kind("two-readings", "Hours left from two readings", 2)
def two_readings(facts: Facts, dice: Dice) -> Question:
    """Hours until the cut-off by two charges."""
    _, station = facts.one("stations", dice)
    cut = float(round(station.cutoff_percent))
    first = float(dice.integers(60, 90))
    fell, hours = float(dice.integers(6, 16)), float(dice.integers(2, 6))
    second = first - fell
    left = (second - cut) * hours / fell
    slips = [
        ((first - cut) * hours / fell, "it was counted from the first reading, not from now"),
        (second * fell / hours, "it was multiplied where it is divided"),
    ]
    if cut:
        slips.insert(
            0, (second * hours / fell, f"it was counted down to 0 %, but its output goes off at {cut:.0f} %")
        )
    return figure(
        "two-readings",
        f"{station.name} showed {first:.0f} %, and {hours:.0f} hours later {second:.0f} %. "
        + (f"Its output goes off at {cut:.0f} %. " if cut else "")
        + "If it goes on like this, how many hours are left?",
        "h",
        left,
        [
            f"{fell:.0f} % in {hours:.0f} h are {fell / hours:.1f} % an hour",
            f"{second:.0f} - {cut:.0f} = {second - cut:.0f} % may still go",
            f"{second - cut:.0f} / {fell / hours:.1f} = {left:.1f} h",
        ],
        {"first": first, "second": second, "hours": hours, "cut": cut},
        slips,
    )


@kind("runtime", "How long it carries a load", 1)
def runtime(facts: Facts, dice: Dice) -> Question:
    """Hours of a steady load from full."""
    _, station = facts.one("stations", dice)
    wh, eta, idle = _wh(station), station.inverter_efficiency, round(station.idle_draw_w)
    watts = float(round(wh * dice.uniform(0.02, 0.2) / 10) * 10)
    hours = runtime_h(wh, watts, eta, idle)
    return figure(
        "runtime",
        f"How many hours does {station.name}, full with {wh:,.0f} Wh at its cells, carry {watts:.0f} W? It "
        "is "
        f"{100 * eta:.0f} % efficient and draws {idle} W for itself.",
        "h",
        hours,
        [
            f"At the cells {watts:.0f} / {eta:g} + {idle} = {watts / eta + idle:.0f} W",
            f"{wh:,.0f} / {watts / eta + idle:.0f} = {hours:.1f} h",
        ],
        {"wh": wh, "eta": eta, "idle": idle, "watts": watts},
        [
            (wh / watts, "losses and its own draw were left out"),
            (wh * eta / watts, "its own draw was left out"),
            (wh / (watts * eta + idle), "the losses make the draw larger, not smaller"),
        ],
    )


@kind("delivered", "What arrives at the outlets", 2)
def delivered(facts: Facts, dice: Dice) -> Question:
    """Wh at the outlets from full."""
    _, station = facts.one("stations", dice)
    wh, eta, idle = _wh(station), station.inverter_efficiency, round(station.idle_draw_w)
    watts = float(round(dice.uniform(40, 400) / 10) * 10)
    got = delivered_wh(wh, watts, eta, idle)
    return figure(
        "delivered",
        f"{station.name} holds {wh:,.0f} Wh. How much of it arrives at the outlets if {watts:.0f} W are "
        "drawn until it is "
        f"empty ({100 * eta:.0f} % efficient, {idle} W of its own)?",
        "Wh",
        got,
        [
            f"{watts:.0f} W take {watts / eta + idle:.0f} W from the cells",
            f"{wh:,.0f} · {watts:.0f} / {watts / eta + idle:.0f} = {got:,.0f} Wh",
        ],
        {"wh": wh, "eta": eta, "idle": idle, "watts": watts},
        [
            (wh, "what its cells hold is not what arrives"),
            (wh * eta, "its own draw was left out: at small loads it counts"),
        ],
    )


@kind("mean-draw", "Mean watts from a charge that fell", 1)
def mean_draw(facts: Facts, dice: Dice) -> Question:
    """Watts at the cells from per cents and hours."""
    _, station = facts.one("stations", dice)
    wh = _wh(station)
    fell, hours = float(dice.integers(8, 40)), float(dice.integers(4, 13))
    watts = fell / 100 * wh / hours
    return figure(
        "mean-draw",
        f"{station.name} ({wh:,.0f} Wh) fell by {fell:.0f} % in {hours:.0f} hours. How many watts left its "
        "cells on average?",
        "W",
        watts,
        [
            f"{fell:.0f} % of {wh:,.0f} Wh are {fell / 100 * wh:,.0f} Wh",
            f"{fell / 100 * wh:,.0f} / {hours:.0f} = {watts:.0f} W",
        ],
        {"wh": wh, "fell": fell, "hours": hours},
        [
            (fell / 100 * wh, "these are watt-hours: divide by the hours"),
            (fell / 100 * wh * hours, "it was multiplied by the hours"),
            (10 * watts, "a place of the decimal was lost"),
        ],
    )


@kind("which-pack", "Per cents of head unit and packs", 3)
def which_pack(facts: Facts, dice: Dice) -> Question:
    """Stored energy from the charges of a head unit and its packs."""
    with_packs = [s for s in facts.plan.stations.values() if s.packs]
    if not with_packs:
        raise NotHere("no station has packs of its own")
    station = with_packs[int(dice.integers(len(with_packs)))]
    head_wh, packs_wh = float(round(station.head_wh)), float(round(station.packs_wh))
    head, pack = float(dice.integers(30, 60)), float(dice.integers(61, 95))
    stored = (head_wh * head + packs_wh * pack) / 100
    return figure(
        "which-pack",
        f"The head unit of {station.name} ({head_wh:,.0f} Wh) shows {head:.0f} %, its packs "
        f"({packs_wh:,.0f} Wh together) "
        f"{pack:.0f} %. How much is stored?",
        "Wh",
        stored,
        [
            f"{head_wh:,.0f} · {head / 100:g} = {head_wh * head / 100:,.0f} Wh",
            f"{packs_wh:,.0f} · {pack / 100:g} = {packs_wh * pack / 100:,.0f} Wh",
            f"together {stored:,.0f} Wh",
        ],
        {"head_wh": head_wh, "packs_wh": packs_wh, "head": head, "pack": pack},
        [
            ((head_wh + packs_wh) * head / 100, "the head unit’s per cents were taken for all"),
            ((head_wh + packs_wh) * pack / 100, "the packs’ per cents were taken for all"),
            (
                (head_wh + packs_wh) * (head + pack) / 200,
                "the mean of both was taken, though they hold unlike amounts",
            ),
            ((head_wh + packs_wh) * (head + pack) / 100, "you used the sum of both packs"),
        ],
    )


@kind("idle-day", "What the station draws for itself", 1)
def idle_day(facts: Facts, dice: Dice) -> Question:
    """Per cent a day of the idle draw."""
    _, station = facts.one("stations", dice)
    wh, idle = _wh(station), float(round(station.idle_draw_w))
    if idle < 1:
        raise NotHere("no station draws anything for itself")
    percent = 100 * idle * 24 / wh
    return figure(
        "idle-day",
        f"{station.name} draws {idle:.0f} W for itself while its output is on, and holds {wh:,.0f} Wh. How "
        "many per cent does "
        "that take in a day?",
        "%",
        percent,
        [f"{idle:.0f} · 24 = {idle * 24:,.0f} Wh", f"{idle * 24:,.0f} / {wh:,.0f} = {percent:.1f} %"],
        {"wh": wh, "idle": idle},
        [(100 * idle / wh, "that is one hour"), (100 * idle * 12 / wh, "that is half a day")],
    )


@kind("job", "What one use of an appliance takes", 1)
def job(facts: Facts, dice: Dice) -> Question:
    """Wh of a short use."""
    jobs = [load for load in facts.plan.loads.values() if isinstance(load.behaviour, Job)]
    if not jobs:
        raise NotHere("no load of the plan is used for a time only")
    load = jobs[int(dice.integers(len(jobs)))]
    assert isinstance(load.behaviour, Job)
    watts = float(round(max(step.watts for step in load.behaviour.steps)))
    minutes = float(dice.integers(2, 12) * 5)
    wh = watts * minutes / 60
    return figure(
        "job",
        f"{load.name} draws {watts:,.0f} W for {minutes:.0f} minutes. How much energy is that at the outlet?",
        "Wh",
        wh,
        [f"{watts:,.0f} · {minutes:.0f} / 60 = {wh:,.0f} Wh"],
        {"watts": watts, "minutes": minutes},
        [
            (watts * minutes, "minutes are to be divided by 60"),
            (watts, "that would be a whole hour"),
            (wh / 1000, "that is in kWh"),
        ],
    )


@kind("job-percent", "What one use takes of the battery", 2)
def job_percent(facts: Facts, dice: Dice) -> Question:
    """Per cent of the cells for a short use."""
    _, station = facts.one("stations", dice)
    wh, eta = _wh(station), station.inverter_efficiency
    watts, minutes = float(dice.integers(8, 19) * 100), float(dice.integers(2, 13) * 5)
    percent = 100 * watts * minutes / 60 / eta / wh
    return figure(
        "job-percent",
        f"A heater of {watts:,.0f} W runs for {minutes:.0f} minutes on {station.name} ({wh:,.0f} Wh, "
        f"{100 * eta:.0f} % efficient). "
        "How many per cent of its charge is that, its own draw aside?",
        "%",
        percent,
        [
            f"{watts:,.0f} · {minutes:.0f} / 60 = {watts * minutes / 60:,.0f} Wh at the outlet",
            f"/ {eta:g} = {watts * minutes / 60 / eta:,.0f} Wh at the cells",
            f"/ {wh:,.0f} = {percent:.1f} %",
        ],
        {"wh": wh, "eta": eta, "watts": watts, "minutes": minutes},
        [
            (100 * watts * minutes / 60 / wh, "the losses were left out"),
            (100 * watts / eta / wh, "that would be a whole hour"),
            (100 * watts * minutes / 60 * eta / wh, "losses make it more, not less"),
        ],
    )


@kind("fridge-day", "What a refrigerator takes in a day", 2)
def fridge_day(facts: Facts, dice: Dice) -> Question:
    """Wh a day of a cycling load."""
    cycling = [load for load in facts.plan.loads.values() if isinstance(load.behaviour, Cycling)]
    if not cycling:
        raise NotHere("no load of the plan switches itself on and off")
    load = cycling[int(dice.integers(len(cycling)))]
    assert isinstance(load.behaviour, Cycling)
    watts, percent = float(round(load.behaviour.on_w)), float(dice.integers(20, 56))
    wh = watts * 24 * percent / 100
    return figure(
        "fridge-day",
        f"{load.name} draws {watts:.0f} W while it runs, and runs {percent:.0f} % of the time. How much "
        "does it take in a day?",
        "Wh",
        wh,
        [
            f"{watts:.0f} · {percent / 100:g} = {watts * percent / 100:.0f} W on average",
            f"· 24 h = {wh:,.0f} Wh",
        ],
        {"watts": watts, "percent": percent},
        [
            (watts * 24, "it does not run all the time"),
            (watts * percent / 100, "that is its mean in watts"),
            (0.0, "you read its watts while it stood still"),
        ],
    )


@kind("charge-time", "How long charging takes", 2)
def charge_time(facts: Facts, dice: Dice) -> Question:
    """Hours to charge from the wall, without the slow end."""
    _, station = facts.one("stations", dice)
    if not station.ac_inputs:
        raise NotHere("no station takes charge from AC")
    wh, eta = _wh(station), station.charge_efficiency
    watts = float(dice.integers(4, 16) * 100)
    percent = float(dice.integers(15, 60))
    hours = (80 - percent) / 100 * wh / (watts * eta)
    return figure(
        "charge-time",
        f"{station.name} ({wh:,.0f} Wh) stands at {percent:.0f} % and takes {watts:.0f} W from the wall, "
        f"of which {100 * eta:.0f} % "
        "reach its cells. How many hours to 80 %?",
        "h",
        hours,
        [
            f"{80 - percent:.0f} % of {wh:,.0f} Wh are {(80 - percent) / 100 * wh:,.0f} Wh",
            f"{watts:.0f} · {eta:g} = {watts * eta:.0f} W at the cells",
            f"{(80 - percent) / 100 * wh:,.0f} / {watts * eta:.0f} = {hours:.1f} h",
        ],
        {"wh": wh, "eta": eta, "watts": watts, "percent": percent},
        [
            ((80 - percent) / 100 * wh / watts, "charging has losses, too"),
            ((100 - percent) / 100 * wh / (watts * eta), "that is to full, and the last part goes slower"),
            (80 / 100 * wh / (watts * eta), "it is not empty"),
        ],
    )
