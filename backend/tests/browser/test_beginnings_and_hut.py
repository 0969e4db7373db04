"""How plans begin, the 230 V hut, weather, and narrow screens, as a person would."""

import pytest
from folds import unfold
from playwright.sync_api import Browser, Page, expect
from serving import Server

HUT = "/plans/pass-keeper-s-hut"


def test_the_hut_has_one_leg_and_metric_units(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{HUT}/panel")
    expect(page.get_by_test_id("leg-L")).to_contain_text("of 13 A")
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
    expect(page.get_by_test_id("survey")).to_contain_text("Has the island an earth electrode of its own?")
    expect(page.get_by_test_id("findings")).to_contain_text("questions of the survey have no answer yet")


def test_weather_drives_the_heater(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{HUT}/outage")
    indoors = page.get_by_test_id("strip").get_by_text("-8 °C")
    expect(indoors).to_be_attached()
    unfold(page, "People, weather, sun, utility and incidents")
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
