"""Plans side by side, another voltage, the breaker that an inlet feeds: figures by hand."""

import pytest
from builders import circuit, house, load, steady

from weary_cedar.core.decide.feed_breaker import feed_of_breaker, usual_inlet
from weary_cedar.core.decide.other_voltage import effects, with_system
from weary_cedar.core.decide.side_by_side import Judged, rows_of
from weary_cedar.core.electrical.ampacity import receptacle
from weary_cedar.core.errors import NotFound
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.demo import DEMOS, demo_plan


def judged(plan: Plan, stops: int = 0) -> Judged:
    return Judged(plan, run_outage(plan), stops)


def test_the_table_by_hand() -> None:
    """100 W on 5,120 Wh last two days; 200 W do not: the rest of what was wanted is gone without."""
    plans = []
    for watts in (100.0, 200.0):
        made = house({"a": circuit([1])}, {"a": load("a", steady(watts), name="lamp")})
        made["outage"].update(length_s=2 * 86_400.0, changeover_after_s=0.0)
        plans.append(read_plan(made))
    rows = {row.what: row for row in rows_of([judged(plans[0]), judged(plans[1], stops=2)])}
    assert rows["stops"].values == ["none", "2: do not energise"]
    assert rows["lowest charge"].values == [f"{100 * (1 - 4800 / 5120):.0f} %", "0 %"]
    assert rows["went without: lamp"].values == ["0 Wh", "4.5 kWh"]
    assert rows["fuel"].values == ["0.0 gal", "0.0 gal"]
    assert [what for what, row in rows.items() if not row.differs] == [
        "fuel", "price of fuel", "engine hours", "engine starts", "of them in quiet hours",
        "taken from the sun", "food too warm", "trips",
    ]  # fmt: skip


@pytest.mark.parametrize("name", DEMOS)
def test_a_plan_beside_itself_differs_in_nothing(name: str) -> None:
    item = judged(demo_plan(name))
    assert not any(row.differs for row in rows_of([item, item]))


def test_fuel_has_its_price_or_says_which_price_is_missing() -> None:
    plan = demo_plan("foothill")
    item = judged(plan)
    rows = {row.what: row.values[0] for row in rows_of([item])}
    name = plan.generators["inverter-2k"].name
    assert rows["price of fuel"] == f"not known: no price for {name}"
    priced = plan.generators["inverter-2k"].model_copy(update={"fuel_price_per_l": 0.95})
    paid = plan.model_copy(update={"generators": {"inverter-2k": priced}})
    litres = item.run.sources["generators/inverter-2k"].burned_l or 0.0
    assert litres > 1
    assert {row.what: row.values[0] for row in rows_of([judged(paid)])}[
        "price of fuel"
    ] == f"{litres * 0.95:,.2f}"


def test_engines_keep_their_quiet_hours() -> None:
    rows = {row.what: row.values[0] for row in rows_of([judged(demo_plan("foothill"))])}
    assert rows["of them in quiet hours"] == "0.0 h"
    assert float(rows["engine hours"].split()[0]) > 10


def test_what_cannot_be_run_says_so_in_every_row() -> None:
    nothing = read_plan(house({"a": circuit([1])}, {}) | {"stations": {}, "feeds": {}, "leads": {}})
    rows = rows_of([judged(nothing)])
    assert {row.values[0] for row in rows if row.what not in ("stops", "lasts")} == {"not known"}


@pytest.mark.parametrize("name", DEMOS)
def test_another_voltage_and_back_is_the_same_plan(name: str) -> None:
    plan = demo_plan(name)
    other = "single_phase_230" if plan.site.split_phase else "split_phase_120_240"
    assert with_system(with_system(plan, other), plan.site.system) == plan  # type: ignore[arg-type]
    assert effects(plan, plan.site.system) == []
    assert any("cannot feed it" in line for line in effects(plan, other))  # type: ignore[arg-type]


def test_currents_at_another_voltage_by_hand() -> None:
    """1,200 W at 120 V take 10 A, at 230 V 5.2 A; a breaker of two poles is on one line there."""
    plan = read_plan(house({"a": circuit([1])}, {"a": load("a", steady(1200.0), name="kettle")}))
    told = effects(plan, "single_phase_230")
    assert "1 circuit would be at 230 V on one line: there are no legs to balance and no 120 V." in told
    assert "kettle would take 5.2 A instead of 10.0 A." in told


@pytest.mark.parametrize(
    ("poles", "amps", "split", "kind"),
    [
        (2, 20.0, True, "L14-20"), (2, 30.0, True, "L14-30"), (2, 50.0, True, "CS50"),
        (2, 25.0, True, "L14-30"), (2, 90.0, True, "CS50"), (1, 20.0, True, "L5-20"),
        (1, 16.0, False, "60309 16"), (1, 32.0, False, "60309 32"),
    ],
)  # fmt: skip
def test_the_usual_inlet_behind_a_breaker(poles: int, amps: float, split: bool, kind: str) -> None:
    found, rating = usual_inlet(poles, amps, split_phase=split)
    assert found == kind
    row = receptacle(found)
    assert row is not None
    assert float(row["rating_a"]) == rating


def test_a_breaker_becomes_that_of_a_feed() -> None:
    plan = read_plan(house({"a": circuit([9, 11], breaker_a=30, label="generator inlet")}, {}))
    feed = feed_of_breaker(plan, "a")
    assert (feed.inlet, feed.breaker_a, feed.breaker_spaces) == ("L14-30", 30.0, (9, 11))
    with pytest.raises(NotFound, match="a circuit of this plan"):
        feed_of_breaker(plan, "b")
