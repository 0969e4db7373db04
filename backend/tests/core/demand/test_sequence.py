"""The steps of a heater's call in a series with known truth."""

import numpy as np
import pytest

from weary_cedar.core.demand.sequence import find_sequence
from weary_cedar.core.errors import InvalidInput
from weary_cedar.stand_ins.meter import APPLIANCES, meter_series


@pytest.mark.parametrize("step_s", [1.0, 5.0])
def test_finds_the_steps_of_the_simulated_furnace(step_s: float) -> None:
    truth = APPLIANCES["gas furnace"]
    series = meter_series("gas furnace", days=1, step_s=step_s, seed=7)
    found = find_sequence(series.t_s, series.watts)
    assert found.run_w == pytest.approx(truth.on_w, rel=0.02)
    assert [s.watts for s in found.before] == pytest.approx([w for w, _ in truth.before], rel=0.03)
    assert [s.seconds for s in found.before] == pytest.approx([s for _, s in truth.before], abs=2 * step_s)
    assert [s.watts for s in found.after] == pytest.approx([70.0], rel=0.03)
    assert found.calls == pytest.approx(86_400 / truth.period_s, abs=3)


@pytest.mark.parametrize(
    ("t", "watts", "told"),
    [
        (np.arange(0, 6000, 30.0), np.full(200, 300.0), "at least every 15 s"),
        (np.arange(0, 600, 1.0), np.full(600, 300.0), "no whole call"),
        (np.array([0.0]), np.array([5.0]), "at least every"),
    ],
)
def test_what_shows_no_call_is_refused(t: np.ndarray, watts: np.ndarray, told: str) -> None:
    with pytest.raises(InvalidInput, match=told):
        find_sequence(t, watts)
