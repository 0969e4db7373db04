"""What usually hangs on breakers that nothing is said of, by their labels."""

from collections.abc import Sequence
from dataclasses import replace

from weary_cedar.core.breakers.figures import usual_load
from weary_cedar.core.breakers.row import BreakerRow, SaidLoad
from weary_cedar.core.plan import Plan
from weary_cedar.core.tables import table


def with_usual_loads(plan: Plan, rows: Sequence[BreakerRow]) -> list[BreakerRow]:
    """Rows with what their labels usually mean, where nothing hangs on them.

    Args:
        plan: what the rows are for.
        rows: as they were read.

    Returns:
        The rows; one that says no mark takes the usual one of what hangs on it now.

    Source: label_words.csv and rooms.csv, common practice.
    """
    marks = {row["appliance_id"]: row["mark"] for row in table("rooms")}
    hung = {load.circuit_id for load in plan.loads.values()}
    found = []
    for row in rows:
        usual = None if row.loads or row.circuit_id in hung else usual_load(row.label, len(row.spaces))
        if usual is not None:
            name, class_id = usual
            mark = {} if "mark" in row.given else {"mark": marks.get(class_id, "off")}
            row = replace(row, loads=(SaidLoad(name.name),), given={**mark, **row.given})  # noqa: PLW2901
        found.append(row)
    return found
