"""Variants of a plan, side by side: begun, changed, compared, adopted, taken away."""

import re

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
