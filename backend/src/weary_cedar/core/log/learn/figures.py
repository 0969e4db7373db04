"""Figures that can be learnt: how far each may be off, how it changes a plan, how it is taken over."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Final

from weary_cedar.core.decide.chance.doubts import CELL_DOUBT, IDLE_DOUBT, LOSS_DOUBT, SUN_DOUBT, log_spread
from weary_cedar.core.decide.how_sure import drawing
from weary_cedar.core.decide.needs import DOUBT
from weary_cedar.core.log.learn.readings import box_of
from weary_cedar.core.log.session import SessionRow
from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import Plan, Refrigerating

#: Of how far loads may be off: what all are off together; the rest is each load's own.
TOGETHER: Final = 0.6
#: Heat that comes into a cold box is doubted by this share. Common practice.
BOX_DOUBT: Final = 0.3
#: Charging losses are doubted by this share; they are learnt where so much came in, Wh. Common practice.
CHARGING_DOUBT, LEAST_CHARGED_WH = 0.3, 200.0


@dataclass(frozen=True)
class Figure:
    """A figure that is fitted: as a factor of what is assumed, with how far it may be off by its origin."""

    key: str
    words: str
    unit: str
    before: float
    spread: float
    apply: Callable[[Plan, float], Plan]
    patch: Callable[[float], dict[str, Any]]
    value: Callable[[float], float]


def figures_of(plan: Plan, apart: set[str]) -> list[Figure]:
    """What can be learnt: draw of loads that nobody measured, and the station's own figures.

    Cold boxes with a thermometer stand apart: what they draw follows from the heat that comes in.
    """
    found = []
    unmeasured = [key for key, load in plan.loads.items() if load.origin != "measured" and key not in apart]
    if unmeasured:
        spread = log_spread(sum(DOUBT[plan.loads[key].origin] for key in unmeasured) / len(unmeasured))
        spread *= TOGETHER if len(unmeasured) > 1 else 1.0

        def draws(now: Plan, factor: float) -> Plan:
            loads = {k: drawing(load, factor) if k in unmeasured else load for k, load in now.loads.items()}
            return now.model_copy(update={"loads": loads})

        found.append(
            Figure("draws", "what loads draw that were not measured", "×", 1.0, spread, draws,
                    lambda factor: _scaled_loads(plan, unmeasured, factor), lambda factor: factor)
        )  # fmt: skip
    for key, station in plan.stations.items():
        found += _of_station(key, station)
    if any(array.station_id and array.seen is None for array in plan.arrays.values()):
        found.append(
            Figure("sun", "what the arrays give", "×", 1.0, log_spread(SUN_DOUBT) * 2, _sunnier,
                    lambda factor: _scaled_arrays(plan, factor), lambda factor: factor)
        )  # fmt: skip
    return found


def _of_station(key: str, station: Any) -> list[Figure]:
    def changed(plan: Plan, **update: Any) -> Plan:
        other = plan.stations[key].model_copy(update=update)
        return plan.model_copy(update={"stations": {**plan.stations, key: other}})

    def cells(plan: Plan, factor: float) -> Plan:
        now = plan.stations[key]
        packs = {
            name: pack.model_copy(update={"cell_wh": pack.total_cell_wh / pack.count * factor})
            for name, pack in now.packs.items()
        }
        return changed(plan, cell_wh=now.head_wh * factor, delivered_wh=None, packs=packs)

    loss = 1.0 - station.inverter_efficiency
    part = f"stations/{key}"
    return [
        Figure(
            f"{part}/cells", f"energy of the cells of {station.name}", "Wh", station.total_cell_wh,
            log_spread(CELL_DOUBT[station.capacity_origin]), cells,
            lambda factor: _patch(key, cell_wh=station.head_wh * factor, delivered_wh=None,
                                  capacity_origin="measured", packs=_packs(station, factor)),
            lambda factor: station.total_cell_wh * factor,
        ),
        Figure(
            f"{part}/idle", f"idle draw of {station.name}", "W", station.idle_draw_w,
            log_spread(IDLE_DOUBT[station.idle_origin]),
            lambda plan, factor: changed(plan, idle_w=plan.stations[key].idle_draw_w * factor),
            lambda factor: _patch(key, idle_w=station.idle_draw_w * factor, idle_origin="measured"),
            lambda factor: station.idle_draw_w * factor,
        ),
        Figure(
            f"{part}/loss", f"efficiency of the inverter of {station.name}", "", station.inverter_efficiency,
            log_spread(LOSS_DOUBT[station.efficiency_origin]),
            lambda plan, factor: changed(plan, inverter_efficiency=max(0.5, 1.0 - loss * factor)),
            lambda factor: _patch(key, inverter_efficiency=round(max(0.5, 1 - loss * factor), 4),
                                  efficiency_origin="measured"),
            lambda factor: max(0.5, 1.0 - loss * factor),
        ),
    ]  # fmt: skip


def charging_of(plan: Plan, run: RunResult) -> list[Figure]:
    """Of stations that the wall or an engine charges: what of it reaches the cells."""
    found = []
    for key, station in plan.stations.items():
        into = sum(lead.taken_wh for lead in run.leads.values() if lead.station in (key, station.name))
        if into < LEAST_CHARGED_WH or not station.ac_inputs:
            continue
        loss = 1.0 - station.charge_efficiency

        def told(factor: float, loss: float = loss) -> float:
            return min(1.0, max(0.5, 1.0 - loss * factor))

        def charged(now: Plan, factor: float, key: str = key, told: Callable[[float], float] = told) -> Plan:
            other = now.stations[key].model_copy(update={"charge_efficiency": told(factor)})
            return now.model_copy(update={"stations": {**now.stations, key: other}})

        def patch(factor: float, key: str = key, told: Callable[[float], float] = told) -> dict[str, Any]:
            return {"stations": {key: {"charge_efficiency": round(told(factor), 4)}}}

        words = f"efficiency of charging {station.name}, from the wall to the cells"
        spread = log_spread(CHARGING_DOUBT)
        found.append(
            Figure(
                f"stations/{key}/charging", words, "", station.charge_efficiency, spread, charged, patch, told
            )
        )
    return found


def boxes_of(plan: Plan, rows: list[SessionRow]) -> list[Figure]:
    """Of cold boxes with a thermometer: the heat that comes in."""
    found = []
    for place in dict.fromkeys(box_of(plan, row) for row in rows if row.what == "temperature_c"):
        load_id, _, box_id = place.partition("/")
        load = plan.loads[load_id]
        spec = load.behaviour
        assert isinstance(spec, Refrigerating)
        box = spec.compartments[box_id]

        def leaky(now: Plan, factor: float, load_id: str = load_id, box_id: str = box_id) -> Plan:
            part = now.loads[load_id]
            told = part.behaviour
            assert isinstance(told, Refrigerating)
            other = told.compartments[box_id]
            other = other.model_copy(update={"loss_w_per_k": other.loss_w_per_k * factor})
            inside = told.model_copy(update={"compartments": {**told.compartments, box_id: other}})
            return now.model_copy(
                update={"loads": {**now.loads, load_id: part.model_copy(update={"behaviour": inside})}}
            )

        def patch(
            factor: float, load_id: str = load_id, box_id: str = box_id, per_k: float = box.loss_w_per_k
        ) -> dict[str, Any]:
            told = {box_id: {"loss_w_per_k": round(per_k * factor, 3)}}
            return {"loads": {load_id: {"behaviour": {"compartments": told}}}}

        name = load.name if box.name == load.name else f"{load.name}, {box.name}"
        found.append(
            Figure(
                f"loads/{place}/loss", f"heat that comes into {name}", "W/K", box.loss_w_per_k,
                log_spread(BOX_DOUBT), leaky, patch,
                lambda factor, per_k=box.loss_w_per_k: per_k * factor,  # type: ignore[misc]
            )
        )  # fmt: skip
    return found


def _packs(station: Any, factor: float) -> dict[str, Any]:
    return {
        key: {"cell_wh": round(pack.total_cell_wh / pack.count * factor, 1)}
        for key, pack in station.packs.items()
    }


def _patch(key: str, **update: Any) -> dict[str, Any]:
    told = {name: round(value, 2) if isinstance(value, float) else value for name, value in update.items()}
    return {"stations": {key: told}}


def _sunnier(plan: Plan, factor: float) -> Plan:
    arrays = {
        key: array.model_copy(
            update={"module": array.module.model_copy(update={"watts": array.module.watts * factor})}
        )
        for key, array in plan.arrays.items()
    }
    return plan.model_copy(update={"arrays": arrays})


def _scaled_arrays(plan: Plan, factor: float) -> dict[str, Any]:
    lost = {
        key: {
            "losses_percent": round(min(100.0, max(0.0, 100.0 - (100.0 - array.losses_percent) * factor)), 1)
        }
        for key, array in plan.arrays.items()
        if array.station_id is not None and array.seen is None
    }
    return {"arrays": lost}


def _scaled_loads(plan: Plan, keys: list[str], factor: float) -> dict[str, Any]:
    found = {}
    for key in keys:
        told = drawing(plan.loads[key], factor).behaviour.model_dump(mode="json", exclude_none=True)
        found[key] = {"behaviour": told, "origin": "measured"}
    return {"loads": found}


def with_figures(plan: Plan, figures: list[Figure], logs: Any) -> Plan:
    """A plan whose figures are off by so much, in logarithms."""
    for figure, log in zip(figures, logs, strict=True):
        plan = figure.apply(plan, math.exp(float(log)))
    return plan
