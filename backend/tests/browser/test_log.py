"""The log in the browser: begun, typed as people say it, corrected; the forecast follows."""

import re

from accessibility import grave
from playwright.sync_api import Page, expect
from serving import Server


def test_a_log_of_an_outage(page: Page, server: Server) -> None:
    made = page.request.post(f"{server.address}/api/plans", data={"name": "Storm", "begin": "foothill"})
    page.goto(f"{server.address}/plans/{made.json()['id']}/log")
    page.get_by_role("button", name="The power is out: begin a log now").click()
    line = page.get_by_label("What do you read, or what was done?")
    line.fill("64")
    heard = page.get_by_test_id("heard")
    expect(heard).to_contain_text("which")
    expect(page.get_by_role("button", name="Add to the log")).to_be_disabled()
    line.fill("main 64, pack 68")
    expect(heard).to_contain_text("64 %")
    line.press("Enter")
    rows = page.get_by_role("list", name="Rows of the log").get_by_role("listitem")
    expect(rows).to_have_count(2)
    expect(page.get_by_test_id("forecast-sentence")).to_contain_text("Lasts", timeout=60_000)
    expect(page.get_by_role("region", name="Forecast")).to_contain_text("by what was read")
    line.fill("fridge off")
    page.get_by_role("button", name="Add to the log").click()
    expect(rows).to_have_count(3)
    fridge = rows.filter(has_text=re.compile("off"))
    fridge.get_by_role("button", name="Correct").click()
    expect(page.get_by_text("In place of")).to_be_visible()
    line.fill("freezer off")
    line.press("Enter")
    expect(rows).to_have_count(4)
    expect(page.locator(".line-through")).to_have_count(1)
    page.get_by_role("button", name="Learn from the readings").click()
    expect(page.get_by_test_id("lesson")).to_contain_text("readings", timeout=60_000)
    assert grave(page) == []
