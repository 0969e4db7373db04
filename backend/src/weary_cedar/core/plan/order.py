"""One order of a plan's parts that hangs on what they say, never on their ids or on the order of keys.

A part's colour is a checksum of its own figures; in a few rounds it takes in the colours of all that it
names and of all that name it, each by its field. Parts of one colour are alike in everything but their
names and ids, so it does not matter which of them comes first.
Source: refinement of colours, common in comparing graphs (B. Weisfeiler and A. Leman, 1968).
"""

from collections.abc import Mapping
from hashlib import blake2b
from typing import Any, Final

from weary_cedar.core.plan.document import Plan
from weary_cedar.core.plan.load import Load, Refrigerating
from weary_cedar.core.plan.station import Station

#: Rooms of a plan whose parts something may hang on.
ROOMS: Final = (
    "panels", "circuits", "loads", "stations", "links", "generators", "arrays", "vehicles", "externals",
    "feeds", "leads", "places",
)  # fmt: skip
#: Fields that name a part of a room.
REFERS: Final = {
    "panel_id": "panels", "fed_from": "circuits", "circuit_id": "circuits", "circuit_ids": "circuits",
    "multiwire_partner": "circuits", "load_id": "loads", "load_ids": "loads", "station_id": "stations",
    "leg_a": "stations", "leg_b": "stations", "generator_id": "generators", "array_id": "arrays",
    "lead_id": "leads", "feed_id": "feeds", "place_id": "places", "switch_legs": "circuits",
}  # fmt: skip
#: Words for people, answers of the survey, ids of what lies inside another part; and which leg is called A.
UNTOLD: Final = frozenset(
    {"name", "label", "survey", "id", "part_id", "pack_id", "input_id", "outlet", "outlet_id", "first_leg"}
)
#: Fields whose keys are ids of what lies inside of a part.
KEYED: Final = ("receptacles", "packs", "ac_inputs", "dc_inputs", "dc_outputs", "compartments")

#: Kind of a source where none is said.
USUAL_KIND: Final = "station"

Place = tuple[str, str]
Told = dict[str, Any]


def _checksum(value: Any) -> str:
    return blake2b(repr(value).encode(), digest_size=8).hexdigest()


def _told(value: Any) -> Any:
    """What a part says itself: figures and words of its kind, without names and ids."""
    if isinstance(value, dict):
        said = [(key, item) for key, item in value.items() if key not in UNTOLD and key not in REFERS]
        return [(k, sorted(repr(_told(x)) for x in v.values()) if k in KEYED else _told(v)) for k, v in said]
    if isinstance(value, tuple) and value and isinstance(value[0], dict):
        return [_told(item) for item in value]
    return value


class Colours:
    """Colours of the parts of one plan."""

    def __init__(self, plan: Plan) -> None:
        #: Only what is said otherwise than usual: alike for parts that are alike.
        self.told: Told = plan.model_dump(exclude_defaults=True)
        self.of: dict[Place, str] = {}
        self._edges: list[tuple[Place, str, Place]] = []
        for room in ROOMS:
            for key, part in self.told.get(room, {}).items():
                self._add((room, key), part)
        outage: Told = self.told["outage"]
        for room in ("incidents", "acts"):
            for key, part in outage.get(room, {}).items():
                self._add((room, key), part)
        strategy: Told = self.told.get("strategy", {})
        for index, rule in enumerate(strategy.get("rules", ())):
            self._add(("rules", str(index)), rule, plan.strategy.rules[index].kind)
        for index, key in enumerate(strategy.get("recovery_off", ())):
            self._add(("recovery", str(index)), {"circuit_id": key})
        self._add_charges(outage)
        self._refine()

    def _add(self, place: Place, part: Told, more: str = "") -> None:
        self.of[place] = _checksum((place[0], _told(part), more))
        self._references(place, part)

    def _references(self, place: Place, part: Told) -> None:
        """Note what a part names, and in which of its fields."""
        inner = self._inner(part)
        for field, value in part.items():
            room = REFERS.get(field)
            if room is not None:
                keys = (value,) if isinstance(value, str) else value or ()
                for index, key in enumerate(keys):
                    how = value[key] if isinstance(value, dict) else index
                    self._edges.append((place, f"{field} {how}", (room, key)))
            elif field == "id":
                self._edges.append(
                    (
                        place,
                        f"{part.get('kind', USUAL_KIND)} {inner}",
                        (f"{part.get('kind', USUAL_KIND)}s", value),
                    )
                )
            elif field == "part_id":
                self._edges.append((place, f"part {inner}", (part["room"], value)))
            elif isinstance(value, dict):
                self._references(place, value)
            elif isinstance(value, tuple) and value and isinstance(value[0], dict):
                for item in value:
                    self._references(place, item)
        if inner:
            self.of[place] = _checksum((self.of[place], inner))

    def _inner(self, part: Told) -> str:
        """What a part names inside another one: an outlet, an input, a pack."""
        found = []
        outlet, source = part.get("outlet"), None
        if "outlet" in part and "id" in part:
            source = self.told.get(f"{part.get('kind', USUAL_KIND)}s", {}).get(part["id"], {})
        elif part.get("outlet_id") is not None:
            outlet, source = part["outlet_id"], self.told.get(part["room"], {}).get(part["part_id"], {})
        if source is not None:
            units = [
                self.told.get("stations", {}).get(source[leg], {})
                for leg in ("leg_a", "leg_b")
                if leg in source
            ]
            outlets = [room.get("receptacles", {}).get(outlet) for room in (source, *units)]
            found.append(next((outlet for outlet in outlets if outlet), None))
        station = self.told.get("stations", {}).get(part.get("station_id") or part.get("part_id") or "", {})
        pack = station.get("packs", {}).get(part.get("pack_id"))
        if pack is not None:
            found.append(pack)
        if part.get("input_id") is not None:
            holder = station if pack is None else pack
            inputs = {**holder.get("dc_inputs", {}), **holder.get("ac_inputs", {})}
            found.append(inputs.get(part["input_id"]))
        return repr([_told(item) for item in found]) if found else ""

    def _add_charges(self, outage: Told) -> None:
        """What everything is charged to when the outage begins."""
        for key, percent in outage.get("start_charge_percent", {}).items():
            for room in ("stations", "vehicles", "externals"):
                if (room, key) in self.of:
                    self.of[room, key] = _checksum((self.of[room, key], percent))
        for key, packs in outage.get("pack_charge_percent", {}).items():
            held = self.told["stations"][key].get("packs", {})
            told = sorted(repr((percent, _told(held[pack]))) for pack, percent in packs.items())
            self.of["stations", key] = _checksum((self.of["stations", key], told))

    def _refine(self) -> None:
        met = 0
        while met != (met := len(set(self.of.values()))):
            around: dict[Place, list[tuple[str, str, str]]] = {place: [] for place in self.of}
            for one, field, other in self._edges:
                around[one].append((">", field, self.of[other]))
                around[other].append(("<", field, self.of[one]))
            self.of = {place: _checksum((self.of[place], sorted(around[place]))) for place in self.of}

    def of_pack(self, station_id: str, pack_id: str) -> str:
        """Colour of a pack within its station: what it says, its charge, and all that has to do with it."""
        outage = self.told["outage"]
        pack = self.told["stations"][station_id]["packs"][pack_id]
        charge = outage.get("pack_charge_percent", {}).get(station_id, {}).get(pack_id)
        rooms = (self.told.get("arrays", {}), self.told.get("externals", {}), outage.get("acts", {}))
        beside = [
            part for room in rooms for part in room.values()
            if part.get("pack_id") == pack_id and station_id in (part.get("station_id"), part.get("part_id"))
        ]  # fmt: skip
        return _checksum((_told(pack), charge, sorted(repr(_told(part)) for part in beside)))


def in_order(plan: Plan) -> Plan:
    """The same plan with the parts of every room in one order that no id has a say in.

    Args:
        plan: any plan.

    Returns:
        A plan that says the same; its circuits stand as in their panels, loads as their circuits, all other
        rooms, and packs and compartments inside of parts, are ordered by colour, then by name. Only parts
        that are alike to the last figure are told apart by their ids.
    """
    found = Colours(plan)
    colours = found.of
    rooms = {room: _sorted(room, getattr(plan, room), colours) for room in ROOMS}
    rooms["panels"] = dict(sorted(rooms["panels"].items(), key=lambda item: item[1].fed_from is not None))
    panels = list(rooms["panels"])
    breakers = sorted(
        rooms["circuits"].items(),
        key=lambda x: (panels.index(x[1].panel_id), x[1].spaces, x[1].half == "lower"),
    )
    rooms["circuits"] = dict(breakers)
    at = {key: index for index, (key, _) in enumerate(breakers)}
    hung = sorted(rooms["loads"].items(), key=lambda item: at.get(item[1].circuit_id or "", len(at)))
    rooms["loads"] = dict(hung)
    rooms["stations"] = {k: _packs_in_order(k, station, found) for k, station in rooms["stations"].items()}
    rooms["loads"] = {key: _compartments_in_order(load) for key, load in rooms["loads"].items()}
    outage = {room: _sorted(room, getattr(plan.outage, room), colours) for room in ("incidents", "acts")}
    windows = sorted(plan.outage.grid.items(), key=lambda item: item[1].at_s)
    inner = plan.outage.model_copy(update={**outage, "grid": dict(windows)})
    return plan.model_copy(update={**rooms, "outage": inner})


def _sorted(room: str, parts: Mapping[str, Any], colours: Mapping[Place, str]) -> dict[str, Any]:
    def place(item: tuple[str, Any]) -> tuple[str, str, str]:
        words = getattr(item[1], "name", None) or getattr(item[1], "label", None) or ""
        return colours[room, item[0]], words, item[0]

    return dict(sorted(parts.items(), key=place))


def _packs_in_order(key: str, station: Station, colours: Colours) -> Station:
    if len(station.packs) < 2:
        return station
    packs = sorted(station.packs.items(), key=lambda x: (colours.of_pack(key, x[0]), x[1].name, x[0]))
    return station.model_copy(update={"packs": dict(packs)})


def _compartments_in_order(load: Load) -> Load:
    spec = load.behaviour
    if not isinstance(spec, Refrigerating) or len(spec.compartments) < 2:
        return load
    told = {key: repr(_told(item.model_dump())) for key, item in spec.compartments.items()}
    ordered = dict(sorted(spec.compartments.items(), key=lambda item: (told[item[0]], item[1].name, item[0])))
    return load.model_copy(update={"behaviour": spec.model_copy(update={"compartments": ordered})})
