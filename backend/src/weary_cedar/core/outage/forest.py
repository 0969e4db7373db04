"""What is live: found anew whenever something was plugged, switched, started or ran dry.

One sweep down from the roots says what is live; what flows then is in `flows`.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, ClassVar, Final

from weary_cedar.core.outage.assemble import DcLead
from weary_cedar.core.outage.carriers import EngineCarrier, GridCarrier, StationCarrier, VehicleCarrier
from weary_cedar.core.outage.tree import CHARGED, OWN, THROUGH, Carrier, LiveLink, LiveWay, path_of

if TYPE_CHECKING:
    from weary_cedar.core.outage.kernel import OutageRun

NEVER: Final = math.inf


class Forest:
    """The live paths of a run."""

    STATE: ClassVar[str] = "order linked lit"

    def __init__(self, run: OutageRun) -> None:
        self.run = run
        parts = run.parts
        for link in parts.links:
            if link.carrier is not None:
                link.carrier.into.append(link)
        self._used = self._all_used()
        #: Carriers, children before what they hang on.
        self.order: list[Carrier] = list(run.carriers)
        self.linked: list[LiveLink] = []
        #: Whether any way is live.
        self.lit = False
        self._t = 0.0

    # ---------------------------------------------------------------- what belongs together

    def source_of(self, link: LiveLink | DcLead) -> Carrier | None:
        """What a link of a station, an engine or a vehicle is plugged into."""
        parts, recharge = self.run.parts, link.recharge
        if recharge is None:
            return None
        if recharge.kind == "station":
            return parts.of_station.get(recharge.from_id)
        if recharge.kind == "circuit":
            return None
        return parts.carriers.get(f"{recharge.kind}s/{recharge.from_id}")

    def _all_used(self) -> set[int]:
        run = self.run
        used = {id(way.carrier) for way in run.ways}
        taken: list[LiveLink | DcLead] = [*run.parts.links, *run.parts.leads]
        for _ in run.carriers:
            for link in taken:
                source = self.source_of(link)
                if source is not None and link.carrier is not None and id(link.carrier) in used:
                    used.add(id(source))
        return used

    def is_used(self, carrier: Carrier) -> bool:
        """Whether a carrier feeds anything in this plan, directly or through others."""
        return id(carrier) in self._used

    def gives_at_once(self, carrier: StationCarrier) -> bool:
        """Whether its output is switched on at the change-over: it feeds a way, or a link that is in."""
        if carrier.ways:
            return True
        return any(link.plugged and self.source_of(link) is carrier for link in self.run.links)

    # ---------------------------------------------------------------- downward

    def find(self, t: float) -> None:
        """Find what is live; ways that came up queue their circuits, ways that went down open them."""
        run = self.run
        run.replug = False
        self._t = t
        for carrier in run.carriers:
            run.touch(carrier, t)
        live: dict[int, bool] = {}
        order: list[Carrier] = []
        for link in run.links:
            link.passes = False
        for carrier in run.carriers:
            self._live(carrier, live, order)
        self.order = order[::-1]
        self._hang_links()
        for carrier in run.carriers:
            carrier.live = live[id(carrier)]
        for way in run.ways:
            self._move(t, way)
        for way in run.ways:
            if way.inner and way.live:
                self._share(t, way)
        self._note_live()
        for load in run.loads:
            load.path = path_of(load)
        run.rewired = True

    def _hang_links(self) -> None:
        """Put every link under what it hangs on now."""
        for carrier in self.run.carriers:
            carrier.links = []
        for way in self.run.ways:
            if way.links:
                way.links = []
                way.draws_otherwise()
        for link in self.run.links:
            if link.parent is not None:
                link.was_live = True
                link.parent.links.append(link)
            else:
                link.charge_w = link.cord_w = 0.0
                link.offer.give(0.0)
                link.note(self._t)

    def _note_live(self) -> None:
        """Keep what is asked at every moment: live ways, live links, what feeds chargers."""
        run = self.run
        for carrier in run.carriers:
            carrier.live_ways = [way for way in carrier.ways if way.live]
            carrier.feeds_chargers = bool(carrier.links) or any(way.links for way in carrier.live_ways)
            for way in carrier.ways:
                if not way.live:
                    way.rest(self._t)
        self.lit = any(way.live for way in run.ways)
        self._feeds_through()
        plugged = [link for link in run.links if link.parent is not None]
        depths: dict[int, int] = {}
        self.linked = sorted(plugged, key=lambda link: -self._depth(link.carrier, depths))
        charging = self._charging()
        for carrier in run.carriers:
            carrier.alone = id(carrier) not in charging

    def _charging(self) -> set[int]:
        """Carriers that are charged, and all that they hang on: what is charged depends on these."""
        found: set[int] = set()
        for link in self.linked:
            found.add(id(link.carrier))
            above = link.parent
            while above is not None:
                node = above.carrier if isinstance(above, LiveWay) else above
                found.add(id(node))
                above = node.via.parent if node.via is not None else None
        return found

    def _depth(self, carrier: Carrier | None, known: dict[int, int]) -> int:
        """How many live inputs are above a carrier: what draws behind one is settled before that charges."""
        if carrier is None:
            return 0
        if id(carrier) not in known:
            known[id(carrier)] = 0
            above = [link.parent for link in carrier.into if link.parent is not None]
            found = [x.carrier if isinstance(x, LiveWay) else x for x in above]
            known[id(carrier)] = max((1 + self._depth(x, known) for x in found), default=0)
        return known[id(carrier)]

    def _feeds_through(self) -> None:
        """A carrier that a charger hangs on through others feeds it, too."""
        for carrier in self.order:
            above = carrier.via.parent if carrier.via is not None else None
            if carrier.feeds_chargers and above is not None:
                (above.carrier if isinstance(above, LiveWay) else above).feeds_chargers = True

    def _live(self, carrier: Carrier, live: dict[int, bool], order: list[Carrier]) -> bool:
        if id(carrier) in live:
            return live[id(carrier)]
        live[id(carrier)] = False
        if isinstance(carrier, StationCarrier):
            found = self._station_live(carrier, live, order)
        elif isinstance(carrier, EngineCarrier):
            found = carrier.engine.running and not carrier.fault
        elif isinstance(carrier, VehicleCarrier):
            found = carrier.ac_on and carrier.reserve.left_wh > 0
        else:
            found = self.run.grid_up
        live[id(carrier)] = found
        order.append(carrier)
        return found

    def _station_live(self, carrier: StationCarrier, live: dict[int, bool], order: list[Carrier]) -> bool:
        carrier.via = None
        carrier.charged = charged = False
        for link in carrier.into:
            link.parent = self._parent(link, live, order)
            if link.parent is None:
                continue
            carrier.charged = charged = True
            through = link.entry.passes and carrier.link is None and self._fits(link)
            stays = link.unit.station.output_while_charging is not False
            if through and stays and carrier.via is None and carrier.ac_on and not carrier.fault:
                carrier.via, link.passes = link, True
        carrier.gives = CHARGED if charged else OWN
        if carrier.via is not None:
            carrier.gives = THROUGH + carrier.via.recharge.lead_id
        if carrier.via is None and carrier.empty_now and not carrier.empty:
            self._found_empty(carrier)
        if not carrier.ac_on or carrier.fault or (carrier.empty and carrier.via is None):
            return False
        kit = carrier.link
        drops = (
            kit.ac_charging == "drops_output" if kit else carrier.stations[0].output_while_charging is False
        )
        return not (charged and drops)

    def _found_empty(self, carrier: StationCarrier) -> None:
        """A station that lost the input that carried it has nothing of its own left."""
        carrier.empty, carrier.ac_on = True, False
        self.run.looking = True
        self.run.out.empty(self._t, carrier, next(unit for unit in carrier.units if unit.empty))

    @staticmethod
    def _fits(link: LiveLink) -> bool:
        """Whether what comes in is what the station gives: 240 V for both legs."""
        return link.unit.station.output != "120/240" or link.entry.volts == 240

    def _parent(
        self, link: LiveLink, live: dict[int, bool], order: list[Carrier]
    ) -> Carrier | LiveWay | None:
        if not link.plugged or link.tripped or link.off_by or self._refuses(link):
            return None
        if link.recharge.kind != "circuit":
            source = self.source_of(link)
            if source is None or not self._live(source, live, order):
                return None
            return None if link.dark_while_charging and source.charged else source
        return self._circuit_parent(link, live, order)

    @staticmethod
    def _refuses(link: LiveLink) -> bool:
        """Whether linked units take no charge now: while the kit is on, unless it is known that they do."""
        carrier = link.carrier
        if not isinstance(carrier, StationCarrier) or carrier.link is None:
            return False
        return carrier.ac_on and carrier.link.ac_charging in ("refused", "unknown")

    def _circuit_parent(
        self, link: LiveLink, live: dict[int, bool], order: list[Carrier]
    ) -> Carrier | LiveWay | None:
        run = self.run
        grid = run.parts.grid
        circuit = next((c for c in run.circuits if c.id == link.recharge.from_id), None)
        if circuit is None or circuit.way is None:
            return grid if grid is not None and run.grid_up else None
        way = next((w for w in run.ways_of(circuit) if w.plugged and circuit in w.own()), None)
        if way is None:
            return None
        if link.recharge.plugged == "grid" and not isinstance(way.carrier, GridCarrier):
            return None
        closed = circuit.closed and circuit.way is way and not circuit.open_by_hand
        return way if closed and self._live(way.carrier, live, order) else None

    def _move(self, t: float, way: LiveWay) -> None:
        up = way.plugged and way.carrier.live and not (way.dark_while_charging and way.carrier.charged)
        if up == way.live:
            return
        run = self.run
        way.live = up
        if up:
            way.since_s = t
            left_off = run.plan.strategy.recovery_off if way.carrier.trips else ()
            own = way.own()
            for circuit in own:
                circuit.way = way
            way.queue = [c for c in own if c.id not in left_off]
            for circuit in way.queue:
                circuit.queued = True
            way.restore_at = t
            way.take([load for load in run.loads if load.circuit.way is way])
            return
        way.queue = []
        way.restore_at = way.full_at = NEVER
        way.carrier.react_at = NEVER
        for circuit in way.circuits:
            if circuit.way is way:
                circuit.closed = circuit.queued = False
                for load in circuit.loads:
                    load.shed_since = None
        if not any(load.shed_since is not None for load in run.loads):
            run.any_shed, run.retry_at = False, NEVER

    def _share(self, t: float, way: LiveWay) -> None:
        """A panel below left the feed of a live way, or came back to it."""
        own = way.own()
        gone = [circuit for circuit in way.circuits if circuit.way is way and circuit not in own]
        came = [circuit for circuit in own if circuit.way is not way]
        if not gone and not came and all(load.way is way for load in way.loads):
            return
        for circuit in gone:
            circuit.way = next(inner for inner in way.inner if inner.joined and circuit in inner.circuits)
            circuit.closed = circuit.queued = False
            circuit.way.take([load for load in self.run.loads if load.circuit.way is circuit.way])
        for circuit in came:
            circuit.way, circuit.closed, circuit.queued = way, False, True
        way.queue = [circuit for circuit in way.queue if circuit in own] + came
        way.restore_at = min(way.restore_at, t) if way.queue else NEVER
        way.take([load for load in self.run.loads if load.circuit.way is way])

    def source_ends(self, t: float, carrier: Carrier) -> None:
        """Tank or reserve of a source is at its end, its refuelling is done, or it turns itself off."""
        run = self.run
        carrier.ends_at = NEVER
        run.replug = run.looking = True
        if isinstance(carrier, EngineCarrier):
            engine = carrier.engine
            if engine.running and engine.lasts_s(carrier.ac_w + carrier.cord_w) < 1.0:
                engine.running = carrier.ac_on = False
                engine.tank_l = 0.0
                refills = engine.refills
                pause = engine.generator.refuel_pause_s
                carrier.refuelled_at = run.presence.next(t) + pause if refills else NEVER
                carrier.ends_at = carrier.refuelled_at
                run.out.engine_dry(t, carrier, refills)
            elif t >= carrier.refuelled_at:
                carrier.refuelled_at = NEVER
                engine.refuel()
                carrier.rate()
                run.out.refuelled(t, carrier)
        elif isinstance(carrier, VehicleCarrier):
            self._vehicle_ends(t, carrier)

    def _vehicle_ends(self, t: float, carrier: VehicleCarrier) -> None:
        """A vehicle turns itself off, is turned on again by someone, or gives nothing more."""
        run = self.run
        leads = [lead for lead in run.parts.leads if self.source_of(lead) is carrier]
        links = [link for link in run.links if self.source_of(link) is carrier]
        if t >= carrier.off_at:
            carrier.ac_on = False
            carrier.off_at = NEVER
            back = run.presence.next(t)
            plugged = bool(carrier.ways) or any(link.plugged for link in links)
            plugged = plugged or any(lead.plugged for lead in leads)
            carrier.on_again_at = back if plugged else NEVER
            if back > t:
                run.out.vehicle_off(t, carrier, back)
        if t >= carrier.on_again_at:
            carrier.on_again_at = NEVER
            carrier.switch(t, True)
        if carrier.reserve.left_wh <= 0:
            run.out.vehicle_empty(t, carrier)
        self._give(t, carrier)
        carrier.ends_at = min(carrier.off_at, carrier.on_again_at)

    def _give(self, t: float, carrier: VehicleCarrier) -> None:
        """What a vehicle gives through its direct-current leads from now on."""
        for lead in self.run.parts.leads:
            if self.source_of(lead) is carrier:
                self.run.touch(lead.carrier, t)
                self.give(lead)

    def give(self, lead: DcLead) -> None:
        """What a direct-current lead of a vehicle gives from now on; the books must be up to now."""
        source = self.source_of(lead)
        gives = lead.plugged and not lead.off_by and lead.reserve.left_wh > 0
        if isinstance(source, VehicleCarrier):
            gives = gives and source.ac_on and source.can_give
        lead.offer.give(lead.watts if gives else 0.0)

    def drive(self, t: float, carrier: VehicleCarrier, *, away: bool) -> None:
        """A vehicle is driven away, or is back: whoever drives plugs it in again."""
        run = self.run
        run.touch(carrier, t)
        before = carrier.away
        carrier.trips_away += 1 if away else -1
        if carrier.away == before:
            return
        self.switch_vehicle(t, carrier)
        run.replug = run.looking = run.rewired = True
        run.out.driven(t, carrier)

    def switch_vehicle(self, t: float, carrier: VehicleCarrier) -> None:
        """Turn a vehicle on where something of the plan hangs on it, and may; its books must be up to now."""
        run = self.run
        taken: list[LiveLink | DcLead] = [*run.links, *run.parts.leads]
        plugged = any(link.plugged for link in taken if self.source_of(link) is carrier)
        carrier.switch(t, run.changed_over and (plugged or bool(carrier.ways)))
        carrier.on_again_at = NEVER
        self._give(t, carrier)
