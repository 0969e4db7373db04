"""What the display of a station shows at a moment of a run: whole per cents, watts that lag, time left."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Final

import numpy as np

from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import Plan

#: A display of watts shows their mean over so long. Common practice.
LAG_S: Final = 10.0


@dataclass(frozen=True)
class Display:
    """As it is shown: by "head" and pack whole per cents; watts; hours left, where it shows any."""

    percent: dict[str, int]
    in_w: int
    sun_w: int
    out_w: int
    left_h: float | None


def display_at(plan: Plan, run: RunResult, station_id: str, t: float) -> Display:
    """What a station shows.

    Args:
        plan: the plan of the run.
        run: the run.
        station_id: which station.
        t: s after its beginning.

    Returns:
        Per cents cut to whole ones, watts as their mean over ten seconds, hours as the run has them shown.
    """
    share = run.batteries[station_id]
    percent = {key: int(charge_at(run, station_id, t, key)) for key in share.readings or ("head",)}
    index = max(0, int(np.searchsorted(np.asarray(share.t_s), t, side="right")) - 1)
    left_h = share.shown_h[index] if index < len(share.shown_h) else None
    sun_w = sun_at(plan, run, station_id, t, LAG_S)
    named = plan.stations[station_id].name
    other_w = sum(
        mean_w(lead.t_s, lead.watts, t, LAG_S)
        for lead in (*run.leads.values(), *run.externals.values())
        if lead.station in (station_id, named)
    )
    out_w = output_at(run, station_id, t, LAG_S)
    return Display(percent, round(sun_w + other_w), round(sun_w), round(out_w), left_h)


def charge_at(run: RunResult, station_id: str, t: float, pack: str = "head") -> float:
    """Charge of a head unit or a pack at a moment, as its display has it before rounding, %."""
    share = run.batteries[station_id]
    reading = share.readings.get(pack)
    if reading is not None and reading.t_s:
        return float(np.interp(t, reading.t_s, reading.percent))
    return float(100.0 * np.interp(t, share.t_s, share.stored_wh) / share.cell_wh) if share.cell_wh else 0.0


def sun_at(plan: Plan, run: RunResult, station_id: str, t: float, over_s: float) -> float:
    """Mean of what a station takes from the sun before a moment, W."""
    named = (station_id, plan.stations[station_id].name)
    return sum(mean_w(sun.t_s, sun.taken_w, t, over_s) for sun in run.suns.values() if sun.station in named)


def output_at(run: RunResult, station_id: str, t: float, over_s: float) -> float:
    """Mean of what a station gives before a moment, W."""
    source = run.sources.get(f"stations/{station_id}")
    if source is None:
        return 0.0
    return mean_w(source.t_s, source.a_w, t, over_s) + mean_w(source.t_s, source.b_w, t, over_s)


def mean_w(t_s: Sequence[float], watts: Sequence[float], t: float, over_s: float) -> float:
    """Mean of a course over the time before a moment, W."""
    if not len(t_s):
        return 0.0
    edges = np.append(np.asarray(t_s, dtype=float), max(t, t_s[-1]))
    summed: Any = np.concatenate(([0.0], np.cumsum(np.asarray(watts, dtype=float) * np.diff(edges))))
    first = max(0.0, t - over_s)
    return float(np.diff(np.interp([first, t], edges, summed))[0] / max(1.0, t - first))
