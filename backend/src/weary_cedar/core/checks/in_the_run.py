"""What the run does that hurts and that no other check has named beforehand."""

from collections.abc import Iterator, Sequence

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Element, Figure, Finding, Hit, Said
from weary_cedar.core.checks.registry import afterwards
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
