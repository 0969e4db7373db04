"""The order of bringing back, tried in the run: what flows after each circuit, and whether anything trips."""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass

from weary_cedar.core.network import Network, Way
from weary_cedar.core.network.carrying import Draw
from weary_cedar.core.outage import run_outage
from weary_cedar.core.outage.result import SourceShare
from weary_cedar.core.plan import Act, Job, Plan, Strategy

#: Between two circuits, s: a start is over and the next has not begun. Common practice.
STEP_S = 60.0
#: The shortest outage that there is, s.
LEAST_S = 600.0
TRIPS = ("trip", "breaker_trip", "input_trip", "shed", "over_limit")


@dataclass(frozen=True)
class Rehearsal:
    """What flows once each group of circuits is on, W by leg; and what went wrong, in words."""

    draws: tuple[Draw, ...] = ()
    trips: tuple[str, ...] = ()


def rehearse(
    network: Network, way: Way, left_on: Sequence[str], groups: Sequence[Sequence[str]]
) -> Rehearsal:
    """Bring circuits back one group a minute, in the run.

    Args:
        network: of the plan.
        way: what feeds them; nothing else feeds or charges meanwhile.
        left_on: circuits that are on from the beginning.
        groups: circuits that come on together, in their order.

    Returns:
        After each group, just before the next, what flows on each leg at the charge with which the outage
        starts; nothing where the source does not carry that far. What is on a circuit runs as its
        behaviour has it at the beginning of the outage; jobs are begun later.

    Method: the exact run, with acts.
    """
    plan = _only(network.plan, way, left_on, groups)
    run = run_outage(plan)
    wrong = tuple(event.what for event in run.events if event.kind in TRIPS)
    share = run.sources.get(f"{way.hookup.source_kind}s/{way.hookup.source_id}")
    if wrong or share is None or not share.t_s:
        return Rehearsal(trips=wrong)
    moments = [STEP_S * (number + 2) - 1.0 for number in range(len(groups))]
    return Rehearsal(draws=tuple(_at(share, t) for t in moments))


def _at(share: SourceShare, t: float) -> Draw:
    at = bisect_right(share.t_s, t) - 1
    return Draw(share.a_w[at], share.b_w[at]) if at >= 0 else Draw(0.0, 0.0)


def _only(plan: Plan, way: Way, left_on: Sequence[str], groups: Sequence[Sequence[str]]) -> Plan:
    """The same plan with one lead alone, and circuits that come on by the minute."""
    comes = {key: STEP_S * (number + 1) for number, group in enumerate(groups) for key in group}
    acts: dict[str, Act] = {}
    for key in plan.circuits:
        feeds_on = any(panel.fed_from == key for panel in plan.panels.values())
        if key in left_on or feeds_on:
            continue
        acts[f"off-{key}"[:64]] = Act(at_s=0.0, room="circuits", part_id=key, turn="off")
        if key in comes:
            acts[f"on-{key}"[:64]] = Act(at_s=comes[key], room="circuits", part_id=key, turn="on")
    for load_id, load in plan.loads.items():
        if isinstance(load.behaviour, Job):
            acts[f"job-{load_id}"[:64]] = Act(at_s=0.0, room="loads", part_id=load_id, turn="off")
    for lead_id in plan.leads:
        if lead_id != way.lead_id:
            acts[f"out-{lead_id}"[:64]] = Act(at_s=0.0, room="leads", part_id=lead_id, turn="off")
    outage = plan.outage.model_copy(
        update={
            "acts": acts, "grid": {}, "incidents": {}, "changeover_after_s": 0.0, "restore": "all_at_once",
            "length_s": max(LEAST_S, STEP_S * (len(groups) + 2)), "ac_on_at_start": False,
        }
    )  # fmt: skip
    feeds = {
        key: feed.model_copy(update={"changeover_after_s": None, "restore": None})
        for key, feed in plan.feeds.items()
    }
    return plan.model_copy(
        update={"outage": outage, "feeds": feeds, "strategy": Strategy(shedding="none", reset_after_s=86_400)}
    )
