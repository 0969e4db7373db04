"""A run goes on from any state as if it had never stopped: to the byte, for every noun, at any moment."""

import ast
from functools import cache
from random import Random

import pytest
from any_house import any_house

from weary_cedar.core.errors import InvalidInput, RunTooLong
from weary_cedar.core.network import Network
from weary_cedar.core.outage import RunState, run_outage, state_at
from weary_cedar.core.outage.kernel import OutageRun
from weary_cedar.core.outage.leg_sums import LegSums
from weary_cedar.core.outage.state import named_parts, state_of, take_up
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.machine_code import PACKAGE

HOUSES = range(120)


def forked(plan: Plan, at_s: float) -> str:
    state = state_at(plan, at_s)
    assert state.t_s <= at_s
    again = RunState.from_json(state.to_json())
    assert again == state, "written and read it is the same"
    return run_outage(plan, again).model_dump_json()


@pytest.mark.parametrize("name", DEMOS)
def test_the_demos_go_on_from_any_moment(name: str) -> None:
    plan = demo_plan(name)
    whole, dice = run_outage(plan).model_dump_json(), Random(name)
    for at_s in (0.0, *(dice.random() * plan.outage.length_s for _ in range(6))):
        assert forked(plan, at_s) == whole, at_s


@pytest.mark.parametrize("first", range(0, len(HOUSES), 30))
def test_houses_at_random_go_on_from_any_moment(first: int) -> None:
    tried = 0
    for seed in HOUSES[first : first + 30]:
        plan, dice = read_plan(any_house(seed)), Random(seed)
        if not Network(plan).running:
            continue
        try:
            whole = run_outage(plan).model_dump_json()
        except RunTooLong:
            continue
        for _ in range(2):
            at_s = dice.random() * plan.outage.length_s
            assert forked(plan, at_s) == whole, (seed, at_s)
            tried += 1
    assert tried > 20


#: What is not of the state, and why.
MADE_ANEW = {
    ("OutageRun", "carrier_of"), ("Forest", "_used"),  # keyed by the objects of this very run
    ("OutageRun", "changed"), ("OutageRun", "touched"), ("OutageRun", "together"),  # within one moment
    ("OutageRun", "others_s"), ("OutageRun", "next_s"), ("Forest", "_t"),  # found anew before they are asked
    ("Timeline", "_planned"), ("Recorder", "intervals"),  # what the plan sets; the end of the run
}  # fmt: skip


@cache
def assigned(module: str, name: str) -> frozenset[str]:
    """What a class assigns to itself, by its source: machine code does not tell."""
    path = PACKAGE.parent / (module.replace(".", "/") + ".py")
    classes = [item for item in ast.parse(path.read_text("utf-8")).body if isinstance(item, ast.ClassDef)]
    own = next((item for item in classes if item.name == name), None)
    found = [x for x in ast.walk(own) if isinstance(x, ast.Attribute)] if own else []
    return frozenset(
        x.attr for x in found if isinstance(x.ctx, ast.Store) and getattr(x.value, "id", "") == "self"
    )


def attributes(part: object) -> set[str]:
    """Names of all that a part holds."""
    ours = [kind for kind in type(part).__mro__ if kind.__module__.startswith("weary_cedar.")]
    return {name for kind in ours for name in assigned(kind.__module__, kind.__name__)}


def flat(value: object, names: dict[int, str]) -> object:
    """A value with every part of the run in it by name, so that two runs can be compared."""
    if id(value) in names:
        return names[id(value)]
    if isinstance(value, dict):
        return [(key, flat(item, names)) for key, item in value.items()]
    if isinstance(value, list | tuple):
        return [flat(item, names) for item in value]
    if isinstance(value, LegSums):
        return flat([value.pa, value.qa, value.pb, value.qb, value.px, value.qx], names)
    return value if isinstance(value, str | float | int | set | None) else type(value).__name__


def test_whatever_changes_in_a_run_is_of_its_state() -> None:
    forgotten = set()
    for plan in [*map(demo_plan, DEMOS), *(read_plan(any_house(seed)) for seed in range(80))]:
        network = Network(plan)
        before, after = OutageRun(network), OutageRun(network)
        try:
            after.run()
        except RunTooLong:
            continue
        parts = named_parts(after)
        names = [{id(part): name for name, part in found.items()} for found in (named_parts(before), parts)]
        for name, part in named_parts(before).items():
            state = set(getattr(part, "STATE", "").split())
            assert state <= attributes(part), (name, state - attributes(part))
            for key in attributes(part) - state:
                is_so = [
                    flat(getattr(x, key), known) for x, known in zip((part, parts[name]), names, strict=True)
                ]
                if is_so[0] != is_so[1]:
                    forgotten.add((type(part).__name__, key))
    assert forgotten <= MADE_ANEW


def test_a_state_goes_on_with_a_load_more_and_refuses_one_less() -> None:
    plan = demo_plan("foothill")
    at_s = 30 * 3600.0
    state = state_at(plan, at_s)
    kept = {"t_s": (0.0, at_s + 600, at_s + 1200), "watts": (0.0, 400.0, 0.0), "repeats": False}
    more = {
        "name": "lamp",
        "circuit_id": next(iter(Network(plan).carried)),
        "behaviour": {"kind": "measured", "length_s": plan.outage.length_s, **kept},
    }
    with_it = read_plan(
        {**plan.model_dump(mode="json"), "loads": {**plan.model_dump(mode="json")["loads"], "asked": more}}
    )
    whole, rest = run_outage(with_it), run_outage(with_it, state)
    assert rest.verdict == whole.verdict
    assert rest.loads["asked"].served_wh == pytest.approx(whole.loads["asked"].served_wh)
    with pytest.raises(InvalidInput, match="loads/asked"):
        run_outage(plan, state_at(with_it, at_s))
    with pytest.raises(InvalidInput, match="within the outage"):
        state_at(plan, plan.outage.length_s)
    for wrong in ("", "{}", '{"version": 99, "t_s": 0, "parts": {}}'):
        with pytest.raises(InvalidInput, match="/state"):
            RunState.from_json(wrong)


def test_taking_a_state_leaves_the_run_as_it_was() -> None:
    plan = demo_plan("orchard")
    run = OutageRun(Network(plan))
    run.run(20 * 3600.0)
    first = state_of(run)
    other = OutageRun(Network(plan))
    take_up(other, first)
    other.run()
    assert state_of(run) == first, "a fork changes neither the run nor the state"
