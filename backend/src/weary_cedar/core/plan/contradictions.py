"""Where parts of a plan contradict each other."""

from collections.abc import Iterator, Mapping

from weary_cedar.core.errors import Problem, shown
from weary_cedar.core.plan.document import Plan
from weary_cedar.core.plan.load import Measured


def contradictions(plan: Plan) -> Iterator[Problem]:
    """Everything in a plan that cannot be, each with what would be right."""
    yield from _reference_problems(plan)
    yield from _behaviour_problems(plan)
    yield from _space_problems(plan)
    for station_id, station in plan.stations.items():
        multiples = [point.multiple for point in station.overload_curve]
        seconds = [point.seconds for point in station.overload_curve if point.seconds is not None]
        if multiples != sorted(set(multiples)) or seconds != sorted(seconds, reverse=True):
            yield Problem(
                f"/stations/{station_id}/overload_curve", shown(multiples), "multiples rise and seconds fall"
            )


def _behaviour_problems(plan: Plan) -> Iterator[Problem]:
    for key, load in plan.loads.items():
        spec = load.behaviour
        if isinstance(spec, Measured):
            rises = (
                list(spec.t_s) == sorted(set(spec.t_s)) and spec.t_s[0] == 0 and spec.t_s[-1] < spec.length_s
            )
            if len(spec.t_s) != len(spec.watts) or not rises:
                right = "as many as watts, from 0, rising, below length_s"
                yield Problem(f"/loads/{key}/behaviour/t_s", f"{len(spec.t_s)} times", right)


def _missing(field: str, key: str | None, known: Mapping[str, object], noun: str) -> Iterator[Problem]:
    if key is not None and key not in known:
        yield Problem(field, shown(key), f"should be the id of a {noun} in this plan")


def _reference_problems(plan: Plan) -> Iterator[Problem]:
    for key, panel in plan.panels.items():
        yield from _missing(f"/panels/{key}/fed_from", panel.fed_from, plan.circuits, "circuit")
    yield from _loops(plan)
    for key, circuit in plan.circuits.items():
        yield from _missing(f"/circuits/{key}/panel_id", circuit.panel_id, plan.panels, "panel")
        partner = circuit.multiwire_partner
        yield from _missing(f"/circuits/{key}/multiwire_partner", partner, plan.circuits, "circuit")
    for key, load in plan.loads.items():
        yield from _missing(f"/loads/{key}/circuit_id", load.circuit_id, plan.circuits, "circuit")
    yield from _feed_problems(plan)
    yield from _link_problems(plan)
    for key in plan.outage.start_charge_percent:
        yield from _missing(f"/outage/start_charge_percent/{key}", key, plan.stations, "station")
    for key, incident in plan.outage.incidents.items():
        yield from _missing(f"/outage/incidents/{key}/load_id", incident.load_id, plan.loads, "load")
        if incident.kind == "door_open" and incident.load_id is None:
            yield Problem(f"/outage/incidents/{key}/load_id", "nothing", "which load's door it is")
    for index, key in enumerate(plan.strategy.recovery_off):
        yield from _missing(f"/strategy/recovery_off/{index}", key, plan.circuits, "circuit")


def _loops(plan: Plan) -> Iterator[Problem]:
    """Panels that feed themselves, directly or through others."""
    for key, panel in plan.panels.items():
        seen = {key}
        feeder = plan.circuits.get(panel.fed_from or "")
        while feeder is not None and feeder.panel_id in plan.panels:
            if feeder.panel_id in seen:
                yield Problem(f"/panels/{key}/fed_from", shown(panel.fed_from), "a circuit of another panel")
                break
            seen.add(feeder.panel_id)
            feeder = plan.circuits.get(plan.panels[feeder.panel_id].fed_from or "")


def _feed_problems(plan: Plan) -> Iterator[Problem]:
    sources = {**plan.stations, **plan.links}
    for key, feed in plan.feeds.items():
        at = f"/feeds/{key}"
        yield from _missing(f"{at}/panel_id", feed.panel_id, plan.panels, "panel")
        yield from _missing(f"{at}/source_id", feed.source_id, sources, "station or link")
        if feed.source_id in sources and _whole_link(plan, feed.source_id):
            receptacles = plan.source_station(feed).receptacles
            yield from _missing(
                f"{at}/receptacle_id", feed.receptacle_id, receptacles, "receptacle of that station"
            )
        for index, circuit_id in enumerate(feed.circuit_ids):
            yield from _missing(f"{at}/circuit_ids/{index}", circuit_id, plan.circuits, "circuit")
        if feed.kind == "interlock_inlet" and not feed.breaker_spaces:
            yield Problem(f"{at}/breaker_spaces", "none", "the spaces of the feed breaker")
        if feed.kind == "transfer_switch" and feed.breaker_spaces:
            right = "none: a transfer switch has no feed breaker"
            yield Problem(f"{at}/breaker_spaces", shown(feed.breaker_spaces), right)


def _link_problems(plan: Plan) -> Iterator[Problem]:
    for key, link in plan.links.items():
        yield from _missing(f"/links/{key}/leg_a", link.leg_a, plan.stations, "station")
        yield from _missing(f"/links/{key}/leg_b", link.leg_b, plan.stations, "station")
        if link.leg_a == link.leg_b:
            yield Problem(f"/links/{key}/leg_b", shown(link.leg_b), "another station than on leg A")
        if key in plan.stations:
            yield Problem(f"/links/{key}", shown(key), "an id that no station has")


def _whole_link(plan: Plan, source_id: str) -> bool:
    link = plan.links.get(source_id)
    return link is None or link.leg_a in plan.stations


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
                field, shown(spaces), "a two-pole breaker takes two spaces of one side, such as 5 and 7"
            )
        for space in spaces:
            if space > panel.spaces:
                yield Problem(field, str(space), f"{panel.name} has spaces 1 to {panel.spaces}")
            for part in (half,) if half else ("upper", "lower"):
                holder, holder_label = taken.setdefault((panel_id, space, part), (field, label))
                if holder != field:
                    yield Problem(field, f"space {space}", f"taken by “{holder_label}”; choose a free space")
                    break
