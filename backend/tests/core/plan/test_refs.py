"""What names what: by the types of fields; whatever is taken away, nothing names it any more."""

import pytest
from any_house import any_house

from weary_cedar.core.errors import NotFound, WearyCedarError
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.order import REFERS
from weary_cedar.core.plan.refs import ROOMS, named_in, refs_of, uses, what_goes, without
from weary_cedar.demo import DEMOS, demo_plan

from weary_cedar.core.plan.base import Noun  # isort: skip


def nouns(kind: type[Noun]) -> set[type[Noun]]:
    return {kind, *(deeper for one in kind.__subclasses__() for deeper in nouns(one))}


def any_plan(name: str) -> Plan | None:
    try:
        return demo_plan(name) if name in DEMOS else read_plan(any_house(int(name)))
    except WearyCedarError:
        return None


@pytest.mark.parametrize("name", [*DEMOS, *map(str, range(700, 720))])
def test_whatever_is_taken_away_nothing_names_it(name: str) -> None:
    plan = any_plan(name)
    if plan is None:
        return
    rooms = {room: set(getattr(plan, room)) for room in ROOMS}
    for room in ROOMS:
        for part_id in rooms[room]:
            left = read_plan(without(plan, room, part_id).model_dump(mode="json", exclude_none=True))
            gone = what_goes(plan, room, part_id)
            assert (room, part_id) in gone
            assert {(r, k) for r in ROOMS for k in rooms[r] - set(getattr(left, r))} == gone
            charges = {("stations", k) for k in left.stations} | {("vehicles", k) for k in left.vehicles}
            charges |= {("externals", k) for k in left.externals}
            for at, part in named_in(left):
                if "start_charge_percent" not in at:
                    assert part[1] in getattr(left, part[0]), at
            held = {key for _, key in charges}
            assert set(left.outage.start_charge_percent) <= held


def test_every_field_that_names_a_part_is_declared_once() -> None:
    """The table of the order of parts and the types say the same."""
    declared = {name: ref.room for kind in nouns(Noun) for name, ref in refs_of(kind).items()}
    known = {name: room for name, room in REFERS.items() if name in declared}
    assert {name: declared[name] for name in known} == known
    assert set(REFERS) <= set(declared)


def test_what_uses_a_part() -> None:
    plan = demo_plan("foothill")
    circuit_id = plan.loads["fridge"].circuit_id
    assert circuit_id is not None
    assert "/loads/fridge/circuit_id" in uses(plan, "circuits", circuit_id)
    assert "/strategy/rules/0/generator_id" in uses(plan, "generators", "inverter-2k")
    assert uses(plan, "loads", "none") == []
    with pytest.raises(NotFound, match="a part of this plan"):
        without(plan, "loads", "none")
