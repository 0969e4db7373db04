"""Where the one bond of the neutral is: source against transfer, as one matrix."""

from collections.abc import Iterator

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Hit, Said, Unknown
from weary_cedar.core.checks.registry import check
from weary_cedar.core.plan import PANEL_KINDS, Hookup

Verdict = str


def effective(neutral: str, feed: Hookup) -> str:
    """How the source's neutral stands in a feed: a bonding plug ties it, a switch is as it was set.

    Args:
        neutral: of the source: floating, bonded, switchable, changes, unknown.
        feed: with its bonding plug, and whether someone looked at the switch.

    Returns:
        The same, where neither says more; a switch that nobody looked at is "unknown".

    Source: common practice.
    """
    if neutral == "floating" and feed.bonding_plug == "yes":
        return "bonded"
    if neutral == "switchable":
        if feed.survey.get("neutral-set") != "yes":
            return "unknown"
        return "bonded" if feed.neutral_switched == "yes" else "floating"
    return neutral


def judged(neutral: str, gfci: str, feed: Hookup, *, split_phase: bool) -> Verdict:
    """One cell of the neutral matrix.

    Args:
        neutral: of the source: floating, bonded, switchable, changes, unknown.
        gfci: whether the source's outlet has ground-fault protection: yes, no, unknown.
        feed: what it feeds and whether its neutral is switched.
        split_phase: only 120/240 V houses; a 230 V island makes its own bond.

    Returns:
        "right", "floats" (by cord, as is usual), "island" (a 230 V house: judged by its own checks), "note",
        or the id of the check that speaks: neutral-floating-switched, neutral-double-bond,
        neutral-gfci-bond, neutral-unknown.

    Source: NFPA 70 (2023) 250.6, 250.30, 250.34, 250.142(B), from memory, and common practice.
    """
    neutral = effective(neutral, feed)
    if neutral in ("changes", "unknown"):
        return "note" if feed.kind == "cords" else "neutral-unknown"
    if feed.kind == "cords":
        return "floats" if neutral == "floating" else "right"
    if not split_phase:
        return "island"
    if feed.kind == "appliance_switch" and feed.neutral_switched != "yes":
        return "right" if neutral == "floating" else "neutral-double-bond"
    if feed.neutral_switched == "unknown":
        return "neutral-unknown"
    if feed.neutral_switched == "yes":
        single = feed.kind == "appliance_switch" and len(feed.circuit_ids) <= 1
        if neutral != "floating":
            return "right"
        return "right" if single else "neutral-floating-switched"
    if neutral == "floating":
        return "right"
    if gfci == "yes":
        return "neutral-gfci-bond"
    return "neutral-unknown" if gfci == "unknown" else "neutral-double-bond"


def cell(facts: Facts, feed: Hookup) -> Verdict:
    """The cell of the matrix that a feed of the plan is in."""
    source = facts.source(feed)
    outlet = facts.outlet(feed)
    gfci = outlet.gfci if outlet else "unknown"
    return judged(source.neutral, gfci, feed, split_phase=facts.plan.site.split_phase)


def _in_cell(facts: Facts, check_id: str) -> Iterator[Said]:
    for key, feed in facts.plan.hookups.items():
        if feed.kind in (*PANEL_KINDS, "appliance_switch") and cell(facts, feed) == check_id:
            source = facts.source(feed)
            does = "switches it" if feed.neutral_switched == "yes" else "leaves it"
            detail = f"neutral {source.neutral}, the transfer {does}"
            yield Hit(facts.element("leads", key), detail=detail)


@check("neutral-floating-switched")
def floating_switched(facts: Facts) -> Iterator[Said]:
    """A floating source on a switched neutral: no fault path."""
    yield from _in_cell(facts, "neutral-floating-switched")


@check("neutral-double-bond")
def double_bond(facts: Facts) -> Iterator[Said]:
    """A bonded source on a neutral that the house bonds too."""
    yield from _in_cell(facts, "neutral-double-bond")


@check("neutral-gfci-bond")
def gfci_bond(facts: Facts) -> Iterator[Said]:
    """A bonded source with a ground-fault outlet on a neutral that the house bonds."""
    yield from _in_cell(facts, "neutral-gfci-bond")


@check("neutral-unknown")
def unknown(facts: Facts) -> Iterator[Said]:
    """Source, outlet or transfer of which the neutral is not known."""
    for said in _in_cell(facts, "neutral-unknown"):
        feed = facts.plan.hookups[said.element.id]
        source = facts.source(feed)
        question = None
        if source.neutral == "switchable":
            missing, question = "how the source's neutral switch is set", "neutral-set"
        elif source.neutral in ("changes", "unknown"):
            missing = "how the source's neutral is tied, on battery and in bypass"
        elif feed.neutral_switched == "unknown":
            missing = "whether the transfer device switches the neutral"
        else:
            missing = "whether the source's outlet has ground-fault protection"
        yield Unknown(said.element, missing, question)


@check("neutral-none")
def flame_sensing(facts: Facts) -> Iterator[Said]:
    """A flame-sensing burner on a floating source without the house's bond."""
    for feed in facts.plan.hookups.values():
        source = facts.source(feed)
        single = (
            feed.kind == "appliance_switch" and feed.neutral_switched == "yes" and len(feed.circuit_ids) == 1
        )
        if not (feed.kind == "cords" or single) or source.neutral != "floating" or feed.bonding_plug == "yes":
            continue
        for key, load in facts.reachable(feed).items():
            if load.needs_bonded:
                yield Hit(facts.element("loads", key))


@check("bond-plug")
def bonding_plug(facts: Facts) -> Iterator[Said]:
    """A bonding plug with a panel feed, or in a source that is bonded already."""
    for key, feed in facts.plan.hookups.items():
        if feed.bonding_plug != "yes":
            continue
        if feed.kind in PANEL_KINDS or facts.source(feed).neutral != "floating":
            yield Hit(facts.element("leads", key), fix={"leads": {key: {"bonding_plug": "no"}}})
        elif feed.survey.get("bonding-plug-allowed", "unknown") != "yes":
            missing = "whether the station's maker allows a bonding plug"
            yield Unknown(facts.element("leads", key), missing, question="bonding-plug-allowed")
