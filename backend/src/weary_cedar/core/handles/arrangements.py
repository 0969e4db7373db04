"""Every arrangement of handles that the devices of a house allow, and the shortest way to harm.

What meets on conductors only grows with every handle that joins more. So only those are looked at in which
everything is joined that can be at once: what interlocks, transfer switches, plugs and inlets make one choose
is tried in every combination, all else stands where it joins most. Branches count as one.
"""

from collections.abc import Iterable, Iterator, Mapping
from itertools import product
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, computed_field

from weary_cedar.core.handles.conductors import UTILITY, Conductors, node_of
from weary_cedar.core.handles.elements import ON_OFF, Element, elements_of, is_wired
from weary_cedar.core.handles.mechanisms import at_one_end, forbidden, holds, kept_apart, moved
from weary_cedar.core.network import Network
from weary_cedar.core.plan import BACKFED_KINDS, Plan, leg_of_space

#: So many arrangements are looked at; what is left is said.
MOST_ARRANGEMENTS = 4_096
#: Kinds of handles that decide what meets on conductors.
DECIDING = ("main", "interlock", "feed_breaker", "transfer", "source_end", "load_end", "output", "engine")


#: As the state machine of the panel has it.
Code = Literal["back_feed", "two_sources", "live_blades"]


class Told(BaseModel):
    """A frozen part of what was found."""

    model_config = ConfigDict(frozen=True)


class Act(Told):
    """A handle that goes somewhere, by its path and in words."""

    what: str
    to: str
    name: str


class Danger(Told):
    """What an arrangement lets meet, with the leads in it and the shortest way there."""

    code: Code
    why: str
    leads: tuple[str, ...]
    acts: tuple[Act, ...] | None = Field(
        description="nothing to do where it is so already; null where no order was found that hands follow"
    )

    @computed_field  # type: ignore[prop-decorator]
    @property
    def words(self) -> str:
        """The way in words: "feed breaker of the inlet on, main of Main panel on: 2 acts"."""
        if self.acts is None:
            return "there, in no order that a hand is meant to follow"
        told = ", ".join(f"{act.name} {act.to}" for act in self.acts)
        return f"{told}: {_many(len(self.acts), 'act')}" if told else "as it stands"


class Looked(Told):
    """What came of looking at all arrangements."""

    handles: int
    looked_at: int
    dangers: tuple[Danger, ...]
    trusts: tuple[str, ...] = Field(description="devices that it relies on, by name")
    left_out: str = Field(description="what was not looked at, in words; empty where all was")

    @computed_field  # type: ignore[prop-decorator]
    @property
    def sound(self) -> bool:
        """Whether all was looked at and nothing meets."""
        return not self.dangers and not self.left_out

    @computed_field  # type: ignore[prop-decorator]
    @property
    def words(self) -> str:
        """The answer in one sentence."""
        looked = f"{self.handles} handles, {_many(self.looked_at, 'arrangement')} looked at"
        if self.dangers:
            return f"{looked}: what must never meet can, in {_many(len(self.dangers), 'way')}"
        if self.left_out:
            return f"Not all of it could be looked at ({looked}): {self.left_out}"
        sound = (
            f"No arrangement of {self.handles} handles ({self.looked_at:,} looked at) lets two sources meet, "
            "a source meet the utility, or blades be live"
        )
        return f"{sound}. It trusts {', '.join(self.trusts)}: listed and whole" if self.trusts else sound


def _many(count: int, noun: str) -> str:
    return f"{count:,} {noun}{'s' * (count != 1)}"


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
            acts = _way_to(network, elements, begins, at, code, leads)
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


def _shorter(acts: tuple[Act, ...] | None, known: tuple[Act, ...] | None) -> bool:
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
            cords = _ends(plan.hookups, "in") | _ends(out, "out")
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
        without = Conductors(network, {**at, **_ends(keys, "out")})
        group = without.group_of(f"inlet/{feed_id}")
        if UTILITY in group or without.giving(group):
            yield "live_blades", "the blades of an inlet are live", tuple(keys)


def _ends(leads: Iterable[str], to: str) -> dict[str, str]:
    """Both ends of some leads, in or out."""
    return {f"{end}/{key}": to for key in leads for end in ("source_end", "load_end")}


def _legs(plan: Plan, lead_id: str) -> set[str]:
    """Legs of the house that a lead reaches."""
    hookup = plan.hookups[lead_id]
    if hookup.kind != "half_leg" or not hookup.breaker_spaces:
        return {"A", "B"}
    return {leg_of_space(hookup.breaker_spaces[0], plan.panels[hookup.panel_id].first_leg)}


# -------------------------------------------------------------------- how one gets there


def _way_to(
    network: Network,
    elements: Mapping[str, Element],
    begins: Mapping[str, str],
    danger: Mapping[str, str],
    code: str,
    leads: tuple[str, ...],
) -> tuple[Act, ...] | None:
    """An order of acts into a danger, that moves no handle without need; none where no order is allowed."""
    target = dict(danger)
    if code == "live_blades":
        target |= _ends(leads, "out")
    moves = {key: to for key, to in target.items() if begins[key] != to and key.partition("/")[0] in DECIDING}
    for key in sorted(moves, key=_needless_first):
        rest = {other: to for other, to in moves.items() if other != key}
        if _harms(network, {**begins, **rest}, code, leads) and _allowed(network, begins, rest) is not None:
            moves = rest
    order = _allowed(network, begins, moves)
    if order is None:
        return None
    return tuple(Act(what=key, to=to, name=elements[key].name) for key, to in order)


def _needless_first(key: str) -> tuple[bool, str]:
    """Outputs and engines before all else: most dangers are there before a source gives."""
    return key.partition("/")[0] not in ("output", "engine"), key


def _harms(network: Network, at: Mapping[str, str], code: str, leads: tuple[str, ...]) -> bool:
    """Whether a danger is there already, with these leads in it."""
    joined = Conductors(network, at)
    group = joined.group_of(f"inlet/{network.plan.hookups[leads[0]].feed_id}")
    if code == "live_blades":
        plugged = any(map(joined.plugged, joined.leads_to(str(network.plan.hookups[leads[0]].feed_id))))
        return not plugged and (UTILITY in group or bool(joined.giving(group)))
    if not all(map(joined.plugged, leads)):
        return False
    nodes = [node_of(network.plan.hookups[key]) for key in leads]
    if code == "back_feed":
        return UTILITY in group and nodes[0] in group
    return all(node in group for node in nodes) and any(map(joined.gives, nodes))


def _allowed(
    network: Network, begins: Mapping[str, str], moves: Mapping[str, str]
) -> list[tuple[str, str]] | None:
    """The moves in an order in which nothing is in the way of any, if there is one.

    No move takes away what another needs: whatever can be done is done, cords before breakers. A transfer
    switch goes by its middle.
    """
    at, left = dict(begins), dict(moves)
    order: list[tuple[str, str]] = []
    while left:
        joined = Conductors(network, at)
        done = next(
            (key for key in sorted(left, key=_hands_order) if not _stopped(joined, key, left[key])), None
        )
        if done is None:
            return None
        at[done] = left.pop(done)
        order += [(done, "off")] * done.startswith("transfer/") + [(done, at[done])]
    return order


#: What a hand does first: it plugs from the far end, then opens, then closes; sources come on at the end.
HANDS = ("load_end", "source_end", "interlock", "feed_breaker", "transfer", "main", "engine", "output")


def _hands_order(key: str) -> tuple[int, str]:
    return HANDS.index(key.partition("/")[0]), key


def _stopped(joined: Conductors, key: str, to: str) -> bool:
    """Whether a mechanism, or the order in which a cord is handled, is in the way of a move."""
    kind, _, of = key.partition("/")
    if forbidden(joined.plan, joined.at, key, to) is not None:
        return True
    if kind in ("source_end", "load_end"):
        return moved(joined, kind, of, to) is not None
    return False
