"""Every lead as a row of conductors, from what it begins at to what it ends at, with what protects each."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Final, Literal

from weary_cedar.core.electrical.ampacity import receptacle
from weary_cedar.core.electrical.flexible_cord import area_mm2, carries_a, cord_ohms_per_m
from weary_cedar.core.network.wires import CORD_C, WIRE_C, fixed_wire_a, fixed_wire_breaker_a, fixed_wire_ohms
from weary_cedar.core.plan import (
    Adapter,
    Answer,
    Circuit,
    Cord,
    Hookup,
    Plan,
    Receptacle,
    Recharge,
    Station,
)

#: A cord of AWG 16 (1.3 mm²) or thicker is protected by an outlet of this rating or less. NFPA 70 (2023)
#: 240.5(B)(4), from memory.
CORD_SET_MM2, CORD_SET_A = 1.25, 20.0

#: What an element is. Of a lead from a circuit the outlet is that of the house, behind its breaker.
ElementKind = Literal[
    "source", "outlet", "adapter", "cord", "plug", "inlet", "input", "wire", "transfer", "bus", "neutral bus"
]
#: A plug of this configuration has a fuse of its own. Common practice.
FUSED_PLUG: Final = "BS 1363"


@dataclass(frozen=True)
class Element:
    """One conductor or joint of a path."""

    kind: ElementKind
    key: str
    name: str
    #: What it may carry on each leg, A; not known if absent.
    rating_a: float | None
    #: Of a breaker or fuse in it, A: it protects what comes after it.
    device_a: float | None = None
    #: Configurations at its two ends, of joints.
    ends: tuple[str, ...] = ()
    neutral: Answer = "yes"
    ground: Answer = "yes"
    part: Receptacle | Adapter | Cord | None = None
    #: Length and resistance of one conductor of it, at so many °C; none of joints, and where not known.
    length_m: float | None = None
    ohms: float | None = None
    #: The largest overcurrent device that it may stand behind, A, where a rule says more than its rating.
    behind_a: float | None = None
    warm_c: float | None = None


@dataclass(frozen=True)
class Path:
    """A lead as a row of elements, wherever it ends."""

    key: str
    kind: Literal["feeds", "charges"]
    elements: tuple[Element, ...]
    #: Configuration at its source; none of a circuit, of a link without outlets of its own, and if not said.
    begins: str | None
    #: Configuration at its end; none at an input, whose connector is the station's own.
    ends: str | None

    def of(self, *kinds: ElementKind) -> Iterator[Element]:
        """Its elements of some kinds, in their order."""
        return (element for element in self.elements if element.kind in kinds)

    def protects(self, element: Element) -> float | None:
        """The least overcurrent device before an element, or in it, A; none where none is known."""
        devices = [found.device_a for found in self.elements[: self.elements.index(element) + 1]]
        return min((amps for amps in devices if amps is not None), default=None)

    @cached_property
    def protected_a(self) -> float | None:
        """What protects it at its source, A."""
        return next((found.device_a for found in self.of("outlet")), None)

    @property
    def ohms(self) -> float:
        """Resistance of one conductor from its source to its end, Ω: of all of it that is known."""
        return sum(found.ohms for found in self.elements if found.ohms is not None)

    @property
    def cords(self) -> tuple[Cord, ...]:
        """Its cords, in their order."""
        return tuple(found.part for found in self.of("cord") if isinstance(found.part, Cord))

    @property
    def adapters(self) -> tuple[Adapter, ...]:
        """Its adapters, in their order."""
        return tuple(found.part for found in self.of("adapter") if isinstance(found.part, Adapter))

    @property
    def joints(self) -> tuple[str, ...]:
        """Configurations from its source to its end."""
        inner = [kind for found in self.of("adapter") for kind in found.ends]
        return tuple(kind for kind in (self.begins, *inner, self.ends) if kind is not None)

    @property
    def cord_ends(self) -> tuple[str, ...]:
        """Configurations at the two ends of its cords: of what comes before and after them."""
        before = [a.load_end for a in self.adapters if a.sits_at == "source"]
        after = [a.source_end for a in self.adapters if a.sits_at == "load"]
        ends = (before[-1] if before else self.begins, after[0] if after else self.ends)
        return tuple(kind for kind in ends if kind is not None)


def paths_of(plan: Plan) -> tuple[Path, ...]:
    """Every lead of a plan as a path: those that feed, and those that charge.

    Args:
        plan: the plan.

    Returns:
        Elements with their ratings in A per leg, in order from the source.

    Source: ratings of plates; cords and wires as `carries_a` and `fixed_wire_a`.
    """
    feeding = (_feeding(plan, key, hookup) for key, hookup in plan.hookups.items())
    charging = (_charging(plan, key, recharge) for key, recharge in plan.recharges.items())
    return (*feeding, *charging)


def feeding_path(plan: Plan, hookup: Hookup) -> Path:
    """The path of a lead that feeds a panel or appliances. Source: as `paths_of`."""
    return _feeding(plan, hookup.lead_id, hookup)


def charging_path(plan: Plan, recharge: Recharge) -> Path:
    """The path of a lead into an input of a station. Source: as `paths_of`."""
    return _charging(plan, recharge.lead_id, recharge)


def _feeding(plan: Plan, key: str, hookup: Hookup) -> Path:
    source, link = plan.source(hookup), plan.link_of(hookup)
    outlet = plan.outlets_of(hookup.source_kind, hookup.source_id).get(hookup.receptacle_id)
    leg_va = source.leg_limit_va if isinstance(source, Station) else source.leg_limit_w
    elements = [Element("source", "source", link.name if link else source.name, leg_va / plan.site.leg_volts)]
    elements += _outlet(outlet)
    elements += _between(plan, hookup.cords, hookup.adapters)
    kind: ElementKind = "plug" if hookup.kind in ("cords", "receptacle_backfeed") else "inlet"
    own_a = hookup.breaker_a if hookup.kind == "cords" else None
    if hookup.kind == "cords" and hookup.inlet == FUSED_PLUG and own_a is None:
        own_a = hookup.inlet_a
    elements.append(
        Element(
            kind,
            "inlet",
            f"{kind} {hookup.inlet}",
            hookup.inlet_a,
            device_a=own_a,
            ends=(hookup.inlet,),
            neutral=neutral_of(hookup.inlet),
        )
    )
    if hookup.panel_id:
        elements += _into_panel(plan, hookup)
    known = outlet is not None and (link is None or hookup.receptacle_id in link.receptacles)
    begins = outlet.kind if outlet is not None and known else None
    return Path(key, "feeds", tuple(elements), begins, hookup.inlet)


def _into_panel(plan: Plan, hookup: Hookup) -> Iterator[Element]:
    """The wire of an inlet, what transfers, and the buses behind it."""
    wire, panel = hookup.wire, plan.panels[hookup.panel_id]
    if wire is not None:
        length = plan.site.units.told_length(wire.length_m) if wire.length_m is not None else "of the inlet"
        gauge = f"AWG {wire.awg}" if wire.awg is not None else "gauge not known,"
        yield Element(
            "wire", "wire", f"wire {length}, {gauge} {wire.metal}", fixed_wire_a(wire),
            length_m=wire.length_m, ohms=fixed_wire_ohms(wire, WIRE_C), warm_c=WIRE_C,
            behind_a=fixed_wire_breaker_a(wire),
        )  # fmt: skip
    device_a = hookup.breaker_a if hookup.traits.breaker else None
    yield Element("transfer", "transfer", hookup.traits.words, hookup.breaker_a, device_a=device_a)
    yield Element("bus", "panel", panel.name, panel.bus_carries_a)
    yield Element("neutral bus", "neutral", f"neutral bus of {panel.name}", panel.neutral_carries_a)


def _charging(plan: Plan, key: str, recharge: Recharge) -> Path:
    outlet = outlet_of(plan, recharge)
    elements: list[Element] = []
    if recharge.kind == "circuit":
        circuit: Circuit = plan.circuits[recharge.from_id]
        rated_a = circuit.rated_a
        elements.append(Element("outlet", "receptacle", circuit.label, rated_a, device_a=rated_a))
    else:
        elements += _outlet(outlet)
    elements += _between(plan, recharge.cords, recharge.adapters)
    entry = plan.stations[recharge.station_id].ac_inputs.get(recharge.input_id)
    carries = entry.carries_a if entry is not None else None
    name = f"input {recharge.input_id} of {plan.stations[recharge.station_id].name}"
    elements.append(Element("input", "input", name, carries))
    return Path(key, "charges", tuple(elements), outlet.kind if outlet else None, None)


def _outlet(outlet: Receptacle | None) -> list[Element]:
    if outlet is None:
        return []
    rated_a = outlet.rating_a
    found = Element(
        "outlet", "receptacle", outlet.kind, rated_a, device_a=rated_a, ends=(outlet.kind,), part=outlet
    )
    return [found]


def _between(plan: Plan, cords: tuple[Cord, ...], adapters: tuple[Adapter, ...]) -> Iterator[Element]:
    """Cords of a lead between its adapters: those at the source, and those at the load."""
    numbered = list(enumerate(adapters))
    yield from (_adapter(number, adapter) for number, adapter in numbered if adapter.sits_at == "source")
    for number, cord in enumerate(cords):
        name = f"{cord.name or 'cord'} {plan.site.units.told_length(cord.length_m)}, {cord.size}"
        carries = carries_a(cord)
        ohms = cord_ohms_per_m(cord) * cord.length_m if cord.length_m is not None else None
        yield Element(
            "cord", f"cord-{number}", name, carries, part=cord,
            length_m=cord.length_m, ohms=ohms, warm_c=CORD_C,
            behind_a=max(carries, CORD_SET_A) if area_mm2(cord) >= CORD_SET_MM2 else carries,
        )  # fmt: skip
    yield from (_adapter(number, adapter) for number, adapter in numbered if adapter.sits_at == "load")


def _adapter(number: int, adapter: Adapter) -> Element:
    return Element(
        "adapter",
        f"adapter-{number}",
        adapter.name or f"adapter {adapter.source_end} to {adapter.load_end}",
        min(adapter.rating_a, adapter.overcurrent_a or adapter.rating_a),
        device_a=adapter.overcurrent_a,
        ends=(adapter.source_end, adapter.load_end),
        neutral=adapter.passes_neutral,
        ground=adapter.passes_ground,
        part=adapter,
    )


def neutral_of(configuration: str) -> Answer:
    """Whether a configuration has a neutral, as far as the table knows it. Source: as `receptacle`."""
    row = receptacle(configuration)
    return "unknown" if row is None else "yes" if row["neutral"] == "yes" else "no"


def outlet_of(plan: Plan, recharge: Recharge) -> Receptacle | None:
    """The outlet that a charging lead is plugged into: the one that it names, or the only one there is."""
    outlets = plan.outlets_of(recharge.kind, recharge.from_id)
    if recharge.kind == "vehicle" and not plan.vehicles[recharge.from_id].gives_ac:
        return None
    if recharge.outlet_id is None and len(outlets) == 1:
        return next(iter(outlets.values()))
    return outlets.get(recharge.outlet_id or "")
