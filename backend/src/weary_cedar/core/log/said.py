"""A line as people say it, and what is understood of it: readings, acts, happenings, remarks."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Final

from weary_cedar.core.log.names import FILLERS, Named, all_named, meant, words_of
from weary_cedar.core.log.session import Place, Understood, What
from weary_cedar.core.plan import Plan, Refrigerating
from weary_cedar.core.plan.base import FIRST_YEAR
from weary_cedar.core.plan.site import L_PER_GAL

#: A number of people: 1,200 or 1.5 or 64,5.
NUMBER: Final = r"[-+−]?(?:\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d+(?:[.,]\d+)?)"
UNIT: Final = (
    r"%|percent|pct|kwh|wh|kw|w|watts?|kilowatts?|va|volts?|v|hz|hertz|amps?|a|°\s?[cf]|degrees?(?:\s?[cf])?|"
    r"celsius|fahrenheit|deg(?:\s?[cf])?|litres?|liters?|l|gallons?|gal|hours?|hrs?|h|minutes?|mins?|min|f|c"
)
VALUE: Final = re.compile(rf"(?<![\w.,])({NUMBER})\s*({UNIT})?(?![\w])", re.IGNORECASE)
SPLIT: Final = re.compile(r"\s*(?:[;\n]+|,(?=\s|$|[a-zA-Z])|\band\b|\bthen\b)\s*")
TIME: Final = re.compile(
    r"^(?:at\s+)?(\d{1,2})[:h](\d{2})\s*(am|pm)?\b[\s,:-]*|^(?:at\s+)?(\d{1,2})\s*(am|pm)\b[\s,:-]*"
)
TIME_AFTER: Final = re.compile(r"\s+at\s+(\d{1,2})(?:[:h](\d{2}))?\s*(am|pm)?$")
AGO: Final = re.compile(
    r"^(\d+)\s*(min|mins|minutes|h|hr|hrs|hours?)\s+ago[\s,:-]*|[\s,]+(\d+)\s*(min|mins|minutes|h|hr|hrs|hours?)\s+ago$"
)

ON: Final = (
    "on",
    "started",
    "start",
    "running",
    "runs",
    "plugged in",
    "plugged",
    "closed",
    "close",
    "back on",
)
OFF: Final = (
    "off",
    "stopped",
    "stop",
    "unplugged",
    "opened",
    "open",
    "pulled",
    "shut down",
    "shut",
    "killed",
)
SUBJECTS: Final[tuple[tuple[What, str], ...]] = (
    ("leg_a_w", r"\bleg\s*a\b|\bl1\b"), ("leg_b_w", r"\bleg\s*b\b|\bl2\b"),
    ("sun_w", r"\bsun\b|\bsolar\b|\bpv\b|\bpanels?\b|\barray\b"),
    ("shown_h", r"\bremaining\b|\bshows?\b|\bdisplay\b|\bleft\b|\bto go\b|\bruntime\b"),
    ("fuel_l", r"\bfuel\b|\bgas(?:oline)?\b|\bpetrol\b|\bdiesel\b|\btank\b|\bpropane\b"),
    ("in_w", r"\bin\b|\binput\b|\bcharging\b|\bcoming in\b"),
    ("out_w", r"\bout\b|\boutput\b|\bload\b|\bdrawing\b|\bdraws?\b|\busing\b|\buse\b"),
)  # fmt: skip
HAPPENINGS: Final[tuple[tuple[What, str, str], ...]] = (
    ("grid_back", r"\b(?:grid|utility|mains|power|street)\b.*\bback\b", "the utility is back"),
    ("grid_gone", r"\b(?:grid|utility|mains)\b.*\b(?:out|gone|off|down)\b", "the utility is gone"),
    ("alarm", r"\balarm\b|\bbeep(?:s|ing)?\b", "an alarm"),
    ("trip", r"\btripp?(?:ed|s)?\b|\boverload(?:ed)?\b", "it tripped"),
    ("dark", r"\bdark\b|\bblackout\b|\bno power\b|\blost power\b|\bwent out\b", "dark"),
)
#: Where a meter was, as people say it; and whether watts there go in or out.
PLACES: Final[tuple[tuple[Place, str, str], ...]] = (
    ("cord_far", r"\b(?:at\s+)?(?:the\s+)?(?:far|house|load)\s+end(?:\s+of\s+the\s+cord)?\b", "out"),
    ("cord_near", r"\b(?:at\s+)?(?:the\s+)?(?:near|station|source)\s+end(?:\s+of\s+the\s+cord)?\b", "out"),
    ("wall", r"\bat\s+(?:the\s+)?(?:wall|receptacle|outlet|socket)\b", "in"),
    ("plug", r"\b(?:at|on|by)\s+(?:the\s+|its\s+)?(?:plug|plug[- ]in meter|plug meter)\b", "out"),
    ("cells", r"\b(?:at|from|of)\s+(?:the\s+)?(?:cells|dc side|battery side)\b", "out"),
    ("output", r"\bat\s+(?:the\s+|its\s+)?output\b", "out"),
    ("input", r"\bat\s+(?:the\s+|its\s+)?input\b", "in"),
)  # fmt: skip
PLACE_WORDS: Final[dict[str, str]] = {
    "cord_far": "at the far end of the cord", "cord_near": "at the near end of the cord",
    "wall": "at the wall", "plug": "at the plug", "cells": "at the cells", "output": "at the output",
    "input": "at the input",
}  # fmt: skip
CALIBRATED: Final = re.compile(r"\b(?:re)?calibrat\w*|\bfull (?:drain|discharge|charge|cycle)\b")
STOOD: Final = re.compile(
    r"(\d+(?:[.,]\d+)?)\s*(?:%|percent)\s+after\s+"
    r"(\d+|a|one|two|three|four|six|eight)\s+(day|week|month)s?\b"
)
COUNTS: Final = {"a": 1, "one": 1, "two": 2, "three": 3, "four": 4, "six": 6, "eight": 8}
DAYS_IN: Final = {"day": 1, "week": 7, "month": 30}
CHARGE_WORDS: Final = r"\b(?:soc|charge|battery|batteries|cells|percent)\b"
HEAD_WORDS: Final = r"\b(?:main|head|unit|station|base)\b"
PACK_WORDS: Final = r"\b(?:packs?|extra|expansion)\b"
#: What can be at all, by what is read: outside of it, it is read again.
BOUNDS: Final[dict[str, tuple[float, float, str]]] = {
    "charge": (0, 100, "0 to 100 %"),
    "in_w": (0, 50_000, "0 to 50,000 W"),
    "out_w": (0, 50_000, "0 to 50,000 W"),
    "sun_w": (0, 50_000, "0 to 50,000 W"),
    "leg_a_w": (0, 25_000, "0 to 25,000 W"),
    "leg_b_w": (0, 25_000, "0 to 25,000 W"),
    "volts": (0, 600, "0 to 600 V"),
    "hertz": (30, 80, "30 to 80 Hz"),
    "amps": (0, 200, "0 to 200 A"),
    "fuel_l": (0, 2_000, "0 to 2,000 L"),
    "wh": (0, 1e6, "up to 1,000 kWh"),
    "temperature_c": (-60, 60, "-60 to 60 °C"),
    "shown_h": (0, 999, "0 to 999 h"),
    "loss_week": (0, 100, "0 to 100 % a week"),
}
MINUTES: Final = 60.0
NOON: Final = 12


@dataclass(frozen=True)
class Said:
    """What was understood of a line, when it was, and what has to be asked before anything counts."""

    rows: tuple[Understood, ...]
    questions: tuple[str, ...]
    at: datetime


def understood(plan: Plan, line: str, now: datetime) -> Said:
    """What a line says.

    Args:
        plan: whose parts are meant.
        line: as it is typed or spoken: "main 64, pack 68", "fridge off", "in 290 W", "21:40 gen on".
        now: by the clock of the site.

    Returns:
        Rows in words and figures (SI), when it was, and questions: what is not clear is asked, never guessed.
        A figure without its unit is taken in the unit of the plan, and says so.
    """
    text, at = _when(line.strip(), now)
    at = at if at.year >= FIRST_YEAR else now
    rows: list[Understood] = []
    questions: list[str] = []
    remark = re.match(r"^(?:note|remark|nb|memo)\b[\s:,-]*(.+)$", text, re.IGNORECASE | re.DOTALL)
    if remark:
        return Said((Understood(kind="remark", told=f"remark: {remark[1]}"[:300]),), (), at)
    for part in SPLIT.split(_whole_names(plan, text)):
        if not part.strip():
            continue
        found = _segment(plan, part.strip(), rows)
        if isinstance(found, Understood):
            rows.append(found)
        else:
            questions.append(found)
    if not rows and not questions:
        questions.append("Nothing was said: for example “main 64, pack 68” or “fridge off”.")
    return Said(tuple(rows), tuple(questions), at)


def _whole_names(plan: Plan, text: str) -> str:
    """A line in which names that hold “and” are not taken for two things."""
    for item in all_named(plan, ("loads", "circuits", "arrays", "stations", "leads")):
        if re.search(r"\band\b", item.name, re.IGNORECASE):
            whole = re.compile(re.escape(item.name), re.IGNORECASE)
            text = whole.sub(re.sub(r"\band\b", "&", item.name, flags=re.IGNORECASE), text)
    return text


def _when(text: str, now: datetime) -> tuple[str, datetime]:
    """A line without its time, and the moment: the last one of that hour that is not to come."""
    ago = AGO.search(text)
    if ago:
        count, unit = int(ago[1] or ago[3]), (ago[2] or ago[4]).lower()
        back = timedelta(minutes=count) if unit.startswith("m") else timedelta(hours=count)
        return (text[: ago.start()] + text[ago.end() :]).strip(), now - back
    for form in (TIME, TIME_AFTER):
        found = form.search(text.lower())
        if not found:
            continue
        groups = found.groups()
        hour, minute, half = groups[:3] if groups[0] is not None else (groups[3], None, groups[4])
        clock = _clock(hour, minute, half)
        if clock is None:
            continue
        at = now.replace(hour=clock[0], minute=clock[1], second=0, microsecond=0)
        rest = text[found.end() :] if form is TIME else text[: found.start()]
        return rest.strip(), at if at <= now else at - timedelta(days=1)
    return re.sub(r"^(?:now|just now)[\s,:-]*", "", text, flags=re.IGNORECASE), now


def _clock(hour: str, minute: str | None, half: str | None) -> tuple[int, int] | None:
    hours, minutes = int(hour), int(minute or 0)
    if half:
        hours = hours % NOON + (NOON if half.lower() == "pm" else 0)
    return (hours, minutes) if hours < 2 * NOON and minutes < MINUTES else None


def _segment(plan: Plan, text: str, before: Sequence[Understood]) -> Understood | str:
    """What one part of a line says, or what has to be asked."""
    small = text.lower()
    if CALIBRATED.search(small):
        return _calibrated(plan, CALIBRATED.sub(" ", small))
    stood = STOOD.search(small)
    if stood:
        return _stood(plan, STOOD.sub(" ", small), stood)
    for place, form, way in PLACES:
        if re.search(form, small) and VALUE.search(small):
            return _at_place(plan, text, (place, form, way), before)
    for what, form, words in HAPPENINGS:
        if re.search(form, small):
            return _happening(plan, small, what, words)
    value = VALUE.search(small)
    turn = _turn(small)
    numbered = re.search(r"\b(?:breaker|circuit|space)\s*#?\d{1,2}\b", small)
    if turn and (value is None or numbered or value[2] is None):
        return _act(plan, small, turn)
    if value is None:
        return f"“{text}” is not understood: say a reading, what was switched, or begin with “note”."
    return _reading(plan, text, small, value, before)


def _at_place(
    plan: Plan, text: str, place: tuple[Place, str, str], before: Sequence[Understood]
) -> Understood | str:
    """A reading of a meter at a place."""
    where, form, way = place
    bare = re.sub(form, " ", text, flags=re.IGNORECASE)
    said = any(re.search(pattern, bare.lower()) for what, pattern in SUBJECTS if what in ("in_w", "out_w"))
    watts = re.search(r"\d\s*(?:k?w|kilowatts?|watts?)\b", bare.lower())
    found = _segment(plan, f"{bare} {way}" if watts and not said else bare, before)
    if isinstance(found, str) or found.kind != "reading":
        return found
    return found.model_copy(update={"place": where, "told": f"{found.told} {PLACE_WORDS[where]}"})


def _a_station(plan: Plan, text: str, what: str) -> Named | str:
    """The station that is meant, or what has to be asked."""
    found = meant(plan, text, ("stations",)) or (
        all_named(plan, ("stations",)) if len(plan.stations) == 1 else []
    )
    if len(found) == 1:
        return found[0]
    every = all_named(plan, ("stations",))
    return f"{what}: {_either(found or every)}?" if every else "There is no station in this plan."


def _calibrated(plan: Plan, text: str) -> Understood | str:
    found = _a_station(plan, text, "Which was calibrated")
    if isinstance(found, str):
        return found
    return Understood(
        kind="happening", told=f"{found.name}: calibrated by a full drain or charge", part=found.part,
        what="calibrated",
    )  # fmt: skip


def _stood(plan: Plan, text: str, told: re.Match[str]) -> Understood | str:
    """What a station lost while it stood full: per cents a week."""
    found = _a_station(plan, text, "Which stood so long")
    if isinstance(found, str):
        return found
    left = _number(told[1])
    count = COUNTS.get(told[2]) or int(told[2])
    weeks = count * DAYS_IN[told[3]] / DAYS_IN["week"]
    if not weeks:
        return "After no time at all? Say how long it stood."
    words = f"{found.name}: full, then {left:g} % after {count} {told[3]}{'s' if count > 1 else ''}"
    lost = (100.0 - left) / weeks
    return _checked("loss_week", lost, f"{words}, {lost:.2g} % a week", found.part)


def _happening(plan: Plan, small: str, what: What, words: str) -> Understood:
    found = meant(plan, re.sub(r"tripp?(?:ed|s)?|overload(?:ed)?|alarm", " ", small),
                  ("circuits", "stations", "generators", "loads"))  # fmt: skip
    part = found[0] if len(found) == 1 and what in ("trip", "alarm") else None
    told = f"{part.name}: {words}" if part else words
    return Understood(kind="happening", told=told, what=what, part=part.part if part else "")


# ---------------------------------------------------------------- acts


def _turn(small: str) -> str:
    """On or off, if something was switched, plugged or stopped."""
    for turn, forms in (("off", OFF), ("on", ON)):
        for form in sorted(forms, key=len, reverse=True):
            if re.search(rf"\b{form}\b", small):
                return turn
    return ""


def _act(plan: Plan, small: str, turn: str) -> Understood | str:
    plug = re.search(r"\b(?:un)?plugged(?: in)?\b", small)
    text = small
    for form in sorted((*ON, *OFF), key=len, reverse=True):
        text = re.sub(rf"\b{form}\b", " ", text)
    rooms: tuple[str, ...] = (
        "loads", "generators", "circuits", "vehicles", "stations", "arrays", "leads", "externals",
    )  # fmt: skip
    if plug:
        rooms = ("leads", "arrays", "vehicles", "loads", "externals", "stations", "generators", "circuits")
    if re.search(r"\b(?:breaker|circuit)\b", small):
        rooms = ("circuits",)
    if re.search(r"\bcharg(?:er|ing)\b", small):
        into = {key for key, lead in plan.leads.items() if lead.to.end == "input"}
        if len(into) == 1:
            key = next(iter(into))
            return _switched(Named("leads", key, plan.lead_name(key), frozenset()), turn)
    found = meant(plan, text, rooms)
    if len(found) == 1:
        return _switched(found[0], turn)
    if not found:
        return f"Which part is “{' '.join(text.split()) or small}”? It is none of this plan by that name."
    return f"Which is {turn}: {_either(found)}?"


def _switched(part: Named, turn: str) -> Understood:
    side = "on" if turn == "on" else "off"
    return Understood(kind="act", told=f"{part.name} {side}", part=part.part, turn=side)


def _either(found: Sequence[Named]) -> str:
    names = [item.name for item in found[:6]]
    return ", ".join(names[:-1]) + " or " + names[-1]


# ---------------------------------------------------------------- readings


def _reading(
    plan: Plan, text: str, small: str, value: re.Match[str], before: Sequence[Understood]
) -> Understood | str:
    number = _number(value[1])
    unit = (value[2] or "").lower().replace(" ", "").replace("°", "")
    rest = f"{small[: value.start()]} {small[value.end() :]}"
    subject = next((what for what, form in SUBJECTS if re.search(form, rest)), "")
    if unit in ("%", "percent", "pct"):
        return _charge(plan, rest, number, before)
    if unit in ("w", "watt", "watts", "kw", "kilowatt", "kilowatts", "va"):
        watts = number * (1000.0 if unit.startswith(("kw", "kilo")) else 1.0)
        return _power(plan, rest, subject, watts)
    if unit in ("wh", "kwh"):
        return _told(plan, "wh", number * (1000.0 if unit == "kwh" else 1.0), rest, "counted")
    if unit in ("v", "volt", "volts"):
        return _told(plan, "volts", number, rest, "volts")
    if unit in ("hz", "hertz"):
        return _told(plan, "hertz", number, rest, "hertz")
    if unit in ("a", "amp", "amps"):
        return _told(plan, "amps", number, rest, "amps")
    if unit in ("l", "litre", "litres", "liter", "liters", "gal", "gallon", "gallons"):
        litres = number * (L_PER_GAL if unit.startswith("gal") else 1.0)
        return _fuel(plan, rest, litres, "")
    if unit.startswith(("deg", "f", "c")):
        return _warmth(plan, rest, number, unit)
    if unit.startswith(("h", "min")):
        hours = number / MINUTES if unit.startswith("min") else number
        return _told(plan, "shown_h", hours, rest, "shown as remaining")
    return _bare(plan, text, rest, subject, number, before)


def _number(text: str) -> float:
    text = text.replace("−", "-")
    if re.fullmatch(r"[-+]?\d{1,3}(?:,\d{3})+(?:\.\d+)?", text):
        return float(text.replace(",", ""))
    return float(text.replace(",", "."))


def _bare(
    plan: Plan, text: str, rest: str, subject: str, number: float, before: Sequence[Understood]
) -> Understood | str:
    """A figure without its unit: of a battery it is a charge; else the unit of the plan, said as taken."""
    if subject == "fuel_l":
        gallons = plan.site.units.volume == "gal"
        assumed = "gal" if gallons else "L"
        return _fuel(plan, rest, number * (L_PER_GAL if gallons else 1.0), f", taken as {assumed}")
    if subject in ("in_w", "out_w", "sun_w", "leg_a_w", "leg_b_w") and not re.search(HEAD_WORDS, rest):
        return _power(plan, rest, subject, number, ", taken as W")
    cold = [item for item in meant(plan, rest, ("loads",)) if _is_cold(plan, item)]
    if len(cold) == 1:
        return _warmth(plan, rest, number, "")
    charged = re.search(f"{CHARGE_WORDS}|{HEAD_WORDS}|{PACK_WORDS}", rest) or meant(plan, rest, ("stations",))
    if charged or not [word for word in words_of(rest) if word not in FILLERS]:
        return _charge(plan, rest, number, before)
    packs = _packs(plan, rest)
    if packs:
        return _charge(plan, rest, number, before)
    return f"{number:g} of what, in which unit? “{text}” is not clear."


def _charge(plan: Plan, rest: str, number: float, before: Sequence[Understood]) -> Understood | str:
    stations = list(plan.stations.items())
    if not stations:
        return "There is no station in this plan to read a charge of."
    packs = _packs(plan, rest)
    if packs:
        if len(packs) > 1:
            names = ", ".join(plan.stations[key].packs[pack].name for key, pack in packs)
            return f"{number:g} % of which pack: {names}?"
        key, pack = packs[0]
        name = f"{plan.stations[key].packs[pack].name} of {plan.stations[key].name}"
        return _checked("charge", number, f"{name}: {number:g} %", f"stations/{key}", pack)
    named = meant(plan, re.sub(f"{CHARGE_WORDS}|{HEAD_WORDS}|left", " ", rest), ("stations",))
    named = named or meant(plan, rest, ("stations",))
    if not named and len(stations) > 1:
        names = " or ".join(station.name for _, station in stations)
        return f"{number:g} % of which: {names}?"
    key = named[0].id if len(named) == 1 else stations[0][0]
    if len(named) > 1:
        return f"{number:g} % of which: {_either(named)}?"
    station = plan.stations[key]
    head = bool(re.search(HEAD_WORDS, rest)) or any(row.pack for row in before)
    if station.packs and not head and not named:
        parts = ", ".join(["head unit", *(pack.name for pack in station.packs.values())])
        return f"{number:g} % of which: {parts}? Say for example “main {number:g}, pack {number:g}”."
    told = f"{station.name}{', head unit' if station.packs else ''}: {number:g} %"
    return _checked("charge", number, told, f"stations/{key}")


def _packs(plan: Plan, rest: str) -> list[tuple[str, str]]:
    """Packs that are meant."""
    every = [(key, pack) for key, station in plan.stations.items() for pack in station.packs]
    said = set(words_of(rest)) - FILLERS
    named = [(key, pack) for key, pack in every if said & _own_words(plan, key, pack)]
    if re.search(PACK_WORDS, rest):
        return named or every
    return named if len(named) == 1 and not re.search(HEAD_WORDS, rest) else []


def _own_words(plan: Plan, key: str, pack: str) -> set[str]:
    """Words by which one pack is told from others."""
    return set(words_of(f"{plan.stations[key].packs[pack].name} {pack}")) - {"pack", "battery"}


def _power(plan: Plan, rest: str, subject: str, watts: float, assumed: str = "") -> Understood | str:
    words = {
        "in_w": "in",
        "out_w": "out",
        "sun_w": "from the sun",
        "leg_a_w": "on leg A",
        "leg_b_w": "on leg B",
    }
    if subject in words:
        what: What = subject  # type: ignore[assignment]
        about = re.sub(dict(SUBJECTS)[what], " ", rest)
        station = meant(plan, about, ("stations",))
        part = station[0] if len(station) == 1 else None
        told = f"{part.name + ': ' if part else ''}{watts:g} W {words[subject]}{assumed}"
        return _checked(what, watts, told, part.part if part else "")
    found = meant(plan, rest, ("loads", "circuits", "generators", "stations"))
    if len(found) == 1:
        return _checked("out_w", watts, f"{found[0].name}: {watts:g} W", found[0].part)
    if len(found) > 1:
        return f"{watts:g} W of which: {_either(found)}?"
    return f"{watts:g} W in or out, or of which load? Say for example “out {watts:g} W”."


def _told(plan: Plan, what: What, value: float, rest: str, words: str) -> Understood | str:
    found = meant(plan, rest, ("loads", "circuits", "generators", "stations"))
    part = found[0] if len(found) == 1 else None
    units = {"wh": "Wh", "volts": "V", "hertz": "Hz", "amps": "A", "shown_h": "h"}
    leg = re.search(r"\b(?:leg\s*)?([ab])\b(?=\s*$)|\bleg\s*([ab])\b", rest)
    where = (
        f"{part.name}: " if part else f"leg {(leg[1] or leg[2]).upper()}: " if leg and what == "volts" else ""
    )
    told = f"{where}{value:g} {units[what]}" + ("" if what in ("volts", "hertz", "amps") else f" {words}")
    return _checked(what, value, told, part.part if part else "")


def _fuel(plan: Plan, rest: str, litres: float, assumed: str) -> Understood | str:
    found = meant(plan, rest, ("generators",))
    if not found and len(plan.generators) == 1:
        key, engine = next(iter(plan.generators.items()))
        found = [Named("generators", key, engine.name, frozenset())]
    if len(found) != 1:
        which = _either(found) if found else "no engine of this plan is named"
        return f"Fuel of which engine: {which}?"
    told = f"fuel for {found[0].name}: {plan.site.units.told_volume(litres)}{assumed}"
    return _checked("fuel_l", litres, told, found[0].part)


def _is_cold(plan: Plan, item: Named) -> bool:
    load = plan.loads.get(item.id) if item.room == "loads" else None
    return load is not None and (load.role == "food" or isinstance(load.behaviour, Refrigerating))


def _warmth(plan: Plan, rest: str, number: float, unit: str) -> Understood | str:
    letter = (
        unit[-1]
        if unit and unit[-1] in "cf"
        else "f"
        if unit == "fahrenheit"
        else "c"
        if unit == "celsius"
        else ""
    )
    letter = "f" if "fahr" in unit else "c" if "cels" in unit else letter
    assumed = "" if letter else f", taken as °{plan.site.units.temperature.upper()}"
    letter = letter or plan.site.units.temperature
    celsius = (number - 32.0) * 5.0 / 9.0 if letter == "f" else number
    found = meant(plan, rest, ("loads", "places"))
    cold = [item for item in found if _is_cold(plan, item)] or found
    if len(cold) > 1:
        return f"{number:g}° in which: {_either(cold)}?"
    box = _compartment(plan, cold[0], rest, celsius) if cold else ""
    if box is None:
        names = " or ".join(_boxes(plan, cold[0]).values())
        return f"{number:g}° in which part of {cold[0].name}: {names}?"
    inside = _boxes(plan, cold[0]).get(box, "") if cold and box else ""
    name = "" if not cold or inside in ("", cold[0].name) else f", {inside}"
    where = f"{cold[0].name}{name}: " if cold else "outdoors or indoors: "
    told = f"{where}{number:g} °{letter.upper()}{assumed}"
    return _checked("temperature_c", celsius, told, cold[0].part if cold else "", box)


def _boxes(plan: Plan, item: Named) -> dict[str, str]:
    """Compartments of a cold box by their names."""
    load = plan.loads.get(item.id) if item.room == "loads" else None
    spec = load.behaviour if load is not None else None
    return (
        {key: box.name for key, box in spec.compartments.items()} if isinstance(spec, Refrigerating) else {}
    )


def _compartment(plan: Plan, item: Named, rest: str, celsius: float) -> str | None:
    """Which compartment of a cold box is meant; none where that is not clear."""
    boxes = _boxes(plan, item)
    if len(boxes) < 2:
        return ""
    said = set(words_of(rest))
    own = {key: set(words_of(f"{name} {key}")) - set(words_of(item.name)) for key, name in boxes.items()}
    named = [key for key, words in own.items() if said & words]
    if len(named) == 1:
        return named[0]
    return None


def _checked(what: What, value: float, told: str, part: str, pack: str = "") -> Understood | str:
    low, high, right = BOUNDS[what]
    if not low <= value <= high:
        return f"{told}? That cannot be: it should be {right}. Read again."
    return Understood(kind="reading", told=told, part=part, pack=pack, what=what, value=value)
