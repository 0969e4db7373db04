"""What the run does that hurts: trips that no other check has named, dark nights, warm food, no fuel."""

from collections.abc import Iterator, Sequence

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Element, Figure, Finding, Hit, Said
from weary_cedar.core.checks.registry import afterwards, check
from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.outage.result import Event

#: Checks of what a source, a lead or a circuit carries: one of these about the part has named its trip.
OF_LIMITS = (
    "leg-over", "total-over", "receptacle-over", "continuous-80", "charge-circuit", "gen-load", "inlet-feed",
    "passthrough-cap", "auto-capacity", "all-at-once", "vehicle-12v", "volt-freq-mismatch", "chain-start",
)  # fmt: skip
#: Checks of what starts: one of these about a load that was on has named the trip.
OF_STARTS = ("start-trip", "chain-start")
TRIPS = ("trip", "breaker_trip", "input_trip")


@afterwards("run-trips")
def trips(facts: Facts, found: Sequence[Finding]) -> Iterator[Said]:
    """Trips of the run that no stop or caution about the part, or about what started, foretells."""
    grave = [finding for finding in found if finding.level in ("stop", "caution")]
    limits = {(f.element.room, f.element.id) for f in grave if f.check_id in OF_LIMITS}
    starts = {f.element.id for f in grave if f.check_id in OF_STARTS and f.element.room == "loads"}
    told: dict[str, list[Event]] = {}
    for event in facts.run.events:
        if event.kind in TRIPS and event.part:
            told.setdefault(event.part, []).append(event)
    for part, events in sorted(told.items()):
        about = set(_about(facts, part))
        started = {key for event in events for key in event.loads} & starts
        if about & limits or started:
            continue
        figures = (
            Figure(name="trips in the run", value=len(events), limit=0),
            Figure(name="first after", value=events[0].t_s / 3600, unit="h"),
        )
        yield Hit(_element(facts, part), figures, detail=f"{events[0].what}. {events[0].why}".rstrip(". "))


@check("run-dark")
def dark_asleep(facts: Facts) -> Iterator[Said]:
    """What must run is without power for too long while everyone at home sleeps, for whatever reason."""
    plan = facts.plan
    calendar = Calendar(plan.site, plan.outage)
    hours = plan.outage.occupancy
    nights = calendar.windows(hours.sleeps, hours.wakes) if hours.wakes != hours.sleeps else []
    for way in facts.ways:
        for key, load in facts.kept(way).items():
            share = facts.run.loads.get(key)
            failed_s = share.failed_at_s if share is not None else None
            if failed_s is None or not any(begins <= failed_s < ends for begins, ends in nights):
                continue
            figures = (
                Figure(name="without power for too long after", value=failed_s / 3600, unit="h"),
                Figure(name="it may be without", value=load.tolerance_s / 60, unit="min"),
            )
            yield Hit(facts.element("loads", key), figures, detail="while everyone sleeps")
            break


@check("run-warm")
def too_warm(facts: Facts) -> Iterator[Said]:
    """Food or medicine over its limit in the run."""
    for share in facts.run.compartments.values():
        if share.first_over_s is not None and share.load in facts.plan.loads:
            figures = (
                Figure(name=f"{share.name}, at most", value=share.highest_c, limit=share.limit_c, unit="°C"),
                Figure(name="over it for", value=share.over_s / 3600, unit="h"),
            )
            yield Hit(facts.element("loads", share.load), figures)


@check("run-dry")
def engine_dry(facts: Facts) -> Iterator[Said]:
    """An engine that uses up its fuel before the outage is over."""
    last = {e.part: e for e in facts.run.events if e.kind in ("engine_dry", "refuelled")}
    dry = {part: event.t_s for part, event in last.items() if event.kind == "engine_dry"}
    for key in sorted(dry.keys() & facts.plan.generators.keys()):
        figure = Figure(
            name="its fuel ends after", value=dry[key] / 3600, limit=facts.run.length_s / 3600, unit="h"
        )
        yield Hit(facts.element("generators", key), (figure,))


def _element(facts: Facts, part: str) -> Element:
    rooms = ("leads", "stations", "links", "generators", "vehicles")
    room = next((room for room in rooms if part in getattr(facts.plan, room)), None)
    return facts.element("site", "site") if room is None else facts.element(room, part)


def _about(facts: Facts, part: str) -> Iterator[tuple[str, str]]:
    """The part itself, and the leads, feeds and circuits that it is on."""
    yield from ((room, part) for room in ("leads", "stations", "links", "generators", "vehicles"))
    for key, lead in facts.plan.leads.items():
        if part in (key, lead.source.id):
            yield "leads", key
        if part == key:
            yield f"{lead.source.kind}s", lead.source.id
    for key, hookup in facts.plan.hookups.items():
        if part in (key, hookup.source_id) and hookup.feed_id is not None:
            yield "feeds", hookup.feed_id
