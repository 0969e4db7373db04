"""What axe-core finds on a page; only that leaves the page, the rest is long and of no use."""

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page

GRAVE = """only => axe.run(only.length ? {runOnly: only} : {}).then(found => found.violations
    .filter(each => ["serious", "critical"].includes(each.impact))
    .map(each => [each.id, each.nodes[0].html.slice(0, 200)]))"""

#: What a palette decides, and nothing else does.
COLOURS = ("color-contrast", "link-in-text-block")


def grave(page: Page, *only: str) -> list[list[str]]:
    """Rule and place of what is serious or critical."""
    page.evaluate(Axe().axe_script)
    found: list[list[str]] = page.evaluate(GRAVE, list(only))
    return found
