"""The hook-up drawing, leads that take turns, food and weather files, as a person would."""

import re
from pathlib import Path

import pvlib
from folds import unfold
from playwright.sync_api import Page, expect
from serving import Server

AT = "/plans/foothill-house"
TYPICAL_YEAR = Path(pvlib.__file__).parent / "data" / "723170TYA.CSV"


def test_the_drawing_opens_what_is_chosen_and_follows_the_moment(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{AT}/feed")
    drawing = page.get_by_test_id("hookup")
    lead = drawing.get_by_role("button", name="6 kW station to Main panel")
    expect(lead).to_have_attribute("aria-pressed", "true")
    expect(lead).to_have_accessible_name(re.compile("of 7,200 W, the pinch"))
    expect(drawing.get_by_role("button", name="neutral bonded here")).to_have_accessible_name(
        re.compile("^Main panel, 14 circuits on")
    )
    page.get_by_role("slider", name="Moment of the outage").focus()
    page.keyboard.press("End")
    page.keyboard.press("Home")
    expect(lead).to_have_accessible_name(re.compile("^6 kW station to Main panel: 0 W"))
    charging = drawing.get_by_role("button", name="station from the generator")
    charging.focus()
    page.keyboard.press("Enter")
    opened = page.get_by_role("region", name="station from the generator")
    expect(opened).to_contain_text("set to 1,500 W, as the rules say")
    opened.get_by_role("button", name="Add a cord").click()
    opened.get_by_label("of", exact=True).select_option("18")
    expect(opened).to_contain_text("AWG 18, charging: 12.5 A against 10 A")
    drawing.get_by_role("button", name=re.compile("^ground panels, 1,600 W")).click()
    expect(page.get_by_role("link", name="Open the gear")).to_be_visible()


def test_a_second_source_takes_turns_at_one_inlet(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{AT}/feed")
    page.get_by_role("button", name="Plug another source in here, in turn").click()
    expect(page.get_by_text("2 leads end here: they take turns")).to_be_visible()
    expect(page.get_by_test_id("counts")).not_to_contain_text("stop: do not")
    drawing = page.get_by_test_id("hookup")
    leads = drawing.get_by_role("button", name="6 kW station to Main panel")
    expect(leads).to_have_count(2)
    leads.nth(1).click()
    page.get_by_role("button", name="Take this lead away").click()
    expect(leads).to_have_count(1)
    page.get_by_role("button", name="Take this lead away").click()
    expect(page.get_by_test_id("verdict")).to_contain_text("no feed leads")
    page.get_by_role("button", name="Undo").click()
    expect(leads).to_have_count(1)


def test_food_has_its_lane_and_its_compartments(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{AT}/outage")
    expect(page.get_by_test_id("strip")).to_contain_text("harvest freezer")
    expect(page.get_by_role("region", name="By device")).to_contain_text("harvest freezer: contents")
    page.get_by_role("link", name="Panel", exact=True).click()
    page.get_by_role("button", name=re.compile("Kitchen refrigerator")).first.click()
    page.get_by_label("behaves").first.select_option("refrigerating")
    expect(page.get_by_label("compartment", exact=True)).to_have_count(2)
    page.get_by_role("button", name="Add a compartment").click()
    expect(page.get_by_label("compartment", exact=True)).to_have_count(3)
    page.get_by_role("link", name="Outage", exact=True).click()
    expect(page.get_by_test_id("strip")).to_contain_text("refrigerator, freezer")


def test_weather_out_of_a_file_and_from_the_forecast(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{AT}/outage")
    unfold(page, "People, weather, sun, utility and incidents")
    page.get_by_label("Weather file").set_input_files(TYPICAL_YEAR)
    expect(page.get_by_text("and the sun of Greensboro")).to_be_visible()
    expect(page.get_by_text("kinds of days do not count")).to_be_visible()
    page.get_by_label("Weather file").set_input_files(
        {"name": "x.epw", "mimeType": "text/plain", "buffer": b"no weather"}
    )
    expect(page.get_by_role("alert")).to_contain_text("no weather file that can be read")
    page.get_by_role("button", name="Ask the simulated forecast").click()
    expect(page.get_by_text("kinds of days do not count")).to_have_count(0)
    expect(page.get_by_text(re.compile("102 hourly values"))).to_be_visible()


def test_a_lead_goes_with_the_rule_that_names_it(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/canal-side-duplex/gear")
    charging = page.get_by_role("region", name="Recharging")
    unfold(charging)
    charging.get_by_role("button", name="Take left station from the van away").click()
    expect(charging.locator("summary")).to_have_count(0)
    expect(page.get_by_test_id("saved")).to_contain_text("Saved")
    expect(page.get_by_role("alert")).to_have_count(0)
    page.reload()
    expect(charging.get_by_label("add", exact=True)).to_be_visible()
    expect(charging.locator("summary")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(charging.locator("summary")).to_have_count(1)


def test_a_handle_of_a_switch_is_on_a_leg_of_its_own(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{AT}/feed")
    page.get_by_label("feed by").select_option("transfer_switch")
    wired = page.get_by_role("group", name="Circuits wired to it")
    wired.get_by_label("Kitchen refrigerator").check()
    wired.get_by_label("Garage freezer").check()
    unfold(page, "Leg of each handle")
    leg = page.get_by_role("combobox", name="Kitchen refrigerator")
    expect(leg).to_contain_text("as in the panel: leg A")
    with page.expect_response(lambda r: '"switch_legs":{"fridge":"B"}' in (r.request.post_data or "")):
        leg.select_option("B")
    expect(page.get_by_text("Leg of each handle of the switch, some their own")).to_be_visible()
    kept = page.request.get(f"{server.address}/api{AT}").json()["plan"]["feeds"]["inlet"]["switch_legs"]
    assert kept == {"fridge": "B"}
    wired.get_by_label("Kitchen refrigerator").uncheck()
    expect(page.get_by_text("some their own")).to_have_count(0)


def test_every_conductor_has_its_rating_its_flow_and_its_loss(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{AT}/feed")
    part = page.get_by_role("region", name="Every conductor")
    expect(part.get_by_text("6 kW station to Main panel: loses 2.3 V (2 %)")).to_be_visible()
    unfold(part)
    rows = part.get_by_role("table", name="Conductors of 6 kW station to Main panel")
    expect(rows.get_by_role("row", name=re.compile("^30 A cord 30 ft, AWG 10 30 A 30 A"))).to_contain_text(
        "1.2 %"
    )
    expect(rows.get_by_role("row", name=re.compile("^Well pump, AWG 12"))).to_contain_text("not known")
