"""The installation as a one-line diagram: every source's path to its panel, with what an inspector asks for.

Volts, amps, poles, conductors, gauge, lengths, overcurrent devices, the transfer, and where the one bond of
neutral and ground is in each state. What the plan does not say is named.
"""

from collections.abc import Iterator
from typing import Literal

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.electrical.ampacity import receptacle
from weary_cedar.core.network.neutral_states import neutral_states
from weary_cedar.core.network.path import feeding_path
from weary_cedar.core.plan import Adapter, Cord, FixedWire, Generator, Hookup, Plan, Station
from weary_cedar.core.plan.lead import SourceKind

PartKind = Literal["source", "outlet", "cord", "adapter", "inlet", "wire", "breaker", "transfer", "loads"]
Bond = Literal["service", "source", "none", "two", "unknown"]
NOT_KNOWN = "not known"
SWITCHED = {"yes": "neutral switched", "no": "neutral solid, not switched", "unknown": "neutral: not known"}
TIED = {"changes": "changes in bypass", "switchable": "can be switched", "unknown": NOT_KNOWN}
LOCKED = {
    "yes": "locked out while another feeds", "no": "NOT locked out", "unknown": f"lock-out: {NOT_KNOWN}"
}  # fmt: skip
GROUND_FAULT = {
    "yes": "ground-fault device", "no": "no ground-fault device",
    "unknown": f"ground-fault device: {NOT_KNOWN}",
}  # fmt: skip


class Drawn(BaseModel):
    """A frozen part of the diagram."""

    model_config = ConfigDict(frozen=True)


class LinePart(Drawn):
    """One element of a path: what it is, and its figures."""

    kind: PartKind
    title: str
    words: tuple[str, ...] = ()


class BondState(Drawn):
    """Where the one bond of neutral and ground is in one state, in words."""

    state: str
    bond: Bond
    words: str


class LineRow(Drawn):
    """A source and its path, up to the transfer device and the panel behind it, or to appliances."""

    lead_id: str
    title: str
    parts: tuple[LinePart, ...]
    panel_id: str | None
    refused: bool
    bonds: tuple[BondState, ...]


class LinePanel(Drawn):
    """A panel: its main and bus, and what feeds it besides the sources."""

    panel_id: str
    name: str
    words: tuple[str, ...]
    fed_from: str | None
    feeder: str
    interlocked: bool


class OneLine(Drawn):
    """The diagram."""

    supply: str
    panels: tuple[LinePanel, ...]
    rows: tuple[LineRow, ...]
    charging: tuple[LineRow, ...]
    #: What else feeds in, and how it is kept off.
    others: tuple[str, ...]
    #: What the plan does not say.
    missing: tuple[str, ...]


def one_line(plan: Plan) -> OneLine:
    """The one-line diagram of a plan.

    Args:
        plan: the plan.

    Returns:
        A row for every lead that feeds, and for every lead that charges; panels, the sub-panels after
        those that feed them; other sources; and what is not known.

    Source: what is asked for is common practice; names of articles are from memory.
    """
    rows = tuple(_row(plan, key, hookup) for key, hookup in plan.hookups.items())
    charging = (
        *(_charging(plan, key) for key in plan.recharges),
        *(_sun(plan, key) for key, array in plan.arrays.items() if array.station_id is not None),
    )
    split = plan.site.split_phase
    supply = "Utility 120/240 V, single phase, three wires" if split else "Utility 230 V, single phase"
    if not split:
        supply += f", earthing {plan.site.earthing.upper().replace('_', '-')}"
    missing = [
        f"{row.title}: {part.title}: {words}"
        for row in (*rows, *charging) for part in row.parts for words in part.words if NOT_KNOWN in words
    ]  # fmt: skip
    missing += [
        f"{row.title}: bond {bond.state}: {bond.words}"
        for row in rows
        for bond in row.bonds
        if bond.bond == "unknown"
    ]
    return OneLine(
        supply=supply, panels=tuple(_panels(plan)), rows=rows, charging=charging,
        others=tuple(_others(plan)), missing=tuple(dict.fromkeys(missing)),
    )  # fmt: skip


def _panels(plan: Plan) -> Iterator[LinePanel]:
    by_depth = sorted(plan.panels, key=lambda key: (plan.panels[key].fed_from is not None, key))
    for key in by_depth:
        panel = plan.panels[key]
        feeder = ""
        fed_from = None
        if panel.fed_from is not None:
            circuit = plan.circuits[panel.fed_from]
            fed_from = circuit.panel_id
            wire = _branch_wire(plan, panel.fed_from)
            feeder = f"feeder: {circuit.poles}-pole {_amps(circuit.breaker_a)} breaker, {wire}"
        poles = 2
        circuits = [circuit for circuit in plan.circuits.values() if circuit.panel_id == key]
        on = sum(circuit.mark != "off" for circuit in circuits)
        yield LinePanel(
            panel_id=key, name=panel.name, fed_from=fed_from, feeder=feeder,
            words=(
                f"main {poles}-pole {_amps(panel.main_a)}",
                f"bus {_amps(panel.bus_a)}, {panel.spaces} spaces",
                f"{on} of {len(circuits)} circuits on in an outage",
            ),
            interlocked=any(f.panel_id == key and f.traits.interlocked for f in plan.feeds.values()),
        )  # fmt: skip


def _branch_wire(plan: Plan, circuit_id: str) -> str:
    circuit = plan.circuits[circuit_id]
    if circuit.awg is not None:
        gauge = f"AWG {circuit.awg} {circuit.metal}"
    elif circuit.mm2 is not None:
        gauge = f"{circuit.mm2:g} mm² {circuit.metal}"
    else:
        gauge = f"wire {NOT_KNOWN}"
    length = f", {plan.site.units.told_length(circuit.length_m)}" if circuit.length_m else ""
    return gauge + length


def _row(plan: Plan, key: str, hookup: Hookup) -> LineRow:
    parts = [*_source(plan, hookup), *_joints(plan, hookup), *_fixed(plan, hookup)]
    if hookup.kind == "cords":
        named = [plan.circuits[item].label for item in hookup.circuit_ids]
        named += [plan.loads[item].name for item in hookup.load_ids]
        parts.append(LinePart(kind="loads", title="Appliances", words=(", ".join(named) or NOT_KNOWN,)))
    return LineRow(
        lead_id=key, title=plan.lead_name(key), parts=tuple(parts), panel_id=hookup.panel_id or None,
        refused=bool(hookup.traits.refused), bonds=tuple(_bonds(plan, hookup)),
    )  # fmt: skip


def _volts(kind: str) -> str:
    row = receptacle(kind)
    return f"{row['volts']} V" if row else f"volts {NOT_KNOWN}"


def _source(plan: Plan, hookup: Hookup) -> Iterator[LinePart]:
    source, outlet, link = plan.source(hookup), plan.outlet(hookup), plan.link_of(hookup)
    rated = f"{source.rated_w:,.0f} W" if isinstance(source, Generator) else f"{source.rated_va:,.0f} VA"
    volts = _volts(outlet.kind)
    if link is not None:
        rated = f"two of {rated}, {'one a leg' if link.kind == 'two_legs' else 'in parallel'}"
        volts = "120/240 V through the kit" if link.kind == "two_legs" else volts
    name = link.name if link else source.name
    neutral = f"neutral {TIED.get(source.neutral, source.neutral)}"
    yield LinePart(kind="source", title=name, words=(rated, neutral))
    words = (volts, f"{outlet.rating_a:g} A breaker", GROUND_FAULT[outlet.gfci])
    yield LinePart(kind="outlet", title=f"Outlet {outlet.kind}", words=words)


def _joints(plan: Plan, hookup: Hookup) -> Iterator[LinePart]:
    path, parts = feeding_path(plan, hookup), []
    for found in path.of("adapter", "cord"):
        if isinstance(found.part, Adapter):
            parts.append(LinePart(kind="adapter", title=found.name, words=(f"{found.part.rating_a:g} A",)))
        elif isinstance(found.part, Cord):
            parts.append(_cord(plan, found.part, path.cord_ends))
    if not path.cords and not hookup.traits.by_itself:
        before = sum(adapter.sits_at == "source" for adapter in path.adapters)
        parts.insert(before, LinePart(kind="cord", title="Cord", words=(NOT_KNOWN,)))
    yield from parts


def _cord(plan: Plan, cord: Cord, ends: tuple[str, ...] = ()) -> LinePart:
    needed = max((int(row["cord_conductors"]) for row in map(receptacle, ends) if row), default=0)
    named = _conductors(plan, needed)
    conductors = f"{needed} conductors, as its ends need{named}" if needed else f"conductors: {NOT_KNOWN}"
    if cord.conductors:
        conductors = f"{cord.conductors} conductors{_conductors(plan, cord.conductors)}"
    length = plan.site.units.told_length(cord.length_m)
    words = (f"{cord.size} copper", conductors, length)
    return LinePart(kind="cord", title=cord.name or "Cord", words=words)


def _conductors(plan: Plan, count: int) -> str:
    """Which conductors so many are, ground included: common practice."""
    if not plan.site.split_phase:
        return ": line, neutral, earth" if count == 3 else ""
    return {3: ": hot, neutral, ground", 4: ": two hots, neutral, ground"}.get(count, "")


def _fixed(plan: Plan, hookup: Hookup) -> Iterator[LinePart]:
    if hookup.kind == "cords":
        return
    if not hookup.traits.by_itself:
        yield LinePart(
            kind="inlet", title=f"Inlet {hookup.inlet}",
            words=(_volts(hookup.inlet), f"{hookup.inlet_a:g} A"),
        )  # fmt: skip
    yield _wire(plan, hookup.wire, hookup.inlet)
    amps = f"{hookup.breaker_a:g} A" if hookup.breaker_a else NOT_KNOWN
    if hookup.traits.interlocked:
        poles = max(1, len(hookup.breaker_spaces))
        spaces = "+".join(str(space) for space in hookup.breaker_spaces) or NOT_KNOWN
        yield LinePart(
            kind="breaker", title="Feed breaker",
            words=(
                f"{poles}-pole {amps}", f"spaces {spaces}", hookup.traits.drawn,
                SWITCHED[hookup.neutral_switched],
            ),
        )  # fmt: skip
    else:
        yield LinePart(
            kind="transfer", title=hookup.traits.drawn,
            words=(amps, SWITCHED[hookup.neutral_switched], *_wired(plan, hookup)),
        )  # fmt: skip


def _wired(plan: Plan, hookup: Hookup) -> tuple[str, ...]:
    labels = ", ".join(plan.circuits[key].label for key in hookup.circuit_ids)
    return (f"circuits {labels}",) if labels else ()


def _amps(rating_a: float | None) -> str:
    return f"rating {NOT_KNOWN}" if rating_a is None else f"{rating_a:g} A"


def _wire(plan: Plan, wire: FixedWire | None, inlet: str) -> LinePart:
    title = "Wire of the inlet"
    if wire is None:
        return LinePart(kind="wire", title=title, words=(NOT_KNOWN,))
    row = receptacle(inlet)
    needed = int(row["cord_conductors"]) - 1 if row else 0
    conductors = (
        f"{needed} conductors and ground, as its inlet needs" if needed else f"conductors: {NOT_KNOWN}"
    )
    if wire.conductors:
        conductors = f"{wire.conductors} conductors and ground"
    length = plan.site.units.told_length(wire.length_m)
    gauge = f"gauge {NOT_KNOWN}" if wire.awg is None else f"AWG {wire.awg}"
    return LinePart(kind="wire", title=title, words=(f"{gauge} {wire.metal}", conductors, length))


def _bonds(plan: Plan, hookup: Hookup) -> Iterator[BondState]:
    """Where neutral and ground are joined, state by state.

    Source: common practice; one bond in every state, at the service while the neutral is not switched.
    """
    if hookup.panel_id:
        yield BondState(state="on the utility", bond="service", words="at the service equipment")
    for state in neutral_states(plan, hookup):
        name = f"on the source, {state.words}" if state.words else "on the source"
        bond, words = _bond(plan, hookup, state.neutral, state.of)
        yield BondState(state=name, bond=bond, words=words)


def _bond(plan: Plan, hookup: Hookup, neutral: str, of: str) -> tuple[Bond, str]:
    if hookup.traits.refused:
        return "unknown", "refused: nothing parts it from the utility"
    if neutral == "unknown":
        return "unknown", f"{NOT_KNOWN}: how the neutral of {of} stands"
    alone = hookup.kind == "cords" or hookup.neutral_switched == "yes"
    if alone:
        if neutral == "bonded":
            return "source", "at the source"
        return "none", "nowhere: it floats" + (
            "" if hookup.kind == "cords" else ", behind a switched neutral"
        )
    if hookup.neutral_switched == "unknown":
        return "unknown", f"{NOT_KNOWN}: whether the transfer switches the neutral"
    if not plan.site.split_phase:
        return "service", "at the island’s own neutral-earth bond, closed by the changeover; else nowhere"
    if neutral == "bonded":
        return "two", "TWO: at the source and at the service"
    return "service", "at the service equipment, through the solid neutral"


def _sun(plan: Plan, key: str) -> LineRow:
    """Modules, their lead, and the input that they charge: direct current."""
    array = plan.arrays[key]
    module, station = array.module, plan.stations[array.station_id or ""]
    volts = NOT_KNOWN if module.voc_v is None else f"{array.series * module.voc_v:.0f} V open"
    amps = NOT_KNOWN if module.isc_a is None else f"{array.parallel * module.isc_a:.1f} A short"
    strings = f"{array.series} in series × {array.parallel} in parallel, {module.watts:.0f} W each"
    parts = [
        LinePart(
            kind="source", title=array.name, words=(strings, f"{volts}, {amps}", "direct current, + and −")
        ),
        LinePart(
            kind="cord",
            title="Lead",
            words=(
                f"AWG {array.lead_awg}, plus and minus",
                plan.site.units.told_length(array.lead_m),
            ),
        ),
        LinePart(
            kind="loads",
            title=f"{station.name}, input {array.input_id or NOT_KNOWN}",
            words=("not joined to the house’s neutral or ground here",),
        ),
    ]
    return LineRow(lead_id=key, title=array.name, parts=tuple(parts), panel_id=None, refused=False, bonds=())


def _charging(plan: Plan, key: str) -> LineRow:
    recharge = plan.recharges[key]
    station = plan.stations[recharge.station_id]
    begins = plan.room_of(recharge.kind)[recharge.from_id]
    name = getattr(begins, "label", None) or getattr(begins, "name", recharge.from_id)
    circuit = plan.circuits.get(recharge.from_id) if recharge.kind == "circuit" else None
    first: tuple[str, ...] = ()
    if circuit is not None:
        first = (f"{circuit.poles}-pole {_amps(circuit.breaker_a)} breaker",)
    elif isinstance(begins, Generator):
        first = (f"{begins.rated_w:,.0f} W", f"neutral {TIED.get(begins.neutral, begins.neutral)}")
    elif isinstance(begins, Station):
        first = (f"{begins.rated_va:,.0f} VA", f"neutral {TIED.get(begins.neutral, begins.neutral)}")
    parts = [LinePart(kind="source", title=str(name), words=first)]
    parts += [_cord(plan, cord) for cord in recharge.cords]
    if not recharge.cords:
        parts.append(LinePart(kind="cord", title="Cord", words=(NOT_KNOWN,)))
    entry = station.ac_inputs.get(recharge.input_id)
    passes = "passes through" if entry and entry.passes_through else "does not pass through"
    if entry and entry.passes_through is None:
        passes = f"passing through: {NOT_KNOWN}"
    words = (f"set to {recharge.setting_w:,.0f} W", passes if entry else "direct current")
    parts.append(LinePart(kind="loads", title=f"{station.name}, input {recharge.input_id}", words=words))
    return LineRow(
        lead_id=key, title=recharge.name, parts=tuple(parts), panel_id=None, refused=False, bonds=()
    )  # fmt: skip


def _others(plan: Plan) -> Iterator[str]:
    for array in plan.arrays.values():
        if array.kind == "grid_tied":
            yield f"{array.name}: feeds the utility; its disconnect is locked off before a source feeds"
        elif array.station_id is None:
            yield f"{array.name}: in no input; gives nothing"
    joined = {(lead.source.kind, lead.source.id) for lead in plan.leads.values()}
    joined |= {("station", unit) for link in plan.links.values() for unit in (link.leg_a, link.leg_b)}
    kinds: tuple[SourceKind, ...] = ("station", "link", "generator", "vehicle")
    for kind in kinds:
        for key, source in plan.room_of(kind).items():
            if (kind, key) not in joined:
                yield f"{source.name}: at hand, joined to nothing"
    for external in plan.externals.values():
        station = plan.stations.get(external.station_id or "")
        yield f"{external.name}: battery at {station.name if station else NOT_KNOWN}, direct current"
    for engine in plan.generators.values():
        if engine.auto_start:
            yield f"{engine.name}: starts by itself; {LOCKED[engine.locked_out]}"
