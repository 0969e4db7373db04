"""Lists of a plan as CSV: what it needs, and what it owns."""

import csv
import io
from collections.abc import Iterable, Sequence

from weary_cedar.core.breakers import told_spaces
from weary_cedar.core.decide.needs import NeedList
from weary_cedar.core.inventory import Inventory
from weary_cedar.core.plan import Plan
from weary_cedar.formats.cells import as_text
from weary_cedar.formats.spreadsheet import as_spreadsheet

NEEDS = ("name", "running_w", "wh_day", "start_va", "breaker", "mark", "how_sure", "doubt_wh_a_day")


def needs_csv(plan: Plan, needs: NeedList) -> str:
    """Needs, the costliest first; lines of it can be read as needs again.

    Args:
        plan: for the breakers.
        needs: its list.
    """
    return _csv(NEEDS, _needs(plan, needs))


def needs_spreadsheet(plan: Plan, needs: NeedList) -> bytes:
    """The same as a spreadsheet."""
    return as_spreadsheet("Needs", NEEDS, _needs(plan, needs))


def _needs(plan: Plan, needs: NeedList) -> list[list[str]]:
    rows = []
    for need in needs.needs:
        circuit = plan.circuits.get(need.circuit_id or "")
        place = "" if circuit is None else told_spaces(circuit.spaces, circuit.half)
        figures = (need.running_w, need.wh_day, need.start_va)
        told = ["" if figure is None else f"{figure:.10g}" for figure in figures]
        rows.append([as_text(need.name), *told, place, need.mark, need.origin, f"{need.wh_day_error:.0f}"])
    return rows


def inventory_csv(found: Inventory) -> str:
    """What a plan owns, with what it does, price and weight."""
    rows = [
        [
            item.room,
            as_text(item.name),
            item.count,
            as_text(item.words),
            as_text(item.does),
            as_text(item.place or ""),
            "" if item.price is None else f"{item.price:.10g}",
            "" if item.weight_kg is None else f"{item.weight_kg:.10g}",
        ]
        for item in found.items
    ]
    return _csv(("kind", "name", "count", "plate", "does", "place", "price", "weight_kg"), rows)


def _csv(head: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(head)
    writer.writerows(rows)
    return out.getvalue()
