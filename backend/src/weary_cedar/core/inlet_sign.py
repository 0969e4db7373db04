"""The sign at an inlet: what may be plugged in there, how its neutral must stand, and in which order."""

from collections.abc import Iterator

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.network.neutral_states import neutral_states
from weary_cedar.core.one_line import SWITCHED
from weary_cedar.core.plan import Hookup, Plan

#: The words that an inlet bears by NEC 702.7(C), from memory.
WARNINGS = {
    "yes": "FOR CONNECTION OF A SEPARATELY DERIVED (BONDED NEUTRAL) SYSTEM ONLY",
    "no": "FOR CONNECTION OF A NONSEPARATELY DERIVED (FLOATING NEUTRAL) SYSTEM ONLY",
}
#: For a house of 230 V, in place of these. Common practice.
ABROAD = "ONLY WITH THE CHANGEOVER IN ITS MIDDLE POSITION; ITS NEUTRAL-EARTH BOND CLOSES WITH IT"


class InletSign(BaseModel):
    """A sign to be hung at one inlet; with what is not known it must not be hung."""

    model_config = ConfigDict(frozen=True)

    feed_id: str
    title: str
    warning: str
    lines: tuple[str, ...]
    #: Why it cannot be hung yet; empty where it can.
    missing: tuple[str, ...]


def inlet_signs(plan: Plan) -> list[InletSign]:
    """A sign for every inlet of a plan.

    Args:
        plan: the plan.

    Returns:
        Sources by name with their neutrals, the cord's order, what it feeds. Where a neutral or the
        transfer is not known, or a source does not fit it, that is named: such a sign is not to be hung.

    Source: NEC 702.7(C) from memory; order of the cord, common practice. Local code comes first.
    """
    found = []
    for feed_id, feed in plan.feeds.items():
        own = [hookup for hookup in plan.hookups.values() if hookup.feed_id == feed_id]
        if feed.traits.by_itself:
            continue
        switched = feed.neutral_switched
        abroad = not plan.site.split_phase
        warning = ABROAD if abroad else WARNINGS.get(switched, "NOT KNOWN: DO NOT USE THIS SIGN")
        panel = plan.panels[feed.panel_id].name
        device = f"{feed.breaker_a:g} A breaker of {panel}"
        if feed.traits.interlocked and feed.breaker_spaces:
            device += f", spaces {'+'.join(map(str, feed.breaker_spaces))}, interlocked with the main"
        lines = (
            f"It feeds {panel} through the {device}; {SWITCHED[switched]}.",
            *(f"Source: {_source(plan, hookup)}" for hookup in own),
            "Plug in: here first, then at the source. Pull out: at the source first, then here.",
            "Source output and feed breaker are OFF whenever a cord is moved.",
            "Engines stay outdoors, far from openings. Close the cover when nothing is plugged in.",
        )
        found.append(
            InletSign(
                feed_id=feed_id,
                title=f"Inlet {feed.inlet}, {feed.inlet_a:g} A",
                warning=warning,
                lines=lines,
                missing=tuple(dict.fromkeys(_missing(plan, own, switched))),
            )
        )
    return found


def _source(plan: Plan, hookup: Hookup) -> str:
    link = plan.link_of(hookup)
    name = link.name if link else plan.source(hookup).name
    states = {state.neutral for state in neutral_states(plan, hookup)}
    told = " or ".join(sorted(states)).replace("unknown", "not known")
    plug = "; no bonding plug" if hookup.bonding_plug == "no" and states == {"floating"} else ""
    return f"{name}, neutral {told}{plug}"


def _missing(plan: Plan, own: list[Hookup], switched: str) -> Iterator[str]:
    if switched == "unknown":
        yield "whether the transfer switches the neutral is not known"
    if not own:
        yield "no source leads to it in the plan"
    for hookup in own:
        if hookup.traits.refused:
            yield "nothing keeps it and the utility apart: refused"
        for state in neutral_states(plan, hookup):
            if state.neutral == "unknown":
                yield f"how the neutral of {state.of} stands is not known"
            elif switched == "no" and state.neutral == "bonded" and plan.site.split_phase:
                yield f"{state.of} bonds its neutral, and so does the house: two bonds"
            elif switched == "yes" and state.neutral == "floating" and plan.site.split_phase:
                yield f"{state.of} floats behind a switched neutral: no bond at all"
