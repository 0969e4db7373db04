"""The plan document: one definition for file, API and run, and how it is read."""

import json
from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from weary_cedar.core.errors import InvalidPlan, NotReadable, Problem, UnknownSchemaVersion
from weary_cedar.core.plan.base import Id, Name, Noun
from weary_cedar.core.plan.circuit import Circuit
from weary_cedar.core.plan.feed import Feed
from weary_cedar.core.plan.load import Load
from weary_cedar.core.plan.outage import Outage
from weary_cedar.core.plan.panel import Panel, leg_of_space
from weary_cedar.core.plan.site import Site
from weary_cedar.core.plan.station import Station
from weary_cedar.core.plan.strategy import Strategy
from weary_cedar.core.plan.upgrade import SCHEMA_VERSION, upgraded

SCHEMA_ID = "urn:weary-cedar:plan:1"


class Plan(Noun):
    """A household's plan for an outage. Parts are keyed by id so that edits can name them."""

    schema_version: Literal[1] = Field(default=1, description="version of this format")
    name: Name
    site: Site
    panels: dict[Id, Panel] = Field(default_factory=dict)
    circuits: dict[Id, Circuit] = Field(default_factory=dict)
    loads: dict[Id, Load] = Field(default_factory=dict)
    stations: dict[Id, Station] = Field(default_factory=dict)
    feeds: Annotated[dict[Id, Feed], Field(max_length=1)] = Field(default_factory=dict)
    outage: Outage
    strategy: Strategy = Strategy()

    def circuit_legs(self, circuit_id: str) -> tuple[str, ...]:
        """Legs that a circuit is on: one for a single pole, both for two poles."""
        circuit = self.circuits[circuit_id]
        panel = self.panels[circuit.panel_id]
        if not self.site.split_phase:
            return ("A",)
        return tuple(leg_of_space(space, panel.first_leg) for space in circuit.spaces)


def plan_schema() -> dict[str, Any]:
    """JSON Schema of the plan document, with its `$id`."""
    schema = Plan.model_json_schema()
    schema["properties"]["schema_version"] = {"const": SCHEMA_VERSION, "type": "integer"}
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "$id": SCHEMA_ID, **schema}


def read_plan(source: str | bytes | dict[str, Any]) -> Plan:
    """Read and check a plan document.

    Args:
        source: JSON text, or the same as a dictionary of JSON values.

    Returns:
        The plan, complete and consistent.

    Raises:
        NotReadable: not JSON, or not an object.
        UnknownSchemaVersion: a version that this program does not know.
        InvalidPlan: wrong fields; every one is named with its value and what would be right.
    """
    data = upgraded(source if isinstance(source, dict) else _parse(source))
    version = data.get("schema_version")
    if isinstance(version, bool) or version != SCHEMA_VERSION:
        newer = isinstance(version, int) and not isinstance(version, bool) and version > SCHEMA_VERSION
        right = f"this program reads version {SCHEMA_VERSION}" + ("; a newer one wrote this" if newer else "")
        problem = Problem("/schema_version", _shown(version), right)
        raise UnknownSchemaVersion(f"Plan version {_shown(version)} is not known here.", (problem,))
    try:
        plan = Plan.model_validate_json(json.dumps(data))
    except ValidationError as error:
        problems = tuple(_problem(item) for item in error.errors(include_url=False, include_context=False))
        raise InvalidPlan(_count(problems), problems) from None
    contradictions = tuple(_contradictions(plan))
    if contradictions:
        raise InvalidPlan(_count(contradictions), contradictions)
    return plan


def _parse(text: str | bytes) -> dict[str, Any]:
    try:
        data = json.loads(text, parse_constant=_refuse_constant)
    except (ValueError, RecursionError) as error:
        reason = str(error) if not isinstance(error, RecursionError) else "nested too deeply"
        raise NotReadable(
            f"This is not JSON: {reason}.", (Problem("/", _shown(text), "a plan as JSON text"),)
        ) from None
    if not isinstance(data, dict):
        raise NotReadable("This is not a plan.", (Problem("/", _shown(data), "a JSON object"),))
    return data


def _refuse_constant(name: str) -> float:
    raise ValueError(f"{name} is not a JSON number")


def _shown(value: object) -> str:
    if value is None:
        return "nothing"
    text = value.decode("utf-8", "replace") if isinstance(value, bytes) else value
    shown = text if isinstance(text, str) and not isinstance(value, str) else json.dumps(value, default=str)
    return shown if len(shown) <= 60 else shown[:57] + "…"


def _problem(item: Any) -> Problem:
    union_tags = {"steady", "cycling", "job"}
    parts = [str(part) for part in item["loc"] if not (part in union_tags and "behaviour" in item["loc"])]
    given = "nothing" if item["type"] == "missing" else _shown(item["input"])
    return Problem("/" + "/".join(parts), given, item["msg"][:1].lower() + item["msg"][1:])


def _count(problems: tuple[Problem, ...]) -> str:
    first = str(problems[0])
    more = len(problems) - 1
    return first if more == 0 else f"{first} (and {more} more)"


def _contradictions(plan: Plan) -> Iterator[Problem]:
    yield from _reference_problems(plan)
    yield from _space_problems(plan)
    for station_id, station in plan.stations.items():
        multiples = [point.multiple for point in station.overload_curve]
        seconds = [point.seconds for point in station.overload_curve if point.seconds is not None]
        if multiples != sorted(set(multiples)) or seconds != sorted(seconds, reverse=True):
            yield Problem(
                f"/stations/{station_id}/overload_curve", _shown(multiples), "multiples rise and seconds fall"
            )


def _reference_problems(plan: Plan) -> Iterator[Problem]:
    def missing(field: str, key: str | None, known: dict[str, Any], noun: str) -> Iterator[Problem]:
        if key is not None and key not in known:
            yield Problem(field, _shown(key), f"should be the id of a {noun} in this plan")

    for key, circuit in plan.circuits.items():
        yield from missing(f"/circuits/{key}/panel_id", circuit.panel_id, plan.panels, "panel")
        partner = circuit.multiwire_partner
        yield from missing(f"/circuits/{key}/multiwire_partner", partner, plan.circuits, "circuit")
    for key, load in plan.loads.items():
        yield from missing(f"/loads/{key}/circuit_id", load.circuit_id, plan.circuits, "circuit")
    for key, feed in plan.feeds.items():
        yield from missing(f"/feeds/{key}/panel_id", feed.panel_id, plan.panels, "panel")
        yield from missing(f"/feeds/{key}/station_id", feed.station_id, plan.stations, "station")
        if feed.station_id in plan.stations:
            receptacles = plan.stations[feed.station_id].receptacles
            field = f"/feeds/{key}/receptacle_id"
            yield from missing(field, feed.receptacle_id, receptacles, "receptacle of that station")
    for key in plan.outage.start_charge_percent:
        yield from missing(f"/outage/start_charge_percent/{key}", key, plan.stations, "station")
    for key, incident in plan.outage.incidents.items():
        yield from missing(f"/outage/incidents/{key}/load_id", incident.load_id, plan.loads, "load")
        if incident.kind == "door_open" and incident.load_id is None:
            yield Problem(f"/outage/incidents/{key}/load_id", "nothing", "which load's door it is")
    for index, key in enumerate(plan.strategy.recovery_off):
        yield from missing(f"/strategy/recovery_off/{index}", key, plan.circuits, "circuit")


def _space_problems(plan: Plan) -> Iterator[Problem]:
    taken: dict[tuple[str, int, str], tuple[str, str]] = {}
    breakers = [
        (f"/circuits/{key}/spaces", item.label, item.panel_id, item.spaces, item.half)
        for key, item in plan.circuits.items()
    ] + [
        (f"/feeds/{key}/breaker_spaces", "feed breaker", item.panel_id, item.breaker_spaces, None)
        for key, item in plan.feeds.items()
    ]
    for field, label, panel_id, spaces, half in breakers:
        panel = plan.panels.get(panel_id)
        if panel is None:
            continue
        if len(spaces) == 2 and (spaces[1] - spaces[0] != 2):
            yield Problem(
                field, _shown(spaces), "a two-pole breaker takes two spaces of one side, such as 5 and 7"
            )
        for space in spaces:
            if space > panel.spaces:
                yield Problem(field, str(space), f"{panel.name} has spaces 1 to {panel.spaces}")
            for part in (half,) if half else ("upper", "lower"):
                holder, holder_label = taken.setdefault((panel_id, space, part), (field, label))
                if holder != field:
                    yield Problem(field, f"space {space}", f"taken by “{holder_label}”; choose a free space")
                    break
