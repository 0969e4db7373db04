"""The runbook while the server is away, and the pocket file from a disk: nothing is lost or counts twice."""

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from axe_playwright_python.sync_playwright import Axe
from folds import unfold
from playwright.sync_api import Browser, Page, expect
from serving import Server


@pytest.fixture(params=[(1280, 800), (390, 844)], ids=["wide", "phone"])
def kept(browser: Browser, request: pytest.FixtureRequest) -> Iterator[Page]:
    """A page whose browser may keep screens."""
    width, height = request.param
    context = browser.new_context(
        viewport={"width": width, "height": height}, reduced_motion="reduce", service_workers="allow"
    )
    yield context.new_page()
    context.close()


def tick(page: Page, until: str) -> None:
    page.wait_for_timeout(500)
    page.get_by_test_id("at-panel").get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_test_id("at-panel")).to_contain_text(until)


def test_the_served_page_goes_on_when_the_server_is_away(kept: Page, server: Server) -> None:
    address = f"{server.address}/plans/foothill-house/runbook?sheet=change-over/inlet"
    kept.goto(address)
    expect(kept.get_by_test_id("kept-here")).to_contain_text("This device keeps these sheets")
    port = server.address.rsplit(":", 1)[1].strip("/")
    server.stop()
    kept.goto(f"{address}&at=panel")
    panel = kept.get_by_test_id("at-panel")
    expect(panel).to_contain_text("Step 1 of ")
    expect(panel.get_by_test_id("away")).to_contain_text("The server does not answer.")
    tick(kept, "Step 2 of ")
    tick(kept, "Step 3 of ")
    panel.get_by_role("button", name="Back one step").click()
    expect(panel.get_by_test_id("away")).to_contain_text("3 rows wait here and are sent when it is back")
    kept.reload()
    panel.get_by_role("button", name="Go on").click()
    expect(panel).to_contain_text("Step 2 of ")
    expect(panel.get_by_test_id("away")).to_contain_text("3 rows wait here")
    server.start(int(port))
    expect(panel.get_by_test_id("away")).to_have_text("")
    panel.get_by_role("button", name="Hold").click()
    done = kept.get_by_role("region", name="What was done").get_by_role("list", name="Record")
    expect(done.get_by_role("listitem")).to_have_count(2)
    expect(done.get_by_role("listitem").last).to_contain_text("taken back")
    rows = kept.request.get(f"{server.address}/api/plans/foothill-house/record").json()["rows"]
    assert [row["kind"] for row in rows] == ["done", "done", "undone"]
    assert all(row["at"] < row["entered_at"] for row in rows)


def pocket_of(page: Page, server: Server, folder: Path) -> str:
    answer = page.request.get(f"{server.address}/api/plans/foothill-house/pocket.html")
    file = folder / "pocket.html"
    file.write_bytes(answer.body())
    return file.as_uri()


def record_in(page: Page) -> dict[str, Any]:
    with page.expect_download() as saved:
        page.get_by_role("button", name="Save the record").click()
    found: dict[str, Any] = json.loads(saved.value.path().read_text())
    return found


def test_a_pocket_file_from_a_disk_gives_its_record_back(kept: Page, server: Server, tmp_path: Path) -> None:
    asked: list[str] = []
    address = pocket_of(kept, server, tmp_path)
    kept.on("request", lambda request: asked.append(request.url))
    kept.goto(address)
    sheets = kept.get_by_role("navigation", name="Sheets")
    sheets.get_by_role("button", name="6 kW station to Main panel").nth(1).click()
    expect(kept.get_by_test_id("sheet")).to_contain_text("Turn the main of Main panel off")
    kept.get_by_role("button", name="Go through it at the panel").click()
    tick(kept, "Step 2 of ")
    tick(kept, "Step 3 of ")
    kept.reload()
    kept.get_by_role("button", name="Go through it at the panel").click()
    kept.get_by_test_id("at-panel").get_by_role("button", name="Go on").click()
    expect(kept.get_by_test_id("at-panel")).to_contain_text("Step 3 of ")
    kept.get_by_test_id("at-panel").get_by_role("button", name="Hold").click()
    given = record_in(kept)
    assert not [url for url in asked if url.startswith("http")]
    assert [row["step"] for row in given["rows"]] == [1, 2]
    for palette in ("Night colours", "Day colours"):
        kept.get_by_role("button", name=palette).click()
        found = Axe().run(kept)
        serious = [v["id"] for v in found.response["violations"] if v["impact"] in ("serious", "critical")]
        assert serious == []
    kept.goto(f"{server.address}/plans/foothill-house/runbook")
    region = kept.get_by_role("region", name="What was done")
    unfold(region, "Take in the record of a pocket file")
    region.get_by_label("Text of a record").fill(json.dumps(given))
    region.get_by_role("button", name="Take it in").click()
    expect(region).to_contain_text("2 new rows were taken in.")
    expect(region.get_by_role("list", name="Record").get_by_role("listitem")).to_have_count(2)
    file = tmp_path / "record.json"
    file.write_text(json.dumps(given))
    region.get_by_label("Record of a pocket file").set_input_files(file)
    expect(region).to_contain_text("All of it was known already.")
    region.get_by_label("Text of a record").fill(json.dumps({**given, "plan_id": "lake"}))
    region.get_by_role("button", name="Take it in").click()
    expect(region.get_by_role("alert")).to_contain_text("a record of this plan, foothill-house")


def test_schools_change_the_sheet_and_say_where_they_cannot(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/runbook?sheet=change-over/inlet")
    sheet = page.get_by_test_id("sheet")
    steps = sheet.locator("ol > li")
    expect(steps.nth(2)).to_contain_text("Turn off every branch breaker of Main panel")
    unfold(sheet, "Schools: what is off before")
    sheet.get_by_label("off before").select_option("large")
    expect(steps.nth(2)).to_contain_text("Only these stay on: ")
    sheet.get_by_label("off before").select_option("none")
    expect(sheet).to_contain_text("What would come on at once is more than the source carries")
    expect(steps.nth(8)).to_contain_text("Turn its output on")
    sheet.get_by_label("output on").select_option("after")
    expect(steps.nth(8)).to_contain_text("Close the feed breaker")
    expect(steps.nth(8)).to_contain_text("Nothing yet: the source is still off")


def test_papers_are_there_to_be_taken(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/runbook")
    papers = page.get_by_role("navigation", name="Paper and files")
    for link in papers.get_by_role("link").all():
        with page.expect_download() as saved:
            link.click()
        assert saved.value.suggested_filename.startswith("foothill-house-")
        assert saved.value.path().stat().st_size > 1_000
