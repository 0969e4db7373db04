"""Where the one bond of the neutral is: source against transfer, as one matrix."""

from collections.abc import Callable, Iterator
from dataclasses import replace

from weary_cedar.core.checks.facts import GFCI_A, Facts, no_fault_path
from weary_cedar.core.checks.finding import Figure, Figures, Hit, Said, Seen, Told, Unknown
from weary_cedar.core.checks.registry import check, seen
from weary_cedar.core.handles.bonds import FORBIDDEN
from weary_cedar.core.network.neutral_matrix import WORST, Verdict, judged
from weary_cedar.core.network.neutral_states import NeutralState, floats_at, neutral_states
from weary_cedar.core.network.wires import cord_ohms, ground_wire_ohms, one_way_ohms
from weary_cedar.core.plan import Hookup


def cells(facts: Facts, feed: Hookup) -> list[tuple[NeutralState, Verdict]]:
    """Every state of the source of a feed, with the cell of the matrix that it is in."""
    split_phase = facts.plan.site.split_phase
    return [
        (state, judged(state.neutral, state.gfci, feed, split_phase=split_phase))
        for state in neutral_states(facts.plan, feed)
    ]


def cell(facts: Facts, feed: Hookup) -> Verdict:
    """The worst cell of the matrix that a feed of the plan is in."""
    return min((verdict for _, verdict in cells(facts, feed)), key=WORST.index)


def _in_cell(facts: Facts, check_id: str) -> Iterator[tuple[str, Hookup, list[NeutralState]]]:
    """Feeds that are in a cell of the matrix, with the states in which they are."""
    for key, feed in facts.plan.hookups.items():
        found = [state for state, verdict in cells(facts, feed) if verdict == check_id]
        if feed.feed_id is not None and found:
            yield key, feed, found


def _told(facts: Facts, check_id: str, figures_of: Callable[[Facts, Hookup], Figures]) -> Iterator[Said]:
    for key, feed, states in _in_cell(facts, check_id):
        does = "switches it" if feed.neutral_switched == "yes" else "leaves it"
        ties = [f"{state.words}: " * bool(state.words) + f"neutral {state.neutral}" for state in states]
        way = facts.way_to(FORBIDDEN[check_id], key) if check_id in FORBIDDEN else ""
        detail = "; ".join(filter(None, (*ties, f"the transfer {does}", way)))
        yield Hit(facts.element("leads", key), figures_of(facts, feed), detail=detail)


def _no_way_back(facts: Facts, feed: Hookup) -> Figures:
    breakers = [circuit.rated_a for circuit in facts.on(feed).values()]
    return no_fault_path(min(breakers, default=facts.plan.outlet(feed).rating_a))


def _neutral_now(facts: Facts, feed: Hookup, limit: float | None) -> Figure:
    """The greatest current of the neutral in the run; what it may be where nothing has run."""
    now_a = facts.most_neutral_a(feed.lead_id)
    if now_a is not None and now_a > (limit or 0.0):
        return Figure(name="neutral current in the run", value=now_a, limit=limit, unit="A")
    outlet = facts.outlet(feed)
    most_a = outlet.rating_a if outlet is not None else feed.inlet_a
    return Figure(name="neutral current, at most", value=most_a, limit=limit, unit="A")


def _on_the_ground(facts: Facts, feed: Hookup) -> Figures:
    """What of the neutral's current the grounding conductor carries, tied at both ends.

    Source: division of currents by resistances; the grounding conductor of a cord is as thick as its
    others, that of a larger run by NFPA 70 (2023) table 250.122, from memory; joints apart.
    """
    neutral_ohm = one_way_ohms(feed)
    ground_ohm = cord_ohms(feed.cords) + ground_wire_ohms(feed)
    share = neutral_ohm / (neutral_ohm + ground_ohm) if neutral_ohm + ground_ohm > 0 else 0.5
    now = _neutral_now(facts, feed, None)
    on_ground = Figure(name="of it on the grounding conductor", value=share * now.value, limit=0.0, unit="A")
    return now, on_ground


@check("neutral-floating-switched")
def floating_switched(facts: Facts) -> Iterator[Said]:
    """A floating source on a switched neutral: no fault path."""
    yield from _told(facts, "neutral-floating-switched", _no_way_back)


@check("neutral-double-bond")
def double_bond(facts: Facts) -> Iterator[Said]:
    """A bonded source on a neutral that the house bonds too."""
    yield from _told(facts, "neutral-double-bond", _on_the_ground)


@check("neutral-gfci-bond")
def gfci_bond(facts: Facts) -> Iterator[Said]:
    """A bonded source with a ground-fault outlet on a neutral that the house bonds."""
    yield from _told(facts, "neutral-gfci-bond", lambda f, feed: (_neutral_now(f, feed, GFCI_A),))


@check("neutral-unknown")
def unknown(facts: Facts) -> Iterator[Said]:
    """Source, outlet or transfer of which the neutral is not known."""
    for key, feed, states in _in_cell(facts, "neutral-unknown"):
        parts = [_open(feed, state) for state in states]
        by_switch = any(state.by_switch for state in states)
        missing = "; ".join(dict.fromkeys(parts))
        yield Unknown(facts.element("leads", key), missing, "neutral-set" if by_switch else None)


def _open(feed: Hookup, state: NeutralState) -> str:
    """What is missing of one state of a source."""
    if state.by_switch:
        return f"how the neutral switch of {state.of} is set"
    if state.neutral == "unknown":
        return f"how the neutral of {state.of} is tied" + (f" {state.words}" if state.via is None else "")
    if feed.neutral_switched == "unknown":
        return "whether the transfer device switches the neutral"
    return "whether the source's outlet has ground-fault protection"


@seen("neutral-none")
def flame_sensing(facts: Facts) -> Iterator[Told]:
    """A flame-sensing burner on a source that floats, without the house's bond."""
    for feed in facts.plan.hookups.values():
        floating = [state.words for state in floats_at(facts.plan, feed)]
        for key, load in facts.reachable(feed).items() if floating else ():
            if load.needs_bonded:
                yield Seen(facts.element("loads", key), detail="; ".join(filter(None, floating)))


@check("neutral-parallel")
def two_paths(facts: Facts) -> Iterator[Said]:
    """A station plugged into a circuit of the house that it feeds: its input joins that circuit's neutral."""
    plan = facts.plan
    for key, recharge in plan.recharges.items():
        station = plan.stations[recharge.station_id]
        entry = station.ac_inputs.get(recharge.input_id)
        fed = [feed for _, feed in facts.panel_feeds if recharge.station_id in plan.source_units(feed)]
        leaves = [feed for feed in fed if feed.neutral_switched != "yes"]
        loop = recharge.plugged != "grid" and any(recharge.from_id in facts.reached(feed) for feed in fed)
        if recharge.kind != "circuit" or loop or not leaves or entry is None or not entry.passes:
            continue
        circuit, element = plan.circuits[recharge.from_id], facts.element("leads", key)
        if station.neutral_in_bypass == "unknown":
            yield Unknown(element, f"whether {station.name} joins the neutral of its input to its output's")
        elif station.neutral_in_bypass == "passes":
            behind = circuit.protection in ("gfci", "gfci_afci")
            figures = (_neutral_now(facts, leaves[0], GFCI_A if behind else 0.0),)
            detail = f"by the circuit {circuit.label} and by {plan.lead_name(leaves[0].lead_id)}"
            yield Hit(element, figures, level="stop" if behind else "caution", detail=detail)


@seen("bond-plug")
def bonding_plug(facts: Facts) -> Iterator[Told]:
    """A bonding plug with a panel feed, in a source that is bonded, or passes a grounded supply through."""
    for key, feed in facts.plan.hookups.items():
        if feed.bonding_plug != "yes":
            continue
        bare = neutral_states(facts.plan, replace(feed, bonding_plug="no"))
        element, passed = facts.element("leads", key), [state for state in bare if state.via is not None]
        bonded = [state.words for state in passed if state.neutral == "bonded"]
        if feed.traits.panel or bare[0].neutral != "floating" or bonded:
            fix = {"leads": {key: {"bonding_plug": "no"}}}
            yield Seen(element, detail="; ".join(filter(None, bonded)), fix=fix)
        elif feed.survey.get("bonding-plug-allowed", "unknown") != "yes":
            missing = "whether the station's maker allows a bonding plug"
            yield Unknown(element, missing, question="bonding-plug-allowed")
        elif any(state.neutral == "unknown" for state in passed):
            yield Unknown(element, f"how the neutral of {passed[0].of} is tied")
