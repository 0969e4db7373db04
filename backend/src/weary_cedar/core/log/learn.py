"""What a session teaches: figures that fit its readings best, how sure they are, and rows that do not fit."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Final

import numpy as np
from pydantic import BaseModel, ConfigDict
from scipy.optimize import least_squares

from weary_cedar.core.decide.chance.doubts import CELL_DOUBT, IDLE_DOUBT, LOSS_DOUBT, SUN_DOUBT, log_spread
from weary_cedar.core.decide.how_sure import drawing
from weary_cedar.core.decide.needs import DOUBT
from weary_cedar.core.log.displays import charge_at, output_at, sun_at
from weary_cedar.core.log.from_then_on import rest_of
from weary_cedar.core.log.session import Session, SessionRow
from weary_cedar.core.outage import RunResult, first_part, run_outage
from weary_cedar.core.plan import Plan, Refrigerating

#: A display shows whole per cents, cut or rounded; and a display lags. Common practice.
PERCENT_OFF, WATTS_SHARE, WATTS_OFF = 0.6, 0.08, 10.0
#: A row that is off by more than this many times what it may be does not fit.
MISFIT: Final = 4.0
#: No figure is told nearer than this share: cycles stand elsewhere than the run has them. Common practice.
NO_NEARER: Final = 0.02
#: Rows are left out as not fitting where no more than a third of them do not fit.
MOST_FIT: Final = 2.0 / 3.0
#: Beyond this the plan does not describe what ran.
STRAYS: Final = 4.0
#: A figure is learnt where its interval is narrower than this share of what it was.
LEARNT: Final = 0.7
#: Half a width of the interval that holds nine times in ten, in standard deviations.
NINE_IN_TEN: Final = 1.645
#: Fewer readings teach nothing.
LEAST_ROWS: Final = 2
STEP: Final = 0.02
#: A thermometer in a cold box is off by so much, with the door opened now and then, K. Common practice.
THERMOMETER_OFF_K: Final = 1.0
#: Heat that comes into a cold box is doubted by this share. Common practice.
BOX_DOUBT: Final = 0.3
#: Charging losses are doubted by this share; they are learnt where so much came in, Wh. Common practice.
CHARGING_DOUBT, LEAST_CHARGED_WH = 0.3, 200.0
#: So many rows are fitted; of more, every second, third, …
MOST_ROWS: Final = 600
#: Watts that someone reads are taken as their mean over so long, s: cycles stand elsewhere than in the run.
READ_OVER_S: Final = 600.0


class Learnt(BaseModel):
    """One figure: what was assumed and what fits, with the interval of nine in ten."""

    model_config = ConfigDict(frozen=True)

    key: str
    words: str
    unit: str
    before: float
    after: float
    low: float
    high: float
    #: Whether the readings say much about it.
    learnt: bool
    #: The merge patch that takes it over, as measured.
    patch: dict[str, Any]


class Misfit(BaseModel):
    """A row that does not fit, and the slip that it may be."""

    model_config = ConfigDict(frozen=True)

    row_id: str
    told: str
    read: float
    expected: float
    slip: str


class Lesson(BaseModel):
    """What a session teaches."""

    model_config = ConfigDict(frozen=True)

    sentence: str
    figures: tuple[Learnt, ...] = ()
    misfits: tuple[Misfit, ...] = ()
    rows: int = 0
    #: What one reading more would teach most.
    next: str = ""
    why_not: str = ""


@dataclass(frozen=True)
class _Figure:
    """A figure that is fitted: as a factor of what is assumed, with how far it may be off by its origin."""

    key: str
    words: str
    unit: str
    before: float
    spread: float
    apply: Callable[[Plan, float], Plan]
    patch: Callable[[float], dict[str, Any]]
    value: Callable[[float], float]


def learn(plan: Plan, session: Session) -> Lesson:
    """Fit figures of a plan to the readings of a session.

    Args:
        plan: the plan of the session.
        session: with charges and watts that were read, and what was switched; it is fitted from the first
            charge on, which is taken as read.

    Returns:
        Figures with their intervals (90 %), rows that do not fit with the slip that they may be, and what to
        read next. Nothing is changed in the plan: each figure has a patch that takes it over.

    Method: least squares by SciPy with Huber's loss on the exact run, in logarithms, each figure held by a
    prior of its origin; intervals from the curvature at the end.
    Source: P. J. Huber, Ann. Math. Statist. 35 (1964) 73.
    """
    read = [row for row in session.standing() if _expected_of(plan, row) is not None]
    charged = [row for row in read if row.what == "charge" and session.seconds(plan, row.at) >= 0]
    first_s = session.seconds(plan, charged[0].at) if charged else 0.0
    rows = [row for row in read if session.seconds(plan, row.at) > first_s + 1.0]
    if not charged or len(rows) < LEAST_ROWS:
        why = f"{len(rows)} readings after a first charge are too few: at least {LEAST_ROWS} are needed"
        return Lesson(sentence=f"Nothing learnt yet: {why}.", rows=len(rows), why_not=why)
    went = rest_of(plan, session, first_s).plan
    left_out = len(rows)
    rows = rows[:: max(1, math.ceil(len(rows) / MOST_ROWS))]
    left_out -= len(rows)
    boxes = {row.part.partition("/")[2] for row in rows if row.what == "temperature_c"}
    figures = _figures(went, boxes) + _charging(went, run_outage(went)) + _boxes(went, rows)
    times = np.array([session.seconds(plan, row.at) - first_s for row in rows])
    part = first_part(went, min(went.outage.length_s, max(3_600.0, float(times.max()) + 60.0)))

    def residuals(logs: Any, kept: np.ndarray[Any, Any] | None = None) -> Any:
        expected = _expected(_with(part, figures, logs), rows, times)
        off = (expected - _read(rows)) / _may_be_off(rows)
        off = off if kept is None else np.where(kept, off, 0.0)
        return np.concatenate((_huber(off), np.asarray(logs) / [figure.spread for figure in figures]))

    found = least_squares(residuals, np.zeros(len(figures)), diff_step=STEP, x_scale=0.1, max_nfev=12)
    expected = _expected(_with(part, figures, found.x), rows, times)
    off = (expected - _read(rows)) / _may_be_off(rows)
    kept = np.abs(off) <= MISFIT * _strays(off)
    if not kept.all() and kept.sum() >= max(LEAST_ROWS, MOST_FIT * len(rows)):
        found = least_squares(
            lambda logs: residuals(logs, kept), found.x, diff_step=STEP, x_scale=0.1, max_nfev=8
        )
        expected = _expected(_with(part, figures, found.x), rows, times)
        off = (expected - _read(rows)) / _may_be_off(rows)
    strays = _strays(off)
    deviations = strays * np.sqrt(np.diag(np.linalg.pinv(found.jac.T @ found.jac)))
    deviations = np.minimum(np.maximum(deviations, NO_NEARER), [figure.spread for figure in figures])
    learnt = tuple(_learnt(*item) for item in zip(figures, found.x, deviations, strict=True))
    misfits = tuple(
        _misfit(went, row, float(value))
        for row, value, far in zip(rows, expected, off, strict=True)
        if abs(far) > MISFIT * strays
    )
    return Lesson(
        sentence=_sentence(learnt, misfits, len(rows), strays, left_out), figures=learnt, misfits=misfits,
        rows=len(rows), next=_next(learnt),
    )  # fmt: skip


def _strays(off: Any) -> float:
    """By how much readings stray from the run beyond what displays are off: 1 where not at all."""
    return max(1.0, 1.48 * float(np.median(np.abs(off))))


def _huber(off: Any) -> Any:
    """Residuals whose squares grow like those of Huber's loss: straight beyond two deviations."""
    far = np.abs(off)
    return np.sign(off) * np.where(far <= 2.0, far, np.sqrt(np.maximum(0.0, 4.0 * far - 4.0)))


def _with(plan: Plan, figures: list[_Figure], logs: Any) -> Plan:
    for figure, log in zip(figures, logs, strict=True):
        plan = figure.apply(plan, math.exp(float(log)))
    return plan


# ---------------------------------------------------------------- readings


def _expected_of(plan: Plan, row: SessionRow) -> str | None:
    """Of which station a reading can be compared with the run."""
    if row.what == "temperature_c" and row.kind == "reading" and row.value is not None:
        box = _box_of(plan, row)
        return box or None
    key = row.part.partition("/")[2] if row.part.startswith("stations/") else ""
    known = key or (next(iter(plan.stations)) if len(plan.stations) == 1 else "")
    fits = row.kind == "reading" and row.value is not None and row.what in ("charge", "out_w", "sun_w")
    return known if fits and known in plan.stations and row.value is not None else None


def _box_of(plan: Plan, row: SessionRow) -> str:
    """The compartment that a thermometer was in, as load and compartment; nothing where it was in none."""
    room, _, key = row.part.partition("/")
    spec = plan.loads[key].behaviour if room == "loads" and key in plan.loads else None
    boxes = spec.compartments if isinstance(spec, Refrigerating) else {}
    box = row.pack or (next(iter(boxes)) if len(boxes) == 1 else "")
    return f"{key}/{box}" if box in boxes else ""


def _read(rows: list[SessionRow]) -> Any:
    return np.array([row.value for row in rows], dtype=float)


def _may_be_off(rows: list[SessionRow]) -> Any:
    """How far each reading may be off, in its own unit."""
    return np.array(
        [
            PERCENT_OFF
            if row.what == "charge"
            else THERMOMETER_OFF_K
            if row.what == "temperature_c"
            else WATTS_OFF + WATTS_SHARE * abs(row.value or 0)
            for row in rows
        ]
    )


def _expected(plan: Plan, rows: list[SessionRow], times: Any) -> Any:
    run = run_outage(plan)
    return np.array([_shown(plan, run, row, float(t)) for row, t in zip(rows, times, strict=True)])


def _shown(plan: Plan, run: RunResult, row: SessionRow, t: float) -> float:
    """What a display would show at a moment: charge in per cent, or watts over ten minutes."""
    key = _expected_of(plan, row) or ""
    if row.what == "temperature_c":
        box = run.compartments[key]
        return float(np.interp(t, box.t_s, box.air_c)) if box.t_s else box.start_c
    if row.what == "charge":
        return charge_at(run, key, t, row.pack or "head")
    if row.what == "sun_w":
        return sun_at(plan, run, key, t, READ_OVER_S)
    return output_at(run, key, t, READ_OVER_S)


# ---------------------------------------------------------------- figures


def _figures(plan: Plan, apart: set[str]) -> list[_Figure]:
    """What can be learnt: draw of loads that nobody measured, and the station's own figures.

    Cold boxes with a thermometer stand apart: what they draw follows from the heat that comes in.
    """
    found = []
    unmeasured = [key for key, load in plan.loads.items() if load.origin != "measured" and key not in apart]
    if unmeasured:
        spread = log_spread(sum(DOUBT[plan.loads[key].origin] for key in unmeasured) / len(unmeasured))

        def draws(now: Plan, factor: float) -> Plan:
            loads = {k: drawing(load, factor) if k in unmeasured else load for k, load in now.loads.items()}
            return now.model_copy(update={"loads": loads})

        found.append(
            _Figure("draws", "what loads draw that were not measured", "×", 1.0, spread, draws,
                    lambda factor: _scaled_loads(plan, unmeasured, factor), lambda factor: factor)
        )  # fmt: skip
    for key, station in plan.stations.items():
        found += _of_station(key, station)
    if any(array.station_id and array.seen is None for array in plan.arrays.values()):
        found.append(
            _Figure("sun", "what the arrays give", "×", 1.0, log_spread(SUN_DOUBT) * 2, _sunnier,
                    lambda factor: _scaled_arrays(plan, factor), lambda factor: factor)
        )  # fmt: skip
    return found


def _of_station(key: str, station: Any) -> list[_Figure]:
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
        _Figure(
            f"{part}/cells", f"energy of the cells of {station.name}", "Wh", station.total_cell_wh,
            log_spread(CELL_DOUBT[station.capacity_origin]), cells,
            lambda factor: _patch(key, cell_wh=station.head_wh * factor, delivered_wh=None,
                                  capacity_origin="measured", packs=_packs(station, factor)),
            lambda factor: station.total_cell_wh * factor,
        ),
        _Figure(
            f"{part}/idle", f"idle draw of {station.name}", "W", station.idle_draw_w,
            log_spread(IDLE_DOUBT[station.idle_origin]),
            lambda plan, factor: changed(plan, idle_w=plan.stations[key].idle_draw_w * factor),
            lambda factor: _patch(key, idle_w=station.idle_draw_w * factor, idle_origin="measured"),
            lambda factor: station.idle_draw_w * factor,
        ),
        _Figure(
            f"{part}/loss", f"efficiency of the inverter of {station.name}", "", station.inverter_efficiency,
            log_spread(LOSS_DOUBT[station.efficiency_origin]),
            lambda plan, factor: changed(plan, inverter_efficiency=max(0.5, 1.0 - loss * factor)),
            lambda factor: _patch(key, inverter_efficiency=round(max(0.5, 1 - loss * factor), 4),
                                  efficiency_origin="measured"),
            lambda factor: max(0.5, 1.0 - loss * factor),
        ),
    ]  # fmt: skip


def _charging(plan: Plan, run: RunResult) -> list[_Figure]:
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
            _Figure(
                f"stations/{key}/charging", words, "", station.charge_efficiency, spread, charged, patch, told
            )
        )
    return found


def _boxes(plan: Plan, rows: list[SessionRow]) -> list[_Figure]:
    """Of cold boxes with a thermometer: the heat that comes in."""
    found = []
    for place in dict.fromkeys(_box_of(plan, row) for row in rows if row.what == "temperature_c"):
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
            _Figure(
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


def _learnt(figure: _Figure, log: float, deviation: float) -> Learnt:
    ends = sorted(figure.value(math.exp(log + sign * NINE_IN_TEN * deviation)) for sign in (-1, 1))
    return Learnt(
        key=figure.key, words=figure.words, unit=figure.unit, before=figure.before,
        after=figure.value(math.exp(log)), low=ends[0], high=ends[1],
        learnt=deviation < LEARNT * figure.spread, patch=figure.patch(math.exp(log)),
    )  # fmt: skip


# ---------------------------------------------------------------- in words


def _misfit(plan: Plan, row: SessionRow, expected: float) -> Misfit:
    read = row.value or 0.0
    slip = ""
    for factor, words in ((10.0, "ten times too large"), (0.1, "ten times too small"), (1000.0, "kW for W"),
                          (0.001, "W for kW")):  # fmt: skip
        if row.what != "charge" and abs(read - expected * factor) <= 0.25 * abs(expected * factor):
            slip = f"it may be {words}: {expected:.0f} would fit"
    if row.what == "charge":
        reversed_read = int(str(round(read))[::-1]) if read >= 1 else 0
        close = abs(reversed_read - expected) <= 4.0 and reversed_read != round(read)
        slip = f"digits may be turned round: {reversed_read} would fit" if close else slip
        others = len(plan.stations) + sum(len(station.packs) for station in plan.stations.values()) > 1
        slip = slip or ("it may be of another pack" if others else "")
    slip = slip or "it may be of another time, or something runs that is not logged"
    return Misfit(row_id=row.id, told=row.told, read=read, expected=round(expected, 1), slip=slip)


def _next(figures: tuple[Learnt, ...]) -> str:
    """What to read so that more is learnt."""
    unsure = [item for item in figures if not item.learnt]
    if not unsure:
        return ""
    if any(item.key.endswith("/idle") or item.key.endswith("/loss") for item in unsure):
        return "Read the watts out together with the charge, once with little on and once with much"
    if any(item.key == "sun" for item in unsure):
        return "Read the watts from the sun at noon of a clear day"
    return "Read the charge in the evening and in the morning"


def _sentence(
    figures: tuple[Learnt, ...], misfits: tuple[Misfit, ...], rows: int, strays: float, left_out: int
) -> str:
    told = [f"{item.words} {_figure(item.after, item.unit)}" for item in figures if item.learnt]
    words = "; ".join(told) if told else "the readings say little about any figure yet"
    wrong = f" {len(misfits)} of them do not fit." if misfits else ""
    if strays > STRAYS:
        wrong += f" Readings stray from the fitted run by {strays:.0f} times what a display is off: something"
        wrong += " runs that the plan does not say, or does not run that it says."
    fewer = f" (of {rows + left_out}, at even distances)" if left_out else ""
    return f"From {rows} readings{fewer}: {words}.{wrong}"


def _figure(value: float, unit: str) -> str:
    if unit == "×":
        return f"{value:.2f} times what was assumed"
    return f"{value:,.0f} {unit}" if abs(value) >= 10 else f"{value:.2f} {unit}".rstrip()
