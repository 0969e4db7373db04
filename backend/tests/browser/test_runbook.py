"""The sheets on the screen: chosen, read, held back, and still there where something is wrong."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect
from recorded import recorded
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
    sheets.get_by_role("button").first.click()
    expect(sheet).to_have_accessible_name("Something is wrong: 6 kW station to Main panel")
    expect(sheet).to_contain_text("Then only that, and nothing after it.")
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
    sheets.get_by_role("button").first.click()
    expect(sheet).to_contain_text("Someone is held by the current, or was shocked")


def at_panel(page: Page, server: Server, sheet: str) -> Locator:
    page.goto(f"{server.address}/plans/foothill-house/runbook?sheet={sheet}&at=panel")
    return page.get_by_test_id("at-panel")


def go_through(page: Page, steps: int) -> None:
    """So many steps as written: a second tap at once is none, so each waits."""
    panel = page.get_by_test_id("at-panel")
    expect(panel).to_contain_text("Step ")
    for _ in range(steps):
        page.wait_for_timeout(450)
        panel.get_by_role("button", name=re.compile("^(Done|It has waited already: done)$")).click()


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)])
def test_one_step_at_a_time_at_the_panel(page: Page, server: Server, size: tuple[int, int]) -> None:
    """Ticks, readings against what is expected, back, hold; coming back asks before it goes on."""
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto(f"{server.address}/plans/foothill-house/runbook?sheet=change-over/inlet")
    page.get_by_role("button", name="Go through it at the panel").click()
    panel = page.get_by_test_id("at-panel")
    done = panel.get_by_role("button", name="Done", exact=True)
    expect(panel).to_contain_text("Local code, and the instructions of panel")
    for button in panel.get_by_role("button").all():
        box = button.bounding_box()
        assert box is not None
        assert box["height"] >= 44
    for number in range(1, 12):
        expect(panel).to_contain_text(f"Step {number} of ")
        page.wait_for_timeout(500)
        done.evaluate("button => { button.click(); button.click(); }")
    expect(panel).to_contain_text("Read the volts")
    volts = panel.get_by_label("leg A to neutral read")
    volts.fill("138")
    expect(panel.get_by_role("alert")).to_contain_text("114 to 126 V on leg A to neutral expected, 138 read")
    volts.fill("120")
    expect(panel.get_by_role("alert")).to_have_count(0)
    page.wait_for_timeout(500)
    done.click()
    expect(panel.get_by_role("list", name="Done")).to_contain_text("leg A to neutral: 120")
    panel.get_by_role("button", name="Leave for now").click()
    page.goto(f"{server.address}/plans")
    at_panel(page, server, "change-over/inlet")
    expect(panel.get_by_test_id("begun-before")).to_contain_text("12 of ")
    panel.get_by_role("button", name="Go on").click()
    expect(panel).to_contain_text("Step 13 of ")
    panel.get_by_role("button", name="Back one step").click()
    expect(panel).to_contain_text("Step 12 of ")
    for step in ("Turn on Hall", "Turn on Lights downstairs", "Have a lamp on", "Turn on Well pump"):
        page.wait_for_timeout(500)
        done.click()
        expect(panel).to_contain_text(step)
    panel.get_by_label("leg A, on a meter read").fill("1450")
    expect(panel.get_by_role("alert")).to_contain_text("something else is on; most likely Laundry")
    panel.get_by_role("button", name="Begin again").click()
    expect(panel).to_contain_text("Turn on Well pump")
    panel.get_by_role("button", name="Yes, from the first step").click()
    expect(panel).to_contain_text("Step 1 of ")


def test_a_reading_that_does_not_fit_holds_the_step(page: Page, server: Server) -> None:
    """Done gives way: read again, or it is so, with what it means and where it leads; each has its mark."""
    panel = at_panel(page, server, "change-over/inlet")
    go_through(page, 11)
    volts = panel.get_by_label("leg A to neutral read")
    volts.fill("96")
    expect(panel.get_by_role("button", name="Done", exact=True)).to_have_count(0)
    panel.get_by_role("button", name="Read again").click()
    expect(volts).to_have_value("")
    volts.fill("96")
    panel.get_by_role("button", name="It is so").click()
    told = panel.get_by_test_id("not-so")
    expect(told).to_contain_text("96 read: stop: output off")
    expect(told.get_by_role("button", name="Stop: something is wrong")).to_be_visible()
    page.wait_for_timeout(450)
    told.get_by_role("button", name="Go on, it is known why").click()
    expect(panel).to_contain_text("Step 13 of ")
    page.wait_for_timeout(450)
    panel.get_by_role("button", name="Left off").click()
    rows = recorded(page, server, lambda rows: bool(rows) and rows[-1]["kind"] == "left_off")
    assert [row["kind"] for row in rows[-2:]] == ["deviates", "left_off"]
    assert {len(row["fingerprint"]) for row in rows} == {12}
    panel.get_by_role("button", name="Something is wrong").click()
    expect(panel).to_contain_text("What is it?")
    panel.get_by_role("button", name="A carbon-monoxide alarm sounds").click()
    expect(panel).to_contain_text("Stop small inverter generator at once if it can be reached in fresh air")
    expect(panel).to_contain_text("Nothing after that.")
    expect(panel.get_by_role("button", name="Done", exact=True)).to_have_count(0)


def test_trips_are_counted_and_lead_to_what_is_done_after_them(page: Page, server: Server) -> None:
    panel = at_panel(page, server, "change-over/inlet")
    go_through(page, 1)
    for _ in range(2):
        panel.get_by_role("button", name="It tripped").click()
        expect(page).to_have_url(re.compile("sheet=recover"))
        expect(panel).to_contain_text("Do not reset yet")
        at_panel(page, server, "change-over/inlet")
        panel.get_by_role("button", name="Go on").click()
    at_panel(page, server, "recover/inlet")
    expect(panel.get_by_role("alert").first).to_contain_text("It tripped 2 times. Never a third reset")


def test_a_finished_return_ends_the_change_over(page: Page, server: Server) -> None:
    panel = at_panel(page, server, "change-over/inlet")
    go_through(page, 3)
    at_panel(page, server, "return/inlet")
    steps = int((panel.get_by_text(re.compile("^Step 1 of ")).text_content() or "").split(" ")[3].strip(","))
    go_through(page, steps)
    ended = panel.get_by_test_id("ended")
    expect(ended).to_contain_text(f"All {steps} steps are gone through.")
    expect(ended).to_contain_text("readings were not taken")
    expect(ended).to_contain_text("the next one begins at its first step")
    at_panel(page, server, "change-over/inlet")
    expect(panel).to_contain_text("Step 1 of ")
    expect(panel.get_by_test_id("begun-before")).to_have_count(0)


def test_a_step_that_has_to_wait_counts_down(page: Page, server: Server) -> None:
    panel = at_panel(page, server, "return/inlet")
    expect(panel.get_by_role("timer")).to_contain_text("Wait 9:")
    go_through(page, 1)
    expect(panel.get_by_role("timer")).to_have_count(0)
    expect(panel).to_contain_text("Turn off what heats")
    page.request.patch(
        f"{server.address}/api/plans/foothill-house",
        data={"loads": {"internet": {"behaviour": {"watts": 21.0}}}},
        headers={"If-Match": '"1"'},
    )
    page.reload()
    before = panel.get_by_test_id("begun-before")
    expect(before).to_contain_text("of another sheet (revision 1)")
    expect(before.get_by_role("button", name="Go on")).to_have_count(0)
    before.get_by_role("button", name="Begin at the first step").click()
    expect(panel).to_contain_text("Step 1 of ")


@pytest.mark.parametrize("size", [(1280, 800), (390, 844)])
def test_a_search_is_gone_through_by_what_is_seen_and_read(
    page: Page, server: Server, size: tuple[int, int]
) -> None:
    """A reading picks its answer; the end says the cause and what to do; back and begin again; the record."""
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto(f"{server.address}/plans/foothill-house/runbook")
    sheets = page.get_by_role("navigation", name="Sheets")
    sheets.get_by_text(re.compile("^It does not work: find out why")).click()
    sheets.get_by_role("button", name="Nothing on one leg: 6 kW station to Main panel").click()
    sheet = page.get_by_test_id("sheet")
    expect(sheet.get_by_role("list", name="Answers of step 1")).to_contain_text("60 V or more: go to 2")
    page.get_by_role("button", name="Go through it at the panel").click()
    panel = page.get_by_test_id("at-panel")
    read = panel.get_by_label("the lower leg to neutral at the source read")
    read.fill("no")
    expect(panel.get_by_role("alert")).to_contain_text("“no” is no number.")
    read.fill("118")
    expect(panel.get_by_role("button", name="Under 60 V")).to_be_disabled()
    panel.get_by_role("button", name="60 V or more").click()
    expect(panel).to_contain_text("Look 2, at Main panel")
    panel.get_by_role("button", name="One half does not stay on").click()
    end = panel.get_by_test_id("search-end")
    expect(end).to_contain_text("Stop here.")
    expect(end).to_contain_text("a licensed electrician looks before anything is turned on again")
    panel.get_by_role("button", name="Back one step").click()
    panel.get_by_role("button", name="Both are on, and the leg is there").click()
    expect(end).to_contain_text("A pole was not all the way on.")
    expect(end.get_by_text("Stop here.")).to_have_count(0)
    panel.get_by_role("button", name="Leave for now").click()
    done = page.get_by_role("list", name="Record")
    expect(done).to_contain_text("60 V or more · the lower leg to neutral at the source: 118")
    expect(done).to_contain_text("taken back")
    expect(done).to_contain_text("Both are on, and the leg is there. A pole was not all the way on")


def test_steps_of_many_circuits_stand_in_one_list(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/runbook?sheet=change-over/inlet")
    lines = page.get_by_test_id("sheet").get_by_role("table", name="Turn on one at a time, from step 16")
    expect(lines.get_by_role("row")).to_have_count(13)
    expect(lines).to_contain_text("output of 6 kW station, on its display")
    expect(lines.get_by_role("row").nth(1)).to_contain_text("Well pump0 to 1,634 W, in the run 1,161")
    expect(page.get_by_test_id("sheet").get_by_text("Why", exact=True)).to_have_count(10)


def test_two_windows_go_through_one_sheet(page: Page, server: Server) -> None:
    """Neither counts for the other by itself; each says how far the other is."""
    first = at_panel(page, server, "return/inlet")
    other = page.context.new_page()
    second = at_panel(other, server, "return/inlet")
    expect(second).to_contain_text("Step 1 of ")
    go_through(page, 3)
    told = second.get_by_role("alert")
    expect(told).to_contain_text("Another window goes through this sheet, too: 3 of ")
    expect(second).to_contain_text("Step 1 of ")
    told.get_by_role("button", name="Go on from there").click()
    expect(second).to_contain_text("Step 4 of ")
    go_through(other, 1)
    expect(first.get_by_role("alert")).to_contain_text("4 of ")
    rows = recorded(page, server, 4)
    assert [row["step"] for row in rows] == [1, 2, 3, 4]
    other.close()
