"""A plan that cannot be opened or run is told and mended; a name of one word never widens a page."""

import json
import re
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect
from serving import Server
from sqlalchemy import create_engine, text

from weary_cedar.demo import demo_plan
from weary_cedar.store.database import FILE_NAME

SCREENS = ("needs", "panel", "gear", "feed", "checks", "outage", "runbook", "log", "practise", "history")


def change_stored(server: Server, *places: tuple[str, Any]) -> None:
    """Write into a stored plan what the rules of today refuse."""
    server.stop()
    engine = create_engine(f"sqlite:///{server.data / FILE_NAME}")
    with engine.begin() as connection:
        for place, value in places:
            connection.execute(
                text("UPDATE revisions SET document = json_set(document, :at, json(:to)) WHERE number = 2"),
                {"at": place, "to": json.dumps(value)},
            )
    engine.dispose()
    server.start()


def test_a_start_of_nothing_is_told_where_it_is_typed(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/needs")
    page.get_by_role("button", name="refrigerator", exact=True).click()
    start = page.get_by_label("start", exact=True)
    start.fill("0")
    start.press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("a start of nothing is none: leave it out")
    page.reload()
    expect(page.get_by_test_id("verdict-sentence")).to_contain_text("the whole 4 days")


def test_a_plan_that_cannot_be_opened_is_mended_in_the_browser(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/panel")
    page.get_by_role("radiogroup", name="Mark of Bathroom").get_by_role("radio", name="keep").click()
    expect(page.get_by_test_id("saved")).to_contain_text("Saved")
    change_stored(server, ("$.loads.fridge.start.va", 0.0))
    page.goto(f"{server.address}/")
    expect(page.get_by_role("heading", name="This plan cannot be opened")).to_be_visible()
    expect(page.get_by_role("alert")).to_contain_text("fridge, start, VA: got 0.0; should be from 1")
    expect(page.get_by_test_id("history")).to_contain_text("Bathroom: mark off → keep")
    expect(page.get_by_test_id("kept")).to_contain_text("2 revisions kept")
    expect(page.get_by_label("Palette")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="Export it as it is").click()
    assert json.loads(download.value.path().read_text("utf-8"))["loads"]["fridge"]["start"]["va"] == 0.0
    page.get_by_role("link", name="all plans").click()
    page.get_by_role("link", name="Canal-side duplex", exact=True).click()
    expect(page.get_by_test_id("verdict")).to_be_visible()
    page.goto(f"{server.address}/plans/foothill-house/panel")
    page.get_by_role("button", name="Undo the last edit").click()
    expect(page.get_by_test_id("verdict-sentence")).to_contain_text("the whole 4 days")


def test_a_plan_that_cannot_be_run_says_so_on_every_screen(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/panel")
    page.get_by_role("radiogroup", name="Mark of Bathroom").get_by_role("radio", name="keep").click()
    expect(page.get_by_test_id("saved")).to_contain_text("Saved")
    endless = {"kind": "cycling", "on_w": 9.0, "duty": 0.5, "period_s": 10.0}
    place = "$.loads.fridge.behaviour"
    change_stored(
        server, (place, endless), ("$.outage.length_s", 2_678_400.0), ("$.stations.station.cell_wh", 9e5)
    )
    for screen in SCREENS:
        page.goto(f"{server.address}/plans/foothill-house/{screen}")
        expect(page.get_by_test_id("verdict")).to_contain_text("Cannot judge yet")
        expect(page.get_by_role("alert").first).to_contain_text("Not everything could be worked out")
        expect(page.get_by_role("alert").first).to_contain_text(
            re.compile(r"[\d,]+ of the changes are of refrigerator")
        )
    page.goto(f"{server.address}/plans/foothill-house/outage")
    page.get_by_label("lasts", exact=True).fill("48")
    page.get_by_label("lasts", exact=True).press("Enter")
    expect(page.get_by_test_id("verdict")).not_to_contain_text("Cannot judge")
    expect(page.get_by_text("Not everything could be worked out")).to_have_count(0)


def test_what_the_server_has_not_taken_is_kept_and_sent_again(page: Page, server: Server) -> None:
    """Away at the first edit, then back; and a page that is loaded anew while edits are on their way."""
    page.goto(f"{server.address}/plans/foothill-house/checks")
    note, saved = page.get_by_label("local rules that apply"), page.get_by_test_id("saved")
    expect(note).to_be_visible()
    page.route("**/api/plans/foothill-house", lambda route: route.abort())
    note.fill("2023 as adopted here")
    note.blur()
    expect(saved).to_contain_text("Not saved yet: the server does not answer. Kept here")
    page.unroute("**/api/plans/foothill-house")
    expect(saved).to_contain_text(re.compile("^Saved"))
    patches = re.compile("/api/plans/foothill-house$")
    page.route(patches, lambda route: None if route.request.method == "PATCH" else route.continue_())
    note.fill("2026 from January")
    note.blur()
    page.get_by_role("link", name="Panel", exact=True).click()
    bathroom = page.get_by_role("radiogroup", name="Mark of Bathroom")
    bathroom.get_by_role("radio", name="keep").click()
    page.unroute(patches)
    page.reload()
    expect(bathroom.get_by_role("radio", name="keep")).to_be_checked()
    expect(saved).to_contain_text(re.compile("^Saved"))
    page.get_by_role("link", name="Checks", exact=True).click()
    expect(note).to_have_value("2026 from January")
    page.evaluate("sessionStorage.clear()")
    page.reload()
    expect(note).to_have_value("2026 from January")
    expect(page.get_by_text("Someone else saved")).to_have_count(0)


def with_long_words(value: Any, key: str = "") -> Any:
    if isinstance(value, dict):
        return {name: with_long_words(inner, name) for name, inner in value.items()}
    if isinstance(value, list):
        return [with_long_words(inner) for inner in value]
    return "W" * 80 if key in ("name", "label") else value


@pytest.mark.parametrize("width", [1280, 390])
def test_an_unbroken_word_does_not_widen_a_page(browser: Browser, server: Server, width: int) -> None:
    page = browser.new_page(viewport={"width": width, "height": 844})
    document = with_long_words(demo_plan("hut").model_dump(mode="json", exclude_none=True))
    document["site"]["code_note"] = "W" * 500
    content = {"name": "plan.json", "mimeType": "application/json", "buffer": json.dumps(document).encode()}
    made = page.request.post(f"{server.address}/api/plans/import", multipart={"file": content})  # type: ignore[dict-item]
    page.goto(f"{server.address}/plans")
    expect(page.get_by_test_id("plans")).to_contain_text("WWWW")
    for screen in SCREENS:
        page.goto(f"{server.address}/plans/{made.json()['id']}/{screen}")
        expect(page.get_by_test_id("verdict")).to_be_visible()
        for summary in page.locator("main summary").all()[:8]:
            summary.click()
        fits = "width => document.documentElement.scrollWidth <= width"
        page.wait_for_function(fits, arg=width, timeout=120_000)
    page.close()
