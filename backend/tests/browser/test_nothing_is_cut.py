"""Every screen of the house with 48 circuits and of a demo: nothing beyond the edge, nothing cut."""

import json
import re

import pytest
from accessibility import COLOURS, grave
from breakers_written import SCHEDULE
from playwright.sync_api import Page, expect
from serving import Server

SCREENS = ("needs", "panel", "gear", "feed", "checks", "outage", "runbook", "log", "practise", "variants")
#: Words beyond the edge of the window that nothing scrolls to; words that a box cuts and no title tells.
CUT = """() => {
  const found = [];
  const wide = innerWidth;
  if (document.documentElement.scrollWidth > wide + 1) found.push("the page scrolls sideways");
  const inside = (from, test) => {
    for (let at = from; at && at !== document.body; at = at.parentElement) if (test(at)) return at;
    return null;
  };
  for (const each of document.querySelectorAll("body *")) {
    const words = [...each.childNodes].some((node) => node.nodeType === 3 && node.textContent.trim());
    const box = each.getBoundingClientRect();
    if (!words || box.width < 2 || box.height < 2 || inside(each, (at) => at.dataset.block)) continue;
    const flow = (at) => getComputedStyle(at).overflowX;
    const scrolls = inside(each, (at) => /auto|scroll/.test(flow(at)));
    if ((box.right > wide + 1 || box.left < -1) && !scrolls) found.push(`beyond: ${each.textContent.trim()}`);
    const cuts = inside(each, (at) => /hidden|clip/.test(flow(at)));
    const edge = cuts?.getBoundingClientRect();
    if (edge && edge.width > 2 && box.right > edge.right + 2 && !inside(each, (at) => at.title))
      found.push(`cut: ${each.textContent.trim()}`);
  }
  return [...new Set(found)].map((words) => words.slice(0, 80));
}"""

#: What can be tapped and is smaller than so many px; not links within a line of words, and of blocks on the
#: strip, which are as long as they last, only their height. A checkbox is as large as its label.
SMALL = """(least) => {
  const found = [];
  for (const each of document.querySelectorAll("button, a[href], select, summary, input, label")) {
    const box = each.getBoundingClientRect();
    const style = getComputedStyle(each);
    const label = each.closest("label");
    const ticked = (at) => at.querySelector("input[type=checkbox], input[type=radio]");
    if (box.width < 2 || box.height < 2 || style.visibility === "hidden") continue;
    if (each.tagName === "LABEL" ? !ticked(each) : label && ticked(label)) continue;
    if (each.tagName === "A" && style.display === "inline") continue;
    const wide = each.dataset.block ? Infinity : box.width;
    if (Math.min(wide, box.height) < least - 0.5)
      found.push(`small: ${box.width.toFixed()}×${box.height.toFixed()} ${each.outerHTML.slice(0, 90)}`);
  }
  return found;
}"""


def opened(page: Page, address: str) -> None:
    page.goto(address)
    expect(page.get_by_test_id("verdict")).to_be_visible()
    page.wait_for_load_state("networkidle")
    page.evaluate("document.querySelectorAll('details').forEach(each => { each.open = true })")


@pytest.mark.parametrize(("size", "least"), [((1280, 800), 24), ((360, 780), 44)], ids=["desk", "phone"])
def test_nothing_is_cut_or_small_and_every_colour_is_read(
    page: Page, server: Server, size: tuple[int, int], least: int
) -> None:
    begun = {"name": "Quarry road", "begin": "labels", "text": "\n".join(SCHEDULE)}
    made = page.request.post(f"{server.address}/api/plans", data=begun)
    assert made.status == 201, made.text()
    page.set_viewport_size({"width": size[0], "height": size[1]})
    found = {}
    for plan in (made.json()["id"], "pass-keeper-s-hut"):
        for screen in SCREENS:
            opened(page, f"{server.address}/plans/{plan}/{screen}")
            wrong = [*page.evaluate(CUT), *page.evaluate(SMALL, least), *map(str, grave(page))]
            page.evaluate("document.documentElement.dataset.palette = 'night'")
            wrong += [f"at night {each}" for each in grave(page, *COLOURS)]
            if wrong:
                found[plan, screen] = wrong
    assert found == {}


def test_on_a_phone_one_line_stays_and_the_rest_stands_behind_one_button(page: Page, server: Server) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    opened(page, f"{server.address}/plans/canal-side-duplex/checks")
    stays = page.get_by_test_id("verdict-short")
    expect(stays).to_have_count(0)
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_hidden()
    page.get_by_role("button", name="Undo, history, find, settings").click()
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_visible()
    page.evaluate("window.scrollTo(0, 2000)")
    expect(stays).to_contain_text("Does not last")
    expect(stays).to_contain_text("Checks")
    box = stays.bounding_box()
    assert box is not None
    assert box["y"] == 0
    assert box["height"] <= 0.15 * 844
    unsafe = page.request.get(f"{server.address}/api/plans/foothill-house").json()["plan"]
    unsafe["feeds"]["inlet"]["kind"] = "no_transfer"
    file = {"name": "plan.json", "mimeType": "application/json", "buffer": json.dumps(unsafe).encode()}
    made = page.request.post(f"{server.address}/api/plans/import", multipart={"file": file})  # type: ignore[dict-item]
    opened(page, f"{server.address}/plans/{made.json()['id']}/checks")
    page.evaluate("window.scrollTo(0, 2000)")
    expect(stays).to_have_text(re.compile(r"^Do not energise\d+ stops?Checks"))
    stays.click()
    expect(stays).to_have_count(0)
    assert page.evaluate("window.scrollY") == 0
