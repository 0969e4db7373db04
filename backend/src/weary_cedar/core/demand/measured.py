"""What a meter series says about an appliance."""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from weary_cedar.core.errors import InvalidInput, Problem

Array = NDArray[np.float64]

#: A pause this many times the usual step, and at least five minutes, is a gap: nothing is known there.
GAP_STEPS, GAP_LEAST_S = 20.0, 300.0
#: On and off are two levels when they differ by this factor and this many watts.
LEVELS_FACTOR, LEVELS_LEAST_W = 2.0, 8.0
#: A start shows only in series at least this fine, s.
START_STEP_S = 5.0
#: A motor starts this soon after its run begins: igniters come before blowers. Common practice, s.
BEGINS_S = 90.0
#: Meters of the kind that plugs in are about this accurate. Common practice.
METER_ERROR = 0.01
#: What a few cycles are worth, when there are fewer than three.
UNSEEN_ERROR = 0.25
#: So many unusual stretches are told at most, the first ones.
MOST_UNUSUAL = 100


@dataclass(frozen=True)
class Unusual:
    """A stretch unlike the other cycles, in s from the first sample."""

    begins_s: float
    ends_s: float
    mean_w: float
    what: str


@dataclass(frozen=True)
class MeterFinding:
    """What was found: watts, share and length of cycles, energy with its interval."""

    hours: float
    gap_hours: float
    samples: int
    mean_w: float
    wh_day: float
    wh_day_error: float
    cycles: bool
    on_w: float
    off_w: float
    duty: float
    period_s: float | None
    cycles_seen: int
    start_w: float | None
    unusual: tuple[Unusual, ...] = field(default=())


def analyse_series(t_s: Array, watts: Array) -> MeterFinding:
    """Find levels, duty, cycles, start and energy of a meter series.

    Args:
        t_s: times, s, rising.
        watts: power from each time to the next, W.

    Returns:
        The finding. Wh a day is the mean power of all watched time, with an interval of ±1.96
        standard errors over cycles and 1 % for the meter.

    Raises:
        InvalidInput: fewer than ten samples or less than ten minutes, or times that do not rise.

    Method: each sample holds until the next; pauses of more than 20 usual steps are gaps and left
    out; the two levels are parted where the variance between them is greatest (Otsu).
    """
    _refuse_too_little(t_s, watts)
    held_s = np.diff(t_s, append=t_s[-1])
    usual_s = float(np.median(held_s[:-1]))
    held_s[-1] = usual_s
    gap = held_s > max(GAP_STEPS * usual_s, GAP_LEAST_S)
    gap_s = float(np.sum(held_s[gap]))
    held_s = np.where(gap, 0.0, held_s)
    watched_s = float(np.sum(held_s))
    mean_w = float(np.sum(watts * held_s)) / watched_s
    parted_w = _parting(watts, held_s)
    on = watts > parted_w
    on_w, off_w = _level(watts, held_s, on), _level(watts, held_s, ~on)
    duty = float(np.sum(held_s[on])) / watched_s
    two = on_w > LEVELS_FACTOR * max(off_w, 0.1) and on_w - off_w > LEVELS_LEAST_W and 0.002 < duty < 0.998
    runs = _runs(on, gap) if two else []
    begins = np.array([t_s[first] for first, _ in runs])
    period_s = float(np.median(np.diff(begins))) if len(begins) > 2 else None
    error = _energy_error(t_s, watts, held_s, begins, mean_w)
    start_w = _start(t_s, watts, runs, on_w) if two and usual_s <= START_STEP_S else None
    return MeterFinding(
        hours=watched_s / 3600,
        gap_hours=gap_s / 3600,
        samples=len(t_s),
        mean_w=mean_w,
        wh_day=24 * mean_w,
        wh_day_error=24 * mean_w * error,
        cycles=two,
        on_w=on_w if two else mean_w,
        off_w=off_w if two else mean_w,
        duty=duty if two else 1.0,
        period_s=period_s if two else None,
        cycles_seen=len(runs),
        start_w=start_w,
        unusual=tuple(_unusual(t_s, watts, held_s, runs, on_w)),
    )


def _refuse_too_little(t_s: Array, watts: Array) -> None:
    if len(t_s) != len(watts) or len(t_s) < 10 or t_s[-1] - t_s[0] < 600:
        right = "at least ten samples over at least ten minutes"
        problem = Problem("/series", f"{len(t_s)} samples", right)
        raise InvalidInput(f"Too little to go by: {right}.", (problem,))
    if np.any(np.diff(t_s) <= 0):
        row = int(np.argmax(np.diff(t_s) <= 0)) + 1
        problem = Problem("/series", f"sample {row + 1}", "times that rise")
        raise InvalidInput(str(problem), (problem,))


def _parting(watts: Array, held_s: Array) -> float:
    """Otsu's threshold on watts weighted by time; rare peaks are cut off first."""
    order = np.argsort(watts)
    share = np.cumsum(held_s[order]) / np.sum(held_s)
    high = float(watts[order][min(len(order) - 1, int(np.searchsorted(share, 0.985)))])
    low = float(watts[order][0])
    if high <= low:
        return high
    weights, edges = np.histogram(np.minimum(watts, high), bins=256, range=(low, high), weights=held_s)
    middles = (edges[:-1] + edges[1:]) / 2
    below = np.cumsum(weights)
    above = below[-1] - below
    moment = np.cumsum(weights * middles)
    with np.errstate(divide="ignore", invalid="ignore"):
        between = below * above * (moment / below - (moment[-1] - moment) / above) ** 2
    between = np.nan_to_num(between)
    best = np.flatnonzero(between >= between.max() * (1 - 1e-12))
    return float((edges[best[0] + 1] + edges[best[-1] + 1]) / 2)


def _level(watts: Array, held_s: Array, where: NDArray[np.bool_]) -> float:
    """Median power by time."""
    chosen, weight = watts[where], held_s[where]
    if len(chosen) == 0 or weight.sum() == 0:
        return 0.0
    order = np.argsort(chosen)
    share = np.cumsum(weight[order]) / weight.sum()
    return float(chosen[order][int(np.searchsorted(share, 0.5))])


def _runs(on: NDArray[np.bool_], gap: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """(first, past the last) sample of every stretch on that is seen from its beginning to its end."""
    edges = np.flatnonzero(np.diff(on.astype(np.int8)))
    firsts = edges[~on[edges]] + 1
    lasts = edges[on[edges]] + 1
    after = np.searchsorted(lasts, firsts, side="right")
    firsts, after = firsts[after < len(lasts)], after[after < len(lasts)]
    ends = lasts[after]
    gaps = np.append(0, np.cumsum(gap))
    whole = gaps[ends] == gaps[firsts - 1]
    return list(zip(firsts[whole].tolist(), ends[whole].tolist(), strict=True))


def _energy_error(t_s: Array, watts: Array, held_s: Array, begins: Array, mean_w: float) -> float:
    """Relative half-width of the interval of mean power."""
    if mean_w <= 0:
        return METER_ERROR
    if len(begins) < 4:
        flat = float(np.std(watts)) < 0.1 * mean_w
        return METER_ERROR if flat else UNSEEN_ERROR
    places = np.searchsorted(t_s, begins)
    energy = np.add.reduceat(watts * held_s, places)[:-1]
    length = np.add.reduceat(held_s, places)[:-1]
    power = energy[length > 0] / length[length > 0]
    spread = float(np.std(power, ddof=1)) / np.sqrt(len(power)) / mean_w
    return float(np.hypot(1.96 * spread, METER_ERROR))


def _start(t_s: Array, watts: Array, runs: list[tuple[int, int]], on_w: float) -> float | None:
    """Median over runs of the highest power while they begin, if it stands out."""
    if not runs:
        return None
    firsts, lasts = np.array(runs).T
    stops = np.maximum(firsts + 1, np.minimum(lasts, np.searchsorted(t_s, t_s[firsts] + BEGINS_S)))
    peaks = np.maximum.reduceat(np.append(watts, 0.0), np.column_stack((firsts, stops)).ravel())[::2]
    peak = float(np.median(peaks))
    return peak if peak > 1.3 * on_w else None


def _unusual(
    t_s: Array, watts: Array, held_s: Array, runs: list[tuple[int, int]], on_w: float
) -> list[Unusual]:
    if len(runs) < 4:
        return []
    firsts, lasts = np.array(runs).T
    held, energy = (np.append(0.0, np.cumsum(part)) for part in (held_s, watts * held_s))
    lengths = held[lasts] - held[firsts]
    means_w = (energy[lasts] - energy[firsts]) / np.maximum(lengths, 1e-9)
    usual_s = float(np.median(lengths))
    odd = (means_w > 1.6 * on_w) & (lengths > 0.1 * usual_s) | (lengths > 2.5 * usual_s)
    found = []
    for index in np.flatnonzero(odd)[:MOST_UNUSUAL].tolist():
        (first, last), length, mean_w = runs[index], float(lengths[index]), float(means_w[index])
        if mean_w > 1.6 * on_w and length > 0.1 * usual_s:
            what = "far more power than usual: a defrost?"
        else:
            what = "ran far longer than usual: a door left open, or warm food put in?"
        found.append(Unusual(float(t_s[first]), float(t_s[min(last, len(t_s) - 1)]), mean_w, what))
    return found


@dataclass(frozen=True)
class TotalsFinding:
    """Mean watts of a meter's totals; duty and start where they follow."""

    mean_w: float
    duty: float | None
    start_w: float | None


def read_totals(
    kwh: float, hours: float, highest_w: float | None = None, running_w: float | None = None
) -> TotalsFinding:
    """What the totals of a plug-in meter say.

    Args:
        kwh: energy shown, kWh.
        hours: time shown, h.
        highest_w: highest power shown, W.
        running_w: power while it runs, W, where known.

    Returns:
        Mean W; duty = mean/running; the highest power is the start where it stands out by 30 %
        over running power.

    Raises:
        InvalidInput: no time, more mean than running power, or a highest power below the mean.

    Source: common practice of the trade.

    >>> read_totals(2.4, 24, highest_w=900, running_w=200)
    TotalsFinding(mean_w=100.0, duty=0.5, start_w=900)
    """
    mean_w = mean_from_totals(kwh, hours)
    for place, value in (("/running_w", running_w), ("/highest_w", highest_w)):
        if value is not None and value < mean_w * (1 - 1e-9):
            right = f"at least the mean of {mean_w:,.1f} W that {kwh:g} kWh in {hours:g} h make"
            problem = Problem(place, f"{value:g}", right)
            raise InvalidInput(str(problem), (problem,))
    stands_out = highest_w is not None and running_w is not None and highest_w > 1.3 * running_w
    return TotalsFinding(mean_w, mean_w / running_w if running_w else None, highest_w if stands_out else None)


def mean_from_totals(kwh: float, hours: float) -> float:
    """Mean power from a plug-in meter's totals.

    Args:
        kwh: energy shown, kWh.
        hours: time shown, h, above 0.

    Returns:
        W, 1000 · kWh / h.

    Raises:
        InvalidInput: no time.

    Source: energy over time.

    >>> round(mean_from_totals(2.97, 46), 1)
    64.6
    """
    if hours <= 0:
        problem = Problem("/hours", f"{hours:g}", "should be above 0")
        raise InvalidInput(str(problem), (problem,))
    return 1000 * kwh / hours


def loss_between_meters(kwh_before: float, kwh_after: float, hours: float) -> tuple[float, float]:
    """What a cord takes, from two meters on one run.

    Args:
        kwh_before: energy at the source's end, kWh.
        kwh_after: energy at the appliance's end, kWh, not more.
        hours: time, h.

    Returns:
        Wh lost and mean W lost.

    Raises:
        InvalidInput: more came out than went in.

    Source: difference of energies; common practice.

    >>> wh, w = loss_between_meters(3.02, 2.97, 46)
    >>> round(wh), round(w, 1)
    (50, 1.1)
    """
    if kwh_after > kwh_before:
        right = f"not more than the {kwh_before:g} kWh that went in"
        problem = Problem("/kwh_after", f"{kwh_after:g}", right)
        raise InvalidInput(str(problem), (problem,))
    lost_kwh = kwh_before - kwh_after
    return 1000 * lost_kwh, mean_from_totals(lost_kwh, hours)


def standby_by_difference(kwh: float, hours: float, known_w: float = 0.0) -> float:
    """Always-on draw of a house with everything switched off that can be.

    Args:
        kwh: energy of the house meter in that time, kWh.
        hours: time, h, above 0.
        known_w: of what was left on and is counted elsewhere, W.

    Returns:
        W, the mean less what is known.

    Raises:
        InvalidInput: no time, or more known than was drawn.

    Source: common practice of the trade.

    >>> round(standby_by_difference(0.5, 4, 18), 1)
    107.0
    """
    mean_w = mean_from_totals(kwh, hours)
    if known_w > mean_w:
        problem = Problem("/known_w", f"{known_w:g}", f"at most the {mean_w:,.1f} W that the house drew")
        raise InvalidInput(str(problem), (problem,))
    return mean_w - known_w
