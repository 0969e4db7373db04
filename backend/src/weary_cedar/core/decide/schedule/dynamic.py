"""The best hours by dynamic programming over a fine grid of charge: engine, and up to three jobs a day."""

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any, Final

import numpy as np

from weary_cedar.core.decide.schedule.hours import (
    HOUR_WORTH,
    KEEP_WORTH,
    LEFT_WORTH,
    LITRE_WORTH,
    START_WORTH,
    Floats,
    Hourly,
    Told,
    flowed,
)

#: Steps of the grid, Wh, and how many there are at most.
GRID_WH: Final = 2.0
MOST_LEVELS: Final = 401
#: How often the price of a litre is halved between too cheap and dear enough.
PRICE_ROUNDS: Final = 7


def best_hours(hourly: Hourly) -> Told:
    """When to run the engine and begin the jobs, so that least is lost and spent.

    Args:
        hourly: the outage in half hours.

    Returns:
        The half hours; fuel that is not there is not burned: a litre is taken as dearer until it lasts.

    Method: backward over the half hours, values linear between the steps of the grid; then forward with the
    charge as it comes. Source: R. Bellman, Dynamic Programming (1957).
    """
    told = _Programme(hourly, LITRE_WORTH).forward()
    if hourly.on_hand_l is None or _litres(hourly, told) <= hourly.on_hand_l:
        return told
    low, high = LITRE_WORTH, LITRE_WORTH
    while _litres(hourly, told) > hourly.on_hand_l and high < 1e7:
        low, high = high, high * 8.0
        told = _Programme(hourly, high).forward()
    for _ in range(PRICE_ROUNDS):
        middle = (low * high) ** 0.5
        tried = _Programme(hourly, middle).forward()
        if _litres(hourly, tried) > hourly.on_hand_l:
            low = middle
        else:
            high, told = middle, tried
    return told


def _litres(hourly: Hourly, told: Told) -> float:
    return float(sum(litres for litres, runs in zip(hourly.litres, told.engine, strict=True) if runs))


@dataclass(frozen=True)
class _Choice:
    """What may be done in a half hour: the engine, and a job that is begun."""

    runs: bool
    job: int | None
    worth: float


@dataclass
class _Programme:
    """Values of all states by half hour: jobs done today, whether the engine ran before, charge."""

    hourly: Hourly
    litre_worth: float
    grid: Floats = field(init=False)
    values: list[Any] = field(init=False)

    def __post_init__(self) -> None:
        hourly = self.hourly
        span = hourly.full_wh - hourly.floor_wh
        count = int(min(MOST_LEVELS, max(2, round(span / GRID_WH) + 1)))
        self.grid = np.linspace(hourly.floor_wh, hourly.full_wh, count)
        #: By half hour and job: the day's number of that job, and what it is worth not to move it.
        self._days = [self._of_jobs(n) for n in range(hourly.count)]
        self._last = {
            (j, day): max(slots)
            for j, job in enumerate(hourly.jobs)
            for day, (slots, _) in enumerate(job.days)
        }
        self.values = [np.zeros((1 << len(hourly.jobs), 2, count))]
        for n in reversed(range(hourly.count)):
            self.values.append(self._value(n, self.values[-1]))
        self.values.reverse()

    def _of_jobs(self, n: int) -> dict[int, tuple[int, float]]:
        found = {}
        for j, job in enumerate(self.hourly.jobs):
            for day, (slots, usual) in enumerate(job.days):
                if n in slots:
                    found[j] = day, HOUR_WORTH * abs(n - usual) / 2.0
        return found

    def _choices(self, n: int) -> Iterator[_Choice]:
        for runs in (False, True) if self.hourly.may_run[n] else (False,):
            yield _Choice(runs, None, 0.0)
            for j, (_, worth) in self._days[n].items():
                yield _Choice(runs, j, worth)

    def _stage(self, n: int, choice: _Choice, stored: Floats) -> tuple[Floats, Floats]:
        """What is stored after a half hour, and what it costs, without the start of an engine."""
        hourly = self.hourly
        job = None if choice.job is None else hourly.jobs[choice.job]
        room = hourly.room_wh[n] + (job.wh if job and not job.keep else 0.0)
        after, missing, shed = flowed(hourly, n, stored, job.wh if job else 0.0, room, choice.runs)
        part = np.minimum(missing, room - shed)
        cost = KEEP_WORTH * hourly.reaches[n] * (missing - part) + part + shed + choice.worth
        cost = cost + LEFT_WORTH * np.maximum(0.0, hourly.left_wh[n] - after)
        return after, cost + (hourly.litres[n] * self.litre_worth if choice.runs else 0.0)

    def _undone(self, n: int, mask: int) -> tuple[float, int]:
        """What is lost by jobs whose last hour this was, and the jobs that are done today after it."""
        lost, kept = 0.0, mask
        for j, (day, _) in self._days[n].items():
            if self._last[j, day] == n:
                lost += 0.0 if mask >> j & 1 else self.hourly.jobs[j].worth
                kept &= ~(1 << j)
        return lost, kept

    def _value(self, n: int, later: Any) -> Any:
        """Least cost from the beginning of a half hour on, for every state."""
        found = np.full_like(later, np.inf)
        for choice in self._choices(n):
            after, cost = self._stage(n, choice, self.grid)
            ahead = self._ahead(later[:, int(choice.runs)], after)
            for mask in range(found.shape[0]):
                if choice.job is not None and mask >> choice.job & 1:
                    continue
                done = mask | (0 if choice.job is None else 1 << choice.job)
                lost, kept = self._undone(n, done)
                whole = cost + lost + ahead[kept]
                for before in (0, 1):
                    start = START_WORTH if choice.runs and not before else 0.0
                    np.minimum(found[mask, before], whole + start, out=found[mask, before])
        return found

    def _ahead(self, later: Any, after: Floats) -> Any:
        """Values of the half hour after, for every set of jobs done, at some charges."""
        span = self.grid[-1] - self.grid[0]
        place = (after - self.grid[0]) / span * (len(self.grid) - 1) if span > 0 else np.zeros_like(after)
        low = np.clip(place.astype(int), 0, max(0, len(self.grid) - 2))
        share = place - low
        return later[:, low] * (1.0 - share) + later[:, low + (1 if span > 0 else 0)] * share

    def forward(self) -> Told:
        """The half hours that cost least, with the charge as it comes."""
        hourly = self.hourly
        stored, mask, before = np.array([hourly.first_wh]), 0, False
        engine: list[bool] = []
        begun: list[list[int | None]] = [[None] * len(job.days) for job in hourly.jobs]
        for n in range(hourly.count):
            best: tuple[float, _Choice, Floats, int] | None = None
            for choice in self._choices(n):
                if choice.job is not None and mask >> choice.job & 1:
                    continue
                after, cost = self._stage(n, choice, stored)
                lost, kept = self._undone(n, mask | (0 if choice.job is None else 1 << choice.job))
                whole = float(
                    (cost + lost + self._ahead(self.values[n + 1][:, int(choice.runs)], after)[kept])[0]
                )
                whole += START_WORTH if choice.runs and not before else 0.0
                if best is None or whole < best[0] - 1e-9:
                    best = whole, choice, after, kept
            assert best is not None
            _, choice, stored, mask = best
            engine.append(choice.runs)
            before = choice.runs
            if choice.job is not None:
                begun[choice.job][self._days[n][choice.job][0]] = n
        return Told(tuple(engine), tuple(tuple(days) for days in begun))
