"""Fuel of a generator: its own figures before those of its class."""

import pytest

from weary_cedar.core.plan import Generator
from weary_cedar.core.supply.fuel import burned_l, flow, typical_flow


def engine(**more: object) -> Generator:
    return Generator.model_validate({"name": "set", "rated_w": 2000.0, **more})


@pytest.mark.parametrize(
    ("own", "expected"),
    [
        ({}, (0.2, 0.5)),  # 0.1 L/h per rated kW and 0.5 L/kWh for petrol, from memory
        ({"no_load_l_per_h": 0.3}, (0.3, 0.5)),
        ({"l_per_kwh": 0.4}, (0.2, 0.4)),
        ({"fuel": "diesel"}, (0.14, 0.27)),
        ({"fuel": "natural_gas"}, None),
        ({"fuel": "natural_gas", "no_load_l_per_h": 1.0, "l_per_kwh": 2.0}, (1.0, 2.0)),
    ],
)
def test_flow(own: dict[str, object], expected: tuple[float, float] | None) -> None:
    assert flow(engine(**own)) == (expected if expected is None else pytest.approx(expected))


def test_burned() -> None:
    assert burned_l(0.2, 0.5, 1500.0, 4.0) == pytest.approx(4 * (0.2 + 0.75))
    assert typical_flow("natural_gas", 5000.0) is None
