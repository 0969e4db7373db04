"""History, two people on one plan, plans and their files; axe in both palettes."""

import json
from pathlib import Path

import pytest
from accessibility import COLOURS, grave
from folds import unfold
from playwright.sync_api import Browser, Page, expect
from serving import Server

AT = "/plans/foothill-house"


def mark(page: Page, circuit: str, name: str) -> None:
    page.get_by_role("radiogroup", name=f"Mark of {circuit}").get_by_role("radio", name=name).click()


def marked(page: Page, circuit: str, name: str) -> None:
    radios = page.get_by_role("radiogroup", name=f"Mark of {circuit}")
    expect(radios.get_by_role("radio", name=name, checked=True)).to_be_visible()


def saved(page: Page) -> None:
    expect(page.get_by_test_id("saved")).to_contain_text("Saved")


def test_history_opens_and_brings_back(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{AT}/panel")
    before = page.get_by_test_id("verdict-sentence").inner_text()
    mark(page, "Bathroom", "keep")
    expect(page.get_by_test_id("verdict-sentence")).not_to_have_text(before)
    page.get_by_role("link", name="History").click()
    lines = page.get_by_test_id("history").get_by_role("listitem")
    expect(lines.nth(0)).to_contain_text("Bathroom: mark off → keep")
    lines.nth(1).get_by_role("button", name="Open").click()
    expect(lines.nth(1)).to_contain_text(before)
    lines.nth(1).get_by_role("button", name="Bring back").click()
    expect(lines.nth(0)).to_contain_text("Brought back revision 1")
    expect(page.get_by_test_id("verdict-sentence")).to_have_text(before)


def test_two_people_on_one_plan(browser: Browser, server: Server) -> None:
    pages = [browser.new_context().new_page() for _ in range(2)]
    for page in pages:
        page.route("**/head", lambda route: route.abort())
        page.goto(f"{server.address}{AT}/panel")
        expect(page.get_by_role("region", name="Main panel")).to_be_visible()
    mark(pages[0], "Bathroom", "keep")
    saved(pages[0])
    mark(pages[1], "Dishwasher", "keep")
    expect(pages[1].get_by_text("Both are in the plan")).to_be_visible()
    marked(pages[1], "Bathroom", "keep")
    mark(pages[1], "Laundry", "keep")
    saved(pages[1])
    mark(pages[0], "Laundry", "when there is room")
    dialog = pages[0].get_by_role("dialog", name="Someone else changed the same thing")
    row = dialog.get_by_role("row", name="Laundry · mark")
    expect(row).to_contain_text("offkeeproom")
    dialog.get_by_role("button", name="Save mine").click()
    expect(dialog).to_be_hidden()
    saved(pages[0])
    pages[1].reload()
    marked(pages[1], "Laundry", "when there is room")
    mark(pages[1], "Laundry", "off")
    saved(pages[1])
    mark(pages[0], "Laundry", "keep")
    dialog.get_by_role("button", name="Keep theirs").click()
    marked(pages[0], "Laundry", "off")
    pages[0].get_by_role("link", name="History").click()
    line = pages[0].get_by_role("listitem").filter(has_text="Not kept: Laundry: mark off → keep")
    expect(line).to_be_visible()
    line.get_by_role("button", name="Bring back").click()
    pages[0].get_by_role("link", name="Panel", exact=True).click()
    marked(pages[0], "Laundry", "keep")
    for page in pages:
        page.context.close()


def test_another_window_shows_what_was_saved(browser: Browser, server: Server) -> None:
    """Windows of one browser at once, of another within seconds; a field half typed there stays."""
    context = browser.new_context()
    pages = [context.new_page(), context.new_page(), browser.new_context().new_page()]
    for page in pages:
        page.goto(f"{server.address}{AT}/panel")
        expect(page.get_by_role("region", name="Main panel")).to_be_visible()
    half = pages[1].get_by_label("kept longest: 1, then 2 …")
    half.fill("7.")
    mark(pages[0], "Bathroom", "keep")
    for page in pages[1:]:
        marked(page, "Bathroom", "keep")
        told = page.get_by_text("Changed in another window and shown now: Bathroom: mark off → keep.")
        expect(told).to_be_visible()
    expect(pages[0].get_by_text("Changed in another window")).to_have_count(0)
    expect(half).to_have_value("7.")


def test_what_is_half_typed_is_there_after_a_reload(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{AT}/gear")
    unfold(page.get_by_role("region", name="Stations"))
    rated = page.get_by_role("region", name="Stations").get_by_label("rated", exact=True).first
    before = rated.input_value()
    rated.fill("6.4 k")
    page.reload()
    expect(rated).to_have_value("6.4 k")
    expect(page.get_by_text("“6.4 k” in rated is back in its field, not saved yet")).to_be_visible()
    page.keyboard.press("Escape")
    expect(rated).to_have_value(before)
    page.reload()
    expect(rated).to_have_value(before)


def test_an_address_that_leads_nowhere_leads_back(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/attic")
    expect(page.get_by_role("heading")).to_have_text("There is nothing at /attic")
    page.goto(f"{server.address}{AT}/cellar")
    expect(page.get_by_role("heading", name="There is nothing at")).to_be_visible()
    page.get_by_role("link", name="All plans").last.click()
    expect(page.get_by_role("link", name="Begin a plan")).to_be_visible()


def test_plans_and_their_files(page: Page, server: Server, tmp_path: Path) -> None:
    page.goto(f"{server.address}/plans")
    plans = page.get_by_test_id("plans").get_by_role("listitem")
    plans.filter(has_text="Foothill house").get_by_role("button", name="Duplicate").click()
    expect(plans).to_have_count(5)
    copy = plans.filter(has_text="Foothill house, copy")
    copy.get_by_role("button", name="Rename").click()
    copy.get_by_label("New name of Foothill house, copy").fill("Lake cabin")
    page.get_by_role("button", name="Save").click()
    cabin = plans.filter(has_text="Lake cabin")
    expect(cabin).to_have_count(1)
    with page.expect_download() as download:
        cabin.get_by_role("link", name="Export").click()
    file = tmp_path / "cabin.json"
    download.value.save_as(file)
    cabin.get_by_role("button", name="Put away").click()
    expect(plans).to_have_count(4)
    unfold(page, "Put away: 1 plan")
    page.get_by_test_id("put-away").get_by_role("button", name="back").click()
    expect(plans).to_have_count(5)
    page.get_by_label("Plan file").set_input_files(file)
    expect(plans).to_have_count(6)
    document = json.loads(file.read_text())
    document["loads"]["kettle"]["behaviour"]["steps"][0]["watts"] = "hot"
    file.write_text(json.dumps(document))
    page.get_by_label("Plan file").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text('kettle, step 1, watts: got "hot"')
    expect(page.get_by_role("alert")).not_to_contain_text("/")
    expect(plans).to_have_count(6)
    page.get_by_role("link", name="Begin a plan").click()
    page.get_by_label("name of the plan").fill("Empty house")
    page.get_by_role("button", name="Open the plan").click()
    expect(page.get_by_test_id("verdict")).to_contain_text("Cannot judge yet")
    expect(page.get_by_test_id("needs-summary")).to_contain_text("Nothing is on the list yet")
    page.get_by_role("link", name="Feed", exact=True).click()
    page.get_by_role("main").get_by_role("link", name="Gear").click()
    expect(page.get_by_role("region", name="Stations")).to_be_visible()


def test_incidents_and_people_show_on_the_strip(page: Page, server: Server) -> None:
    page.goto(f"{server.address}{AT}/panel")
    mark(page, "Range", "keep")
    saved(page)
    page.goto(f"{server.address}{AT}/outage")
    unfold(page, "People, weather, sun, utility and incidents")
    page.get_by_role("button", name="Add an incident", exact=True).click()
    expect(page.get_by_test_id("events")).to_contain_text("The cord comes out")
    page.get_by_label("what", exact=True).select_option("door_open")
    expect(page.get_by_test_id("events")).to_contain_text("door left open")
    page.get_by_label("too much is shed").select_option("none")
    page.get_by_label("6 kW station turns itself off when idle").check()
    page.get_by_role("button", name="Add hours away", exact=True).click()
    page.get_by_label("Garage outlets").check()
    saved(page)
    page.reload()
    expect(page.get_by_label("too much is shed")).to_have_value("none")
    expect(page.get_by_test_id("events")).to_contain_text("% of what is allowed, leg A")
    expect(page.get_by_test_id("events")).to_contain_text("6 kW station trips: everything it feeds is dark")


#: Colours are the same at every width: the dark is looked at in this one.
WIDE = 1280


@pytest.mark.parametrize("size", [(WIDE, 800), (390, 844)])
def test_axe_finds_nothing_serious(browser: Browser, server: Server, size: tuple[int, int]) -> None:
    """Every rule by day; in the dark, where only the colours are others, what colours decide, once."""
    context = browser.new_context(
        color_scheme="light", reduced_motion="reduce", viewport={"width": size[0], "height": size[1]}
    )
    page = context.new_page()
    duplex = "/plans/canal-side-duplex"
    screens = ("needs", "panel", "gear", "feed", "checks", "outage", "runbook", "log", "history")
    paths = [f"{AT}/{name}" for name in screens]
    panel = f"{AT}/runbook?sheet=change-over/inlet&at=panel"
    for path in (*paths, panel, f"{duplex}/panel", f"{duplex}/outage", "/plans", "/begin", "/guide/panel"):
        page.goto(f"{server.address}{path}")
        page.wait_for_load_state("networkidle")
        for summary in page.locator("#work summary").all():
            summary.click()
        for assumed in page.get_by_test_id("assumed").all():
            assumed.locator("summary").press("Enter")
        assert not grave(page), path
        if size[0] == WIDE:
            page.emulate_media(color_scheme="dark")
            assert not grave(page, *COLOURS), f"{path} in the dark"
            page.emulate_media(color_scheme="light")
    context.close()
