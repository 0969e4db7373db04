"""The electrical sequence of a heater, found in a meter series of its calls."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.plan.load import SequenceStep

Array = NDArray[np.float64]

#: Above this a heater is called; below it only its controls draw, W.
CALLED_W = 25.0
#: Two levels are different steps when they differ by this share and this many watts.
STEP_SHARE, STEP_LEAST_W = 0.15, 15.0
#: A step lasts at least this many samples.
STEP_SAMPLES = 2
#: A level is the median of at most so many samples back.
LOOK_BACK = 500
#: A call of more samples than this is none.
MOST_SAMPLES = 20_000
#: Anything shorter is a start, not a step, s.
SHORTEST_S = 5.0
#: Coarser series do not show the steps, s.
COARSEST_S = 15.0


@dataclass(frozen=True)
class Sequence:
    """Steps before the run, watts of the run, steps after it, and how many calls were seen."""

    before: tuple[SequenceStep, ...]
    run_w: float
    after: tuple[SequenceStep, ...]
    calls: int


def find_sequence(t_s: Array, watts: Array) -> Sequence:
    """Find the steps of a call: inducer, igniter, run, purge.

    Args:
        t_s: times, s, rising.
        watts: power from each time to the next, W.

    Returns:
        The call whose length is the median of all whole calls, parted into levels; the longest
        level is the run, what comes before and after it are the other steps.

    Raises:
        InvalidInput: samples too far apart, or no whole call.

    Method: levels are parted where a sample leaves the median of its level by 15 % and 15 W.
    """
    step_s = float(np.median(np.diff(t_s))) if len(t_s) > 1 else np.inf
    if step_s > COARSEST_S:
        raise _refused(f"a sample every {step_s:g} s", f"a sample at least every {COARSEST_S:g} s")
    called = watts > CALLED_W
    edges = np.flatnonzero(np.diff(called.astype(int)))
    whole = pairwise(int(edge) + 1 for edge in edges)
    calls = [(a, b) for a, b in whole if called[a] and b - a >= 3 * STEP_SAMPLES]
    if not calls:
        raise _refused("no whole call", "at least one call from off to off")
    if max(b - a for a, b in calls) > MOST_SAMPLES:
        raise _refused("a call that does not end", f"calls of at most {MOST_SAMPLES:,} samples")
    by_length = sorted(calls, key=lambda call: t_s[call[1]] - t_s[call[0]])
    levels = _levels(t_s, watts, *by_length[len(by_length) // 2])
    run = max(range(len(levels)), key=lambda i: levels[i][1])
    return Sequence(
        before=_steps(levels[:run], "before"),
        run_w=levels[run][0],
        after=_steps(levels[run + 1 :], "after"),
        calls=len(calls),
    )


def _levels(t_s: Array, watts: Array, first: int, past: int) -> list[tuple[float, float]]:
    """(median watts, seconds) of every stretch between changes."""
    bounds = [first]
    for i in range(first + 1, past):
        level = float(np.median(watts[max(bounds[-1], i - LOOK_BACK) : i]))
        leaves = abs(watts[i : i + STEP_SAMPLES] - level) > max(STEP_SHARE * level, STEP_LEAST_W)
        if i - bounds[-1] >= STEP_SAMPLES and leaves.all() and i + STEP_SAMPLES <= past:
            bounds.append(i)
    bounds.append(past)
    levels = [(float(np.median(watts[a:b])), float(t_s[b] - t_s[a])) for a, b in pairwise(bounds)]
    return [level for level in levels if level[1] >= SHORTEST_S] or levels


def _steps(levels: list[tuple[float, float]], when: str) -> tuple[SequenceStep, ...]:
    return tuple(
        SequenceStep(name=f"{when} {number}", watts=round(watts, 1), seconds=round(min(3600.0, seconds), 1))
        for number, (watts, seconds) in enumerate(levels[-8:], start=1)
    )


def _refused(value: str, right: str) -> InvalidInput:
    problem = Problem("/series", value, right)
    return InvalidInput(str(problem), (problem,))
