"""Keeps what a run produces: rows, events with their words, energy, greatest flows."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING, ClassVar

from weary_cedar.core.outage.result import Event, EventKind
from weary_cedar.core.plan import Act, Plan
from weary_cedar.core.plan.load import FOOD_LIMIT_C

if TYPE_CHECKING:
    from weary_cedar.core.outage.carriers import EngineCarrier, StationCarrier, VehicleCarrier
    from weary_cedar.core.outage.connected import ConnectedLoad
    from weary_cedar.core.outage.controls import EngineControl, ShedControl
    from weary_cedar.core.outage.kernel import OutageRun
    from weary_cedar.core.outage.tree import Carrier, LiveLink, LiveWay, Node
    from weary_cedar.core.supply.unit import Unit

#: One change point: time, P and VA of both legs, amps of A, B and neutral, cells W, stored Wh, account.
Row = tuple[float, float, float, float, float, float, float, float, float, float, float]


def names(loads: list[ConnectedLoad], most: int = 3) -> str:
    """A few names in a row, and how many more."""
    shown = ", ".join(load.name for load in loads[:most])
    more = len(loads) - most
    return f"{shown} and {more} more" if more > 0 else shown


def _act_words(plan: Plan, act: Act, name: str) -> str:
    """What someone does, in words: switches a part, plugs something in, covers modules."""
    on = act.turn == "on"
    if act.input_id is not None:
        holder = plan.stations[act.part_id].packs[act.pack_id].name if act.pack_id else name
        return f"Input {act.input_id} of {holder} is {'plugged in again' if on else 'unplugged'}"
    if act.pack_id is not None:
        pack = plan.stations[act.part_id].packs[act.pack_id].name
        return f"{pack} is {'plugged into' if on else 'unplugged from'} {name}"
    if act.outlet_id is not None:
        return f"Someone switches outlet {act.outlet_id} of {name} {act.turn}"
    if act.room == "arrays":
        return f"{name} {'gets sun again' if on else 'is covered, or taken in'}"
    if act.room == "externals":
        return f"{name} is {'plugged in again' if on else 'unplugged'}"
    return f"Someone switches {name} {act.turn}"


class Recorder:
    """The notebook of one run."""

    STATE: ClassVar[str] = "rows events trips start_pinch keep_dark_since"

    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self.rows: list[Row] = []
        self.events: list[Event] = []
        self.trips = 0
        self.intervals = 0
        self.start_pinch: tuple[float, float, str, float, Node] | None = None
        self.keep_dark_since: float | None = 0.0

    def _event(
        self,
        t: float,
        kind: EventKind,
        what: str,
        why: str = "",
        remedy: str = "",
        loads: Sequence[ConnectedLoad] = (),
        part: str = "",
    ) -> None:
        at = self._plan.site.instant(self._plan.outage.start_local, t)
        ids = tuple(load.id for load in loads)
        self.events.append(
            Event(t_s=t, at=at, kind=kind, what=what, why=why, remedy=remedy, loads=ids, part=part)
        )

    # ------------------------------------------------------------ rows

    def row(self, t: float, run: OutageRun) -> None:
        """Note what all live ways carry from now on, the cells, and whether any keep load has power."""
        a_w = b_w = a_va = b_va = a = b = n = cells_w = stored_wh = 0.0
        for way in run.ways:
            if way.live:
                sums = way.sums
                half = sums.px / 2
                a_w += sums.pa + half
                b_w += sums.pb + half
                on_a, on_b, _ = way.va
                a_va += on_a
                b_va += on_b
                on_a, on_b, neutral = way.amps
                a += on_a
                b += on_b
                n += neutral
        for unit in run.measured:
            cells_w += unit.draw_w
            if unit.since_s == t and unit.packs is None:
                stored_wh += unit.stored_wh
            else:
                stored_wh += unit.held_at(t)
        account = self._fullest(t, run.stations)
        row = (t, a_w, b_w, a_va, b_va, a, b, n, cells_w, stored_wh, account)
        if self.rows and self.rows[-1][0] == t:
            self.rows[-1] = row
        else:
            self.rows.append(row)
        if not run.rewired:
            return
        if any(load.powered for load in run.loads if load.mark == "keep"):
            self.keep_dark_since = None
        elif self.keep_dark_since is None:
            self.keep_dark_since = t

    @staticmethod
    def _fullest(t: float, stations: list[StationCarrier]) -> float:
        """The fullest overload account, 0 to 1."""
        fullest = 0.0
        for carrier in stations:
            for item in carrier.accounts:
                if item.active:
                    fullest = max(fullest, item.after(t - carrier.since_s))
        return fullest

    def begin(self, stored_wh: float) -> None:
        """First line of the notebook."""
        self._event(0.0, "outage_begins", "The power goes out", f"{stored_wh:,.0f} Wh in the cells")

    def pack_joins(self, t: float, unit: Unit, name: str) -> None:
        """A pack that stood aside is as charged as the others now."""
        what = f"{name} and the others of {unit.name} are within {unit.station.balance_band_percent:g} points"
        self._event(t, "packs_even", what, "They give and take as one from now on", part=unit.key)

    def food_warm(self, t: float, load: ConnectedLoad, name: str, limit_c: float, over_s: float) -> None:
        """The contents of a compartment became warmer than they may be."""
        told = self._plan.site.units.told_warmth
        limit, safe = told(round(limit_c, 1)), told(FOOD_LIMIT_C)
        why = f"Its contents are over it for {over_s / 3600:.1f} h in all"
        remedy = f"Power before then; what spoils should not be eaten after two hours over {safe}"
        self._event(t, "food_warm", f"{name}: contents over {limit}", why, remedy, (load,))

    def food_thaws(self, t: float, load: ConnectedLoad, name: str, thawed_s: float | None) -> None:
        """What is kept frozen begins to thaw; when all of it is thawed, if it comes to that."""
        why = "It is still frozen in part at the end"
        if thawed_s is not None:
            at = self._plan.site.instant(self._plan.outage.start_local, thawed_s)
            why = f"All of it is thawed by {self._plan.site.units.told_moment(at)}"
        remedy = "Power before then; what is thawed should not be frozen again"
        self._event(t, "food_thaws", f"{name}: contents begin to thaw", why, remedy, (load,))

    def finish(self, t: float, run: OutageRun) -> None:
        """Last row and line."""
        last = self.rows[-1]
        stored_wh = sum(unit.held_wh for unit in run.measured)
        account = max((carrier.level for carrier in run.stations), default=0.0)
        self.rows.append((t, *last[1:9], stored_wh, account))
        self._event(t, "outage_ends", "The power is back", f"{stored_wh:,.0f} Wh left in the cells")

    def start(self, t: float, load: ConnectedLoad, multiple: float, carried: float, node: Node) -> None:
        """Keep the start that comes nearest to what is carried."""
        if self.start_pinch is None or multiple / carried > self.start_pinch[0] / self.start_pinch[1]:
            self.start_pinch = (multiple, carried, load.name, t, node)

    # ------------------------------------------------------------ events in words

    def changeover(self, t: float) -> None:
        self._event(t, "changeover", "Changed over to the station", "Breakers off before, then one at a time")

    def restored(self, t: float, way: LiveWay) -> None:
        self._event(t, "restored", "All chosen circuits are back on", part=way.key)

    def shed(self, t: float, gone: list[ConnectedLoad], how: str) -> None:
        by = "someone switched it off" if how == "by_hand" else "the controller dropped it"
        name = gone[0].way.tightest.name if gone[0].way is not None else "its feed"
        self._event(
            t,
            "shed",
            f"Off for now: {names(gone)}",
            f"Over the limit of {name} or of what feeds it; {by}",
            "Run fewer heavy loads together, or move a circuit to the other leg",
            gone,
        )

    def back(self, t: float, load: ConnectedLoad, gone: list[ConnectedLoad]) -> None:
        why = f"It matters more than {names(gone)}" if gone else "There is room again"
        self._event(t, "back", f"Back on: {load.name}", why, loads=[load])

    def over_limit(self, t: float, carrier: Carrier, worst: Node, multiple: float) -> None:
        leg_a, leg_b, _ = worst.now().over(worst.leg_va, worst.total_va)
        where = (
            " and ".join([leg for leg, over in (("leg A", leg_a), ("leg B", leg_b)) if over]) or "in total"
        )
        lasting = "for ever" if carrier.full_at == float("inf") else f"for {carrier.full_at - t:,.0f} s"
        what = f"{multiple:.0%} of what is allowed, {where}"
        if worst is not carrier:
            what, lasting = f"{what}, at {worst.tightest.name}", f"by {carrier.name} {lasting}"  # type: ignore[attr-defined]
        self._event(
            t,
            "over_limit",
            what,
            f"Carried {lasting} at this load",
            "Turn something heavy off, or let a controller shed",
            part=carrier.key,
        )

    def trip(
        self, t: float, carrier: Carrier, drawn: list[ConnectedLoad], culprit: ConnectedLoad | None
    ) -> None:
        self.trips += 1
        weak_at = getattr(carrier, "weak_at", math.inf)
        if culprit is None and weak_at <= t:
            told = names(sorted(drawn, key=lambda item: -item.draw_w))
            why = f"Its weakest battery lets out no more; it was drawn by {told}"
            remedy = "Batteries of a higher limit, more of them side by side, or fewer loads at once"
        elif culprit is not None:
            why = f"{culprit.name} started on top of what was running"
            remedy = f"Turn heavy loads off before {culprit.name} starts, or give it a soft start"
        else:
            why = f"Too much for too long: {names(sorted(drawn, key=lambda item: -item.draw_w))}"
            remedy = "Shed sooner, or leave the largest of these off"
        what = f"{self._told(carrier)} trips: everything it feeds is dark"
        self._event(t, "trip", what, why, remedy, drawn, carrier.key)

    def _told(self, carrier: Carrier) -> str:
        """The station, where there is one only; else by its name."""
        plan = self._plan
        only = len(plan.stations) == 1 and not plan.generators and carrier.key in plan.stations
        return "The station" if only else carrier.name

    def breaker_trips(self, t: float, way: LiveWay, drawn: list[ConnectedLoad]) -> None:
        self.trips += 1
        name = way.breaker.name if way.breaker else "a breaker"
        why = f"Over its {way.breaker.rating_a:g} A for too long: {names(drawn)}" if way.breaker else ""
        what = f"The {name} of {way.name} trips: what it feeds is dark"
        self._event(t, "breaker_trip", what, why, "Run fewer of these together", drawn, way.key)

    def breaker_reset(self, t: float, way: LiveWay) -> None:
        self._event(t, "reset", f"Someone resets the breaker of {way.name}", part=way.key)

    def input_trips(self, t: float, link: LiveLink, through_va: float) -> None:
        why = f"{through_va:,.0f} VA pass where {link.cap_va:,.0f} VA may"
        what = f"The input of {link.unit.name} trips: it carries on from its own cells"
        self._event(t, "input_trip", what, why, "Run fewer loads behind it, or a larger input", part=link.key)

    def input_reset(self, t: float, link: LiveLink) -> None:
        self._event(t, "reset", f"Someone resets the input of {link.unit.name}", part=link.key)

    def left_running(self, t: float, control: EngineControl, until_s: float) -> None:
        """An engine that only a hand stops goes on while nobody is there."""
        engine, name = control.carrier.engine, control.carrier.name
        hours = (until_s - t) / 3600.0
        lasts_h = engine.lasts_s(control.carrier.ac_w + control.carrier.cord_w) / 3600.0
        watched = f"for {hours:.1f} h" if hours < math.inf else "until the end"
        fuel = f"its tank lasts {lasts_h:.1f} h" if lasts_h < math.inf else "its fuel is not known"
        self._event(
            t, "left_running", f"{name} is left running with nobody there {watched}", f"By its rule; {fuel}",
            "Stop it before, or let it start and stop by itself; a carbon-monoxide alarm where people sleep",
            part=control.carrier.key,
        )  # fmt: skip

    def goes_on(self, t: float, control: EngineControl, until_s: float) -> None:
        """An engine that would stop goes on for the house: nobody is there to change over."""
        hours = (until_s - t) / 3600.0
        lasts_h = control.carrier.engine.lasts_s(control.carrier.ac_w + control.carrier.cord_w) / 3600.0
        watched = f"for {hours:.1f} h more" if hours < math.inf else "until the end"
        fuel = f"its tank lasts {lasts_h:.1f} h" if lasts_h < math.inf else "its fuel is not known"
        self._event(
            t, "left_running", f"{control.carrier.name} goes on for the house {watched}",
            f"What it fills is full, but nobody is there and awake to change over; {fuel}",
            "A device that changes over by itself, or a change-over before bedtime",
            part=control.carrier.key,
        )  # fmt: skip

    def left_off(self, t: float, load: ConnectedLoad, count: int) -> None:
        why = f"Its start tripped what feeds it {count} times"
        self._event(
            t, "left_off", f"Stays off: {load.name}", why, "Never a third reset on the same load", [load]
        )

    def reset(self, t: float, carrier: Carrier, recovery_off: tuple[str, ...]) -> None:
        labels = [self._plan.circuits[key].label for key in recovery_off]
        why = f"Left off: {', '.join(labels)}" if labels else "Everything goes back on"
        self._event(t, "reset", "Someone turns the output on again", why, part=carrier.key)

    def dip(self, t: float, cause: ConnectedLoad, dropped: list[ConnectedLoad], share: float) -> None:
        self._event(
            t,
            "dip",
            f"The voltage dips: {names(dropped)} dropped out",
            f"{cause.name} started at {share:.0%} of what is carried",
            "Needs a hand to start again; run the two apart",
            dropped,
        )

    def hand(self, t: float, load: ConnectedLoad) -> None:
        self._event(t, "hand", f"Someone starts {load.name} again", loads=[load])

    def locked_out(self, t: float, load: ConnectedLoad) -> None:
        self._event(
            t,
            "locked_out",
            f"{load.name} locks out: no flame is sensed (likely)",
            "The neutral of its source floats, and flame sensing wants it at ground",
            "A bonding plug at the source where its maker allows it, or a bonded source",
            [load],
        )

    def empty(self, t: float, carrier: StationCarrier, unit: Unit) -> None:
        cutoff = unit.station.cutoff_percent
        name = "The station" if self._told(carrier) == "The station" else unit.name
        what = f"{name} is empty at {cutoff:.0f} %: AC goes off"
        if carrier.pair:
            what = f"{name} is empty at {cutoff:.0f} %: both legs of {carrier.name} go off"
        why = "More was drawn than was stored"
        self._event(t, "empty", what, why, "Fewer loads, another pack, or a way to recharge", part=unit.key)

    def drops_out(self, t: float, carrier: StationCarrier, unit: Unit) -> None:
        what = f"{unit.name} is empty and drops out: the rest of {carrier.name} carries on"
        self._event(t, "empty", what, "In parallel the emptier goes first", part=unit.key)

    def restarted(self, t: float, carrier: StationCarrier, by_itself: bool) -> None:
        how = "by itself" if by_itself else "by hand"
        what = f"{carrier.name} gives power again, switched on {how}"
        self._event(t, "restarted", what, f"Charged to {carrier.percent:.0f} %", part=carrier.key)

    def filled(self, t: float, unit: Unit) -> None:
        why = f"The wall rests until {unit.station.recharge_below_percent:g} %"
        self._event(t, "full", f"{unit.name} is full", why, part=unit.key)

    def room_shed(self, t: float, control: ShedControl, loads: list[ConnectedLoad]) -> None:
        kind = "Circuits marked room go off" if control.name == "room" else "Off by rule"
        why = f"Charge is down to {control.below:.0f} %"
        if control.name == "night":
            why = f"Less than {control.below:.0f} % left at bedtime"
        self._event(t, "room_shed", f"{kind}: {names(loads)}", why, loads=loads, part=control.carrier.key)

    def room_back(self, t: float, control: ShedControl) -> None:
        what = (
            "Circuits marked room may run again"
            if control.name == "room"
            else "Circuits of a rule may run again"
        )
        why = "The night is over" if control.name == "night" else f"Charge is back at {control.above:.0f} %"
        self._event(t, "room_back", what, why, part=control.carrier.key)

    def idle_cutout(self, t: float, carrier: StationCarrier) -> None:
        cutout = carrier.cutout
        if cutout is None:
            return
        self._event(
            t,
            "idle_cutout",
            f"{self._told(carrier)} turns its output off by itself",
            f"Under {cutout.threshold_w:.0f} W for {cutout.after_s / 3600:.1f} h",
            "Disable the automatic turn-off in its settings, or keep a small steady load on",
            part=carrier.key,
        )

    def unplugged(self, t: float) -> None:
        self._event(
            t,
            "unplugged",
            "The cord comes out",
            "Incident of the plan",
            "A locking connector, and a cord out of the way",
        )

    def plugged_in(self, t: float) -> None:
        self._event(t, "plugged_in", "The cord is back in")

    def door_open(self, t: float, load: ConnectedLoad, seconds: float) -> None:
        self._event(
            t,
            "door_open",
            f"{load.name}: door left open",
            f"It runs on for {seconds / 60:.0f} min",
            loads=[load],
        )

    def keep_lost(self, load: ConnectedLoad) -> None:
        if load.over_at is None or load.failed_at is None:
            return
        site = self._plan.site
        since = site.units.told_moment(site.instant(self._plan.outage.start_local, load.failed_at))
        self._event(
            load.over_at,
            "keep_lost",
            f"{load.name} has been without power too long",
            f"Longer than its {load.load.tolerance_s / 60:.0f} min, since {since}",
            "See what happened before",
            [load],
        )

    # ------------------------------------------------------------ sources in words

    def swapped(self, t: float, before: str, after: str) -> None:
        what = f"Changed from {before} to {after}" if before else f"Changed over to {after}"
        self._event(t, "swap", what, "Never both at once")

    def engine_on(self, t: float, control: EngineControl) -> None:
        low, high = control.levels()
        units = control.watched()
        lowest = min((unit.percent for unit in units), default=0.0)
        if not units or control.alone:
            why = "For the house"
        elif control.by_hours:
            why = "By the clock"
        elif lowest > low + 1:
            why = f"Charge is at {lowest:.0f} %; it goes on to {high:g} %"
        else:
            why = f"Charge is at {lowest:.0f} %, at or under {low:g} %"
        self._event(t, "engine_on", f"{control.carrier.name} starts", why, part=control.carrier.key)

    def engine_off(self, t: float, control: EngineControl) -> None:
        _, high = control.levels()
        filled = all(unit.percent >= high - 0.01 or unit.ac_rests for unit in control.watched())
        why, remedy = "Its hours are over", ""
        if filled and not control.alone:
            why = f"Charged to {high:g} %"
        elif t == control.leaves_s:
            why = "Nobody is there and awake after this to stop it"
            remedy = "An engine that starts and stops by itself, or a rule that leaves it running"
        self._event(t, "engine_off", f"{control.carrier.name} stops", why, remedy, part=control.carrier.key)

    def engine_fails(self, t: float, carrier: EngineCarrier) -> None:
        """It was to be started, and does not come on; it stays off."""
        remedy = "Run it for ten minutes every month; fresh fuel, oil and a spare plug at hand"
        self._event(t, "engine_fails", f"{carrier.name} does not start", "It is not tried again", remedy,
                    part=carrier.key)  # fmt: skip

    def engine_dry(self, t: float, carrier: EngineCarrier, refills: bool) -> None:
        why = "It is refilled when someone is there" if refills else "No fuel is left"
        self._event(
            t, "engine_dry", f"{carrier.name}: the tank is empty", why, "More fuel on hand", part=carrier.key
        )

    def refuelled(self, t: float, carrier: EngineCarrier) -> None:
        why = "Engine off and cooled before"
        second = carrier.engine.generator.second_fuel
        if second is not None and carrier.engine.on_second:
            fuel = second.fuel.replace("_", " ")
            why += f"; on {fuel} now, at {100 * second.rated_share:.0f} % of its rating"
        self._event(t, "refuelled", f"{carrier.name}: the tank is filled", why, part=carrier.key)

    def vehicle_off(self, t: float, carrier: VehicleCarrier, back: float) -> None:
        why = "It turns itself off until someone turns it on again"
        self._event(
            t, "vehicle_off", f"{carrier.name} turns itself off", why, "Tell it to stay on", part=carrier.key
        )

    def driven(self, t: float, carrier: VehicleCarrier) -> None:
        what = "is driven away and gives nothing" if carrier.away else "is back"
        self._event(t, "act", f"{carrier.name} {what}", "As the plan says", part=carrier.key)

    def vehicle_empty(self, t: float, carrier: VehicleCarrier) -> None:
        self._event(t, "source_empty", f"{carrier.name} gives nothing more", part=carrier.key)

    def spent(self, t: float, name: str) -> None:
        self._event(t, "source_empty", f"{name} gives nothing more")

    def plugged(self, t: float, name: str, on: bool, percent: float) -> None:
        what = f"Plugged in: {name}" if on else f"Unplugged: {name}"
        self._event(t, "plug", what, f"Charge is at {percent:.0f} %")

    def grid(self, t: float, *, up: bool) -> None:
        self._event(t, "grid", "The utility is back for a while" if up else "The utility goes off again")

    def act(self, t: float, act: Act) -> None:
        part = getattr(self._plan, act.room)[act.part_id]
        named = part.label if act.room == "circuits" else part.name
        name = self._plan.lead_name(act.part_id) if act.room == "leads" else named
        self._event(t, "act", _act_words(self._plan, act, name), "As the plan says", part=act.part_id)

    def cold(self, t: float, unit: Unit, *, blocked: bool) -> None:
        if blocked:
            why = f"Its cells are under {self._plan.site.units.told_warmth(unit.station.charges_from_c)}"
            what = f"{unit.name} takes no charge"
            self._event(t, "cold", what, why, "Keep it where it is warmer", part=unit.key)
        else:
            self._event(
                t, "cold", f"{unit.name} takes charge again", "Its cells are warm enough", part=unit.key
            )
