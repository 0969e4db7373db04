"""Meters at several places over one stretch: what each section loses, and which meter cannot be right."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from itertools import pairwise
from typing import Final

import numpy as np
from pydantic import BaseModel, ConfigDict

from weary_cedar.core.log.from_then_on import as_it_went
from weary_cedar.core.log.session import Place, Session, SessionRow
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Plan

#: How far a meter of a class may be off, as a share of what it reads: a meter at a plug, a display;
#: and a display of per cents by one step. Common practice.
PLUG, DISPLAY, STEP = 0.02, 0.05, 0.01
CLASSES: Final[dict[str, float]] = {
    "cells": DISPLAY, "output": DISPLAY, "cord_near": PLUG, "cord_far": PLUG, "plug": PLUG,
}  # fmt: skip
#: Places along the way out of a station, from its cells to what draws.
WAY_OUT: Final[tuple[Place, ...]] = ("cells", "output", "cord_near", "cord_far", "plug")
#: What a section loses is assumed to be off by this share of it, and by so much of what flows there.
LOSS_OFF, FLOW_OFF = 0.5, 0.005
#: Beyond this many times what it may be off, a meter cannot be right.
CANNOT_BE: Final = 2.5
TOLD: Final[dict[str, str]] = {
    "cells": "at the cells", "output": "at the output", "cord_near": "at the near end of the cord",
    "cord_far": "at the far end of the cord", "plug": "at the plugs",
}  # fmt: skip


class MeterRead(BaseModel):
    """One meter over the stretch: what it counted, what the books have there, and how far it is off."""

    model_config = ConfigDict(frozen=True)

    place: Place
    words: str
    read_wh: float
    #: What fits all meters and the losses best.
    balanced_wh: float
    #: What the run has there.
    expected_wh: float
    off_percent: float
    #: Times what a meter of its class may be off.
    strays: float


class MeterSection(BaseModel):
    """What is lost between two places: by the meters, and by the run."""

    model_config = ConfigDict(frozen=True)

    words: str
    lost_wh: float
    expected_wh: float


class MeterBooks(BaseModel):
    """Meters over one stretch set against each other."""

    model_config = ConfigDict(frozen=True)

    sentence: str
    begins: datetime | None = None
    ends: datetime | None = None
    meters: tuple[MeterRead, ...] = ()
    sections: tuple[MeterSection, ...] = ()
    #: What the outermost meters leave unexplained by losses, Wh.
    unexplained_wh: float | None = None
    wrong: tuple[str, ...] = ()
    why_not: str = ""


@dataclass(frozen=True)
class _At:
    place: Place
    read_wh: float | None
    expected_wh: float
    off_wh: float


def meter_books(
    plan: Plan, session: Session, begins: datetime | None = None, ends: datetime | None = None
) -> MeterBooks:
    """Set the meters of a station's way out against each other.

    Args:
        plan: the plan of the session.
        session: with readings that say where they were taken: Wh counted, watts, charges of the station.
        begins, ends: the stretch; that over which all places were read, if absent.

    Returns:
        What each meter counted, what fits all of them and the losses of the run best, and which cannot be
        right; with a reason where nothing can be set against anything.

    Method: least squares over the energies at all places: meters weighted by their class, losses of sections
    as in the run within half of them.
    """
    rows = [row for row in session.standing() if _place_of(plan, row)]
    if not rows or len(plan.stations) != 1:
        why = (
            "no reading says where it was taken: say “1.2 kWh at the plug”, “310 W at the output”"
            if not rows
            else "meters are set against each other where there is one station"
        )
        return MeterBooks(sentence=f"Nothing to compare: {why}.", why_not=why)
    if begins is None or ends is None:
        read_from, read_to = _read_together(plan, rows)
        begins, ends = begins or read_from, ends or read_to
    went = as_it_went(plan, session)
    run = run_outage(went)
    stretch = (session.seconds(plan, begins), session.seconds(plan, ends))
    at = [_at(went, run, session, rows, place, stretch) for place in WAY_OUT]
    read = [item for item in at if item.read_wh is not None]
    if len(read) < 2 or stretch[1] <= stretch[0]:
        why = "at least two meters at different places are needed, each read at the beginning and at the end"
        return MeterBooks(sentence=f"Nothing to compare: {why}.", why_not=why, begins=begins, ends=ends)
    balanced = _balanced(at, {item.place for item in read})
    meters = tuple(
        MeterRead(
            place=item.place, words=TOLD[item.place], read_wh=round(item.read_wh or 0.0, 1),
            balanced_wh=round(wh, 1), expected_wh=round(item.expected_wh, 1),
            off_percent=round(100.0 * ((item.read_wh or 0.0) / wh - 1.0), 1) if wh > 0 else 0.0,
            strays=round(abs((item.read_wh or 0.0) - wh) / item.off_wh, 2),
        )
        for item, wh in zip(at, balanced, strict=True)
        if item.read_wh is not None
    )  # fmt: skip
    pairs = [(item, wh) for item, wh in zip(at, balanced, strict=True) if item.read_wh is not None]
    sections = tuple(
        MeterSection(
            words=f"from {_bare(a.place)} to {_bare(b.place)}", lost_wh=round(wa - wb, 1),
            expected_wh=round(a.expected_wh - b.expected_wh, 1),
        )
        for (a, wa), (b, wb) in pairwise(pairs)
    )  # fmt: skip
    first, last = read[0], read[-1]
    lost = (first.read_wh or 0.0) - (last.read_wh or 0.0)
    unexplained = lost - (first.expected_wh - last.expected_wh)
    wrong = tuple(_wrong(at, read))
    return MeterBooks(
        sentence=_sentence(read, lost, unexplained, wrong), begins=begins, ends=ends, meters=meters,
        sections=sections, unexplained_wh=round(unexplained, 1), wrong=wrong,
    )  # fmt: skip


def _place_of(plan: Plan, row: SessionRow) -> Place:
    """Where a row counts along the way out: said, or the display of the station."""
    if row.what in ("wh", "out_w") and row.place in WAY_OUT:
        return row.place
    if row.what == "charge" and row.part.startswith("stations/") and not row.pack:
        return "cells"
    if row.what == "out_w" and not row.place and row.part.partition("/")[0] in ("", "stations"):
        return "output"
    if row.what in ("wh", "out_w") and row.part.startswith("loads/"):
        return "plug"
    return ""


def _at(
    plan: Plan, run: RunResult, session: Session, rows: Sequence[SessionRow], place: Place,
    stretch: tuple[float, float],
) -> _At:  # fmt: skip
    """What meters at a place counted over a stretch, what the run has there, and how far they may be off."""
    own = [row for row in rows if _place_of(plan, row) == place]
    metered = {row.part.partition("/")[2] for row in own if row.part.startswith("loads/")}

    def by_run(over: tuple[float, float]) -> float:
        return _by_run(plan, run, place, over, metered)

    cells, off = _from_cells(plan, session, own, run) if place == "cells" else (None, None)
    if cells is None:
        read = _counted(plan, session, own, by_run, stretch)
    else:
        over, wh = cells
        read = wh + by_run(stretch) - by_run(over)
    expected = by_run(stretch)
    return _At(place, read, expected, off or max(1.0, CLASSES[place] * (read or expected)))


def _read_together(plan: Plan, rows: Sequence[SessionRow]) -> tuple[datetime, datetime]:
    """The stretch over which every place that was read twice was read."""
    own: dict[Place, list[datetime]] = {}
    for row in rows:
        own.setdefault(_place_of(plan, row), []).append(row.at)
    twice = [moments for moments in own.values() if len(moments) > 1]
    if not twice:
        return rows[0].at, rows[-1].at
    return max(min(moments) for moments in twice), min(max(moments) for moments in twice)


def _from_cells(
    plan: Plan, session: Session, rows: Sequence[SessionRow], run: RunResult
) -> tuple[tuple[tuple[float, float], float] | None, float | None]:
    """Energy out of the cells by two charges, with what came in: over which time, Wh; how far off."""
    station_id, station = next(iter(plan.stations.items()))
    charges = [row for row in rows if row.what == "charge"]
    if len(charges) < 2:
        return None, None
    first, last = charges[0], charges[-1]
    share = run.batteries[station_id]
    between = (session.seconds(plan, first.at), session.seconds(plan, last.at))
    kept = ((first.value or 0.0) - (last.value or 0.0)) / 100.0 * station.total_cell_wh
    stored = np.interp(between, share.t_s, share.stored_wh)
    came_in = _drawn(share.t_s, share.draw_w, between) - float(stored[0] - stored[1])
    off = max(DISPLAY * abs(kept), STEP * station.total_cell_wh)
    return (between, kept + max(0.0, came_in)), off


def _counted(
    plan: Plan, session: Session, rows: Sequence[SessionRow],
    by_run: Callable[[tuple[float, float]], float], stretch: tuple[float, float],
) -> float | None:  # fmt: skip
    """Wh by counters (the last less the first), or by watts over time; summed over meters side by side.

    What a meter counted over a stretch of its own is brought to the common one by what the run has there.
    """
    found: list[float] = []
    for part in dict.fromkeys((row.part, row.what) for row in rows if row.what != "charge"):
        own = [row for row in rows if (row.part, row.what) == part]
        if len(own) < 2:
            continue
        values = [row.value or 0.0 for row in own]
        times = [session.seconds(plan, row.at) for row in own]
        wh = values[-1] - values[0] if part[1] == "wh" else float(np.trapezoid(values, times)) / 3600.0
        found.append(wh)
        ends = (times[0], times[-1])
    if not found:
        return None
    return sum(found) + by_run(stretch) - by_run(ends)


def _by_run(
    plan: Plan, run: RunResult, place: Place, stretch: tuple[float, float], metered: set[str]
) -> float:
    """What the run has at a place over a stretch, Wh; at plugs of the loads that have a meter, or of all."""
    station_id = next(iter(plan.stations))
    share = run.batteries[station_id]
    cells = _drawn(share.t_s, share.draw_w, stretch)
    source = run.sources.get(f"stations/{station_id}")
    output = 0.0
    if source is not None:
        output = _drawn(source.t_s, source.a_w, stretch) + _drawn(source.t_s, source.b_w, stretch)
    drawn = {key: _drawn(series.t_s, series.watts, stretch) for key, series in run.load_series.items()}
    arrives = min(sum(drawn.values()), output)
    if place == "cells":
        return max(cells, output)
    if place == "plug" and metered:
        return min(arrives, sum(wh for key, wh in drawn.items() if key in metered))
    return arrives if place in ("cord_far", "plug") else output


def _drawn(t_s: Sequence[float], watts: Sequence[float], stretch: tuple[float, float]) -> float:
    """Energy of a course over a stretch, Wh."""
    if not len(t_s):
        return 0.0
    edges = np.append(np.asarray(t_s, dtype=float), max(stretch[1], float(t_s[-1])) + 1.0)
    summed = np.concatenate(([0.0], np.cumsum(np.asarray(watts, dtype=float) * np.diff(edges))))
    return float(np.diff(np.interp(stretch, edges, summed))[0]) / 3600.0


def _balanced(at: Sequence[_At], counted: set[Place]) -> list[float]:
    """Energies at all places that fit the meters that count and the losses of the run best, Wh."""
    lines, wanted = [], []
    for index, item in enumerate(at):
        if item.place in counted and item.read_wh is not None:
            line = np.zeros(len(at))
            line[index] = 1.0 / item.off_wh
            lines.append(line)
            wanted.append(item.read_wh / item.off_wh)
    for index, (a, b) in enumerate(pairwise(at)):
        lost = a.expected_wh - b.expected_wh
        off = max(1.0, LOSS_OFF * abs(lost) + FLOW_OFF * a.expected_wh)
        line = np.zeros(len(at))
        line[index], line[index + 1] = 1.0 / off, -1.0 / off
        lines.append(line)
        wanted.append(lost / off)
    found = np.linalg.lstsq(np.array(lines), np.array(wanted), rcond=None)[0]
    return [float(wh) for wh in found]


def _wrong(at: Sequence[_At], read: Sequence[_At]) -> list[str]:
    """Which meter cannot be right: that without which the others agree."""
    counted = {item.place for item in read}
    if _apart(at, counted) <= CANNOT_BE:
        return []
    alone = [item for item in read if len(counted) > 2 and _apart(at, counted - {item.place}) <= CANNOT_BE]
    if len(alone) == 1:
        item = alone[0]
        rest = _balanced(at, counted - {item.place})
        wh = next(wh for one, wh in zip(at, rest, strict=True) if one is item)
        fits = f"it says {item.read_wh:,.0f} Wh where {wh:,.0f} Wh fit the others"
        return [f"The meter {TOLD[item.place]} cannot be right: {fits}"]
    names = " and ".join(TOLD[item.place] for item in (alone or read))
    more = "a third one would tell which" if len(read) < 3 else "more than one may be wrong"
    return [f"The meters {names} do not fit each other: one of them cannot be right, {more}"]


def _apart(at: Sequence[_At], counted: set[Place]) -> float:
    """How far neighbouring meters are apart beyond the losses between, times what they may be."""
    worst = 0.0
    own = [item for item in at if item.place in counted]
    for a, b in pairwise(own):
        lost = a.expected_wh - b.expected_wh
        gap = (a.read_wh or 0.0) - (b.read_wh or 0.0) - lost
        off = np.hypot(np.hypot(a.off_wh, b.off_wh), LOSS_OFF * abs(lost) + FLOW_OFF * a.expected_wh)
        worst = max(worst, abs(gap) / float(off))
    return worst


def _bare(place: Place) -> str:
    return TOLD[place].removeprefix("at ")


def _sentence(read: Sequence[_At], lost: float, unexplained: float, wrong: Sequence[str]) -> str:
    first, last = read[0], read[-1]
    told = (
        f"{first.read_wh:,.0f} Wh {TOLD[first.place]}, {last.read_wh:,.0f} Wh {TOLD[last.place]}: "
        f"{lost:,.0f} Wh are lost between"
    )
    if wrong:
        return f"{told}. {wrong[0]}."
    if abs(unexplained) < max(2.0, 0.02 * (first.read_wh or 0.0)):
        return f"{told}, as the run has it."
    return f"{told}; {abs(unexplained):,.0f} Wh {'more' if unexplained > 0 else 'less'} than the run has."
