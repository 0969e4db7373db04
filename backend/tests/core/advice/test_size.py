"""How much to buy: enough in outages as they may be, the least of it, and nothing that is no better."""

import json
from pathlib import Path

import pytest
from builders import circuit, house, load, steady
from command_line import cedar

from weary_cedar.core.advice import size as sizing
from weary_cedar.core.advice.size import FIRST, SizeAsked, Sized, size
from weary_cedar.core.decide.buying import Amount
from weary_cedar.core.decide.changes import patched
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.demo import demo_plan
from weary_cedar.store.edits import canonical


def lamp(watts: float, **station: object) -> Plan:
    """One measured load on an ideal station of 1 kWh that takes packs of 1 kWh, for two days."""
    pack = {"name": "pack", "nameplate_wh": 1000.0, "price": 500.0, "weight_kg": 12.0}
    document = house(
        {"one": circuit([1])},
        {"lamp": load("one", steady(watts), origin="measured", tolerance_s=0)},
        station={"nameplate_wh": 1000.0, "packs": {"pack": pack}, **station},
        outage={"ac_on_at_start": True},
    )
    return read_plan(document)


def test_the_least_storage_is_what_the_load_takes() -> None:
    """100 W for 48 h are 4.8 kWh, 2 are there; with what may be off by a tenth it takes four packs more."""
    found = size(lamp(100.0), SizeAsked(chance=0.9))
    assert found.done
    assert len(found.choices) == 1
    choice = found.choices[0]
    assert choice.storage in (4, 5)
    assert choice.storage_wh == 1000.0 * (2 + choice.storage)
    assert (choice.money, choice.weight_kg) == (500.0 * choice.storage, 12.0 * choice.storage)
    assert choice.lasted >= 0.9 * choice.outages >= 0.9 * FIRST
    assert choice.low < choice.lasted / choice.outages <= choice.high
    with_it = patched(lamp(100.0), choice.patch)
    assert with_it.stations["unit"].packs["pack"].count == 1 + choice.storage
    assert run_outage(with_it).verdict.status == "lasts"
    assert any("no array" in note for note in found.notes)
    assert any("no engine" in note for note in found.notes)


def test_nothing_is_bought_where_nothing_has_to_be() -> None:
    found = size(lamp(20.0), SizeAsked())
    assert "nothing has to be bought" in found.sentence
    assert [choice.storage for choice in found.choices] == [0]
    assert found.choices[0].money == 0.0


def test_longer_and_surer_takes_no_less() -> None:
    few = size(lamp(100.0), SizeAsked(days=1, chance=0.8)).choices[0].storage
    more = size(lamp(100.0), SizeAsked(days=2, chance=0.8)).choices[0].storage
    most = size(lamp(100.0), SizeAsked(days=2, chance=0.95)).choices[0].storage
    assert few < more <= most


def test_what_is_too_little_says_so() -> None:
    found = size(lamp(1000.0), SizeAsked(days=4))
    assert found.choices == ()
    assert "not even this: pack: 6 more" in found.sentence


def test_choices_that_no_other_beats(monkeypatch: pytest.MonkeyPatch) -> None:
    """An engine takes the place of storage; each step is less of one and more of the other."""
    monkeypatch.setattr(sizing, "CONFIRMED", FIRST)
    found = size(demo_plan("foothill"), SizeAsked(days=5))
    assert found.done
    assert len(found.choices) >= 2
    amounts = [Amount(item.storage, item.strings, item.engine_h) for item in found.choices]
    assert not any(one.beats(other) for one in amounts for other in amounts)
    by_hours = sorted(amounts, key=lambda amount: amount.engine_h)
    assert [a.storage for a in by_hours] == sorted((a.storage for a in by_hours), reverse=True)
    quiet = next(item for item in found.choices if item.engine_h == 0)
    assert (quiet.litres_day, quiet.minutes_day, quiet.noise_db) == (0.0, 0.0, None)
    assert any("Another string on that input must not be" in note for note in found.notes)


def test_it_goes_on_from_what_is_known() -> None:
    plan, asked, sized = lamp(100.0), SizeAsked(chance=0.9), Sized()
    pieces = 0
    while not (found := size(plan, asked, sized, 15)).done:
        pieces += 1
        assert found.sentence.startswith("For 2 days at 90 of 100")
    assert pieces > 2
    assert found == size(plan, asked)
    assert sized.done == found.outages


def test_a_month_changes_the_sky_and_not_the_warmth() -> None:
    plan = demo_plan("foothill")
    winter = sizing.for_so_long(plan, SizeAsked(days=3, month=1))
    assert winter.outage.start_local.month == 1
    assert winter.outage.length_s == 3 * 86_400
    assert winter.outage.weather.sky == ()
    assert winter.outage.weather.low_c == plan.outage.weather.low_c
    assert sizing.for_so_long(plan, SizeAsked()) is plan


def test_what_comes_first_is_said_first() -> None:
    stop = patched(demo_plan("foothill"), {"feeds": {"inlet": {"kind": "no_transfer"}}})
    assert "must not be energised" in size(stop, SizeAsked()).held
    unreached = size(demo_plan("canal"), SizeAsked())
    assert "no feed reaches modem and router" in unreached.held
    assert not unreached.choices


def test_size_on_the_command_line(tmp_path: Path) -> None:
    file = tmp_path / "plan.json"
    file.write_text(json.dumps(canonical(lamp(100.0))))
    told = cedar("size", str(file), "--days", "1")
    assert told.returncode == 0
    assert "For 1 days at 90 of 100" in told.stdout
    found = json.loads(cedar("size", str(file), "--days", "1", "--json").stdout)
    form = json.loads(cedar("schema", "--decisions").stdout)
    assert set(found) == set(form["size"]["properties"])
    assert cedar("size", str(file), "--days", "90").returncode == 2
