"""Cold compartments over the run: how warm, how long over their limit, what was said about it."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import TYPE_CHECKING

from weary_cedar.core.demand import RefrigeratingDemand
from weary_cedar.core.demand.cold_store import ColdStore
from weary_cedar.core.outage.result import CompartmentShare

if TYPE_CHECKING:
    from weary_cedar.core.outage.kernel import OutageRun


#: Food that spoils is thrown away after so long over the limit, all told, s. Common practice of food safety
#: (two hours over 40 °F), from memory.
SPOILS_AFTER_S = 7_200.0


def spoils_at(rows: Sequence[tuple[float, float]], limit_c: float) -> float | None:
    """When food that spoils has to be thrown away.

    Args:
        rows: change points of the contents: s, °C; straight between.
        limit_c: what they may reach, °C.

    Returns:
        The moment at which they were over the limit for two hours, all told, s; nothing if never.

    >>> spoils_at([(0.0, 2.0), (3600.0, 6.0), (7200.0, 6.0), (14400.0, 6.0)], 4.0)
    9000.0
    """
    over = 0.0
    for (first_s, first_c), (last_s, last_c) in pairwise(rows):
        begin, end = first_s, last_s
        if (first_c > limit_c) != (last_c > limit_c):
            crossed = first_s + (last_s - first_s) * (limit_c - first_c) / (last_c - first_c)
            begin, end = (crossed, last_s) if last_c > limit_c else (first_s, crossed)
        elif first_c <= limit_c:
            continue
        if over + end - begin >= SPOILS_AFTER_S:
            return begin + SPOILS_AFTER_S - over
        over += end - begin
    return None


def spoils_s(store: ColdStore) -> float | None:
    """When food in a compartment that spoils has to be thrown away, s; nothing if never."""
    return spoils_at([(t, c) for t, c, _ in store.rows], store.compartment.limit_c)


def compartments_of(run: OutageRun) -> dict[str, CompartmentShare]:
    """Every compartment of a run that is over, by load and compartment.

    Args:
        run: gone through to its end; its notebook gets a line where contents became too warm.

    Returns:
        Temperatures of contents and air at their change points, °C; time over the limit, s, counted
        on the contents: a thermometer in the air reads warmer without power.
    """
    found = {}
    for load in run.loads:
        if not isinstance(load.demand, RefrigeratingDemand):
            continue
        load.demand.close(run.end_s)
        for key, store in load.demand.stores.items():
            item = store.compartment
            alone = len(load.demand.stores) == 1
            name = load.name if alone else f"{load.name}, {item.name}"
            if store.thaws_s is not None:
                run.out.food_thaws(store.thaws_s, load, name, store.thawed_s)
            lost_s = min((s for s in (store.thawed_s, spoils_s(store)) if s is not None), default=None)
            if lost_s is not None:
                run.food_lost[load.id] = min(lost_s, run.food_lost.get(load.id, lost_s))
            if store.first_over_s is not None:
                run.out.food_warm(store.first_over_s, load, name, item.limit_c, store.over_s)
            found[f"{load.id}/{key}"] = CompartmentShare(
                name=name,
                load=load.id,
                start_c=store.start_c,
                highest_c=store.highest_c,
                end_c=store.contents_c,
                limit_c=item.limit_c,
                over_s=store.over_s,
                first_over_s=store.first_over_s,
                thaws_at_s=store.thaws_s,
                thawed_at_s=store.thawed_s,
                spoils_at_s=spoils_s(store),
                t_s=tuple(t for t, _, _ in store.rows),
                contents_c=tuple(c for _, c, _ in store.rows),
                air_c=tuple(c for _, _, c in store.rows),
            )
    return found
