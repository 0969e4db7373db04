"""What holds of every house: its books close, and its result hangs on nothing but what the plan says."""

import pytest
from any_house import any_house
from renaming import named_back, renamed

from weary_cedar.core.errors import RunTooLong
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.ledger import CLOSES_TO
from weary_cedar.core.plan import read_plan

#: Houses at random that are tried here; `make fuzz` tries others.
SEEDS = range(250)


def tried(seed: int) -> RunResult | None:
    try:
        return run_outage(read_plan(any_house(seed)))
    except RunTooLong:
        return None


@pytest.mark.parametrize("first", range(0, len(SEEDS), 50))
def test_books_of_every_device_close_and_series_end_with_the_outage(first: int) -> None:
    """Books that stay open are a fault that is raised: see `BooksOpen`."""
    ran = [result for seed in SEEDS[first : first + 50] if (result := tried(seed)) and result.ledger]
    assert len(ran) > 30
    for result in ran:
        assert result.ledger is not None
        assert result.ledger.residual <= CLOSES_TO
        assert result.series.t_s[-1] == result.length_s
        assert all(battery.lowest_percent >= -1e-9 for battery in result.batteries.values())


@pytest.mark.parametrize("first", range(0, 60, 20))
def test_other_ids_and_another_order_of_keys_change_nothing(first: int) -> None:
    for seed in range(first, first + 20):
        document = any_house(seed)
        other, names = renamed(document, seed + 1)
        result = tried(seed)
        if result is None:
            continue
        again = run_outage(read_plan(other)).model_dump_json()
        assert named_back(again, names) == named_back(result.model_dump_json(), {}), seed
