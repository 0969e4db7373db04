"""What hangs on the breakers of a table: loads found again by name, moved, changed, new, or taken out."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field

from weary_cedar.core.breakers.figures import usual_load, with_day_use, with_running_w
from weary_cedar.core.breakers.row import BreakerRow, SaidLoad, Unsaid
from weary_cedar.core.electrical.motor_start import clamp_meter_w
from weary_cedar.core.errors import Problem, shown
from weary_cedar.core.library import role_of
from weary_cedar.core.plan import Circuit, Cycling, Load, Plan, Start, Steady
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.plan.load import Behaviour


@dataclass
class Hung:
    """All loads as the table says, those that no row names any more, and what cannot be."""

    loads: dict[str, Load]
    gone: list[str] = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)


def hung_by(
    plan: Plan,
    circuits: dict[str, Circuit],
    rows: Sequence[tuple[BreakerRow, str]],
    gone: Collection[str] = (),
) -> Hung:
    """The loads of a plan as a table says.

    Args:
        plan: before.
        circuits: those of the table.
        rows: rows with the ids of their circuits. A row that says nothing of loads leaves them as they are;
            a name is the load of that name on the breaker, else one that hangs on none or that no row of
            the breaker where it hung names any more, else a new one.
        gone: circuits that go with what hangs on them, if no row names it.
    """
    hung = Hung(dict(plan.loads))
    speaking = [(row, key, row.loads) for row, key in rows if row.loads is not None]
    mentioned = {key for _, key, _ in speaking} | set(gone)
    open_loads = {
        key for key, load in plan.loads.items() if load.circuit_id is None or load.circuit_id in mentioned
    }
    claims: dict[tuple[int, int], str] = {}
    for own_only in (True, False):
        for row, circuit_id, names in speaking:
            for index, said in enumerate(names):
                if (row.number, index) in claims:
                    continue
                fits = (
                    key
                    for key in plan.loads
                    if key in open_loads
                    and plan.loads[key].name.casefold() == said.name.casefold()
                    and (not own_only or plan.loads[key].circuit_id == circuit_id)
                )
                key = next(fits, None)
                if key is not None:
                    open_loads.discard(key)
                    claims[row.number, index] = key
    for row, circuit_id, names in speaking:
        for index, said in enumerate(names):
            circuit = circuits.get(circuit_id)
            if circuit is None:
                continue
            key = claims.get((row.number, index)) or free_id(said.name, hung.loads, "load")
            load = _load(plan, circuit, plan.loads.get(key), said, row.number, hung.problems)
            if load is not None:
                hung.loads[key] = load.model_copy(update={"circuit_id": circuit_id})
    hung.gone = [key for key in plan.loads if key in open_loads and plan.loads[key].circuit_id is not None]
    return hung


def _load(
    plan: Plan, circuit: Circuit, before: Load | None, said: SaidLoad, number: int, problems: list[Problem]
) -> Load | None:
    """A load as a row says it: one that was there, one of the library, or one of its figures alone."""
    usual = usual_load(said.name, circuit.poles)
    base = before or (usual[0] if usual is not None else None)
    if base is None and not said.has_draw:
        right = "what it draws, such as 130 W, 6 A or 1.6 kWh/day"
        problems.append(Problem(f"/row/{number}/draw", "nothing", right))
        return None
    told = base or Load(name=said.name, behaviour=Steady(watts=0.0), role=role_of(said.name))
    watts = said.watts
    if said.amps is not None:
        volts = said.volts or plan.site.leg_volts * (circuit.poles if plan.site.split_phase else 1)
        watts = clamp_meter_w(said.amps, volts, told.power_factor)
    behaviour: Behaviour | None = told.behaviour
    most_w = told.behaviour.on_w if watts is None and isinstance(told.behaviour, Cycling) else watts
    if said.wh_day is not None and most_w is not None and said.wh_day > 24 * most_w * (1 + 1e-3):
        right = f"at most {24 * most_w:,.0f} Wh a day at {most_w:g} W"
        problems.append(Problem(f"/row/{number}/draw", f"{said.wh_day:,.0f} Wh", right))
        return None
    if said.wh_day is not None:
        behaviour = with_day_use(None if base is None else base.behaviour, watts, said.wh_day)
    elif watts is not None:
        behaviour = with_running_w(told.behaviour, watts)
    if behaviour is None:
        right = "as it is: it has more than one figure for that; change it on Needs"
        problems.append(Problem(f"/row/{number}/draw", shown(said.name), right))
        return None
    return told.model_copy(
        update={"name": said.name, "behaviour": behaviour, **_of_itself(told, before, said)}
    )


def _of_itself(told: Load, before: Load | None, said: SaidLoad) -> dict[str, object]:
    """How sure a row is of a load, its start, and when it was read."""
    found: dict[str, object] = {}
    if said.origin is not None:
        found["origin"] = said.origin
    elif said.has_draw and (before is None or told.origin == "library"):
        found["origin"] = "estimate"
    if not isinstance(said.start_va, Unsaid):
        found["start"] = _start(told, said.start_va)
    if not isinstance(said.read_on, Unsaid):
        found["read_on"] = said.read_on
    return found


def _start(base: Load, va: float | None) -> Start | None:
    if va is None:
        return None
    return base.start.model_copy(update={"va": va}) if base.start is not None else Start(va=va)
