"""Questions about engines, fuel, modules and the sun."""

from weary_cedar.core.drill.questions.question import Dice, Facts, NotHere, Question, choice, figure, kind
from weary_cedar.core.electrical.pv_string import coldest_string_v
from weary_cedar.core.supply.fuel import burned_l, flow

#: Gallons are told as 3.785 L.
L_PER_GAL = 3.785411784
FUELS = {
    "petrol": "petrol (gasoline)",
    "diesel": "diesel",
    "propane": "propane",
    "natural_gas": "gas from the street",
}


def _engine(facts: Facts, dice: Dice) -> tuple[str, float, float, float]:
    """Name, L/h without load, L/kWh, and rated watts of an engine whose fuel flow is known."""
    _, engine = facts.one("generators", dice)
    found = flow(engine)
    if found is None:
        raise NotHere("what its engine burns is not known")
    return engine.name, round(found[0], 3), round(found[1], 3), float(engine.rated_w)


@kind("litres", "Fuel for some hours", 2)
def litres(facts: Facts, dice: Dice) -> Question:
    """Litres burned at a load."""
    name, idle, per_kwh, rated = _engine(facts, dice)
    watts, hours = float(round(rated * dice.uniform(0.25, 0.8) / 100) * 100), float(dice.integers(2, 7))
    burned = burned_l(idle, per_kwh, watts, hours)
    return figure(
        "litres",
        f"{name} burns {idle:g} L an hour without load and {per_kwh:g} L for each kWh besides. "
        f"It gives {watts:,.0f} W for {hours:.0f} hours. "
        "How many litres is that?",
        "L",
        burned,
        [
            f"{idle:g} · {hours:.0f} = {idle * hours:.2f} L",
            f"{per_kwh:g} · {watts * hours / 1000:g} kWh = {per_kwh * watts * hours / 1000:.2f} L",
            f"together {burned:.1f} L",
        ],
        {"idle": idle, "per_kwh": per_kwh, "watts": watts, "hours": hours},
        [
            (per_kwh * watts * hours / 1000, "it burns without load, too"),
            (burned / hours, "that is one hour"),
            (burned / L_PER_GAL, "these are gallons"),
        ],
    )


@kind("fuel-lasts", "How long the fuel lasts", 2)
def fuel_lasts(facts: Facts, dice: Dice) -> Question:
    """Days of some hours each from litres on hand."""
    name, idle, per_kwh, rated = _engine(facts, dice)
    watts, hours = float(round(rated * 0.6 / 100) * 100), float(dice.integers(2, 6))
    on_hand = float(dice.integers(8, 60))
    day = burned_l(idle, per_kwh, watts, hours)
    return figure(
        "fuel-lasts",
        f"{name} runs {hours:.0f} hours a day at {watts:,.0f} W and then burns {day:.2f} L a "
        f"day. {on_hand:.0f} L are in the house. "
        "For how many days is that enough?",
        "days",
        on_hand / day,
        [f"{on_hand:.0f} / {day:.2f} = {on_hand / day:.1f} days"],
        {"on_hand": on_hand, "day": round(day, 2)},
        [
            (on_hand * day, "divide, do not multiply"),
            (on_hand / day * hours, "these are hours"),
            (on_hand / (day / hours * 24), "it does not run day and night"),
        ],
    )


@kind("gallons", "Gallons and litres", 1)
def gallons(facts: Facts, dice: Dice) -> Question:
    """Litres of some gallons."""
    if not facts.plan.generators:
        raise NotHere("the plan has no engine")
    gal = float(dice.integers(2, 16))
    return figure(
        "gallons",
        f"A can holds {gal:.0f} gallons. How many litres is that?",
        "L",
        gal * L_PER_GAL,
        [f"{gal:.0f} · 3.785 = {gal * L_PER_GAL:.1f} L"],
        {"gal": gal},
        [(gal / L_PER_GAL, "a litre is less than a gallon"), (gal * 4.546, "that is the imperial gallon")],
    )


@kind("which-fuel", "Which fuel goes in", 1)
def which_fuel(facts: Facts, dice: Dice) -> Question:
    """The fuel of the own engine."""
    _, engine = facts.one("generators", dice)
    right = FUELS.get(engine.fuel)
    if right is None or engine.second_fuel is not None:
        raise NotHere("its engine burns more than one fuel")
    wrong = [(words, "this engine is not made for it") for words in FUELS.values() if words != right]
    return choice(
        "which-fuel",
        f"What does {engine.name} burn?",
        right,
        wrong,
        [f"Its plate: {right}. Refuel it cold, outdoors"],
        dice,
    )


@kind("load-share", "Is the engine loaded well?", 2)
def load_share(facts: Facts, dice: Dice) -> Question:
    """Share of its rating that an engine carries."""
    _, engine = facts.one("generators", dice)
    rated, watts = float(engine.rated_w), float(round(engine.rated_w * dice.uniform(0.1, 0.9) / 50) * 50)
    share = 100 * watts / rated
    return figure(
        "load-share",
        f"{engine.name} is rated {rated:,.0f} W and gives {watts:,.0f} W. What share of its rating is that?",
        "%",
        share,
        [f"{watts:,.0f} / {rated:,.0f} = {share:.0f} %"],
        {"rated": rated, "watts": watts},
        [(100 * rated / watts, "it is the other way round"), (100 - share, "that is what it has left")],
    )


@kind("cold-string", "A string in the cold", 3)
def cold_string(facts: Facts, dice: Dice) -> Question:
    """Open-circuit volts of the own string at the coldest."""
    name, array = facts.one("arrays", dice)
    module = array.module
    if module.voc_v is None or module.voc_percent_per_k is None:
        raise NotHere("the plate of its modules does not say open-circuit volts and how they change")
    coldest = float(-dice.integers(5, 25))
    volts, per_k, series = float(module.voc_v), float(module.voc_percent_per_k), array.series
    found = coldest_string_v(module, series, coldest)
    del name
    return figure(
        "cold-string",
        f"{series} in series: each has {volts:g} V open circuit at 25 °C and {per_k:g} % "
        "for each kelvin. "
        f"How many volts has the string at {coldest:.0f} °C, before it is loaded?",
        "V",
        found,
        [
            f"{25 - coldest:.0f} K colder: {-per_k:g} · {25 - coldest:.0f} = {-per_k * (25 - coldest):.1f} % "
            "more",
            f"{series} · {volts:g} · {1 - per_k * (25 - coldest) / 100:.3f} = {found:.1f} V",
        ],
        {"volts": volts, "per_k": per_k, "series": float(series), "coldest": coldest},
        [
            (series * volts, "cold makes it more: that is at 25 °C"),
            (
                series * volts * (1 + per_k * (25 - coldest) / 100),
                "cold raises the volts, it does not lower them",
            ),
            (found / series, "that is one module") if series > 1 else (-1.0, ""),
        ],
    )


@kind("sun-day", "What the sun gives in a day", 1)
def sun_day(facts: Facts, dice: Dice) -> Question:
    """Wh of a day from watts, hours of full sun, and losses."""
    _, array = facts.one("arrays", dice)
    watts = float(round(array.module.watts * array.series * array.parallel))
    hours, kept = float(dice.integers(2, 7)), 0.8
    wh = watts * hours * kept
    return figure(
        "sun-day",
        f"{array.name} have {watts:,.0f} W in all. A day has {hours:.0f} hours of full sun, and "
        "a fifth is lost on the way. How much comes in?",
        "Wh",
        wh,
        [f"{watts:,.0f} · {hours:.0f} = {watts * hours:,.0f} Wh", f"· 0.8 = {wh:,.0f} Wh"],
        {"watts": watts, "hours": hours},
        [
            (watts * hours, "losses were left out"),
            (watts * 24 * kept, "the sun does not shine for 24 hours"),
            (watts * kept, "that is one hour"),
        ],
    )


@kind("face-down", "The array lies on its face", 2)
def face_down(facts: Facts, dice: Dice) -> Question:
    """Watts that should come in at noon against what does."""
    _, array = facts.one("arrays", dice)
    watts = float(round(array.module.watts * array.series * array.parallel))
    read = float(round(watts * dice.uniform(0.02, 0.08)))
    return choice(
        "face-down",
        f"At noon of a clear day {array.name}, {watts:,.0f} W in all, give {read:.0f} W. What "
        "is it most likely?",
        "They lie on their face, are covered, or shaded",
        [
            (
                "That is what they give in winter",
                "at noon of a clear day even in winter a third and more comes in",
            ),
            (
                "The station is almost full and takes less",
                "then its charge stands near 100 %, and the watts swing with the load",
            ),
            ("The display is late", "a display lags by seconds, not by hours"),
        ],
        [
            f"{read:.0f} of {watts:,.0f} W are {100 * read / watts:.0f} %: look at the modules before "
            "anything else"
        ],
        dice,
        {"watts": watts, "read": read},
    )


@kind("engine-charges", "Engine hours for the battery", 3)
def engine_charges(facts: Facts, dice: Dice) -> Question:
    """Hours of an engine to bring charge."""
    _, engine = facts.one("generators", dice)
    _, station = facts.one("stations", dice)
    if not station.ac_inputs:
        raise NotHere("no station takes charge from AC")
    most = max(entry.most_w for entry in station.ac_inputs.values())
    watts = float(round(min(most, 0.8 * engine.rated_w) / 10) * 10)
    wh, eta, points = (
        float(round(station.total_cell_wh)),
        station.charge_efficiency,
        float(dice.integers(3, 7) * 10),
    )
    if watts < 50:
        raise NotHere("nothing worth while comes in")
    hours = points / 100 * wh / (watts * eta)
    return figure(
        "engine-charges",
        f"{engine.name} charges {station.name} ({wh:,.0f} Wh) with {watts:,.0f} W, of "
        f"which {100 * eta:.0f} % reach the cells. "
        f"How many hours does it run for {points:.0f} points of charge?",
        "h",
        hours,
        [
            f"{points:.0f} % of {wh:,.0f} Wh are {points / 100 * wh:,.0f} Wh",
            f"/ ({watts:,.0f} · {eta:g}) = {hours:.1f} h",
        ],
        {"wh": wh, "eta": eta, "watts": watts, "points": points},
        [
            (points / 100 * wh / watts, "charging has losses"),
            (wh / (watts * eta), "that is for all of it"),
            (
                points / 100 * wh / (engine.rated_w * eta),
                "the station does not take all that the engine could give",
            ),
        ],
    )
