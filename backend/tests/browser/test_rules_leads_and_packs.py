"""Rules, acts, packs that stand apart, and appliances on leads, as a person would."""

import re

from folds import unfold
from playwright.sync_api import Page, expect
from serving import Server

HUT = "/plans/pass-keeper-s-hut"
FOOTHILL = "/plans/foothill-house"
MORE = "People, weather, sun, utility and incidents"


def test_rules_are_sentences_that_are_added_changed_and_switched_off(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{FOOTHILL}/outage")
    unfold(page, MORE)
    rules = page.get_by_role("group", name="Rules, followed from the top down")
    expect(rules.get_by_role("listitem")).to_have_count(1)
    for words in ("what is left for the night", "how an array is turned", "in what order to recharge"):
        rules.get_by_label("a rule for").select_option(words)
        rules.get_by_role("button", name="Add this rule").click()
    lines = rules.get_by_role("listitem")
    expect(lines).to_have_count(4)
    night = lines.nth(1)
    night.get_by_label("with less than").fill("95")
    night.get_by_label("with less than").press("Enter")
    expect(night).to_contain_text("acted 4 times")
    expect(lines.nth(2)).to_contain_text(re.compile(r"acted \d times"))
    expect(lines.nth(3)).to_contain_text("holds all the time")
    lines.nth(3).get_by_label("put first").select_option("engine")
    expect(lines.nth(3)).to_contain_text("recharge from an engine, then sun")
    night.get_by_label("rule 2 is on").uncheck()
    expect(night).not_to_contain_text("acted")
    lines.nth(3).get_by_role("button", name="Move up").click()
    expect(lines.nth(2)).to_contain_text("recharge from")
    lines.nth(1).get_by_role("button", name="Take away").click()
    expect(lines).to_have_count(3)


def test_an_act_at_an_hour_unplugs_a_pack(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{FOOTHILL}/outage")
    unfold(page, MORE)
    acts = page.get_by_role("group", name="What someone does at set hours")
    acts.get_by_role("button", name="Add an act").click()
    acts.get_by_label("part").select_option(label="Expansion pack of 6 kW station")
    happens = page.get_by_test_id("events")
    expect(happens.get_by_text("Expansion pack is unplugged from 6 kW station")).to_be_visible()
    expect(page.get_by_role("region", name="By device")).to_contain_text(
        re.compile("head unit 100 to .* Expansion pack")
    )


def test_packs_that_stand_apart_show_their_own_readings(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{HUT}/outage")
    expect(page.get_by_test_id("moment")).to_contain_text(re.compile(r"\(head unit \d+ %, pack \d+ %\)"))
    happens = page.get_by_test_id("events")
    expect(happens.get_by_text("are within 4 points").first).to_be_visible()


def test_an_appliance_moves_from_its_breaker_to_a_lead_and_back(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{HUT}/needs")
    row = page.get_by_test_id("needs").get_by_role("row").filter(has_text="chargers of the beacons")
    expect(row).to_contain_text("on the cords from near 3 kW station, room")
    row.get_by_role("button", name="chargers of the beacons", exact=True).click()
    page.get_by_label("it", exact=True).select_option("keep")
    expect(row).to_contain_text("keep")
    page.get_by_label("in the outage").select_option("")
    expect(row).to_contain_text("on nothing yet")
    expect(page.get_by_test_id("verdict")).to_contain_text("must run")
    page.get_by_label("at home on").select_option(label="Radio relay")
    expect(row).to_contain_text("Radio relay, keep")
    page.get_by_label("in the outage").select_option(label="the cords from near 3 kW station")
    expect(row).to_contain_text("on the cords from")


def test_an_appliance_that_goes_takes_its_names_along(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{HUT}/outage")
    unfold(page, MORE)
    rules = page.get_by_role("group", name="Rules, followed from the top down")
    rules.get_by_label("a rule for").select_option("what is switched on by hand for a while")
    rules.get_by_role("button", name="Add this rule").click()
    named = rules.get_by_role("listitem").nth(1)
    expect(named).to_contain_text("acted")
    name = (named.get_by_text("switch on by hand:").locator("xpath=..").inner_text()).split(":")[1].strip()
    page.get_by_role("link", name="Needs", exact=True).click()
    page.get_by_role("button", name=f"Take {name} off the list").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    page.get_by_role("link", name="Outage", exact=True).click()
    unfold(page, MORE)
    expect(rules.get_by_role("listitem")).to_have_count(1)


def test_a_discharge_test_and_a_timer(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{FOOTHILL}/gear")
    stations = page.get_by_role("region", name="Stations")
    unfold(stations)
    unfold(stations, "All else about it")
    stations.get_by_label("a full discharge gave").fill("5.2 kWh")
    stations.get_by_label("a full discharge gave").press("Enter")
    stations.get_by_label("at a mean load of").fill("300")
    stations.get_by_label("at a mean load of").press("Enter")
    stations.get_by_role("button", name="Take this test").click()
    expect(stations).to_contain_text("A full discharge gave 5,200 Wh at 300 W")
    page.get_by_role("link", name="Needs", exact=True).click()
    page.get_by_test_id("needs").get_by_role("button", name="refrigerator", exact=True).click()
    page.get_by_role("button", name="Only in some hours").click()
    expect(page.get_by_role("button", name="At any hour")).to_be_visible()
