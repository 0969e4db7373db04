"""The screens, driven as a person would."""

import re

import pytest
from playwright.sync_api import Page, expect
from serving import Server


@pytest.fixture
def panel(page: Page, server: Server) -> Page:
    page.goto(f"{server.address}/")
    expect(page.get_by_role("region", name="Main panel")).to_be_visible()
    return page


def sentence(page: Page) -> str:
    return page.get_by_test_id("verdict-sentence").inner_text()


def breaker(page: Page, name: str) -> object:
    return page.get_by_role("button", name=name)


def test_a_mark_changes_the_verdict_and_stays(panel: Page, server: Server) -> None:
    before = sentence(panel)
    panel.get_by_role("radiogroup", name="Mark of Bathroom").get_by_role("radio", name="keep").click()
    expect(panel.get_by_test_id("verdict-sentence")).not_to_have_text(before)
    expect(panel.get_by_test_id("leg-A")).to_contain_text("5,779 W")
    after = sentence(panel)
    panel.reload()
    expect(panel.get_by_test_id("verdict-sentence")).to_have_text(after)
    server.stop()
    panel.goto(f"{server.start()}/plans/foothill-house/panel")
    expect(panel.get_by_test_id("verdict-sentence")).to_have_text(after)
    panel.get_by_role("button", name="Undo").click()
    expect(panel.get_by_test_id("verdict-sentence")).to_have_text(before)
    panel.get_by_role("button", name="Redo").click()
    expect(panel.get_by_test_id("verdict-sentence")).to_have_text(after)


def test_watts_and_duty_answer_at_once(panel: Page) -> None:
    before = sentence(panel)
    panel.get_by_role("button", name="Breaker 1, Kitchen refrigerator").click()
    watts = panel.get_by_label("while on")
    watts.fill("0.9 kW")
    watts.press("Enter")
    expect(panel.get_by_role("button", name="Breaker 1, Kitchen refrigerator")).to_contain_text("900 W")
    expect(panel.get_by_test_id("verdict-sentence")).not_to_have_text(before)
    second = sentence(panel)
    duty = panel.get_by_label("on for", exact=True)
    duty.fill("12 %")
    duty.press("Enter")
    expect(panel.get_by_test_id("verdict-sentence")).not_to_have_text(second)
    watts.fill("many")
    watts.press("Enter")
    refused = panel.get_by_role("alert")
    expect(refused).to_contain_text("while on: many is not read; write it as 140 or 1.5 kW")
    expect(refused).to_contain_text("W is kept")
    watts.fill("-5")
    watts.press("Enter")
    expect(panel.get_by_role("alert")).to_contain_text("got -5; should be from 0")
    expect(watts).to_have_value("900")


def test_the_panel_by_keyboard(panel: Page) -> None:
    panel.get_by_role("button", name="Breaker 1, Kitchen refrigerator").focus()
    for key, label in [
        ("ArrowDown", "Gas furnace"),
        ("ArrowDown", "Well pump"),
        ("ArrowDown", "Kitchen counter left"),
        ("ArrowRight", "Lights downstairs"),
        ("ArrowUp", "Home office"),
        ("ArrowUp", "Garage freezer"),
        ("ArrowLeft", "Well pump"),
    ]:
        panel.keyboard.press(key)
        expect(panel.locator(":focus")).to_contain_text(label)
    panel.keyboard.press("o")
    expect(panel.locator(":focus")).to_have_attribute(
        "aria-label", "Breaker 5 and 7, Well pump, 20 A, both legs, off, 1,150 W"
    )
    panel.keyboard.press("Control+z")
    expect(panel.locator(":focus")).to_have_attribute(
        "aria-label", "Breaker 5 and 7, Well pump, 20 A, both legs, keep, 1,150 W"
    )


def test_outage_strip_reads_out_the_moment(panel: Page) -> None:
    panel.get_by_role("link", name="Outage").click()
    strip = panel.get_by_role("slider", name="Moment of the outage")
    strip.focus()
    panel.keyboard.press("Home")
    moment = panel.get_by_test_id("moment")
    expect(moment).to_contain_text("Tue 13 Oct 18:00")
    expect(moment).to_contain_text("100 % charged")
    expect(moment).to_contain_text("Nothing draws power.")
    panel.keyboard.press("PageDown")
    expect(moment).to_contain_text("Tue 13 Oct 18:15")
    panel.keyboard.press("Shift+ArrowRight")
    expect(moment).to_contain_text("Tue 13 Oct 19:15")
    expect(moment).to_contain_text("lights downstairs 85 W")
    panel.get_by_role("button", name="small inverter generator starts").first.click()
    expect(moment).to_contain_text("Wed 14 Oct 08:00")
    expect(moment).to_contain_text("station from the generator 1,500 W")
    expect(moment).to_contain_text("ground panels")
    expect(panel.get_by_test_id("ledger")).to_contain_text("The ledger closes")


def test_outage_can_be_changed(panel: Page) -> None:
    panel.get_by_role("link", name="Outage").click()
    length = panel.get_by_label("lasts")
    length.fill("12 h")
    length.press("Enter")
    expect(panel.get_by_test_id("verdict")).to_have_attribute("data-status", "lasts")
    charge = panel.get_by_label("charge of 6 kW station at the start")
    charge.fill("0")
    charge.press("Enter")
    expect(panel.get_by_test_id("verdict")).to_have_attribute("data-status", "does_not_last")
    day = panel.get_by_label("starts on")
    day.fill("24/12")
    day.press("Enter")
    refused = panel.get_by_text("starts on: 24/12 is not read; write it as 14 Oct 2026. 13 Oct 2026 is kept.")
    expect(refused).to_be_visible()
    for label, text in (("starts on", "Dec 24"), ("starts at", "7:30 am")):
        panel.get_by_label(label).fill(text)
        panel.get_by_label(label).press("Enter")
    expect(panel.get_by_test_id("events")).to_contain_text("Thu 24 Dec 07:30")
    panel.reload()
    expect(panel.get_by_label("starts on")).to_have_value("24 Dec 2026")
    expect(panel.get_by_label("starts at")).to_have_value("07:30")
    panel.get_by_role("button", name="Units and palette").click()
    panel.get_by_label("Clock of").select_option("12")
    panel.keyboard.press("Escape")
    expect(panel.get_by_label("starts at")).to_have_value("7:30 am")
    expect(panel.get_by_test_id("events")).to_contain_text("Thu 24 Dec 7:30 am")
    expect(panel.get_by_test_id("verdict-sentence")).to_contain_text(re.compile("[0-9] [ap]m"))
