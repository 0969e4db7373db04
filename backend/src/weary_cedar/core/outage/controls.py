"""People and controllers in the run: who swaps, starts, plugs in and restarts, and when.

Each looks at the state when it was asked to, acts at once where it is automatic, and otherwise at the
first moment with someone awake at home. The order is that of the plan's rules.
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Sequence
from typing import TYPE_CHECKING, ClassVar, Final, TypeVar

from weary_cedar.core.outage.carriers import EngineCarrier, StationCarrier, VehicleCarrier
from weary_cedar.core.outage.leg_sums import SLACK
from weary_cedar.core.plan import AnyRule, EngineRule, HandCycleRule, PlugRule, ShedRule, Station, WhileRule

if TYPE_CHECKING:
    from weary_cedar.core.outage.assemble import DcLead
    from weary_cedar.core.outage.connected import ConnectedLoad
    from weary_cedar.core.outage.kernel import OutageRun
    from weary_cedar.core.outage.tree import LiveLink
    from weary_cedar.core.supply.unit import Unit

NEVER: Final = math.inf
#: A station that went empty is switched on again this far above its cut-off, % points, unless it says.
RESTART_ABOVE: Final = 10.0


class Control(ABC):
    """Something that decides; `due_s` is when it acts or looks by itself."""

    STATE: ClassVar[str] = "due_s kept_off"

    def __init__(self, line: AnyRule | None = None) -> None:
        self.due_s = NEVER
        #: Since when and until when it kept something off, s.
        self.kept_off: list[tuple[float, float]] = []
        #: The line of the strategy that it follows, if there is one.
        self.line = line

    @property
    @abstractmethod
    def about(self) -> str:
        """The part that it acts on, by key: with its line that tells it from others of its kind."""

    def keeps_off(self, t: float, end_s: float, *, off: bool) -> None:
        """It keeps something off from now on, or lets it run again."""
        if off:
            self.kept_off.append((t, end_s))
        elif self.kept_off:
            self.kept_off[-1] = (self.kept_off[-1][0], t)

    @abstractmethod
    def look(self, run: OutageRun, t: float) -> None:
        """See what is wanted, and set when it is done."""

    @abstractmethod
    def act(self, run: OutageRun, t: float) -> None:
        """Do it."""


LoadRule = TypeVar("LoadRule", HandCycleRule, WhileRule)


def of_the_first(
    rules: Sequence[LoadRule], loads: Sequence[ConnectedLoad]
) -> list[tuple[LoadRule, list[ConnectedLoad]]]:
    """Rules with the loads that follow them: a load follows the first that names it."""
    taken: set[str] = set()
    found = []
    for rule in rules:
        own = [load for load in loads if load.id in rule.load_ids and load.id not in taken]
        taken.update(load.id for load in own)
        if own:
            found.append((rule, own))
    return found


class EngineControl(Control):
    """Starts and stops an engine by the charge of what it fills, within its hours."""

    STATE: ClassVar[str] = Control.STATE + " started_s starts_s stops_s wants told_s leaves_s"

    def __init__(self, carrier: EngineCarrier, rule: EngineRule | None, links: list[LiveLink]) -> None:
        super().__init__(rule)
        self.carrier = carrier
        self.rule = rule or EngineRule(generator_id=carrier.engine.key)
        self.links = links
        self.beside: list[StationCarrier] = []
        self.alone = False
        self.started_s = -NEVER
        self.starts_s = self.stops_s = NEVER
        self.quiet: list[tuple[float, float]] = []
        self.hours: list[tuple[float, float]] | None = None
        #: It was started for a low charge and has not filled what it fills yet.
        self.wants = False
        #: For when it was last foreseen that it is left running, s.
        self.told_s = -NEVER
        #: When whoever would stop it by hand goes to bed, or away, s.
        self.leaves_s = NEVER

    @property
    def about(self) -> str:
        return self.carrier.key

    @property
    def running(self) -> bool:
        """Whether the engine runs."""
        return self.carrier.engine.running

    @property
    def feeds_house(self) -> bool:
        """Whether it runs for the house, and not only to charge."""
        return self.running and self.rule.purpose != "charging"

    @property
    def charges(self) -> bool:
        """Whether it runs and charges."""
        return self.running and self.rule.purpose != "house"

    def allowed(self, t: float) -> bool:
        """Whether it may run at this hour at all."""
        if self.carrier.held_off or any(a <= t < b for a, b in self.quiet):
            return False
        return self.hours is None or any(a <= t < b for a, b in self.hours)

    @property
    def by_hours(self) -> bool:
        """Whether it runs by its hours alone, whatever the charge."""
        return self.rule.on_below_percent is None

    def levels(self) -> tuple[float, float]:
        """Charges at which it starts and stops, %."""
        low = self.rule.on_below_percent
        return (100.0, 100.0) if low is None else (low, self.rule.off_above_percent)

    def watched(self) -> list[Unit]:
        """Units whose charge starts and stops it."""
        units = [link.unit for link in self.links] if self.rule.purpose != "house" else []
        for carrier in self.beside if self.rule.purpose != "charging" else ():
            units += [unit for unit in carrier.units if unit not in units]
        return units

    def look(self, run: OutageRun, t: float) -> None:
        engine = self.carrier.engine
        on, off = self.levels()
        units = self.watched()
        if engine.running:
            filled = bool(units) and all(u.percent >= off * (1 - SLACK) or u.ac_rests for u in units)
            filled = filled and not self.alone and not self.by_hours
            self.wants = not filled
            if not self.allowed(t) or not self._of_use(run):
                self.stops_s = t if self._by_itself() else run.presence.next(t)
            elif filled:
                idle = all(u.ac_rests for u in units) and not self.carrier.live_ways
                earliest = t if idle else max(t, self.started_s + self.rule.least_s)
                self.stops_s = (
                    self._may_stop(run, earliest) if self._by_itself() else run.presence.next(earliest)
                )
            else:
                self.stops_s = NEVER
            self._mind_people(run, t)
        else:
            self.wants = self.wants and self.allowed(t) and any(u.percent < off for u in units)
            low = (
                self.alone
                or self.by_hours
                or self.wants
                or any(u.percent <= on * (1 + SLACK) for u in self._taking(units))
            )
            ready = engine.fuelled and self.carrier.refuelled_at == NEVER and not self.carrier.fault
            if low and ready and self.allowed(t) and run.changed_over and not run.grid_up:
                if self.starts_s == NEVER:
                    self.starts_s = t if self._by_itself() else self._someone(run, t)
            else:
                self.starts_s = NEVER
        self.due_s = min(self.starts_s, self.stops_s)

    def _may_stop(self, run: OutageRun, t: float) -> float:
        """When an engine that stops by itself is not needed: not before what hangs on it is changed over."""
        by_hand = [turn for turn in run.turns if turn.at in self.carrier.live_ways and not turn.hands_over]
        if not by_hand:
            return t
        there_s = run.presence.next(t)
        if there_s > t and self.told_s < t:
            self.told_s = there_s
            run.timeline.at(t, ("goes on", self.carrier.key, ""))
        return there_s

    def tell_goes_on(self, run: OutageRun, t: float) -> None:
        """Say that it goes on for the house, if it does."""
        if self.running and self.stops_s > t:
            run.out.goes_on(t, self, run.presence.next(t))

    def _someone(self, run: OutageRun, t: float) -> float:
        """When someone is there to start it by hand, and to stop it again after its least run.

        Where nobody ever stays for so long, it is started as soon as anyone is there, and stopped sooner.
        """
        first = at = run.presence.next(t)
        while not self.rule.left_running and at < run.end_s:
            leaves = run.presence.until(at)
            if leaves - at >= self.rule.least_s or leaves >= run.end_s:
                return at
            at = run.presence.next(leaves)
        return first

    def _mind_people(self, run: OutageRun, t: float) -> None:
        """What only a hand stops is stopped before nobody is there, unless it may be left running."""
        if self._by_itself():
            return
        last = run.presence.until(t)
        if last >= run.end_s:
            return
        if not self.rule.left_running:
            self.leaves_s, self.stops_s = last, min(self.stops_s, last)
        elif self.stops_s > last > t and self.told_s < last:
            self.told_s = last
            run.timeline.at(last, ("left running", self.carrier.key, ""))

    def tell_left(self, run: OutageRun, t: float) -> None:
        """Say that it is left running, if it runs."""
        if self.running:
            run.out.left_running(t, self, run.presence.next(t))

    def _taking(self, units: list[Unit]) -> list[Unit]:
        """Those that are worth a start: a full one that takes no charge yet is not, unless it feeds."""
        if self.beside and self.rule.purpose != "charging":
            return units
        return [unit for unit in units if not unit.ac_rests]

    def _by_itself(self) -> bool:
        return self.carrier.engine.generator.auto_start is True

    def _of_use(self, run: OutageRun) -> bool:
        """An engine is stopped when the utility is back."""
        return not run.grid_up

    def act(self, run: OutageRun, t: float) -> None:
        engine = self.carrier.engine
        if t >= self.starts_s:
            self.starts_s = NEVER
            run.touch(self.carrier, t)
            run.did(self.line, t)
            run.replug = run.looking = True
            if engine.start():
                self.carrier.ac_on = True
                self.started_s = t
                run.out.engine_on(t, self)
            else:
                self.carrier.held_off = True
                run.out.engine_fails(t, self.carrier)
        if t >= self.stops_s:
            self.stops_s = NEVER
            run.touch(self.carrier, t)
            engine.running = self.carrier.ac_on = False
            run.replug = run.looking = True
            run.out.engine_off(t, self)
        self.due_s = min(self.starts_s, self.stops_s)


class PlugControl(Control):
    """Plugs a station into another, a vehicle or a circuit, by its charge."""

    STATE: ClassVar[str] = Control.STATE + " at_s"

    def __init__(self, link: LiveLink | DcLead, unit: Unit, rule: PlugRule | None, name: str) -> None:
        super().__init__(rule)
        self.link = link
        self.unit = unit
        self.name = name
        self.rule = rule or PlugRule(lead_id=link.key)
        self.at_s = NEVER

    @property
    def about(self) -> str:
        return self.link.key

    def levels(self) -> tuple[float, float]:
        """Charges at which it is plugged in and out, %."""
        return self.rule.in_below_percent, self.rule.out_above_percent

    def _source_gives(self, run: OutageRun) -> bool:
        carrier = run.source_of(self.link)
        if isinstance(carrier, StationCarrier):
            return not carrier.empty_now and not carrier.fault
        if isinstance(carrier, VehicleCarrier):
            return carrier.can_give
        return True

    def look(self, run: OutageRun, t: float) -> None:
        low, high = self.levels()
        gives = self._source_gives(run)
        if self.link.plugged:
            change = self.unit.percent >= high * (1 - SLACK) or not gives
        else:
            change = run.changed_over and gives and self.unit.percent <= low * (1 + SLACK)
        if not change:
            self.at_s = NEVER
        elif self.at_s == NEVER:
            self.at_s = run.presence.next(t)
        self.due_s = self.at_s

    def act(self, run: OutageRun, t: float) -> None:
        self.at_s = self.due_s = NEVER
        self.link.plugged = not self.link.plugged
        if self.link.plugged:
            run.did(self.line, t)
        run.plug_changed(t, self.link)
        run.out.plugged(t, self.name, self.link.plugged, self.unit.percent)


class RestartControl(Control):
    """Output back after empty: by itself where the station does that, else by hand."""

    STATE: ClassVar[str] = Control.STATE + " at_s"

    def __init__(self, carrier: StationCarrier) -> None:
        super().__init__()
        self.carrier = carrier
        stations = carrier.stations
        self.by_itself = all(s.auto_restart == "yes" and s.restart_percent is not None for s in stations)
        #: Charge at which each of its units gives again, by itself or by hand, %.
        self.levels = [_restarts_at(station) for station in stations]
        self.at_s = NEVER

    @property
    def about(self) -> str:
        return self.carrier.key

    def look(self, run: OutageRun, t: float) -> None:
        carrier = self.carrier
        for unit, level in zip(carrier.units, self.levels, strict=True):
            if unit.empty and not carrier.empty and unit.percent >= level * (1 - SLACK):
                run.touch(carrier, t)
                unit.empty = False
                carrier.rate()
                run.rewired = True
        if carrier.empty and self._charged() and run.changed_over:
            if self.at_s == NEVER:
                self.at_s = t if self.by_itself else run.presence.next(t)
        else:
            self.at_s = NEVER
        self.due_s = self.at_s

    def _charged(self) -> bool:
        return all(self._ready()) if self.carrier.pair else any(self._ready())

    def _ready(self) -> list[bool]:
        """Which of its units are charged enough to give again."""
        units = zip(self.carrier.units, self.levels, strict=True)
        return [unit.percent >= level * (1 - SLACK) for unit, level in units]

    def act(self, run: OutageRun, t: float) -> None:
        self.at_s = self.due_s = NEVER
        run.touch(self.carrier, t)
        for unit, ready in zip(self.carrier.units, self._ready(), strict=True):
            unit.empty = not ready
        self.carrier.empty = False
        self.carrier.rate()
        self.carrier.turn(not self.carrier.fault)
        run.replug = run.looking = True
        run.out.restarted(t, self.carrier, self.by_itself)


def _restarts_at(station: Station) -> float:
    """Charge at which a station that went empty gives again, %."""
    said = station.restart_percent
    return min(100.0, station.cutoff_percent + RESTART_ABOVE) if said is None else said


class ShedControl(Control):
    """Circuits that are off below a charge of what feeds them, and back above another."""

    STATE: ClassVar[str] = Control.STATE + " off"

    def __init__(
        self, carrier: StationCarrier, circuits: frozenset[str], below: float, above: float, name: str
    ) -> None:
        super().__init__()
        self.carrier = carrier
        self.circuits = circuits
        self.below = below
        self.above = above
        self.name = name
        self.off = False

    @property
    def about(self) -> str:
        return f"{self.name}/{self.carrier.key}"

    @classmethod
    def of_rule(cls, carrier: StationCarrier, rule: ShedRule) -> ShedControl:
        """From a rule of the plan."""
        name = f"shed below {rule.off_below_percent:g} %"
        circuits = frozenset(rule.circuit_ids)
        made = cls(carrier, circuits, rule.off_below_percent, rule.back_above_percent, name)
        made.line = rule
        return made

    def look(self, run: OutageRun, t: float) -> None:
        if not self.off and self.carrier.percent <= self.below * (1 + SLACK):
            self.off = run.rewired = True
            run.did(self.line, t)
            self.keeps_off(t, run.end_s, off=True)
            run.out.room_shed(
                t, self, [load for load in run.loads_of(self.carrier) if load.circuit.id in self.circuits]
            )
        elif self.off and self.carrier.percent >= self.above * (1 - SLACK):
            self.off = False
            run.rewired = True
            self.keeps_off(t, run.end_s, off=False)
            run.out.room_back(t, self)

    def act(self, run: OutageRun, t: float) -> None:
        """It acts when it looks: switching off costs no time here."""
