"""The table of breakers on the screen: pasted, changed by keys, mended, taken over, out and in as files."""

import io
from pathlib import Path

from accessibility import grave
from openpyxl import load_workbook
from playwright.sync_api import Page, expect
from serving import Server

TABLE = "/plans/foothill-house/panel?as=table"


def test_lines_are_laid_over_what_is_there_mended_and_taken_over(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/panel")
    page.get_by_role("button", name="Paste or edit as a table").click()
    grid = page.get_by_role("grid", name="Breakers")
    expect(grid.get_by_role("gridcell", name="label, row 1: Kitchen refrigerator")).to_be_visible()
    take = page.get_by_role("button", name="Take the table over")
    expect(take).to_be_disabled()
    lines = ("26 28 garage feeder 60A 6 AWG feeds garage sub-panel", "1 bench on garage sub-panel 20A")
    page.get_by_label("Paste lines").fill("\n".join((*lines, "cellar light 15A")))
    page.get_by_role("button", name="Lay them into the table").click()
    changes = page.get_by_test_id("table-changes")
    expect(changes).to_contain_text("Garage sub-panel is new, fed from breaker 26 28")
    expect(changes).to_contain_text("2 breakers added: garage feeder, bench")
    expect(changes).to_contain_text("1 thing to be mended")
    expect(take).to_be_disabled()
    assert grave(page) == []
    changes.get_by_role("button", name="row").click()
    page.keyboard.type("30")
    page.keyboard.press("Enter")
    expect(changes).to_contain_text("3 breakers added")
    expect(take).to_be_enabled()
    take.click()
    expect(changes).to_contain_text("stands in the plan as it is")
    page.get_by_role("button", name="Back to the drawing").click()
    expect(page.get_by_role("region", name="Garage sub-panel")).to_be_visible()
    expect(page.get_by_role("button", name="Breaker 30, cellar light")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="Breaker 30, cellar light")).to_have_count(0)


def test_cells_by_keyboard_alone(page: Page, server: Server) -> None:
    """Moved over, typed into, filled down, pasted into, taken back; a load by its amps at the clamp."""
    page.goto(f"{server.address}{TABLE}")
    grid = page.get_by_role("grid", name="Breakers")
    first = grid.get_by_role("gridcell", name="space, row 1: 1")
    first.focus()
    for key in ("ArrowRight", "ArrowRight", "ArrowRight"):
        page.keyboard.press(key)
    expect(grid.get_by_role("gridcell", name="mark, row 1: keep")).to_be_focused()
    page.keyboard.type("off")
    page.keyboard.press("Enter")
    expect(grid.get_by_role("gridcell", name="mark, row 2: keep")).to_be_focused()
    page.keyboard.press("ArrowUp")
    page.keyboard.press("Shift+ArrowDown")
    page.keyboard.press("Shift+ArrowDown")
    page.keyboard.press("Control+d")
    for row in (1, 2, 3):
        expect(grid.get_by_role("gridcell", name=f"mark, row {row}: off")).to_be_visible()
    changes = page.get_by_test_id("table-changes")
    expect(changes).to_contain_text("3 breakers changed")
    page.keyboard.press("Control+z")
    expect(grid.get_by_role("gridcell", name="mark, row 2: keep")).to_be_visible()
    expect(changes).to_contain_text("1 breaker changed: Kitchen refrigerator")
    page.evaluate(
        """() => {
            const data = new DataTransfer();
            data.setData("text/plain", "room\\tfridge\\nlots");
            document.activeElement.dispatchEvent(
                new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
        }"""
    )
    expect(grid.get_by_role("gridcell", name="mark, row 1: room")).to_be_visible()
    expect(grid.get_by_role("gridcell", name="mark, row 2: lots, to be mended")).to_be_visible()
    expect(grid).to_contain_text('mark: got "lots"; keep, room or off')
    page.keyboard.press("Control+z")
    page.get_by_role("link", name="Needs", exact=True).click()
    expect(page.get_by_test_id("needs-summary")).to_be_visible()
    page.goto(f"{server.address}{TABLE}")
    expect(changes).to_contain_text("1 breaker changed: Kitchen refrigerator")
    grid.get_by_role("gridcell", name="label, row 2: Gas furnace").focus()
    page.keyboard.press("Control+Delete")
    expect(changes).to_contain_text("1 breaker taken out: Gas furnace")
    expect(changes).to_contain_text("1 load taken out: gas furnace blower")
    page.get_by_role("button", name="Undo in the table").click()
    clamp = grid.get_by_role("gridcell", name="clamp, A, row 1: empty")
    clamp.focus()
    page.keyboard.type("1.5")
    page.keyboard.press("Escape")
    expect(clamp).to_be_focused()
    page.keyboard.type("2")
    page.keyboard.press("Tab")
    expect(changes).to_contain_text("1 load changed: refrigerator")
    page.get_by_role("button", name="Take the table over").click()
    expect(changes).to_contain_text("stands in the plan as it is")
    pf = page.request.get(f"{server.address}/api/plans/foothill-house").json()["plan"]["loads"]
    fridge = next(item for item in pf.values() if item["name"] == "refrigerator")
    assert abs(fridge["behaviour"]["on_w"] - 2 * 120 * fridge["power_factor"]) < 1e-6


def test_a_spreadsheet_goes_out_is_changed_and_comes_back(page: Page, server: Server, tmp_path: Path) -> None:
    page.goto(f"{server.address}{TABLE}")
    with page.expect_download() as got:
        page.get_by_role("link", name="Save as spreadsheet").click()
    book = load_workbook(io.BytesIO(got.value.path().read_bytes()))
    sheet = book.worksheets[0]
    column = [cell.value for cell in sheet[1]].index("label") + 1
    sheet.cell(2, column).value = "Kitchen cold"
    changed = tmp_path / "changed.xlsx"
    book.save(changed)
    page.get_by_label("File with breakers").set_input_files(changed)
    expect(page.get_by_test_id("table-changes")).to_contain_text("1 breaker changed: Kitchen cold")
    page.get_by_role("button", name="Take the table over").click()
    expect(page.get_by_test_id("table-changes")).to_contain_text("stands in the plan as it is")
    with page.expect_download() as got:
        page.get_by_role("link", name="Save as CSV").click()
    assert "Kitchen cold" in got.value.path().read_text()
    broken = tmp_path / "broken.xlsx"
    broken.write_bytes(b"PK no spreadsheet")
    page.get_by_label("File with breakers").set_input_files(broken)
    expect(page.get_by_role("alert")).to_contain_text("spreadsheet (.xlsx) or a CSV")
