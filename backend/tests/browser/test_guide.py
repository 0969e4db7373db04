"""The guide: from a screen to its page and back, found by any word, also through the finder."""

from accessibility import grave
from playwright.sync_api import Page, expect
from serving import Server


def test_a_screen_leads_to_its_page_and_back(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/checks")
    page.get_by_role("button", name="Keys").click()
    page.get_by_role("link", name="What this screen is for, in the guide").click()
    expect(page.get_by_role("heading", name="Checks", exact=True)).to_be_visible()
    expect(page).to_have_title("Checks · Guide · Weary Cedar")
    expect(page.get_by_role("img", name="The screen Checks")).to_have_js_property("complete", True)
    assert grave(page) == []
    page.get_by_label("find in the guide").fill("clamp")
    found = page.get_by_role("navigation", name="Guide").get_by_role("listitem")
    expect(found.filter(has_text="Needs")).to_be_visible()
    expect(found.filter(has_text="Log")).to_have_count(0)
    page.get_by_label("find in the guide").fill("")
    page.get_by_role("link", name="Walk: a homeowner").click()
    page.get_by_role("article").get_by_role("link", name="Practise").click()
    expect(page.get_by_role("article")).to_contain_text("A whole outage in ten minutes")
    for _ in range(3):
        page.get_by_role("button", name="Back").click()
    expect(page.get_by_role("heading", name="Survey")).to_be_visible()


def test_the_finder_knows_what_people_call_things(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/needs")
    expect(page.get_by_test_id("needs-summary")).to_be_visible()
    for words, at in (("backup", "/plans"), ("excel", "panel?as=table"), ("compare", "variants")):
        page.goto(f"{server.address}/plans/foothill-house/needs")
        expect(page.get_by_test_id("needs-summary")).to_be_visible()
        page.keyboard.press("/")
        page.get_by_role("combobox", name="Find a breaker").fill(words)
        page.get_by_role("option").filter(has_text="what one looks for").first.click()
        page.wait_for_url(f"**{at if at.startswith('/') else f'/{at}'}")
    page.goto(f"{server.address}/plans/foothill-house/needs")
    expect(page.get_by_test_id("needs-summary")).to_be_visible()
    page.keyboard.press("/")
    page.get_by_role("combobox", name="Find a breaker").fill("interlocked climate")
    page.get_by_role("option", name="guide").first.click()
    expect(page.get_by_role("article")).to_be_visible()
