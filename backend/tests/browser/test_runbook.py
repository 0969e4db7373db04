"""The sheets on the screen: chosen, read, held back, and still there where something is wrong."""

import pytest
from playwright.sync_api import Page, expect
from serving import Server


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)])
def test_sheets_are_chosen_and_read(page: Page, server: Server, size: tuple[int, int]) -> None:
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto(f"{server.address}/plans/foothill-house/panel")
    page.get_by_role("link", name="Runbook").click()
    sheet = page.get_by_test_id("sheet")
    expect(sheet).to_have_accessible_name("Change over: 6 kW station to Main panel")
    steps = sheet.locator("ol > li")
    expect(steps.nth(3)).to_contain_text("Turn the main of Main panel off")
    expect(steps.nth(4)).to_contain_text("Slide the interlock over")
    expect(sheet).to_contain_text("leg A to neutral: 114 to 126 V")
    sheets = page.get_by_role("navigation", name="Sheets")
    sheets.get_by_role("button").last.click()
    expect(sheet).to_have_accessible_name("Something is wrong: 6 kW station to Main panel")
    page.reload()
    expect(sheet).to_have_accessible_name("Something is wrong: 6 kW station to Main panel")
    for button in sheets.get_by_role("button").all():
        box = button.bounding_box()
        assert box is not None
        assert box["height"] >= 44
    with page.expect_download() as saved:
        sheet.get_by_role("link", name="On paper").click()
    assert saved.value.suggested_filename == "foothill-house-sheets.pdf"


def test_a_danger_holds_back_what_energises(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/feed")
    page.get_by_label("transfer switches the neutral").select_option("yes")
    expect(page.get_by_test_id("counts")).to_contain_text("do not energise")
    page.get_by_role("link", name="Runbook").click()
    sheet = page.get_by_test_id("sheet")
    expect(sheet.get_by_role("alert")).to_contain_text("This sheet is held back: do not energise.")
    expect(sheet.get_by_role("alert")).to_contain_text("No fault path")
    expect(sheet.locator("ol > li")).to_have_count(0)
    sheets = page.get_by_role("navigation", name="Sheets")
    expect(sheets.get_by_text("held back")).to_have_count(3)
    sheets.get_by_role("button").last.click()
    expect(sheet.locator("ol > li").first).to_contain_text("Someone is shocked")


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)])
def test_one_step_at_a_time_at_the_panel(page: Page, server: Server, size: tuple[int, int]) -> None:
    """Ticks, readings against what is expected, back, hold, and on where one was after coming back."""
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto(f"{server.address}/plans/foothill-house/runbook?sheet=change-over/inlet")
    page.get_by_role("button", name="Go through it at the panel").click()
    panel = page.get_by_test_id("at-panel")
    done = panel.get_by_role("button", name="Done", exact=True)
    for button in panel.get_by_role("button").all():
        box = button.bounding_box()
        assert box is not None
        assert box["height"] >= 44
    for number in range(1, 11):
        expect(panel).to_contain_text(f"Step {number} of ")
        page.wait_for_timeout(500)
        done.evaluate("button => { button.click(); button.click(); }")
    expect(panel).to_contain_text("Read the volts")
    volts = panel.get_by_label("leg A to neutral read")
    volts.fill("138")
    expect(panel.get_by_role("alert")).to_contain_text("114 to 126 V on leg A to neutral expected, 138 read")
    volts.fill("90")
    expect(panel.get_by_role("alert")).to_contain_text("90 read: stop: output off")
    volts.fill("120")
    expect(panel.get_by_role("alert")).to_have_count(0)
    page.wait_for_timeout(500)
    done.click()
    expect(panel.get_by_role("list", name="Done")).to_contain_text("leg A to neutral: 120")
    panel.get_by_role("button", name="Hold").click()
    page.goto(f"{server.address}/plans")
    page.goto(f"{server.address}/plans/foothill-house/runbook?sheet=change-over/inlet&at=panel")
    expect(panel).to_contain_text("Step 12 of ")
    panel.get_by_role("button", name="Back one step").click()
    expect(panel).to_contain_text("Step 11 of ")
    for step in ("Have a lamp on", "Turn on Well pump"):
        page.wait_for_timeout(500)
        done.click()
        expect(panel).to_contain_text(step)
    panel.get_by_label("leg A read").fill("1450")
    expect(panel.get_by_role("alert")).to_contain_text("something else is on; most likely Laundry")
    panel.get_by_role("button", name="Begin again").click()
    expect(panel).to_contain_text("Turn on Well pump")
    panel.get_by_role("button", name="Yes, forget all ticks").click()
    expect(panel).to_contain_text("Step 1 of ")


def test_a_step_that_has_to_wait_counts_down(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/runbook?sheet=return/inlet&at=panel")
    panel = page.get_by_test_id("at-panel")
    expect(panel.get_by_role("timer")).to_contain_text("Wait 9:")
    page.wait_for_timeout(500)
    panel.get_by_role("button", name="It has waited already: done").click()
    expect(panel.get_by_role("timer")).to_have_count(0)
    expect(panel).to_contain_text("Turn off what heats")
    page.request.patch(
        f"{server.address}/api/plans/foothill-house",
        data={"loads": {"internet": {"behaviour": {"watts": 21.0}}}},
        headers={"If-Match": '"1"'},
    )
    page.reload()
    expect(panel.get_by_role("alert")).to_contain_text("The plan was changed after this was begun")
