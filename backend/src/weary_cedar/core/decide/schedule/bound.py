"""The best there can be: the same half hours as a linear programme, in which an engine may run in parts."""

from dataclasses import dataclass
from typing import Any, Final

import numpy as np
from scipy.optimize import linprog
from scipy.sparse import coo_matrix

from weary_cedar.core.decide.schedule.hours import (
    HOUR_WORTH,
    KEEP_WORTH,
    LEFT_WORTH,
    LITRE_WORTH,
    START_WORTH,
    Hourly,
)

#: What is missing may be so much more in the bound of fuel: rounding, Wh.
SLACK_WH: Final = 1.0


@dataclass(frozen=True)
class Bound:
    """No schedule of these half hours costs less than this; what the best one would miss and burn."""

    worth: float
    keep_wh: float
    room_wh: float
    litres: float


def least_worth(hourly: Hourly) -> Bound | None:
    """The least that any schedule of these half hours can cost.

    Args:
        hourly: the outage in half hours.

    Returns:
        A bound from below; none where the solver finds none.

    Method: linear programme, solved by HiGHS; whole engines and whole jobs are relaxed to parts of them.
    Source: Q. Huangfu and J. A. J. Hall, Math. Prog. Comp. 10 (2018) 119, by SciPy.
    """
    programme = _Programme(hourly)
    found = programme.solved(programme.worths())
    if found is None:
        return None
    return Bound(
        worth=float(programme.worths() @ found),
        keep_wh=programme.sum("keep", found),
        room_wh=programme.sum("room", found) + programme.undone_wh(found), litres=programme.litres(found),
    )  # fmt: skip


def least_litres(hourly: Hourly, keep_wh: float, room_wh: float, left_wh: float) -> float | None:
    """The least fuel with which no more is missing.

    Args:
        hourly: the outage in half hours.
        keep_wh: what may be missing to what must run, Wh.
        room_wh: to what is marked room, Wh.
        left_wh: what may be missing to the reserves, Wh.

    Returns:
        Litres; none where the solver finds none.
    """
    programme = _Programme(hourly)
    programme.at_most("keep", keep_wh + SLACK_WH)
    programme.at_most("room", room_wh + SLACK_WH)
    programme.at_most("left", left_wh + SLACK_WH)
    found = programme.solved(programme.fuel())
    return None if found is None else programme.litres(found)


class _Programme:
    """Variables by half hour, one kind after another; then jobs by hour, and jobs that are not done."""

    KINDS = ("stored", "engine", "begun", "spilt", "keep", "room", "left")

    def __init__(self, hourly: Hourly) -> None:
        self.hourly = hourly
        self.n = hourly.count
        self.at = {kind: number * self.n for number, kind in enumerate(self.KINDS)}
        place = len(self.KINDS) * self.n
        #: (job, day, half hour, place), and (job, day, place) where it is not done.
        self.begin: list[tuple[int, int, int, int]] = []
        self.undone: list[tuple[int, int, int]] = []
        for j, job in enumerate(hourly.jobs):
            for day, (slots, _) in enumerate(job.days):
                for n in slots:
                    self.begin.append((j, day, n, place))
                    place += 1
                self.undone.append((j, day, place))
                place += 1
        self.count = place
        self.rows: list[tuple[dict[int, float], float]] = []
        self.equal: list[tuple[dict[int, float], float]] = []
        self._state()

    def _state(self) -> None:
        hourly, at = self.hourly, self.at
        for n in range(self.n):
            row = {at["stored"] + n: 1.0, at["spilt"] + n: 1.0, at["keep"] + n: -1.0, at["room"] + n: -1.0}
            row[at["engine"] + n] = float(hourly.on_wh[n] - hourly.off_wh[n])
            taken = {at["room"] + n: 1.0}
            for j, _, slot, place in self.begin:
                if slot == n:
                    row[place] = hourly.jobs[j].wh
                    if not hourly.jobs[j].keep:
                        taken[place] = -hourly.jobs[j].wh
            right = -float(hourly.off_wh[n])
            if n:
                row[at["stored"] + n - 1] = -1.0
            else:
                right += hourly.first_wh
            self.equal.append((row, right))
            self.rows.append((taken, float(hourly.room_wh[n])))
            self.rows.append(({at["stored"] + n: -1.0, at["left"] + n: -1.0}, -float(hourly.left_wh[n])))
            starts = {at["engine"] + n: 1.0, at["begun"] + n: -1.0}
            if n:
                starts[at["engine"] + n - 1] = -1.0
            self.rows.append((starts, 0.0))
        for j, day, place in self.undone:
            row = {p: 1.0 for k, d, _, p in self.begin if (k, d) == (j, day)}
            self.equal.append(({**row, place: 1.0}, 1.0))
        if hourly.on_hand_l is not None:
            fuel = {at["engine"] + n: float(hourly.litres[n]) for n in range(self.n)}
            self.rows.append((fuel, hourly.on_hand_l))

    def at_most(self, kind: str, value: float) -> None:
        """No more of a kind than so much, jobs that are not done with it."""
        shares = self.hourly.reaches if kind == "keep" else np.ones(self.n)
        row = {self.at[kind] + n: float(shares[n]) for n in range(self.n)}
        for j, _, place in self.undone:
            if self.hourly.jobs[j].keep == (kind == "keep") and kind != "left":
                row[place] = self.hourly.jobs[j].wh
        self.rows.append((row, value))

    def worths(self) -> Any:
        """What each variable costs."""
        cost = np.zeros(self.count)
        cost[self.at["engine"] : self.at["engine"] + self.n] = self.hourly.litres * LITRE_WORTH
        keep = KEEP_WORTH * self.hourly.reaches
        for kind, worth in (("begun", START_WORTH), ("keep", keep), ("room", 1.0), ("left", LEFT_WORTH)):
            cost[self.at[kind] : self.at[kind] + self.n] = worth
        for j, day, n, place in self.begin:
            cost[place] = HOUR_WORTH * abs(n - self.hourly.jobs[j].days[day][1]) / 2.0
        for j, _, place in self.undone:
            cost[place] = self.hourly.jobs[j].worth
        return cost

    def fuel(self) -> Any:
        """Litres by variable."""
        cost = np.zeros(self.count)
        cost[self.at["engine"] : self.at["engine"] + self.n] = self.hourly.litres
        return cost

    def solved(self, cost: Any) -> Any:
        """Values of all variables at which the cost is least; none where there are none."""
        hourly = self.hourly
        low, high = np.zeros(self.count), np.ones(self.count)
        for kind in ("spilt", "keep", "room", "left"):
            high[self.at[kind] : self.at[kind] + self.n] = np.inf
        low[: self.n], high[: self.n] = hourly.floor_wh, hourly.full_wh
        high[self.at["engine"] : self.at["engine"] + self.n] = hourly.may_run.astype(float)
        less, most = self._matrix(self.rows)
        same, right = self._matrix(self.equal)
        found = linprog(cost, less, most, same, right, np.column_stack((low, high)), method="highs")
        return found.x if found.status == 0 else None

    def _matrix(self, rows: list[tuple[dict[int, float], float]]) -> tuple[Any, Any]:
        entries = [(k, place, value) for k, (row, _) in enumerate(rows) for place, value in row.items()]
        lines, places, values = zip(*entries, strict=True)
        shape = (len(rows), self.count)
        return coo_matrix((values, (lines, places)), shape=shape).tocsr(), np.array([r for _, r in rows])

    def sum(self, kind: str, found: Any) -> float:
        """All of a kind together."""
        return float(found[self.at[kind] : self.at[kind] + self.n].sum())

    def litres(self, found: Any) -> float:
        """Fuel burned."""
        return float(self.hourly.litres @ found[self.at["engine"] : self.at["engine"] + self.n])

    def undone_wh(self, found: Any) -> float:
        """Energy of jobs that are not done."""
        return float(sum(self.hourly.jobs[j].wh * found[place] for j, _, place in self.undone))
