"""State of a run: all that changes in it, as a value that can be copied, compared, saved and taken up again.

Every part of a run says in `STATE` which of its attributes change; whatever else it knows follows from
the plan. Parts are named by what they are in the plan, so that a state fits any run of the same parts.
"""

import json
import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Final

from weary_cedar.core.demand import RefrigeratingDemand, TimedDemand
from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.outage.carriers import EngineCarrier, VehicleCarrier
from weary_cedar.core.outage.kernel import OutageRun
from weary_cedar.core.outage.leg_sums import LegSums
from weary_cedar.core.outage.result import Event
from weary_cedar.core.outage.tree import path_of

#: Of the form in which a state is written; one of another number is refused.
VERSION: Final = 3


@dataclass(frozen=True)
class PartName:
    """Stands for a part of the run where another holds it."""

    name: str


@dataclass(frozen=True)
class Sums:
    """What is drawn on both legs, as a value."""

    pa: float
    qa: float
    pb: float
    qb: float
    px: float
    qx: float


@dataclass(frozen=True)
class RunState:
    """All that changes in a run, by part and attribute, after the last change up to a moment."""

    t_s: float
    parts: dict[str, dict[str, Any]]

    def to_json(self) -> str:
        """The state as text; numbers come back as they were, to the last digit."""
        parts = {
            name: {key: _written(value) for key, value in part.items()} for name, part in self.parts.items()
        }
        return json.dumps({"version": VERSION, "t_s": self.t_s, "parts": parts}, allow_nan=False)

    @classmethod
    def from_json(cls, text: str) -> "RunState":
        """Read a state that was written before.

        Raises:
            InvalidInput: it is no state, or one of another version.
        """
        try:
            found = json.loads(text)
            version, t_s, parts = found["version"], float(found["t_s"]), found["parts"]
        except (ValueError, TypeError, KeyError) as wrong:
            raise _wrong("/state", text[:40], "a state of a run, as it was written") from wrong
        if version != VERSION:
            raise _wrong("/state/version", version, f"version {VERSION}")
        read = {name: {key: _read(value) for key, value in part.items()} for name, part in parts.items()}
        return cls(t_s, read)


# ---------------------------------------------------------------- parts by name


def named_parts(run: OutageRun) -> dict[str, Any]:
    """Every part of a run that has a state, by name."""
    found: dict[str, Any] = {"run": run, "out": run.out, "timeline": run.timeline, "forest": run.forest}
    for name, part in _all_parts(run):
        found[name] = part
    return found


def _all_parts(run: OutageRun) -> Iterator[tuple[str, Any]]:
    for circuit in run.circuits:
        yield f"circuits/{circuit.id}", circuit
    for load in run.loads:
        yield f"loads/{load.id}", load
        yield f"loads/{load.id}/demand", load.demand
        if isinstance(load.demand, TimedDemand):
            yield f"loads/{load.id}/demand/inside", load.demand.inside
        elif isinstance(load.demand, RefrigeratingDemand):
            for key, store in load.demand.stores.items():
                yield f"loads/{load.id}/demand/{key}", store
    yield from _carriers(run)
    yield from _cells(run)
    yield from _leading_parts(run)
    for control in run.controls:
        place = run.place_of(control.line)
        yield f"controls/{type(control).__name__}/{place}/{control.about}", control


def _carriers(run: OutageRun) -> Iterator[tuple[str, Any]]:
    for key, carrier in run.parts.carriers.items():
        yield f"carriers/{key}", carrier
        for number, account in enumerate(carrier.accounts):
            yield f"carriers/{key}/account/{number}", account
        if isinstance(carrier, EngineCarrier):
            yield f"carriers/{key}/engine", carrier.engine
        elif isinstance(carrier, VehicleCarrier):
            yield f"carriers/{key}/reserve", carrier.reserve


def _cells(run: OutageRun) -> Iterator[tuple[str, Any]]:
    for key, unit in run.parts.units.items():
        yield f"units/{key}", unit
        for offer in unit.offers:
            yield f"units/{key}/{offer.kind}/{offer.key}", offer
        if unit.packs is not None:
            yield f"units/{key}/packs", unit.packs
            for cells in (*unit.packs.together, *unit.packs.aside, *unit.packs.away):
                yield f"units/{key}/packs/{cells.key}", cells


def _leading_parts(run: OutageRun) -> Iterator[tuple[str, Any]]:
    """Ways, links, direct-current leads and what the sun gives."""
    for number, way in enumerate(run.ways):
        name = f"ways/{way.key}" if way.key else f"ways/utility {number}"
        yield name, way
        yield f"{name}/account", way.account
        yield f"{name}/cord", way.cord_bend
    for link in run.links:
        yield f"links/{link.key}", link
        yield f"links/{link.key}/own", link.own_bend
    for lead in run.parts.leads:
        name = f"{'externals' if lead.recharge is None else 'leads'}/{lead.key}"
        yield name, lead
        if lead.recharge is None:
            yield f"{name}/reserve", lead.reserve
    for sun in run.parts.suns:
        yield f"suns/{sun.key}", sun


def _changing(part: Any) -> list[str]:
    """Attributes of a part that change; none of what is only pointed at."""
    return getattr(part, "STATE", "").split()


# ---------------------------------------------------------------- take and take up


def state_of(run: OutageRun) -> RunState:
    """The state of a run after the last change that it went through.

    Args:
        run: gone through to any moment; it is left as it is.

    Returns:
        A copy of all that changes, history included: the rest of the run from it is that of the whole.
    """
    parts = named_parts(run)
    names = {id(part): PartName(name) for name, part in parts.items()}
    return RunState(
        run.t,
        {
            name: {key: _kept(getattr(part, key), names) for key in _changing(part)}
            for name, part in parts.items()
            if _changing(part)
        },
    )


def take_up(run: OutageRun, state: RunState) -> None:
    """Let a run that has not begun go on from a state.

    Args:
        run: of the plan of the state, or of one that says something else only about what comes after it;
            loads may be added to it.
        state: taken from a run of the same parts; it is left as it is.

    Raises:
        InvalidInput: the state knows a part that the plan does not have.
    """
    parts = named_parts(run)
    for name, values in state.parts.items():
        if name not in parts:
            raise _wrong("/state", name, "a state of a run with the parts of this plan")
        part = parts[name]
        for key, value in values.items():
            setattr(part, key, _taken(value, parts))
    run.timeline.pass_over(state.t_s)
    run.next_s = [*[load.demand.next_s for load in run.loads], math.inf]
    new = [load for load in run.loads if f"loads/{load.id}" not in state.parts]
    if new:
        _hang_new(run, state)


def _hang_new(run: OutageRun, state: RunState) -> None:
    """Put loads that the state does not know where they belong."""
    for circuit in run.circuits:
        if f"circuits/{circuit.id}" not in state.parts:
            circuit.way = next((way for way in run.ways if circuit.id in way.way.branches), None)
            circuit.closed = circuit.way is not None and circuit.way.live
    for way in run.ways:
        way.take([load for load in run.loads if load.circuit.way is way])
    for load in run.loads:
        load.path = path_of(load)
    run.rewired = run.looking = True


def _kept(value: Any, names: dict[int, PartName]) -> Any:
    """A value of the run as one that nothing else holds."""
    if value is None or isinstance(value, float | int | str | Event):
        return value
    if isinstance(value, tuple):
        return value if _plain(value) else tuple([_kept(item, names) for item in value])
    if isinstance(value, list):
        plain = not value or isinstance(value[0], Event) or _plain(value[:1])
        return list(value) if plain else [_kept(item, names) for item in value]
    if isinstance(value, dict):
        return {key: _kept(item, names) for key, item in value.items()}
    if isinstance(value, set):
        return set(value)
    if isinstance(value, LegSums):
        return Sums(value.pa, value.qa, value.pb, value.qb, value.px, value.qx)
    return names[id(value)]


def _plain(value: tuple[Any, ...] | list[Any]) -> bool:
    """Whether there are only numbers and words in it, or rows of these."""
    for item in value:
        if not (item is None or isinstance(item, float | int | str)) and not (
            isinstance(item, tuple) and _plain(item)
        ):
            return False
    return True


def _taken(value: Any, parts: dict[str, Any]) -> Any:
    """A value of the state as one that a run may change."""
    if isinstance(value, PartName):
        return parts[value.name]
    if isinstance(value, Sums):
        return LegSums(value.pa, value.qa, value.pb, value.qb, value.px, value.qx)
    if isinstance(value, tuple):
        return value if _plain(value) else tuple([_taken(item, parts) for item in value])
    if isinstance(value, list):
        plain = not value or isinstance(value[0], Event) or _plain(value[:1])
        return list(value) if plain else [_taken(item, parts) for item in value]
    if isinstance(value, dict):
        return {key: _taken(item, parts) for key, item in value.items()}
    if isinstance(value, set):
        return set(value)
    return value


# ---------------------------------------------------------------- as text


def _written(value: Any) -> Any:
    """A value of the state in JSON; what JSON has no form for stands under one letter."""
    if isinstance(value, float) and not math.isfinite(value):
        return {"f": str(value)}
    if isinstance(value, list):
        return [_written(item) for item in value]
    if isinstance(value, tuple):
        return {"t": [_written(item) for item in value]}
    if isinstance(value, dict):
        return {"d": [[key, _written(item)] for key, item in value.items()]}
    if isinstance(value, set):
        return {"s": sorted(value)}
    if isinstance(value, PartName):
        return {"p": value.name}
    if isinstance(value, Sums):
        return {"l": [value.pa, value.qa, value.pb, value.qb, value.px, value.qx]}
    if isinstance(value, Event):
        return {"e": value.model_dump(mode="json")}
    return value


def _read(value: Any) -> Any:
    if isinstance(value, list):
        return [_read(item) for item in value]
    if not isinstance(value, dict):
        return value
    ((letter, inside),) = value.items()
    if letter == "f":
        return float(inside)
    if letter == "t":
        return tuple(_read(item) for item in inside)
    if letter == "d":
        return {key: _read(item) for key, item in inside}
    if letter == "s":
        return set(inside)
    if letter == "p":
        return PartName(inside)
    return Sums(*inside) if letter == "l" else Event.model_validate(inside)


def _wrong(field: str, value: object, right: str) -> InvalidInput:
    problem = Problem(field, shown(value), right)
    return InvalidInput(str(problem), (problem,))
