"""Remedies with one click: changes of the plan that clear a finding, each in words.

What is changed is the plan: a thicker cord is to be bought, a breaker to be left off. None hides what was
found; none is offered that the catalogue would refuse.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Any, NamedTuple

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Figure, Hit, Seen
from weary_cedar.core.checks.onward import inlets
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.electrical.ampacity import receptacle
from weary_cedar.core.electrical.flexible_cord import METRIC_CORD_A, carries_a, cord_ohms_per_m
from weary_cedar.core.electrical.split_phase import PhaseLoad, phase_load
from weary_cedar.core.network import Way
from weary_cedar.core.plan import Cord

#: Gauges of flexible cords, the thinnest first.
GAUGES = (18, 16, 14, 12, 10, 8, 6, 4)
#: A charger is set no lower, W. Common practice.
LEAST_CHARGE_W = 50.0
#: What is drawn of a 12 V socket's fuse, of a rating that is to be met, and of a drop that is to be kept.
SHARE = 0.98


class Mend(NamedTuple):
    """A merge patch of the plan, and what it does in words."""

    patch: dict[str, Any]
    words: str


Found = Hit | Seen
Mender = Callable[[Facts, Found], Mend | None]


def mend(check_id: str, facts: Facts, found: Found) -> Mend | None:
    """What clears a finding, if the app can do it.

    Args:
        check_id: of the finding.
        facts: of its plan.
        found: what the check said.

    Source: the remedy of the catalogue's row, with this plan's figures.
    """
    mender = MENDERS.get(check_id)
    return mender(facts, found) if mender is not None else None


# -------------------------------------------------------------------- left off, or only when there is room


def _leave_off(facts: Facts, found: Found) -> Mend | None:
    """Its circuit stays off, or what hangs on a cord by itself."""
    key, name = found.element.id, found.element.name
    if found.element.room == "loads":
        circuit_id = facts.network.hangs[key].circuit_id
        if circuit_id is None:
            return Mend({"loads": {key: {"mark": "off"}}}, f"leave {name} off")
        key, name = circuit_id, facts.plan.circuits[circuit_id].label
    elif found.element.room != "circuits":
        return None
    return Mend({"circuits": {key: {"mark": "off"}}}, f"leave {name} off")


def _only_with_room(facts: Facts, found: Found) -> Mend | None:
    """So many circuits from keep to room, the last in order first, that what is kept fits.

    Not where the run is over the limit with nobody shedding: what has room runs then, too.
    """
    kept = _figure(found)
    ways = [way for way in facts.ways if found.element.id in (way.lead_id, way.hookup.source_id)]
    if found.level == "stop" or not kept.name.startswith("kept") or not ways:
        return None
    limit = kept.limit or 0.0
    given_up = facts.network.given_up_first(frozenset().union(*(way.branches for way in ways)))
    moved: list[str] = []
    for key in given_up:
        if _kept_va(facts, ways, moved, kept.name) <= limit:
            break
        if key in facts.plan.circuits and facts.plan.circuits[key].mark == "keep":
            moved.append(key)
    if not moved or _kept_va(facts, ways, moved, kept.name) > limit:
        return None
    names = ", ".join(facts.plan.circuits[key].label for key in moved)
    return Mend({"circuits": {key: {"mark": "room"} for key in moved}}, f"{names} only when there is room")


def _kept_va(facts: Facts, ways: Sequence[Way], without: Iterable[str], name: str) -> float:
    """What is kept by some ways on the leg that a figure names, or in all, without some circuits, VA."""
    gone, leg = set(without), name.partition(" leg ")[2][:1]
    total = PhaseLoad(0.0)
    for way in ways:
        for key, load in facts.kept(way).items():
            legs = facts.legs_at(way, load)
            if facts.network.hangs[key].branch in gone or (leg and leg not in legs):
                continue
            share = 1 / len(legs) if leg else 1.0
            total = total + phase_load(on_watts(load) * share, load.power_factor)
    return total.va


# -------------------------------------------------------------------- cords, adapters, joints


def _cords(lead_id: str, cords: Sequence[Cord], words: str) -> Mend:
    changed = [cord.model_dump(mode="json", exclude_none=True) for cord in cords]
    return Mend({"leads": {lead_id: {"cords": changed}}}, words)


def _thicker(cord: Cord, fits: Callable[[Cord], bool]) -> Cord | None:
    """The thinnest cord of the same length that fits, no thinner than it is."""
    sizes: list[dict[str, Any]] = [{"awg": awg} for awg in GAUGES]
    if cord.mm2 is not None:
        sizes = [{"mm2": size} for size in METRIC_CORD_A]
    others = (cord.model_copy(update={**size, "usual": False}) for size in sizes)
    return next((other for other in others if carries_a(other) >= carries_a(cord) and fits(other)), None)


def _replaced(facts: Facts, found: Found, fits: Callable[[Cord], bool]) -> Mend | None:
    lead = facts.plan.leads[found.element.id]
    cords = [_thicker(cord, fits) for cord in lead.cords]
    if not cords or None in cords or tuple(cords) == lead.cords:
        return None
    known = [cord for cord in cords if cord is not None]
    return _cords(found.element.id, known, f"cord of {' and '.join(dict.fromkeys(c.size for c in known))}")


def _cord_for_amps(facts: Facts, found: Found) -> Mend | None:
    """A cord for what flows, and for what protects it."""
    amps = _figure(found).value
    protected = facts.paths[found.element.id].protected_a
    return _replaced(facts, found, lambda cord: carries_a(cord) >= max(amps, protected or 0.0))


def _cord_or_adapter(facts: Facts, found: Found) -> Mend | None:
    """The cord for what protects it; an adapter, or a strip, with a breaker of its own rating inside."""
    name, lead = _figure(found).name, facts.plan.leads[found.element.id]
    if name.startswith("cord of"):
        return _cord_for_amps(facts, found)
    if name == "strip":
        own = {"overcurrent_a": facts.plan.hookups[found.element.id].inlet_a}
        return Mend({"leads": {found.element.id: {"to": own}}}, "a strip with its own breaker")
    adapters = [
        adapter.model_copy(update={"overcurrent_a": adapter.overcurrent_a or adapter.rating_a})
        for adapter in lead.adapters
    ]
    changed = [adapter.model_dump(mode="json", exclude_none=True) for adapter in adapters]
    return Mend({"leads": {found.element.id: {"adapters": changed}}}, "an adapter with its own breaker")


def _cord_with_conductors(facts: Facts, found: Found) -> Mend | None:
    needed = round(_figure(found).limit or 0)
    cords = [
        cord
        if cord.conductors is None
        else cord.model_copy(update={"conductors": max(needed, cord.conductors)})
        for cord in facts.plan.leads[found.element.id].cords
    ]
    return _cords(found.element.id, cords, f"a cord of {needed} conductors")


def _cord_against_drop(facts: Facts, found: Found) -> Mend | None:
    """A cord so thick that no more than three per cent are lost in it."""
    figure = _figure(found)
    if found.element.room != "leads" or figure.unit != "%" or figure.value <= 0:
        return None
    lead, share = facts.plan.leads[found.element.id], 3.0 * SHARE / figure.value
    longest = {id(cord): cord_ohms_per_m(cord) * share for cord in lead.cords}
    least = min(longest.values(), default=0.0)
    return _replaced(facts, found, lambda cord: cord_ohms_per_m(cord) <= least)


def _joint(facts: Facts, found: Found) -> Mend | None:
    """The adapter that fits two ends, as strong as what protects it."""
    one, _, other = found.detail.partition(" into ")
    path = facts.paths[found.element.id]
    if path.adapters or not other or path.ends is None:
        return None
    rows = [row for row in (receptacle(one), receptacle(other)) if row is not None]
    safe = (
        len(rows) == 2 and rows[0]["volts"] == rows[1]["volts"] and rows[0]["neutral"] == rows[1]["neutral"]
    )
    if not safe or "no" in (rows[0]["ground"], rows[1]["ground"]):
        return None
    rating = max(path.protected_a or 0.0, float(rows[1]["rating_a"]))
    adapter = {"source_end": one, "load_end": other, "rating_a": rating}
    return Mend({"leads": {found.element.id: {"adapters": [adapter]}}}, f"an adapter {one} to {other}")


# -------------------------------------------------------------------- ratings and settings


def _figure(found: Found) -> Figure:
    return found.figures[0] if isinstance(found, Hit) else Figure(name="", value=0.0)


def _smaller_feed_breaker(facts: Facts, found: Found) -> Mend | None:
    limit = _figure(found).limit
    if limit is None or found.element.room != "feeds":
        return None
    if not facts.plan.feeds[found.element.id].traits.breaker:
        return None
    return Mend({"feeds": {found.element.id: {"breaker_a": limit}}}, f"a feed breaker of {limit:g} A")


def _stronger_inlet(facts: Facts, found: Found) -> Mend | None:
    """An inlet for what the outlet's breaker lets through, where its configuration is made for that."""
    figure, feed_id = _figure(found), facts.plan.hookups[found.element.id].feed_id
    row = receptacle(facts.plan.hookups[found.element.id].inlet)
    if figure.name != "inlet" or feed_id is None or row is None or float(row["rating_a"]) < figure.value:
        return None
    return Mend({"feeds": {feed_id: {"inlet_a": figure.value}}}, f"an inlet for {figure.value:g} A")


def _rating_of_its_kind(facts: Facts, found: Found) -> Mend | None:
    """An outlet is worth no more than its configuration."""
    figure, hookup = _figure(found), facts.plan.hookups.get(found.element.id)
    if not figure.name.startswith("stated for") or hookup is None or hookup.source_kind != "station":
        return None
    outlet = {hookup.receptacle_id: {"rating_a": figure.limit}}
    words = f"count it with {figure.limit:g} A, as its configuration has it"
    return Mend({"stations": {hookup.source_id: {"receptacles": outlet}}}, words)


def _gentler_charging(facts: Facts, found: Found) -> Mend | None:
    """Chargers of an engine set so low together that it carries them beside all else."""
    figure = _figure(found)
    behind = [
        i for i in inlets(facts) if (i.recharge.kind, i.recharge.from_id) == ("generator", found.element.id)
    ]
    asked = sum(inlet.recharge.setting_w for inlet in behind)
    left = asked - (figure.value - (figure.limit or 0.0)) if figure.limit is not None else 0.0
    if (
        found.element.room != "generators"
        or "least" in figure.name
        or asked <= 0
        or left < 50.0 * len(behind)
    ):
        return None
    share = SHARE * left / asked
    to = {i.key: {"to": {"setting_w": float(round(share * i.recharge.setting_w))}} for i in behind}
    watts = " and ".join(f"{patch['to']['setting_w']:,.0f} W" for patch in to.values())
    return Mend({"leads": to}, f"charge with {watts}")


def _full_before(facts: Facts, found: Found) -> Mend | None:
    station_id = facts.plan.recharges[found.element.id].station_id
    name = facts.plan.stations[station_id].name
    return Mend({"outage": {"start_charge_percent": {station_id: 100.0}}}, f"charge {name} full beforehand")


def _less_from_the_socket(facts: Facts, found: Found) -> Mend | None:
    vehicle, figure = facts.plan.vehicles[found.element.id], _figure(found)
    if figure.limit is None:
        return None
    watts = float(int(SHARE * figure.limit * (vehicle.socket_v if figure.unit == "A" else 1.0)))
    return Mend({"vehicles": {found.element.id: {"draws_w": watts}}}, f"draw no more than {watts:,.0f} W")


def _thicker_dc_cable(facts: Facts, found: Found) -> Mend | None:
    amps = float(-(-_figure(found).value // 1))
    patch = {"stations": {found.element.id: {"bank": {"cable_a": amps}}}}
    return Mend(patch, f"a battery cable for {amps:,.0f} A")


def _both_halves(facts: Facts, found: Found) -> Mend | None:
    """The other half of a shared neutral onto the same switch."""
    plan, key = facts.plan, found.element.id
    partner = plan.partner_of(key)
    feed_id = next((k for k, feed in plan.feeds.items() if key in feed.circuit_ids), None)
    if partner is None or feed_id is None or plan.circuits[partner].panel_id != plan.circuits[key].panel_id:
        return None
    both = [*plan.feeds[feed_id].circuit_ids, partner]
    words = f"{plan.circuits[partner].label} onto the same switch"
    return Mend({"feeds": {feed_id: {"circuit_ids": both}}}, words)


def _rule_off(facts: Facts, found: Found) -> Mend | None:
    number = found.detail.partition("rule ")[2].partition(":")[0]
    rules = facts.plan.strategy.model_dump(mode="json", exclude_none=True)["rules"]
    if not number.isdigit():
        return None
    rules[int(number) - 1]["on"] = False
    return Mend({"strategy": {"rules": rules}}, f"turn rule {number} off")


MENDERS: Mapping[str, Mender] = {
    "adapter-unprotected": _cord_or_adapter,
    "bus-sum": _smaller_feed_breaker,
    "chain-not-full": _full_before,
    "continuous-80": _leave_off,
    "cord-ampacity": _cord_for_amps,
    "cord-conductors": _cord_with_conductors,
    "cord-drop": _cord_against_drop,
    "dc-cable": _thicker_dc_cable,
    "gen-load": _gentler_charging,
    "hog": _leave_off,
    "inlet-feed": _stronger_inlet,
    "joint-misfit": _joint,
    "leg-over": _only_with_room,
    "motor-sag": _leave_off,
    "multiwire-split": _both_halves,
    "receptacle-over": _rating_of_its_kind,
    "restart-hazard": _leave_off,
    "rule-never": _rule_off,
    "start-trip": _leave_off,
    "total-over": _only_with_room,
    "vehicle-12v": _less_from_the_socket,
}
