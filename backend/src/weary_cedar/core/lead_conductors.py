"""Every conductor of every lead, with what it may carry, what protects it, what flows and what is lost."""

from collections.abc import Iterator
from typing import Literal

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.checks.along import carried_a
from weary_cedar.core.checks.conductors import RING_MM2, wire_of
from weary_cedar.core.checks.drops import branch_ohms
from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.onward import inlets
from weary_cedar.core.electrical.voltage_drop import two_wire_drop_v
from weary_cedar.core.network.path import Element, Path
from weary_cedar.core.network.wires import WIRE_C
from weary_cedar.core.outage.result import LegPeaks, StatePeaks
from weary_cedar.core.plan import Hookup, Plan

#: What has a length.
LONG = ("cord", "wire", "branch")
#: A flow a little over a rating by rounding is none.
ROUNDING = 1e-9


class Conductor(BaseModel):
    """One conductor or joint. Amps are the greatest of the run, each leg and the neutral at its own moment.

    `drop_v` is lost in it, there and back, at the greatest current of a leg. Null is not known, or not
    asked of it.
    """

    model_config = ConfigDict(frozen=True)

    kind: str
    name: str
    rating_a: float | None
    protected_a: float | None
    a_a: float | None = None
    b_a: float | None = None
    neutral_a: float | None = None
    length_m: float | None = None
    warm_c: float | None = None
    drop_v: float | None = None
    #: Whether it has a length, and so a drop and a device that protects it.
    long: bool = False
    wrong: tuple[str, ...] = ()
    not_known: tuple[str, ...] = ()


class LeadState(BaseModel):
    """What flows along a lead while its source is in one state; amps are the greatest, V lost at them."""

    model_config = ConfigDict(frozen=True)

    words: str
    a_a: float | None
    b_a: float | None
    neutral_a: float | None
    drop_v: float | None


class LeadConductors(BaseModel):
    """The conductors of one lead from its source to its end, and on to each circuit that it feeds."""

    model_config = ConfigDict(frozen=True)

    lead_id: str
    name: str
    kind: Literal["feeds", "charges"]
    volts: float
    conductors: tuple[Conductor, ...]
    #: Lost from the source to its end, V, none where no current or no length is known; and on to the end of
    #: the circuit that loses most.
    drop_v: float | None
    farthest_v: float | None
    farthest: str | None
    #: The same flow by state of the source: of its own, while it is charged, passed through.
    states: tuple[LeadState, ...] = ()
    #: What its drop leaves out.
    words: tuple[str, ...] = ()


def lead_conductors(plan: Plan, facts: Facts | None = None) -> list[LeadConductors]:
    """Every lead of a plan as its conductors.

    Args:
        plan: the plan.
        facts: of the same plan, if there are some already.

    Returns:
        Ratings and currents in A, drops in V of a leg (of an input: of its volts). Currents are those of
        the run; of a lead that charges the greater of what it was sent and what it is set to.

    Source: two-wire drop as `two_wire_drop_v`; ratings as `paths_of`; currents as `RunResult.peaks`.
    """
    facts = facts or Facts(plan)
    return [_of_lead(facts, key, path) for key, path in facts.paths.items()]


def _of_lead(facts: Facts, key: str, path: Path) -> LeadConductors:
    plan = facts.plan
    hookup = plan.hookups.get(key)
    volts = plan.site.leg_volts if hookup is not None else _input_volts(plan, key)
    flow = _flow(facts, path, hookup, volts)
    rows = [_of_element(path, element, flow) for element in path.elements]
    most = max((amps for amps in flow[:2] if amps is not None), default=None)
    counted = any(element.ohms is not None for element in path.elements)
    drop_v = None if most is None or not counted else two_wire_drop_v(most, path.ohms, path.ohms)
    states = _states_of_feed(facts, path, hookup) if hookup is not None else _states_of_input(facts, path)
    branches = list(_branches(facts, hookup)) if hookup is not None else []
    far = max(branches, key=lambda row: row.drop_v or 0.0, default=None)
    return LeadConductors(
        lead_id=key,
        name=facts.element("leads", key).name,
        kind=path.kind,
        volts=volts,
        conductors=(*rows, *branches),
        drop_v=drop_v,
        farthest_v=None if far is None or far.drop_v is None or drop_v is None else drop_v + far.drop_v,
        farthest=None if far is None or far.drop_v is None or drop_v is None else far.name,
        states=tuple(_state(words, path, each) for words, each in states),
        words=tuple(_left_out(path, hookup, most)),
    )


def _state(words: str, path: Path, flow: "Flow") -> LeadState:
    a_a, b_a, neutral_a = flow
    most = max((amps for amps in (a_a, b_a) if amps is not None), default=None)
    counted = most is not None and any(element.ohms is not None for element in path.elements)
    drop_v = two_wire_drop_v(most, path.ohms, path.ohms) if counted and most is not None else None
    return LeadState(words=words, a_a=a_a, b_a=b_a, neutral_a=neutral_a, drop_v=drop_v)


def _states_of_feed(facts: Facts, path: Path, hookup: Hookup) -> Iterator[tuple[str, "Flow"]]:
    """What flowed in the run while the source gave of its own, was charged, or passed through."""
    source = facts.plan.source_name(hookup)
    peaks = facts.run.peaks.get(path.key)
    for state in peaks.states if peaks is not None else ():
        words = f"{source}, of its own"
        if state.through is not None:
            words = f"{source} passes on what comes by {facts.element('leads', state.through).name}"
        elif state.charged:
            words = f"{source}, of its own while its AC input charges it"
        yield words, _on_conductors(facts, path, state)


def _states_of_input(facts: Facts, path: Path) -> Iterator[tuple[str, "Flow"]]:
    """What an input draws to charge, and with what it passes through besides."""
    inlet = next((inlet for inlet in inlets(facts) if inlet.key == path.key), None)
    if inlet is None or not inlet.passes:
        return
    one = inlet.entry.volts == facts.plan.site.leg_volts
    together_a, alone_a = carried_a(facts, path), inlet.recharge.setting_w / inlet.entry.volts
    if together_a > alone_a:
        yield f"{inlet.station.name} charges only", (alone_a, None, alone_a if one else None)
        yield f"{inlet.station.name} charges and passes on", (together_a, None, together_a if one else None)


def _left_out(path: Path, hookup: Hookup | None, most_a: float | None) -> Iterator[str]:
    """What is not known of a whole lead."""
    if most_a is None:
        yield "the run did not use it: what flows and what is lost is not known"
    wired = hookup is not None and hookup.traits.by_itself
    if not path.cords and not wired:
        yield "no cord of it is described: what a cord loses is not counted"
    if any(element.kind in LONG and element.ohms is None for element in path.elements):
        yield "the length or gauge of a part is not known: it loses more than is counted"


def _input_volts(plan: Plan, key: str) -> float:
    recharge = plan.recharges[key]
    entry = plan.stations[recharge.station_id].ac_inputs.get(recharge.input_id)
    return entry.volts if entry is not None else plan.site.leg_volts


#: Amps of leg A, of leg B and of the neutral.
Flow = tuple[float | None, float | None, float | None]


def _flow(facts: Facts, path: Path, hookup: Hookup | None, volts: float) -> Flow:
    if hookup is None:
        amps = carried_a(facts, path)
        return amps, None, amps if volts == facts.plan.site.leg_volts else None
    peaks = facts.run.peaks.get(path.key)
    return (None, None, None) if peaks is None else _on_conductors(facts, path, peaks)


def _on_conductors(facts: Facts, path: Path, peaks: LegPeaks | StatePeaks) -> Flow:
    if facts.network.way(path.key).single:
        return peaks.neutral_a, None, peaks.neutral_a
    return peaks.a_a, peaks.b_a if facts.plan.site.split_phase else None, peaks.neutral_a


def _of_element(path: Path, element: Element, flow: Flow) -> Conductor:
    a_a, b_a, neutral_a = (None, None, flow[2]) if element.kind == "neutral bus" else flow
    carries = max((amps for amps in (a_a, b_a, neutral_a) if amps is not None), default=0.0)
    protected_a = path.protects(element)
    drop_v = None
    if element.ohms is not None:
        legs = [amps for amps in (a_a, b_a) if amps is not None]
        drop_v = two_wire_drop_v(max(legs), element.ohms, element.ohms) if legs else None
    return Conductor(
        kind=element.kind,
        name=element.name,
        rating_a=element.rating_a,
        protected_a=protected_a,
        a_a=a_a,
        b_a=b_a,
        neutral_a=neutral_a,
        length_m=element.length_m,
        warm_c=element.warm_c,
        drop_v=drop_v,
        long=element.kind in LONG,
        wrong=tuple(_wrong(element.rating_a, carries, element.behind_a, protected_a)),
        not_known=tuple(_not_known(element.kind, element.rating_a, protected_a, element.ohms)),
    )


def _wrong(
    rating_a: float | None, carries_a: float, allowed_a: float | None, protected_a: float | None
) -> list[str]:
    """What is too much for a conductor: the current, or the device that protects it."""
    found = []
    if rating_a is not None and carries_a > rating_a * (1 + ROUNDING):
        found.append(f"carries {carries_a:.3g} A, more than its {rating_a:g} A")
    if allowed_a is not None and protected_a is not None and protected_a > allowed_a * (1 + ROUNDING):
        found.append(f"protected at {protected_a:g} A, more than the {allowed_a:g} A that it allows")
    return found


def _not_known(kind: str, rating_a: float | None, protected_a: float | None, ohms: float | None) -> list[str]:
    found = ["what it may carry is not known"] if rating_a is None else []
    if kind in LONG and ohms is None:
        found.append("its length or gauge is not known: its drop is not counted")
    if kind in LONG and protected_a is None:
        found.append("what protects it is not known")
    return found


def _branches(facts: Facts, hookup: Hookup) -> Iterator[Conductor]:
    """The wires of the circuits that a feed reaches; by cord there are none."""
    if hookup.kind == "cords":
        return
    most = {flow.key: flow.flow for flow in facts.run.flows if not flow.feed}
    for key, circuit in facts.on(hookup).items():
        wire, rating_a = wire_of(circuit)
        ohms, legs = branch_ohms(circuit), facts.plan.circuit_legs(key)
        amps = most.get(key)
        allowed_a = None if circuit.breaker_by_plate == "yes" or circuit.mm2 == RING_MM2 else rating_a
        drop_v = (
            two_wire_drop_v(amps, ohms, ohms) / len(legs) if ohms is not None and amps is not None else None
        )
        yield Conductor(
            kind="branch",
            name=f"{circuit.label}, {wire or 'wire not known'}",
            rating_a=rating_a,
            protected_a=circuit.breaker_a,
            a_a=amps if legs[0] != "B" or len(legs) == 2 else None,
            b_a=amps if "B" in legs else None,
            neutral_a=None,
            length_m=circuit.length_m,
            warm_c=WIRE_C if ohms is not None else None,
            drop_v=drop_v,
            long=True,
            wrong=tuple(_wrong(rating_a, amps or 0.0, allowed_a, circuit.breaker_a)),
            not_known=tuple(_not_known("branch", rating_a, circuit.breaker_a, ohms)),
        )
