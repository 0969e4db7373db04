"""How plans begin, the 230 V hut, weather, and narrow screens, as a person would."""

import pytest
from conftest import Server
from playwright.sync_api import Browser, Page, expect

HUT = "/plans/pass-keeper-s-hut"


def begin(page: Page, name: str, way: str) -> None:
    page.get_by_label("new plan").fill(name)
    page.get_by_label("from", exact=True).select_option(way)


def test_a_plan_begins_from_rooms(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans")
    begin(page, "Row house", "rooms")
    page.get_by_label("garage").check()
    page.get_by_label("office").uncheck()
    page.get_by_role("button", name="Begin", exact=True).click()
    page.get_by_role("link", name="Row house").click()
    expect(page.get_by_role("button", name="Chest freezer, 15 A")).to_be_visible()
    expect(page.get_by_role("button", name="Gas furnace with a plain blower")).to_be_visible()
    expect(page.get_by_test_id("verdict")).to_contain_text("Does not last")
    expect(page.get_by_test_id("counts")).to_contain_text("open question")
    page.get_by_role("link", name="Needs", exact=True).click()
    expect(page.get_by_test_id("needs")).to_contain_text("typical of its class")
    expect(page.get_by_test_id("needs")).not_to_contain_text("router")


def test_a_plan_begins_from_a_csv(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans")
    begin(page, "Mill", "csv")
    page.get_by_label("At least the columns").fill(
        "spaces;breaker_a;label;mark\n1;20;Mill fridge;keep\n5 7;20;Pump;off"
    )
    page.get_by_role("button", name="Begin", exact=True).click()
    page.get_by_role("link", name="Mill").click()
    expect(page.get_by_role("button", name="Breaker 5 and 7, Pump")).to_be_visible()
    expect(page.get_by_role("button", name="Breaker 1, Mill fridge")).to_contain_text("nothing on it")


def test_the_hut_has_one_leg_and_metric_units(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{HUT}/panel")
    expect(page.get_by_test_id("leg-L")).to_contain_text("of 16 A")
    expect(page.get_by_role("region", name="Balance")).to_have_count(0)
    expect(page.get_by_role("button", name="Breaker 1, Gas boiler")).to_contain_text("by cord")
    page.get_by_role("link", name="Feed", exact=True).click()
    expect(page.get_by_label("cord", exact=True)).to_have_value("15")
    page.get_by_label("feed by").select_option("transfer_panel")
    expect(page.get_by_test_id("counts")).to_contain_text("open question")
    page.get_by_label("transfer switches the neutral").select_option("no")
    expect(page.get_by_test_id("counts")).to_contain_text("stop")
    page.get_by_label("transfer switches the neutral").select_option("yes")
    page.get_by_role("link", name="Checks", exact=True).click()
    expect(page.locator('[data-check="uk-neutral-switch"]')).to_have_count(0)
    expect(page.locator('[data-check="uk-earth-island"]')).to_contain_text("earth electrode of its own")


def test_weather_drives_the_heater(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{HUT}/outage")
    indoors = page.get_by_test_id("strip").get_by_text("-8 °C")
    expect(indoors).to_be_attached()
    page.get_by_text("People, weather, sun, utility, rules and incidents").click()
    coldest = page.get_by_label("coldest")
    coldest.fill("-30")
    coldest.press("Enter")
    expect(indoors).not_to_be_attached()
    page.get_by_label("or paste one value an hour").fill("-5 -6 cold")
    page.get_by_role("button", name="Take the values").click()
    expect(page.get_by_role("alert")).to_contain_text("value 3: got cold")
    page.get_by_label("or paste one value an hour").fill("-5, -6, 41F")
    page.get_by_role("button", name="Take the values").click()
    expect(page.get_by_text("3 hourly values, -6 °C to 5 °C")).to_be_visible()


@pytest.mark.parametrize("screen", ["needs", "panel", "gear", "feed", "checks", "outage"])
def test_nothing_hangs_over_on_a_phone(browser: Browser, server: Server, screen: str) -> None:
    context = browser.new_context(viewport={"width": 390, "height": 844}, reduced_motion="reduce")
    page = context.new_page()
    page.goto(f"{server.address}{HUT}/{screen}")
    expect(page.get_by_test_id("counts")).to_be_visible()
    page.wait_for_load_state("networkidle")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    context.close()
