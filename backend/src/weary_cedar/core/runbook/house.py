"""The state machine of the house: what stands where, and what every act does.

It knows breakers, interlocks, switches, ends of leads, sources and their bonds. An act is impossible where
a mechanism or a plug forbids it, and unsafe where it, or how the house stands after it, can hurt someone
or trips what it should feed.
"""

import math

from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.handles.conductors import Conductors
from weary_cedar.core.handles.elements import elements_of
from weary_cedar.core.handles.faults import Fault, fault
from weary_cedar.core.handles.mechanisms import forbidden, moved
from weary_cedar.core.network import network_of
from weary_cedar.core.network.carrying import NOTHING, Draw, bearer, running, spread, starting
from weary_cedar.core.plan import Load, Plan
from weary_cedar.core.runbook.charge_rate import charge_w
from weary_cedar.core.runbook.charging_load import charges, overcharged
from weary_cedar.core.runbook.standing import standing
from weary_cedar.core.runbook.steps import Move

#: A compressor that stopped stays off so long, s; a motor has come to rest after this, s. Common practice.
COMPRESSOR_S, MOTOR_S = 300.0, 5.0


class House:
    """How a house stands after each act."""

    def __init__(self, plan: Plan, begins: dict[str, str] | None = None) -> None:
        self.plan = plan
        self.network = network_of(plan)
        self.elements = elements_of(plan)
        self.at = {key: element.begins for key, element in self.elements.items()}
        for key, position in (begins or {}).items():
            self._known("/begins", key, position)
            self.at[key] = position
        self.t = 0.0
        self.joined = Conductors(self.network, self.at)
        self.live = self.joined.live()
        #: When each branch lost its power, and when each handle was put to off, s.
        self.lost: dict[str, float] = {}
        self.rests: dict[str, float] = {}
        #: The lead whose source the last act asked too much of.
        self.over_on: str | None = None

    @property
    def branches(self) -> list[str]:
        """Circuits, and what hangs on cords."""
        return list(dict.fromkeys([*self.plan.circuits, *(k for w in self.network.ways for k in w.branches)]))

    def words(self, act: Move) -> str:
        """An act as it is told."""
        return f"{self.elements[act.what].name}: {act.to}"

    def standing(self) -> Fault | None:
        """What is unsafe about how the house stands, if anything."""
        return standing(self.joined, self.live)

    def do(self, act: Move, place: str = "/acts") -> Fault | None:
        """Do an act.

        Args:
            act: what goes where.
            place: of the act in its document, for errors.

        Returns:
            What is wrong with it, if anything; the house is not to be asked any more then.

        Raises:
            InvalidInput: an element or a position that there is not.
        """
        self._known(place, act.what, act.to)
        self.t += act.wait_s
        self.over_on = None
        before = self.at[act.what]
        found = fault("already", to=act.to) if before == act.to else None
        found = found or forbidden(self.plan, self.at, act.what, act.to)
        found = found or self._unwise(act.what, before, act.to)
        if found is not None:
            return found
        self.at[act.what] = act.to
        if act.to == "off":
            self.rests[act.what] = self.t
        was, before_it = self.live, self.joined
        self.joined = Conductors(self.network, self.at)
        self.live = self.joined.live()
        for branch in was.keys() - self.live.keys():
            self.lost[branch] = self.t
        return self.standing() or self._comes_on(was, before_it) or self._starts_again(before_it)

    def _known(self, place: str, key: str, position: str) -> None:
        if key not in self.elements:
            raise _no(place, key, f"an element of this plan, such as {', '.join(list(self.elements)[:6])}")
        positions = self.elements[key].positions
        if position not in positions:
            raise _no(f"{place}/{key}", position, " or ".join(positions))

    # ---------------------------------------------------------------- while it is done

    def _unwise(self, key: str, before: str, to: str) -> Fault | None:
        kind, _, of = key.partition("/")
        if kind in ("source_end", "load_end", "bonding_plug"):
            return moved(self.joined, kind, of, to)
        if kind in ("transfer", "handle") and "off" not in (before, to):
            return fault("through_off")
        if kind in ("transfer", "handle") and to != "off":
            return self._turning(key)
        if kind == "engine" and self.at[f"output/generator/{of}"] == "on":
            return fault("engine_loaded")
        return None

    def _turning(self, key: str) -> Fault | None:
        kind, feed_id, *circuit = key.split("/")
        if kind == "transfer" and not self.plan.feeds[feed_id].traits.single:
            return None
        branches = circuit or list(self.plan.feeds[feed_id].circuit_ids)
        motors = [x.name for branch in branches for x in self._loads(branch) if x.compressor or x.start]
        rested = self.t - self.rests.get(key, -MOTOR_S)
        return fault("motor_turning", load=motors[0]) if motors and rested < MOTOR_S else None

    # ---------------------------------------------------------------- what comes on

    def _loads(self, branch: str) -> list[Load]:
        return [self.plan.loads[key] for key in self.network.loads_of([branch])]

    def _comes_on(self, was: dict[str, str], before: Conductors) -> Fault | None:
        new = [branch for branch in self.live if branch not in was]
        for branch in new:
            circuit = self.plan.circuits.get(branch)
            if circuit is not None and circuit.mark == "off":
                return fault("left_on", circuit=circuit.label)
        cold = next(filter(None, map(self._against_pressure, new)), None)
        if cold is not None:
            return cold
        charged = self._newly_charging(before)
        for lead_id in sorted({self.live[branch] for branch in (*new, *charged)}):
            found = self._over(lead_id, [key for key in new if self.live[key] == lead_id], charged)
            if found is not None:
                return found
        charges_more = charges(self.joined).keys() - charges(before).keys()
        return overcharged(self.joined, self.live) if new or charges_more else None

    def _starts_again(self, before: Conductors) -> Fault | None:
        """A compressor that the utility gets from a source, too soon."""
        back = [key for key in self.lost if self.joined.on_utility(key) and not before.on_utility(key)]
        return next(filter(None, map(self._against_pressure, back)), None)

    def _against_pressure(self, branch: str) -> Fault | None:
        gone = self.t - self.lost.get(branch, -math.inf)
        cold = [load.name for load in self._loads(branch) if load.compressor]
        if cold and gone < COMPRESSOR_S:
            return fault("compressor", load=cold[0], gone=gone, left=COMPRESSOR_S - gone)
        return None

    def _newly_charging(self, before: Conductors) -> list[str]:
        """Live circuits into which a charger has come just now."""
        leads = self.plan.leads
        now = [key for key in leads if self.joined.plugged(key) and not before.plugged(key)]
        return [leads[key].source.id for key in now if leads[key].source.id in self.live]

    def _charging_va(self, branch: str) -> float:
        """What chargers in a circuit take, VA."""
        in_it = [
            lead
            for key, lead in self.plan.leads.items()
            if lead.source.kind == "circuit" and lead.source.id == branch and self.joined.plugged(key)
        ]
        return sum(charge_w(self.plan, lead) for lead in in_it)

    def _over(self, lead_id: str, new: list[str], charged: list[str]) -> Fault | None:
        """Whether a source trips on what comes on, all of it at once, chargers with what they are set to."""
        way = self.network.way(lead_id)
        on, coming, after = NOTHING, NOTHING, NOTHING
        for branch in (branch for branch, lead in self.live.items() if lead == lead_id):
            charger = spread(way, branch, self._charging_va(branch))
            draw = running(self.network, way, branch).plus(charger)
            after = after.plus(draw)
            if branch in new:
                coming = coming.plus(starting(self.network, way, branch)).plus(charger)
            else:
                on = on.plus(draw)
        bears = bearer(self.network, way)
        over = bears.over(Draw(on.a + coming.a, on.b + coming.b, coming.seconds)) or bears.over(after)
        names = ", ".join(self._named(branch) for branch in (new or charged)[:4])
        if not over:
            return None
        self.over_on = lead_id
        return fault("over_curve", branches=names, over=over)

    def trip(self, lead_id: str) -> None:
        """The source of a lead switches its output off by itself."""
        hookup = self.plan.hookups[lead_id]
        self.at[f"output/{hookup.source_kind}/{hookup.source_id}"] = "off"
        self.joined = Conductors(self.network, self.at)
        self.live = self.joined.live()

    def _named(self, branch: str) -> str:
        circuit = self.plan.circuits.get(branch)
        if circuit is not None:
            return circuit.label
        return next((load.name for load in self._loads(branch)), branch)


def _no(field: str, value: str, right: str) -> InvalidInput:
    problem = Problem(field, value[:80], right)
    return InvalidInput(str(problem), (problem,))
