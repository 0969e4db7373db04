"""The run and the state machine agree: what one does, the other allows; what one passes, trips in neither."""

from random import Random

import pytest
from any_house import any_house

from weary_cedar.core.network import Way, network_of
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Act, Job, Plan, read_plan
from weary_cedar.core.runbook.house import House
from weary_cedar.core.runbook.rehearsal import TRIPS
from weary_cedar.core.runbook.replay import replay
from weary_cedar.core.runbook.schools import joins_a_panel
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.core.runbook.steps import Move

#: Between two acts, s: longer than a compressor rests.
APART_S = 400.0
#: What an order may be refused for that the run does all the same: it counts all that may run at once.
CAREFUL = {"over_curve", "left_on"}


def switched(plan: Plan, way: Way, dice: Random) -> list[tuple[str, str]]:
    """Circuits of a way off and on again, in any order."""
    circuits = [key for key in way.branches if key in plan.circuits]
    on, found = dict.fromkeys(circuits, True), list[tuple[str, str]]()
    for _ in range(8 if circuits else 0):
        key = dice.choice(circuits)
        on[key] = not on[key]
        found.append((key, "on" if on[key] else "off"))
    return found


def in_the_run(plan: Plan, way: Way, order: list[str], acts: list[tuple[str, str]]) -> Plan:
    """The plan with that way alone and no jobs: circuits in the sheet's order, a minute each, then the acts."""
    made: dict[str, Act] = {}
    for key in plan.leads:
        if key != way.lead_id:
            made[f"out-{key}"] = Act(at_s=0.0, room="leads", part_id=key, turn="off")
    for key, load in plan.loads.items():
        if isinstance(load.behaviour, Job):
            made[f"job-{key}"] = Act(at_s=0.0, room="loads", part_id=key, turn="off")
    for key in plan.circuits:
        made[f"off-{key}"] = Act(at_s=0.0, room="circuits", part_id=key, turn="off")
    for number, key in enumerate(order, 1):
        made[f"on-{key}"] = Act(at_s=60.0 * number, room="circuits", part_id=key, turn="on")
    for number, (key, turn) in enumerate(acts, 1):
        at_s = 60.0 * len(order) + APART_S * number
        made[f"act-{number}"] = Act.model_validate(
            {"at_s": at_s, "room": "circuits", "part_id": key, "turn": turn}
        )
    outage = plan.outage.model_copy(
        update={"acts": made, "grid": {}, "incidents": {}, "changeover_after_s": 0.0, "length_s": 7_200.0,
                "restore": "all_at_once", "ac_on_at_start": False}
    )  # fmt: skip
    strategy = plan.strategy.model_copy(update={"rules": (), "shedding": "none"})
    feeds = {
        key: feed.model_copy(update={"changeover_after_s": None, "restore": None})
        for key, feed in plan.feeds.items()
    }
    return plan.model_copy(update={"outage": outage, "strategy": strategy, "feeds": feeds})


def cases() -> list[tuple[int, str]]:
    found = []
    for seed in range(24):
        plan = read_plan(any_house(seed))
        ways = [way for way in network_of(plan).running if joins_a_panel(way)]
        found += [(seed, way.lead_id) for way in ways[:2]]
    return found


@pytest.mark.parametrize(("seed", "lead_id"), cases())
def test_acts_of_a_run_are_allowed_and_what_is_allowed_does_not_trip(seed: int, lead_id: str) -> None:
    plan = read_plan(any_house(seed))
    way = network_of(plan).way(lead_id)
    over = next(sheet for sheet in sheets_of(plan, []) if sheet.key == f"change-over/{lead_id}")
    if over.held_by:
        assert "to give" in over.held_by[0]
        return
    labels = {circuit.label: key for key, circuit in plan.circuits.items()}
    stay_off = [labels[label] for label in over.stay_off if label in labels]
    acts = [(key, turn) for key, turn in switched(plan, way, Random(seed)) if key not in stay_off]
    on = [
        act.what.partition("/")[2] for act in over.acts if act.what.startswith("breaker/") and act.to == "on"
    ]
    order = [*over.acts, *(Move(what=f"breaker/{key}", to=turn, wait_s=APART_S) for key, turn in acts)]
    judged = replay(plan, order, over.begins)
    run = run_outage(in_the_run(plan, way, on, acts))
    tripped = [event.what for event in run.events if event.kind in TRIPS]
    if judged.safe:
        assert not tripped, (over.key, tripped)
    else:
        assert judged.code in CAREFUL, judged
    assert House(plan, over.after).standing() is None


def test_some_of_them_switch_and_run() -> None:
    assert len(cases()) > 12
