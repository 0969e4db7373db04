"""Everything a plan owns or thinks of buying: where it is, what it costs and weighs."""

from collections.abc import Iterator

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.deeds import deeds
from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import (
    Adapter,
    Cord,
    ExternalBattery,
    Generator,
    Inlet,
    Pack,
    Plan,
    SolarArray,
    Station,
    Vehicle,
)
from weary_cedar.core.plan.base import Owned


class Item(BaseModel):
    """One thing, or several alike."""

    model_config = ConfigDict(frozen=True)

    room: str
    id: str
    name: str
    words: str
    #: What it does for the plan, in one line; only where a run is at hand.
    does: str = ""
    count: int
    place: str | None
    price: float | None
    weight_kg: float | None


class Inventory(BaseModel):
    """All things, what those with a price cost together, and how many have none."""

    model_config = ConfigDict(frozen=True)

    items: tuple[Item, ...]
    price: float
    without_price: int
    weight_kg: float
    without_weight: int


def inventory(plan: Plan, run: RunResult | None = None) -> Inventory:
    """List what a plan owns.

    Args:
        plan: the plan.
        run: its run, for what each thing does.

    Returns:
        Stations, packs, linking kits, generators, arrays, vehicles, external batteries, what is in the
        box and what is at the joints of feeds. Price and weight of an item count all of its pieces;
        of an array its price and weight are those of the whole. Vehicles are not weighed.

    Source: prices and weights as given.
    """
    does = deeds(plan, run) if run is not None and run.ledger is not None else {}
    first: set[tuple[str, str]] = set()
    listed = []
    for item in _items(plan):
        key = (item.room, item.id)
        listed.append(item if key in first else item.model_copy(update={"does": does.get(key, "")}))
        first.add(key)
    items = tuple(listed)
    prices = [item.price for item in items]
    weights = [item.weight_kg for item in items if item.room != "vehicles"]
    return Inventory(
        items=items,
        price=sum(value for value in prices if value is not None),
        without_price=sum(value is None for value in prices),
        weight_kg=sum(value for value in weights if value is not None),
        without_weight=sum(value is None for value in weights),
    )


def _items(plan: Plan) -> Iterator[Item]:
    for key, station in plan.stations.items():
        yield _item(plan, ("stations", key, station.name), station)
        for pack in station.packs.values():
            yield _item(plan, ("stations", key, f"{pack.name} of {station.name}"), pack, pack.count)
    for room in ("links", "generators", "arrays", "vehicles", "externals"):
        for key, part in getattr(plan, room).items():
            count = part.in_series * part.parallel if room == "externals" else 1
            yield _item(plan, (room, key, part.name), part, count)
    for key, kept in plan.box.items():
        yield _item(plan, ("box", key, kept.name or kept.part), kept)
    for key, lead in plan.leads.items():
        joints: tuple[Cord | Adapter, ...] = (*lead.cords, *lead.adapters)
        for joint in joints:
            yield _item(plan, ("leads", key, joint.name or f"{joint.part} in use"), joint)


def _item(plan: Plan, named: tuple[str, str, str], part: Owned, count: int = 1) -> Item:
    room, key, name = named
    place = plan.places.get(part.place_id or "")
    return Item(
        room=room,
        id=key,
        name=name,
        words=_words(plan, part),
        count=count,
        place=place.name if place else None,
        price=None if part.price is None else count * part.price,
        weight_kg=None if part.weight_kg is None else count * part.weight_kg,
    )


def _words(plan: Plan, part: Owned) -> str:
    """The two or three figures by which one knows it."""
    match part:
        case Station():
            return f"{part.output} V, {part.rated_va:,.0f} VA, {part.total_cell_wh / 1000:,.1f} kWh"
        case Pack():
            return f"{part.total_cell_wh / 1000:,.1f} kWh"
        case Generator():
            return f"{part.output} V, {part.rated_w:,.0f} W, {part.fuel.replace('_', ' ')}"
        case SolarArray():
            station = plan.stations.get(part.station_id or "")
            on = f" on {station.name}" if station else ""
            return f"{part.series} × {part.parallel} of {part.module.watts:,.0f} W{on}"
        case Vehicle():
            energy = f", {part.usable_kwh:g} kWh" if part.usable_kwh else ""
            return f"{part.kind}, {part.gives_w:,.0f} W{energy}"
        case ExternalBattery():
            return f"{part.in_series} × {part.parallel}, {part.total_wh / 1000:,.1f} kWh"
        case Cord():
            return f"{plan.site.units.told_length(part.length_m)}, {part.size}"
        case Adapter():
            return f"{part.source_end} to {part.load_end}, {part.rating_a:g} A"
        case Inlet():
            return f"{part.kind}, {part.rating_a:g} A"
    return ""
