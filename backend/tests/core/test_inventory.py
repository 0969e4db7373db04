"""What a plan owns: counted, priced, weighed, and known by its figures."""

from check_plans import PLANS, Json, external, merged, station, vehicle

from weary_cedar.core.inventory import Inventory, inventory
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.merge import apply_patch


def of(plan: str, patch: Json | None = None) -> Inventory:
    return inventory(read_plan(apply_patch(PLANS[plan], patch or {})))


def test_everything_is_listed_once() -> None:
    found = of("foothill")
    rooms = [item.room for item in found.items]
    assert rooms == ["stations", "stations", "generators", "arrays", "box", "box", "box", "leads"]
    words = {item.name: item.words for item in found.items}
    assert words["6 kW station"] == "120/240 V, 6,000 VA, 11.6 kWh"
    assert words["ground panels"] == "4 × 1 of 400 W on 6 kW station"
    assert words["30 A cord"] == "30 ft, AWG 10"
    assert words["L14-30 to four outlets"] == "L14-30 to 5-20, 20 A"


def test_prices_and_weights_count_pieces() -> None:
    plain = of("foothill")
    two = of(
        "foothill",
        station(packs={next(iter(PLANS["foothill"]["stations"]["station"]["packs"])): {"count": 2}}),
    )
    assert two.price == plain.price + 2300
    assert two.weight_kg == plain.weight_kg + 50
    four = external(in_series=2, parallel=2, equal_charge="yes", price=100.0, weight_kg=1.5)
    more = of("foothill", merged(four, vehicle()))
    assert more.price == plain.price + 400
    assert more.weight_kg == plain.weight_kg + 6
    assert more.without_price == plain.without_price + 1
    assert more.without_weight == plain.without_weight


def test_places_and_other_gear_are_named() -> None:
    items = {item.name: item for item in (*of("hut").items, *of("canal").items)}
    assert (
        items["12 V battery of the old relay"].place == "Store room"
        or items["12 V battery of the old relay"].place
    )
    assert items["plug-in hybrid van"].words == "hybrid, 1,500 W, 8 kWh"
    assert items["linked pair"].price == 180
    inlet = {"box": {"i": {"part": "inlet", "kind": "CS50", "rating_a": 50.0}}}
    assert {"CS50, 50 A"} <= {item.words for item in of("hut", inlet).items}
