"""Loads and circuits as the run carries them: compiled from the plan, with their state."""

import math
from datetime import datetime
from typing import TYPE_CHECKING, ClassVar, Final

from weary_cedar.core.demand import (
    Behaviour,
    CyclingDemand,
    JobDemand,
    RefrigeratingDemand,
    ReplayDemand,
    SteadyDemand,
    ThermostaticDemand,
    TimedDemand,
)
from weary_cedar.core.demand.cycling import default_phase
from weary_cedar.core.demand.thermostatic import set_point_changes
from weary_cedar.core.electrical.split_phase import phase_load
from weary_cedar.core.network import LEG_A, Network
from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.outage.cells_air import OUTDOORS
from weary_cedar.core.outage.weather import Constant, OutdoorTemperature
from weary_cedar.core.plan import (
    Cycling,
    Hang,
    Job,
    Load,
    Mark,
    Measured,
    Plan,
    Refrigerating,
    StartRule,
    Thermostatic,
    need_class,
)
from weary_cedar.core.plan.ids import free_id

if TYPE_CHECKING:
    from weary_cedar.core.outage.tree import LiveWay, Node

#: A compressor that stopped less than this ago starts against pressure. Common practice.
HARD_RESTART_S: Final = 300.0
#: A load that is without power again within this counts as never having had it back, s.
SAME_GAP_S: Final = 3_600.0


class ConnectedLoad:
    """One load on a circuit that may be on, with what the run knows of it."""

    __slots__ = (
        "across",
        "back_again_at",
        "back_at",
        "barred",
        "chosen_s",
        "chosen_since",
        "circuit",
        "clock_since",
        "clock_spent",
        "cut",
        "dark_spells",
        "demand",
        "draw_since",
        "draw_w",
        "failed_at",
        "gap_since",
        "had_power",
        "hand_at",
        "hard_va",
        "held",
        "id",
        "least_gap_s",
        "leg",
        "load",
        "locks_at",
        "mark",
        "name",
        "needs_bonded",
        "needs_hand",
        "no_surplus",
        "off_by_hand",
        "on_leg_a",
        "on_leg_b",
        "over_at",
        "path",
        "powered",
        "q_per_w",
        "rank",
        "rests",
        "series",
        "served_wh",
        "shed_since",
        "slot",
        "soft_va",
        "start",
        "stopped_at",
        "unserved_s",
        "unserved_since",
        "va_per_w",
        "way",
        "worth",
    )
    STATE: ClassVar[str] = (
        "back_again_at back_at barred chosen_s chosen_since clock_since clock_spent cut dark_spells "
        "draw_since draw_w failed_at gap_since had_power hand_at held least_gap_s leg locks_at needs_hand "
        "no_surplus off_by_hand over_at path powered rests series served_wh shed_since slot stopped_at "
        "unserved_s unserved_since way"
    )

    def __init__(self, load_id: str, load: Load, circuit: "ConnectedCircuit", demand: Behaviour) -> None:
        self.id = load_id
        self.load = load
        self.name = load.name
        self.circuit = circuit
        self.mark = circuit.mark
        self.across = len(circuit.legs) == 2
        self.on_leg_a = self.across or circuit.legs[0] in ("A", "L")
        self.on_leg_b = self.across or circuit.legs[0] == "B"
        #: The way that feeds it now, its leg there, and its place in the sums of that way.
        self.way: LiveWay | None = None
        self.leg = LEG_A
        self.slot = 0
        #: Nodes with limits from its way up to the root, with its leg at each.
        self.path: tuple[tuple[Node, int], ...] = ()
        #: Flame sensing on a floating source gives up at this moment, s.
        self.locks_at = math.inf
        self.q_per_w = phase_load(1.0, load.power_factor).vars
        self.va_per_w = math.hypot(1.0, self.q_per_w)
        #: Its start, and apparent power of that: within five minutes of stopping, and later, VA.
        self.start = load.start
        self.soft_va = load.start.va if load.start is not None else 0.0
        self.hard_va = self.soft_va * (load.restart_factor if load.compressor else 1.0)
        self.needs_bonded = load.needs_bonded
        self.demand = demand
        self.rank = 0
        #: What is given up first has the greatest: by mark, the person's order, class of need.
        self.worth = (circuit.mark == "room", circuit.order, need_class(load))
        self.powered = False
        self.shed_since: float | None = None
        self.needs_hand = False
        #: Someone switched it off, by an act of the plan.
        self.off_by_hand = False
        #: It waits while something else runs that it must never run beside.
        self.held = False
        #: It runs on sun that is left over, and there is none.
        self.no_surplus = False
        #: Someone leaves it off for a while, to spare the battery; it runs only beside what does not run.
        self.rests = self.barred = False
        self.hand_at = math.inf
        self.draw_w = 0.0
        self.draw_since = 0.0
        self.served_wh = 0.0
        self.stopped_at = -math.inf
        #: Whether it stopped for want of power, and the shortest time after which it then ran again, s.
        self.cut, self.least_gap_s = False, math.inf
        self.series: list[tuple[float, float]] = [(0.0, 0.0)]
        self.unserved_since: float | None = 0.0
        self.unserved_s = 0.0
        self.clock_since: float | None = None
        self.clock_spent = 0.0
        #: The gap that counts: since when, when power was last back, how many there were after the first.
        self.gap_since = 0.0
        self.back_at = -math.inf
        self.had_power = False
        self.dark_spells = 0
        #: When it lost power for longer than its tolerance, and when that became too long.
        self.failed_at: float | None = None
        self.over_at: float | None = None
        #: How long it was wanted and left off by choice, and since when it is, s.
        self.chosen_s = 0.0
        self.chosen_since: float | None = None
        #: When it had power again after that.
        self.back_again_at: float | None = None

    @property
    def by_rule(self) -> bool:
        """Whether a rule that names it keeps it off now."""
        return self.no_surplus or self.barred or self.rests

    @property
    def ready(self) -> bool:
        """Whether it would have power if the output were on."""
        waits = self.needs_hand or self.held or self.by_rule
        return self.circuit.closed and self.shed_since is None and not waits

    def start_va(self, t: float) -> float:
        """Apparent power of its start at `t`; harder within five minutes of stopping."""
        if self.start is None:
            return 0.0
        return self.hard_va if t - self.stopped_at < HARD_RESTART_S else self.soft_va

    def draw(self, t: float, watts: float) -> None:
        """Change what it really draws; books the energy up to now."""
        if watts == self.draw_w:
            return
        self.served_wh += self.draw_w * (t - self.draw_since) / 3600.0
        if watts == 0.0:
            self.stopped_at, self.cut = t, not self.powered
        elif self.draw_w == 0.0 and self.cut and t > self.stopped_at:
            self.least_gap_s = min(self.least_gap_s, t - self.stopped_at)
        self.draw_w = watts
        self.draw_since = t
        if self.way is not None:
            self.way.p[self.leg][self.slot] = watts
            self.way.q[self.leg][self.slot] = watts * self.q_per_w
            self.way.draws_otherwise()
        if self.series[-1][0] == t:
            self.series[-1] = (t, watts)
        else:
            self.series.append((t, watts))

    def mind_service(self, t: float, waiting_turn: bool, chosen: bool = False) -> None:
        """Run the tolerance clock: it runs while power is wanted and missing, rests in the queue.

        What someone chose to leave off is not missing.

        A gap that comes back within an hour goes on with the one before it.
        """
        wanted = self.demand.wants and not self.powered
        missing = wanted and not chosen
        if self.chosen_since is not None:
            self.chosen_s += t - self.chosen_since
        self.chosen_since = t if wanted and chosen else None
        if missing and self.unserved_since is None:
            self.unserved_since = t
            self.dark_spells += 1
        elif not missing and self.unserved_since is not None:
            self.unserved_s += t - self.unserved_since
            self.unserved_since = None
        runs = missing and not waiting_turn
        if self.clock_since is not None and not runs:
            self._read_clock(t)
            self.clock_since = None
            self.back_at = t if self.had_power else -math.inf
            if self.failed_at is not None and self.back_again_at is None:
                self.back_again_at = t
        self.had_power = self.had_power or self.powered
        if runs and self.clock_since is None:
            if t - self.back_at > SAME_GAP_S:
                self.gap_since, self.clock_spent = t, 0.0
            self.clock_since = t

    def _read_clock(self, t: float) -> None:
        if self.clock_since is None:
            return
        tolerance_s = self.load.tolerance_s
        total_s = self.clock_spent + t - self.clock_since
        if total_s > tolerance_s * (1 + 1e-12) and self.failed_at is None:
            self.failed_at = self.gap_since
            self.over_at = self.clock_since + max(0.0, tolerance_s - self.clock_spent)
        self.clock_spent = total_s

    def close_books(self, t: float) -> float:
        """End of the run: book what is open; returns the seconds of an unserved stretch still open."""
        self.served_wh += self.draw_w * (t - self.draw_since) / 3600.0
        self.draw_since = t
        self._read_clock(t)
        if self.chosen_since is not None:
            self.chosen_s, self.chosen_since = self.chosen_s + t - self.chosen_since, t
        if self.unserved_since is None:
            return 0.0
        open_s = t - self.unserved_since
        self.unserved_s += open_s
        return open_s


class ConnectedCircuit:
    """A circuit whose breaker may be closed in the outage, or the plug of a single load."""

    __slots__ = (
        "breaker_a",
        "closed",
        "id",
        "label",
        "legs",
        "loads",
        "mark",
        "most_a",
        "open_by_hand",
        "order",
        "plug",
        "queued",
        "way",
    )
    STATE: ClassVar[str] = "closed most_a open_by_hand queued way"

    def __init__(
        self, key: str, name: str, mark: Mark, order: int, legs: tuple[str, ...], breaker_a: float
    ) -> None:
        self.id = key
        self.label = name
        self.mark = mark
        self.order = order
        self.legs = legs
        #: No breaker of the house is in its way: the plug of a load that hangs on a lead by itself.
        self.plug = breaker_a == math.inf
        self.breaker_a = breaker_a
        self.closed = False
        self.queued = False
        #: Someone switched it off, by an act of the plan.
        self.open_by_hand = False
        self.way: LiveWay | None = None
        self.loads: list[ConnectedLoad] = []
        self.most_a = 0.0

    def note_current(self, leg_volts: float) -> None:
        """Keep the greatest current seen through the breaker, in A."""
        watts = reactive = 0.0
        for load in self.loads:
            watts += load.draw_w
            reactive += load.draw_w * load.q_per_w
        amps = math.hypot(watts, reactive) / (leg_volts * len(self.legs))
        self.most_a = max(self.most_a, amps)


def _circuit(plan: Plan, key: str) -> ConnectedCircuit:
    circuit = plan.circuits[key]
    legs = plan.circuit_legs(key)
    return ConnectedCircuit(key, circuit.label, circuit.mark, circuit.order, legs, circuit.rated_a)


def _plug(name: str, hang: Hang) -> ConnectedCircuit:
    legs = ("A", "B") if hang.poles == 2 else ("A",)
    return ConnectedCircuit(hang.branch, name, hang.mark, hang.order, legs, math.inf)


def connect(
    plan: Plan, network: Network, calendar: Calendar, outdoors: OutdoorTemperature
) -> tuple[list[ConnectedCircuit], list[ConnectedLoad]]:
    """Circuits that some way carries, in order of restoring, with loads.

    Rank 0 is the last to be shed: keep before room, then by the person's order, then by class of need.
    """
    circuits = {key: _circuit(plan, key) for key in plan.circuits if key in network.carried}
    called: list[str] = []
    for key, load in plan.loads.items():
        called.append(free_id(load.name, called))
        hang = network.hangs[key]
        if hang.lead_id is not None and hang.branch in network.branches:
            circuits[hang.branch] = _plug(load.name, hang)
        circuit = circuits.get(hang.branch)
        if circuit is not None:
            demand = _demand(plan, key, default_phase(called[-1]), calendar, outdoors)
            circuit.loads.append(ConnectedLoad(key, load, circuit, demand))
    ordered = sorted(circuits.values(), key=lambda c: (c.mark == "room", c.order))
    loads = sorted((load for circuit in ordered for load in circuit.loads), key=lambda load: load.worth)
    for rank, connected in enumerate(loads):
        connected.rank = rank
    return ordered, loads


def begun_as_told(plan: Plan, key: str, job: Job) -> Job:
    """A job with the hour at which a rule begins it, if one does; it may be begun for as long as before."""
    rule = next((rule for rule in plan.strategy.followed(StartRule) if rule.load_id == key), None)
    if rule is None:
        return job
    day = datetime(2000, 1, 1)
    span = datetime.combine(day, job.latest) - datetime.combine(day, job.earliest)
    latest = (datetime.combine(day, rule.at) + span).time()
    return job.model_copy(update={"earliest": rule.at, "latest": latest})


def _demand(
    plan: Plan, key: str, phase: float, calendar: Calendar, outdoors: OutdoorTemperature
) -> Behaviour:
    load = plan.loads[key]
    spec = load.behaviour
    if isinstance(spec, Cycling):
        cycle = CyclingDemand(spec, phase if spec.phase is None else spec.phase)
        if spec.hours is None:
            return cycle
        return TimedDemand(cycle, calendar.windows(spec.hours.begins, spec.hours.ends))
    if isinstance(spec, Job):
        return JobDemand(spec, calendar.job_windows(begun_as_told(plan, key, spec)))
    if isinstance(spec, Thermostatic):
        night = spec.setback
        windows = calendar.windows(night.begins, night.ends) if night else []
        return ThermostaticDemand(spec, outdoors, set_point_changes(spec, windows))
    if isinstance(spec, Refrigerating):
        place = plan.places.get(load.place_id or "")
        around = outdoors if place is not None and place.kind in OUTDOORS else Constant(spec.room_c)
        return RefrigeratingDemand(spec, around, phase)
    if isinstance(spec, Measured):
        return ReplayDemand(spec)
    return SteadyDemand(spec.watts)
