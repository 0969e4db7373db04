"""Keeps what a run produces: rows, events with their words, energy, greatest flows."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING

from weary_cedar.core.outage.result import Event, EventKind
from weary_cedar.core.plan import IdleCutout, Plan

if TYPE_CHECKING:
    from weary_cedar.core.outage.connected import ConnectedLoad
    from weary_cedar.core.outage.feed_limits import FeedLimits
    from weary_cedar.core.outage.kernel import OutageRun
    from weary_cedar.core.outage.leg_sums import LegSums

#: One change point: time, P and VA of both legs, amps of A, B and neutral, cells W, stored Wh, account.
Row = tuple[float, float, float, float, float, float, float, float, float, float, float]


def clock(at: datetime) -> str:
    """A moment as people say it: "Wed 14 Oct 03:10"."""
    return f"{at:%a} {at.day} {at:%b %H:%M}"


def names(loads: list[ConnectedLoad], most: int = 3) -> str:
    """A few names in a row, and how many more."""
    shown = ", ".join(load.name for load in loads[:most])
    more = len(loads) - most
    return f"{shown} and {more} more" if more > 0 else shown


class Recorder:
    """The notebook of one run."""

    def __init__(self, plan: Plan, limits: FeedLimits) -> None:
        self._plan = plan
        self._limits = limits
        self.rows: list[Row] = []
        self.events: list[Event] = []
        self.trips = 0
        self.intervals = 0
        self.ac_wh = self.cord_wh = self.idle_wh = self.sleep_wh = self.self_wh = 0.0
        self.most_leg: tuple[float, float, str] = (0.0, 0.0, "A")
        self.most_total: tuple[float, float] = (0.0, 0.0)
        self.start_pinch: tuple[float, float, str, float] | None = None
        self.keep_lit = False
        self.keep_dark_since: float | None = 0.0
        self._over = False
        self.over_s = 0.0
        self._over_since = 0.0

    def _event(
        self,
        t: float,
        kind: EventKind,
        what: str,
        why: str = "",
        remedy: str = "",
        loads: list[ConnectedLoad] | None = None,
    ) -> None:
        at = self._plan.site.instant(self._plan.outage.start_local, t)
        ids = tuple(load.id for load in loads or ())
        self.events.append(Event(t_s=t, at=at, kind=kind, what=what, why=why, remedy=remedy, loads=ids))

    # ------------------------------------------------------------ rows and energy

    def energy(self, hours: float, run: OutageRun) -> None:
        """Book one interval by where the power went."""
        self.intervals += 1
        self.ac_wh += run.ac_w * hours
        self.cord_wh += run.cord_w * hours
        self.idle_wh += run.idle_w * hours
        self.sleep_wh += run.sleep_w * hours
        self.self_wh += run.self_w * hours

    def row(self, t: float, sums: LegSums, amps: tuple[float, float, float], run: OutageRun) -> None:
        """Note the powers from now on, the greatest flows, and whether any keep load has power."""
        a_va, b_va = sums.a_va(), sums.b_va()
        half = sums.px / 2
        row = (
            t,
            sums.pa + half,
            sums.pb + half,
            a_va,
            b_va,
            *amps,
            run.cells_w,
            run.stored_wh,
            run.account.level,
        )
        if self.rows and self.rows[-1][0] == t:
            self.rows[-1] = row
        else:
            self.rows.append(row)
        leg = max(amps[0], amps[1])
        if leg > self.most_leg[0]:
            self.most_leg = (leg, t, "A" if amps[0] >= amps[1] else "B")
        total = sums.total_va()
        if total > self.most_total[0]:
            self.most_total = (total, t)
        if not run.rewired:
            return
        if any(load.powered for load in run.loads if load.mark == "keep"):
            self.keep_lit, self.keep_dark_since = True, None
        elif self.keep_dark_since is None:
            self.keep_dark_since = t

    def begin(self, stored_wh: float) -> None:
        """First line of the notebook."""
        self._event(0.0, "outage_begins", "The power goes out", f"{stored_wh:,.0f} Wh in the cells")

    def finish(self, t: float, stored_wh: float, account: float) -> None:
        """Last row and line."""
        self.over_limit_ends(t)
        last = self.rows[-1]
        self.rows.append((t, *last[1:9], stored_wh, account))
        self._event(t, "outage_ends", "The power is back", f"{stored_wh:,.0f} Wh left in the cells")

    def start(self, t: float, load: ConnectedLoad, multiple: float, carried: float) -> None:
        """Keep the start that comes nearest to what is carried."""
        if self.start_pinch is None or multiple / carried > self.start_pinch[0] / self.start_pinch[1]:
            self.start_pinch = (multiple, carried, load.name, t)

    # ------------------------------------------------------------ events in words

    def changeover(self, t: float) -> None:
        self._event(t, "changeover", "Changed over to the station", "Breakers off before, then one at a time")

    def restored(self, t: float) -> None:
        self._event(t, "restored", "All chosen circuits are back on")

    def shed(self, t: float, gone: list[ConnectedLoad], how: str) -> None:
        by = "someone switched it off" if how == "by_hand" else "the controller dropped it"
        self._event(
            t,
            "shed",
            f"Off for now: {names(gone)}",
            f"Over the limit of {self._limits.leg_element.name} or of the station; {by}",
            "Run fewer heavy loads together, or move a circuit to the other leg",
            gone,
        )

    def back(self, t: float, load: ConnectedLoad, gone: list[ConnectedLoad]) -> None:
        why = f"It matters more than {names(gone)}" if gone else "There is room again"
        self._event(t, "back", f"Back on: {load.name}", why, loads=[load])

    def over_limit(self, t: float, multiple: float, sums: LegSums, full_at: float) -> None:
        if self._over:
            return
        self._over, self._over_since = True, t
        leg_a, leg_b, _ = sums.over(self._limits)
        where = (
            " and ".join([leg for leg, over in (("leg A", leg_a), ("leg B", leg_b)) if over]) or "in total"
        )
        lasting = "for ever" if full_at == float("inf") else f"for {full_at - t:,.0f} s"
        self._event(
            t,
            "over_limit",
            f"{multiple:.0%} of what is allowed, {where}",
            f"Carried {lasting} at this load",
            "Turn something heavy off, or let a controller shed",
        )

    def over_limit_ends(self, t: float) -> None:
        if self._over:
            self.over_s += t - self._over_since
            self._over = False

    def trip(self, t: float, drawn: list[ConnectedLoad], culprit: ConnectedLoad | None, level: float) -> None:
        self.trips += 1
        if culprit is not None:
            why = f"{culprit.name} started on top of what was running"
            remedy = f"Turn heavy loads off before {culprit.name} starts, or give it a soft start"
        else:
            why = f"Too much for too long: {names(sorted(drawn, key=lambda item: -item.draw_w))}"
            remedy = "Shed sooner, or leave the largest of these off"
        self._event(t, "trip", "The station trips: everything it feeds is dark", why, remedy, drawn)

    def left_off(self, t: float, load: ConnectedLoad, count: int) -> None:
        why = f"Its start tripped the station {count} times"
        self._event(
            t, "left_off", f"Stays off: {load.name}", why, "Never a third reset on the same load", [load]
        )

    def reset(self, t: float, recovery_off: tuple[str, ...]) -> None:
        labels = [self._plan.circuits[key].label for key in recovery_off]
        why = f"Left off: {', '.join(labels)}" if labels else "Everything goes back on"
        self._event(t, "reset", "Someone turns the output on again", why)

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

    def empty(self, t: float, cutoff_percent: float) -> None:
        self._event(
            t,
            "empty",
            f"The station is empty at {cutoff_percent:.0f} %: AC goes off",
            "More was drawn than was stored",
            "Fewer loads, another pack, or a way to recharge",
        )

    def room_shed(self, t: float, loads: list[ConnectedLoad]) -> None:
        below = self._plan.strategy.room_off_below_percent
        why = f"Charge is down to {below:.0f} %"
        self._event(t, "room_shed", f"Circuits marked room go off: {names(loads)}", why, loads=loads)

    def idle_cutout(self, t: float, cutout: IdleCutout | None) -> None:
        if cutout is None:
            return
        self._event(
            t,
            "idle_cutout",
            "The station turns its output off by itself",
            f"Under {cutout.threshold_w:.0f} W for {cutout.after_s / 3600:.1f} h",
            "Disable the automatic turn-off in its settings, or keep a small steady load on",
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

    def keep_lost(self, t: float, load: ConnectedLoad) -> None:
        self._event(
            t,
            "keep_lost",
            f"{load.name} has been without power too long",
            f"Longer than its {load.load.tolerance_s / 60:.0f} min",
            "See what happened before",
            [load],
        )
