"""What the checks look at: the plan, its run, and sums that several of them need."""

import math
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from weary_cedar.core.checks.finding import Element, Figure, Figures
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.electrical.motor_start import START_FACTOR
from weary_cedar.core.electrical.split_phase import PhaseLoad, phase_load
from weary_cedar.core.errors import WearyCedarError
from weary_cedar.core.handles.arrangements import arrangements
from weary_cedar.core.handles.dangers import Code, Looked
from weary_cedar.core.network import ACROSS, LEG_A, LEG_B, Network, Way, network_of
from weary_cedar.core.network.feed_limits import FeedLimits, feed_limits
from weary_cedar.core.network.path import Path
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.cells_air import OUTDOORS
from weary_cedar.core.outage.result import SourceShare
from weary_cedar.core.plan import (
    Circuit,
    Cycling,
    Generator,
    Hookup,
    Job,
    Load,
    Mark,
    Measured,
    Place,
    Plan,
    Receptacle,
    Refrigerating,
    Station,
    Steady,
    Thermostatic,
    plug_of,
)
from weary_cedar.core.supply.engine import engine_curve
from weary_cedar.core.supply.overload import OverloadCurve

#: Current past a ground-fault device of class A that trips it, A. UL 943, from memory.
GFCI_A = 0.006
#: A breaker trips at once at so many times its rating. Common practice.
AT_ONCE = 5.0
#: A load that draws this long at a time is continuous, s. NFPA 70 (2023) article 100, from memory.
CONTINUOUS_S = 3 * 3600.0
#: What has a motor wherever it has a start; a start over so many times the running VA is a motor's.
MOTOR_ROLES, MOTOR_START = ("pump", "tool", "food", "heat"), 2.5
#: What is a motor even where no start is said.
MOTOR_CLASSES = ("pump", "tool")
#: What the easiest motors take over their running current, and how long a start takes, s. Common practice.
EASIEST, USUAL_START_S = 3.0, 0.5
#: A load that varies is at work while it draws more than this share of its most. Common practice.
LASTING_SHARE = 0.5


class Facts:
    """A plan as the checks see it."""

    def __init__(self, plan: Plan, run: RunResult | None = None, unshed: RunResult | None = None) -> None:
        self.plan = plan
        self._run = run
        self._unshed = unshed
        self._not_run: WearyCedarError | None = None

    @property
    def run(self) -> RunResult:
        """The run of the plan as it stands.

        Raises:
            WearyCedarError: it cannot be run; that is found out once, whoever asks again.
        """
        if self._not_run is not None:
            raise self._not_run
        if self._run is None:
            try:
                self._run = run_outage(self.plan)
            except WearyCedarError as error:
                self._not_run = error
                raise
        return self._run

    @cached_property
    def unshed(self) -> RunResult:
        """The run with nobody shedding."""
        if self._unshed is not None:
            return self._unshed
        if not any(event.kind == "shed" for event in self.run.events):
            return self.run
        strategy = self.plan.strategy.model_copy(update={"shedding": "none"})
        return run_outage(self.plan.model_copy(update={"strategy": strategy}))

    # ------------------------------------------------------------ elements

    def element(self, room: str, key: str) -> Element:
        """A part of the plan by name."""
        if room == "site":
            return Element(room=room, id="site", name=self.plan.site.name)
        part = getattr(self.plan, room)[key]
        if room == "leads":
            return Element(room=room, id=key, name=self.plan.lead_name(key))
        if room == "feeds":
            name = part.name or f"feed of {self.plan.panels[part.panel_id].name}"
            return Element(room=room, id=key, name=name)
        if room == "circuits":
            spaces = " ".join(str(space) for space in part.spaces)
            return Element(room=room, id=key, name=f"Breaker {spaces} · {part.label}")
        return Element(room=room, id=key, name=part.name)

    def source_name(self, feed: Hookup) -> str:
        """Name of the station, link or generator of a feed."""
        return self.plan.source_name(feed)

    # ------------------------------------------------------------ feeds

    @property
    def panel_feeds(self) -> list[tuple[str, Hookup]]:
        """Feeds that put house wiring under power."""
        return [(key, feed) for key, feed in self.plan.hookups.items() if feed.traits.panel]

    def source(self, feed: Hookup) -> Station | Generator:
        """Station or generator of a feed."""
        return self.plan.source(feed)

    def outlet(self, feed: Hookup) -> Receptacle | None:
        """The outlet of the source that a feed begins at."""
        outlets = self.plan.outlets_of(feed.source_kind, feed.source_id)
        return outlets.get(feed.receptacle_id)

    @staticmethod
    def of_changeover(feed: Hookup, name: str, value: object) -> dict[str, Any]:
        """A patch of how a hook-up changes over: at its feed if that says so itself, else of the outage."""
        if feed.feed_id is not None and getattr(feed, name) is not None:
            return {"feeds": {feed.feed_id: {name: value}}}
        return {"outage": {name: value}}

    def reached(self, feed: Hookup) -> dict[str, Circuit]:
        """Circuits that a feed can put under power, whatever their mark."""
        found = self.network.reached(feed)
        return {key: circuit for key, circuit in self.plan.circuits.items() if key in found}

    def on(self, feed: Hookup) -> dict[str, Circuit]:
        """Circuits of a feed that are not marked off."""
        return {key: c for key, c in self.reached(feed).items() if c.mark != "off"}

    def loads_on(self, branches: Collection[str]) -> dict[str, Load]:
        """Loads on some circuits or plugs."""
        return {key: self.plan.loads[key] for key in self.network.loads_of(branches)}

    def reachable(self, feed: Hookup) -> dict[str, Load]:
        """Loads that a feed can put under power, whatever their mark."""
        return self.loads_on({*self.reached(feed), *map(plug_of, feed.load_ids)})

    def wanted(self, feed: Hookup, mark: Mark | None = None) -> dict[str, Load]:
        """Loads of a feed with a mark; all that are not marked off where none is named."""
        found = self.reachable(feed)
        marks = {key: self.network.hangs[key].mark for key in found}
        return {
            key: load
            for key, load in found.items()
            if marks[key] == mark or (not mark and marks[key] != "off")
        }

    def fed_at(self, way: Way) -> dict[str, Load]:
        """Loads that a way of the run feeds."""
        return self.loads_on(way.branches)

    @cached_property
    def network(self) -> Network:
        """Who reaches what."""
        return network_of(self.plan)

    @property
    def paths(self) -> Mapping[str, Path]:
        """Every lead as a row of elements, by its id."""
        return self.network.paths

    @cached_property
    def looked(self) -> Looked:
        """What came of looking at every arrangement of handles."""
        return arrangements(self.network)

    def way_to(self, code: Code, *leads: str) -> str:
        """The shortest way to a danger between some leads, in words; empty where no arrangement has it."""
        found = (d for d in self.looked.dangers if d.code == code and set(leads) <= set(d.leads))
        return next((f"the shortest way: {danger.words}" for danger in found), "")

    @property
    def ways(self) -> tuple[Way, ...]:
        """Feeds that the run uses; none where it could not run."""
        return self.network.running if self.run.ledger is not None else ()

    @cached_property
    def charging_from(self) -> set[str]:
        """Circuits that a charger hangs on: their mark takes no hazard away."""
        return {r.from_id for r in self.plan.recharges.values() if r.kind == "circuit"}

    @cached_property
    def on_cords(self) -> set[str]:
        """Circuits whose loads hang on cords, so that their breaker at home carries nothing."""
        return {c for feed in self.plan.hookups.values() if feed.kind == "cords" for c in feed.circuit_ids}

    @cached_property
    def carried_here(self) -> set[str]:
        """Circuits whose breaker at home carries something in the outage."""
        return set(self.network.carried) - self.on_cords

    def limits(self, way: Way) -> FeedLimits:
        """Limits of a feed."""
        return feed_limits(self.plan, way.hookup)

    def source_leg_va(self, way: Way) -> float:
        """What one leg of a feed's source is rated for, VA: what its overload curve is read against."""
        rating = next(e.rating_a for e in self.limits(way).elements if e.key == "station-leg")
        return rating * self.plan.site.leg_volts

    def curve(self, way: Way) -> OverloadCurve:
        """What the source of a feed carries over its rating, and for how long."""
        source = self.plan.source(way.hookup)
        return engine_curve(source) if isinstance(source, Generator) else OverloadCurve(source.curve)

    @cached_property
    def not_run(self) -> list[tuple[Element, str]]:
        """Feeds that are not run, and why, where that leaves something open."""
        return [
            (self.element("leads", way.lead_id), way.why_not)
            for way in self.network.ways
            if way.why_not and not way.hookup.traits.refused
        ]

    def share(self, run: RunResult, way: Way) -> SourceShare | None:
        """What the source of a feed gave in a run."""
        return run.sources.get(f"{way.hookup.source_kind}s/{way.hookup.source_id}")

    @property
    def main(self) -> Way | None:
        """The feed that carries most of what must run, if any is run."""
        main = self.network.main
        return main if main is not None and not main.why_not else None

    # ------------------------------------------------------------ weather

    def coldest_at(self, place: Place) -> float | None:
        """Coldest of a place, °C: as said of it, and by the plan's weather where that is outdoors."""
        weather = [self.plan.outage.weather.lowest_c] if place.kind in OUTDOORS else []
        return None if place.coldest_c is None else min([place.coldest_c, *weather])

    def hottest_at(self, place: Place) -> float | None:
        """Hottest of a place, °C, likewise."""
        weather = [self.plan.outage.weather.highest_c] if place.kind in OUTDOORS else []
        return None if place.hottest_c is None else max([place.hottest_c, *weather])

    def colder_now(self, place: Place, limit_c: float) -> float | None:
        """Coldest of the weather at a place outdoors that nobody has measured, °C, if under a limit."""
        lowest_c = self.plan.outage.weather.lowest_c
        known = place.kind not in OUTDOORS or place.coldest_c is not None
        return None if known or lowest_c >= limit_c else lowest_c

    @property
    def coldest_modules_c(self) -> float | None:
        """Coldest that modules may see, °C: the site's, and the plan's weather where that is colder."""
        design_c = self.plan.site.design_low_c
        return None if design_c is None else min(design_c, self.plan.outage.weather.lowest_c)

    # ------------------------------------------------------------ loads

    @cached_property
    def left_off(self) -> set[str]:
        """Loads that the run leaves off because they trip what feeds them."""
        return {key for event in self.run.events if event.kind == "left_off" for key in event.loads}

    @cached_property
    def _keys(self) -> dict[int, str]:
        return {id(load): key for key, load in self.plan.loads.items()}

    def legs_of(self, load: Load) -> tuple[str, ...]:
        """Legs that a load is on."""
        return self.network.legs_of(self._keys[id(load)])

    def kept(self, way: Way | None = None) -> dict[str, Load]:
        """Loads marked keep that a feed carries; of any feed where none is named."""
        carried = self.network.branches if way is None else way.branches
        found = self.loads_on(carried)
        return {key: load for key, load in found.items() if self.network.hangs[key].mark == "keep"}

    def legs_at(self, way: Way, load: Load) -> tuple[str, ...]:
        """Legs of the source that a load draws on through a feed."""
        if not self.plan.site.split_phase:
            return ("L",)
        branch = self.network.hangs[self._keys[id(load)]].branch
        return {LEG_A: ("A",), LEG_B: ("B",), ACROSS: ("A", "B")}[way.branches[branch]]

    def kept_sums(self, way: Way) -> dict[str, PhaseLoad]:
        """Watts and vars of everything marked keep on a feed together, by leg of its source."""
        names = ("A", "B") if self.plan.site.split_phase else ("L",)
        sums = {name: PhaseLoad(0.0) for name in names}
        for load in self.kept(way).values():
            legs = self.legs_at(way, load)
            for leg in legs:
                sums[leg] = sums[leg] + phase_load(on_watts(load) / len(legs), load.power_factor)
        return sums

    def amps(self, load: Load) -> float:
        """Running amps of a load on its legs."""
        legs = self.legs_of(load)
        return on_watts(load) / load.power_factor / (self.plan.site.leg_volts * len(legs))

    def continuous(self, load: Load) -> bool:
        """Whether it draws for three hours or more at a time: as said, by its behaviour, or in the run."""
        if load.continuous is not None:
            return load.continuous
        spec = load.behaviour
        if isinstance(spec, Steady):
            return spec.watts > 0
        if isinstance(spec, Job):
            return sum(step.minutes for step in spec.steps if step.watts > 0) * 60 >= CONTINUOUS_S
        if isinstance(spec, Cycling):
            on_s = math.inf if spec.duty == 1 and spec.on_w > 0 else spec.duty * spec.period_s
            return spec.on_w > 0 and min(on_s, _longest_hours_s(spec)) >= CONTINUOUS_S
        if isinstance(spec, Measured):
            times = [*spec.t_s, spec.length_s]
            return longest_s(times, spec.watts, LASTING_SHARE * max(spec.watts)) >= CONTINUOUS_S
        course = self.run.load_series.get(self._keys[id(load)])
        if course is None:
            return False
        times = [*course.t_s, self.run.length_s]
        return longest_s(times, course.watts, LASTING_SHARE * on_watts(load)) >= CONTINUOUS_S

    def at_once_a(self, loads: Iterable[Load], lasting: float = 1.0) -> float:
        """The greatest current of some loads at one moment of the day, A: jobs of other hours are apart.

        Args:
            loads: of one circuit.
            lasting: factor on what draws for three hours or more.
        """
        always, jobs = 0.0, []
        for load in loads:
            amps = self.amps(load) * (lasting if self.continuous(load) else 1.0)
            if isinstance(load.behaviour, Job):
                jobs.append((*_window(load.behaviour), amps))
            else:
                always += amps
        moments = [begins for begins, _, _ in jobs]
        together = [
            sum(amps for begins, lasts, amps in jobs if (at - begins) % DAY_MIN < lasts) for at in moments
        ]
        return always + max(together, default=0.0)

    def most_neutral_a(self, lead_id: str) -> float | None:
        """Greatest current of the neutral of a way in the run, A; none where it has not run.

        Source: `RunResult.peaks`: the sum of both legs as phasors; of one hot, all of it.
        """
        share, peaks = self.run.ways.get(lead_id), self.run.peaks.get(lead_id)
        return None if share is None or peaks is None or not share.t_s else peaks.neutral_a

    def greatest_flow(self, key: str, lead_id: str) -> float:
        """Greatest flow of an element of a feed in A, as planned or with nobody shedding."""
        flows = [
            f for run in (self.run, self.unshed) for f in run.flows if f.key == key and f.feed == lead_id
        ]
        return max((flow.flow for flow in flows), default=0.0)

    def flow(self, key: str, lead_id: str) -> tuple[float, float] | None:
        """Greatest flow and rating of an element of a feed."""
        found = next((flow for flow in self.run.flows if flow.key == key and flow.feed == lead_id), None)
        return (found.flow, found.rating) if found else None


def no_fault_path(breaker_a: float) -> Figures:
    """What a short from hot to a case is given where no conductor leads back, and what its breaker needs."""
    return (
        Figure(name="a short from hot to a case is given", value=0.0, unit="A"),
        Figure(name="its breaker needs, to trip at once", value=AT_ONCE * breaker_a, unit="A"),
    )


def is_motor(load: Load) -> bool:
    """Whether a load is a motor: it says so, its class is one, or its start takes what only motors take.

    Source: common practice; motors start on 4 to 8 times their running current, other things on less.
    """
    if load.compressor or load.locked_rotor_a is not None or load.role in MOTOR_CLASSES:
        return True
    spec = load.behaviour
    if isinstance(spec, Refrigerating) or (isinstance(spec, Thermostatic) and spec.mode == "cool"):
        return True
    if load.start is None:
        return False
    return load.role in MOTOR_ROLES or load.start.va >= MOTOR_START * on_watts(load) / load.power_factor


@dataclass(frozen=True)
class Starting:
    """What a load takes while it starts, in all, and whether that is its class's figure and nobody's."""

    va: float
    seconds: float
    assumed: bool = False

    @property
    def least_va(self) -> float:
        """What it takes at least, VA: as said; of a class, what the easiest of it take."""
        return self.va * EASIEST / START_FACTOR if self.assumed else self.va

    @property
    def words(self) -> str:
        """How the figure was come by, where nobody said it."""
        return f"assumed: {START_FACTOR:g} × its running current, for its start is not said" * self.assumed


def start_of(load: Load) -> Starting | None:
    """The start of a load: as said, else of a motor as its class starts.

    Args:
        load: of the plan.

    Returns:
        VA in all and seconds; nothing where a load has no start.

    Source: 6 × the running current, common practice; the easiest motors take about 3 ×.
    """
    if load.start is not None:
        return Starting(load.start.va, load.start.seconds)
    runs_va = on_watts(load) / load.power_factor
    if load.soft_start or not is_motor(load) or runs_va <= 0 or load.locked_rotor_a is not None:
        return None
    return Starting(START_FACTOR * runs_va, USUAL_START_S, assumed=True)


#: Minutes of a day.
DAY_MIN = 1_440.0


def _window(job: Job) -> tuple[float, float]:
    """When a job may be at work: its first minute of the day, and for how many minutes from then."""
    begins = job.earliest.hour * 60 + job.earliest.minute
    latest = job.latest.hour * 60 + job.latest.minute
    return float(begins), (latest - begins) % DAY_MIN + sum(step.minutes for step in job.steps)


def longest_s(times: Sequence[float], watts: Sequence[float], above_w: float) -> float:
    """Longest stretch of a course of change points that stays above a level, s; one time more than watts."""
    longest, since = 0.0, None
    for index, value in enumerate(watts):
        if value <= above_w or value <= 0:
            since = None
            continue
        since = times[index] if since is None else since
        longest = max(longest, times[index + 1] - since)
    return longest


def _longest_hours_s(spec: Cycling) -> float:
    """How long a timer lets a load run at a time, s."""
    if spec.hours is None:
        return math.inf
    begins, ends = spec.hours.begins, spec.hours.ends
    minutes = (ends.hour - begins.hour) * 60 + ends.minute - begins.minute
    return 60.0 * (minutes % 1440)
