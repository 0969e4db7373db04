"""Someone who reacts to an overload of a source that nothing else touches at that moment."""

from check_plans import PLANS, loads, merged

from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.merge import apply_patch


def test_a_reaction_that_finds_nothing_to_do_does_not_stop_the_clock() -> None:
    """A chain whose far station is over its rating for a while, and no more when someone comes."""
    narrow = {"stations": {"near": {"receptacles": {"front": {"kind": "BS 1363", "rating_a": 13.0}}}}}
    heavy = loads(radio={"behaviour": {"watts": 2_310.0}, "power_factor": 1.0})
    result = run_outage(read_plan(apply_patch(PLANS["hut"], merged(narrow, heavy))))
    assert result.ledger is not None
    assert result.ledger.closes
    assert result.events[-1].kind == "outage_ends"
