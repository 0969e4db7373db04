"""Parts of a screen that are folded up."""

from playwright.sync_api import Locator, Page, expect


def unfold(inside: Page | Locator, words: str = "") -> None:
    """Open a part by its heading, by keyboard: what comes meanwhile may move it away under a pointer."""
    heading = inside.locator("summary").filter(has_text=words).first
    heading.press("Enter")
    expect(heading.locator("xpath=..")).to_have_attribute("open", "")
