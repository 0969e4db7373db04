"""The cells of a station in the run: what goes in, what comes out, exactly between two moments.

Refused: charge below the coldest temperature of the cells, AC charge of a full unit until it is down
to its own level. Lost: what the inverter, its idle draw, sleeping, self-discharge and charging take.
Delayed: the taper, above the knee dE/dt = P_ref·f(E) with f falling linearly to its end at full.
Net power into the cells is at most the taper and the largest charge of all sources together;
offers are used in their order (sun, vehicle, wall, battery), the last of them yields.
Packs that stand apart from the head unit, or that are unplugged, are in `packs`: the store is that of
all that give and take as one. Sun on a pack's own input counts at the store, too.
Units W, Wh and s. Common practice of the trade; closed forms of `exact.course`.
"""

import math
from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Mapping
from typing import ClassVar, Final

from weary_cedar.core.exact.course import after, hours_to
from weary_cedar.core.plan import Station
from weary_cedar.core.supply.packs import Packs
from weary_cedar.core.supply.station_energy import HOURS_PER_WEEK

NEVER: Final = math.inf
#: A level counts as reached this close, as a share of all cells.
REACHED: Final = 1e-9
#: A course that depends on another one that bends is looked at again this often, s.
LOOK_AGAIN_S: Final = 60.0
#: While it tapers, it is looked at each time that it takes less by this share of its greatest charge: what is
#: between two points is straight but for this.
BEND_SHARE: Final = 0.025


class Bend:
    """Something whose draw changes along the present course, seen from what it hangs on."""

    def noted_w(self) -> float:
        """What it drew when the flow of what it hangs on was noted last, W."""
        raise NotImplementedError

    def at_w(self, t: float) -> float:
        """What it draws at a moment of the present course, W."""
        raise NotImplementedError

    def between_wh(self, t1: float, t2: float) -> float:
        """What it draws between two moments of the present course, Wh."""
        raise NotImplementedError

    def spared_wh(self, t1: float, t2: float) -> float:
        """By how much that is less than what was noted makes, Wh."""
        return self.noted_w() * (t2 - t1) / 3600.0 - self.between_wh(t1, t2)


class Offer:
    """Power that something would put into the cells of a unit, and what was taken of it."""

    __slots__ = ("cells_w", "efficiency", "key", "kind", "offered_wh", "rank", "taken_wh", "unit", "wall_w")
    STATE: ClassVar[str] = "cells_w offered_wh taken_wh wall_w"

    def __init__(self, unit: "Unit", kind: str, key: str, rank: int, efficiency: float) -> None:
        self.unit = unit
        self.kind = kind
        self.key = key
        self.rank = rank
        self.efficiency = efficiency
        #: What it gives now, before its loss and at the cells.
        self.wall_w = self.cells_w = 0.0
        self.offered_wh = self.taken_wh = 0.0

    def give(self, watts: float) -> None:
        """Set what it offers from now on, W before its loss."""
        self.wall_w = watts
        self.cells_w = watts * self.efficiency
        self.unit.moved = True

    def now_w(self) -> float:
        """What is taken of it at this moment, W before its loss."""
        return self.unit.used_w(self) / self.efficiency

    def at_w(self, t: float) -> float:
        """What is taken of it at a moment of the present course, W before its loss."""
        return self.unit.used_at(self, t) / self.efficiency

    def between_wh(self, t1: float, t2: float) -> float:
        """What is taken of it between two moments of the present course, Wh before its loss."""
        return self.unit.used_wh(self, t1, t2) / self.efficiency

    @property
    def bends(self) -> bool:
        """Whether what is taken of it changes along the course."""
        unit = self.unit
        return unit.regime != "flows" and unit.margin is self and (unit.b != 0.0 or bool(unit.varying))


class Unit:
    """Head unit and the packs that give and take with it, as one store with its charging limits."""

    __slots__ = (
        "a",
        "ac_rests",
        "ac_wh",
        "all_wh",
        "b",
        "blocked",
        "blocked_spans",
        "cap_wh",
        "cutoff_wh",
        "draw_w",
        "due_s",
        "efficiency",
        "empty",
        "fall_percents",
        "falls",
        "flat_until_wh",
        "flat_w",
        "idle_w",
        "idle_wh",
        "inverter_wh",
        "key",
        "lowest_wh",
        "margin",
        "met",
        "moved",
        "name",
        "offers",
        "out_w",
        "packs",
        "pull_w",
        "readings",
        "recharge_wh",
        "reference_w",
        "regime",
        "rise_percents",
        "rises",
        "rows",
        "self_w",
        "self_wh",
        "since_s",
        "sleep_w",
        "sleep_wh",
        "slot",
        "stands",
        "start_wh",
        "station",
        "stored_wh",
        "taper_slope",
        "varying",
    )
    STATE: ClassVar[str] = (
        "a ac_rests ac_wh b blocked cap_wh cutoff_wh draw_w due_s empty falls flat_until_wh flat_w "
        "idle_w idle_wh inverter_wh lowest_wh margin met moved out_w pull_w readings recharge_wh "
        "reference_w regime rises rows self_w self_wh since_s sleep_w sleep_wh start_wh stored_wh "
        "taper_slope varying"
    )

    def __init__(
        self,
        key: str,
        station: Station,
        percent: float = 100.0,
        packs: Mapping[str, float] | None = None,
        unplugged: Iterable[str] = (),
    ) -> None:
        self.key = key
        self.station = station
        self.name = station.name
        #: Head unit and packs in several stores; nothing where all of them are one.
        self.packs = Packs(station, percent, packs or {}, unplugged) if packs or unplugged else None
        #: Energy of head unit and all packs from 100 to 0 %, wherever they are, Wh.
        self.all_wh = station.total_cell_wh
        self.efficiency = station.inverter_efficiency
        self.stored_wh = self.packs.stored_wh if self.packs else station.wh_at(percent, {})
        self.start_wh = self.lowest_wh = self.held_wh
        #: (s, charge of the head unit and of every pack, %) where they ever stand apart.
        self.readings: list[tuple[float, dict[str, float]]] = []
        self.fall_percents: set[float] = set()
        self.rise_percents: set[float] = set()
        self._size()
        self.since_s = 0.0
        self.empty = False
        self.blocked = False
        #: (begin, end) of stretches in which cold cells take no charge, s.
        self.blocked_spans: list[tuple[float, float]] = []
        week = station.self_discharge_percent_per_week / 100.0 / HOURS_PER_WEEK
        #: What it takes by itself: idle, asleep, self-discharge, W.
        self.stands = (station.idle_draw_w, station.sleep_w, self.all_wh * week)
        #: After full, the wall rests until the charge is down to the level of recharging.
        self.ac_rests = self.full
        self.offers: list[Offer] = []
        #: What it feeds that draws otherwise along the course, with its share of each.
        self.varying: list[tuple[Bend, float]] = []
        self.regime = "flows"
        #: What is taken of an offer may be another than was noted last.
        self.moved = True
        self.margin: Offer | None = None
        self.a = self.b = 0.0
        #: Taken from the store: the draw, less what packs that stand aside give.
        self.pull_w = 0.0
        self.out_w = self.draw_w = self.idle_w = self.sleep_w = self.self_w = 0.0
        self.ac_wh = self.inverter_wh = self.idle_wh = self.sleep_wh = self.self_wh = 0.0
        self.due_s = NEVER
        #: Its place in the list of next moments of a run.
        self.slot = 0
        self.rows: list[tuple[float, float, float, float]] = []

    def _size(self) -> None:
        """Take the figures that follow from how much the store holds when it is full."""
        station = self.station
        self.cap_wh = self.packs.cap_wh if self.packs else self.all_wh
        self.cutoff_wh = self.cap_wh * station.cutoff_percent / 100.0
        self.recharge_wh = self.cap_wh * station.recharge_below_percent / 100.0
        self._taper(station)
        #: Charges at which someone looks when it falls, and when it rises, Wh, sorted.
        self.falls = sorted({self.cap_wh * p / 100.0 for p in self.fall_percents if p > 0})
        self.rises = sorted({self.cap_wh * p / 100.0 for p in self.rise_percents if p > 0})
        #: How many of these it stood at or past when someone looked last.
        self.met = (-1, -1)

    def watch(self, falls: Iterable[float], rises: Iterable[float]) -> None:
        """Take the charges at which someone looks when it falls, and when it rises, %."""
        self.fall_percents, self.rise_percents = set(falls), set(rises)
        self._size()

    def _taper(self, station: Station) -> None:
        taper = station.tapers
        dc_w = sum(item.most_w * item.efficiency for item in station.dc_inputs.values())
        reference_w = (
            taper.reference_w or station.most_charge_w or station.max_charge_w or dc_w or self.cap_wh
        )
        most_w = station.max_charge_w or NEVER
        if station.bank is not None and station.bank.most_charge_w is not None:
            most_w = min(most_w, station.bank.most_charge_w)
        knee_wh = self.cap_wh * taper.knee_percent / 100.0
        end = taper.end_percent / 100.0
        self.reference_w = reference_w
        self.taper_slope = (1 - end) / (self.cap_wh - knee_wh)
        self.flat_w = min(most_w, reference_w)
        drop = 1 - self.flat_w / reference_w
        self.flat_until_wh = (
            min(self.cap_wh, knee_wh + drop / self.taper_slope) if self.taper_slope else self.cap_wh
        )

    # ---------------------------------------------------------------- limits

    @property
    def full(self) -> bool:
        """Whether nothing more goes in."""
        return self.stored_wh >= self.cap_wh * (1 - REACHED)

    @property
    def held_wh(self) -> float:
        """Energy in the head unit and in all packs, wherever they are, Wh."""
        return self.stored_wh + (self.packs.others_wh if self.packs else 0.0)

    def held_at(self, t: float) -> float:
        """Energy in the head unit and in all packs at a moment of the present course, Wh."""
        if self.packs is None:
            return self.value(t)
        moved = sum(cells.watts for cells in self.packs.aside) * (t - self.since_s) / 3600.0
        return self.value(t) + self.packs.others_wh - moved

    @property
    def borne(self) -> bool:
        """Whether packs that stand aside carry what is drawn, though the store is at its cut-off."""
        return self.packs is not None and bool(self.packs.aside) and self.a >= 0

    @property
    def percent(self) -> float:
        """Charge of the head unit and of the packs that give and take with it, %."""
        return 100.0 * self.stored_wh / self.cap_wh

    def limit_w(self, stored_wh: float) -> float:
        """Most that the cells take at a charge, W."""
        if stored_wh <= self.flat_until_wh:
            return self.flat_w
        return self.flat_w - self.reference_w * self.taper_slope * (stored_wh - self.flat_until_wh)

    def _where_limit_is(self, watts: float) -> float:
        """Charge at which the cells take no more than so many watts, Wh."""
        if watts >= self.flat_w:
            return self.flat_until_wh
        if self.taper_slope == 0:
            return NEVER
        return self.flat_until_wh + (self.flat_w - watts) / (self.reference_w * self.taper_slope)

    # ---------------------------------------------------------------- along the course

    def value(self, t: float) -> float:
        """Energy in the cells at a moment of the present course, Wh."""
        hours = (t - self.since_s) / 3600.0
        stored = after(self.stored_wh, self.a, self.b, hours)
        if self.varying and self.regime == "flows":
            stored += self._not_drawn_wh(self.since_s, t) / self.efficiency
        return stored

    def _not_drawn_wh(self, t1: float, t2: float) -> float:
        """AC energy less than what the present powers would make, because what is downstream tapers."""
        return sum(share * bend.spared_wh(t1, t2) for bend, share in self.varying)

    def used_w(self, offer: Offer) -> float:
        """What is taken of an offer now, W at the cells."""
        if self.regime == "flows":
            return offer.cells_w
        limit_w = self.limit_w(self.stored_wh) if self.regime == "limited" else 0.0
        return self._yields(offer, self.pull_w + limit_w)

    def used_at(self, offer: Offer, t: float) -> float:
        """What is taken of an offer at a moment of the present course, W at the cells."""
        if self.regime == "flows":
            return offer.cells_w
        need_w = self.pull_w + (self.limit_w(self.value(t)) if self.regime == "limited" else 0.0)
        for bend, share in self.varying:
            need_w -= share * (bend.noted_w() - bend.at_w(t)) / self.efficiency
        return self._yields(offer, need_w)

    def _yields(self, offer: Offer, need_w: float) -> float:
        """What of an offer goes in where so much is needed in all, W at the cells."""
        before = 0.0
        for item in self.offers:
            if item is offer:
                break
            before += item.cells_w
        return min(offer.cells_w, max(0.0, need_w - before))

    def used_wh(self, offer: Offer, t1: float, t2: float) -> float:
        """What is taken of an offer between two moments of the present course, Wh at the cells."""
        hours = (t2 - t1) / 3600.0
        if self.regime == "flows" or self.margin is None:
            return offer.cells_w * hours
        before = 0.0
        for item in self.offers:
            if item is offer:
                break
            before += item.cells_w
            if item is self.margin:
                return 0.0
        if offer is not self.margin:
            return offer.cells_w * hours
        gained = self.value(t2) - self.value(t1)
        drawn = self.pull_w * hours
        if self.varying:
            drawn -= self._not_drawn_wh(t1, t2) / self.efficiency
        return max(0.0, gained + drawn - before * hours)

    def ac_until(self, t: float) -> float:
        """AC energy that its inverter makes up to a moment of the present course, Wh."""
        made_wh = self.out_w * (t - self.since_s) / 3600.0
        return made_wh - self._not_drawn_wh(self.since_s, t) if self.varying else made_wh

    def settle(self, t: float) -> None:
        """Bring the books up to a moment of the present course."""
        if t <= self.since_s:
            return
        since, hours = self.since_s, (t - self.since_s) / 3600.0
        flows = self.regime == "flows"
        for offer in self.offers:
            if offer.wall_w:
                offered_wh = offer.wall_w * hours
                offer.offered_wh += offered_wh
                offer.taken_wh += offered_wh if flows else self.used_wh(offer, since, t) / offer.efficiency
        ac_wh = self.ac_until(t)
        if ac_wh:
            self.ac_wh += ac_wh
            self.inverter_wh += ac_wh * (1 / self.efficiency - 1)
        self.idle_wh += self.idle_w * hours
        self.sleep_wh += self.sleep_w * hours
        self.self_wh += self.self_w * hours
        held_wh = self.value(t) if self.b or self.varying else self.stored_wh + self.a * hours
        if held_wh < 0.0:
            held_wh = 0.0
        elif held_wh > self.cap_wh:
            held_wh = self.cap_wh
        self.stored_wh = held_wh
        self.since_s = t
        if self.packs is not None:
            self.packs.advance(hours)
            held_wh += self.packs.others_wh
        self.lowest_wh = min(self.lowest_wh, held_wh)

    # ---------------------------------------------------------------- a new course

    def carry(self, t: float, out_w: float, *, on: bool, passes: bool) -> None:
        """Set what is drawn from now on, and find out when the course comes to its next mark.

        Args:
            t: the moment, s; the books must be up to it.
            out_w: AC power that the inverter makes from these cells, W.
            on: the inverter is on.
            passes: a live input carries the output, so that the inverter idles on it.
        """
        held_wh = self.stored_wh
        holds = held_wh > 0
        offered = 0.0
        for offer in self.offers:
            offered += offer.cells_w
        self.out_w = out_w
        idle_w, sleep_w, self_w = self.stands
        self.idle_w = idle_w = idle_w if on and holds and not passes else 0.0
        self.sleep_w = sleep_w = 0.0 if on else sleep_w if holds else min(sleep_w, offered)
        self.self_w = self_w = self_w if holds else 0.0
        self.draw_w = pull_w = out_w / self.efficiency + idle_w + sleep_w + self_w
        if self.packs is not None:
            held_wh += self.packs.others_wh
            pull_w = self._beside_packs(self.packs)
        self.pull_w = pull_w
        net = offered - pull_w
        self.margin = None
        self.moved = self.moved or self.regime != "flows"
        if net <= 0:
            self.regime, self.a, self.b = "flows", net, 0.0
            self.due_s = self._next_mark(t)
        elif self.full or self.blocked:
            self.regime, self.a, self.b = "full", 0.0, 0.0
            self.margin = self._marginal(pull_w)
            self.due_s = NEVER
        elif net > self.limit_w(self.stored_wh) * (1 + (-REACHED if self._tapers else REACHED)):
            self._limited(t)
        else:
            self.regime, self.a, self.b = "flows", net, 0.0
            self.due_s = self._next_mark(t)
        if self.packs is not None:
            self._mind_packs(t, self.packs)
        if self.reached() != self.met:
            self.due_s = t
        self.moved = self.moved or self.regime != "flows"
        row = (t, held_wh, self.draw_w, offered)
        if self.rows and self.rows[-1][0] == t:
            self.rows[-1] = row
        else:
            self.rows.append(row)

    def _beside_packs(self, packs: Packs) -> float:
        """What is taken from the store while packs stand aside, W."""
        room_w = self.limit_w(self.cap_wh if self._tapers else self.stored_wh)
        most_w = self.draw_w + (0.0 if self.full or self.blocked else room_w)
        gives = not self.empty and not self.full and self.stored_wh > self.cutoff_wh
        return self.draw_w - packs.share_out(self.stored_wh, most_w, gives)

    def _mind_packs(self, t: float, packs: Packs) -> None:
        """When one that stands aside comes within the band, or a store at its cut-off is drawn on."""
        if packs.ever_apart:
            self.readings.append((t, packs.readings(self.stored_wh)))
        if not packs.apart:
            return
        rate = self.a + self.b * self.stored_wh
        self.due_s = min(self.due_s, t + packs.soonest_h(self.stored_wh, rate) * 3600.0)
        if self.b != 0.0 or self.varying:
            self.due_s = min(self.due_s, t + LOOK_AGAIN_S)
        if packs.aside and rate < 0 and not self.empty and self.stored_wh <= self.cutoff_wh * (1 + REACHED):
            self.due_s = t

    def meet_packs(self) -> list[str]:
        """Let packs that came within the band join; returns their names. The books must be up to now."""
        if self.packs is None or not self.packs.aside:
            return []
        met = self.packs.meet(self.stored_wh)
        if met:
            self._take_packs(self.packs)
        return [cells.name for cells in met]

    def plug_pack(self, key: str, *, on: bool) -> bool:
        """Plug a pack in, or unplug it; the books must be up to now."""
        if self.packs is None or not self.packs.plug(key, self.stored_wh, on=on):
            return False
        self._take_packs(self.packs)
        return True

    def _take_packs(self, packs: Packs) -> None:
        self.stored_wh = packs.stored_wh
        self._size()

    def reached(self) -> tuple[int, int]:
        """How many levels it stands at or past: of those that it falls to, and that it rises to.

        A level counts as soon as it is as near as rounding: what happens within microseconds of a mark
        never hides it.
        """
        slack = self.cap_wh * REACHED
        fallen = len(self.falls) - bisect_left(self.falls, self.stored_wh - slack)
        return fallen, bisect_right(self.rises, self.stored_wh + slack) + self.full

    def look(self) -> None:
        """Someone looks at it now: stand exactly on a level that was just reached."""
        slack = self.cap_wh * 2e-9
        for level in (0.0, *self.falls, *self.rises, self.cap_wh):
            if abs(self.stored_wh - level) <= slack:
                self.stored_wh = level
        self.met = self.reached()

    @property
    def _tapers(self) -> bool:
        """Whether what the cells take falls from here on."""
        return self.taper_slope > 0 and self.stored_wh >= self.flat_until_wh * (1 - REACHED)

    def _limited(self, t: float) -> None:
        self.regime = "limited"
        limit = self.limit_w(self.stored_wh)
        if not self._tapers:
            self.a, self.b = limit, 0.0
        else:
            self.b = -self.reference_w * self.taper_slope
            self.a = limit - self.b * self.stored_wh
        self.margin = self._marginal(self.pull_w + limit)
        self.due_s = min(self._next_mark(t), t + self._bend_h() * 3600.0)

    def _bend_h(self) -> float:
        """How long until it takes less by a share of its greatest charge, h: r·(1 − e^(b·h)) = share."""
        rate, less_w = self.a + self.b * self.stored_wh, BEND_SHARE * self.flat_w
        return math.log(1 - less_w / rate) / self.b if self.b and rate > less_w else NEVER

    def _marginal(self, need_w: float) -> Offer | None:
        """The offer that yields: what is before it is used whole, what is behind it not at all."""
        used = 0.0
        for offer in self.offers:
            used += offer.cells_w
            if used >= need_w * (1 - REACHED) and offer.cells_w > 0:
                return offer
        return self.offers[-1] if self.offers else None

    def _mark(self) -> float:
        """The nearest charge at which something changes along a rising course, Wh."""
        stored_wh = self.stored_wh
        beyond = stored_wh + self.cap_wh * REACHED
        nearest = self.cap_wh
        if self.regime == "flows":
            mark = self._where_limit_is(self.a)
        elif self.b == 0.0:
            mark = self.flat_until_wh
        else:
            mark = self._where_margin_ends()
        if beyond < mark < nearest:
            nearest = mark
        index = bisect_right(self.rises, beyond)
        if index < len(self.rises) and self.rises[index] < nearest:
            nearest = self.rises[index]
        return nearest if nearest > beyond else NEVER

    def _where_margin_ends(self) -> float:
        """Charge at which the offer that yields is not used at all any more, Wh."""
        if self.margin is None:
            return NEVER
        before = 0.0
        for offer in self.offers:
            if offer is self.margin:
                break
            before += offer.cells_w
        return self._where_limit_is(before - self.pull_w) if before > self.pull_w else NEVER

    def _next_mark(self, t: float) -> float:
        stored_wh, a, b = self.stored_wh, self.a, self.b
        rate = a + b * stored_wh
        soonest = NEVER
        if rate > 0:
            mark = self._mark()
            if mark < NEVER:
                soonest = hours_to(stored_wh, mark, a, b) if b else (mark - stored_wh) / a
        elif rate < 0:
            index = bisect_left(self.falls, stored_wh - self.cap_wh * REACHED)
            goal = self.falls[index - 1] if index else 0.0
            soonest = max(0.0, stored_wh - goal) / -rate if stored_wh > 0 else NEVER
            if self.varying:
                found_s = self._found(t, goal, soonest)
                return min(found_s, self._until_full(t)) if self.offers else found_s
        if self.varying:
            return min(t + soonest * 3600.0, self._until_full(t))
        return t + soonest * 3600.0

    def _until_full(self, t: float) -> float:
        """When to look again while what is drawn falls: before more goes in than there is room for."""
        low, high = t, t + LOOK_AGAIN_S
        if self.value(high) <= self.cap_wh:
            return high
        for _ in range(60):
            middle = (low + high) / 2
            low, high = (low, middle) if self.value(middle) > self.cap_wh else (middle, high)
        return low

    def _found(self, t: float, goal: float, soonest_h: float) -> float:
        """When a falling course that bends comes to a goal: bracketed, then halved."""
        low, high = t + soonest_h * 3600.0, t + soonest_h * 3600.0
        for _ in range(60):
            if self.value(high) <= goal:
                break
            low, high = high, high + max(60.0, high - t)
        else:
            return NEVER
        for _ in range(80):
            middle = (low + high) / 2
            if middle in (low, high):
                break
            low, high = (low, middle) if self.value(middle) <= goal else (middle, high)
        return high
