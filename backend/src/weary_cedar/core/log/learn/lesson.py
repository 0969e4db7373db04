"""The lesson of a session: what is fitted, what does not fit, and what to read next, in words."""

import math
from typing import Any, Final

import numpy as np
from pydantic import BaseModel, ConfigDict

from weary_cedar.core.log.from_then_on import rest_of
from weary_cedar.core.log.learn.figures import Figure, boxes_of, charging_of, figures_of
from weary_cedar.core.log.learn.fit import Fit, strays_of
from weary_cedar.core.log.learn.readings import station_of
from weary_cedar.core.log.session import Session, SessionRow
from weary_cedar.core.outage import first_part, run_outage
from weary_cedar.core.plan import Plan

#: A row that is off by more than this many times what it may be does not fit.
MISFIT: Final = 4.0
#: No figure is told nearer than this share: cycles stand elsewhere than the run has them. Common practice.
NO_NEARER: Final = 0.02
#: Rows are left out as not fitting where no more than a third of them do not fit.
MOST_FIT: Final = 2.0 / 3.0
#: Watts that are read together with the first charge are those of the minute after it, s.
SOON_S: Final = 60.0
#: Beyond this the plan does not describe what ran.
STRAYS: Final = 4.0
#: A figure is learnt where its interval is narrower than this share of what it was.
LEARNT: Final = 0.7
#: Half a width of the interval that holds nine times in ten, in standard deviations.
NINE_IN_TEN: Final = 1.645
#: Fewer readings teach nothing.
LEAST_ROWS: Final = 2
#: So many rows are fitted; of more, every second, third, …
MOST_ROWS: Final = 600


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
    read = [row for row in session.standing() if station_of(plan, row) is not None]
    charged = [row for row in read if row.what == "charge" and session.seconds(plan, row.at) >= 0]
    first_s = session.seconds(plan, charged[0].at) if charged else 0.0
    rows = [row for row in read if _is_told_after(row, session.seconds(plan, row.at) - first_s)]
    if not charged or len(rows) < LEAST_ROWS:
        why = f"{len(rows)} readings after a first charge are too few: at least {LEAST_ROWS} are needed"
        return Lesson(sentence=f"Nothing learnt yet: {why}.", rows=len(rows), why_not=why)
    went = rest_of(plan, session, first_s).plan
    left_out = len(rows)
    rows = rows[:: max(1, math.ceil(len(rows) / MOST_ROWS))]
    left_out -= len(rows)
    boxes = {row.part.partition("/")[2] for row in rows if row.what == "temperature_c"}
    figures = figures_of(went, boxes) + charging_of(went, run_outage(went)) + boxes_of(went, rows)
    times = np.array([max(SOON_S, session.seconds(plan, row.at) - first_s) for row in rows])
    part = first_part(went, min(went.outage.length_s, max(3_600.0, float(times.max()) + 60.0)))
    fit = Fit(part, figures, rows, times)
    found = fit.solve(np.zeros(fit.size), np.ones(len(rows), dtype=bool))
    off = fit.off(found.logs)
    kept = np.abs(off) <= MISFIT * strays_of(off)
    if not kept.all() and kept.sum() >= max(LEAST_ROWS, MOST_FIT * len(rows)):
        found = fit.solve(found.logs, kept)
        off = fit.off(found.logs)
    expected = fit.expected(found.logs)
    strays = strays_of(off)
    deviations = strays * found.deviations[: len(figures)]
    deviations = np.minimum(np.maximum(deviations, NO_NEARER), [figure.spread for figure in figures])
    learnt = tuple(
        _learnt(*item) for item in zip(figures, found.logs[: len(figures)], deviations, strict=True)
    )
    misfits = tuple(
        _misfit(went, fit, row, float(value))
        for row, value, far in zip(rows, expected, off, strict=True)
        if (abs(far) > MISFIT * strays and not fit.something_ran(row, float(value)))
        or fit.too_little_ran(row)
    )
    return Lesson(
        sentence=_sentence(learnt, misfits, len(rows), strays, left_out), figures=learnt, misfits=misfits,
        rows=len(rows), next=_next(learnt),
    )  # fmt: skip


def _learnt(figure: Figure, log: float, deviation: float) -> Learnt:
    ends = sorted(figure.value(math.exp(log + sign * NINE_IN_TEN * deviation)) for sign in (-1, 1))
    return Learnt(
        key=figure.key, words=figure.words, unit=figure.unit, before=figure.before,
        after=figure.value(math.exp(log)), low=ends[0], high=ends[1],
        learnt=deviation < LEARNT * figure.spread, patch=figure.patch(math.exp(log)),
    )  # fmt: skip


def _is_told_after(row: SessionRow, after_s: float) -> bool:
    """Whether a row teaches something beside the first charge: watts read together with it do."""
    return after_s > 1.0 or (row.what != "charge" and after_s >= -1.0)


def _misfit(plan: Plan, fit: Fit, row: SessionRow, expected: float) -> Misfit:
    read = row.value or 0.0
    slip = ""
    for factor, words in ((10.0, "ten times too large"), (0.1, "ten times too small"), (1000.0, "kW for W"),
                          (0.001, "W for kW")):  # fmt: skip
        near = abs(read - expected * factor) <= 0.25 * abs(expected * factor)
        if row.what != "charge" and (near or (row.what == "out_w" and fit.is_near(row, read / factor))):
            slip = f"it may be {words}: {read / factor:.0f} would fit" if read else ""
            break
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
