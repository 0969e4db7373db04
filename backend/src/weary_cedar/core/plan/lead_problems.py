"""Leads that begin or end at what there is not, or that cannot be plugged so."""

from collections.abc import Iterator, Mapping

from weary_cedar.core.errors import Problem, missing, shown
from weary_cedar.core.plan.document import Plan
from weary_cedar.core.plan.feed import Cord
from weary_cedar.core.plan.lead import Lead, ToFeed, ToInput, ToLoads


def lead_problems(plan: Plan) -> Iterator[Problem]:
    """Everything in the leads of a plan that cannot be, each with what would be right."""
    sources: dict[str, Mapping[str, object]] = {
        "circuit": plan.circuits,
        "generator": plan.generators,
        "station": plan.stations,
        "link": plan.links,
        "vehicle": plan.vehicles,
    }
    for key, lead in plan.leads.items():
        at, source = f"/leads/{key}", lead.source
        known = source.id in sources[source.kind]
        for index, cord in enumerate(lead.cords):
            yield from cord_problems(f"{at}/cords/{index}", cord)
        yield from missing(f"{at}/source/id", source.id, sources[source.kind], source.kind)
        if isinstance(lead.to, ToInput):
            yield from _input_problems(plan, at, lead, lead.to)
            if source.outlet is not None and known:
                yield from _outlet_problems(plan, at, lead)
            continue
        if known:
            yield from _begin_problems(plan, at, lead)
        yield from _end_problems(plan, at, lead)
    yield from _plug_problems(plan)


def _begin_problems(plan: Plan, at: str, lead: Lead) -> Iterator[Problem]:
    """Where a lead that feeds something begins: at an outlet of a source of its own."""
    source = lead.source
    if source.kind == "circuit":
        right = "a source of its own; from a breaker only an input of a station is reached"
        yield Problem(f"{at}/source/kind", shown(source.kind), right)
    elif source.kind == "vehicle":
        if not plan.vehicles[source.id].gives_ac:
            right = "a vehicle with an AC outlet; from its 12 V only an input of a station is reached"
            yield Problem(f"{at}/source/id", shown(source.id), right)
        if source.outlet is not None:
            right = "nothing: a vehicle has one outlet"
            yield Problem(f"{at}/source/outlet", shown(source.outlet), right)
    else:
        yield from _outlet_problems(plan, at, lead)


def _end_problems(plan: Plan, at: str, lead: Lead) -> Iterator[Problem]:
    """Where a lead that feeds something ends, and whether it has a cord."""
    if isinstance(lead.to, ToFeed):
        yield from missing(f"{at}/to/feed_id", lead.to.feed_id, plan.feeds, "feed")
        feed = plan.feeds.get(lead.to.feed_id)
        if not lead.cords and feed is not None and not feed.traits.by_itself:
            yield Problem(f"{at}/cords", "none", "its cord: only a source wired to terminals has none")
    elif isinstance(lead.to, ToLoads):
        for index, circuit_id in enumerate(lead.to.circuit_ids):
            yield from missing(f"{at}/to/circuit_ids/{index}", circuit_id, plan.circuits, "circuit")
        if not lead.cords:
            yield Problem(f"{at}/cords", "none", "at least the cord to the appliances")


def cord_problems(at: str, cord: Cord) -> Iterator[Problem]:
    """A cord with no size, or with two."""
    if (cord.awg is None) == (cord.mm2 is None):
        yield Problem(f"{at}/awg", shown(cord.awg), "a gauge, or else mm², and not both")


def _outlet_problems(plan: Plan, at: str, lead: Lead) -> Iterator[Problem]:
    """An outlet that its source does not have."""
    source = lead.source
    if source.kind == "link" and plan.links[source.id].leg_a not in plan.stations:
        return
    held = plan.outlets_of(source.kind, source.id)
    if source.outlet is None:
        yield Problem(
            f"{at}/source/outlet", "nothing", "the receptacle of that source that it is plugged into"
        )
    yield from missing(f"{at}/source/outlet", source.outlet, held, "receptacle of that source")


def _input_problems(plan: Plan, at: str, lead: Lead, end: ToInput) -> Iterator[Problem]:
    if lead.source.kind == "link":
        yield Problem(f"{at}/source/kind", "link", "one of its stations: a linked pair charges nothing else")
    converted = end.converter_w is not None or end.converter_efficiency < 1
    if converted and lead.source.kind != "vehicle":
        right = "nothing: a converter stands between a vehicle and an input"
        yield Problem(f"{at}/to/converter_w", shown(end.converter_w), right)
    yield from missing(f"{at}/to/station_id", end.station_id, plan.stations, "station")
    if end.station_id in plan.stations:
        station = plan.stations[end.station_id]
        inputs: Mapping[str, object] = station.ac_inputs
        noun = "AC input of that station"
        if lead.source.kind == "vehicle":
            inputs, noun = {**station.dc_inputs, **station.ac_inputs}, "AC or DC input of that station"
        yield from missing(f"{at}/to/input_id", end.input_id, inputs, noun)
        entry = station.ac_inputs.get(end.input_id)
        said = end.setting_w is not None
        if said and entry is not None and entry.steps_w and end.setting_w not in entry.steps_w:
            steps = ", ".join(f"{step:g}" for step in sorted(entry.steps_w))
            yield Problem(
                f"{at}/to/setting_w", shown(end.setting_w), f"one of the steps that it offers: {steps} W"
            )


def _plug_problems(plan: Plan) -> Iterator[Problem]:
    """Appliances on leads that there are not, or that hang twice; marks that count nowhere."""
    hangs_on: dict[str, str] = {}
    for key, lead in plan.leads.items():
        for index, load_id in enumerate(lead.to.load_ids if isinstance(lead.to, ToLoads) else ()):
            at = f"/leads/{key}/to/load_ids/{index}"
            yield from missing(at, load_id, plan.loads, "load")
            if hangs_on.setdefault(load_id, at) != at:
                yield Problem(at, shown(load_id), "a load that hangs on no other lead, and here only once")
    for key, load in plan.loads.items():
        for name in ("mark", "order") if load.circuit_id is not None and key not in hangs_on else ():
            if getattr(load, name) is not None:
                right = f"nothing: the {name} of its breaker counts"
                yield Problem(f"/loads/{key}/{name}", shown(getattr(load, name)), right)
