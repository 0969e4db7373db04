"""230 V single-phase houses: earth, neutral, residual-current devices."""

from collections.abc import Iterator

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Figure, Hit, Said, Seen, Told, Unknown
from weary_cedar.core.checks.registry import check, seen
from weary_cedar.core.plan import Feed

#: Lasting current that a 13 A plug takes well, A. Common practice.
PLUG_LASTING_A = 10.0


def _island_feeds(facts: Facts) -> Iterator[tuple[str, Feed]]:
    if facts.plan.site.split_phase:
        return
    yield from ((key, feed) for key, feed in facts.plan.feeds.items() if feed.traits.panel)


@seen("uk-neutral-switch")
def two_pole(facts: Facts) -> Iterator[Told]:
    """A changeover that leaves the neutral joined to the supplier's."""
    for key, feed in _island_feeds(facts):
        element = facts.element("feeds", key)
        if feed.neutral_switched == "unknown":
            yield Unknown(element, "whether the changeover switches line and neutral")
        elif feed.neutral_switched == "no":
            if facts.plan.site.earthing == "unknown":
                yield Seen(element, detail="the earthing of the house is not known; TN-C-S is assumed")
            elif facts.plan.site.earthing in ("tn_c_s", "tt"):
                yield Seen(element)
            else:
                yield Seen(element, level="caution")


@check("uk-cord-many")
def many_by_cord(facts: Facts) -> Iterator[Said]:
    """A floating station with more than one class I appliance by cord, over all of its cords."""
    if facts.plan.site.split_phase:
        return
    by_source: dict[tuple[str, str], list[str]] = {}
    for key, feed in sorted(facts.plan.hookups.items()):
        if feed.kind == "cords" and facts.source(feed).neutral == "floating":
            by_source.setdefault((feed.source_kind, feed.source_id), []).append(key)
    for keys in by_source.values():
        loads = [load for key in keys for load in facts.wanted(facts.plan.hookups[key]).values()]
        earthed = [load for load in loads if load.protection_class != "II"]
        unsaid = [load.name for load in earthed if load.protection_class is None]
        if len(earthed) > 1:
            figure = Figure(name="class I appliances", value=len(earthed), limit=1)
            detail = f"not said, so counted as class I: {', '.join(unsaid)}" if unsaid else ""
            yield Hit(facts.element("leads", keys[0]), (figure,), detail=detail)


@check("uk-13a")
def plug(facts: Facts) -> Iterator[Said]:
    """Hours of more than 10 A through a 13 A plug."""
    if facts.plan.site.split_phase:
        return
    for key, feed in facts.plan.hookups.items():
        outlet = facts.outlet(feed)
        if outlet is None or outlet.kind != "BS 1363":
            continue
        loads = facts.wanted(feed).values()
        amps = sum(facts.amps(load) for load in loads if facts.continuous(load))
        if amps > PLUG_LASTING_A:
            yield Hit(
                facts.element("leads", key),
                (Figure(name="lasting", value=amps, limit=PLUG_LASTING_A, unit="A"),),
            )
