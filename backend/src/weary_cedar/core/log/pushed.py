"""Readings that a device sends: checked, turned into SI, and made rows like those that someone types."""

from collections.abc import Callable, Sequence
from datetime import datetime
from typing import Annotated, Final, Literal

from pydantic import BaseModel, ConfigDict, Field

from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.log.said import BOUNDS
from weary_cedar.core.log.session import Place, SessionRow, Text, What
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.base import LocalMoment
from weary_cedar.core.plan.site import L_PER_GAL

Unit = Literal["%", "W", "kW", "Wh", "kWh", "V", "Hz", "A", "L", "gal", "°C", "°F", "h", "min"]
#: By unit: what it can be a unit of, and how it becomes SI.
UNITS: Final[dict[str, tuple[tuple[What, ...], Callable[[float], float]]]] = {
    "%": (("charge",), lambda value: value),
    "W": (("in_w", "out_w", "sun_w", "leg_a_w", "leg_b_w"), lambda value: value),
    "kW": (("in_w", "out_w", "sun_w", "leg_a_w", "leg_b_w"), lambda value: 1000.0 * value),
    "Wh": (("wh",), lambda value: value),
    "kWh": (("wh",), lambda value: 1000.0 * value),
    "V": (("volts",), lambda value: value),
    "Hz": (("hertz",), lambda value: value),
    "A": (("amps",), lambda value: value),
    "L": (("fuel_l",), lambda value: value),
    "gal": (("fuel_l",), lambda value: value * L_PER_GAL),
    "°C": (("temperature_c",), lambda value: value),
    "°F": (("temperature_c",), lambda value: (value - 32.0) * 5.0 / 9.0),
    "h": (("shown_h",), lambda value: value),
    "min": (("shown_h",), lambda value: value / 60.0),
}
#: Rooms of what can be read.
ROOMS: Final = ("stations", "loads", "circuits", "generators", "vehicles", "externals", "arrays", "places")
#: Readings of one request.
MOST_READINGS: Final = 500
SAID: Final[dict[str, str]] = {
    "charge": "", "in_w": " in", "out_w": " out", "sun_w": " from the sun", "leg_a_w": " on leg A",
    "leg_b_w": " on leg B", "wh": " counted", "shown_h": " shown as remaining", "fuel_l": " of fuel",
}  # fmt: skip


class PushedReading(BaseModel):
    """One reading: of which part, what, and its value in a unit; now, if it is not said when."""

    model_config = ConfigDict(extra="forbid")

    #: Made where it was read: sent twice, it counts once.
    id: Annotated[str, Field(max_length=60, pattern=r"^[A-Za-z0-9:._-]*$")] = ""
    at: LocalMoment | None = None
    part: Annotated[str, Field(max_length=90, examples=["stations/main"])]
    pack: Annotated[str, Field(max_length=40)] = ""
    what: What
    value: Annotated[float, Field(ge=-1e9, le=1e9, allow_inf_nan=False)]
    unit: Unit
    place: Place = ""


class PushedReadings(BaseModel):
    """Readings of one request."""

    model_config = ConfigDict(extra="forbid")

    readings: Annotated[list[PushedReading], Field(min_length=1, max_length=MOST_READINGS)]


def rows_of(
    plan: Plan, readings: Sequence[PushedReading], now: datetime, by: Text, new_id: Callable[[], str]
) -> list[SessionRow]:
    """Rows out of readings that were sent.

    Args:
        plan: whose parts they are of.
        readings: as they were sent.
        now: by the clock of the site.
        by: who sent them, in words.
        new_id: makes an id for a reading that has none.

    Returns:
        A row each, in SI.

    Raises:
        InvalidInput: names the field, its value, and what would be right; then none counts.
    """
    problems: list[Problem] = []
    rows = []
    for index, reading in enumerate(readings):
        wrong = _wrong(plan, reading)
        if wrong is not None:
            field, got, right = wrong
            problems.append(Problem(f"/readings/{index}/{field}", got, right))
            continue
        value = UNITS[reading.unit][1](reading.value)
        room, _, key = reading.part.partition("/")
        part = getattr(plan, room)[key]
        name = (part.label if room == "circuits" else part.name) or key
        if reading.pack:
            name = f"{plan.stations[key].packs[reading.pack].name} of {name}"
        told = f"{name}: {reading.value:g} {reading.unit}{SAID.get(reading.what, '')}"
        rows.append(
            SessionRow(
                id=reading.id or new_id(), at=reading.at or now, entered=now, kind="reading", told=told[:300],
                part=reading.part, pack=reading.pack, what=reading.what, value=value, place=reading.place,
                by=by[:60],
            )
        )  # fmt: skip
    if problems:
        raise InvalidInput(str(problems[0]), tuple(problems))
    return rows


def _wrong(plan: Plan, reading: PushedReading) -> tuple[str, str, str] | None:
    """What is wrong with a reading: the field, its value, what would be right."""
    room, _, key = reading.part.partition("/")
    if room not in ROOMS or key not in getattr(plan, room):
        known = [f"{name}/{part}" for name in ROOMS for part in getattr(plan, name)]
        return "part", reading.part, f"a part of this plan, such as {known[0] if known else 'stations/main'}"
    if reading.pack and (room != "stations" or reading.pack not in plan.stations[key].packs):
        return "pack", reading.pack, "a pack of that station"
    fits, into_si = UNITS[reading.unit]
    if reading.what not in fits:
        units = [unit for unit, (whats, _) in UNITS.items() if reading.what in whats]
        if not units:
            return "what", reading.what, f"something that is read, such as {fits[0]}"
        return "unit", reading.unit, f"a unit of it: {' or '.join(units)}"
    low, high, right = BOUNDS[reading.what]
    if not low <= into_si(reading.value) <= high:
        return "value", f"{reading.value:g} {reading.unit}", right
    return None
