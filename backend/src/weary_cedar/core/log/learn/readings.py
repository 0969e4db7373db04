"""Readings that can be set against a run: what it would have shown then, and how far each may be off."""

import math
from typing import Any, Final

import numpy as np

from weary_cedar.core.log.displays import charge_at, output_at, sun_at
from weary_cedar.core.log.session import SessionRow
from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import Plan, Refrigerating

#: A display shows whole per cents, cut or rounded; and a display lags. Common practice.
PERCENT_OFF, WATTS_SHARE, WATTS_OFF = 0.6, 0.08, 10.0
#: A thermometer in a cold box is off by so much, with the door opened now and then, K. Common practice.
THERMOMETER_OFF_K: Final = 1.0
#: Watts that someone reads are taken as their mean over so long, s: cycles stand elsewhere than in the run.
READ_OVER_S: Final = 600.0
#: Watts are looked at so long before and after a reading, s.
AROUND_S: Final = 2_700.0


def station_of(plan: Plan, row: SessionRow) -> str | None:
    """Of which station a reading can be compared with the run."""
    if row.what == "temperature_c" and row.kind == "reading" and row.value is not None:
        box = box_of(plan, row)
        return box or None
    key = row.part.partition("/")[2] if row.part.startswith("stations/") else ""
    known = key or (next(iter(plan.stations)) if len(plan.stations) == 1 else "")
    fits = row.kind == "reading" and row.value is not None and row.what in ("charge", "out_w", "sun_w")
    return known if fits and known in plan.stations and row.value is not None else None


def box_of(plan: Plan, row: SessionRow) -> str:
    """The compartment that a thermometer was in, as load and compartment; nothing where it was in none."""
    room, _, key = row.part.partition("/")
    spec = plan.loads[key].behaviour if room == "loads" and key in plan.loads else None
    boxes = spec.compartments if isinstance(spec, Refrigerating) else {}
    box = row.pack or (next(iter(boxes)) if len(boxes) == 1 else "")
    return f"{key}/{box}" if box in boxes else ""


def values_of(rows: list[SessionRow]) -> Any:
    """What was read, in SI."""
    return np.array([row.value for row in rows], dtype=float)


def may_be_off(plan: Plan, run: RunResult, rows: list[SessionRow], times: Any) -> Any:
    """How far each reading may be off, in its own unit.

    Of watts what the display may be off, and how far they go up and down over the hour around in the run:
    compressors and pumps of the house stand at another place of their cycles than those of the run.
    """
    found = []
    for row, t in zip(rows, times, strict=True):
        if row.what == "charge":
            found.append(math.hypot(PERCENT_OFF, _steps_of_charge(plan, run, row, float(t))))
        elif row.what == "temperature_c":
            found.append(THERMOMETER_OFF_K)
        else:
            own = WATTS_OFF + WATTS_SHARE * abs(row.value or 0.0)
            found.append(math.hypot(own, _goes_up_and_down(plan, run, row, float(t))))
    return np.array(found)


def _steps_of_charge(plan: Plan, run: RunResult, row: SessionRow, t: float) -> float:
    """How far a charge strays from a straight course over the hour around a moment of the run, points.

    Compressors and pumps of the house have run a little more or less by then than those of the run.
    """
    moments = np.linspace(max(0.0, t - AROUND_S), t + AROUND_S, 61)
    key = station_of(plan, row) or ""
    charges = np.array([charge_at(run, key, float(moment), row.pack or "head") for moment in moments])
    straight = np.polyval(np.polyfit(moments - t, charges, 1), moments - t)
    return float(np.std(charges - straight))


def _goes_up_and_down(plan: Plan, run: RunResult, row: SessionRow, t: float) -> float:
    """Deviation of watts over the hour around a moment of the run, W."""
    return float(np.std(around(plan, run, row, t)))


def around(plan: Plan, run: RunResult, row: SessionRow, t: float) -> Any:
    """Watts of the run at moments of the hour around a reading."""
    key = station_of(plan, row) or ""
    moments = np.linspace(max(0.0, t - AROUND_S), t + AROUND_S, 61)
    watts = np.zeros(len(moments))
    if row.what == "sun_w":
        named = (key, plan.stations[key].name)
        courses = [(sun.t_s, sun.taken_w) for sun in run.suns.values() if sun.station in named]
    else:
        source = run.sources.get(f"stations/{key}")
        courses = [] if source is None else [(source.t_s, source.a_w), (source.t_s, source.b_w)]
    for t_s, course in courses:
        if t_s:
            places = np.clip(np.searchsorted(t_s, moments, side="right") - 1, 0, None)
            watts += np.asarray(course)[places]
    return watts


def shown_of(plan: Plan, run: RunResult, rows: list[SessionRow], times: Any) -> Any:
    """What displays would have shown at the times of readings, by a run of the plan."""
    return np.array([_shown(plan, run, row, float(t)) for row, t in zip(rows, times, strict=True)])


def _shown(plan: Plan, run: RunResult, row: SessionRow, t: float) -> float:
    """What a display would show at a moment: charge in per cent, or watts over ten minutes."""
    key = station_of(plan, row) or ""
    if row.what == "temperature_c":
        box = run.compartments[key]
        return float(np.interp(t, box.t_s, box.air_c)) if box.t_s else box.start_c
    if row.what == "charge":
        return charge_at(run, key, t, row.pack or "head")
    if row.what == "sun_w":
        return sun_at(plan, run, key, t, READ_OVER_S)
    return output_at(run, key, t, READ_OVER_S)
