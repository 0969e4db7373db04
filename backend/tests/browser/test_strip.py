"""The strip as a place to plan: blocks dragged and typed, zoom, one moment for all screens, days in words."""

import re

import pytest
from folds import unfold
from playwright.sync_api import Locator, Page, expect
from serving import Server


@pytest.fixture
def strip(page: Page, server: Server) -> Page:
    begun = {"name": "Orchard strip", "begin": "orchard"}
    made = page.request.post(f"{server.address}/api/plans", data=begun).json()
    page.goto(f"{server.address}/plans/{made['id']}/outage")
    expect(page.get_by_test_id("blocks")).to_be_visible()
    return page


def window(page: Page) -> Locator:
    return page.get_by_test_id("blocks").get_by_role("button", name="the utility is back").first


def drag(page: Page, block: Locator, by: float, *, end: bool = False) -> None:
    """Press a block, or its end, move the pointer, and hold."""
    block.evaluate("element => element.scrollIntoView({block: 'center'})")
    box = block.bounding_box()
    assert box is not None
    x = box["x"] + (box["width"] - 3 if end else box["width"] / 3)
    y = box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + by / 2, y)
    page.mouse.move(x + by, y)


def test_a_block_is_dragged_and_the_strip_answers_before_it_is_dropped(strip: Page) -> None:
    block = window(strip)
    expect(block).to_have_accessible_name("the utility is back, Tue 8 Dec 12:00 to 14:00, 2 h")
    drag(strip, block, 60)
    expect(strip.get_by_test_id("tried")).to_contain_text("With that:")
    moved = block.get_attribute("aria-label") or ""
    assert "12:00" not in moved
    assert re.search(r"\d\d:(00|15|30|45) to", moved)
    strip.mouse.up()
    expect(strip.get_by_test_id("tried")).to_have_count(0)
    expect(window(strip)).to_have_accessible_name(moved)
    drag(strip, window(strip), 40, end=True)
    strip.mouse.up()
    expect(window(strip)).not_to_have_accessible_name(re.compile(", 2 h$"))
    expect(strip.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("for"))
    for _ in range(2):
        strip.get_by_role("button", name="Undo").click()
    expect(window(strip)).to_have_accessible_name("the utility is back, Tue 8 Dec 12:00 to 14:00, 2 h")
    expect(strip.get_by_role("button", name="Undo")).to_be_disabled()


def test_a_block_by_keyboard_alone(strip: Page) -> None:
    block = window(strip)
    block.focus()
    for key in ("ArrowRight", "ArrowRight", "Shift+ArrowRight"):
        strip.keyboard.press(key)
    expect(block).to_have_accessible_name("the utility is back, Tue 8 Dec 12:30 to 14:45, 2.25 h")
    strip.keyboard.press("Escape")
    expect(block).to_have_accessible_name("the utility is back, Tue 8 Dec 12:00 to 14:00, 2 h")
    strip.keyboard.press("ArrowLeft")
    strip.keyboard.press("Enter")
    expect(strip.get_by_test_id("tried")).to_have_count(0)
    expect(window(strip)).to_have_accessible_name("the utility is back, Tue 8 Dec 11:45 to 13:45, 2 h")
    window(strip).focus()
    strip.keyboard.press("Delete")
    expect(window(strip)).to_have_accessible_name(re.compile("Wed 9 Dec 12:00"))
    unfold(strip, "The blocks as a list")
    utility = strip.get_by_role("group", name="utility").last
    at = utility.get_by_label("at", exact=True).first
    at.fill("Thu 1")
    at.press("Enter")
    expect(utility.get_by_role("alert")).to_have_count(0)
    at.fill("ten past")
    at.press("Enter")
    expect(utility.get_by_role("alert")).to_contain_text("is not read; write it as Thu 3:10")
    utility.get_by_role("button", name="Add hours with the utility").click()
    expect(strip.get_by_test_id("blocks").get_by_role("button", name="the utility is back")).to_have_count(4)


def test_what_cannot_be_there_says_so(strip: Page) -> None:
    block = window(strip)
    block.focus()
    for _ in range(90):
        strip.keyboard.press("Shift+ArrowRight")
    expect(strip.get_by_test_id("tried")).to_contain_text("It cannot be there:")
    strip.keyboard.press("Escape")
    expect(strip.get_by_test_id("tried")).to_have_count(0)


def test_zoom_jumps_and_one_moment_for_all_screens(strip: Page) -> None:
    slider = strip.get_by_role("slider", name="Moment of the outage")
    shown = strip.get_by_role("group", name="Shown on the strip")
    shown.get_by_role("button", name="10 min").click()
    expect(strip.get_by_test_id("strip").locator("svg")).to_contain_text(re.compile(r"\d\d:\d\d"))
    go = strip.get_by_label("go to")
    go.fill("noonish")
    go.press("Enter")
    expect(strip.get_by_role("alert")).to_contain_text("go to: noonish is no moment of this outage")
    go.fill("Thu 3:10")
    go.press("Enter")
    expect(slider).to_have_attribute("aria-valuetext", re.compile("^Thu 10 Dec 03:10"))
    slider.focus()
    strip.keyboard.press("ArrowRight")
    expect(strip.get_by_test_id("moment")).to_contain_text("Thu 10 Dec 03:10")
    strip.keyboard.press("0")
    expect(shown.get_by_role("button", name="the whole")).to_have_attribute("aria-pressed", "true")
    strip.get_by_role("button", name="next event").click()
    text = slider.get_attribute("aria-valuetext") or ""
    moment = text.split(",")[0]
    strip.get_by_role("link", name="Feed").click()
    expect(strip.get_by_text(f"at {moment}")).to_be_visible()
    strip.get_by_role("link", name="Panel", exact=True).click()
    expect(strip.get_by_test_id("moment")).to_contain_text(moment)


def test_an_event_tells_what_would_have_prevented_it_and_applies_it(page: Page, server: Server) -> None:
    begun = {"name": "Kettle", "begin": "foothill"}
    made = page.request.post(f"{server.address}/api/plans", data=begun).json()
    page.goto(f"{server.address}/plans/{made['id']}/outage")
    events = page.get_by_role("region", name="Events")
    events.get_by_label("show").select_option(label="trips and too much at once, 2")
    shed = events.get_by_role("button", name="Off for now")
    expect(shed).to_have_count(2)
    shed.first.click()
    remedies = events.get_by_test_id("remedies")
    apart = remedies.get_by_role("listitem").filter(has_text="Never well pump and refrigerator together")
    expect(apart).to_contain_text("it does not happen then. With that: the whole 4 days")
    apart.get_by_role("button").click()
    expect(shed).to_have_count(0)
    rules = page.get_by_role("group", name="Rules, followed from the top down")
    line = rules.get_by_role("listitem").filter(has_text="never together")
    expect(line).to_contain_text(re.compile("acted"))
    expect(page.get_by_test_id("rule-marks")).to_have_accessible_name(re.compile("rule 1 acted"))
    line.get_by_role("button", name="What without it?").click()
    expect(line.get_by_test_id("rule-worth")).to_contain_text("Without it")
    page.get_by_role("button", name="Undo").click()
    expect(shed).to_have_count(2)


def test_the_days_in_words(strip: Page) -> None:
    days = strip.get_by_test_id("days")
    expect(days.get_by_role("listitem")).to_have_count(5)
    expect(days).to_contain_text("The utility is back from 12:00 to 14:00")
    expect(days).to_contain_text("at bedtime (21:30)")
    expect(days).to_contain_text("A forecast, not a promise")
    with strip.expect_download() as taken:
        days.get_by_role("link", name="As a calendar").click()
    assert taken.value.suggested_filename.endswith(".ics")


def test_what_a_block_is_of_is_chosen_in_the_list(strip: Page) -> None:
    """An act and an incident of another part; what rules keep off."""
    expect(strip.get_by_test_id("kept-off")).to_have_accessible_name(
        re.compile("rule 2 keeps off Sorting table, Bench outlets, [0-9]+ times")
    )
    unfold(strip, "The blocks as a list")
    acts = strip.get_by_role("group", name="acts").last
    acts.get_by_role("button", name="Add an act").click()
    acts.get_by_label("what").select_option(label="spring pump")
    expect(acts).to_contain_text("spring pump off")
    wrong = strip.get_by_role("group", name="incidents").last
    wrong.get_by_role("button", name="Add an incident").click()
    expect(wrong).to_contain_text("the cord of every feed comes out")
    wrong.get_by_label("what").select_option(index=1)
    expect(wrong.get_by_label("what")).not_to_have_value("leads/")
    expect(strip.get_by_test_id("saved")).to_contain_text(re.compile("^Saved"))


def test_where_a_window_can_lie_shows_while_it_is_dragged(strip: Page) -> None:
    drag(strip, window(strip), 60)
    between = strip.get_by_test_id("between").bounding_box()
    next_one = strip.get_by_test_id("blocks").get_by_role("button", name="the utility is back").nth(1)
    after = next_one.bounding_box()
    assert between is not None
    assert after is not None
    assert between["x"] + between["width"] == pytest.approx(after["x"], abs=4)
    strip.keyboard.press("Escape")
    strip.mouse.up()


def test_may_it_be_started_at_the_cursor(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/outage")
    asks = page.get_by_role("region", name="May I start it")
    asks.get_by_label("May I start", exact=True).select_option(label="kettle")
    page.get_by_label("go to").fill("5 h")
    page.get_by_role("button", name="Go", exact=True).click()
    asks.get_by_role("button", name="Ask, Tue 13 Oct 23:00").click()
    told = asks.get_by_test_id("may-start")
    expect(told).to_contain_text("Tue 13 Oct 23:00: Yes: the leg of Kitchen counter")
    asks.get_by_label("May I start", exact=True).select_option(label="something else")
    asks.get_by_label("plugged in at").select_option(label="Living room")
    for name, figure in (("of", "1.8 kW"), ("starting with", "30 kVA")):
        asks.get_by_label(name, exact=True).fill(figure)
        page.keyboard.press("Tab")
    asks.get_by_role("button", name="Ask, ").click()
    expect(told).to_contain_text(re.compile("No: |Not now: |Yes, if"))


def test_the_chance_comes_by_itself_and_says_what_it_hangs_on(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/outage")
    line, section = page.get_by_test_id("chance"), page.get_by_role("region", name="Chance")
    expect(line).to_contain_text(" of 100 (", timeout=120_000)
    expect(section.get_by_test_id("chance-sentence")).to_contain_text("of 100 outages like this")
    expect(section.get_by_test_id("chance-count")).to_contain_text("outages that were run")
    expect(section.get_by_test_id("chance-next")).to_contain_text("Next: ", timeout=120_000)
    section.get_by_text("What varies: loads").click()
    engine = page.get_by_label("an engine does not come on")
    engine.fill("100")
    engine.press("Enter")
    expect(line).to_contain_text("chance: 0 of 100", timeout=120_000)
    expect(section.get_by_test_id("chance-sentence")).to_contain_text("Lasts in 0 of 100")


def test_what_would_make_it_last_is_tried_and_applied_as_one_edit(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/panel")
    plan = page.request.get(f"{server.address}/api/plans/foothill-house")
    late = page.request.patch(
        f"{server.address}/api/plans/foothill-house",
        data={"outage": {"changeover_after_s": 7200}},
        headers={"if-match": plan.headers["etag"], "content-type": "application/merge-patch+json"},
    )
    assert late.ok
    page.reload()
    page.get_by_test_id("ask-would-last").click()
    section = page.get_by_role("region", name="What would make it last")
    expect(section.get_by_test_id("would-last")).to_contain_text("enough alone", timeout=120_000)
    section.get_by_role("button", name="Change over within 5 min").click()
    expect(page.get_by_test_id("verdict")).to_have_attribute("data-status", "lasts")
    expect(section).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("verdict")).to_have_attribute("data-status", "does_not_last")
