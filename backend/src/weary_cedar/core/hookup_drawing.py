"""The whole hook-up as one drawing: what is plugged into what, from the sources to the panels."""

from collections.abc import Iterator
from typing import Literal

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.feed_path import feed_paths
from weary_cedar.core.network.feed_limits import way_elements
from weary_cedar.core.network.neutral_states import neutral_states
from weary_cedar.core.network.path import charging_path
from weary_cedar.core.plan import Hookup, Panel, Plan, Recharge, Station

#: Where a stroke's flow is found in a run: room of the result, and the part there.
FlowRoom = Literal["ways", "leads", "externals", "suns", ""]


#: Letters that fit into a line beside a part.
LINE = 28


class DrawnPart(BaseModel):
    """A source, a station, a panel or appliances: what it may carry, and where it stands in the drawing."""

    model_config = ConfigDict(frozen=True)

    #: Its room and id in the plan, `stations/unit`; appliances on cords are `leads/…/loads`.
    key: str
    room: str
    id: str
    name: str
    words: str
    #: Steps from what stands at the very beginning.
    column: int
    rating_va: float | None
    #: The one bond of neutral and ground is here for some source that reaches it.
    bond: bool = False


class DrawnStroke(BaseModel):
    """A lead, a string of modules, a kit or a feeder between two parts."""

    model_config = ConfigDict(frozen=True)

    key: str
    room: str
    id: str
    name: str
    words: str
    begins: str
    ends: str
    #: Most that its parts carry, VA or W in all; not known if absent.
    rating_va: float | None
    flow_room: FlowRoom = ""
    flow_key: str = ""
    #: The pinch of the whole plan is on it.
    pinch: bool = False
    level: Literal["refused", "stop", "cannot_judge", ""] = ""
    #: Of a lead that feeds something: where the bond of its neutral is, in words.
    neutral: str = ""


class HookupDrawing(BaseModel):
    """Everything that is plugged into what."""

    model_config = ConfigDict(frozen=True)

    parts: tuple[DrawnPart, ...]
    strokes: tuple[DrawnStroke, ...]
    #: The part at which a plan opens: what carries most of what must run.
    main: str | None


def hookup_drawing(plan: Plan, facts: Facts | None = None) -> HookupDrawing:
    """Draw a plan's hook-up.

    Args:
        plan: the plan.
        facts: of the same plan, if there are some already.

    Returns:
        Parts with their column and strokes between them; ratings in VA (of direct current, W). The pinch
        is that of the run; the bond of each way is where its transfer leaves it.
    """
    facts = facts or Facts(plan)
    strokes = [*_suns(plan), *_externals(plan), *_kits(plan), *_charging(plan), *_feeding(plan, facts)]
    strokes += _feeders(plan)
    columns = _columns(plan, strokes)
    bonds = {place for key, hookup in plan.hookups.items() if (place := _bond_at(facts, key, hookup))}
    parts = [part for part in _parts(plan, columns, bonds) if part.key in columns]
    main = facts.main
    return HookupDrawing(
        parts=tuple(parts), strokes=tuple(strokes), main=f"leads/{main.lead_id}" if main is not None else None
    )


# -------------------------------------------------------------------- strokes


def _inputs_with_sun(plan: Plan) -> dict[str, list[str]]:
    """Arrays by the input that they share: the first of them stands for all."""
    joined: dict[tuple[str, str, str], list[str]] = {}
    for key, array in sorted(plan.arrays.items()):
        if array.station_id is not None and plan.dc_input_of(array) is not None:
            joined.setdefault((array.station_id, array.pack_id or "", array.input_id or ""), []).append(key)
    return {keys[0]: keys for keys in joined.values()}


def _suns(plan: Plan) -> Iterator[DrawnStroke]:
    for key, keys in _inputs_with_sun(plan).items():
        array = plan.arrays[key]
        entry = plan.dc_input_of(array)
        assert entry is not None
        yield DrawnStroke(
            key=f"arrays/{key}",
            room="arrays",
            id=key,
            name=" and ".join(plan.arrays[item].name for item in keys),
            words=f"input {array.input_id}, {entry.most_w:,.0f} W",
            begins=f"arrays/{key}",
            ends=f"stations/{array.station_id}",
            rating_va=entry.most_w,
            flow_room="suns",
            flow_key=key,
        )


def _externals(plan: Plan) -> Iterator[DrawnStroke]:
    for key, battery in sorted(plan.externals.items()):
        entry = plan.dc_input_of(battery)
        if battery.station_id is not None and entry is not None:
            yield DrawnStroke(
                key=f"externals/{key}",
                room="externals",
                id=key,
                name=battery.name,
                words=f"input {battery.input_id}, {entry.most_w:,.0f} W",
                begins=f"externals/{key}",
                ends=f"stations/{battery.station_id}",
                rating_va=entry.most_w,
                flow_room="externals",
                flow_key=key,
            )


def _kits(plan: Plan) -> Iterator[DrawnStroke]:
    for key, link in sorted(plan.links.items()):
        for unit, side in ((link.leg_a, "A"), (link.leg_b, "B")):
            yield DrawnStroke(
                key=f"links/{key}/{side}",
                room="links",
                id=key,
                name=link.name,
                words="the maker's kit",
                begins=f"stations/{unit}",
                ends=f"links/{key}",
                rating_va=plan.stations[unit].rated_va,
            )


def _charging(plan: Plan) -> Iterator[DrawnStroke]:
    for key, recharge in sorted(plan.recharges.items()):
        begins = f"{recharge.kind}s/{recharge.from_id}"
        if recharge.kind == "circuit":
            begins = f"panels/{plan.circuits[recharge.from_id].panel_id}"
        when = {"always": "always plugged in", "grid": "with the utility", "strategy": "as the rules say"}
        yield DrawnStroke(
            key=f"leads/{key}",
            room="leads",
            id=key,
            name=recharge.name,
            words=f"set to {recharge.setting_w:,.0f} W, {when[recharge.plugged]}",
            begins=begins,
            ends=f"stations/{recharge.station_id}",
            rating_va=_charging_va(plan, recharge),
            flow_room="leads",
            flow_key=key,
        )


def _charging_va(plan: Plan, recharge: Recharge) -> float:
    """Most that a lead into an input carries: the least of the input and of its cords and adapters."""
    station = plan.stations[recharge.station_id]
    entry = station.ac_inputs.get(recharge.input_id)
    if entry is None:
        return station.dc_inputs[recharge.input_id].most_w
    path = charging_path(plan, recharge)
    amps = [found.rating_a for found in path.of("cord", "adapter", "input") if found.rating_a is not None]
    return min(amps) * entry.volts


def _bus(panel: Panel) -> str:
    return "bus not known" if panel.bus_a is None else f"bus {panel.bus_a:.0f} A"


def _feeding(plan: Plan, facts: Facts) -> Iterator[DrawnStroke]:
    paths = {path.lead_id: path for path in feed_paths(plan, facts)}
    pinch = facts.run.verdict.pinch
    for key, hookup in sorted(plan.hookups.items()):
        elements = way_elements(plan, hookup)
        both = plan.site.split_phase and not facts.network.way(key).single
        least = min(elements, key=lambda element: element.rating_a)
        yield DrawnStroke(
            key=f"leads/{key}",
            room="leads",
            id=key,
            name=plan.lead_name(key),
            words=f"{least.name}, {least.rating_a:.0f} A",
            begins=f"{hookup.source_kind}s/{hookup.source_id}",
            ends=f"panels/{hookup.panel_id}" if hookup.panel_id else f"leads/{key}/loads",
            rating_va=least.rating_a * plan.site.leg_volts * (2 if both else 1),
            flow_room="ways",
            flow_key=key,
            pinch=pinch is not None and pinch.feed == key,
            level=_level(facts, key, hookup),
            neutral=paths[key].neutral_words,
        )


def _level(facts: Facts, key: str, hookup: Hookup) -> Literal["refused", "stop", "cannot_judge", ""]:
    if hookup.traits.refused:
        return "refused"
    return "cannot_judge" if facts.network.way(key).why_not else ""


def _feeders(plan: Plan) -> Iterator[DrawnStroke]:
    for key, panel in sorted(plan.panels.items()):
        if panel.fed_from is not None:
            circuit = plan.circuits[panel.fed_from]
            yield DrawnStroke(
                key=f"circuits/{panel.fed_from}",
                room="circuits",
                id=panel.fed_from,
                name=f"feeder of {panel.name}",
                words=circuit.breaker_words + (", off" if circuit.mark == "off" else ""),
                begins=f"panels/{circuit.panel_id}",
                ends=f"panels/{key}",
                rating_va=circuit.rated_a * plan.site.leg_volts * circuit.poles,
            )


# -------------------------------------------------------------------- parts


def _columns(plan: Plan, strokes: list[DrawnStroke]) -> dict[str, int]:
    """Every part one step behind what it hangs on; a charger on a circuit runs back and pushes nothing."""
    forward = [
        stroke for stroke in strokes if not stroke.begins.startswith("panels/") or stroke.room == "circuits"
    ]
    found = {key: 0 for stroke in strokes for key in (stroke.begins, stroke.ends)}
    found |= {f"{room}/{key}": 0 for room in ("stations", "generators") for key in getattr(plan, room)}
    for _ in range(len(found)):
        moved = False
        for stroke in forward:
            if found[stroke.ends] <= found[stroke.begins] < len(found):
                found[stroke.ends], moved = found[stroke.begins] + 1, True
        if not moved:
            break
    led = {stroke.ends for stroke in forward}
    for key in found:
        behind = [found[stroke.ends] for stroke in forward if stroke.begins == key]
        if key not in led and behind:
            found[key] = min(behind) - 1
    last = max(found.values(), default=0)
    return {key: last if _is_end(plan, key, strokes) else column for key, column in found.items()}


def _is_end(plan: Plan, key: str, strokes: list[DrawnStroke]) -> bool:
    """Panels and appliances from which nothing goes on stand at the end."""
    ends = key.startswith("panels/") or key.endswith("/loads")
    return ends and not any(stroke.begins == key and stroke.room == "circuits" for stroke in strokes)


def _parts(plan: Plan, columns: dict[str, int], bonds: set[str]) -> Iterator[DrawnPart]:
    def part(room: str, key: str, name: str, words: str, rating_va: float | None) -> DrawnPart:
        at = f"{room}/{key}"
        return DrawnPart(
            key=at,
            room=room,
            id=key,
            name=name,
            words=words,
            column=columns.get(at, 0),
            rating_va=rating_va,
            bond=at in bonds,
        )

    for key, keys in _inputs_with_sun(plan).items():
        arrays = [plan.arrays[item] for item in keys]
        plate_w = sum(array.series * array.parallel * array.module.watts for array in arrays)
        name = " and ".join(array.name for array in arrays)
        yield part("arrays", key, name, f"{plate_w:,.0f} W of modules", plate_w)
    for key, generator in sorted(plan.generators.items()):
        yield part("generators", key, generator.name, f"{generator.rated_w:,.0f} W", generator.rated_w)
    for key, vehicle in sorted(plan.vehicles.items()):
        yield part("vehicles", key, vehicle.name, f"{vehicle.gives_w:,.0f} W", vehicle.gives_w)
    for key, battery in sorted(plan.externals.items()):
        yield part("externals", key, battery.name, f"{battery.wh:,.0f} Wh", None)
    for key, station in sorted(plan.stations.items()):
        yield part("stations", key, station.name, _station_words(station), station.rated_va)
    for key, link in sorted(plan.links.items()):
        rated = sum(plan.stations[unit].rated_va for unit in (link.leg_a, link.leg_b))
        kind = "one unit a leg" if link.kind == "two_legs" else "in parallel"
        yield part("links", key, link.name, f"{rated:,.0f} VA, {kind}", rated)
    for key, panel in sorted(plan.panels.items()):
        own = [c for c in plan.circuits.values() if c.panel_id == key and c.mark != "off"]
        yield part(
            "panels",
            key,
            panel.name,
            f"{len(own)} {'circuit' if len(own) == 1 else 'circuits'} on, {_bus(panel)}",
            None,
        )
    for key, hookup in sorted(plan.hookups.items()):
        if hookup.kind == "cords":
            ends = [plan.circuits[c].label for c in hookup.circuit_ids]
            named = _as_room_is([*ends, *(plan.loads[key].name for key in hookup.load_ids)])
            at = f"leads/{key}/loads"
            yield DrawnPart(
                key=at,
                room="leads",
                id=key,
                name="appliances",
                words=named,
                column=columns.get(at, 0),
                rating_va=None,
            )


def _as_room_is(names: list[str]) -> str:
    """Names as they fit into one line of the drawing, the rest counted."""
    fitting = len(names)
    while fitting > 1 and len(_counted(names, fitting)) > LINE:
        fitting -= 1
    return _counted(names, fitting) or "nothing yet"


def _counted(names: list[str], fitting: int) -> str:
    more = f" and {len(names) - fitting} more" if len(names) > fitting else ""
    return ", ".join(names[:fitting]) + more


def _station_words(station: Station) -> str:
    return f"{station.total_cell_wh / 1000:,.1f} kWh, {station.rated_va:,.0f} VA"


def _bond_at(facts: Facts, lead_id: str, hookup: Hookup) -> str | None:
    """The part at which the one bond of a way is: the house where its neutral is not switched, or the source.

    Source: common practice; where source or transfer are not known there is none to be drawn.
    """
    if hookup.traits.refused:
        return None
    source = f"{hookup.source_kind}s/{hookup.source_id}"
    stands = neutral_states(facts.plan, hookup)[0].neutral
    if hookup.kind == "cords" or hookup.neutral_switched == "yes":
        return source if stands == "bonded" else None
    if hookup.neutral_switched == "no" and stands == "floating":
        return f"panels/{_service(facts.plan, hookup.panel_id)}"
    return None


def _service(plan: Plan, panel_id: str) -> str:
    """The panel in which a house bonds its neutral: the one that no other feeds."""
    seen = {panel_id}
    while (feeder := plan.panels[panel_id].fed_from) is not None:
        panel_id = plan.circuits[feeder].panel_id
        if panel_id in seen:
            break
        seen.add(panel_id)
    return panel_id
