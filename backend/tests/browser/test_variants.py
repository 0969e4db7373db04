"""Variants of a plan, side by side: begun, changed, compared, adopted, taken away."""

import re

from accessibility import grave
from playwright.sync_api import Page, expect
from serving import Server


def test_a_variant_is_compared_and_adopted(page: Page, server: Server) -> None:
    made = page.request.post(f"{server.address}/api/plans", data={"name": "Hill house", "begin": "foothill"})
    own = f"{server.address}/plans/{made.json()['id']}"
    page.goto(f"{own}/outage")
    page.get_by_role("link", name="Side by side with a variant").click()
    expect(page.get_by_text("There is no variant yet to compare with")).to_be_visible()
    page.get_by_role("button", name="Duplicate as a variant").click()
    expect(page.get_by_test_id("variant")).to_contain_text("A variant: what is changed here does not touch")
    page.get_by_role("link", name="Panel", exact=True).click()
    mark = page.get_by_role("radiogroup", name="Mark of Dishwasher")
    mark.get_by_role("radio", name="keep").click()
    expect(page.get_by_test_id("saved")).to_contain_text("Saved")
    page.get_by_test_id("variant").get_by_role("link", name="Side by side").click()
    table = page.get_by_test_id("differences")
    expect(table.get_by_role("columnheader")).to_contain_text(
        ["what differs", "Hill house", "Dishwasher: mark off → keep"]
    )
    expect(table).to_contain_text("lowest charge")
    expect(table).not_to_contain_text("stops")
    page.get_by_label("show what is alike, too").check()
    expect(table.get_by_role("row", name="stops none none")).to_be_visible()
    drawn = page.get_by_test_id("charges").get_by_role("img")
    expect(drawn).to_have_accessible_name(re.compile("^Charge over the outage: Hill house: the whole 4 days"))
    page.get_by_role("button", name="Adopt the variant Dishwasher").click()
    expect(page).to_have_url(f"{own}/variants")
    expect(table.get_by_role("columnheader").nth(2)).to_contain_text("the same so far")
    page.get_by_role("link", name="Panel", exact=True).click()
    expect(mark.get_by_role("radio", name="keep", checked=True)).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(mark.get_by_role("radio", name="off", checked=True)).to_be_visible()
    listed = page.request.get(f"{server.address}/api/plans").json()
    assert [plan["name"] for plan in listed].count("Hill house") == 1
    page.goto(f"{own}/variants")
    page.get_by_role("button", name="Take the variant Dishwasher: mark off → keep away").click()
    expect(page.get_by_text("There is no variant yet to compare with")).to_be_visible()


def test_at_most_four_stand_side_by_side(page: Page, server: Server) -> None:
    made = page.request.post(f"{server.address}/api/plans", data={"name": "Four", "begin": "hut"}).json()
    api = f"{server.address}/api/plans/{made['id']}"
    for _ in range(3):
        assert page.request.post(f"{api}/variants").status == 201
    refused = page.request.post(f"{api}/variants")
    assert refused.status == 422
    assert "at most 3 variants" in refused.json()["detail"]
    page.goto(f"{server.address}/plans/{made['id']}/variants")
    expect(page.get_by_test_id("differences").get_by_role("columnheader")).to_have_count(5)
    expect(page.get_by_role("button", name="Duplicate as a variant")).to_be_disabled()
    stranger = page.request.post(f"{api}/adopt?variant=foothill-house", headers={"if-match": '"1"'})
    assert stranger.status == 422
    assert "a variant of this plan" in stranger.json()["detail"]


def test_a_schedule_is_worked_out_taken_over_and_undone(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/outage")
    region = page.get_by_role("region", name="When to do what")
    region.get_by_role("button", name="Work out a schedule").click()
    expect(page.get_by_test_id("schedule-sentence")).to_contain_text("of fuel instead of", timeout=90_000)
    expect(page.get_by_test_id("schedule-chance")).to_contain_text("outages as they may be")
    expect(page.get_by_test_id("schedule-costs")).to_contain_text("better")
    assert grave(page) == []
    verdict = region.get_by_text("as rules for every day").inner_text()
    region.get_by_role("button", name="Take this schedule over").click()
    expect(region).to_contain_text("the plan has changed since it was worked out", timeout=60_000)
    left = verdict.split("Lasts: ")[1].split(";")[0]
    expect(page.get_by_test_id("verdict")).to_contain_text(left)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("verdict")).not_to_contain_text(left)


def test_what_to_buy_opens_as_a_variant(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/gear")
    region = page.get_by_role("region", name="How much to buy")
    hours = region.get_by_label("an outage of")
    hours.fill("48")
    hours.press("Enter")
    region.get_by_role("button", name="Find what is enough").click()
    choices = page.get_by_test_id("size-choices").get_by_role("listitem")
    expect(choices.first).to_be_visible(timeout=120_000)
    expect(region).not_to_contain_text("More are being run", timeout=180_000)
    expect(page.get_by_test_id("size-sentence")).to_contain_text("For 2 days at 90 of 100")
    assert grave(page) == []
    choices.first.get_by_role("button", name="Open as a variant").click()
    expect(page).to_have_url(re.compile("/plans/(?!foothill-house/)[^/]+/outage"))


def test_heat_ways_in_and_for_ever(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/needs")
    page.get_by_role("button", name="Compare how to heat").click()
    expect(page.get_by_test_id("heat-choice").first).to_contain_text("On the station")
    expect(page.get_by_role("region", name="Heat")).to_contain_text("carbon monoxide")
    page.goto(f"{server.address}/plans/foothill-house/feed")
    page.get_by_role("button", name="Compare ways into this house").click()
    expect(page.get_by_test_id("ways-in-sentence")).to_contain_text("all that must run has power")
    expect(page.get_by_role("region", name="Other ways in")).to_contain_text("licensed electrician")
    assert grave(page) == []
    page.goto(f"{server.address}/plans/foothill-house/outage")
    page.get_by_role("button", name="Run the same day over and over").click()
    expect(page.get_by_test_id("for-ever-sentence")).to_contain_text("while fuel is brought")
