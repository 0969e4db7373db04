"""What happens at set moments: incidents, grid windows, acts, the sun's samples, cold hours, quiet hours."""

from __future__ import annotations

import math
from heapq import heappop, heappush
from typing import TYPE_CHECKING, ClassVar, Final

from weary_cedar.core.network import ACROSS, LEG_A, LEG_B, Way
from weary_cedar.core.network.bringing_back import return_order
from weary_cedar.core.network.feed_limits import LegElement
from weary_cedar.core.outage.acts import acted
from weary_cedar.core.outage.assemble import SunInput
from weary_cedar.core.outage.bedtime import BedtimeControl, bedtimes
from weary_cedar.core.outage.carriers import EngineCarrier, StationCarrier, VehicleCarrier
from weary_cedar.core.outage.connected import ConnectedCircuit
from weary_cedar.core.outage.controls import (
    Control,
    EngineControl,
    PlugControl,
    RestartControl,
    ShedControl,
)
from weary_cedar.core.outage.hand_cycle import hand_cycles
from weary_cedar.core.outage.only_while import only_while
from weary_cedar.core.outage.surplus import OFF_BELOW, SurplusControl, surplus_controls
from weary_cedar.core.outage.tree import LiveWay
from weary_cedar.core.outage.turns import TurnControl
from weary_cedar.core.plan import EngineRule, Incident, PlugRule, ShedRule
from weary_cedar.core.supply.unit import Unit

if TYPE_CHECKING:
    from weary_cedar.core.outage.kernel import OutageRun

NEVER: Final = math.inf
#: Circuits marked room come back this many points above the charge that shed them.
BACK_ABOVE: Final = 5.0


#: What happens: its kind, the part that it is about, and how.
Happening = tuple[str, str, str]


class Timeline:
    """Set moments of a run, soonest first; of two at one moment the one set first.

    Those that the plan sets stand apart from those that the run itself adds: these alone are of its state.
    """

    STATE: ClassVar[str] = "number added"

    def __init__(self, run: OutageRun) -> None:
        self.run = run
        self._planned: list[tuple[float, int, Happening]] = []
        #: What the run set for a moment to come.
        self.added: list[tuple[float, int, Happening]] = []
        self.number = 0
        #: Someone looks at the sun: loads that run on what is left over.
        self._sun_matters = False
        self._suns = {sun.key: sun for sun in run.parts.suns}
        self._set_incidents()
        self._set_grid()
        self._set_vehicles()
        for key, act in run.plan.outage.acts.items():
            self._plan(act.at_s, ("act", key, ""))
        for sun in run.parts.suns:
            self.at(sun.points[0].t_s, ("sun", sun.key, ""))
        for unit in run.units:
            for begins, ends in unit.blocked_spans:
                self._plan(begins, ("cold", unit.key, "on"))
                self._plan(ends, ("cold", unit.key, "off"))

    @property
    def due_s(self) -> float:
        """The next set moment."""
        planned_s = self._planned[0][0] if self._planned else NEVER
        return min(planned_s, self.added[0][0]) if self.added else planned_s

    def at(self, t: float, what: Happening) -> None:
        """Set something for a moment."""
        self.number += 1
        heappush(self.added, (t, self.number, what))

    def _plan(self, t: float, what: Happening) -> None:
        """Set what the plan says for a moment."""
        self.number += 1
        heappush(self._planned, (t, self.number, what))

    def happen(self, t: float) -> None:
        """Let everything happen that is due."""
        while self.due_s <= t:
            planned, added = self._planned, self.added
            first = planned if not added or (planned and planned[0] < added[0]) else added
            self._do(t, heappop(first)[2])

    def pass_over(self, t: float) -> None:
        """Leave out what the plan set up to a moment: a run that goes on from there has it behind it."""
        while self._planned and self._planned[0][0] <= t:
            heappop(self._planned)

    def _do(self, t: float, what: Happening) -> None:
        run, (kind, key, how) = self.run, what
        if kind == "act":
            acted(run, run.plan.outage.acts[key], t)
        elif kind == "sun":
            self._shine(t, self._suns[key])
        elif kind == "cold":
            self._cold(t, run.parts.units[key], blocked=how == "on")
        elif kind == "grid":
            self._grid(t, up=how == "on")
        elif kind == "drive":
            self._drive(t, key, away=how == "on")
        elif kind == "cord":
            self._cord(t, run.plan.outage.incidents[key], out=how == "on")
        elif kind == "door":
            incident = run.plan.outage.incidents[key]
            run.hold_open(t, incident.load_id, incident.for_s)
        elif kind == "look":
            run.looking = True
        else:
            control = next(item for item in run.engines if item.carrier.key == key)
            if kind == "left running":
                control.tell_left(run, t)
            else:
                control.tell_goes_on(run, t)

    # ---------------------------------------------------------------- incidents, windows, acts

    def _set_incidents(self) -> None:
        for key, incident in self.run.plan.outage.incidents.items():
            if incident.kind == "door_open":
                self._plan(incident.at_s, ("door", key, ""))
                continue
            self._plan(incident.at_s, ("cord", key, "on"))
            self._plan(incident.at_s + incident.for_s, ("cord", key, "off"))

    def _cord(self, t: float, incident: Incident, *, out: bool) -> None:
        ways = [way for way in self.run.ways if way.key and incident.lead_id in (None, way.key)]
        before = any(way.unplugged for way in ways)
        for way in ways:
            way.unplugged += 1 if out else -1
        after = any(way.unplugged for way in ways)
        self.run.replug = self.run.looking = True
        if after and not before:
            self.run.out.unplugged(t)
        elif before and not after:
            self.run.out.plugged_in(t)

    def _set_grid(self) -> None:
        for _, window in self.run.plan.outage.grid.items():
            self._plan(window.at_s, ("grid", "", "on"))
            self._plan(window.at_s + window.for_s, ("grid", "", "off"))

    def _set_vehicles(self) -> None:
        for key, vehicle in self.run.plan.vehicles.items():
            for hours in vehicle.away:
                for begins, ends in self.run.calendar.windows(hours.begins, hours.ends):
                    self._plan(begins, ("drive", key, "on"))
                    self._plan(ends, ("drive", key, "off"))

    def _drive(self, t: float, key: str, *, away: bool) -> None:
        carrier = self.run.parts.carriers[f"vehicles/{key}"]
        assert isinstance(carrier, VehicleCarrier)
        self.run.forest.drive(t, carrier, away=away)

    def _grid(self, t: float, *, up: bool) -> None:
        self.run.grid_up = up
        self.run.replug = self.run.looking = True
        self.run.out.grid(t, up=up)

    # ---------------------------------------------------------------- sun and cold

    def _shine(self, t: float, sun: SunInput) -> None:
        index = sun.next_point
        self.book_sun(sun, t)
        self.run.touch(self.run.carrier_of[id(sun.unit)], t)
        sun.offered_w = sun.points[index].offered_w
        sun.offer.give(sun.points[index].taken_w)
        self.run.looking = self.run.looking or self._sun_matters
        sun.next_point = index + 1
        if index + 1 < len(sun.points):
            self.at(sun.points[index + 1].t_s, ("sun", sun.key, ""))

    @staticmethod
    def book_sun(sun: SunInput, t: float) -> None:
        """What its arrays offered up to now."""
        sun.offered_wh += sun.offered_w * (t - sun.since_s) / 3600.0
        sun.since_s = t

    def _cold(self, t: float, unit: Unit, *, blocked: bool) -> None:
        self.run.touch(self.run.carrier_of[id(unit)], t)
        unit.blocked = blocked
        self.run.out.cold(t, unit, blocked=blocked)

    # ---------------------------------------------------------------- controls

    def controls(self) -> list[Control]:
        """Everyone who decides, in the order in which they look."""
        run = self.run
        strategy = run.plan.strategy
        self._turns()
        self._engines(strategy.followed(EngineRule))
        plugs = self._plugs(strategy.followed(PlugRule))
        restarts: list[Control] = [
            RestartControl(carrier) for carrier in run.stations if run.forest.is_used(carrier)
        ]
        run.sheds = [*self._sheds(strategy.followed(ShedRule)), *bedtimes(run)]
        surplus = surplus_controls(run)
        waiting = only_while(run)
        self._sun_matters = bool(surplus) or any(item.rule.sun_above_w is not None for item in waiting)
        found: list[Control] = [
            *restarts,
            *run.sheds,
            *surplus,
            *waiting,
            *hand_cycles(run),
            *run.engines,
            *run.turns,
            *plugs,
        ]
        self._levels(found)
        return found

    def _turns(self) -> None:
        run = self.run
        live = {way.key: way for way in run.ways}
        for turn in run.network.turns:
            ways = [live[way.lead_id] for way in turn.ways]
            outer = [w for w in run.network.running if any(run.network.inside(x, w) for x in turn.ways)]
            above = [live[way.lead_id] for way in outer]
            for way in above:
                way.inner += [inner for inner in ways if inner not in way.inner]
            grid = self._grid_way(turn.ways) if run.parts.grid is not None and not above else None
            if grid is not None:
                run.ways.append(grid)
            rules = [rule for rule in run.plan.strategy.rules if rule.on]
            run.turns.append(TurnControl(ways, grid, rules, above))
        for control in run.turns:
            if control.grid is not None:
                control.grid.inner = list({id(x): x for own in control.ways for x in own.inner}.values())
        for way in run.ways:
            way.circuits = self._as_they_return(way)
            for circuit in way.circuits:
                circuit.way = circuit.way or way
        for way in run.ways:
            way.take([load for load in run.loads if load.circuit.way is way])

    def _as_they_return(self, way: LiveWay) -> list[ConnectedCircuit]:
        """Circuits of a way in the order in which someone brings them back; the utility takes all at once."""
        here = {c.id: c for c in self.run.circuits if c.id in way.way.branches}
        if way.carrier is self.run.parts.grid:
            return list(here.values())
        return [here[key] for key in return_order(self.run.network, way.way, list(here))]

    def _grid_way(self, ways: tuple[Way, ...]) -> LiveWay | None:
        """The utility as one more way to the circuits of a turn."""
        run, first = self.run, ways[0]
        at_home = run.plan.circuits
        legs = {k: self._leg_at_home(k) for w in ways for k in (*w.branches, *w.dead) if k in at_home}
        legs = {key: leg for key, leg in legs.items() if any(c.id == key for c in run.circuits)}
        if not legs:
            return None
        entered = first.hookup.panel_id or run.plan.circuits[next(iter(legs))].panel_id
        panel = run.plan.panels[entered]
        grid = run.parts.grid
        assert grid is not None
        home = Way("", first.hookup, "the utility", legs, (), not run.plan.site.split_phase)
        way = LiveWay(
            home,
            grid,
            [LegElement("main", panel.name, panel.counted("main_a"))],
            run.plan.site.leg_volts,
            0.0,
        )
        grid.ways.append(way)
        return way

    def _leg_at_home(self, circuit_id: str) -> int:
        legs = self.run.plan.circuit_legs(circuit_id)
        if len(legs) == 2:
            return ACROSS
        return LEG_B if legs[0] == "B" else LEG_A

    def _engines(self, rules: list[EngineRule]) -> None:
        run = self.run
        for carrier in run.carriers:
            if not isinstance(carrier, EngineCarrier):
                continue
            key = carrier.engine.key
            rule = next((rule for rule in rules if rule.generator_id == key), None)
            links = [link for link in run.links if run.source_of(link) is carrier]
            turns = [turn for turn in run.turns if any(way.carrier is carrier for way in turn.ways)]
            circuits = {c.id for turn in turns for way in turn.ways for c in way.circuits}
            links += [x for x in run.links if x.recharge.kind == "circuit" and x.recharge.from_id in circuits]
            if not links and not turns:
                run.parts.unused.append((carrier.name, "it feeds nothing and recharges nothing"))
                continue
            control = EngineControl(carrier, rule, links)
            others = [way.carrier for turn in turns for way in turn.ways if way.carrier is not carrier]
            control.beside = [other for other in others if isinstance(other, StationCarrier)]
            lonely = [turn for turn in turns if not any(way.carrier in control.beside for way in turn.ways)]
            control.alone = bool(lonely) and control.rule.purpose != "charging"
            self._hours(control)
            run.engines.append(control)

    def _hours(self, control: EngineControl) -> None:
        """Quiet hours and the hours of a rule as spans; at each edge controls look again."""
        calendar = self.run.calendar
        quiet = control.carrier.engine.generator.quiet
        if quiet is not None:
            control.quiet = calendar.windows(quiet.begins, quiet.ends)
        hours = control.rule.hours
        if hours is not None and hours.begins != hours.ends:
            control.hours = calendar.windows(hours.begins, hours.ends)
        for begins, ends in [*control.quiet, *(control.hours or [])]:
            for t in (begins, ends):
                self._plan(t, ("look", "", ""))

    def _plugs(self, rules: list[PlugRule]) -> list[Control]:
        run = self.run
        found: list[Control] = []
        for link in run.links:
            link.plugged = link.recharge.plugged != "strategy"
            rule = next((rule for rule in rules if rule.lead_id == link.key), None)
            engine = next(
                (e for e in run.engines if link in e.links and run.source_of(link) is e.carrier), None
            )
            if engine is not None:
                link.plugged = engine.rule.purpose != "house"
            elif not link.plugged:
                found.append(PlugControl(link, link.unit, rule, link.name))
        for lead in run.parts.leads:
            if lead.recharge is None:
                lead.offer.give(lead.watts if lead.reserve.left_wh > 0 else 0.0)
            elif lead.recharge.plugged == "always":
                lead.plugged = True
            else:
                rule = next((rule for rule in rules if rule.lead_id == lead.key), None)
                found.append(PlugControl(lead, lead.offer.unit, rule, lead.name))
        return found

    def _sheds(self, rules: list[ShedRule]) -> list[ShedControl]:
        run, below = self.run, self.run.plan.strategy.room_off_below_percent
        rooms = frozenset(c.id for c in run.circuits if c.mark == "room")
        found = []
        for carrier in run.stations:
            if carrier.ways:
                found += [ShedControl.of_rule(carrier, rule) for rule in rules]
                if below is not None:
                    found.append(ShedControl(carrier, rooms, below, below + BACK_ABOVE, "room"))
        return found

    def _levels(self, controls: list[Control]) -> None:
        """Tell every unit the charges at which someone looks."""
        for unit in self.run.units:
            falls, rises = {unit.station.cutoff_percent}, set()
            if any(link.unit is unit for link in self.run.links):
                falls.add(unit.station.recharge_below_percent)
            for control in controls:
                for asked, low, high in self._asked(control):
                    if asked is unit:
                        falls.add(low)
                        rises.add(high)
            unit.watch(falls, rises)

    @staticmethod
    def _asked(control: Control) -> list[tuple[Unit, float, float]]:
        """(unit, charge that matters when falling, charge that matters when rising), %."""
        if isinstance(control, SurplusControl):
            above = control.rule.above_percent
            return [(unit, above - OFF_BELOW, above) for unit in control.carrier.units]
        if isinstance(control, TurnControl):
            units = [unit for way in control.ways for unit in way.carrier.units]
            return [(unit, *levels) for unit in units for levels in control.levels()]
        if isinstance(control, BedtimeControl):
            return []
        if isinstance(control, ShedControl):
            return [(unit, control.below, control.above) for unit in control.carrier.units]
        if isinstance(control, EngineControl):
            return [(unit, *control.levels()) for unit in control.watched()]
        if isinstance(control, PlugControl):
            return [(control.unit, *control.levels())]
        if isinstance(control, RestartControl):
            pairs = zip(control.carrier.units, control.levels, strict=True)
            return [(unit, 0.0, level) for unit, level in pairs]
        return []
