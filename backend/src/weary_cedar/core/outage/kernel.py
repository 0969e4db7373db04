"""The run: intervals in which nothing changes, each closed in exact arithmetic.

At every moment, in this order: what happens (incidents, windows, acts) → sources and controls → which
carriers and ways are live → which loads want power → shedding → starts, one by one at every live source
of their path → charging into what is left → flows, courses and the next moments.
"""

import math
from collections.abc import Iterable
from typing import ClassVar, Final

from weary_cedar.core.demand import CyclingDemand, RefrigeratingDemand
from weary_cedar.core.errors import Problem, RunTooLong
from weary_cedar.core.network import Network
from weary_cedar.core.outage.assemble import DcLead, assemble
from weary_cedar.core.outage.calendar import Calendar, Presence
from weary_cedar.core.outage.calm import only_draws
from weary_cedar.core.outage.carriers import EngineCarrier, StationCarrier, VehicleCarrier
from weary_cedar.core.outage.connected import ConnectedCircuit, ConnectedLoad
from weary_cedar.core.outage.controls import (
    Control,
    EngineControl,
    ShedControl,
)
from weary_cedar.core.outage.flows import Flows
from weary_cedar.core.outage.forest import Forest
from weary_cedar.core.outage.leg_sums import SLACK
from weary_cedar.core.outage.never_together import exclusives
from weary_cedar.core.outage.recorder import Recorder
from weary_cedar.core.outage.shedding import Fitter, shed
from weary_cedar.core.outage.starts import carried_on, carried_together, draw, start_and_draw
from weary_cedar.core.outage.thresholds import thresholds
from weary_cedar.core.outage.timeline import Timeline
from weary_cedar.core.outage.tree import Carrier, LiveLink, LiveWay
from weary_cedar.core.outage.turns import TurnControl
from weary_cedar.core.outage.weather import OutdoorTemperature
from weary_cedar.core.plan import AnyRule
from weary_cedar.core.supply.unit import Unit

NEVER: Final = math.inf
#: A load whose start tripped its source this often stays off: never a third reset.
TRIPS_BEFORE_LEFT_OFF: Final = 2
#: More events than this at one instant means that the run does not advance.
MOST_EVENTS_AT_ONCE = 1_000
#: More changes than this in one outage are not counted through: 200 an hour for a month.
MOST_MOMENTS = 150_000


class OutageRun:
    """State of one run and the step from moment to moment."""

    STATE: ClassVar[str] = (
        "t moments standing begun changed_over grid_up changeover_at hand_at retry_at lock_at "
        "share_at deeds replug looking rewired any_shed start_trips dues"
    )

    def __init__(self, network: Network) -> None:
        self.plan = plan = network.plan
        self.network = network
        self.calendar = Calendar(plan.site, plan.outage)
        self.presence = Presence(self.calendar, plan.outage)
        outdoors = OutdoorTemperature(plan.outage.weather, self.calendar)
        self.parts = assemble(plan, network, self.calendar, outdoors)
        self.circuits, self.loads = self.parts.circuits, self.parts.loads
        self.carriers = list(self.parts.carriers.values())
        self.stations = [c for c in self.carriers if isinstance(c, StationCarrier)]
        self.units = list(self.parts.units.values())
        self.ways = self.parts.ways
        self.links = self.parts.links
        self.fitter = Fitter()
        self.out = Recorder(plan)
        self.end_s = plan.outage.length_s
        self.leg_volts = plan.site.leg_volts
        self.shedding = plan.strategy.shedding
        #: The last moment that was gone through, how many there were, and how many of these at that instant.
        self.t = 0.0
        self.moments = self.standing = 0
        self.begun = self.changed_over = self.grid_up = False
        first = [plan.changeover_s(way.way.hookup) for way in self.ways]
        self.changeover_s = self.changeover_at = min(first, default=plan.outage.changeover_after_s)
        self.hand_at = self.retry_at = self.lock_at = self.share_at = NEVER
        #: When each line of the strategy acted, by its place, s.
        self.deeds: dict[int, list[float]] = {}
        self._place = {id(rule): place for place, rule in enumerate(plan.strategy.rules)}
        #: Something was plugged, switched, started or ran dry: what is live is found anew.
        self.replug = False
        #: A charge, an hour or a source changed: controls look again.
        self.looking = True
        #: A part was woken by the flows of this very moment.
        self.again = False
        #: Power may reach other loads than before; otherwise only `changed` loads are looked at.
        self.rewired = True
        self.any_shed = False
        self.changed: list[ConnectedLoad] = []
        self.touched: dict[int, Carrier] = {}
        self.together: set[int] = set()
        self.start_trips: dict[str, int] = {}
        #: Loads whose food is lost, and when, s.
        self.food_lost: dict[str, float] = {}
        self.forest = Forest(self)
        self.flows = Flows(self)
        self.timeline = Timeline(self)
        self.turns: list[TurnControl] = []
        self.engines: list[EngineControl] = []
        self.sheds: list[ShedControl] = []
        self.controls: list[Control] = self.timeline.controls()
        self.exclusives = exclusives(self)
        #: Next moments of the loads, by rank; never behind the last.
        self.next_s = [*[load.demand.next_s for load in self.loads], NEVER]
        #: Units whose charge is shown as the house's: those that feed or recharge something.
        self.measured = self.used_units
        #: Next moments of anything but a load: of controls, of what is set, of every carrier and its cells.
        self.dues = [NEVER] * (2 + len(self.carriers) + len(self.units))
        for index, carrier in enumerate(self.carriers):
            carrier.slot = 2 + index
        for index, unit in enumerate(self.units):
            unit.slot = 2 + len(self.carriers) + index
        #: The least of them.
        self.others_s = 0.0
        self.carrier_of = {id(u): c for c in self.stations for u in c.units}

    def run(self, until_s: float = NEVER) -> None:
        """Go on to the end of the outage, or through the last change by `until_s`."""
        if not self.begun:
            self._begin()
        while self.t < self.end_s:
            after = min(self.end_s, self._next_moment(self.t))
            if after > until_s:
                return
            self.moments += 1
            self.standing = self.standing + 1 if after == self.t else 0
            if self.standing >= MOST_EVENTS_AT_ONCE or self.moments > MOST_MOMENTS:
                raise self._too_much(self.t, self.standing >= MOST_EVENTS_AT_ONCE)
            self.t = after
            if after < self.end_s:
                self._settle(after)
        self.out.intervals = self.moments
        self._close(self.t)

    def _begin(self) -> None:
        t = self.t
        self.begun = True
        self.out.begin(sum(unit.held_wh for unit in self.measured))
        for carrier in self.stations:
            carrier.turn(self.plan.outage.ac_on_at_start and self.forest.is_used(carrier))
            for unit in carrier.units:
                if unit.stored_wh <= unit.cutoff_wh:
                    self._run_dry(t, carrier, unit)
        self._plugged_always(t)
        self._settle(t)

    def _plugged_always(self, t: float) -> None:
        """A vehicle that is plugged in all the time gives before anything is changed over."""
        taken: list[LiveLink | DcLead] = [*self.links, *self.parts.leads]
        for link in taken:
            recharge = link.recharge
            always = recharge is not None and recharge.plugged == "always"
            if always and link.plugged and isinstance(self.source_of(link), VehicleCarrier):
                self.plug_changed(t, link)

    @property
    def used_units(self) -> list[Unit]:
        """Units of stations that feed or recharge something in this plan."""
        used = [unit for c in self.stations if self.forest.is_used(c) for unit in c.units]
        return used or self.units

    def _close(self, t: float) -> None:
        self.touched.clear()
        for carrier in self.carriers:
            self.touch(carrier, t)
            if carrier.over_since is not None:
                carrier.over_s += t - carrier.over_since
        for sun in self.parts.suns:
            self.timeline.book_sun(sun, t)
        for way in self.ways:
            way.account.advance(0.0)
        self.out.finish(t, self)

    def _too_much(self, t: float, stands: bool) -> RunTooLong:
        """What a run that was stopped says: where it was, and which load changes most."""
        at = self.plan.site.instant(self.plan.outage.start_local, t)
        restless = max(self.loads, key=lambda load: len(load.series), default=None)
        changes = len(restless.series) if restless is not None else 0
        if stands:
            detail = f"The run does not get past {at:%a %d %b %H:%M:%S}: too many changes at one instant"
        else:
            detail = f"The run changes more than {MOST_MOMENTS:,} times, already by {at:%a %d %b %H:%M}"
        reached_h = f"an outage of at most about {t / 3600:.0f} h with these loads"
        problems = [Problem("/outage/length_s", f"{self.end_s:g}", reached_h)]
        if restless is not None:
            detail += f"; {changes:,} of the changes are of {restless.name}"
            where = f"/loads/{restless.id}/behaviour"
            told = f"{changes:,} changes of {restless.name}"
            problems.insert(0, Problem(where, told, "longer stretches on and off"))
        return RunTooLong(f"{detail}.", tuple(problems))

    # ---------------------------------------------------------------- time

    def _next_moment(self, t: float) -> float:
        others_s = self.others_s = min(self.dues)
        soonest = min(self.next_s)
        soonest = min(soonest, others_s)
        return max(soonest, t)

    def _note_dues(self) -> None:
        """Keep the next moments of everything that was touched, and what is set, in one flat list."""
        for carrier in self.touched.values():
            self.note_due(carrier)
        soonest = min(self.changeover_at, self.hand_at)
        soonest = min(soonest, self.retry_at)
        soonest = min(soonest, self.lock_at)
        soonest = min(soonest, self.share_at)
        self.dues[1] = min(soonest, self.timeline.due_s)

    def note_due(self, carrier: Carrier) -> None:
        """Keep the next moment of a carrier and its cells."""
        dues = self.dues
        dues[carrier.slot] = carrier.soonest()
        for unit in carrier.units:
            dues[unit.slot] = unit.due_s

    def _note_controls(self) -> None:
        self.dues[0] = min((control.due_s for control in self.controls), default=NEVER)

    def touch(self, carrier: Carrier, t: float) -> None:
        """Bring the books of a carrier, of its cells and of all that it draws on up to now."""
        if id(carrier) in self.touched:
            return
        self.touched[id(carrier)] = carrier
        for link in carrier.into:
            parent = link.parent
            if parent is not None:
                above = parent.carrier if isinstance(parent, LiveWay) else parent
                self.touch(above, t)
        carrier.settle(t)

    # ---------------------------------------------------------------- one moment

    def _settle(self, t: float) -> None:
        self.touched.clear()
        if t >= self.others_s or self.looking or self.replug:
            self.timeline.happen(t)
            self._sources_at(t)
            self._controls_at(t)
            if self.replug:
                self.forest.find(t)
        self._demands_at(t)
        if len(self.changed) == 1 and t < self.others_s and only_draws(self, t, self.changed[0]):
            return
        self._restore_at(t)
        self._hands_at(t)
        if self.rewired:
            self._connect(t)
        for exclusive in self.exclusives:
            exclusive.take_turns(self, t)
        shed(self, t)
        tripped = start_and_draw(self, t)
        if tripped is not None:
            self._trip(t, *tripped)
        self.power(t)

    def _sources_at(self, t: float) -> None:
        if t >= self.changeover_at:
            self._change_over(t)
        if t >= self.share_at:
            self.share_at = NEVER
            for link in self.forest.linked:
                self.touch(self.parts.of_station[link.unit.key], t)
        if min(self.dues) > t:
            return
        for unit in self.units:
            if t >= unit.due_s:
                self._mark(t, unit)
        for carrier in self.carriers:
            self._carrier_at(t, carrier)
        self._ways_and_links_at(t)

    def _carrier_at(self, t: float, carrier: Carrier) -> None:
        """What falls due at a source: a full overload account, idle cut-out, a reset, the end of its fuel."""
        if t >= carrier.full_at:
            carrier.full_at = NEVER
            self._trip(t, carrier, None)
        if t >= carrier.idle_at:
            self._idle_out(t, carrier)
        if t >= carrier.reset_at:
            self._reset(t, carrier)
        if t >= carrier.ends_at:
            self.touch(carrier, t)
            self.forest.source_ends(t, carrier)

    def _ways_and_links_at(self, t: float) -> None:
        for way in self.ways:
            if t >= way.full_at:
                self._breaker_trips(t, way)
            if t >= way.reset_at:
                way.reset_at, way.tripped, self.replug = NEVER, False, True
                self.out.breaker_reset(t, way)
        for link in self.links:
            if t >= link.reset_at:
                link.reset_at, link.tripped, self.replug = NEVER, False, True
                self.out.input_reset(t, link)

    def _change_over(self, t: float) -> None:
        self.changeover_at = NEVER
        self.changed_over = self.replug = self.looking = True
        for carrier in self.stations:
            if self.forest.gives_at_once(carrier):
                self.touch(carrier, t)
                carrier.turn(carrier.ac_on or not (carrier.empty or carrier.fault))
        for vehicle in self.carriers:
            if isinstance(vehicle, VehicleCarrier) and vehicle.ways:
                self.touch(vehicle, t)
                vehicle.switch(t, True)
        taken: list[LiveLink | DcLead] = [*self.links, *self.parts.leads]
        for link in taken:
            if link.plugged and isinstance(self.source_of(link), VehicleCarrier):
                self.plug_changed(t, link)
        if self.ways:
            self.out.changeover(t)
        for turn in self.turns:
            turn.begin(self, t)

    def _mark(self, t: float, unit: Unit) -> None:
        """A unit's course comes to a mark: empty, full, a level of a rule, or a change of its limit."""
        carrier = self.carrier_of[id(unit)]
        self.touch(carrier, t)
        unit.look()
        for name in unit.meet_packs():
            self.out.pack_joins(t, unit, name)
        if unit.stored_wh <= unit.cutoff_wh * (1 + SLACK) and not unit.borne:
            self._run_dry(t, carrier, unit)
        if unit.full and not unit.ac_rests and any(link.unit is unit for link in self.links):
            unit.ac_rests = True
            self.out.filled(t, unit)
        if unit.ac_rests and unit.stored_wh <= unit.recharge_wh * (1 + SLACK):
            unit.ac_rests = False
        for lead in self.parts.leads:
            if lead.offer.unit is unit and lead.offer.wall_w > 0 and lead.reserve.left_wh <= 0:
                lead.offer.give(0.0)
                self.out.spent(t, lead.reserve.name)
        self.looking = True

    def packs_changed(self, t: float, unit: Unit) -> None:
        """A pack was plugged in or unplugged: the charge that counts is another."""
        if unit.ac_rests and unit.stored_wh <= unit.recharge_wh * (1 + SLACK):
            unit.ac_rests = False
        if unit.stored_wh <= unit.cutoff_wh * (1 + SLACK) and not unit.borne:
            self._run_dry(t, self.carrier_of[id(unit)], unit)
        self.looking = self.rewired = True

    def _run_dry(self, t: float, carrier: StationCarrier, unit: Unit) -> None:
        if unit.empty:
            if unit.stored_wh <= unit.cap_wh * 1e-9:
                unit.stored_wh = 0.0
            return
        unit.stored_wh = min(unit.stored_wh, unit.cutoff_wh)
        unit.empty = True
        carrier.rate()
        self.looking = True
        if carrier.empty_now and not carrier.empty and carrier.via is None:
            carrier.empty, carrier.ac_on = True, False
            self.replug = True
            self.out.empty(t, carrier, unit)
        elif carrier.link is not None and not carrier.pair and not carrier.empty:
            self.touch(carrier, t)
            self.out.drops_out(t, carrier, unit)

    def _controls_at(self, t: float) -> None:
        """Let controls look and act until none wants more at this moment."""
        if not self.looking and self.dues[0] > t:
            return
        for _ in range(20):
            due = [control for control in self.controls if t >= control.due_s]
            for control in due:
                control.act(self, t)
            self.looking = False
            if self.replug and due:
                self.forest.find(t)
            for control in self.controls:
                control.look(self, t)
            self._note_controls()
            if self.dues[0] > t and not self.looking:
                return

    # ---------------------------------------------------------------- what controls ask

    def spent(self, carrier: StationCarrier) -> bool:
        """Whether a station gives nothing more by itself."""
        return carrier.empty and carrier.via is None

    def engine_of(self, way: LiveWay) -> EngineControl | None:
        """The control of the engine that a way hangs on."""
        return next((engine for engine in self.engines if engine.carrier is way.carrier), None)

    def source_of(self, link: LiveLink | DcLead) -> Carrier | None:
        """What a link of a station or a vehicle is plugged into."""
        return self.forest.source_of(link)

    def loads_of(self, carrier: Carrier) -> list[ConnectedLoad]:
        """Loads on the ways of a carrier."""
        return [load for load in self.loads if load.way is not None and load.way.carrier is carrier]

    def ways_of(self, circuit: ConnectedCircuit) -> list[LiveWay]:
        """Ways that reach a circuit, those that take turns."""
        return [way for way in self.ways if circuit.id in way.way.branches]

    def did(self, line: AnyRule | None, t: float) -> None:
        """A line of the strategy acts."""
        if line is not None:
            self.deeds.setdefault(self._place[id(line)], []).append(t)

    def place_of(self, line: AnyRule | None) -> int | None:
        """The place of a line in the strategy."""
        return None if line is None else self._place[id(line)]

    def deeds_of(self, line: AnyRule) -> list[float]:
        """When a line of the strategy acted, s."""
        return self.deeds.get(self._place[id(line)], [])

    def plug_changed(self, t: float, link: LiveLink | DcLead) -> None:
        """A link was plugged in or out: its source may have to be switched on, or may be switched off."""
        source = self.source_of(link)
        if source is not None:
            self.touch(source, t)
        if link.carrier is not None:
            self.touch(link.carrier, t)
        if isinstance(source, StationCarrier) and not source.ways:
            others = any(item.plugged for item in self.links if self.source_of(item) is source)
            source.turn((others or link.plugged) and not (source.empty or source.fault))
        elif isinstance(source, VehicleCarrier):
            source.switch(t, link.plugged or bool(source.ways))
        if isinstance(link, DcLead):
            self.forest.give(link)
        self.replug = True

    # ---------------------------------------------------------------- demands

    def _demands_at(self, t: float) -> None:
        self.changed = []
        next_s = self.next_s
        due = min(next_s)
        if due > t:
            return
        rank = next_s.index(due)
        self._step(t, rank)
        if min(next_s) <= t:
            for later in range(rank + 1, len(next_s)):
                if next_s[later] <= t:
                    self._step(t, later)

    def _step(self, t: float, rank: int) -> None:
        """A load comes to its own next moment."""
        load = self.loads[rank]
        demand = load.demand
        for _ in range(100):
            demand.step(t)
            if demand.next_s > t:
                break
        self.next_s[rank] = demand.next_s
        self.changed.append(load)
        if not load.powered:
            load.mind_service(t, self._waiting(load), self._chosen(load))

    def _chosen(self, load: ConnectedLoad) -> bool:
        """Whether someone chose to leave it off: by an act, or by a rule that names it."""
        if load.off_by_hand or load.circuit.open_by_hand or load.by_rule:
            return True
        way = load.way
        if way is None:
            return False
        if way.off_by or way.carrier.held_off:
            return not way.live
        return any(
            s.off and s.line is not None and s.carrier is way.carrier and load.circuit.id in s.circuits
            for s in self.sheds
        )

    @staticmethod
    def _waiting(load: ConnectedLoad) -> bool:
        queued = load.way is not None and load.way.live and load.circuit.queued
        return queued or load.by_rule

    def hold_open(self, t: float, load_id: str | None, seconds: float) -> None:
        """A door is left open."""
        for load in self.loads:
            if load.id == load_id and isinstance(load.demand, CyclingDemand | RefrigeratingDemand):
                load.demand.hold_on(t, seconds)
                self.next_s[load.rank] = load.demand.next_s
                self.rewired = True
                self.out.door_open(t, load, seconds)

    # ---------------------------------------------------------------- output, trip, reset

    def _idle_out(self, t: float, carrier: Carrier) -> None:
        carrier.idle_at = NEVER
        self.touch(carrier, t)
        if not carrier.ac_on:
            return
        carrier.ac_on = False
        self.replug = self.looking = True
        carrier.reset_at = self.presence.next(t + self.plan.strategy.reset_after_s)
        if isinstance(carrier, StationCarrier):
            self.out.idle_cutout(t, carrier)

    def _trip(self, t: float, carrier: Carrier, culprit: ConnectedLoad | None) -> None:
        self.touch(carrier, t)
        below = [load for load in self.loads if any(node is carrier for node, _ in load.path)]
        self.out.trip(t, carrier, [load for load in below if load.draw_w > 0], culprit)
        carrier.fault, carrier.ac_on = True, False
        carrier.trips += 1
        if isinstance(carrier, StationCarrier):
            carrier.clear_accounts()
        elif carrier.account is not None:
            carrier.account.clear()
        if isinstance(carrier, EngineCarrier):
            carrier.engine.running = False
        carrier.reset_at = self.presence.next(t + self.plan.strategy.reset_after_s)
        self.replug = self.looking = True
        self.forest.find(t)
        if culprit is not None and not carried_on(culprit, carrier, t):
            count = self.start_trips[culprit.id] = self.start_trips.get(culprit.id, 0) + 1
            if count >= TRIPS_BEFORE_LEFT_OFF:
                culprit.needs_hand = True
                self.out.left_off(t, culprit, count)
        self._connect(t)
        for load in self.loads:
            if not load.powered:
                load.draw(t, 0.0)

    def _reset(self, t: float, carrier: Carrier) -> None:
        carrier.reset_at = NEVER
        self.touch(carrier, t)
        if isinstance(carrier, StationCarrier) and carrier.empty:
            return
        carrier.fault = False
        self.replug = self.looking = True
        carrier.turn(not isinstance(carrier, EngineCarrier) and carrier is not self.parts.grid)
        self.out.reset(t, carrier, self.plan.strategy.recovery_off)

    def _breaker_trips(self, t: float, way: LiveWay) -> None:
        self.touch(way.carrier, t)
        way.full_at = NEVER
        way.tripped = self.replug = True
        way.account.clear()
        way.reset_at = self.presence.next(t + self.plan.strategy.reset_after_s)
        self.out.breaker_trips(t, way, [load for load in way.loads if load.draw_w > 0])

    def _restore_at(self, t: float) -> None:
        self.together.clear()
        for way in self.ways:
            if t < way.restore_at:
                continue
            restore = way.way.hookup.restore or self.plan.outage.restore
            at_once = restore == "all_at_once" or way.carrier is self.parts.grid
            if way.way.hookup.branches_off == "none":
                at_once = at_once or carried_together(way, t)
            closing, way.queue = (way.queue, []) if at_once else (way.queue[:1], way.queue[1:])
            for circuit in closing:
                circuit.closed, circuit.queued = True, False
            if len(closing) > 1:
                self.together.add(id(way))
            self.rewired = True
            if closing and any(link.recharge.kind == "circuit" for link in self.links):
                self.forest.find(t)
            pause_s = way.way.hookup.restore_interval_s or self.plan.outage.restore_interval_s
            way.restore_at = t + pause_s if way.queue else NEVER
            if not way.queue:
                self.out.restored(t, way)

    def _hands_at(self, t: float) -> None:
        if t >= self.hand_at:
            self.hand_at = NEVER
            for load in self.loads:
                if load.needs_hand and load.hand_at <= t:
                    load.needs_hand, load.hand_at = False, NEVER
                    self.rewired = True
                    self.out.hand(t, load)
                self.hand_at = min(self.hand_at, load.hand_at)
        if t >= self.lock_at:
            self.lock_at = NEVER
            for load in self.loads:
                if load.locks_at <= t:
                    load.locks_at, load.needs_hand = NEVER, True
                    self.rewired = True
                    self.out.locked_out(t, load)
                self.lock_at = min(self.lock_at, load.locks_at)

    # ---------------------------------------------------------------- loads

    def may_run(self, load: ConnectedLoad) -> bool:
        """Whether a load would have power now."""
        way = load.way
        if way is None or not way.live or not load.ready or load.circuit.open_by_hand or load.off_by_hand:
            return False
        return not any(
            s.off and s.carrier is way.carrier and load.circuit.id in s.circuits for s in self.sheds
        )

    def _connect(self, t: float) -> None:
        for load in self.loads:
            on = self.may_run(load)
            if on != load.powered:
                self.set_power(t, load, on)
            elif not on:
                load.mind_service(t, self._waiting(load), self._chosen(load))

    def set_power(self, t: float, load: ConnectedLoad, on: bool) -> None:
        """Give a load power, or take it."""
        load.demand.power(t, on)
        load.powered = on
        self.rewired = True
        self.next_s[load.rank] = load.demand.next_s
        load.mind_service(t, self._waiting(load), self._chosen(load))

    def wishing(self) -> list[ConnectedLoad]:
        """Loads that have power and want to draw."""
        return [load for load in self.loads if load.powered and load.demand.watts > 0]

    # ---------------------------------------------------------------- power of the interval

    def power(self, t: float) -> None:
        """Set the powers that hold until the next moment, and when the next thresholds fall."""
        if self.rewired:
            for carrier in self.carriers:
                self.touch(carrier, t)
        circuits: Iterable[ConnectedCircuit] = (
            self.circuits if self.rewired else [x.circuit for x in self.changed]
        )
        for circuit in circuits:
            circuit.note_current(self.leg_volts)
        self._flow(t)
        for carrier in self.touched.values():
            thresholds(self, t, carrier)
        self.out.row(t, self)
        self._note_dues()
        self.rewired = False

    def _flow(self, t: float) -> None:
        """Flows of the interval; an input that trips over its cap starts another pass."""
        for _ in range(len(self.links) + 1):
            self.again = False
            self.flows.flow(t)
            if not self.again:
                return
            self._connect(t)
            for load in self.loads:
                draw(self, t, load, load.demand.watts if load.powered else 0.0)
