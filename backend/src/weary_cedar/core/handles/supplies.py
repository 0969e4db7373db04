"""What must never meet on conductors: a source and the utility, two sources, live blades."""

from collections.abc import Iterator

from weary_cedar.core.handles.conductors import UTILITY, Conductors, node_of
from weary_cedar.core.handles.faults import Fault, fault


def meetings(joined: Conductors) -> Iterator[Fault]:
    """Everything that meets and must not, as the conductors are joined, the gravest first."""
    yield from _two_supplies(joined)
    yield from _blades(joined)
    yield from _driven(joined)


def _two_supplies(joined: Conductors) -> Iterator[Fault]:
    for key, feed in joined.plan.feeds.items():
        if feed.kind == "receptacle_backfeed" and any(map(joined.plugged, joined.leads_to(key))):
            yield fault("house_outlet")
    for group in joined.groups:
        if UTILITY in group and any(node.startswith("source/") for node in group):
            yield fault("back_feed")
        if len(joined.giving(group)) > 1:
            yield fault("two_sources")


def _driven(joined: Conductors) -> Iterator[Fault]:
    """A source that is joined to what another makes live, whether it gives or not."""
    for group in joined.groups:
        giving = joined.giving(group)
        others = sorted(node for node in group if node.startswith("source/") and node not in giving)
        if giving and others:
            feeds = (hookup for hookup in joined.plan.hookups.values() if node_of(hookup) == others[0])
            yield fault("driven", driven=joined.plan.source(next(feeds)).name)


def _blades(joined: Conductors) -> Iterator[Fault]:
    """An inlet that is joined to something live, with no cord in it from end to end."""
    for key, feed in joined.plan.feeds.items():
        group = joined.group_of(f"inlet/{key}")
        supplied = UTILITY in group or bool(joined.giving(group))
        if supplied and not any(map(joined.plugged, joined.leads_to(key))):
            yield fault("live_blades", inlet=feed.name or "the inlet")
