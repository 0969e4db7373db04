"""Where the neutral of what a lead feeds is tied to ground, as the house stands."""

from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Final

from weary_cedar.core.handles.conductors import Conductors
from weary_cedar.core.handles.dangers import Code
from weary_cedar.core.network import Network
from weary_cedar.core.network.neutral_matrix import Verdict, judged
from weary_cedar.core.network.neutral_states import NeutralState, neutral_states
from weary_cedar.core.plan import Hookup, Plan


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


#: Cells of the matrix in which a source must not be joined to a house, and what they are called here.
FORBIDDEN: Final[Mapping[str, Code]] = {
    "neutral-floating-switched": "no_bond",
    "neutral-gfci-bond": "device_between",
}


def misbonded(network: Network) -> Iterator[tuple[Code, tuple[str, ...]]]:
    """Leads that must not feed a house: too few bonds, or a ground-fault device between two.

    Args:
        network: of the plan.

    Returns:
        The code of the danger, the lead, and the one that its station passes through if it is so only then.

    Source: the matrix of the checks.
    """
    for key, state, cell in bond_cells(network.plan):
        if cell in FORBIDDEN:
            yield FORBIDDEN[cell], (key,) if state.via is None else (key, state.via)


def bond_cells(plan: Plan) -> Iterator[tuple[str, NeutralState, Verdict]]:
    """Every state of every lead to a feed, with its cell of the matrix. Source: as `judged`."""
    for key, hookup in plan.hookups.items():
        for state in neutral_states(plan, hookup) if hookup.feed_id is not None else ():
            yield key, state, judged(state.neutral, state.gfci, hookup, split_phase=plan.site.split_phase)


def misjoined(joined: Conductors) -> Iterator[tuple[Code, str]]:
    """Sources that are joined to a house with too few bonds, or with a ground-fault device between two.

    Args:
        joined: conductors as they are joined; what a station passes through just now counts instead of its
            own neutral.

    Returns:
        The code of the fault, and the name of the source.

    Source: the matrix of the checks.
    """
    plan = joined.plan
    for key, hookup in plan.hookups.items():
        if hookup.feed_id is None or not joined.plugged(key) or not joined.closed(hookup.feed_id):
            continue
        now, split = _now(joined, key), plan.site.split_phase
        for state in _states(joined, now):
            cell = judged(state.neutral, state.gfci, now, split_phase=split)
            if cell in FORBIDDEN:
                yield FORBIDDEN[cell], plan.source(hookup).name


def _states(joined: Conductors, hookup: Hookup) -> list[NeutralState]:
    """How the source of a hook-up stands now: on its own, or passing through what comes in."""
    found = neutral_states(joined.plan, hookup)
    passing = [state for state in found if state.via is not None and _comes_in(joined, state.via)]
    return passing or [state for state in found if state.via is None]


def _comes_in(joined: Conductors, lead_id: str) -> bool:
    source = joined.plan.leads[lead_id].source
    if not joined.plugged(lead_id):
        return False
    if source.kind == "circuit":
        return joined.on_utility(source.id)
    return joined.gives(f"source/{source.kind}/{source.id}")


def _now(joined: Conductors, lead_id: str) -> Hookup:
    """A hook-up with its bonding plug as that stands."""
    tied = joined.at.get(f"bonding_plug/{lead_id}") == "in"
    return replace(joined.plan.hookups[lead_id], bonding_plug="yes" if tied else "no")


def _own(joined: Conductors, hookup: Hookup) -> list[str]:
    """How the source's own neutral stands, passing nothing through."""
    return [state.neutral for state in neutral_states(joined.plan, hookup) if state.via is None]
