"""The fit: least squares with Huber's loss on the exact run."""

import math
from dataclasses import dataclass
from typing import Any, Final

import numpy as np
from scipy.optimize import least_squares

from weary_cedar.core.decide.chance.doubts import doubts_of
from weary_cedar.core.decide.how_sure import drawing
from weary_cedar.core.log.displays import mean_w
from weary_cedar.core.log.learn.figures import Figure, with_figures
from weary_cedar.core.log.learn.readings import READ_OVER_S, around, may_be_off, shown_of, values_of
from weary_cedar.core.log.session import SessionRow
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Cycling, Job, Plan

#: Slopes are taken over so much to either side, in logarithms; so many turns are made at most, a whole step
#: or part of it, as long as one is worth so much of the cost.
WIDTH, MOST_TURNS, PARTS, WORTH = 0.1, 8, (1.0, 0.5, 0.2), 0.02
#: The first charge that was read is off by so many points itself: whole ones, cut or not. Common practice.
START_OFF: Final = 0.6
#: Of how far loads may be off, what each is off apart from the others; of at most so many loads.
APART, MOST_APART = 0.8, 24
#: Watts that are too many are taken for something that ran now and then up to so many times the largest of
#: these; unless they are ten times what the run has around then, within this share.
RUNS_TOO, TENFOLD = 1.3, 0.06
#: Watts under this share of the least that the run has around then are too few, of so many at least.
TOO_LITTLE, LEAST_W = 0.4, 20.0


@dataclass(frozen=True)
class Solved:
    """Figures that fit best, in logarithms, and their standard deviations."""

    logs: Any
    deviations: Any


class Fit:
    """Residuals of a fit, by runs of their own.

    A house's loads are not all off by the same factor, and what was measured is not the same every day. What
    each load is off by itself is carried along as a figure of its own that nobody is told; how readings go
    with it follows from what the load drew in the run, so that it costs no run more.
    """

    def __init__(self, part: Plan, figures: list[Figure], rows: list[SessionRow], times: Any) -> None:
        self._part, self._figures, self._rows, self._times = part, figures, rows, times
        self._run = run_outage(part)
        read_inside = {row.part.partition("/")[2] for row in rows if row.what == "temperature_c"}
        self._own = _own_doubts(part, self._run, read_inside)
        self._may_be = may_be_off(part, self._run, rows, times)
        self._read = values_of(rows)
        self._charged = np.array([row.what == "charge" for row in rows], dtype=float)
        self._spreads = np.array([figure.spread for figure in figures] + [*self._own.values(), START_OFF])
        self._known: tuple[bytes, Plan, RunResult, Any] | None = None

    @property
    def size(self) -> int:
        """How many figures are fitted."""
        return len(self._spreads)

    def expected(self, logs: Any) -> Any:
        """What displays would have shown with figures that are off by so much."""
        return self._at(logs)[2]

    def _at(self, logs: Any) -> tuple[Plan, RunResult, Any]:
        """The plan with figures that are off by so much, its run, and what displays would have shown."""
        key = np.asarray(logs).tobytes()
        if self._known is None or key != self._known[0]:
            plan = with_figures(self._part, self._figures, logs[: len(self._figures)])
            loads = dict(plan.loads)
            for load_id, log in zip(self._own, logs[len(self._figures) : -1], strict=True):
                loads[load_id] = drawing(loads[load_id], math.exp(float(log)))
            plan = plan.model_copy(update={"loads": loads})
            run = run_outage(plan)
            shown = shown_of(plan, run, self._rows, self._times) + float(logs[-1]) * self._charged
            self._known = (key, plan, run, shown)
        return self._known[1:]

    def off(self, logs: Any) -> Any:
        """How far readings are off, times what each may be."""
        return (self.expected(logs) - self._read) / self._may_be

    def something_ran(self, row: SessionRow, expected: float) -> bool:
        """Whether watts that are too many are those of something that runs now and then, a kettle or a pump.

        Not where they are ten times what the run has around then: that is a slip.
        """
        read = row.value or 0.0
        if row.what != "out_w" or read <= expected or self.is_near(row, read / 10.0):
            return False
        most = 0.0
        t = float(self._times[self._rows.index(row)])
        clock = self._part.site.instant(self._part.outage.start_local, t).time()
        for key, load in self._part.loads.items():
            spec = load.behaviour
            if key not in self._run.loads or not self._run.loads[key].served_wh:
                continue
            if isinstance(spec, Job) and spec.earliest <= clock <= spec.latest:
                most = max(most, *(step.watts for step in spec.steps))
            elif isinstance(spec, Cycling):
                most = max(most, spec.on_w)
        return read - expected <= RUNS_TOO * most

    def too_little_ran(self, row: SessionRow) -> bool:
        """Whether watts are far under the least that the run has around then: something always runs."""
        if row.what != "out_w":
            return False
        least = float(np.min(self._around(row)))
        return least >= LEAST_W and (row.value or 0.0) < TOO_LITTLE * least

    def is_near(self, row: SessionRow, watts: float) -> bool:
        """Whether the run has about so many watts at some moment around a reading."""
        return bool(np.any(np.abs(self._around(row) - watts) <= TENFOLD * watts))

    def _around(self, row: SessionRow) -> Any:
        plan, run = (self._part, self._run) if self._known is None else self._known[1:3]
        return around(plan, run, row, float(self._times[self._rows.index(row)]))

    def solve(self, first: Any, kept: Any) -> Solved:
        """The figures that fit best, of the readings that are kept.

        Readings are taken to go straight with the figures, over a width; where the best of that is better by
        a run, too, it goes on from there.
        """
        at, cost = np.asarray(first, dtype=float), self._cost(first, kept)
        for _ in range(MOST_TURNS):
            slopes = self._slopes(at)
            there = self._best_straight(at, slopes, kept)
            ways = (at + part * (there - at) for part in PARTS)
            better = next((way for way in ways if self._cost(way, kept) < cost - WORTH), None)
            if better is None:
                break
            at, cost = better, self._cost(better, kept)
        return Solved(at, self._deviations(at, slopes, kept))

    def _cost(self, logs: Any, kept: Any) -> float:
        """Half the sum of squares, Huber's of readings and those of what is known beforehand."""
        far = np.concatenate((_huber(self.off(logs)[kept]), np.asarray(logs) / self._spreads))
        return 0.5 * float(far @ far)

    def _best_straight(self, at: Any, slopes: Any, kept: Any) -> Any:
        """The figures that would fit best if readings went straight with them; without a run."""
        shown = self.expected(at)

        def residuals(logs: Any) -> Any:
            off = (shown + slopes @ (logs - at) - self._read) / self._may_be
            return np.concatenate((_huber(off[kept]), logs / self._spreads))

        return least_squares(residuals, at, x_scale=self._spreads).x

    def _deviations(self, at: Any, slopes: Any, kept: Any) -> Any:
        """Standard deviations of the figures, from the curvature at the end."""
        weights = np.where(kept, _huber_slope(self.off(at)) / self._may_be, 0.0)[:, None]
        curved = np.concatenate((weights * slopes, np.diag(1.0 / self._spreads)))
        return np.sqrt(np.diag(np.linalg.pinv(curved.T @ curved)))

    def _slopes(self, logs: Any) -> Any:
        """How readings go with each figure, over a width to either side: a run has kinks and jumps.

        The same width for all: of what does the same to a reading, slopes are the same over a kink, too.
        """
        plan, run, _ = self._at(logs)
        found = []
        for place in range(len(self._figures)):
            step = np.zeros(self.size)
            step[place] = WIDTH
            found.append((self.expected(logs + step) - self.expected(logs - step)) / (2.0 * WIDTH))
        found += [_own_slope(plan, run, key, self._rows, self._times) for key in self._own]
        found.append(list(self._charged))
        return np.array(found).reshape(self.size, len(self._rows)).T


def _own_doubts(plan: Plan, run: RunResult, read_inside: set[str]) -> dict[str, float]:
    """How far each load may be off by itself: of those that take the most in doubt.

    Nothing where several stations share a house, or of a cold box with a thermometer, whose heat is a figure;
    of a load that nobody measured where it is the only one, nothing beside what all such loads are off.
    """
    if len(plan.stations) != 1:
        return {}
    together = sum(load.origin != "measured" for load in plan.loads.values()) > 1
    own = {
        doubt.part.removeprefix("loads/"): doubt.spread * (APART if doubt.kind == "measure" else 1.0)
        for doubt in doubts_of(plan)
        if doubt.key.endswith("/draws") and (together or doubt.kind == "bear")
    }
    doubtful = {
        key: own[key] * run.loads[key].served_wh for key in own if key in run.loads and key not in read_inside
    }
    return {key: own[key] for key in sorted(doubtful, key=lambda key: -doubtful[key])[:MOST_APART]}


def _own_slope(plan: Plan, run: RunResult, load_id: str, rows: list[SessionRow], times: Any) -> list[float]:
    """How readings go with what one load draws more than said.

    Charges go with its energy so far, over efficiency and cells; watts with what it draws just then.
    """
    course = run.load_series.get(load_id)
    if course is None or not course.t_s:
        return [0.0] * len(rows)
    station = next(iter(plan.stations.values()))
    per_wh = 100.0 / (station.inverter_efficiency * max(1.0, station.total_cell_wh))
    return [
        -per_wh * mean_w(course.t_s, course.watts, float(t), float(t)) * float(t) / 3600.0
        if row.what == "charge"
        else mean_w(course.t_s, course.watts, float(t), READ_OVER_S)
        if row.what == "out_w"
        else 0.0
        for row, t in zip(rows, times, strict=True)
    ]


def strays_of(off: Any) -> float:
    """By how much readings stray from the run beyond what displays are off: 1 where not at all."""
    return max(1.0, 1.48 * float(np.median(np.abs(off))))


def _huber(off: Any) -> Any:
    """Residuals whose squares grow like those of Huber's loss: straight beyond two deviations."""
    far = np.abs(off)
    return np.sign(off) * np.where(far <= 2.0, far, np.sqrt(np.maximum(0.0, 4.0 * far - 4.0)))


def _huber_slope(off: Any) -> Any:
    """By how much a residual grows with its reading."""
    far = np.maximum(2.0, np.abs(off))
    return 2.0 / np.sqrt(4.0 * far - 4.0)
