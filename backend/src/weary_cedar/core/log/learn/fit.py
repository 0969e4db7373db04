"""The fit: least squares with Huber's loss on the exact run."""

from typing import Any, Final

import numpy as np
from scipy.optimize import least_squares

from weary_cedar.core.decide.chance.doubts import log_spread
from weary_cedar.core.decide.needs import DOUBT
from weary_cedar.core.log.displays import mean_w
from weary_cedar.core.log.learn.figures import Figure, with_figures
from weary_cedar.core.log.learn.readings import READ_OVER_S, around, expected_of, may_be_off, values_of
from weary_cedar.core.log.session import SessionRow
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Cycling, Job, Plan

STEP: Final = 0.02
#: Of how far loads may be off, what each is off apart from the others; of at most so many loads.
APART, MOST_APART = 0.8, 24
#: Watts that are too many are taken for something that ran now and then up to so many times the largest of
#: these; unless they are ten times what the run has around then, within this share.
RUNS_TOO, TENFOLD = 1.3, 0.06


class Fit:
    """Residuals of a fit: figures by runs of their own; what each load draws apart from the rest, straight.

    A house's loads are not all off by the same factor. What each is off by itself is carried along as a
    figure of its own that nobody is told; its effect is taken from the run as a straight line, so that it
    costs no run.
    """

    def __init__(self, part: Plan, figures: list[Figure], rows: list[SessionRow], times: Any) -> None:
        self._part, self._figures, self._rows, self._times = part, figures, rows, times
        self._run = run_outage(part)
        self._may_be = may_be_off(part, self._run, rows, times)
        self._read = values_of(rows)
        self._effects, own = _own_effects(part, self._run, rows, times)
        self._spreads = np.array([figure.spread for figure in figures] + own)
        self._known: tuple[bytes, Any] = (b"", None)

    @property
    def size(self) -> int:
        """How many figures are fitted."""
        return len(self._spreads)

    def expected(self, logs: Any) -> Any:
        """What displays would have shown with figures that are off by so much."""
        count = len(self._figures)
        key = np.asarray(logs[:count]).tobytes()
        if key != self._known[0]:
            plan = with_figures(self._part, self._figures, logs[:count])
            self._known = (key, expected_of(plan, self._rows, self._times))
        return self._known[1] + self._effects @ np.asarray(logs[count:])

    def off(self, logs: Any) -> Any:
        """How far readings are off, times what each may be."""
        return (self.expected(logs) - self._read) / self._may_be

    def something_ran(self, row: SessionRow, expected: float) -> bool:
        """Whether watts that are too many are those of something that runs now and then, a kettle or a pump.

        Not where they are ten times what the run has around then: that is a slip.
        """
        read = row.value or 0.0
        if row.what != "out_w" or read <= expected:
            return False
        t = float(self._times[self._rows.index(row)])
        levels = around(self._part, self._run, row, t)
        if np.any(np.abs(levels - read / 10.0) <= TENFOLD * read / 10.0):
            return False
        most = 0.0
        clock = self._part.site.instant(self._part.outage.start_local, t).time()
        for load in self._part.loads.values():
            spec = load.behaviour
            if isinstance(spec, Job) and spec.earliest <= clock <= spec.latest:
                most = max(most, *(step.watts for step in spec.steps))
            elif isinstance(spec, Cycling):
                most = max(most, spec.on_w)
        return read - expected <= RUNS_TOO * most

    def solve(self, first: Any, kept: Any, most: int) -> Any:
        """The figures that fit best, of the readings that are kept."""

        def residuals(logs: Any) -> Any:
            off = np.where(kept, self.off(logs), 0.0)
            return np.concatenate((_huber(off), np.asarray(logs) / self._spreads))

        return least_squares(residuals, first, diff_step=STEP, x_scale=0.1, max_nfev=most)


def _own_effects(plan: Plan, run: RunResult, rows: list[SessionRow], times: Any) -> tuple[Any, list[float]]:
    """What a load that draws more than the others do does to each reading, straight; and how far it may.

    Of charges its energy so far, over efficiency and cells; of watts what it draws just then. Nothing where
    several stations share a house, where one load alone is in doubt, or of a load with little energy.
    """
    unmeasured = [key for key, load in plan.loads.items() if load.origin != "measured"]
    if len(plan.stations) != 1 or len(unmeasured) < 2:
        return np.zeros((len(rows), 0)), []
    station = next(iter(plan.stations.values()))
    per_wh = 100.0 / (station.inverter_efficiency * max(1.0, station.total_cell_wh))
    effects, spreads = [], []
    largest = sorted(unmeasured, key=lambda key: -run.loads[key].served_wh if key in run.loads else 0.0)
    for key in largest[:MOST_APART]:
        course = run.load_series.get(key)
        if course is None or not course.t_s:
            continue
        effect = [
            -per_wh * mean_w(course.t_s, course.watts, float(t), float(t)) * float(t) / 3600.0
            if row.what == "charge"
            else mean_w(course.t_s, course.watts, float(t), READ_OVER_S)
            if row.what == "out_w"
            else 0.0
            for row, t in zip(rows, times, strict=True)
        ]
        effects.append(effect)
        spreads.append(APART * log_spread(DOUBT[plan.loads[key].origin]))
    return np.array(effects).reshape(len(effects), len(rows)).T, spreads


def strays_of(off: Any) -> float:
    """By how much readings stray from the run beyond what displays are off: 1 where not at all."""
    return max(1.0, 1.48 * float(np.median(np.abs(off))))


def _huber(off: Any) -> Any:
    """Residuals whose squares grow like those of Huber's loss: straight beyond two deviations."""
    far = np.abs(off)
    return np.sign(off) * np.where(far <= 2.0, far, np.sqrt(np.maximum(0.0, 4.0 * far - 4.0)))
