"""The sheets on the screen: chosen, read, held back, and still there where something is wrong."""

import pytest
from conftest import Server
from playwright.sync_api import Page, expect


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
    expect(sheets.get_by_text("held back")).to_have_count(2)
    sheets.get_by_role("button").last.click()
    expect(sheet.locator("ol > li").first).to_contain_text("Someone is shocked")
