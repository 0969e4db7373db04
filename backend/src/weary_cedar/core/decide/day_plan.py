"""Each day of an outage in a paragraph: what could be stuck on the refrigerator."""

from collections.abc import Iterator, Sequence
from datetime import datetime, time

from pydantic import BaseModel

from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.outage.result import EventKind, RunResult
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.load import Job

#: Events that one has to be ready for, gravest first.
WATCHED: tuple[EventKind, ...] = (
    "trip", "empty", "keep_lost", "breaker_trip", "locked_out", "food_warm", "engine_dry", "left_off",
    "source_empty", "room_shed", "input_trip",
)  # fmt: skip
#: Events that stand among the hours of a day.
TOLD: tuple[EventKind, ...] = (*WATCHED, "act", "plug", "swap", "grid")
#: So many of them are told for a day; how many more there are is said.
MOST_WATCHED = 4
#: Under this a source is taken as giving nothing, W.
DARK_W = 1.0
#: Stretches that lie closer together are told as one, s.
JOINED_S = 1_800.0


class Doing(BaseModel):
    """Something to do, or that happens, at an hour of a day."""

    at: datetime
    until: datetime | None = None
    words: str


class DayPlan(BaseModel):
    """One day: its name, a paragraph, and its hours one by one."""

    day: str
    begins: datetime
    ends: datetime
    text: str
    doings: list[Doing]


def day_plan(plan: Plan, run: RunResult) -> list[DayPlan]:
    """Each day of the outage in words, made from its run alone.

    Args:
        plan: the plan.
        run: of that plan.

    Returns:
        A paragraph for each calendar day that the outage touches; none where nothing was run. Energies
        are Wh taken from the sun, charges are those of all stations together.
    """
    if run.ledger is None:
        return []
    calendar = Calendar(plan.site, plan.outage)
    days, day, begins = [], 0, 0.0
    while begins < run.length_s:
        ends = min(calendar.moment(day + 2, time(0)), run.length_s)
        days.append(_Day(plan, run, calendar, day + 1, begins, ends).told())
        day, begins = day + 1, ends
    return days


class _Day:
    def __init__(
        self, plan: Plan, run: RunResult, calendar: Calendar, day: int, begins: float, ends: float
    ) -> None:
        self.plan, self.run, self.calendar = plan, run, calendar
        self.day, self.begins, self.ends = day, begins, ends
        self.units = plan.site.units

    def told(self) -> DayPlan:
        """The day as it is shown."""
        topics = (self._sun, self._engines, self._utility, self._jobs, self._charges, self._watch)
        parts = [part for topic in topics for part in topic()]
        first = self._at(self.begins)
        return DayPlan(
            day=f"{first:%a} {first.day} {first:%b}",
            begins=first,
            ends=self._at(self.ends),
            text=" ".join(f"{part}." for part in parts),
            doings=sorted(self._doings(), key=lambda doing: doing.at),
        )

    def _at(self, t: float) -> datetime:
        return self.plan.site.instant(self.plan.outage.start_local, t)

    def _time(self, t: float) -> str:
        return self.units.told_time(self._at(t))

    def _span(self, span: tuple[float, float]) -> str:
        return f"{self._time(span[0])} to {self._time(span[1])}"

    # -------------------------------------------------------- what is said

    def _sun(self) -> Iterator[str]:
        offered = sum(self._wh(sun.t_s, sun.offered_w) for sun in self.run.suns.values())
        taken = sum(self._wh(sun.t_s, sun.taken_w) for sun in self.run.suns.values())
        if not self.run.suns:
            return
        if offered < DARK_W:
            yield "No sun on the modules"
            return
        lost = f" of the {offered / 1000:.1f} kWh that it offers" if offered - taken > 0.05 * offered else ""
        yield f"The sun gives {taken / 1000:.1f} kWh{lost}"

    def _engines(self) -> Iterator[str]:
        for key, engine in self.plan.generators.items():
            spans = self._ran(f"generators/{key}")
            if spans:
                before, until = (self._hours_run(f"generators/{key}", at) for at in (self.begins, self.ends))
                told = ", ".join(map(self._span, spans))
                yield f"{_begun(engine.name)} runs {until - before:.1f} h: {told}"

    def _utility(self) -> Iterator[str]:
        for window in sorted(self.plan.outage.grid.values(), key=lambda window: window.at_s):
            first, last = max(window.at_s, self.begins), min(window.at_s + window.for_s, self.ends)
            if last > first:
                yield f"The utility is back from {self._span((first, last))}"

    def _jobs(self) -> Iterator[str]:
        found = [f"{load} at {self._time(first)}" for load, first, _ in self._job_runs()]
        if found:
            yield f"May run: {', '.join(found)}"

    def _charges(self) -> Iterator[str]:
        told = [
            f"{self._charge(t):.0f} % {words} ({self._time(t)})"
            for words, t in (("at sunrise", self._sunrise()), ("at bedtime", self._bedtime()))
            if t is not None
        ]
        if told and self.run.batteries:
            yield f"Charge {', '.join(told)}"

    def _watch(self) -> Iterator[str]:
        events = [e for e in self.run.events if self.begins <= e.t_s < self.ends and e.kind in WATCHED]
        events.sort(key=lambda event: WATCHED.index(event.kind))
        told = [f"{event.what} at {self.units.told_time(event.at)}" for event in events[:MOST_WATCHED]]
        told += [*self._spoilt(), *self._cold()]
        more = f" and {len(events) - MOST_WATCHED} more" if len(events) > MOST_WATCHED else ""
        if told:
            yield f"Watch: {'; '.join(told)}{more}"

    def _spoilt(self) -> Iterator[str]:
        for part in self.run.compartments.values():
            if part.spoils_at_s is not None and self.begins <= part.spoils_at_s < self.ends:
                yield f"throw away what spoils in {part.name} from {self._time(part.spoils_at_s)} on"

    def _cold(self) -> Iterator[str]:
        for room in self.run.indoor.values():
            if room.under_at_s is not None and self.begins <= room.under_at_s < self.ends:
                limit = self.units.told_warmth(room.limit_c or 0.0)
                yield f"colder than {limit} indoors from {self._time(room.under_at_s)} on: mind the pipes"

    def _doings(self) -> Iterator[Doing]:
        for key, engine in self.plan.generators.items():
            for first, last in self._ran(f"generators/{key}"):
                yield Doing(at=self._at(first), until=self._at(last), words=f"{engine.name} runs")
        for name, first, last in self._job_runs():
            yield Doing(at=self._at(first), until=self._at(last), words=f"{name} may run")
        bedtime = self._bedtime()
        if bedtime is not None and self.run.batteries:
            words = f"bedtime: {self._charge(bedtime):.0f} % should be left"
            yield Doing(at=self._at(bedtime), words=words)
        for event in self.run.events:
            if self.begins <= event.t_s < self.ends and event.kind in TOLD:
                yield Doing(at=event.at, words=event.what)

    # -------------------------------------------------------- figures of the day

    def _wh(self, times: Sequence[float], watts: Sequence[float]) -> float:
        """Energy of a course of change points within the day, Wh."""
        total = 0.0
        for index, t in enumerate(times):
            last = times[index + 1] if index + 1 < len(times) else self.run.length_s
            total += watts[index] * max(0.0, min(last, self.ends) - max(t, self.begins))
        return total / 3600.0

    def _ran(self, source: str) -> list[tuple[float, float]]:
        """When an engine ran within the day; breaks of less than half an hour are not told."""
        share = self.run.sources.get(source)
        found: list[tuple[float, float]] = []
        for span in share.ran if share else ():
            first, last = max(span.begins_s, self.begins), min(span.ends_s, self.ends)
            if last <= first:
                continue
            if found and first - found[-1][1] < JOINED_S:
                found[-1] = (found[-1][0], last)
            else:
                found.append((first, last))
        return found

    def _hours_run(self, source: str, t: float) -> float:
        """Hours that an engine ran until a moment, in tenths: those of all days add up to the whole."""
        spans = self.run.sources[source].ran
        return round(sum(max(0.0, min(span.ends_s, t) - span.begins_s) for span in spans) / 3600.0, 1)

    def _job_runs(self) -> list[tuple[str, float, float]]:
        """Jobs that begin on this day: name, begin and end, s."""
        found = []
        for key, load in self.plan.loads.items():
            course = self.run.load_series.get(key)
            if not isinstance(load.behaviour, Job) or course is None:
                continue
            begun: float | None = None
            for t, watts in zip((*course.t_s, self.run.length_s), (*course.watts, 0.0), strict=True):
                if watts > DARK_W and begun is None:
                    begun = t
                elif watts <= DARK_W and begun is not None:
                    if self.begins <= begun < self.ends:
                        found.append((load.name, begun, t))
                    begun = None
        return sorted(found, key=lambda item: item[1])

    def _sunrise(self) -> float | None:
        """When the sun first offers something on this day, s."""
        found = [
            t
            for sun in self.run.suns.values()
            for t, watts in zip(sun.t_s, sun.offered_w, strict=True)
            if watts > DARK_W and self.begins < t < self.ends
        ]
        return min(found, default=None)

    def _bedtime(self) -> float | None:
        t = self.calendar.moment(self.day, self.plan.outage.occupancy.sleeps)
        return t if self.begins <= t < self.ends else None

    def _charge(self, t: float) -> float:
        """Charge of all stations together, %; straight between change points."""
        series = self.run.series
        later = next((i for i, at in enumerate(series.t_s) if at > t), len(series.t_s))
        before = max(0, later - 1)
        if later >= len(series.t_s):
            return series.charge_percent[before]
        first, last = series.t_s[before], series.t_s[later]
        share = (t - first) / (last - first)
        low, high = series.charge_percent[before], series.charge_percent[later]
        return low + share * (high - low)


def _begun(name: str) -> str:
    return name[:1].upper() + name[1:]
