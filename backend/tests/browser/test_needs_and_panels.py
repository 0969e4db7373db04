"""Needs, measuring, moving breakers, balancing, beginnings and units, as a person would."""

import json
import re
from pathlib import Path

import pytest
from builders import circuit, house, load, steady
from folds import unfold
from playwright.sync_api import Page, expect
from serving import Server

AT = "/plans/foothill-house"


@pytest.fixture
def needs(page: Page, server: Server) -> Page:
    page.goto(f"{server.address}{AT}/needs")
    expect(page.get_by_test_id("needs-summary")).to_be_visible()
    return page


@pytest.fixture
def panel(page: Page, server: Server) -> Page:
    page.goto(f"{server.address}{AT}/panel")
    expect(page.get_by_role("region", name="Main panel")).to_be_visible()
    return page


def test_needs_are_added_and_measured(needs: Page) -> None:
    table = needs.get_by_test_id("needs")
    rows = table.get_by_role("row").count()
    adding = needs.get_by_role("region", name="Add needs")
    adding.get_by_label("find").fill("wine")
    wine = needs.get_by_test_id("library").get_by_role("button", name="wine cooler")
    wine.click()
    expect(adding.get_by_role("alert")).to_contain_text("nothing was added")
    adding.get_by_label("onto").select_option("office")
    wine.click()
    expect(table.get_by_role("row")).to_have_count(rows + 1)
    lines = needs.get_by_label("or type or paste lines")
    lines.fill("fridge 3 bananas")
    needs.get_by_role("button", name="Add these lines").click()
    expect(needs.get_by_role("alert")).to_contain_text("line 1")
    lines.fill("cellar fridge 1.6 kWh/day, 130 W, start 1100 W")
    needs.get_by_role("button", name="Add these lines").click()
    added = table.get_by_role("row", name="cellar fridge")
    expect(added).to_contain_text("1,600 Wh")
    expect(added).to_contain_text("a guess")
    added.get_by_role("button", name="cellar fridge", exact=True).click()
    needs.get_by_label("try the simulated meter on a").select_option("refrigerator")
    needs.get_by_role("button", name="Read it so").click()
    expect(needs.get_by_test_id("meter-report")).to_contain_text("cycles seen")
    expect(needs.get_by_test_id("trial")).to_contain_text("instead of")
    expect(added).to_contain_text("a guess")
    needs.get_by_role("button", name="Accept").click()
    expect(added).to_contain_text("measured")
    needs.get_by_label("kWh shown").fill("2.4")
    needs.get_by_label("highest").fill("1.2 kW")
    needs.get_by_role("button", name="Take the totals").click()
    expect(added).to_contain_text("2,400 Wh")
    expect(added).to_contain_text("1,200 VA")
    needs.get_by_role("button", name="a week").click()
    expect(needs.get_by_test_id("verdict-sentence")).to_contain_text("of 7 days")


def test_house_readings(needs: Page) -> None:
    needs.get_by_label("house kWh").fill("0.5")
    needs.get_by_role("button", name="Find the standby").click()
    expect(needs.get_by_test_id("standby")).to_contain_text("62.5 W always on")
    needs.get_by_role("button", name="Add it as a need").click()
    expect(needs.get_by_test_id("needs")).to_contain_text("standby of the house")
    needs.get_by_label("kWh before").fill("3.02")
    needs.get_by_label("after it").fill("2.97")
    needs.get_by_role("button", name="Find the loss").click()
    expect(needs.get_by_test_id("cord-loss")).to_contain_text("50 Wh")
    needs.get_by_label("locked rotor").fill("31")
    needs.get_by_role("button", name="Set the start").click()
    expect(needs.get_by_test_id("motor")).to_contain_text("3,720 VA")


def test_furnace_from_fuel_to_verdict(needs: Page) -> None:
    before = needs.get_by_test_id("verdict-sentence").inner_text()
    needs.get_by_role("button", name="gas furnace blower", exact=True).click()
    needs.get_by_label("heat loss of the house").select_option("fuel")
    needs.get_by_label("used (therm)").fill("900")
    needs.get_by_label("used (therm)").press("Enter")
    needs.get_by_role("button", name="Work it out").click()
    heater = needs.get_by_test_id("heater")
    expect(heater).to_contain_text("The house loses 374 W/K")
    expect(heater).to_contain_text("Worst on leg B")
    expect(heater.get_by_role("row", name="32 °F")).to_contain_text("%")
    needs.get_by_role("button", name="Take that into the plan").click()
    expect(needs.get_by_test_id("verdict-sentence")).not_to_have_text(before)
    needs.get_by_label("try the simulated meter on a").select_option("gas furnace")
    needs.get_by_role("button", name="Read it so").click()
    needs.get_by_role("button", name="Find the steps of a call").click()
    expect(needs.get_by_test_id("calls")).to_contain_text("First 72 W for")
    needs.get_by_test_id("calls").get_by_role("button", name="Accept").click()
    expect(needs.get_by_label("first before 2")).to_have_value(re.compile("39.*"))


def test_units_follow_the_setting(needs: Page) -> None:
    needs.get_by_role("button", name="gas furnace blower", exact=True).click()
    expect(needs.get_by_label("set to")).to_have_value("66.2")
    needs.get_by_role("button", name="Units and palette").click()
    needs.get_by_label("Temperature in").select_option("c")
    needs.keyboard.press("Escape")
    point = needs.get_by_label("set to")
    expect(point).to_have_value("19")
    point.fill("70 F")
    point.press("Enter")
    expect(point).to_have_value("21.111")
    needs.get_by_role("link", name="Panel").click()
    needs.get_by_role("button", name="Units and palette").click()
    needs.get_by_label("Wire in").select_option("mm2")
    needs.keyboard.press("Escape")
    needs.get_by_label("wire", exact=True).select_option("2.5")
    expect(needs.get_by_label("wire", exact=True)).to_have_value("2.5")


def place(page: Page, name: str) -> str:
    return page.get_by_role("button", name=name).first.get_attribute("data-space") or ""


def test_breakers_move_by_dragging_and_by_keyboard(panel: Page) -> None:
    freezer = panel.get_by_role("button", name="Breaker 6, Garage freezer")
    target = panel.get_by_role("button", name="Breaker 14, Internet and telephone").bounding_box()
    start = freezer.bounding_box()
    assert start
    assert target
    panel.mouse.move(start["x"] + 60, start["y"] + 10)
    panel.mouse.down()
    panel.mouse.move(start["x"] + 70, start["y"] + 40, steps=4)
    panel.mouse.move(target["x"] + 60, target["y"] + 12, steps=8)
    panel.mouse.up()
    expect(panel.get_by_role("button", name="Breaker 14, Garage freezer")).to_be_visible()
    expect(panel.get_by_role("button", name="Breaker 6, Internet and telephone")).to_be_visible()
    panel.get_by_role("button", name="Undo").click()
    expect(freezer).to_be_visible()
    freezer.focus()
    panel.keyboard.press("Alt+ArrowDown")
    expect(panel.get_by_role("button", name="Breaker 8, Garage freezer")).to_be_visible()
    panel.get_by_role("button", name="Breaker 8, Garage freezer").focus()
    panel.keyboard.press("Alt+ArrowLeft")
    expect(panel.get_by_role("alert")).to_contain_text("a two-pole breaker is there")


def test_breakers_are_added_described_and_found(panel: Page, tmp_path: Path) -> None:
    unfold(panel, "Main panel: ratings")
    panel.get_by_label("spaces", exact=True).fill("30")
    panel.get_by_label("spaces", exact=True).press("Enter")
    panel.get_by_role("button", name="Add a breaker in space 25").click()
    sheet = panel.get_by_role("region", name="Breaker 25")
    sheet.get_by_label("label", exact=True).fill("Workshop")
    sheet.get_by_label("label", exact=True).press("Enter")
    sheet.get_by_label("breaker of").select_option("two")
    sheet = panel.get_by_role("region", name="Breaker 25 and 27")
    sheet.get_by_label("is", exact=True).select_option("gfci")
    unfold(panel, "Find the breaker")
    panel.get_by_label("Outlets and lights").fill("bench left, bench right")
    panel.get_by_role("button", name="Add outlets").click()
    panel.get_by_label("bench left").check()
    expect(panel.get_by_text("1 outlets not found yet")).to_be_visible()
    expect(panel.get_by_test_id("saved")).to_contain_text("Saved")
    with panel.expect_download() as download:
        panel.get_by_role("link", name="Export as CSV").click()
    file = tmp_path / "schedule.csv"
    download.value.save_as(file)
    assert "25 27,20,Workshop" in file.read_text()
    file.write_text(file.read_text().replace("Workshop", "Wood shop"))
    panel.get_by_label("Schedule file of main").set_input_files(file)
    expect(panel.get_by_role("button", name="Breaker 25 and 27, Wood shop")).to_be_visible()
    file.write_text("nonsense")
    panel.get_by_label("Schedule file of main").set_input_files(file)
    expect(panel.get_by_role("alert")).to_contain_text("space, amps, label")
    panel.get_by_role("button", name="Breaker 25 and 27, Wood shop").click()
    panel.get_by_role("button", name="Take this breaker out").click()
    expect(panel.get_by_role("button", name="Add a breaker in space 25")).to_be_visible()


def test_the_duplex_is_balanced_and_put_on_an_interlock(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/canal-side-duplex/panel")
    expect(page.get_by_test_id("verdict")).to_contain_text("Does not last")
    expect(page.get_by_test_id("lean")).to_contain_text("lean 100 % in W")
    first = page.get_by_test_id("balance").get_by_role("listitem").first
    expect(first).to_contain_text("proven least")
    first.get_by_role("button", name="Apply").click()
    expect(page.get_by_test_id("lean")).not_to_contain_text("100 %")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("lean")).to_contain_text("lean 100 % in W")
    switch = page.get_by_test_id("switch")
    expect(switch).to_contain_text("Interlock, nobody shedding")
    page.goto(f"{server.address}{AT}/panel")
    expect(page.get_by_test_id("switch")).to_contain_text("wanted circuits stay dark")
    page.get_by_test_id("switch").get_by_role("button", name="Keep as a copy").nth(1).click()
    page.get_by_role("link", name="Foothill house, switch of 6").click()
    expect(page.get_by_text("transfer switch of 5 circuits")).to_be_visible()
    expect(page.get_by_test_id("verdict-sentence")).to_contain_text("no feed reaches it")


def test_forty_circuits_fit(page: Page, server: Server, tmp_path: Path) -> None:
    spaces = [n for n in range(1, 43) if n not in (2, 4)]
    circuits = {f"c{n}": circuit([n]) for n in spaces}
    document = house(circuits, {f"c{n}": load(f"c{n}", steady(20.0 + n)) for n in spaces})
    document["panels"]["main"]["spaces"] = 42
    file = tmp_path / "forty.json"
    file.write_text(json.dumps(document))
    page.goto(f"{server.address}/plans")
    page.get_by_label("Plan file").set_input_files(file)
    page.get_by_role("link", name="Test house").click()
    last = page.get_by_role("button", name="Breaker 42,")
    expect(last).to_be_visible()
    box = last.bounding_box()
    assert box
    assert box["y"] + box["height"] <= 800
    assert page.evaluate("document.documentElement.scrollWidth") <= 1280
