"""What interlocks, plugs and sockets do not allow, and in which order the ends of a cord are moved."""

from collections.abc import Mapping

from weary_cedar.core.handles.conductors import Conductors
from weary_cedar.core.handles.elements import is_wired
from weary_cedar.core.handles.faults import Fault, fault
from weary_cedar.core.plan import Plan

Positions = Mapping[str, str]


def forbidden(plan: Plan, at: Positions, key: str, to: str) -> Fault | None:
    """What keeps a handle from going somewhere, by how the others stand.

    Args:
        plan: the plan.
        at: position of every handle.
        key: the handle.
        to: where it should go.

    Returns:
        The mechanism or plug that is in the way, if any.
    """
    kind, _, of = key.partition("/")
    if (kind, to) in (("feed_breaker", "on"), ("transfer", "source")):
        other = next((name for name in kept_apart(plan, of) if _closed(at, name)), None)
        if other is not None:
            return fault("kept_apart", other=plan.feeds[other].name or "the other feed")
    if kind == "main" and to == "on":
        over = [k for k, feed in plan.feeds.items() if feed.panel_id == of and holds(plan, k)]
        held = any(at.get(f"interlock/{feed_id}") == "source" for feed_id in over)
        return fault("interlock_main") if held else None
    if kind == "feed_breaker" and to == "on" and at.get(f"interlock/{of}") == "utility" and holds(plan, of):
        return fault("interlock_feed")
    if kind == "interlock" and holds(plan, of):
        main = at[f"main/{plan.feeds[of].panel_id}"]
        if to == "source" and main == "on":
            return fault("interlock_over")
        return fault("interlock_back") if at[f"feed_breaker/{of}"] == "on" else None
    if kind in ("source_end", "load_end"):
        return _taken(plan, at, kind, of, to)
    if kind == "home_plug" and to == "in" and at[f"load_end/{of}"] == "in":
        return fault("home_plug")
    return None


def kept_apart(plan: Plan, feed_id: str) -> list[str]:
    """Feeds that one device keeps apart from a feed, as was answered of what is plugged into them."""
    found = []
    for key, other in plan.hookups.items():
        own = [hookup for hookup in plan.hookups.values() if hookup.feed_id == feed_id]
        answered = [h for h in own if "yes" in (h.survey.get("exclusive"), other.survey.get("exclusive"))]
        if other.feed_id not in (None, feed_id) and any(h.source_id != other.source_id for h in answered):
            found.append(str(plan.hookups[key].feed_id))
    return list(dict.fromkeys(found))


def _closed(at: Positions, feed_id: str) -> bool:
    return at.get(f"feed_breaker/{feed_id}") == "on" or at.get(f"transfer/{feed_id}") == "source"


def holds(plan: Plan, feed_id: str) -> bool:
    """Whether the interlock of a feed takes its panel off what is above it.

    Not where it was answered that it is not on the sub-panel's own main, or that more than one main feeds the
    panel: then it moves, and keeps nothing apart.
    """
    panel = plan.panels[plan.feeds[feed_id].panel_id]
    own = panel.fed_from is None or panel.survey.get("own-main-interlocked") != "no"
    return own and panel.survey.get("single-main") != "no"


def at_one_end(plan: Plan, lead_id: str, other_id: str) -> str | None:
    """The end at which two leads are in each other's way: one inlet, unless both fit, or one outlet."""
    lead, other = plan.leads[lead_id], plan.leads[other_id]
    both_fit = "no" in (lead.survey.get("exclusive"), other.survey.get("exclusive"))
    if other.to == lead.to and other.to.end != "loads":
        return None if both_fit else "load_end"
    if other.source == lead.source and lead.source.kind != "circuit":
        return "source_end"
    return None


def _taken(plan: Plan, at: Positions, kind: str, lead_id: str, to: str) -> Fault | None:
    hookup = plan.hookups.get(lead_id)
    if hookup is not None and is_wired(hookup):
        return fault("wired")
    if to == "out":
        return None
    for other_id in plan.leads:
        if other_id == lead_id or at[f"{kind}/{other_id}"] == "out":
            continue
        if at_one_end(plan, lead_id, other_id) == kind:
            return fault("occupied", other=plan.lead_name(other_id))
    held = kind == "load_end" and at.get(f"home_plug/{lead_id}") == "in"
    return fault("home_plug") if held else None


def moved(joined: Conductors, kind: str, lead_id: str, to: str) -> Fault | None:
    """An end of a lead that is moved: dead, without load, in its order."""
    lead, hookup, at = joined.plan.leads[lead_id], joined.plan.hookups.get(lead_id), joined.at
    if lead.source.kind == "circuit":
        return None
    reaches = kind == "source_end" or at[f"source_end/{lead_id}"] == "in"
    if reaches and at.get(f"output/{lead.source.kind}/{lead.source.id}") == "on":
        return fault("moved_live")
    if hookup is not None and hookup.feed_id is not None and joined.closed(hookup.feed_id):
        return fault("moved_closed")
    if kind == "source_end" and to == "in" and at[f"load_end/{lead_id}"] == "out":
        return fault("free_end")
    if kind == "load_end" and to == "out" and at[f"source_end/{lead_id}"] == "in":
        return fault("free_end")
    return None
