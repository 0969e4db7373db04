"""The run: intervals in which nothing changes, each closed in exact arithmetic.

At every event, in this order: incidents → which source is up → which circuits are closed → which
loads want power → shedding → starts, one by one → limits and overload account → battery power.
"""

import math
from dataclasses import replace

from weary_cedar.core.demand import CyclingDemand
from weary_cedar.core.electrical.voltage_drop import cord_loss_w
from weary_cedar.core.errors import Problem, RunTooLong
from weary_cedar.core.outage.calendar import Calendar, Presence
from weary_cedar.core.outage.connected import ConnectedCircuit, ConnectedLoad, connect
from weary_cedar.core.outage.feed_limits import feed_limits, one_way_ohms
from weary_cedar.core.outage.leg_sums import SLACK, LegSums, sums_of
from weary_cedar.core.outage.recorder import Recorder
from weary_cedar.core.outage.shedding import MIN_OFF_S, Fitter
from weary_cedar.core.plan import Feed, Incident, Plan
from weary_cedar.core.supply.overload import OverloadAccount, OverloadCurve
from weary_cedar.core.supply.station_energy import HOURS_PER_WEEK

NEVER = math.inf
#: Fractions of what is carried between which a start makes the voltage dip. Common practice.
DIP_FROM = 0.8
#: A load whose start tripped the station this often stays off: never a third reset.
TRIPS_BEFORE_LEFT_OFF = 2

#: Under this share of every limit no search for loads to shed is needed.
CLEAR = 1 - 1e-6
#: More events than this at one instant means that the run does not advance.
MOST_EVENTS_AT_ONCE = 1_000
#: More changes than this in one outage are not counted through: 200 an hour for a month and more.
MOST_MOMENTS = 200_000


class OutageRun:
    """State of one run and the step from event to event."""

    def __init__(self, plan: Plan, feed: Feed) -> None:
        self.plan = plan
        self.station = plan.source_station(feed)
        self.calendar = Calendar(plan.site, plan.outage)
        self.presence = Presence(self.calendar, plan.outage)
        self.circuits, self.loads = connect(plan, self.calendar)
        self.limits = feed_limits(plan, feed, self.station)
        self.curve = OverloadCurve(self.station.overload_curve)
        self.account = OverloadAccount(self.curve)
        self.fitter = Fitter(self.limits, self.curve)
        self.out = Recorder(plan, self.limits)
        self.end_s = plan.outage.length_s
        self.shedding = plan.strategy.shedding

        cells = self.station.total_cell_wh
        self.capacity_wh = cells
        self.stored_wh = plan.start_wh(feed.source_id)
        self.start_wh = self.stored_wh
        self.cutoff_wh = cells * self.station.cutoff_percent / 100.0
        room_below = plan.strategy.room_off_below_percent
        self.room_wh = -1.0 if room_below is None else cells * room_below / 100.0
        self.self_discharge_w = cells * self.station.self_discharge_percent_per_week / 100.0 / HOURS_PER_WEEK
        self.cord_ohms = one_way_ohms(feed)

        self.ac_on = plan.outage.ac_on_at_start
        self.empty = False
        self.unplugged = 0
        self.changed_over = False
        self.output_on = False
        self.fault = False
        self.room_shed = False
        self.any_shed = False
        #: Set when power may reach other loads than before; otherwise only `changed` loads are looked at.
        self.rewired = True
        self.changed: list[ConnectedLoad] = []
        self.sums = LegSums()
        self.queue: list[ConnectedCircuit] = []
        self.together = False
        self.start_trips: dict[str, int] = {}

        self.incidents = self._incident_edges(plan.outage.incidents)
        self.changeover_s = self.changeover_at = plan.outage.changeover_after_s
        self.restore_at = NEVER
        self.reset_at = NEVER
        self.react_at = NEVER
        self.full_at = NEVER
        self.empty_at = NEVER
        self.room_at = NEVER
        self.idle_at = NEVER
        self.hand_at = NEVER
        self.retry_at = NEVER
        self.next_s = [load.demand.next_s for load in self.loads]
        self.ac_w = self.cord_w = self.cells_w = self.idle_w = self.sleep_w = self.self_w = 0.0
        self.on_s = 0.0

    @staticmethod
    def _incident_edges(incidents: dict[str, Incident]) -> list[tuple[float, bool, str]]:
        edges = [(i.at_s, True, key) for key, i in incidents.items()]
        edges += [
            (i.at_s + i.for_s, False, key) for key, i in incidents.items() if i.kind == "cord_unplugged"
        ]
        return sorted(edges, reverse=True)

    def run(self) -> None:
        """Go from the start to the end of the outage."""
        t = 0.0
        self.out.begin(self.stored_wh)
        if self.stored_wh <= self.cutoff_wh:
            self._run_dry(t)
        self._settle(t)
        standing = moments = 0
        while t < self.end_s:
            after = min(self.end_s, self._next_event(t))
            moments += 1
            standing = standing + 1 if after == t else 0
            if standing >= MOST_EVENTS_AT_ONCE or moments > MOST_MOMENTS:
                raise self._too_much(t, standing >= MOST_EVENTS_AT_ONCE)
            self._advance(after - t)
            t = after
            if t < self.end_s:
                self._settle(t)
        self.out.finish(t, self.stored_wh, self.account.level)

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

    def _next_event(self, t: float) -> float:
        soonest = min(
            min(self.next_s, default=NEVER),
            self.changeover_at,
            self.restore_at,
            self.reset_at,
            self.react_at,
            self.full_at,
            self.empty_at,
            self.room_at,
            self.idle_at,
            self.hand_at,
            self.retry_at,
            self.incidents[-1][0] if self.incidents else NEVER,
        )
        return max(t, soonest)

    def _advance(self, seconds: float) -> None:
        hours = seconds / 3600.0
        self.out.energy(hours, self)
        self.on_s += seconds if self.output_on else 0.0
        self.stored_wh = max(0.0, self.stored_wh - self.cells_w * hours)
        self.account.advance(seconds)

    # ---------------------------------------------------------------- one event

    def _settle(self, t: float) -> None:
        self._incidents_at(t)
        self._sources_at(t)
        self._demands_at(t)
        self._restore_at(t)
        self._hands_at(t)
        self._charge_rules_at(t)
        if self.rewired:
            self._connect(t)
        self._shed(t)
        tripped = self._start_and_draw(t)
        if tripped is not None:
            self._trip(t, tripped)
        self._power(t)

    def _incidents_at(self, t: float) -> None:
        while self.incidents and self.incidents[-1][0] <= t:
            _, begins, key = self.incidents.pop()
            incident = self.plan.outage.incidents[key]
            if incident.kind == "door_open":
                for load in self.loads:
                    if load.id == incident.load_id and isinstance(load.demand, CyclingDemand):
                        load.demand.hold_on(t, incident.for_s)
                        self.next_s[load.rank] = load.demand.next_s
                        self.rewired = True
                        self.out.door_open(t, load, incident.for_s)
                continue
            self.unplugged += 1 if begins else -1
            if begins and self.unplugged == 1:
                self.out.unplugged(t)
                self._output_off(t)
            elif not begins and self.unplugged == 0:
                self.out.plugged_in(t)
                self._try_output(t)

    def _sources_at(self, t: float) -> None:
        if t >= self.changeover_at:
            self.changeover_at = NEVER
            self.changed_over = True
            self.ac_on = self.ac_on or not (self.empty or self.fault)
            self.out.changeover(t)
            self._try_output(t)
        if t >= self.empty_at:
            self._run_dry(t)
        if t >= self.full_at:
            self.full_at = NEVER
            self._trip(t, None)
        if t >= self.idle_at:
            self.idle_at = NEVER
            self.ac_on = False
            self.reset_at = self.presence.next(t + self.plan.strategy.reset_after_s)
            self.out.idle_cutout(t, self.station.idle_cutout)
            self._output_off(t)
        if t >= self.reset_at:
            self._reset(t)

    def _run_dry(self, t: float) -> None:
        self.empty_at = NEVER
        if self.empty:
            self.stored_wh = 0.0
            return
        self.stored_wh = min(self.stored_wh, self.cutoff_wh)
        self.empty, self.ac_on = True, False
        self.out.empty(t, self.station.cutoff_percent)
        self._output_off(t)

    def _demands_at(self, t: float) -> None:
        self.changed = []
        for rank, due in enumerate(self.next_s):
            if due <= t:
                load = self.loads[rank]
                for _ in range(100):
                    if load.demand.next_s > t:
                        break
                    load.demand.step(t)
                self.next_s[rank] = load.demand.next_s
                self.changed.append(load)
                if not load.powered:
                    load.mind_service(t, self._waiting(load))

    def _waiting(self, load: ConnectedLoad) -> bool:
        return self.output_on and load.circuit.queued

    # ---------------------------------------------------------------- output, trip, reset

    def _try_output(self, t: float) -> None:
        up = self.ac_on and self.changed_over and not (self.empty or self.fault or self.unplugged)
        if not up or self.output_on:
            return
        self.output_on = self.rewired = True
        left_off = self.plan.strategy.recovery_off if self.out.trips else ()
        self.queue = [c for c in self.circuits if c.id not in left_off]
        for circuit in self.queue:
            circuit.queued = True
        self.restore_at = t

    def _output_off(self, t: float) -> None:
        self.output_on = False
        self.rewired = True
        self.queue = []
        self.restore_at = self.full_at = self.react_at = self.idle_at = NEVER
        for circuit in self.circuits:
            circuit.closed = circuit.queued = False
        for load in self.loads:
            load.shed_since = None
        self.any_shed = False
        self.retry_at = NEVER

    def _trip(self, t: float, culprit: ConnectedLoad | None) -> None:
        drawn = [load for load in self.loads if load.draw_w > 0]
        self.out.trip(t, drawn, culprit, self.account.level)
        self.fault, self.ac_on = True, False
        self._output_off(t)
        self.account.clear()
        self.reset_at = self.presence.next(t + self.plan.strategy.reset_after_s)
        if culprit is not None:
            count = self.start_trips[culprit.id] = self.start_trips.get(culprit.id, 0) + 1
            if count >= TRIPS_BEFORE_LEFT_OFF:
                culprit.needs_hand = True
                self.out.left_off(t, culprit, count)
        self._connect(t)
        for load in self.loads:
            load.draw(t, 0.0)

    def _reset(self, t: float) -> None:
        self.reset_at = NEVER
        if self.empty:
            return
        self.fault, self.ac_on = False, True
        self.out.reset(t, self.plan.strategy.recovery_off)
        self._try_output(t)

    def _restore_at(self, t: float) -> None:
        self.together = False
        if t < self.restore_at:
            return
        at_once = self.plan.outage.restore == "all_at_once"
        closing, self.queue = (self.queue, []) if at_once else (self.queue[:1], self.queue[1:])
        for circuit in closing:
            circuit.closed, circuit.queued = True, False
        self.together = len(closing) > 1
        self.rewired = True
        self.restore_at = t + self.plan.outage.restore_interval_s if self.queue else NEVER
        if not self.queue:
            self.out.restored(t)

    def _hands_at(self, t: float) -> None:
        if t < self.hand_at:
            return
        self.hand_at = NEVER
        for load in self.loads:
            if load.needs_hand and load.hand_at <= t:
                load.needs_hand, load.hand_at = False, NEVER
                self.rewired = True
                self.out.hand(t, load)
            self.hand_at = min(self.hand_at, load.hand_at)

    # ---------------------------------------------------------------- loads

    def _charge_rules_at(self, t: float) -> None:
        if self.room_shed or self.stored_wh > self.room_wh * (1 + SLACK):
            return
        self.room_shed = self.rewired = True
        self.out.room_shed(t, [load for load in self.loads if load.mark == "room"])

    def _connect(self, t: float) -> None:
        for load in self.loads:
            on = self.output_on and load.ready and not (self.room_shed and load.mark == "room")
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
        if not self.output_on:
            return
        reacts = self.shedding == "by_hand" and t >= self.react_at
        if reacts or (self.shedding == "automatic" and not self._plainly_fits(t)):
            self.react_at = NEVER
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
        growing = [load for load in self.changed if load.powered and load.demand.watts > load.draw_w]
        if self.rewired or len(growing) > 1:
            return False
        for load in growing:
            starts = load.load.start if load.demand.begins(load.draw_w) else None
            carried = self.curve.carried_multiple(starts.seconds) if starts else NEVER
            if self.sums.start_multiple(load, load.start_va(t), self.limits) > CLEAR * carried:
                return False
            trial = replace(self.sums)
            trial.add(load, load.demand.watts - load.draw_w)
            return trial.multiple(self.limits) < CLEAR
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

    def _start_and_draw(self, t: float) -> ConnectedLoad | None:
        """Apply the draws; returns the load whose start trips the station, if one does."""
        starting: list[ConnectedLoad] = []
        for load in self.loads if self.rewired else self.changed:
            watts = load.demand.watts if load.powered else 0.0
            if watts != load.draw_w:
                if watts > 0 and load.load.start is not None and load.demand.begins(load.draw_w):
                    starting.append(load)
                    continue
                load.draw(t, watts)
        if not starting:
            return None
        sums = sums_of(self.loads)
        if self.together and len(starting) > 1:
            return self._start_together(t, starting, sums)
        for load in starting:
            culprit = self._start_one(t, load, sums)
            if culprit is not None:
                return culprit
        return None

    def _start_one(self, t: float, load: ConnectedLoad, sums: LegSums) -> ConnectedLoad | None:
        start_va = load.start_va(t)
        seconds = load.load.start.seconds if load.load.start else 0.5
        carried = self.curve.carried_multiple(seconds)
        multiple = sums.start_multiple(load, start_va, self.limits)
        self.out.start(t, load, multiple, carried)
        if multiple > carried * (1 + SLACK):
            load.draw(t, load.demand.watts)
            return load
        load.draw(t, load.demand.watts)
        sums.add(load, load.demand.watts)
        if multiple > DIP_FROM * carried:
            self._dip(t, load, multiple / carried)
        return None

    def _start_together(self, t: float, starting: list[ConnectedLoad], sums: LegSums) -> ConnectedLoad | None:
        """Everything at one instant: volt-amperes of all starts add, for the longest of their times."""
        biggest = max(starting, key=lambda load: load.start_va(t))
        seconds = max(load.load.start.seconds for load in starting if load.load.start)
        for load in starting:
            if load is not biggest:
                sums.add(load, load.start_va(t))
        carried = self.curve.carried_multiple(seconds)
        multiple = sums.start_multiple(biggest, biggest.start_va(t), self.limits)
        self.out.start(t, biggest, multiple, carried)
        for load in starting:
            load.draw(t, load.demand.watts)
        return biggest if multiple > carried * (1 + SLACK) else None

    def _dip(self, t: float, cause: ConnectedLoad, share: float) -> None:
        dropped = [
            load for load in self.loads if load.load.drops_on_dip and load.draw_w > 0 and load is not cause
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
        """Set the powers that hold until the next event, and when the next thresholds fall."""
        if self.rewired or self.changed:
            self.sums = sums_of(self.loads)
            for circuit in self.circuits if self.rewired else [load.circuit for load in self.changed]:
                circuit.note_current(self.limits.leg_volts)
        sums = self.sums
        volts = self.limits.leg_volts
        a_a, b_a, n_a = sums.a_va() / volts, sums.b_va() / volts, sums.neutral_va() / volts
        self.ac_w = sums.watts()
        self.cord_w = cord_loss_w(a_a, b_a, n_a, self.cord_ohms)
        holds = self.stored_wh > 0
        self.idle_w = self.station.idle_w if self.ac_on and holds else 0.0
        self.sleep_w = self.station.sleep_w if holds and not self.ac_on else 0.0
        self.self_w = self.self_discharge_w if holds else 0.0
        inverter_w = (self.ac_w + self.cord_w) / self.station.inverter_efficiency
        self.cells_w = inverter_w + self.idle_w + self.sleep_w + self.self_w
        self._thresholds(t, sums)
        self.out.row(t, sums, (a_a, b_a, n_a), self)
        self.rewired = False

    def _thresholds(self, t: float, sums: LegSums) -> None:
        multiple = sums.multiple(self.limits)
        left_s = self.account.load(multiple)
        self.full_at = t + left_s if self.output_on else NEVER
        self._mind_overload(t, multiple, sums)
        rate = self.cells_w / 3600.0
        self.empty_at = self.room_at = NEVER
        if rate > 0:
            if not self.empty:
                self.empty_at = t + max(0.0, self.stored_wh - self.cutoff_wh) / rate
            elif self.stored_wh > 0:
                self.empty_at = t + self.stored_wh / rate
            if not self.room_shed and self.stored_wh > self.room_wh > 0:
                self.room_at = t + (self.stored_wh - self.room_wh) / rate
        cutout = self.station.idle_cutout
        if cutout is None or not self.output_on or self.ac_w >= cutout.threshold_w:
            self.idle_at = NEVER
        elif self.idle_at is NEVER:
            self.idle_at = t + cutout.after_s

    def _mind_overload(self, t: float, multiple: float, sums: LegSums) -> None:
        over = self.output_on and multiple > 1 + SLACK
        if not over:
            self.react_at = NEVER
            self.out.over_limit_ends(t)
            return
        self.out.over_limit(t, multiple, sums, self.full_at)
        if self.shedding == "by_hand" and self.react_at is NEVER:
            self.react_at = self.presence.next(t + self.plan.strategy.reaction_s)
