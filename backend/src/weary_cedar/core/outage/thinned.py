"""A result with courses as fine as a screen can show: least and greatest of every short stretch stay.

A course of few rows stays whole. Of a longer one, every stretch keeps its first and last row and, of each
column, the rows with its least and its greatest value: no peak is lost, and no time is moved.
"""

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from typing import TypeVar

from weary_cedar.core.outage.result import Result, RunResult

#: Courses up to so many rows stay whole.
ROWS = 2_000
#: Stretches of a longer course: more than a wide screen has pixels.
STRETCHES = 1_000
#: Decimals of what is drawn: thousandths of a second, a watt, a percent.
DECIMALS = 3

AnyResult = TypeVar("AnyResult", bound=Result)


def rows_kept(times: Sequence[float], columns: Sequence[Sequence[float]], stretches: int) -> list[int]:
    """Rows of a course that a screen needs.

    Args:
        times: of the rows, rising, s.
        columns: values by row.
        stretches: into how many equal parts of the course its rows are put.

    Returns:
        Indices of the rows that stay, rising.
    """
    if not times or times[-1] <= times[0]:
        return list(range(len(times)))
    scale = stretches / (times[-1] - times[0])
    kept: set[int] = set()
    begin = 0
    for end in range(1, len(times) + 1):
        here = int((times[begin] - times[0]) * scale)
        if end < len(times) and int((times[end] - times[0]) * scale) == here:
            continue
        kept |= {begin, end - 1}
        for column in columns if end - begin > 2 else ():
            kept.add(min(range(begin, end), key=column.__getitem__))
            kept.add(max(range(begin, end), key=column.__getitem__))
        begin = end
    return sorted(kept)


def thinned(result: RunResult, rows: int = ROWS, stretches: int = STRETCHES) -> RunResult:
    """A result whose long courses keep what a screen can show; everything else stays as it is.

    Args:
        result: of a run.
        rows: courses up to so many rows stay whole.
        stretches: of a longer course.

    Returns:
        The same result, with fewer rows where there are too many.
    """

    def course(part: AnyResult) -> AnyResult:
        times: tuple[float, ...] = getattr(part, "t_s", ())
        inner = {key: _each(value, course) for key, value in part if _holds_courses(value)}
        if len(times) <= rows:
            return part.model_copy(update=inner) if inner else part
        columns = {
            key: value
            for key, value in part
            if isinstance(value, tuple) and len(value) == len(times) and key != "t_s"
        }
        figures = [[-1.0 if v is None else v for v in values] for values in columns.values()]
        kept = rows_kept(times, figures, stretches)
        columns["t_s"] = times
        update = {key: _drawn(values, kept) for key, values in columns.items()}
        return part.model_copy(update={**inner, **update})

    return course(result)


def _drawn(values: tuple[float | None, ...], kept: Sequence[int]) -> tuple[float | None, ...]:
    return tuple(None if (value := values[row]) is None else round(value, DECIMALS) for row in kept)


def _holds_courses(value: object) -> bool:
    if isinstance(value, dict):
        return any(isinstance(item, Result) for item in value.values())
    return isinstance(value, Result) and hasattr(value, "t_s")


def _each(value: object, course: object) -> object:
    if isinstance(value, dict):
        return {key: course(item) for key, item in value.items()}  # type: ignore[operator]
    return course(value)  # type: ignore[operator]


def stretch(result: RunResult, from_s: float, to_s: float) -> RunResult:
    """A result with its courses only between two moments.

    Args:
        result: of a run.
        from_s: s from the start.
        to_s: later, s.

    Returns:
        Every row of every course in the stretch, and one more on both sides, so that it joins on.
    """

    def course(part: AnyResult) -> AnyResult:
        times: tuple[float, ...] = getattr(part, "t_s", ())
        inner = {key: _each(value, course) for key, value in part if _holds_courses(value)}
        first = max(0, bisect_right(times, from_s) - 1)
        last = min(len(times), bisect_left(times, to_s) + 1)
        rows = {
            key: value[first:last]
            for key, value in part
            if isinstance(value, tuple) and times and len(value) == len(times)
        }
        return part.model_copy(update={**inner, **rows})

    return course(result)
