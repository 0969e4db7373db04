"""What could be bought: storage, strings of modules, hours of an engine, each as a change of the plan."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import time
from typing import Any, Final

from weary_cedar.core.decide.changes.change import rules_of
from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import EngineRule, Pack, Plan, SolarArray, Station
from weary_cedar.core.plan.ids import free_id

#: So many packs and strings more are tried, and so many hours of an engine a day.
MOST_PACKS, MOST_STRINGS, MOST_STATIONS = 6, 3, 2
ENGINE_HOURS: Final = (0, 2, 4, 8)
#: An engine's hours begin at this hour, or later where its quiet hours end later.
FIRST_HOUR: Final = 9
#: It charges from below the first to the second, %.
BELOW, UP_TO = 85.0, 90.0
#: A start, a look and a can of fuel take someone so long. Common practice.
MINUTES_A_DAY, MINUTES_AN_HOUR = 6.0, 2.0


@dataclass(frozen=True)
class Amount:
    """How much more of each: steps of storage, strings of modules, hours of an engine a day."""

    storage: int
    strings: int
    engine_h: int

    def beats(self, other: "Amount") -> bool:
        """Whether it is no more of anything and less of something."""
        own, others = self._all(), other._all()
        return own != others and all(a <= b for a, b in zip(own, others, strict=True))

    def _all(self) -> tuple[int, int, int]:
        return self.storage, self.strings, self.engine_h


@dataclass(frozen=True)
class Market:
    """What can be had more of in a plan: the parts that would be doubled, and how many steps there are."""

    plan: Plan
    #: Station with the pack that is bought again; or the station of which another one is bought.
    station_id: str | None
    pack_id: str | None
    array_id: str | None
    engine_id: str | None

    @property
    def most_storage(self) -> int:
        """How many steps of storage are tried."""
        if self.station_id is None:
            return 0
        return MOST_PACKS if self.pack_id is not None else MOST_STATIONS

    @property
    def most_strings(self) -> int:
        """How many strings are tried."""
        return MOST_STRINGS if self.array_id is not None else 0

    @property
    def hours(self) -> tuple[int, ...]:
        """Hours of an engine that are tried."""
        return ENGINE_HOURS if self.engine_id is not None else (0,)

    def patch(self, amount: Amount) -> dict[str, Any]:
        """The merge patch with so much more."""
        found: dict[str, Any] = {}
        if amount.storage and self.station_id is not None:
            station = self.plan.stations[self.station_id]
            if self.pack_id is not None:
                packs = {self.pack_id: {"count": station.packs[self.pack_id].count + amount.storage}}
                found["stations"] = {self.station_id: {"packs": packs}}
            else:
                found |= self._more_stations(station, amount.storage)
        if amount.strings and self.array_id is not None:
            more = self.plan.arrays[self.array_id].parallel + amount.strings
            found["arrays"] = {self.array_id: {"parallel": more}}
        if self.engine_id is not None:
            found |= self._engine(amount.engine_h)
        return found

    def _more_stations(self, station: Station, count: int) -> dict[str, Any]:
        """Stations like one that is there, each with a lead into its first AC input."""
        stations: dict[str, Any] = {}
        leads: dict[str, Any] = {}
        for number in range(count):
            key = free_id(f"{self.station_id}-more", {*self.plan.stations, *stations}, "station")
            name = f"{station.name}, one more" + (f" ({number + 1})" if number else "")
            told = station.model_dump(mode="json", exclude_none=True)
            stations[key] = {**told, "name": name[:80], "packs": {}}
            lead = free_id(f"from-{key}", {*self.plan.leads, *leads}, "lead")
            leads[lead] = {
                "source": {"kind": "station", "id": key, "outlet": _outlet(station)},
                "to": {"end": "input", "station_id": self.station_id, "when": "strategy",
                       "input_id": next(iter(station.ac_inputs))},
            }  # fmt: skip
        return {"stations": stations, "leads": leads}

    def _engine(self, hours: int) -> dict[str, Any]:
        assert self.engine_id is not None
        rules = rules_of(self.plan)
        own = next((r for r in rules if r["kind"] == "engine" and r["generator_id"] == self.engine_id), None)
        rule = own or EngineRule(generator_id=self.engine_id).model_dump(mode="json", exclude_none=True)
        begins = _first_hour(self.plan, self.engine_id)
        span = {"begins": _clock(begins), "ends": _clock(begins + max(1, hours))}
        told = {**rule, "on": True, "on_below_percent": BELOW, "off_above_percent": UP_TO, "hours": span}
        found: dict[str, Any] = {
            "strategy": {"rules": [told, *[other for other in rules if other is not own]]},
            "generators": {self.engine_id: {"on_hand_l": None}},
        }
        if not hours:
            act = {"at_s": 0.0, "room": "generators", "part_id": self.engine_id, "turn": "off"}
            found = {"outage": {"acts": {free_id("no-engine", set(self.plan.outage.acts), "act"): act}}}
        return found

    # ------------------------------------------------------------ what it is, costs and weighs

    def words(self, amount: Amount) -> str:
        """So much more, in words."""
        told = list(self._words(amount))
        return ", ".join(told) if told else "nothing more"

    def _words(self, amount: Amount) -> Iterator[str]:
        if amount.storage and self.station_id is not None:
            station = self.plan.stations[self.station_id]
            name = (
                station.packs[self.pack_id].name if self.pack_id is not None else f"{station.name} on a chain"
            )
            yield f"{name}: {amount.storage} more"
        if amount.strings and self.array_id is not None:
            array = self.plan.arrays[self.array_id]
            yield f"{array.name}: {amount.strings} more in parallel"
        if self.engine_id is not None:
            name = self.plan.generators[self.engine_id].name
            yield f"{name}: up to {amount.engine_h} h a day" if amount.engine_h else f"{name}: left off"

    def storage_wh(self, amount: Amount) -> float:
        """Energy of all stations with so much more, Wh."""
        held = sum(station.total_cell_wh for station in self.plan.stations.values())
        part = self._part()
        each = part.head_wh if isinstance(part, Station) else part.total_cell_wh / part.count if part else 0.0
        return held + amount.storage * each

    def _part(self) -> Pack | Station | None:
        if self.station_id is None:
            return None
        station = self.plan.stations[self.station_id]
        return station if self.pack_id is None else station.packs[self.pack_id]

    def _bought(self, amount: Amount) -> list[tuple[Pack | Station | SolarArray, float]]:
        """Parts that are bought, and how many of what their price and weight are said for."""
        part, array = self._part(), self.plan.arrays.get(self.array_id or "")
        found: list[tuple[Pack | Station | SolarArray, float]] = []
        if amount.storage and part is not None:
            found.append((part, float(amount.storage)))
        if amount.strings and array is not None:
            found.append((array, amount.strings / array.parallel))
        return found

    def money(self, amount: Amount) -> float | None:
        """What it costs, in the money of all prices; nothing where a price is not known."""
        parts = self._bought(amount)
        if any(part.price is None for part, _ in parts):
            return None
        return sum((part.price or 0.0) * count for part, count in parts)

    def weight_kg(self, amount: Amount) -> float | None:
        """What it weighs, kg; nothing where a weight is not known."""
        parts = self._bought(amount)
        if any(part.weight_kg is None for part, _ in parts):
            return None
        return sum((part.weight_kg or 0.0) * count for part, count in parts)

    def noise_db(self, amount: Amount) -> float | None:
        """How loud its engine is, dB; nothing where none runs or that is not known."""
        return self.plan.generators[self.engine_id].noise_db if self.engine_id and amount.engine_h else None

    def minutes_day(self, run: RunResult) -> float:
        """What an engine asks of someone, min a day: starts, looks, fuel. Common practice."""
        share = run.sources.get(f"generators/{self.engine_id}")
        days = run.length_s / 86_400.0
        if share is None or not share.starts:
            return 0.0
        return (MINUTES_A_DAY * share.starts + MINUTES_AN_HOUR * share.on_s / 3600.0) / days


def _outlet(station: Station) -> str | None:
    return next(iter(station.receptacles), None)


def _clock(hour: int) -> str:
    return f"{hour % 24:02d}:00:00"


def _first_hour(plan: Plan, engine_id: str) -> int:
    """The hour at which an engine's hours begin: not before its quiet hours are over."""
    quiet = plan.generators[engine_id].quiet
    if quiet is None or quiet.ends <= time(FIRST_HOUR) or quiet.ends > time(16):
        return FIRST_HOUR
    return quiet.ends.hour + (1 if quiet.ends.minute else 0)


def market_of(plan: Plan, feeding: Mapping[str, Station], run: RunResult) -> Market:
    """What can be had more of in a plan.

    Args:
        plan: the plan.
        feeding: stations that feed the house, or charge those that do.
        run: of the plan.

    Returns:
        The station with a pack of its kind, or one with an AC input where none has packs; the array that
        gives most into an input; the largest engine that is used.
    """
    station_id, pack_id = None, None
    for key, station in feeding.items():
        if station.packs:
            station_id, pack_id = key, next(iter(station.packs))
            break
        if station.ac_inputs and station_id is None:
            station_id = key
    arrays = [
        (array.module.watts * array.series * array.parallel, key)
        for key, array in plan.arrays.items()
        if array.station_id is not None and array.seen is None
    ]
    unused = {item.name for item in run.unused}
    engines = [
        (engine.rated_w, key)
        for key, engine in plan.generators.items()
        if engine.name not in unused and f"generators/{key}" in run.sources
    ]
    return Market(
        plan, station_id, pack_id, max(arrays)[1] if arrays else None, max(engines)[1] if engines else None
    )


def missing_words(market: Market) -> list[str]:
    """What cannot be compared, since the plan has none of it."""
    found = []
    if market.station_id is None:
        found.append("no station that takes a pack or another one on a chain")
    if market.array_id is None:
        found.append("no array on an input: add one in Gear to have modules compared")
    if market.engine_id is None:
        found.append("no engine that is used: add one in Gear to have its hours compared")
    return found
