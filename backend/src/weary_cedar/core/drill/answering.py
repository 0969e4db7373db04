"""What an act at the simulated panel is like: what starts and hums, what lamps do, what goes dark, a trip.

All of it follows from the house’s state machine and the plates: nothing is told of one exercise alone.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.checks.facts import is_motor
from weary_cedar.core.electrical.voltage_drop import three_wire_volts
from weary_cedar.core.handles.faults import Fault
from weary_cedar.core.network.carrying import NOTHING, Bearer, Draw, bearer, running, starting
from weary_cedar.core.network.path import paths_of
from weary_cedar.core.plan import Generator, Load, Station
from weary_cedar.core.runbook.house import House

#: Lamps are seen to change from here on, as a share of the volts: a lasting step of 3.3 % is the most that
#: one appliance may cause in a house. IEC 61000-3-3, from memory.
SEEN = 0.033
#: The sound of an engine changes with so much of its rating at once. Common practice.
HEARD = 0.2
#: The fault after which a source has switched itself off.
TRIP = "over_curve"
#: Names in a sentence, the rest counted.
NAMED = 4


class LegVolts(BaseModel):
    """Volts between leg and neutral at the end of a lead; none on a leg that it does not have."""

    model_config = ConfigDict(frozen=True)

    a_v: float
    b_v: float | None


@dataclass(frozen=True)
class Before:
    """How a house stood before an act."""

    live: dict[str, str]

    @classmethod
    def of(cls, house: House) -> "Before":
        """A house as it stands now."""
        return cls(dict(house.live))


@dataclass(frozen=True)
class Answering:
    """What the sources of a house do to an act: of one plan, for all of its acts."""

    house: House
    #: Of one conductor of each lead of which some length is known, Ω.
    ohms: dict[str, float]

    @classmethod
    def of(cls, house: House) -> "Answering":
        """The sources of a house."""
        return cls(house, {path.key: path.ohms for path in paths_of(house.plan) if path.ohms > 0})

    def volts(self) -> dict[str, LegVolts]:
        """Volts at the end of each lead that gives, with all that may run on it on; none where not known.

        Source: Kirchhoff's laws over the lead's own conductors, loads in phase.
        """
        return {
            lead_id: self._volts(lead_id, self._on(lead_id, self._branches(lead_id)))
            for lead_id in sorted(self.ohms.keys() & set(self.house.live.values()))
        }

    def words(self, before: Before, key: str, to: str, found: Fault | None) -> Iterator[str]:
        """What is seen and heard after an act, in its order.

        Args:
            before: how the house stood.
            key: what was moved.
            to: where.
            found: what was wrong with it, if anything.
        """
        if found is not None and found.code != TRIP:
            return
        yield from self._handle(before, key, to)
        if self.house.over_on is not None:
            yield from self._trip(before, self.house.over_on)
            return
        live = self.house.live
        for lead_id in sorted(set(live.values())):
            new = [branch for branch in self._branches(lead_id) if before.live.get(branch) != lead_id]
            if new:
                yield from self._come_on(lead_id, new)
        gone = [branch for branch in before.live if branch not in live]
        if gone:
            yield f"{self._names(gone)}: no power any more"

    # ---------------------------------------------------------------- one thing each

    def _handle(self, before: Before, key: str, to: str) -> Iterator[str]:
        kind, _, of = key.partition("/")
        if kind == "engine":
            yield (
                "It starts; half a minute until it runs evenly"
                if to == "on"
                else "It runs down; it stays hot for a quarter of an hour"
            )
        elif kind == "output" and to == "on":
            name = self.house.elements[key].name
            new = [branch for branch in self.house.live if branch not in before.live]
            yield f"{name}: its lamp comes on" + ("" if new else "; nothing draws yet")
        elif kind == "source_end" and to == "in" and of in self.house.plan.leads:
            yield "The plug sits: pull at it, it stays"

    def _come_on(self, lead_id: str, new: list[str]) -> Iterator[str]:
        network = self.house.network
        way = network.way(lead_id)
        rest = [branch for branch in self._branches(lead_id) if branch not in new]
        on, after = self._on(lead_id, rest), self._on(lead_id, (*rest, *new))
        start = NOTHING
        for branch in new:
            start = start.plus(starting(network, way, branch))
        names = self._names(new)
        if start.total == 0:
            yield f"{names}: power, and nothing starts by itself"
            return
        most = Draw(on.a + start.a, on.b + start.b, start.seconds)
        yield f"{names}: up to {start.total:,.0f} VA" + (
            f" for {start.seconds:g} s, if it starts now" if start.seconds else ""
        )
        yield from self._over_rating(bearer(network, way), most)
        yield from self._lamps(lead_id, on, after, most)
        motors = [load.name for load in self._loads(new) if is_motor(load)]
        if motors:
            yield f"{', '.join(motors[:NAMED])}: a hum while it runs"
        source = network.plan.source(way.hookup)
        if isinstance(source, Generator) and after.total - on.total >= HEARD * source.rated_w:
            yield f"{source.name}: its note drops, and comes back"

    def _over_rating(self, bears: Bearer, most: Draw) -> Iterator[str]:
        if not most.seconds or not bears.source_leg_va:
            return
        share = max(most.a, most.b) / bears.source_leg_va
        if share > 1:
            leg = "one leg" if self.house.plan.site.split_phase else "it"
            yield f"That is {share:.0%} of what {leg} gives for long: it holds for the start"

    def _lamps(self, lead_id: str, on: Draw, after: Draw, most: Draw) -> Iterator[str]:
        plan = self.house.plan
        if lead_id not in self.ohms:
            yield "Whether lamps dim is not known: no length of its lead is said"
            return
        was, low, then = (self._volts(lead_id, draw) for draw in (on, most, after))
        dips = [
            f"on leg {leg} to {dip:.0f} V" if plan.site.split_phase else f"to {dip:.0f} V"
            for leg, before, dip in (("A", was.a_v, low.a_v), ("B", was.b_v, low.b_v))
            if before is not None and dip is not None and before - dip >= SEEN * plan.site.leg_volts
        ]
        stays = was.a_v - then.a_v >= SEEN * plan.site.leg_volts or (
            was.b_v is not None and then.b_v is not None and was.b_v - then.b_v >= SEEN * plan.site.leg_volts
        )
        if not dips:
            yield "Lamps do not change"
        elif stays:
            yield f"Lamps dim {' and '.join(dips)}, and stay dimmer"
        else:
            yield f"Lamps dim {' and '.join(dips)} for {most.seconds:g} s"

    def _trip(self, before: Before, lead_id: str) -> Iterator[str]:
        house = self.house
        own = [branch for branch, of in before.live.items() if of == lead_id]
        hookup = house.network.way(lead_id).hookup
        source = house.plan.source(hookup)
        dark = f": {self._names(own)} dark" if own else ""
        yield f"{house.plan.source_name(hookup)} switches its output off by itself{dark}"
        if isinstance(source, Station):
            va = self._on(lead_id, own).total
            yield (
                f"Its display still shows the {va:,.0f} VA of before for some seconds, then the fault: do "
                "not switch on again before what was too much is off"
            )
        else:
            yield "The engine goes on running: its breaker is out, and everything behind it dead"

    # ---------------------------------------------------------------- what flows

    def _branches(self, lead_id: str) -> list[str]:
        return [branch for branch, of in self.house.live.items() if of == lead_id]

    def _loads(self, branches: Iterable[str]) -> Iterator[Load]:
        plan = self.house.plan
        return (plan.loads[key] for key in self.house.network.loads_of(list(branches)))

    def _on(self, lead_id: str, branches: Iterable[str]) -> Draw:
        way = self.house.network.way(lead_id)
        total = NOTHING
        for branch in branches:
            total = total.plus(running(self.house.network, way, branch))
        return total

    def _volts(self, lead_id: str, draw: Draw) -> LegVolts:
        plan = self.house.plan
        volts, ohms = plan.site.leg_volts, self.ohms[lead_id]
        a, b = draw.a / volts, draw.b / volts
        if self.house.network.way(lead_id).single:
            one = volts - 2 * (a + b) * ohms
            return LegVolts(a_v=round(one, 1), b_v=round(one, 1) if plan.site.split_phase else None)
        a_v, b_v = three_wire_volts(volts, a, b, ohms, ohms)
        return LegVolts(a_v=round(a_v, 1), b_v=round(b_v, 1) if plan.site.split_phase else None)

    def _names(self, branches: Iterable[str]) -> str:
        names = [self._named(branch) for branch in branches]
        more = f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
        return ", ".join(names[:NAMED]) + more

    def _named(self, branch: str) -> str:
        circuit = self.house.plan.circuits.get(branch)
        if circuit is not None:
            return circuit.label
        return next((load.name for load in self._loads([branch])), branch)
