"""The panel schedule as electricians know it, with what each leg may have to carry."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.demand import (
    CyclingDemand,
    JobDemand,
    RefrigeratingDemand,
    ReplayDemand,
    ThermostaticDemand,
)
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.electrical.split_phase import LegCurrents, PhaseLoad, lean, leg_currents, phase_load
from weary_cedar.core.network import network_of
from weary_cedar.core.network.feed_limits import feed_limits
from weary_cedar.core.outage.weather import Constant, mean_outdoor_c
from weary_cedar.core.plan import (
    Circuit,
    Cycling,
    Hours,
    Job,
    Load,
    Mark,
    Measured,
    Panel,
    Plan,
    Refrigerating,
    Thermostatic,
    leg_of_space,
)


class Part(BaseModel):
    """A frozen part of the schedule."""

    model_config = ConfigDict(frozen=True)


class Cell(Part):
    """What sits in one space: a circuit, the second pole of one, the feed breaker, or nothing."""

    space: int
    leg: str
    kind: Literal["circuit", "second_pole", "feed", "empty"]
    circuit_ids: tuple[str, ...] = ()


class CircuitLoad(Part):
    """Watts of one circuit: everything on at once, and the mean over days."""

    circuit_id: str
    legs: tuple[str, ...]
    on_w: float
    mean_w: float


class LegLoad(Part):
    """What one leg carries: marked keep, marked room, and means."""

    keep_w: float
    room_w: float
    keep_wh_day: float
    room_wh_day: float
    most_a: float
    limit_a: float | None
    share: float | None


class PanelSchedule(Part):
    """One panel: rows of two spaces, circuits with their watts, legs with their sums."""

    panel_id: str
    name: str
    rows: tuple[tuple[Cell, ...], ...]
    circuits: dict[str, CircuitLoad]
    legs: dict[str, LegLoad]
    neutral_a: float
    lean_w: float
    lean_wh: float
    #: Spaces that a feed breaker could take: two of one side (one in a single-phase panel), or none.
    free_spaces: tuple[int, ...]


def _share_of_day(hours: Hours | None) -> float:
    """Share of a day in which a timer lets a load run."""
    if hours is None:
        return 1.0
    begins, ends = ((at.hour * 60 + at.minute) * 60 + at.second for at in (hours.begins, hours.ends))
    return ((ends - begins) % 86_400) / 86_400.0


def mean_watts(plan: Plan, load: Load) -> float:
    """Mean draw over days with power, W (on a thermostat: at the mean outdoor temperature)."""
    spec = load.behaviour
    if isinstance(spec, Cycling):
        return CyclingDemand(spec, 0.0).mean_w() * _share_of_day(spec.hours)
    if isinstance(spec, Job):
        return JobDemand(spec, ()).mean_w()
    if isinstance(spec, Measured):
        return ReplayDemand(spec).mean_w()
    if isinstance(spec, Refrigerating):
        return RefrigeratingDemand(spec, Constant(spec.room_c), 0.0).mean_w()
    if isinstance(spec, Thermostatic):
        return ThermostaticDemand(spec, Constant(mean_outdoor_c(plan.outage.weather)), ()).mean_w()
    return spec.watts


def panel_schedule(plan: Plan, panel_id: str) -> PanelSchedule:
    """Lay out a panel and add up its legs.

    Args:
        plan: the plan.
        panel_id: one of its panels.

    Returns:
        Rows from the top, each with the left (odd) and right (even) space; legs with the sum of
        on-watts and the Wh a day of circuits marked keep and room. A 240 V circuit counts half on
        each leg; sub-panels count with the panel that feeds them. Lean is |A − B| / max(A, B) of
        keep and room together, in W and in Wh.

    Raises:
        KeyError: no such panel.

    Source: common practice of the trade (odd left, even right, rows alternate legs).
    """
    panel = plan.panels[panel_id]
    panels = plan.panels_reached(panel_id)
    below = {key: item for key, item in plan.circuits.items() if item.panel_id in panels}
    loads = {key: _circuit_load(plan, key) for key in below}
    counted = {key: below[key] for key in sorted(network_of(plan).counted & set(below))}
    currents = _worst_currents(plan, counted)
    names = ("A", "B") if plan.site.split_phase else ("L",)
    limit_a = _leg_limit_a(plan, panel_id)
    legs = {leg: _leg_load(leg, counted, loads, currents, limit_a) for leg in names}
    a, b = legs[names[0]], legs[names[-1]]
    rows = _rows(plan, panel_id, panel)
    return PanelSchedule(
        panel_id=panel_id,
        name=panel.name,
        rows=rows,
        circuits={key: loads[key] for key, item in below.items() if item.panel_id == panel_id},
        legs=legs,
        neutral_a=currents.neutral if plan.site.split_phase else currents.a,
        lean_w=lean(a.keep_w + a.room_w, b.keep_w + b.room_w),
        lean_wh=lean(a.keep_wh_day + a.room_wh_day, b.keep_wh_day + b.room_wh_day),
        free_spaces=_free_spaces(rows, 2 if plan.site.split_phase else 1),
    )


def _circuit_load(plan: Plan, circuit_id: str) -> CircuitLoad:
    loads = [plan.loads[key] for key in network_of(plan).loads_of((circuit_id,))]
    return CircuitLoad(
        circuit_id=circuit_id,
        legs=plan.circuit_legs(circuit_id),
        on_w=sum(on_watts(load) for load in loads),
        mean_w=sum(mean_watts(plan, load) for load in loads),
    )


def _worst_currents(plan: Plan, circuits: dict[str, Circuit]) -> LegCurrents:
    sums = {name: PhaseLoad(0.0) for name in ("A", "B", "L", "both")}
    network = network_of(plan)
    for load_id in network.loads_of(circuits):
        load, legs = plan.loads[load_id], network.legs_of(load_id)
        key = legs[0] if len(legs) == 1 else "both"
        sums[key] = sums[key] + phase_load(on_watts(load), load.power_factor)
    return leg_currents(sums["A"] + sums["L"], sums["B"], sums["both"], plan.site.leg_volts)


def _leg_limit_a(plan: Plan, panel_id: str) -> float | None:
    here = {key for key, circuit in plan.circuits.items() if circuit.panel_id == panel_id}
    ways = [
        way
        for way in network_of(plan).running
        if way.hookup.panel_id == panel_id or (not way.hookup.panel_id and here & way.circuits.keys())
    ]
    ways.sort(key=lambda way: way.wired)
    return feed_limits(plan, ways[0].hookup).leg_element.rating_a if ways else None


def _leg_load(
    leg: str,
    circuits: dict[str, Circuit],
    loads: dict[str, CircuitLoad],
    currents: LegCurrents,
    limit_a: float | None,
) -> LegLoad:
    def total(mark: Mark, figure: Literal["on_w", "mean_w"]) -> float:
        return sum(
            (loads[key].on_w if figure == "on_w" else loads[key].mean_w) / len(loads[key].legs)
            for key, circuit in circuits.items()
            if circuit.mark == mark and leg in loads[key].legs
        )

    most_a = currents.b if leg == "B" else currents.a
    return LegLoad(
        keep_w=total("keep", "on_w"),
        room_w=total("room", "on_w"),
        keep_wh_day=24 * total("keep", "mean_w"),
        room_wh_day=24 * total("room", "mean_w"),
        most_a=most_a,
        limit_a=limit_a,
        share=most_a / limit_a if limit_a else None,
    )


def _rows(plan: Plan, panel_id: str, panel: Panel) -> tuple[tuple[Cell, ...], ...]:
    held: dict[int, tuple[Literal["circuit", "second_pole", "feed"], list[str]]] = {}
    for key, circuit in sorted(plan.circuits.items()):
        if circuit.panel_id == panel_id:
            for index, space in enumerate(circuit.spaces):
                held.setdefault(space, ("second_pole" if index else "circuit", []))[1].append(key)
    for feed in plan.feeds.values():
        if feed.panel_id == panel_id:
            held.update({space: ("feed", []) for space in feed.breaker_spaces})

    def cell(space: int) -> Cell:
        kind, ids = held.get(space, ("empty", []))
        leg = leg_of_space(space, panel.first_leg) if plan.site.split_phase else "L"
        return Cell(space=space, leg=leg, kind=kind, circuit_ids=tuple(ids))

    return tuple(
        tuple(cell(space) for space in (2 * row + 1, 2 * row + 2) if space <= panel.spaces)
        for row in range(panel.rows)
    )


def _free_spaces(rows: tuple[tuple[Cell, ...], ...], poles: int) -> tuple[int, ...]:
    free = {cell.space for row in rows for cell in row if cell.kind == "empty"}
    for space in sorted(free):
        wanted = tuple(range(space, space + 2 * poles, 2))
        if free.issuperset(wanted):
            return wanted
    return ()
