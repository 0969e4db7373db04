"""What flows through what is live: charging into what loads leave, draws, cells and their courses.

One sweep up adds what is drawn; chargers come after all loads, the last of every chain first.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Final

from weary_cedar.core.outage.carriers import EngineCarrier, StationCarrier, VehicleCarrier
from weary_cedar.core.outage.leg_sums import SLACK
from weary_cedar.core.outage.tree import Carrier, LiveLink, LiveWay

if TYPE_CHECKING:
    from weary_cedar.core.outage.kernel import OutageRun

NEVER: Final = math.inf
#: Less than this is not worth charging with, W.
LEAST_CHARGE_W: Final = 20.0
#: A charge of several units together counts as reached this close, % points.
REACHED: Final = 1e-7
#: While one charger takes less and less and another is short of room, the room is shared anew so often, s.
SHARE_AGAIN_S: Final = 60.0


class Flows:
    """The flows of a run."""

    def __init__(self, run: OutageRun) -> None:
        self.run = run
        self._suns = {id(unit): [sun for sun in run.parts.suns if sun.unit is unit] for unit in run.units}
        self._leads = {id(unit): [x for x in run.parts.leads if x.offer.unit is unit] for unit in run.units}

    def flow(self, t: float) -> None:
        """Charging into what is left, then the flows and courses of everything that was touched."""
        run = self.run
        linked = self.run.forest.linked
        if linked and (run.rewired or not all(carrier.alone for carrier in run.touched.values())):
            self._charge(t, linked)
        for carrier in self.run.forest.order:
            if id(carrier) in run.touched:
                self.carry(t, carrier)
        for link in linked:
            link.note(t)
            self._over_cap(t, link)

    def _charge(self, t: float, linked: list[LiveLink]) -> None:
        """Give every charger what it wants and its path has left, in order."""
        run = self.run
        for link in linked:
            assert link.carrier is not None
            run.touch(link.carrier, t)
        self.yield_charging(t)
        for carrier in self.run.forest.order:
            if id(carrier) in run.touched:
                for way in carrier.live_ways:
                    way.flow(t)
                carrier.cord_w = sum(way.cord_w for way in carrier.live_ways)
        starved = False
        for link in linked:
            wish = 0.0 if link.unit.ac_rests or link.unit.full or link.unit.blocked else link.setting_w
            room = min(wish, self._room(link)) if wish else 0.0
            link.offer.give(room if room >= LEAST_CHARGE_W else 0.0)
            assert link.carrier is not None
            self.carry(t, link.carrier)
            link.charge_w = link.offer.now_w() if link.offer.cells_w else 0.0
            self._warm(link)
            starved = starved or link.offer.wall_w < wish
        falls = starved and any(link.offer.bends for link in linked)
        run.share_at = t + SHARE_AGAIN_S if falls else NEVER

    def _warm(self, link: LiveLink) -> None:
        """Note what passes a link and its cords take, and those of all that it hangs on through others."""
        above: LiveLink | None = link
        while above is not None:
            above.warm()
            parent = above.parent
            node = parent.carrier if isinstance(parent, LiveWay) else parent
            above = node.via if node is not None else None

    def yield_charging(self, t: float) -> None:
        """Every charger takes nothing for now: loads, and what starts, come first."""
        for link in self.run.forest.linked:
            assert link.carrier is not None
            self.run.touch(link.carrier, t)
        for link in self.run.forest.linked:
            link.charge_w = link.cord_w = 0.0
        for link in self.run.forest.linked:
            self._warm(link)

    def _room(self, link: LiveLink) -> float:
        """Watts that fit into a charger through its inlet and everything above, warmth of cords included."""
        parent = link.parent
        if parent is None:
            return 0.0
        most_w = link.cap_va - link.through().total_va()
        more_w = self._room_above(parent, link.leg)
        return max(0.0, min(most_w, link.more_w(more_w)))

    def _room_above(self, node: Carrier | LiveWay, leg: int) -> float:
        """Watts that may be drawn on top of all that is drawn from something now."""
        room = node.now().room_w(leg, node.leg_va, node.total_va)
        if isinstance(node, LiveWay):
            return min(room, self._room_above(node.carrier, leg))
        via = node.via
        if via is None or via.parent is None:
            return room
        room = min(room, via.cap_va - via.through().total_va() - via.charge_w)
        return min(room, via.more_w(self._room_above(via.parent, via.leg if via.one_hot else leg)))

    def carry(self, t: float, carrier: Carrier) -> None:
        """What a carrier gives from now on, and the courses of its cells."""
        for way in carrier.live_ways:
            way.flow(t)
        carrier.gather(t)
        if isinstance(carrier, StationCarrier):
            self._carry_cells(t, carrier)
        elif isinstance(carrier, EngineCarrier) and carrier.engine.running:
            carrier.ends_at = t + carrier.engine.lasts_s(carrier.ac_w + carrier.cord_w)
        elif isinstance(carrier, EngineCarrier):
            carrier.ends_at = carrier.refuelled_at
        elif isinstance(carrier, VehicleCarrier) and carrier.live:
            left_s = carrier.reserve.lasts_s(carrier.ac_w + carrier.cord_w)
            carrier.ends_at = min(t + left_s, carrier.off_at)

    def _carry_cells(self, t: float, carrier: StationCarrier) -> None:
        via = carrier.via
        bends = carrier.bends() if carrier.feeds_chargers and (via is None or via.assisting) else []
        if len(carrier.units) == 1:
            shares = [carrier.ac_w + carrier.cord_w]
        else:
            shares = carrier.split_w(carrier.sums, carrier.cord_w)
        for index, unit in enumerate(carrier.units):
            if bends or unit.varying:
                unit.varying = [(bend, carrier.bent(leg)[index]) for bend, leg in bends]
            out_w = shares[index] if carrier.live else 0.0
            if via is not None:
                out_w = via.assisted_w()
            unit.carry(t, out_w, on=carrier.ac_on and not unit.empty, passes=via is not None)
            if unit.moved:
                unit.moved = False
                for sun in self._suns[id(unit)]:
                    sun.note(t)
                for lead in self._leads[id(unit)]:
                    lead.note(t)
            for lead in self._leads[id(unit)]:
                if lead.offer.wall_w > 0:
                    unit.due_s = min(unit.due_s, t + lead.reserve.lasts_s(lead.offer.now_w()))
        if len(carrier.units) > 1 and not carrier.pair:
            self._mind_together(t, carrier)

    def _mind_together(self, t: float, carrier: StationCarrier) -> None:
        """In parallel, charge of all together comes to a level that someone looks at."""
        held = sum(unit.stored_wh for unit in carrier.units)
        cap = sum(unit.cap_wh for unit in carrier.units)
        rate = sum(unit.a + unit.b * unit.stored_wh for unit in carrier.units)
        first = carrier.units[0]
        percents = first.fall_percents if rate < 0 else first.rise_percents
        reached = sum(held <= cap * (p + REACHED) / 100.0 for p in first.fall_percents)
        reached += sum(held >= cap * (p - REACHED) / 100.0 for p in first.rise_percents)
        if reached != carrier.met:
            carrier.met, first.due_s, self.run.looking = reached, t, True
            return
        goals = [cap * p / 100.0 - held for p in percents]
        ahead = [goal / rate for goal in goals if abs(goal) > cap * REACHED / 100.0 and goal * rate > 0]
        soonest_s = min(ahead, default=NEVER) * 3600.0
        if any(unit.b or unit.varying for unit in carrier.units):
            soonest_s = min(soonest_s, SHARE_AGAIN_S) if rate else soonest_s
        first.due_s = min(first.due_s, t + soonest_s)

    def _over_cap(self, t: float, link: LiveLink) -> None:
        """More passes than the inlet carries: it trips, and the station carries on alone."""
        if link.passes and link.entry.over_cap == "input_trips":
            through = link.through().total_va()
            if through > link.cap_va * (1 + SLACK):
                run = self.run
                link.tripped = True
                link.trips += 1
                link.reset_at = run.presence.next(t + run.plan.strategy.reset_after_s)
                run.out.input_trips(t, link, through)
                run.replug = True
                run.forest.find(t)
                run.again = True
