"""What someone can do at a stop of an outage: acts of the plan, each in words."""

from collections.abc import Iterator
from dataclasses import dataclass

from weary_cedar.core.drill.whole.surprises import is_of_people, put_on
from weary_cedar.core.network import Network
from weary_cedar.core.outage import RunResult
from weary_cedar.core.outage.result import Stretch
from weary_cedar.core.plan import Act, Plan

GO_ON = "go-on"
#: What nobody leaves off to make charge last: people, warmth, food, water, light and calls come first.
NEEDED = ("life_support", "sleep_apnoea", "heat", "food", "pump", "light", "communication")
#: How the act is called by which an engine does not come on.
NO_START = "no-start"
#: How long it takes to see to an engine that does not come on: fuel, valve, choke, plug, s. Common practice.
MEND_S = 1_800.0
#: Something is worth leaving off from so many watts on, W.
WORTH_W = 20.0


@dataclass(frozen=True)
class Option:
    """A choice: its key, its words, and the acts that it is; an act may come some time later."""

    key: str
    words: str
    acts: tuple[Act, ...] = ()


def options_at(plan: Plan, run: RunResult, at_s: float) -> list[Option]:
    """What can be chosen at a moment.

    Args:
        plan: the outage as it is, with all acts so far.
        run: its run.
        at_s: the moment, s.

    Returns:
        Going on as the plan says first; then what leaves something off, brings it back, holds the engine or
        sees to it. Only what changes something.
    """
    return [Option(GO_ON, "Go on as the plan says"), *_others(plan, run, at_s)]


def _others(plan: Plan, run: RunResult, at_s: float) -> Iterator[Option]:
    off = _held(plan, at_s)
    network = Network(plan)
    own = {key: hang for key, hang in network.hangs.items() if not is_of_people(key)}
    room = [key for key, hang in own.items() if hang.mark == "room"]
    on = [key for key in room if ("loads", key) not in off and _draws_after(run, key, at_s)]
    if on:
        words = f"Leave off what runs only when there is room ({_names(plan, on)})"
        yield Option("room-off", words, tuple(_act(at_s, "loads", key, "off") for key in on))
    heaviest = _heaviest(plan, network, run, at_s, off)
    if heaviest is not None:
        words = f"Leave off {plan.loads[heaviest].name}, too"
        yield Option("one-off", words, (_act(at_s, "loads", heaviest, "off"),))
    for key in sorted({key for seen_s, key, _ in put_on(plan, run) if seen_s <= at_s}):
        if ("loads", key) not in off:
            words = f"Agree that the {plan.loads[key].name} stays off until the utility is back"
            yield Option(f"agree/{key}", words, (_act(at_s, "loads", key, "off"),))
    back = [key for room_of, key in off if room_of == "loads" and not is_of_people(key)]
    if back:
        words = f"Bring back what was left off ({_names(plan, back)})"
        yield Option("all-back", words, tuple(_act(at_s, "loads", key, "on") for key in back))
    for key, engine in plan.generators.items():
        if ("generators", key) in off:
            later = at_s + (MEND_S if off["generators", key].startswith(NO_START) else 0.0)
            words = (
                f"See to {engine.name}: fuel, valve, choke, spark plug; half an hour, outdoors"
                if later > at_s
                else f"Let {engine.name} run again as the plan says"
            )
            if later < plan.outage.length_s:
                yield Option(f"engine-on/{key}", words, (_act(later, "generators", key, "on"),))
        elif any(span.ends_s > at_s for span in _ran(run, key)):
            words = f"Hold {engine.name} off and keep its fuel"
            yield Option(f"engine-off/{key}", words, (_act(at_s, "generators", key, "off"),))


def _held(plan: Plan, at_s: float) -> dict[tuple[str, str], str]:
    """What acts hold off at a moment, by room and id, and the id of the act that does."""
    held: dict[tuple[str, str], str] = {}
    for act_id, act in sorted(plan.outage.acts.items(), key=lambda item: item[1].at_s):
        if act.at_s > at_s or act.outlet_id or act.input_id or act.pack_id:
            continue
        if act.turn == "off":
            held[act.room, act.part_id] = act_id
        else:
            held.pop((act.room, act.part_id), None)
    return held


def _act(at_s: float, room: str, part_id: str, turn: str) -> Act:
    return Act.model_validate({"at_s": at_s, "room": room, "part_id": part_id, "turn": turn})


def _draws_after(run: RunResult, key: str, at_s: float) -> bool:
    series = run.load_series.get(key)
    return series is not None and any(
        watts >= WORTH_W and (later is None or later > at_s)
        for watts, later in zip(series.watts, [*series.t_s[1:], None], strict=False)
    )


def _heaviest(
    plan: Plan, network: Network, run: RunResult, at_s: float, off: dict[tuple[str, str], str]
) -> str | None:
    """What uses most of all that must run and that one can do without."""
    asked = [
        (run.loads[key].served_wh, key)
        for key, hang in network.hangs.items()
        if hang.mark == "keep"
        and not is_of_people(key)
        and key in run.loads
        and plan.loads[key].role not in NEEDED
        and ("loads", key) not in off
        and _draws_after(run, key, at_s)
    ]
    return max(asked)[1] if asked else None


def _ran(run: RunResult, key: str) -> tuple[Stretch, ...]:
    source = run.sources.get(f"generators/{key}")
    return source.ran if source is not None else ()


def _names(plan: Plan, keys: list[str]) -> str:
    names = [plan.loads[key].name for key in keys]
    more = f" and {len(names) - 4} more" if len(names) > 5 else ""
    return ", ".join(names[:4] if more else names) + more
