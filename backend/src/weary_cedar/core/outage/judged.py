"""A run of which only the verdict is asked: for those who run many."""

from collections.abc import Mapping
from dataclasses import dataclass

from weary_cedar.core.network import Network
from weary_cedar.core.outage.carriers import EngineCarrier
from weary_cedar.core.outage.food import compartments_of
from weary_cedar.core.outage.kernel import OutageRun
from weary_cedar.core.outage.result import EventKind
from weary_cedar.core.outage.verdict import lost, unreached
from weary_cedar.core.plan import Plan

#: What brings a load down, and how long before it is lost that may be, s.
CAUSES: tuple[EventKind, ...] = (
    "trip", "breaker_trip", "input_trip", "empty", "source_empty", "engine_dry", "engine_fails",
    "idle_cutout", "locked_out", "left_off", "shed", "room_shed", "vehicle_off", "unplugged",
)  # fmt: skip
BEFORE_S = 6 * 3600.0
HOUR_S = 3600.0
#: Lost from the very beginning.
LATE = ("late", "", "nobody changes over in time")


@dataclass(frozen=True)
class Judged:
    """What is kept of one run: whether and until when it lasts, what fails first, how batteries went."""

    lasts: bool
    until_s: float | None
    #: The load that is lost first, and what brought it down: the kind of event, its part, in words.
    first_lost: str | None
    cause: tuple[str, str, str] | None
    #: Charge of every battery at each full hour, %.
    percents: Mapping[str, tuple[float, ...]]
    lowest_percent: float
    length_s: float
    engine_starts: int


def judge(network: Network, plan: Plan, fails_at: Mapping[str, int] | None = None) -> Judged:
    """Run an outage for its verdict alone.

    Args:
        network: of the plan, or of one with the same parts: who reaches what is the same.
        plan: what is run; its parts in the order of the network's.
        fails_at: by engine, which of its starts does not succeed, from 1.

    Returns:
        The same verdict as `run_outage` gives, without words and series.

    Raises:
        RunTooLong: more changes than are counted through.

    Source: definitions of this program, as `outage.verdict`.
    """
    run = OutageRun(network.with_plan(plan))
    for carrier in run.carriers:
        if isinstance(carrier, EngineCarrier):
            carrier.engine.fails_at = (fails_at or {}).get(carrier.key, 0)
    run.run()
    compartments_of(run)
    for load in run.loads:
        load.close_books(run.end_s)
    found, never = lost(run), unreached(run)
    first = min(found, key=lambda key: found[key], default=None)
    until_s = None if first is None else found[first]
    whole = sum(unit.all_wh for unit in run.measured)
    return Judged(
        lasts=not found and not never,
        until_s=0.0 if never else until_s,
        first_lost=never[0] if never else first,
        cause=_unreached(run, never[0]) if never else None if until_s is None else _cause(run, until_s),
        percents={unit.key: _by_hour(unit.rows, unit.all_wh, run.end_s) for unit in run.measured},
        lowest_percent=100.0 * min(row[9] for row in run.out.rows) / whole if whole else 0.0,
        length_s=run.end_s,
        engine_starts=sum(c.engine.starts for c in run.carriers if isinstance(c, EngineCarrier)),
    )


def _unreached(run: OutageRun, load_id: str) -> tuple[str, str, str]:
    return "unreached", load_id, f"no feed reaches {run.plan.loads[load_id].name}"


def _cause(run: OutageRun, until_s: float) -> tuple[str, str, str] | None:
    """The last thing before a loss that brings loads down."""
    if until_s < 1.0:
        return LATE
    near = [e for e in run.out.events if e.kind in CAUSES and until_s - BEFORE_S <= e.t_s <= until_s + 1.0]
    return (near[-1].kind, near[-1].part, near[-1].what) if near else None


def _by_hour(rows: list[tuple[float, float, float, float]], all_wh: float, end_s: float) -> tuple[float, ...]:
    """Charge at each full hour, %, straight between the points of a course."""
    found, at = [], 0
    for hour in range(int(end_s // HOUR_S) + 1):
        t = hour * HOUR_S
        while at + 1 < len(rows) and rows[at + 1][0] <= t:
            at += 1
        t0, wh = rows[at][0], rows[at][1]
        if at + 1 < len(rows) and rows[at + 1][0] > t0:
            t1, next_wh = rows[at + 1][0], rows[at + 1][1]
            wh += (next_wh - wh) * (t - t0) / (t1 - t0)
        found.append(100.0 * wh / all_wh if all_wh else 0.0)
    return tuple(found)
