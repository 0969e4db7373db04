"""Voltage that is lost in cords and wires, and what is left of it at motors."""

from collections.abc import Iterator

from weary_cedar.core.checks.facts import Facts, is_motor, start_of
from weary_cedar.core.checks.finding import Element, Figure, Figures, Hit, Said, not_read
from weary_cedar.core.checks.onward import asked_w, inlets
from weary_cedar.core.checks.registry import check
from weary_cedar.core.electrical.conductor import COPPER_ALPHA, COPPER_OHM_M, metal_factor, ohms_per_m
from weary_cedar.core.electrical.voltage_drop import two_wire_drop_v
from weary_cedar.core.network.wires import WIRE_C
from weary_cedar.core.plan import Circuit, Hookup, Load, Recharge

#: Drops worth a caution, and the share of plate volts under which a motor must not run or start.
DROPS = (0.03, 0.05)
RUN_SHARE, START_SHARE = 0.90, 0.80
#: What the figures of drops are counted on, in words.
BASIS = "cords stranded and at 20 °C, wires of the house at 75 °C, constant current"


@check("cord-drop")
def cord_drop(facts: Facts) -> Iterator[Said]:
    """Drop of cords and circuits at the greatest flow; running and starting volts of motors."""
    volts = facts.plan.site.leg_volts
    said: set[str] = set()
    for key, feed in facts.plan.hookups.items():
        flow = facts.flow("cord", key)
        loads = facts.wanted(feed)
        amps = flow[0] if flow else max((facts.amps(load) for load in loads.values()), default=0.0)
        yield from _lengths_open(facts, key, feed)
        ohms = facts.paths[key].ohms
        drop = two_wire_drop_v(amps, ohms, ohms)
        basis = f"loop {2 * ohms:.3f} Ω, {BASIS}"
        yield from _dropped(facts.element("leads", key), drop / volts, "drop at the greatest flow", basis)
        for circuit_id in facts.on(feed) if feed.kind != "cords" else ():
            if circuit_id not in said:
                said.add(circuit_id)
                yield from _on_its_circuit(facts, circuit_id, drop)
        for load_id, load in loads.items():
            own = branch_ohms(facts.plan.circuits.get(load.circuit_id or "")) if feed.kind != "cords" else 0.0
            figures = _motor_volts(facts, load, drop, ohms + (own or 0.0), own or 0.0)
            if figures:
                low: Figures = (figures[0], *figures[1:])
                yield Hit(facts.element("loads", load_id), low, level="stop", detail=basis)
    for inlet in inlets(facts):
        yield from _lengths_open(facts, inlet.key, inlet.recharge)
        ohms = facts.paths[inlet.key].ohms
        drop = two_wire_drop_v(asked_w(facts, inlet) / inlet.entry.volts, ohms, ohms)
        basis = f"loop {2 * ohms:.3f} Ω, {BASIS}"
        element = facts.element("leads", inlet.key)
        yield from _dropped(element, drop / inlet.entry.volts, "drop while charging", basis)


def _lengths_open(facts: Facts, key: str, joined: Hookup | Recharge) -> Iterator[Said]:
    """Lengths of a cord or a wire that nobody has said."""
    wire = joined.wire if isinstance(joined, Hookup) else None
    for part in (*joined.cords, *((wire,) if wire else ())):
        if part.length_m is None:
            yield not_read(facts.element("leads", key), part, "length_m")


def _dropped(element: Element, share: float, name: str, basis: str) -> Iterator[Said]:
    """A drop that is over three per cent, or over five."""
    if share > DROPS[0]:
        limit = DROPS[1] if share > DROPS[1] else DROPS[0]
        yield Hit(element, (Figure(name=name, value=100 * share, limit=100 * limit, unit="%"),), detail=basis)


def _on_its_circuit(facts: Facts, circuit_id: str, feed_drop_v: float) -> Iterator[Said]:
    """Drop of a circuit's own wire, where its length is known, and together with its feed."""
    circuit, volts = facts.plan.circuits[circuit_id], facts.plan.site.leg_volts
    ohms = branch_ohms(circuit)
    loads = facts.loads_on({circuit_id: circuit}).values()
    if ohms is None or not loads:
        return
    amps = next((flow.flow for flow in facts.run.flows if flow.key == circuit_id), 0.0)
    amps = amps or max(facts.amps(load) for load in loads)
    share = two_wire_drop_v(amps, ohms, ohms) / (volts * circuit.poles)
    both = share + feed_drop_v / volts
    if share > DROPS[0] or both > DROPS[1]:
        figures = (
            Figure(name="drop of its wire", value=100 * share, limit=100 * DROPS[0], unit="%"),
            Figure(name="with its feed", value=100 * both, limit=100 * DROPS[1], unit="%"),
        )
        detail = f"loop {2 * ohms:.3f} Ω, {BASIS}"
        yield Hit(facts.element("circuits", circuit_id), figures, detail=detail)


def _ohms_to(facts: Facts, feed: Hookup, load: Load) -> float:
    """Resistance of one conductor from the panel to a load, Ω; nothing by cord, or where it is not known."""
    circuit = None if feed.kind == "cords" else facts.plan.circuits.get(load.circuit_id or "")
    return branch_ohms(circuit) or 0.0


def branch_ohms(circuit: Circuit | None) -> float | None:
    """Resistance of one conductor of a circuit, Ω; none where its length or gauge is not known."""
    if circuit is None or circuit.length_m is None:
        return None
    metal = metal_factor(circuit.metal)
    if circuit.awg is not None:
        return ohms_per_m(circuit.awg, WIRE_C, stranded=False) * metal * circuit.length_m
    if circuit.mm2 is not None:
        warm = 1.0 + COPPER_ALPHA * (WIRE_C - 20.0)
        return COPPER_OHM_M / (circuit.mm2 * 1e-6) * warm * metal * circuit.length_m
    return None


def _motor_volts(facts: Facts, load: Load, drop: float, ohms: float, own_ohms: float) -> tuple[Figure, ...]:
    """Running and starting volts of a motor that are too low; a start only where it is known."""
    plate, start = load.plate_volts, start_of(load)
    if plate is None or not is_motor(load):
        return ()
    poles = len(facts.legs_of(load))
    volts = poles * facts.plan.site.leg_volts
    if not 0.5 * volts < plate < 1.5 * volts:
        return ()
    runs_v = volts - drop - two_wire_drop_v(facts.amps(load), own_ohms, own_ohms)
    figures = [Figure(name="running volts", value=100 * runs_v / plate, limit=100 * RUN_SHARE, unit="%")]
    locked_a = load.locked_rotor_a or (start.va / volts if start else None)
    if locked_a is not None:
        starting = (volts - two_wire_drop_v(locked_a, ohms, ohms)) / plate
        figures.append(Figure(name="starting volts", value=100 * starting, limit=100 * START_SHARE, unit="%"))
    return tuple(figures) if any(figure.value < (figure.limit or 0.0) for figure in figures) else ()
