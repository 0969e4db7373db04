"""Every screen of the house with 48 circuits and of a demo: nothing beyond the edge, nothing cut."""

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


def opened(page: Page, address: str) -> None:
    page.goto(address)
    expect(page.get_by_test_id("verdict")).to_be_visible()
    page.wait_for_load_state("networkidle")
    page.evaluate("document.querySelectorAll('details').forEach(each => { each.open = true })")


@pytest.mark.parametrize("size", [(1280, 800), (360, 780)], ids=["desk", "phone"])
def test_nothing_is_cut_and_every_colour_is_read(page: Page, server: Server, size: tuple[int, int]) -> None:
    begun = {"name": "Quarry road", "begin": "labels", "text": "\n".join(SCHEDULE)}
    made = page.request.post(f"{server.address}/api/plans", data=begun)
    assert made.status == 201, made.text()
    page.set_viewport_size({"width": size[0], "height": size[1]})
    found = {}
    for plan in (made.json()["id"], "pass-keeper-s-hut"):
        for screen in SCREENS:
            opened(page, f"{server.address}/plans/{plan}/{screen}")
            wrong = [*page.evaluate(CUT), *map(str, grave(page))]
            page.evaluate("document.documentElement.dataset.palette = 'night'")
            wrong += [f"at night {each}" for each in grave(page, *COLOURS)]
            if wrong:
                found[plan, screen] = wrong
    assert found == {}
