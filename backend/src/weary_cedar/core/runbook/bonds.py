"""Where the neutral of what a lead feeds is tied to ground, as the house stands."""

from collections.abc import Iterator
from dataclasses import replace

from weary_cedar.core.checks.neutral import judged
from weary_cedar.core.network.neutral_states import neutral_states
from weary_cedar.core.plan import Hookup
from weary_cedar.core.runbook.conductors import Conductors


def ties(joined: Conductors, lead_id: str) -> list[str]:
    """What ties the neutral behind a lead that is in at both ends.

    Args:
        joined: conductors as they are joined.
        lead_id: of a lead that feeds.

    Returns:
        Of "house", "source" and "bonding plug" those that tie it; "unknown" where that of the source or of
        the transfer is not known; nothing where it floats.

    Source: common practice: one bond for every system that is derived separately.
    """
    now = _now(joined, lead_id)
    found = []
    if now.feed_id is not None and joined.closed(now.feed_id) and now.neutral_switched != "yes":
        found.append("house" if now.neutral_switched == "no" else "unknown")
    bare = _own(joined, replace(now, bonding_plug="no"))
    if now.bonding_plug == "yes" and "floating" in bare:
        found.append("bonding plug")
    found += ["source" if neutral == "bonded" else "unknown" for neutral in bare if neutral != "floating"]
    return list(dict.fromkeys(found))


def untied(joined: Conductors) -> Iterator[str]:
    """Names of sources that float behind a transfer which leaves the house's bond behind."""
    plan = joined.plan
    for key, hookup in plan.hookups.items():
        if hookup.feed_id is None or not joined.plugged(key) or not joined.closed(hookup.feed_id):
            continue
        now = _now(joined, key)
        split = plan.site.split_phase
        cells = {judged(neutral, "unknown", now, split_phase=split) for neutral in _own(joined, now)}
        if "neutral-floating-switched" in cells:
            yield plan.source(hookup).name


def _now(joined: Conductors, lead_id: str) -> Hookup:
    """A hook-up with its bonding plug as that stands."""
    tied = joined.at.get(f"bonding_plug/{lead_id}") == "in"
    return replace(joined.plan.hookups[lead_id], bonding_plug="yes" if tied else "no")


def _own(joined: Conductors, hookup: Hookup) -> list[str]:
    """How the source's own neutral stands, passing nothing through."""
    return [state.neutral for state in neutral_states(joined.plan, hookup) if state.via is None]
