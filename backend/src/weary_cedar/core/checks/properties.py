"""What parts of a plan have in common that checks ask about: storing energy at a place, burning something."""

from collections.abc import Iterator
from dataclasses import dataclass

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Element
from weary_cedar.core.plan import Generator, Owned, Place, Vehicle

#: Places that are not open air.
ENCLOSED = ("living_space", "bedroom", "garage", "basement", "vehicle")


@dataclass(frozen=True)
class Standing:
    """Something that stands at a place; no place where that is not said."""

    element: Element
    part: Owned
    place: Place | None
    #: Whether it is part of something whose place is judged already.
    within: bool = False

    @property
    def enclosed(self) -> bool:
        """Whether it stands in a room, a garage or a vehicle."""
        return self.place is not None and self.place.kind in ENCLOSED


def stores(facts: Facts) -> Iterator[Standing]:
    """Everything that stores energy at a place: stations, packs and batteries beside them, vehicles.

    A pack or a battery of which no place is said stands beside its station.
    """
    plan = facts.plan
    for key, station in plan.stations.items():
        element = facts.element("stations", key)
        yield _at(facts, element, station, station.place_id)
        for pack in station.packs.values():
            if pack.place_id is not None and pack.place_id != station.place_id:
                yield _at(facts, element, pack, pack.place_id, within=True)
    for key, battery in plan.externals.items():
        beside = plan.stations.get(battery.station_id or "")
        place_id = battery.place_id or (beside.place_id if beside else None)
        yield _at(facts, facts.element("externals", key), battery, place_id, within=battery.place_id is None)
    for key, vehicle in plan.vehicles.items():
        if vehicle.kind != "engine":
            yield _at(facts, facts.element("vehicles", key), vehicle, vehicle.place_id)


@dataclass(frozen=True)
class Burning(Standing):
    """Something whose exhaust kills; `burns` is unknown where nobody knows whether its engine may start."""

    burns: str = "yes"


def burners(facts: Facts) -> Iterator[Burning]:
    """Everything that burns something: engines, and vehicles whose engine runs or may start."""
    plan = facts.plan
    owned: list[tuple[str, str, Generator | Vehicle]] = [
        ("generators", *item) for item in plan.generators.items()
    ]
    owned += [("vehicles", *item) for item in plan.vehicles.items()]
    for room, key, part in owned:
        burns = "yes"
        if isinstance(part, Vehicle):
            burns = {"battery": "no", "engine": "yes", "hybrid": part.may_start_engine}[part.kind]
        if burns != "no":
            place = plan.places.get(part.place_id or "")
            yield Burning(facts.element(room, key), part, place, burns=burns)


def _at(
    facts: Facts, element: Element, part: Owned, place_id: str | None, *, within: bool = False
) -> Standing:
    return Standing(element, part, facts.plan.places.get(place_id or ""), within)
