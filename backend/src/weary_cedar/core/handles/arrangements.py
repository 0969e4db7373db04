"""Every arrangement of handles that the devices of a house allow, and the shortest way to harm.

What meets on conductors only grows with every handle that joins more. So only those are looked at in which
everything is joined that can be at once: what interlocks, transfer switches, plugs and inlets make one choose
is tried in every combination, all else stands where it joins most. Branches count as one.
"""

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from itertools import chain, product

from weary_cedar.core.handles.bonds import bond_cells, misbonded
from weary_cedar.core.handles.circles import circles
from weary_cedar.core.handles.conductors import UTILITY, Conductors, node_of
from weary_cedar.core.handles.dangers import Code, Danger, HandleMove, Looked
from weary_cedar.core.handles.elements import ON_OFF, elements_of, is_wired
from weary_cedar.core.handles.mechanisms import at_one_end, holds, kept_apart
from weary_cedar.core.handles.way_there import DECIDING, ends_of, way_to
from weary_cedar.core.network import Network
from weary_cedar.core.plan import Plan, leg_of_space

#: So many arrangements are looked at; what is left is said.
MOST_ARRANGEMENTS = 128
#: A way to a danger is made as short as it can be in so many of the arrangements that have it.
MOST_WAYS = 4


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
    tried: Counter[tuple[Code, tuple[str, ...]]] = Counter()
    count, left_out, standing = 0, _not_known(plan), _standing(network)
    for at in chain.from_iterable(_joining_most(plan, begins, part) for part in _parts(plan)):
        if count == MOST_ARRANGEMENTS:
            left_out = "; ".join(filter(None, (left_out, f"more than {MOST_ARRANGEMENTS:,} arrangements")))
            break
        count += 1
        for code, why, leads in _dangers(network, at, standing):
            tried[code, leads] += 1
            if tried[code, leads] > MOST_WAYS:
                continue
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
        bonds_known=all(cell != "neutral-unknown" for *_, cell in bond_cells(plan)),
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
        and any(feed.panel_id == key and feed.traits.interlocked for feed in plan.feeds.values())
    ]
    return f"it is not known whether the interlock is on the own main of {', '.join(open_)}" if open_ else ""


# -------------------------------------------------------------------- what can be joined at once


def _parts(plan: Plan) -> list[set[str]]:
    """Feeds that can share a conductor, a source or a device; what is apart is looked at apart."""
    if any("exclusive" in hookup.survey for hookup in plan.hookups.values()):
        return [set(plan.feeds)]
    parts: list[tuple[set[str], set[str]]] = []
    for key, feed in plan.feeds.items():
        sources = {node_of(hookup) for hookup in plan.hookups.values() if hookup.feed_id == key}
        own = ({key}, sources | {f"panel/{panel}" for panel in plan.panels_reached(feed.panel_id)})
        met = [part for part in parts if part[1] & own[1]]
        parts = [part for part in parts if part not in met]
        parts.append((own[0].union(*(feeds for feeds, _ in met)), own[1].union(*(nodes for _, nodes in met))))
    return [feeds for feeds, _ in parts]


def _joining_most(plan: Plan, begins: Mapping[str, str], part: set[str]) -> Iterator[dict[str, str]]:
    """Arrangements of a part that join as much as can be at once, one for every combination of choices."""
    at = dict(begins)
    for key in begins:
        kind, _, of = key.partition("/")
        if kind in ("output", "engine", "breaker") or (kind == "feed_breaker" and of in part):
            at[key] = "on"
    backfed = [key for key in plan.feeds if key in part and plan.feeds[key].traits.interlocked]
    held = [key for key in backfed if holds(plan, key)]
    for key in backfed:
        if key not in held:
            at[f"interlock/{key}"] = "source"
    panels = {plan.feeds[key].panel_id for key in held}
    sides = [(f"main/{panel}", ON_OFF) for panel in sorted(panels)]
    turns = [(f"transfer/{key}", ("utility", "source")) for key in plan.feeds if key in part]
    turns = [(key, positions) for key, positions in turns if key in begins]
    apart = _apart(plan, part)
    for chosen in product(*(positions for _, positions in (*sides, *turns))):
        here = dict(at)
        for (key, _), position in zip((*sides, *turns), chosen, strict=True):
            here[key] = position
        for key in held:
            fed = here[f"main/{plan.feeds[key].panel_id}"] == "off"
            here[f"interlock/{key}"] = "source" if fed else "utility"
            here[f"feed_breaker/{key}"] = "on" if fed else "off"
        for plugged in _plugged(apart):
            out = [key for key, hookup in plan.hookups.items() if key not in plugged and not is_wired(hookup)]
            cords = ends_of(plan.hookups, "in") | ends_of(out, "out")
            for opened in _opened(plan, begins):
                yield here | cords | opened


def _apart(plan: Plan, part: set[str]) -> dict[str, set[str]]:
    """Leads to some feeds, each with those that cannot be in beside it."""
    leads = [
        key
        for key, hookup in sorted(plan.hookups.items())
        if hookup.feed_id in part and not _locked(plan, key)
    ]
    return {
        key: {other for other in leads if other != key and _in_the_way(plan, key, other)} for key in leads
    }


def _plugged(apart: Mapping[str, set[str]]) -> Iterator[frozenset[str]]:
    """Sets of leads that can be in at once, to which no other could be added."""

    def grow(chosen: frozenset[str], left: list[str]) -> Iterator[frozenset[str]]:
        if not left:
            if not any(key not in chosen and not others & chosen for key, others in apart.items()):
                yield chosen
            return
        first, rest = left[0], left[1:]
        if not apart[first] & chosen:
            yield from grow(chosen | {first}, rest)
        if apart[first] & (chosen | set(rest)):
            yield from grow(chosen, rest)

    yield from grow(frozenset(), list(apart))


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


def _dangers(
    network: Network, at: Mapping[str, str], standing: Iterable[tuple[Code, tuple[str, ...]]]
) -> Iterator[tuple[Code, str, tuple[str, ...]]]:
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
    for code, leads_in_it in standing:
        if all(_feeds(joined, key) for key in leads_in_it):
            yield code, WHY[code], leads_in_it
    for feed_id in plan.feeds:
        keys = joined.leads_to(feed_id)
        if not keys or any(is_wired(plan.hookups[key]) for key in keys):
            continue
        around = joined.group_of(f"inlet/{feed_id}")
        others = (key for key in leads if key not in keys and joined.plugged(key) and leads[key] in around)
        if UTILITY not in around and next(others, None) is None:
            continue
        without = Conductors(network, {**at, **ends_of(keys, "out")})
        group = without.group_of(f"inlet/{feed_id}")
        if UTILITY in group or without.giving(group):
            yield "live_blades", "the blades of an inlet are live", tuple(keys)


#: What is wrong with a source that feeds a house so.
WHY: Mapping[Code, str] = {
    "no_bond": "a source feeds the house while nothing ties its neutral to ground",
    "device_between": "a source that is bonded behind a ground-fault device feeds a house with its own bond",
    "charging_circle": "stations charge in a circle from what they feed",
}


def _standing(network: Network) -> list[tuple[Code, tuple[str, ...]]]:
    """What is wrong as soon as some leads feed: sources without their one bond, circles of charging."""
    found = [(code, leads) for code, leads in misbonded(network)]
    return found + [("charging_circle", leads) for leads in circles(network)]


def _feeds(joined: Conductors, lead_id: str) -> bool:
    """Whether a lead is joined to the feed that it ends at, if it does; a handle is enough."""
    hookup = joined.plan.hookups.get(lead_id)
    if hookup is None or hookup.feed_id is None:
        return True
    by_handles = hookup.traits.moves == "handles" and bool(hookup.circuit_ids)
    return joined.plugged(lead_id) and (by_handles or joined.closed(hookup.feed_id))


def _legs(plan: Plan, lead_id: str) -> set[str]:
    """Legs of the house that a lead reaches."""
    hookup = plan.hookups[lead_id]
    if hookup.kind != "half_leg" or not hookup.breaker_spaces:
        return {"A", "B"}
    return {leg_of_space(hookup.breaker_spaces[0], plan.panels[hookup.panel_id].first_leg)}
