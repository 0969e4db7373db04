"""Interlock or a switch with chosen circuits: what each would mean for this house."""

from dataclasses import dataclass

from weary_cedar.core.outage import run_outage
from weary_cedar.core.panel_schedule import panel_schedule
from weary_cedar.core.plan import Feed, Plan

SIZES = (6, 8, 10)


@dataclass(frozen=True)
class SwitchChoice:
    """The best circuits for a switch of one size, and what stays dark."""

    handles: int
    chosen: tuple[str, ...]
    blind_spots: tuple[str, ...]
    dark_wh_day: float


@dataclass(frozen=True)
class InterlockOutlook:
    """How often an interlock with nobody shedding would be overloaded."""

    overloads: int
    trips: int
    overloads_per_day: float


def best_circuits(plan: Plan, panel_id: str, handles: int) -> SwitchChoice:
    """Choose the circuits for a transfer switch.

    Args:
        plan: the plan; circuits marked off are not wanted.
        panel_id: the panel that the switch is for.
        handles: number of single-pole places; a two-pole circuit takes two.

    Returns:
        Chosen circuits and blind spots: keep first, then room in order, then the most Wh a day.
        Both halves of a shared neutral go together or not at all (NFPA 70 210.4 and 300.3(B), from
        memory).

    Source: common practice of the trade.
    """
    wh = {key: 24 * item.mean_w for key, item in panel_schedule(plan, panel_id).circuits.items()}
    wanted = {k: c for k, c in plan.circuits.items() if c.panel_id == panel_id and c.mark != "off"}

    def rank(key: str) -> tuple[bool, int, float, str]:
        return wanted[key].mark == "room", wanted[key].order, -wh[key], key

    chosen: list[str] = []
    left = handles
    for key in sorted(wanted, key=rank):
        group = [key] if key not in chosen else []
        partner = plan.partner_of(key)
        if group and partner is not None and partner in wanted:
            group.append(partner)
        places = sum(wanted[item].poles for item in group)
        if group and places <= left and (partner is None or partner in group):
            chosen += group
            left -= places
    blind = tuple(key for key in sorted(wanted, key=rank) if key not in chosen)
    return SwitchChoice(handles, tuple(chosen), blind, sum(wh[key] for key in blind))


def with_switch(plan: Plan, choice: SwitchChoice) -> Plan:
    """A copy of the plan whose feed goes to a transfer switch with the chosen circuits alone."""
    feeds = {
        key: feed.model_copy(
            update={"kind": "transfer_switch", "circuit_ids": choice.chosen, "breaker_spaces": ()}
        )
        for key, feed in plan.feeds.items()
    }
    name = f"{plan.name[:50]}, switch of {choice.handles}"
    return plan.model_copy(update={"feeds": feeds, "name": name})


def with_interlock(plan: Plan) -> Plan:
    """A copy of the plan with an interlock that reaches the whole panel and nobody shedding."""
    strategy = plan.strategy.model_copy(update={"shedding": "none"})
    feeds = {key: _interlocked(plan, feed) for key, feed in plan.feeds.items()}
    return plan.model_copy(
        update={"strategy": strategy, "feeds": feeds, "name": f"{plan.name[:50]}, interlock"}
    )


def _interlocked(plan: Plan, feed: Feed) -> Feed:
    """The feed through an interlocked breaker, in the first spaces that are free for it, if any are."""
    if feed.kind == "interlock_inlet":
        return feed
    own = [c for c in plan.circuits.values() if c.panel_id == feed.panel_id]
    taken = {space for circuit in own for space in circuit.spaces}
    pairs = ((space, space + 2) for space in range(1, plan.panels[feed.panel_id].spaces - 1))
    spaces = next((pair for pair in pairs if not set(pair) & taken), None)
    if spaces is None:
        return feed.model_copy(update={"circuit_ids": tuple(k for k, c in plan.circuits.items() if c in own)})
    return feed.model_copy(update={"kind": "interlock_inlet", "circuit_ids": (), "breaker_spaces": spaces})


def interlock_outlook(plan: Plan) -> InterlockOutlook | None:
    """Run the plan with shedding `none` and count overloads and trips.

    Args:
        plan: the plan.

    Returns:
        Counts over the outage, and overloads per day until the last keep load goes; nothing for a
        plan that cannot be run.
    """
    result = run_outage(with_interlock(plan))
    if result.ledger is None:
        return None
    overloads = sum(event.kind == "over_limit" for event in result.events)
    trips = sum(event.kind == "trip" for event in result.events)
    lit_s = result.length_s if result.verdict.dark_at_s is None else result.verdict.dark_at_s
    return InterlockOutlook(overloads, trips, overloads / max(lit_s / 86_400, 1 / 24))
