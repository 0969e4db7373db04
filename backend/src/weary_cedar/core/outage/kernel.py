"""The run: intervals in which nothing changes, each closed in exact arithmetic.

At every moment, in this order: what happens (incidents, windows, acts) → sources and controls → which
carriers and ways are live → which loads want power → shedding → starts, one by one at every live source
of their path → charging into what is left → flows, courses and the next moments.
"""

import math
from collections.abc import Iterable

from weary_cedar.core.demand import CyclingDemand
from weary_cedar.core.errors import Problem, RunTooLong
from weary_cedar.core.network import ACROSS, LEG_A, LEG_B, Network
from weary_cedar.core.outage.assemble import DcLead, assemble
from weary_cedar.core.outage.calendar import Calendar, Presence
from weary_cedar.core.outage.carriers import EngineCarrier, StationCarrier, VehicleCarrier, settle_carrier
from weary_cedar.core.outage.connected import ConnectedCircuit, ConnectedLoad
from weary_cedar.core.outage.controls import (
    Control,
    EngineControl,
    ShedControl,
    TurnControl,
)
from weary_cedar.core.outage.forest import Forest
from weary_cedar.core.outage.leg_sums import SLACK
from weary_cedar.core.outage.recorder import Recorder
from weary_cedar.core.outage.shedding import MIN_OFF_S, Fitter
from weary_cedar.core.outage.timeline import Timeline
from weary_cedar.core.outage.tree import Carrier, LiveLink, LiveWay, Node
from weary_cedar.core.outage.weather import OutdoorTemperature
from weary_cedar.core.plan import Plan
from weary_cedar.core.supply.unit import Unit

NEVER = math.inf
#: Fractions of what is carried between which a start makes the voltage dip. Common practice.
DIP_FROM = 0.8
#: A load whose start tripped its source this often stays off: never a third reset.
TRIPS_BEFORE_LEFT_OFF = 2
#: Flame sensing that finds no neutral at ground gives up after this, s. Common practice.
LOCKOUT_S = 90.0

#: Under this share of every limit no search for loads to shed is needed.
CLEAR = 1 - 1e-6
#: More events than this at one instant means that the run does not advance.
MOST_EVENTS_AT_ONCE = 1_000
#: More changes than this in one outage are not counted through: 200 an hour for a month and more.
MOST_MOMENTS = 200_000


class OutageRun:
    """State of one run and the step from moment to moment."""

    def __init__(self, plan: Plan, network: Network) -> None:
        self.plan = plan
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
        self.shedding = plan.strategy.shedding
        self.changed_over = False
        self.grid_up = False
        self.changeover_s = self.changeover_at = plan.outage.changeover_after_s
        self.hand_at = self.retry_at = self.lock_at = self.share_at = NEVER
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
        self.forest = Forest(self)
        self.timeline = Timeline(self)
        self.turns: list[TurnControl] = []
        self.engines: list[EngineControl] = []
        self.sheds: list[ShedControl] = []
        self.controls: list[Control] = self.timeline.controls()
        self.next_s = [load.demand.next_s for load in self.loads]
        #: Units whose charge is shown as the house's: those that feed or recharge something.
        self.measured = self.used_units
        #: Next moments: of all controls first, then of every carrier with what hangs on it.
        self.dues = [NEVER] * (1 + len(self.carriers))
        self.slots = {id(carrier): index + 1 for index, carrier in enumerate(self.carriers)}
        self.carrier_of = {id(u): c for c in self.stations for u in c.units}

    def run(self) -> None:
        """Go from the start to the end of the outage."""
        t = 0.0
        self.out.begin(sum(unit.stored_wh for unit in self.measured))
        for carrier in self.stations:
            carrier.ac_on = self.plan.outage.ac_on_at_start and self.forest.is_used(carrier)
            for unit in carrier.units:
                if unit.stored_wh <= unit.cutoff_wh:
                    self._run_dry(t, carrier, unit)
        self._settle(t)
        standing = moments = 0
        while t < self.end_s:
            after = min(self.end_s, self._next_moment(t))
            moments += 1
            standing = standing + 1 if after == t else 0
            if standing >= MOST_EVENTS_AT_ONCE or moments > MOST_MOMENTS:
                raise self._too_much(t, standing >= MOST_EVENTS_AT_ONCE)
            t = after
            if t < self.end_s:
                self._settle(t)
        self.out.intervals = moments
        self._close(t)

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
        soonest = min(
            min(self.next_s, default=NEVER),
            min(self.dues),
            self.changeover_at,
            self.hand_at,
            self.retry_at,
            self.lock_at,
            self.share_at,
            self.timeline.due_s,
        )
        return max(t, soonest)

    def _note_dues(self) -> None:
        """Keep the next moments of everything that was touched, in one flat list."""
        dues = self.dues
        for carrier in self.touched.values():
            soonest = min(
                carrier.full_at, carrier.reset_at, carrier.idle_at, carrier.react_at, carrier.ends_at
            )
            for way in carrier.ways:
                soonest = min(soonest, way.restore_at, way.full_at, way.reset_at)
            for link in self.forest.links_into(carrier):
                soonest = min(soonest, link.reset_at)
            for unit in carrier.units:
                soonest = min(soonest, unit.due_s)
            dues[self.slots[id(carrier)]] = soonest

    def _note_controls(self) -> None:
        self.dues[0] = min((control.due_s for control in self.controls), default=NEVER)

    def touch(self, carrier: Carrier, t: float) -> None:
        """Bring the books of a carrier, of its cells and of all that it draws on up to now."""
        if id(carrier) in self.touched:
            return
        self.touched[id(carrier)] = carrier
        for link in self.forest.links_into(carrier):
            parent = link.parent
            if parent is not None:
                above = parent.carrier if isinstance(parent, LiveWay) else parent
                self.touch(above, t)
        settle_carrier(carrier, t)
        for way in carrier.live_ways:
            if t > way.since_s:
                way.cord_wh += way.cord_w * (t - way.since_s) / 3600.0
                if way.account.level > 0 or way.full_at < NEVER:
                    way.account.advance(t - way.since_s)
            way.since_s = t
        for link in self.forest.links_into(carrier):
            link.settle(t)
        for unit in carrier.units:
            unit.settle(t)

    # ---------------------------------------------------------------- one moment

    def _settle(self, t: float) -> None:
        self.touched.clear()
        self.timeline.happen(t)
        self._sources_at(t)
        self._controls_at(t)
        if self.replug:
            self.forest.find(t)
        self._demands_at(t)
        self._restore_at(t)
        self._hands_at(t)
        if self.rewired:
            self._connect(t)
        self._shed(t)
        tripped = self._start_and_draw(t)
        if tripped is not None:
            self._trip(t, *tripped)
        self._power(t)

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
        for way in self.ways:
            if t >= way.full_at:
                self._breaker_trips(t, way)
            if t >= way.reset_at:
                way.reset_at, way.tripped, self.replug = NEVER, False, True
                self.out.breaker_reset(t, way)
        for link in self.links:
            if t >= link.reset_at:
                link.reset_at, link.tripped, self.replug = NEVER, False, True

    def _change_over(self, t: float) -> None:
        self.changeover_at = NEVER
        self.changed_over = self.replug = self.looking = True
        for carrier in self.stations:
            if self.forest.gives_at_once(carrier):
                self.touch(carrier, t)
                carrier.ac_on = carrier.ac_on or not (carrier.empty or carrier.fault)
        self.out.changeover(t)
        for turn in self.turns:
            turn.begin(self, t)

    def _mark(self, t: float, unit: Unit) -> None:
        """A unit's course comes to a mark: empty, full, a level of a rule, or a change of its limit."""
        carrier = self.carrier_of[id(unit)]
        self.touch(carrier, t)
        unit.snap()
        if unit.stored_wh <= unit.cutoff_wh * (1 + SLACK):
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

    def _run_dry(self, t: float, carrier: StationCarrier, unit: Unit) -> None:
        if unit.empty:
            if unit.stored_wh <= unit.cap_wh * 1e-9:
                unit.stored_wh = 0.0
            return
        unit.stored_wh = min(unit.stored_wh, unit.cutoff_wh)
        unit.empty = True
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
        return [way for way in self.ways if circuit.id in way.way.circuits]

    def plug_changed(self, t: float, link: LiveLink | DcLead) -> None:
        """A link was plugged in or out: its source may have to be switched on, or may be switched off."""
        source = self.source_of(link)
        if source is not None:
            self.touch(source, t)
        if isinstance(link, DcLead):
            self.touch(link.carrier, t)
            link.offer.give(link.watts if link.plugged else 0.0)
        elif link.carrier is not None:
            self.touch(link.carrier, t)
        if isinstance(source, StationCarrier) and not source.ways:
            others = any(item.plugged for item in self.links if self.source_of(item) is source)
            source.ac_on = (others or link.plugged) and not (source.empty or source.fault)
        elif isinstance(source, VehicleCarrier):
            source.ac_on = link.plugged
            stays = source.vehicle.told_to_stay == "yes"
            source.off_at = NEVER if stays or not link.plugged else t + source.vehicle.ready_timeout_s
        self.replug = True

    # ---------------------------------------------------------------- demands

    def _demands_at(self, t: float) -> None:
        self.changed = []
        next_s = self.next_s
        if not next_s or min(next_s) > t:
            return
        for rank, due in enumerate(next_s):
            if due <= t:
                load = self.loads[rank]
                demand = load.demand
                for _ in range(100):
                    if demand.next_s > t:
                        break
                    demand.step(t)
                next_s[rank] = demand.next_s
                self.changed.append(load)
                if not load.powered:
                    load.mind_service(t, self._waiting(load))

    @staticmethod
    def _waiting(load: ConnectedLoad) -> bool:
        return load.way is not None and load.way.live and load.circuit.queued

    def hold_open(self, t: float, load_id: str | None, seconds: float) -> None:
        """A door is left open."""
        for load in self.loads:
            if load.id == load_id and isinstance(load.demand, CyclingDemand):
                load.demand.hold_on(t, seconds)
                self.next_s[load.rank] = load.demand.next_s
                self.rewired = True
                self.out.door_open(t, load, seconds)

    # ---------------------------------------------------------------- output, trip, reset

    def _idle_out(self, t: float, carrier: Carrier) -> None:
        carrier.idle_at = NEVER
        self.touch(carrier, t)
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
        if culprit is not None:
            count = self.start_trips[culprit.id] = self.start_trips.get(culprit.id, 0) + 1
            if count >= TRIPS_BEFORE_LEFT_OFF:
                culprit.needs_hand = True
                self.out.left_off(t, culprit, count)
        self.forest.find(t)
        self._connect(t)
        for load in self.loads:
            if not load.powered:
                load.draw(t, 0.0)

    def _reset(self, t: float, carrier: Carrier) -> None:
        carrier.reset_at = NEVER
        if isinstance(carrier, StationCarrier) and carrier.empty:
            return
        self.touch(carrier, t)
        carrier.fault = False
        self.replug = self.looking = True
        carrier.ac_on = not isinstance(carrier, EngineCarrier) and carrier is not self.parts.grid
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
            at_once = self.plan.outage.restore == "all_at_once" or way.carrier is self.parts.grid
            closing, way.queue = (way.queue, []) if at_once else (way.queue[:1], way.queue[1:])
            for circuit in closing:
                circuit.closed, circuit.queued = True, False
            if len(closing) > 1:
                self.together.add(id(way))
            self.rewired = True
            if closing and any(link.recharge.kind == "circuit" for link in self.links):
                self.forest.find(t)
            way.restore_at = t + self.plan.outage.restore_interval_s if way.queue else NEVER
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

    def _may_run(self, load: ConnectedLoad) -> bool:
        way = load.way
        if way is None or not way.live or not load.ready or load.circuit.open_by_hand or load.off_by_hand:
            return False
        return not any(
            s.off and s.carrier is way.carrier and load.circuit.id in s.circuits for s in self.sheds
        )

    def _connect(self, t: float) -> None:
        for load in self.loads:
            on = self._may_run(load)
            if on != load.powered:
                self._set_power(t, load, on)
            elif not on:
                load.mind_service(t, self._waiting(load))

    def _set_power(self, t: float, load: ConnectedLoad, on: bool) -> None:
        load.demand.power(t, on)
        load.powered = on
        self.rewired = True
        self.next_s[load.rank] = load.demand.next_s
        load.mind_service(t, self._waiting(load))

    def _wishing(self) -> list[ConnectedLoad]:
        return [load for load in self.loads if load.powered and load.demand.watts > 0]

    def _shed(self, t: float) -> None:
        if not self.forest.lit:
            return
        reacts = self.shedding == "by_hand" and any(t >= c.react_at for c in self.carriers)
        if reacts or (self.shedding == "automatic" and not self._plainly_fits(t)):
            for carrier in self.carriers:
                if t >= carrier.react_at:
                    carrier.react_at = NEVER
            wishing = self._wishing()
            starting = [load for load in wishing if load.demand.begins(load.draw_w)]
            gone = self.fitter.must_go(wishing, starting, t)
            for load in gone:
                self._shed_one(t, load)
            if gone:
                self.out.shed(t, gone, self.shedding)
        if self.any_shed:
            self._bring_back(t)

    def _plainly_fits(self, t: float) -> bool:
        """Whether the few loads that changed stay clear of every limit, so that no search is needed."""
        if self.rewired:
            return False
        growing = [load for load in self.changed if load.powered and load.demand.watts > load.draw_w]
        if len(growing) > 1:
            return False
        for load in growing:
            starts = load.load.start if load.demand.begins(load.draw_w) else None
            more = load.demand.watts - load.draw_w
            more_va = more * load.va_per_w
            start_va = load.start_va(t) if starts is not None else 0.0
            for node, leg in load.path:
                a_va, b_va, total = node.va
                share = 0.5 if leg == ACROSS else 1.0
                on_leg = max(a_va if leg != LEG_B else 0.0, b_va if leg != LEG_A else 0.0)
                if starts is not None and node.curve is not None:
                    carried = node.curve.carried_multiple(starts.seconds)
                    most = max((on_leg + share * start_va) / node.leg_va, (total + start_va) / node.total_va)
                    if most > CLEAR * carried:
                        return False
                if max((on_leg + share * more_va) / node.leg_va, (total + more_va) / node.total_va) >= CLEAR:
                    return False
                if max(a_va, b_va) / node.leg_va >= CLEAR:
                    return False
        return True

    def _shed_one(self, t: float, load: ConnectedLoad) -> None:
        load.shed_since = t
        self.any_shed = True
        self._set_power(t, load, False)
        self.retry_at = min(self.retry_at, self._presence_for_hands(t + MIN_OFF_S))

    def _presence_for_hands(self, t: float) -> float:
        return self.presence.next(t) if self.shedding == "by_hand" else t

    def _bring_back(self, t: float) -> None:
        """Let shed loads back that have been off long enough and fit, the most important first.

        Those that do not fit yet are looked at again whenever something changes.
        """
        self.retry_at = NEVER
        for load in self.loads:
            if load.shed_since is None:
                continue
            due = self._presence_for_hands(max(t, load.shed_since + MIN_OFF_S))
            if due > t:
                self.retry_at = min(self.retry_at, due)
                continue
            shed_since, load.shed_since = load.shed_since, None
            if not self._may_run(load):
                continue
            load.shed_since = shed_since
            wishing = sorted([*self._wishing(), load], key=lambda item: item.rank)
            starting = [item for item in wishing if item.demand.begins(item.draw_w)]
            gone = self.fitter.must_go(wishing, starting, t, spare=load)
            if load in gone:
                continue
            for victim in gone:
                self._shed_one(t, victim)
            load.shed_since = None
            self._set_power(t, load, True)
            self.out.back(t, load, gone)
        self.any_shed = any(load.shed_since is not None for load in self.loads)

    # ---------------------------------------------------------------- starts

    def _start_and_draw(self, t: float) -> tuple[Carrier, ConnectedLoad] | None:
        """Apply the draws; returns the source that trips and the load whose start trips it, if one does."""
        starting: list[ConnectedLoad] = []
        for load in self.loads if self.rewired else self.changed:
            watts = load.demand.watts if load.powered else 0.0
            if watts != load.draw_w:
                if load.way is not None:
                    self.touch_path(load, t)
                if watts > 0 and load.load.start is not None and load.demand.begins(load.draw_w):
                    starting.append(load)
                    continue
                self._draw(t, load, watts)
        if not starting:
            return None
        if self.together:
            at_once = [load for load in starting if id(load.way) in self.together]
            starting = [load for load in starting if load not in at_once]
            if len(at_once) > 1:
                found = self._start_together(t, at_once)
                if found is not None:
                    return found
            else:
                starting = sorted([*starting, *at_once], key=lambda item: item.rank)
        for load in starting:
            found = self._start_one(t, load)
            if found is not None:
                return found
        return None

    def touch_path(self, load: ConnectedLoad, t: float) -> None:
        """Books of every carrier on a load's path."""
        for node, _ in load.path:
            if isinstance(node, Carrier):
                self.touch(node, t)

    def _draw(self, t: float, load: ConnectedLoad, watts: float) -> None:
        load.draw(t, watts)
        if load.load.needs_bonded and load.way is not None and load.way.floats:
            if watts > 0 and load.locks_at == NEVER:
                load.locks_at = t + LOCKOUT_S
                self.lock_at = min(self.lock_at, load.locks_at)
            elif watts == 0:
                load.locks_at = NEVER

    def _worst(
        self, load: ConnectedLoad, start_va: float, seconds: float
    ) -> tuple[float, float, Node | None]:
        """Where on its path a start comes nearest to what is carried: (multiple, carried, node)."""
        worst: tuple[float, float, Node | None] = (0.0, 1.0, None)
        for node, leg in load.path:
            if node.curve is not None:
                carried = node.curve.carried_multiple(seconds)
                multiple = node.now().start_multiple(leg, start_va, node.leg_va, node.total_va)
                if worst[2] is None or multiple / carried > worst[0] / worst[1]:
                    worst = (multiple, carried, node)
        return worst

    def _start_one(self, t: float, load: ConnectedLoad) -> tuple[Carrier, ConnectedLoad] | None:
        seconds = load.load.start.seconds if load.load.start else 0.5
        multiple, carried, node = self._worst(load, load.start_va(t), seconds)
        if node is not None:
            self.out.start(t, load, multiple, carried, node)
        self._draw(t, load, load.demand.watts)
        if isinstance(node, Carrier) and multiple > carried * (1 + SLACK):
            return node, load
        if isinstance(node, Carrier) and multiple > DIP_FROM * carried:
            self._dip(t, load, node, multiple / carried)
        return None

    def _start_together(
        self, t: float, starting: list[ConnectedLoad]
    ) -> tuple[Carrier, ConnectedLoad] | None:
        """Everything at one instant: volt-amperes of all starts add, for the longest of their times."""
        biggest = max(starting, key=lambda load: load.start_va(t))
        seconds = max(load.load.start.seconds for load in starting if load.load.start)
        rest = [load for load in starting if load is not biggest]
        for load in rest:
            load.draw(t, load.start_va(t))
        multiple, carried, node = self._worst(biggest, biggest.start_va(t), seconds)
        if node is not None:
            self.out.start(t, biggest, multiple, carried, node)
        for load in starting:
            self._draw(t, load, load.demand.watts)
        over = isinstance(node, Carrier) and multiple > carried * (1 + SLACK)
        return (node, biggest) if over and isinstance(node, Carrier) else None

    def _dip(self, t: float, cause: ConnectedLoad, node: Carrier, share: float) -> None:
        dropped = [
            load
            for load in self.loads
            if load.load.drops_on_dip
            and load.draw_w > 0
            and load is not cause
            and any(item is node for item, _ in load.path)
        ]
        for load in dropped:
            load.needs_hand = True
            load.hand_at = self.presence.next(t + self.plan.strategy.reset_after_s)
            self.hand_at = min(self.hand_at, load.hand_at)
            self._set_power(t, load, False)
            load.draw(t, 0.0)
        if dropped:
            self.out.dip(t, cause, dropped, share)

    # ---------------------------------------------------------------- power of the interval

    def _power(self, t: float) -> None:
        """Set the powers that hold until the next moment, and when the next thresholds fall."""
        if self.rewired:
            for carrier in self.carriers:
                self.touch(carrier, t)
        circuits: Iterable[ConnectedCircuit] = (
            self.circuits if self.rewired else [x.circuit for x in self.changed]
        )
        for circuit in circuits:
            circuit.note_current(self.plan.site.leg_volts)
        self._flow(t)
        for carrier in self.touched.values():
            self._thresholds(t, carrier)
        self.out.row(t, self)
        self._note_dues()
        self.rewired = False

    def _flow(self, t: float) -> None:
        """Flows of the interval; an input that trips over its cap starts another pass."""
        for _ in range(len(self.links) + 1):
            self.again = False
            self.forest.flow(t)
            if not self.again:
                return
            self._connect(t)
            for load in self.loads:
                self._draw(t, load, load.demand.watts if load.powered else 0.0)

    def _thresholds(self, t: float, carrier: Carrier) -> None:
        if carrier is self.parts.grid or isinstance(carrier, VehicleCarrier):
            return
        left_s = NEVER
        if isinstance(carrier, StationCarrier | EngineCarrier):
            left_s = carrier.load_accounts()
        carrier.full_at = t + left_s if carrier.live else NEVER
        multiple = carrier.multiple
        worst: Node = carrier
        for way in carrier.live_ways:
            share = max(way.va[0], way.va[1]) / way.leg_va
            if share > CLEAR or way.account.level > 0:
                self._mind_breaker(t, way)
            if share > multiple:
                multiple, worst = share, way
        self._mind_overload(t, carrier, worst, multiple)
        cutout = carrier.cutout if isinstance(carrier, StationCarrier) else None
        if cutout is None or not carrier.live or carrier.ac_w >= cutout.threshold_w:
            carrier.idle_at = NEVER
        elif carrier.idle_at == NEVER:
            carrier.idle_at = t + cutout.after_s

    def _mind_breaker(self, t: float, way: LiveWay) -> None:
        """A breaker of the feed that is over its rating trips by its own time, unless the inverter is sooner."""
        if way.breaker is None:
            return
        share = max(way.amps[0], way.amps[1]) / way.breaker.rating_a
        way.full_at = t + way.account.load(share) if share > 1 + SLACK or way.account.level > 0 else NEVER

    def _mind_overload(self, t: float, carrier: Carrier, worst: Node, multiple: float) -> None:
        over = carrier.live and multiple > 1 + SLACK
        if not over:
            carrier.react_at = NEVER
            if carrier.over_since is not None:
                carrier.over_s += t - carrier.over_since
                carrier.over_since = None
            return
        if carrier.over_since is None:
            carrier.over_since = t
            self.out.over_limit(t, carrier, worst, multiple)
        if self.shedding == "by_hand" and carrier.react_at == NEVER:
            carrier.react_at = self.presence.next(t + self.plan.strategy.reaction_s)
