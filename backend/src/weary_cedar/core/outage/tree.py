"""What carries power in the run: carriers, the ways from them to circuits, and links that recharge.

At any moment every part has at most one live parent, so what is live is a forest. A carrier is an
output (a station, two linked ones, an engine, a vehicle, the utility); on it hang ways (feeds with
their circuits) and links (AC inputs of stations). A station whose live input passes through hangs
with all that it carries on that link; otherwise it is a root and pays from its cells.
"""

import math
from collections.abc import Sequence
from typing import ClassVar, Final

from weary_cedar.core.electrical.voltage_drop import cord_loss_w
from weary_cedar.core.network import ACROSS, Way
from weary_cedar.core.network.feed_limits import LegElement
from weary_cedar.core.network.wires import cord_ohms
from weary_cedar.core.outage.connected import ConnectedCircuit, ConnectedLoad
from weary_cedar.core.outage.leg_sums import LegSums
from weary_cedar.core.plan import AcInput, CurvePoint, Recharge
from weary_cedar.core.supply.overload import OverloadAccount, OverloadCurve
from weary_cedar.core.supply.unit import Bend, Offer, Unit

NEVER: Final = math.inf
#: Time after which a thermal breaker has tripped at the latest, by multiple of its rating, s: 1.35 an hour,
#: 2 two minutes (UL 489 and common practice, from memory). This is not a time that it carries: a real one may
#: trip sooner. The run needs this side, for it must not be dark where a breaker may hold; no check takes it
#: for room: each counts all that is over a breaker's rating as too much.
BREAKER_CURVE: Final = OverloadCurve(
    (
        CurvePoint(multiple=1.05),
        CurvePoint(multiple=1.35, seconds=3_600.0),
        CurvePoint(multiple=2.0, seconds=120.0),
        CurvePoint(multiple=6.0, seconds=1.0),
    )
)
#: Elements of a feed that trip by themselves.
BREAKERS: Final = ("receptacle", "feed-breaker")
#: Where what a carrier gives comes from: of its own, of its own while the wall charges it, or through a lead,
#: whose key then stands behind the word.
OWN: Final = "own"
CHARGED: Final = "charged"
THROUGH: Final = "through "


#: Nodes and weights of a quadrature by six points on 0 to 1 (Gauss and Legendre): exact for all that bends
#: here to within 1e-9. Source: Abramowitz and Stegun, Handbook of Mathematical Functions, table 25.4.
QUADRATURE: Final = (
    (0.03376524289842397, 0.08566224618958517),
    (0.16939530676686776, 0.18038078652406930),
    (0.38069040695840156, 0.23395696728634552),
    (0.61930959304159850, 0.23395696728634552),
    (0.83060469323313220, 0.18038078652406930),
    (0.96623475710157600, 0.08566224618958517),
)


class Node:
    """Something with limits on the way from a load to a root."""

    def __init__(
        self, key: str, name: str, leg_va: float, total_va: float, curve: OverloadCurve | None
    ) -> None:
        self.key = key
        self.name = name
        self.leg_va = leg_va
        self.total_va = total_va
        #: What it carries over its rating, and for how long; nothing where it does not judge starts.
        self.curve = curve
        #: VA of leg A, of leg B and in total that flow through it.
        self.va = (0.0, 0.0, 0.0)

    def now(self) -> LegSums:
        """What is drawn through it at this moment, charging included."""
        raise NotImplementedError


class LiveWay(Node):
    """A feed in the run: its circuits, whether it is changed over, and what flows through it."""

    STATE: ClassVar[str] = (
        "va joined unplugged off_by tripped live queue restore_at sums drawn stale cord_w cord_wh "
        "loads_wh links_wh most_a most_in state full_at reset_at since_s amps rows loads links p q"
    )

    def __init__(
        self, way: Way, carrier: "Carrier", elements: Sequence[LegElement], volts: float, ohms: float
    ) -> None:
        self.tightest = min(elements, key=lambda item: item.rating_a)
        super().__init__(way.lead_id, way.name, self.tightest.rating_a * volts, NEVER, None)
        self.way = way
        self.carrier = carrier
        self.single = way.single
        self.volts = volts
        self.ohms = ohms
        #: Receptacle, cords, inlet, wire and breakers: what the feed adds to the limits of its source.
        self.elements = tuple(elements)
        self.circuits: list[ConnectedCircuit] = []
        #: Ways into panels that hang on the one that it enters; they take their circuits out of it.
        self.inner: list[LiveWay] = []
        self.loads: list[ConnectedLoad] = []
        self.links: list[LiveLink] = []
        self.p: tuple[list[float], list[float], list[float]] = ([], [], [])
        self.q: tuple[list[float], list[float], list[float]] = ([], [], [])
        #: What its loads draw, where that was summed up since one of them drew otherwise.
        self.drawn: LegSums | None = None
        self.joined = False
        #: Cords of it that came out; unplugged by an act, until an act plugs it in again.
        self.unplugged = 0
        #: Acts that hold it off, by what they switched.
        self.off_by: set[str] = set()
        #: Its outlet is dark while the wall charges its source.
        self.dark_while_charging = False
        self.tripped = False
        self.live = False
        self.queue: list[ConnectedCircuit] = []
        self.restore_at = NEVER
        self.sums = LegSums()
        #: A load drew otherwise since the flow was noted.
        self.stale = True
        self.cord_w = self.cord_wh = 0.0
        #: What its loads and the chargers on its circuits took so far, Wh.
        self.loads_wh = self.links_wh = 0.0
        self.most_a: tuple[float, float, str] = (0.0, 0.0, "A")
        #: By state of what gives: the greatest current of leg A, of leg B and of the neutral, A.
        self.most_in: dict[str, tuple[float, float, float]] = {}
        #: The state in which these were last looked at.
        self.state = OWN
        self.breaker = _breaker(elements)
        self.account = OverloadAccount(BREAKER_CURVE)
        self.full_at = NEVER
        self.reset_at = NEVER
        self.since_s = 0.0
        self.amps = (0.0, 0.0, 0.0)
        #: (s, VA on leg A, VA on leg B) from each change on.
        self.rows: list[tuple[float, float, float]] = []
        self.cord_bend = CordOfWay(self)
        #: Leads passed through, none for its battery, with which its neutral floats: flame sensing then
        #: may find no ground.
        self.floats: frozenset[str | None] = frozenset()

    @property
    def plugged(self) -> bool:
        """Whether it would carry power if its source gave any."""
        return self.joined and not (self.unplugged or self.off_by or self.tripped)

    def own(self) -> "list[ConnectedCircuit]":
        """Its circuits, without those of panels that another way has taken out of it."""
        taken = {circuit.id for way in self.inner if way.joined for circuit in way.circuits}
        return [circuit for circuit in self.circuits if circuit.id not in taken] if taken else self.circuits

    def take(self, loads: Sequence[ConnectedLoad]) -> None:
        """Put loads under this way; each gets a place in its sums."""
        self.loads = list(loads)
        self.p, self.q = ([], [], []), ([], [], [])
        self.draws_otherwise()
        for load in self.loads:
            load.leg = self.way.branches[load.circuit.id]
            load.slot = len(self.p[load.leg])
            load.way = self
            self.p[load.leg].append(load.draw_w)
            self.q[load.leg].append(load.draw_w * load.q_per_w)

    def draws_otherwise(self) -> None:
        """A load of it draws otherwise from now on."""
        self.stale, self.drawn = True, None

    def loads_now(self) -> LegSums:
        """What its loads draw; not to be changed."""
        if self.drawn is None:
            (on_a, on_b, across), (q_a, q_b, q_across) = self.p, self.q
            self.drawn = LegSums(sum(on_a), sum(q_a), sum(on_b), sum(q_b), sum(across), sum(q_across))
        return self.drawn

    def now(self) -> LegSums:
        """What its loads and the chargers on its circuits draw; not to be changed."""
        if not self.links:
            return self.loads_now()
        sums = LegSums()
        sums.join(self.loads_now())
        for link in self.links:
            link.draw_into(sums)
        return sums

    def flow(self, t: float) -> None:
        """Note what flows now: sums, currents, warmth of the cord, the greatest current."""
        if not self.stale and not self.links:
            if self.state != self.carrier.gives:
                self._note_most()
            return
        self.stale = False
        self.sums = sums = self.now()
        volts = self.volts
        a_va, b_va, _ = self.va = sums.va()
        a, b = a_va / volts, b_va / volts
        n = a + b if self.single else sums.neutral_va() / volts
        self.amps = (a, b, n)
        if self.ohms:
            self.cord_w = cord_loss_w(a, b, n, self.ohms)
        self.rows.append((t, a_va, b_va))
        if a > self.most_a[0] or b > self.most_a[0]:
            self.most_a = (a, t, "A") if a >= b else (b, t, "B")
        self._note_most()

    def _note_most(self) -> None:
        """Keep the greatest currents of the state in which its source is now."""
        self.state = self.carrier.gives
        a, b, n = self.amps
        most_a, most_b, most_n = self.most_in.get(self.state, (0.0, 0.0, 0.0))
        if a > most_a or b > most_b or n > most_n:
            self.most_in[self.state] = (max(a, most_a), max(b, most_b), max(n, most_n))

    def bends(self) -> list[tuple[Bend, int]]:
        """What hangs on it and draws otherwise along the course, with its leg here; its cord after it."""
        found = [bend for link in self.links for bend in link.bends()]
        if found and self.ohms:
            found.append((self.cord_bend, ACROSS))
        return found

    def cord_at(self, t: float) -> float:
        """What its cord takes at a moment of the present course, W."""
        sums = LegSums()
        sums.join(self.sums)
        for link in self.links:
            for bend, leg in link.bends():
                sums.add(leg, bend.at_w(t) - bend.noted_w(), 0.0)
        a, b = sums.a_va() / self.volts, sums.b_va() / self.volts
        n = a + b if self.single else sums.neutral_va() / self.volts
        return cord_loss_w(a, b, n, self.ohms)

    def cord_between(self, t1: float, t2: float) -> float:
        """What its cord takes between two moments of the present course, Wh."""
        if not self.ohms or not any(link.bends() for link in self.links):
            return self.cord_w * (t2 - t1) / 3600.0
        return sum(w * self.cord_at(t1 + x * (t2 - t1)) for x, w in QUADRATURE) * (t2 - t1) / 3600.0

    def settle(self, t: float) -> None:
        """Book what its loads and its cord took up to now, and how warm its breaker became."""
        seconds = t - self.since_s
        if seconds > 0:
            self.loads_wh += self.loads_now().watts() * seconds / 3600.0
            if self.links:
                self.cord_wh += self.cord_between(self.since_s, t)
            else:
                self.cord_wh += self.cord_w * seconds / 3600.0
            if self.account.level > 0 or self.full_at < NEVER:
                self.account.advance(seconds)
        self.since_s = t

    def rest(self, t: float) -> None:
        """Nothing flows."""
        self.stale = True
        if self.rows and self.rows[-1][1:] != (0.0, 0.0):
            self.rows.append((t, 0.0, 0.0))
        if self.sums.watts() or self.amps[0] or self.amps[1]:
            self.sums = LegSums()
            self.amps = self.va = (0.0, 0.0, 0.0)
        self.cord_w = 0.0


def _breaker(elements: Sequence[LegElement]) -> LegElement | None:
    """The least breaker of a feed: the one that trips first."""
    return min((e for e in elements if e.key in BREAKERS), key=lambda e: e.rating_a, default=None)


class LiveLink:
    """A station's AC input on an outlet of a source, or on a circuit."""

    STATE: ClassVar[str] = (
        "parent plugged tripped reset_at off_by trips was_live passes charge_w rows overhead_wh "
        "passed_wh passed_s passing_w cord_w cord_wh since_s"
    )

    def __init__(self, key: str, recharge: Recharge, unit: Unit, entry: AcInput, leg: int) -> None:
        self.key = key
        self.name = recharge.name
        self.recharge = recharge
        self.unit = unit
        self.entry = entry
        #: Leg at what it is plugged into.
        self.leg = leg
        self.cap_va = entry.carries_a * entry.volts
        self.volts = float(entry.volts)
        self.assists = entry.over_cap == "assist"
        #: What the station takes for itself while it passes power through, W.
        self.overhead_w = unit.station.passthrough_overhead_w
        self.setting_w = min(recharge.setting_w, entry.most_w)
        self.offer = Offer(unit, "wall", key, 2, unit.station.charge_efficiency)
        #: The station that it fills, as a carrier.
        self.carrier: Carrier | None = None
        #: What it hangs on at this moment, if that is live.
        self.parent: Carrier | LiveWay | None = None
        self.plugged = False
        self.tripped = False
        self.reset_at = NEVER
        #: Acts that hold it off, by what they switched.
        self.off_by: set[str] = set()
        self.dark_while_charging = False
        #: How often its input tripped.
        self.trips = 0
        self.was_live = False
        self.passes = False
        self.charge_w = 0.0
        #: (s, W through it) from each change on: to the cells, and to what it passes through to.
        self.rows: list[tuple[float, float]] = []
        self.overhead_wh = self.passed_wh = self.passed_s = self.passing_w = 0.0
        #: Warmth of its cords: resistance out and back, what they take now, and took so far.
        self.loop_ohms = 2 * cord_ohms(recharge.cords)
        self.cord_w = self.cord_wh = 0.0
        self.since_s = 0.0
        self.own_bend = OwnOfLink(self)

    def _wanted(self) -> LegSums:
        sums = LegSums()
        if self.passes and self.carrier is not None:
            sums.join(self.carrier.now(), self.leg if self.one_hot else None)
            sums.add(self.leg, self.carrier.cord_w, 0.0)
        return sums

    def through(self) -> LegSums:
        """What passes through it to the loads, overhead included; with a battery that assists, its cap."""
        sums = self._wanted()
        overhead_w = self.overhead_w if self.passes else 0.0
        total = sums.total_va() + overhead_w
        if self.assists and total > self.cap_va:
            share = max(0.0, self.cap_va - overhead_w) / max(sums.total_va(), 1e-9)
            whole, sums = sums, LegSums()
            sums.join(whole, None)
            sums.scale(share)
        sums.add(self.leg, overhead_w, 0.0)
        return sums

    def assisted_w(self) -> float:
        """What the battery adds to a live input that is at its cap, W."""
        if not self.passes or not self.assists:
            return 0.0
        overhead_w = self.overhead_w
        return max(0.0, self._wanted().watts() + overhead_w - self.through().watts())

    def lost_w(self, watts: float) -> float:
        """What its cords take while so much flows through it, W; current at nominal volts."""
        return self.loop_ohms * (watts / self.volts) ** 2

    def more_w(self, room_w: float) -> float:
        """What may flow through it besides, where so much is left above, W: its cords grow warmer, too.

        x + R·((y + x)² − y²)/V² = room, with y what flows already.
        """
        if not self.loop_ohms or room_w == NEVER:
            return room_w
        k = self.loop_ohms / self.volts**2
        flows_w = self.charge_w + self.passing_w
        slope = 1 + 2 * k * flows_w
        return (math.sqrt(slope * slope + 4 * k * max(0.0, room_w)) - slope) / (2 * k)

    def warm(self) -> None:
        """Note what passes and what its cords take from now on."""
        self.passing_w = self.through().watts() if self.passes else 0.0
        self.cord_w = self.lost_w(self.charge_w + self.passing_w) if self.loop_ohms else 0.0

    def bends(self) -> list[tuple[Bend, int]]:
        """What it draws that changes along the course: its own, and what passes; with the leg there."""
        below: list[tuple[Bend, int]] = []
        if self.passes and self.carrier is not None and not self.assisting:
            below = [(bend, self.leg if self.one_hot else leg) for bend, leg in self.carrier.bends()]
        if self.offer.bends or (below and self.loop_ohms):
            below.append((self.own_bend, self.leg))
        return below

    @property
    def assisting(self) -> bool:
        """Whether its battery adds to an input that is at its cap."""
        return self.passes and self.assists and self._wanted().total_va() + self.overhead_w > self.cap_va

    def cord_at(self, t: float) -> float:
        """What its cords take at a moment of the present course, W."""
        watts = self.offer.at_w(t) + self.passing_w
        if self.passes and self.carrier is not None and not self.assisting:
            watts -= sum(bend.noted_w() - bend.at_w(t) for bend, _ in self.carrier.bends())
        return self.lost_w(watts)

    def cord_between(self, t1: float, t2: float) -> float:
        """What its cords take between two moments of the present course, Wh."""
        if not self.loop_ohms or not self.bends():
            return self.cord_w * (t2 - t1) / 3600.0
        return sum(w * self.cord_at(t1 + x * (t2 - t1)) for x, w in QUADRATURE) * (t2 - t1) / 3600.0

    def settle(self, t: float, passed_wh: float) -> None:
        """Book what passed through it, what it took for that, and what its cords took up to now."""
        if t <= self.since_s:
            return
        hours = (t - self.since_s) / 3600.0
        cord_wh = self.cord_between(self.since_s, t)
        self.cord_wh += cord_wh
        came_wh = cord_wh + self.offer.between_wh(self.since_s, t)
        if self.passes:
            self.overhead_wh += self.overhead_w * hours
            self.passed_s += t - self.since_s
            self.passed_wh += passed_wh
            came_wh += self.overhead_w * hours + passed_wh
        if self.parent is not None:
            self.parent.links_wh += came_wh
        self.since_s = t

    def note(self, t: float) -> None:
        """Keep what flows through it from now on."""
        watts = self.charge_w + (self.through().watts() if self.passes else 0.0)
        if self.rows and self.rows[-1][0] == t:
            self.rows[-1] = (t, watts)
        elif watts != (self.rows[-1][1] if self.rows else 0.0):
            self.rows.append((t, watts))

    @property
    def one_hot(self) -> bool:
        """Whether it brings one hot only."""
        return self.leg != ACROSS

    def draw_into(self, sums: LegSums) -> None:
        """Add what it draws to the sums of what it hangs on."""
        sums.add(self.leg, self.charge_w + self.cord_w, 0.0)
        if self.passes:
            sums.join(self.through())


class OwnOfLink(Bend):
    """What a link takes to charge, and the warmth of its cords."""

    def __init__(self, link: LiveLink) -> None:
        self.link = link

    def noted_w(self) -> float:
        return self.link.charge_w + self.link.cord_w

    def at_w(self, t: float) -> float:
        return self.link.offer.at_w(t) + self.link.cord_at(t)

    def between_wh(self, t1: float, t2: float) -> float:
        return self.link.offer.between_wh(t1, t2) + self.link.cord_between(t1, t2)


class CordOfWay(Bend):
    """Warmth of the cord of a way that chargers hang on."""

    def __init__(self, way: LiveWay) -> None:
        self.way = way

    def noted_w(self) -> float:
        return self.way.cord_w

    def at_w(self, t: float) -> float:
        return self.way.cord_at(t)

    def between_wh(self, t1: float, t2: float) -> float:
        return self.way.cord_between(t1, t2)


class Carrier(Node):
    """An output that ways and links hang on."""

    STATE: ClassVar[str] = (
        "va leg_va total_va links via charged gives ac_on held_off fault live live_ways feeds_chargers "
        "alone sums ac_w cord_w full_at reset_at idle_at ends_at trips over_since over_s react_at "
        "most_total most_leg on_s out_wh links_wh since_s rows"
    )
    kind = "carrier"
    #: Whether it can be told to give power at all at this moment.
    units: tuple[Unit, ...] = ()

    def __init__(
        self, key: str, name: str, leg_va: float, total_va: float, curve: OverloadCurve | None
    ) -> None:
        super().__init__(key, name, leg_va, total_va, curve)
        self.account = OverloadAccount(curve) if curve else None
        #: Every account that fills when it is over its rating.
        self.accounts = [self.account] if self.account else []
        self.ways: list[LiveWay] = []
        self.links: list[LiveLink] = []
        #: Links that recharge it.
        self.into: list[LiveLink] = []
        self.via: LiveLink | None = None
        #: The wall charges it now.
        self.charged = False
        #: What it gives now comes from: itself, itself while the wall charges it, or the lead of that key.
        self.gives = OWN
        self.ac_on = False
        #: Switched off by an act, until an act switches it on again.
        self.held_off = False
        self.fault = False
        self.live = False
        #: Of its ways, those that are live; whether anything hangs on it that may taper.
        self.live_ways: list[LiveWay] = []
        self.feeds_chargers = False
        #: It has nothing to do with what charges now.
        self.alone = False
        self.sums = LegSums()
        self.ac_w = self.cord_w = 0.0
        self.full_at = self.reset_at = self.idle_at = self.ends_at = NEVER
        #: Its place in the list of next moments of a run.
        self.slot = 0
        self.trips = 0
        self.over_since: float | None = None
        self.over_s = 0.0
        self.react_at = NEVER
        self.most_total: tuple[float, float] = (0.0, 0.0)
        self.most_leg: tuple[float, float, str] = (0.0, 0.0, "A")
        self.on_s = self.out_wh = 0.0
        #: What the chargers at its own outlets took so far, Wh.
        self.links_wh = 0.0
        self.since_s = 0.0
        self.rows: list[tuple[float, ...]] = []

    def turn(self, on: bool) -> None:
        """Switch its output, unless someone switched it off for good."""
        self.ac_on = on and not self.held_off

    @property
    def can(self) -> bool:
        """Whether it would give power if it were switched on."""
        return not self.fault

    def settle(self, t: float) -> None:
        """Bring the books up to now: time on, energy, fuel, overload, of it, its ways and its cells."""
        seconds = t - self.since_s
        energy = 0.0
        if seconds > 0:
            energy = (self.ac_w + self.cord_w) * seconds / 3600.0
            if self.live:
                self.on_s += seconds
                for bend, _ in self.bends() if self.feeds_chargers else ():
                    energy -= bend.spared_wh(self.since_s, t)
            self.out_wh += energy
            self.book(seconds, energy)
            for account in self.accounts:
                if account.active:
                    account.advance(seconds)
            self.since_s = t
        for way in self.live_ways:
            way.settle(t)
        for link in self.into:
            link.settle(t, energy - sum(unit.ac_until(t) for unit in self.units) if link.passes else 0.0)
        for unit in self.units:
            unit.settle(t)

    def book(self, seconds: float, energy_wh: float) -> None:
        """Book what this kind of carrier keeps besides."""

    def now(self) -> LegSums:
        """Everything that hangs on it."""
        sums = LegSums()
        for way in self.live_ways:
            sums.join(way.now())
        for link in self.links:
            link.draw_into(sums)
        return sums

    def soonest(self) -> float:
        """Its own next moment, or that of its ways and links, s."""
        soonest = min(self.full_at, self.reset_at)
        soonest = min(soonest, self.idle_at)
        soonest = min(soonest, self.react_at)
        soonest = min(soonest, self.ends_at)
        for way in self.ways:
            soonest = min(soonest, way.restore_at)
            soonest = min(soonest, way.full_at)
            soonest = min(soonest, way.reset_at)
        for link in self.into:
            soonest = min(soonest, link.reset_at)
        return soonest

    @property
    def multiple(self) -> float:
        """Worst multiple of its own limits."""
        a_va, b_va, total = self.va
        on_leg = (a_va if a_va > b_va else b_va) / self.leg_va
        in_total = total / self.total_va
        return on_leg if on_leg > in_total else in_total

    def load_accounts(self) -> float:
        """Set the present multiple of rating; returns the seconds until an account is full."""
        return NEVER if self.account is None else self.account.load(self.multiple)

    def gather(self, t: float) -> None:
        """Add up the flows of its live ways and links; keep the greatest, and a row of what is given."""
        ways = self.live_ways
        if len(ways) == 1 and not self.links:
            way = ways[0]
            sums, va, self.cord_w = way.sums, way.va, way.cord_w
        else:
            sums = LegSums()
            for way in ways:
                sums.join(way.sums)
            for link in self.links:
                link.draw_into(sums)
            va = sums.va()
            self.cord_w = sum(way.cord_w for way in ways)
        if sums is self.sums:
            return
        self.sums, self.va = sums, va
        self.ac_w = sums.pa + sums.pb + sums.px
        a_va, b_va, total = va
        if total > self.most_total[0]:
            self.most_total = (total, t)
        if a_va > self.most_leg[0] or b_va > self.most_leg[0]:
            self.most_leg = (a_va, t, "A") if a_va >= b_va else (b_va, t, "B")
        half = sums.px / 2
        row = (t, sums.pa + half, sums.pb + half, a_va, b_va)
        if self.rows and self.rows[-1][0] == t:
            self.rows[-1] = row
        elif not self.rows or self.rows[-1][1:] != row[1:]:
            self.rows.append(row)

    def bends(self) -> list[tuple[Bend, int]]:
        """What it feeds that draws otherwise along the course, with its leg here."""
        if not self.feeds_chargers:
            return []
        found = [bend for link in self.links for bend in link.bends()]
        return found + [bend for way in self.live_ways for bend in way.bends()]


def path_of(load: ConnectedLoad) -> tuple[tuple[Node, int], ...]:
    """Every node with limits from a load's way up to its root, with the load's leg there."""
    path: list[tuple[Node, int]] = []
    way: LiveWay | None = load.way
    leg = load.leg
    carrier: Carrier | None = None
    while way is not None or carrier is not None:
        if way is not None:
            path.append((way, leg))
            carrier, way = way.carrier, None
        assert carrier is not None
        path.append((carrier, leg))
        via, carrier = carrier.via, None
        if via is not None:
            leg = via.leg if via.one_hot else leg
            if isinstance(via.parent, LiveWay):
                way = via.parent
            else:
                carrier = via.parent
    return tuple(path)
