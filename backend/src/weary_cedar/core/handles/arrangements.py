"""Every arrangement of handles that the devices of a house allow, and the shortest way to harm.

What meets on conductors only grows with every handle that joins more. So only those are looked at in which
everything is joined that can be at once: what interlocks, transfer switches, plugs and inlets make one choose
is tried in every combination, all else stands where it joins most. Branches count as one.
"""

from collections.abc import Iterator, Mapping
from itertools import product

from weary_cedar.core.handles.conductors import UTILITY, Conductors, node_of
from weary_cedar.core.handles.dangers import Code, Danger, HandleMove, Looked
from weary_cedar.core.handles.elements import ON_OFF, elements_of, is_wired
from weary_cedar.core.handles.mechanisms import at_one_end, holds, kept_apart
from weary_cedar.core.handles.way_there import DECIDING, ends_of, way_to
from weary_cedar.core.network import Network
from weary_cedar.core.plan import BACKFED_KINDS, Plan, leg_of_space

#: So many arrangements are looked at; what is left is said.
MOST_ARRANGEMENTS = 4_096


def arrangements(network: Network) -> Looked:
    """Look at every arrangement of handles that the devices of a plan allow.

    Args:
        network: of the plan.

    Returns:
        How many handles and arrangements there were, and each danger once, with a way that moves as few
        handles as that danger needs, from how the house stands on the utility.

    Source: exact: joining more never takes a danger away. Bounded: what was left out is said.
    """
    plan, elements = network.plan, elements_of(network.plan)
    begins = {key: element.begins for key, element in elements.items()}
    handles = [key for key in elements if key.partition("/")[0] in DECIDING]
    found: dict[tuple[Code, tuple[str, ...]], Danger] = {}
    count, left_out = 0, _not_known(plan)
    for at in _joining_most(plan, begins):
        if count == MOST_ARRANGEMENTS:
            left_out = f"more than {MOST_ARRANGEMENTS:,} arrangements"
            break
        count += 1
        for code, why, leads in _dangers(network, at):
            acts = way_to(network, elements, begins, at, code, leads)
            shortest = found.get((code, leads))
            if shortest is None or _shorter(acts, shortest.acts):
                found[code, leads] = Danger(code=code, why=why, leads=leads, acts=acts)
    trusts = [elements[f"interlock/{key}"].name for key in plan.feeds if f"interlock/{key}" in elements]
    trusts += [elements[f"transfer/{key}"].name for key in plan.feeds if f"transfer/{key}" in elements]
    return Looked(
        handles=len(handles),
        looked_at=count,
        dangers=tuple(found.values()),
        trusts=tuple(trusts),
        left_out=left_out,
    )


def _shorter(acts: tuple[HandleMove, ...] | None, known: tuple[HandleMove, ...] | None) -> bool:
    return acts is not None and (known is None or len(acts) < len(known))


def _not_known(plan: Plan) -> str:
    """What nobody answered of the devices that it relies on, in words."""
    open_ = [
        panel.name
        for key, panel in plan.panels.items()
        if panel.fed_from is not None
        and "own-main-interlocked" not in panel.survey
        and any(feed.panel_id == key and feed.kind in BACKFED_KINDS for feed in plan.feeds.values())
    ]
    return f"it is not known whether the interlock is on the own main of {', '.join(open_)}" if open_ else ""


# -------------------------------------------------------------------- what can be joined at once


def _joining_most(plan: Plan, begins: Mapping[str, str]) -> Iterator[dict[str, str]]:
    """Arrangements that join as much as can be joined at once, one for every combination of choices."""
    at = dict(begins)
    for key in begins:
        if key.partition("/")[0] in ("output", "engine", "feed_breaker", "breaker"):
            at[key] = "on"
    loose = [key for key, feed in plan.feeds.items() if feed.kind in BACKFED_KINDS and not holds(plan, key)]
    for key in loose:
        at[f"interlock/{key}"] = "source"
    held = [key for key, feed in plan.feeds.items() if feed.kind in BACKFED_KINDS and key not in loose]
    panels = {plan.feeds[key].panel_id for key in held}
    switches = [key for key, feed in plan.feeds.items() if f"transfer/{key}" in begins]
    sides = [(f"main/{panel}", ON_OFF) for panel in sorted(panels)]
    turns = [(f"transfer/{key}", ("utility", "source")) for key in switches]
    for chosen in product(*(positions for _, positions in (*sides, *turns))):
        here = dict(at)
        for (key, _), position in zip((*sides, *turns), chosen, strict=True):
            here[key] = position
        for key in held:
            fed = here[f"main/{plan.feeds[key].panel_id}"] == "off"
            here[f"interlock/{key}"] = "source" if fed else "utility"
            here[f"feed_breaker/{key}"] = "on" if fed else "off"
        for plugged in _plugged(plan):
            out = [key for key, hookup in plan.hookups.items() if key not in plugged and not is_wired(hookup)]
            cords = ends_of(plan.hookups, "in") | ends_of(out, "out")
            for opened in _opened(plan, begins):
                yield here | cords | opened


def _plugged(plan: Plan) -> Iterator[frozenset[str]]:
    """Sets of leads that can be in at once, to which no other could be added."""
    leads = [key for key, hookup in sorted(plan.hookups.items()) if not _locked(plan, key)]
    apart = {
        key: {other for other in leads if other != key and _in_the_way(plan, key, other)} for key in leads
    }

    def grow(chosen: frozenset[str], left: list[str]) -> Iterator[frozenset[str]]:
        if not left:
            free = [key for key in leads if key not in chosen and not apart[key] & chosen]
            if not free:
                yield chosen
            return
        first, rest = left[0], left[1:]
        if not apart[first] & chosen:
            yield from grow(chosen | {first}, rest)
        if apart[first]:
            yield from grow(chosen, rest)

    yield from grow(frozenset(), leads)


def _opened(plan: Plan, begins: Mapping[str, str]) -> Iterator[dict[str, str]]:
    """What stays open so that feeds that one device keeps apart are not closed at once, by each of them."""
    apart = {key: set(kept_apart(plan, key)) for key in plan.feeds}
    held = [key for key, others in apart.items() if others]
    for first in held or [""]:
        closed = {first}
        for key in held:
            if not apart[key] & closed:
                closed.add(key)
        opened = {f"feed_breaker/{key}": "off" for key in held if key not in closed}
        opened |= {f"transfer/{key}": "utility" for key in held if key not in closed}
        yield {key: to for key, to in opened.items() if key in begins}


def _locked(plan: Plan, lead_id: str) -> bool:
    """Whether a lead is of a set that is locked out while another source feeds."""
    hookup = plan.hookups[lead_id]
    engine = plan.generators.get(hookup.source_id) if hookup.source_kind == "generator" else None
    return hookup.kind == "automatic" and engine is not None and engine.locked_out == "yes"


def _in_the_way(plan: Plan, one: str, other: str) -> bool:
    """Whether two leads cannot both be in: one inlet, or one outlet."""
    return at_one_end(plan, one, other) is not None


# -------------------------------------------------------------------- what meets


def _dangers(network: Network, at: Mapping[str, str]) -> Iterator[tuple[Code, str, tuple[str, ...]]]:
    """(code, why, leads) of everything that meets in an arrangement and must not."""
    plan, joined = network.plan, Conductors(network, at)
    leads = {key: node_of(hookup) for key, hookup in plan.hookups.items() if hookup.feed_id is not None}
    for group in joined.groups:
        met = [key for key, node in leads.items() if node in group and joined.plugged(key)]
        sources = {leads[key]: key for key in reversed(met)}
        if UTILITY in group:
            for key in sources.values():
                yield "back_feed", "a source and the utility are joined", (key,)
            continue
        in_turn = sorted(sources.values())
        for index, one in enumerate(in_turn):
            for other in in_turn[index + 1 :]:
                if _legs(plan, one) & _legs(plan, other):
                    yield "two_sources", "two sources are joined that do not run in step", (one, other)
    for feed_id in plan.feeds:
        keys = joined.leads_to(feed_id)
        if not keys or any(is_wired(plan.hookups[key]) for key in keys):
            continue
        without = Conductors(network, {**at, **ends_of(keys, "out")})
        group = without.group_of(f"inlet/{feed_id}")
        if UTILITY in group or without.giving(group):
            yield "live_blades", "the blades of an inlet are live", tuple(keys)


def _legs(plan: Plan, lead_id: str) -> set[str]:
    """Legs of the house that a lead reaches."""
    hookup = plan.hookups[lead_id]
    if hookup.kind != "half_leg" or not hookup.breaker_spaces:
        return {"A", "B"}
    return {leg_of_space(hookup.breaker_spaces[0], plan.panels[hookup.panel_id].first_leg)}
