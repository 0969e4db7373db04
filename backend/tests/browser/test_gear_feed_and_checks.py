"""Gear, feed, checks and sums, as a person would."""

import pytest
from conftest import Server
from playwright.sync_api import Page, expect

AT = "/plans/foothill-house"


@pytest.fixture
def at(page: Page, server: Server) -> Page:
    page.goto(f"{server.address}{AT}/feed")
    expect(page.get_by_test_id("neutral")).to_have_text("one bond, where it should be")
    return page


def test_a_dangerous_feed_is_stopped_and_mended(at: Page) -> None:
    counts = at.get_by_test_id("counts")
    expect(counts).to_have_text("no stops, no cautions")
    at.get_by_label("feed by").select_option("receptacle_backfeed")
    expect(counts).to_contain_text("1 stop: do not energise")
    expect(at.get_by_test_id("verdict")).to_contain_text("can kill and is refused")
    at.get_by_role("link", name="Checks", exact=True).click()
    finding = at.locator('[data-check="feed-male-plug"]')
    expect(finding).to_contain_text("it can kill")
    expect(finding.get_by_role("button", name="Answer as an electrician")).to_have_count(0)
    at.get_by_role("button", name="Undo").click()
    expect(counts).to_have_text("no stops, no cautions")


def test_every_joint_can_be_chosen(at: Page) -> None:
    at.get_by_role("button", name="Add a cord").click()
    expect(at.get_by_role("img", name="cord 7.62 m")).to_be_visible()
    at.get_by_role("button", name="Add an adapter").click()
    expect(at.get_by_test_id("counts")).to_contain_text("open question")
    at.get_by_label("adapter from").select_option("10-30")
    expect(at.get_by_test_id("counts")).to_contain_text("1 stop")
    at.get_by_label("transfer switches the neutral").select_option("yes")
    expect(at.get_by_test_id("neutral")).to_have_text("no bond: a fault trips nothing")
    expect(at.get_by_role("table", name="Neutral of the source")).to_contain_text("stop: no bond (here)")
    at.get_by_label("inlet rated").fill("20")
    at.get_by_label("inlet rated").press("Enter")
    expect(at.get_by_role("list", name="Findings of feed")).to_contain_text("inlet: 30 A against 20 A")
    at.get_by_role("slider", name="Moment of the outage").focus()
    at.keyboard.press("End")
    expect(at.get_by_role("button", name="Greatest flow")).to_be_visible()


def test_the_survey_and_answers(at: Page) -> None:
    at.get_by_role("link", name="Checks", exact=True).click()
    at.get_by_label("A sign at the inlet").select_option("no")
    finding = at.locator('[data-check="feed-sign"]')
    expect(finding).to_contain_text("Not so")
    finding.get_by_role("button", name="Answer as an electrician").click()
    finding.get_by_label("reason").fill("inspected, local approval")
    finding.get_by_label("name and licence").fill("licence 123")
    finding.get_by_role("button", name="Answer", exact=True).click()
    expect(finding).to_contain_text("Answered: inspected, local approval (licence 123)")
    expect(at.get_by_test_id("counts")).to_have_text("no stops, no cautions")
    at.get_by_label("The kit", exact=False).or_(at.get_by_label("The interlock kit")).first.select_option(
        "unknown"
    )
    expect(at.get_by_test_id("counts")).to_contain_text("1 open question")
    at.get_by_label("code edition").fill("2023 as adopted here")
    at.get_by_label("code edition").blur()
    at.reload()
    expect(at.get_by_label("code edition")).to_have_value("2023 as adopted here")


def test_gear_is_described_compared_and_wired(at: Page) -> None:
    at.get_by_role("link", name="Gear").click()
    solar = at.get_by_role("region", name="Solar")
    solar.get_by_text("ground panels", exact=True).click()
    series = solar.get_by_label("in series")
    series.fill("14")
    series.press("Enter")
    found = at.get_by_role("list", name="Findings of the gear")
    expect(found).to_contain_text("More volts than the input takes")
    found.get_by_role("button", name="Apply the remedy").first.click()
    expect(found).not_to_contain_text("More volts than the input takes")
    at.get_by_test_id("layouts").get_by_role("button", name="Take").first.click()
    generators = at.get_by_role("region", name="Generators")
    generators.get_by_label("add").select_option("open-5500")
    expect(found).to_contain_text("where it stands")
    stations = at.get_by_role("region", name="Stations")
    stations.get_by_label("add").select_option("mid-3000")
    expect(stations.get_by_text("120 V station, 3 kW", exact=False).first).to_be_visible()
    at.get_by_text("Compare stations side by side").click()
    at.get_by_label("add to the comparison").select_option("split-7200")
    expect(at.get_by_test_id("compare")).to_contain_text("3,600 VA")
    stations.get_by_text("6 kW station", exact=True).click()
    rated = stations.get_by_label("rated").first
    rated.fill("7.2")
    rated.press("Enter")
    expect(at.get_by_role("alert")).to_contain_text("7.2 VA, or 7.2 kVA?")
    at.get_by_role("button", name="7.2 kVA").click()
    expect(rated).to_have_value("7200")


def test_sums_begin_from_the_plan(at: Page) -> None:
    at.get_by_role("button", name="Sums").click()
    drawer = at.get_by_role("dialog", name="Sums")
    expect(drawer.get_by_label("idle draw")).to_have_value("55 W")
    drawer.get_by_label("Which sum").select_option("cord")
    drawer.get_by_label("length").fill("25 ft")
    drawer.get_by_label("gauge").fill("14")
    drawer.get_by_label("current").fill("2.5A")
    expect(drawer.get_by_test_id("sum")).to_contain_text("0.1288 Ω")
    drawer.get_by_label("current").fill("2.5 bananas")
    expect(drawer.get_by_role("alert")).to_contain_text("not a unit known here")
    drawer.get_by_label("Which sum").select_option("string")
    drawer.get_by_role("button", name="Put into the plan").click()
    drawer.get_by_role("button", name="Close").click()
    at.get_by_role("link", name="Gear").click()
    at.get_by_role("region", name="Solar").get_by_text("ground panels", exact=True).click()
    expect(at.get_by_role("region", name="Solar").get_by_label("in series")).to_have_value("10")
