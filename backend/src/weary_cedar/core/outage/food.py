"""Cold compartments over the run: how warm, how long over their limit, what was said about it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from weary_cedar.core.demand import RefrigeratingDemand
from weary_cedar.core.outage.result import CompartmentShare

if TYPE_CHECKING:
    from weary_cedar.core.outage.kernel import OutageRun


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
                t_s=tuple(t for t, _, _ in store.rows),
                contents_c=tuple(c for _, c, _ in store.rows),
                air_c=tuple(c for _, _, c in store.rows),
            )
    return found
