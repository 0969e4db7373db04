"""Moments of an outage at which someone has to decide."""

from collections.abc import Iterator

from weary_cedar.core.drill.whole.options import NO_START
from weary_cedar.core.drill.whole.surprises import put_on
from weary_cedar.core.outage import RunResult
from weary_cedar.core.outage.calendar import Calendar, Presence
from weary_cedar.core.plan import Plan

#: Charge at which one looks again, %. Common practice.
LEVELS = (50.0, 30.0, 15.0)
#: Events that ask for a decision.
ASKING = ("trip", "breaker_trip", "input_trip", "locked_out", "empty", "source_empty", "keep_lost",
          "engine_dry", "engine_fails", "vehicle_off", "food_warm", "food_thaws", "left_off")  # fmt: skip
#: No two stops are nearer than this, s: what comes sooner is decided then.
APART_S = 5_400.0
#: Most stops of one outage: it is to be practised in ten minutes.
MOST = 10


#: So long before bedtime one looks at the night, s.
BEFORE_BED_S = 1_800.0


def next_stop(plan: Plan, run: RunResult, after_s: float, count: int) -> tuple[float, str] | None:
    """The next moment at which someone decides, and why; nothing once the outage is over.

    Args:
        plan: the outage as it is.
        run: its run with all that was chosen so far.
        after_s: the stop before, s; below 0 for none.
        count: stops so far.

    Returns:
        The moment, s, at which someone is there and awake; what happens at night is found in the morning.
    """
    end_s = run.length_s
    if count >= MOST:
        return None
    if after_s < 0:
        return min(
            plan.outage.changeover_after_s, end_s / 2
        ), "The utility is gone; the house is changed over"
    there = Presence(Calendar(plan.site, plan.outage), plan.outage)
    coming = [
        (there.next(max(at_s, after_s + APART_S)), why) for at_s, why in _asking(plan, run) if at_s > after_s
    ]
    later = [item for item in coming if item[0] < end_s - APART_S]
    return min(later, key=lambda item: item[0], default=None)


def _asking(plan: Plan, run: RunResult) -> Iterator[tuple[float, str]]:
    for event in run.events:
        if event.kind in ASKING:
            yield event.t_s, event.what
    yield from ((at_s, words) for at_s, _, words in put_on(plan, run))
    for key, act in plan.outage.acts.items():
        if key.startswith(NO_START) and act.turn == "off":
            yield act.at_s, f"{plan.generators[act.part_id].name} does not come on"
    for battery in run.batteries.values():
        shares = [100 * stored / battery.cell_wh for stored in battery.stored_wh if battery.cell_wh > 0]
        for level in LEVELS:
            for index in range(1, len(shares)):
                if shares[index - 1] > level >= shares[index]:
                    yield battery.t_s[index], f"{battery.name} is down to {level:.0f} %"
                    break
    people, calendar = plan.outage.occupancy, Calendar(plan.site, plan.outage)
    if people.wakes != people.sleeps:
        for begins, ends in calendar.windows(people.sleeps, people.wakes):
            yield begins - BEFORE_BED_S, "Before the night"
            yield ends + 60.0, "In the morning"
