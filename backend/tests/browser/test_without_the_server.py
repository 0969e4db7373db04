"""The runbook while the server is away, and the pocket file from a disk: nothing is lost or counts twice."""

import json
import re
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from threading import Thread
from typing import Any
from urllib.error import HTTPError
from urllib.request import Request, urlopen

import pytest
from accessibility import grave
from folds import unfold
from playwright.sync_api import Browser, Page, expect
from recorded import recorded
from serving import Server


@pytest.fixture(params=[(1280, 800), (390, 844)], ids=["wide", "phone"])
def kept(browser: Browser, request: pytest.FixtureRequest) -> Iterator[Page]:
    """A page whose browser may keep screens."""
    width, height = request.param
    context = browser.new_context(
        viewport={"width": width, "height": height}, reduced_motion="reduce", service_workers="allow"
    )
    yield context.new_page()
    context.close()


def tick(page: Page, until: str) -> None:
    page.wait_for_timeout(500)
    page.get_by_test_id("at-panel").get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_test_id("at-panel")).to_contain_text(until)


def test_the_served_page_goes_on_when_the_server_is_away(kept: Page, server: Server) -> None:
    address = f"{server.address}/plans/foothill-house/runbook?sheet=change-over/inlet"
    kept.goto(address)
    expect(kept.get_by_test_id("kept-here")).to_contain_text("This device keeps these sheets")
    port = server.address.rsplit(":", 1)[1].strip("/")
    server.stop()
    kept.goto(f"{address}&at=panel")
    panel = kept.get_by_test_id("at-panel")
    expect(panel).to_contain_text("Step 1 of ")
    expect(panel.get_by_test_id("away")).to_contain_text("The server does not answer.")
    tick(kept, "Step 2 of ")
    tick(kept, "Step 3 of ")
    panel.get_by_role("button", name="Back one step").click()
    expect(panel.get_by_test_id("away")).to_contain_text("3 rows wait here and are sent when it is back")
    kept.reload()
    panel.get_by_role("button", name="Go on").click()
    expect(panel).to_contain_text("Step 2 of ")
    expect(panel.get_by_test_id("away")).to_contain_text("3 rows wait here")
    server.start(int(port))
    expect(panel.get_by_test_id("away")).to_have_text("")
    panel.get_by_role("button", name="Leave for now").click()
    done = kept.get_by_role("region", name="What was done").get_by_role("list", name="Record")
    expect(done.get_by_role("listitem")).to_have_count(2)
    expect(done.get_by_role("listitem").last).to_contain_text("taken back")
    rows = recorded(kept, server, 3)
    assert [row["kind"] for row in rows] == ["done", "done", "undone"]
    assert all(row["at"] < row["entered_at"] for row in rows)


def test_the_server_goes_away_at_every_step(kept: Page, server: Server) -> None:
    """Whatever step it is: a reload goes on there, and each row is taken in once it is back."""
    address = f"{server.address}/plans/foothill-house/runbook?sheet=end-charge/from-generator&at=panel"
    kept.goto(address.replace("&at=panel", ""))
    expect(kept.get_by_test_id("kept-here")).to_contain_text("This device keeps these sheets")
    panel = kept.get_by_test_id("at-panel")
    for number in range(1, 8):
        kept.context.set_offline(True)
        kept.goto(address)
        if number > 1:
            panel.get_by_role("button", name="Go on").click()
        expect(panel).to_contain_text(f"Step {number} of 7")
        kept.wait_for_timeout(450)
        panel.get_by_role("button", name=re.compile("^(Done|It has waited already: done)$")).click()
        expect(panel.get_by_test_id("away")).to_contain_text(
            "and are sent when it is back" if number > 1 else "1 row waits here"
        )
        if number % 2 == 0 or number == 7:
            kept.context.set_offline(False)
            expect(panel.get_by_test_id("away")).to_have_text("")
    expect(panel.get_by_test_id("ended")).to_contain_text("All 7 steps are gone through")
    rows = recorded(kept, server, 7)
    assert [row["step"] for row in rows] == [1, 2, 3, 4, 5, 6, 7]


OLD_WORKER = """
self.addEventListener("install", (event) => {
  self.skipWaiting();
  const page = new Response("<p>the app of last year</p>", { headers: { "Content-Type": "text/html" } });
  event.waitUntil(caches.open("old").then((cache) => cache.put("/page", page)));
});
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
self.addEventListener("fetch", (event) => {
  if (event.request.mode === "navigate") event.respondWith(caches.match("/page"));
});
"""


TAKE_OVER = """navigator.serviceWorker.getRegistration().then(async (found) => {
  const changed = new Promise((done) => navigator.serviceWorker.addEventListener("controllerchange", done));
  await found.update();
  await changed;
})"""


def keep_before(page: Page, rows: list[dict[str, Any]]) -> None:
    """Rows as a device kept them before each had a key of its own."""
    page.evaluate(
        "rows => localStorage.setItem('weary-cedar record foothill-house', JSON.stringify(rows))", rows
    )


class Before(BaseHTTPRequestHandler):
    """What stands before the server: an old worker for as long as that is wanted, all else passed on."""

    behind = ""
    old = True

    def _pass(self) -> None:
        if self.path == "/worker.js" and Before.old:
            self._give(200, {"Content-Type": "text/javascript"}, OLD_WORKER.encode())
            return
        length = int(self.headers.get("Content-Length") or 0)
        own = {key: value for key, value in self.headers.items() if key.lower() != "accept-encoding"}
        asked = Request(Before.behind + self.path, self.rfile.read(length) or None, own, method=self.command)
        try:
            with urlopen(asked, timeout=60) as answer:
                self._give(answer.status, dict(answer.headers), answer.read())
        except HTTPError as error:
            self._give(error.code, dict(error.headers), error.read())

    def _give(self, status: int, headers: dict[str, str], body: bytes) -> None:
        self.send_response(status)
        for key, value in headers.items():
            if key.lower() not in ("transfer-encoding", "content-length", "connection", "date", "server"):
                self.send_header(key, value)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    do_GET = do_POST = do_PATCH = _pass

    def log_message(self, format: str, *args: Any) -> None:
        """Nothing is said."""


def test_an_old_worker_gives_way_to_the_app_of_today(kept: Page, server: Server) -> None:
    """A worker that gave an old page whatever came: the new one takes its place, and keeps today's sheets."""
    Before.behind, Before.old = server.address.rstrip("/"), True
    front = ThreadingHTTPServer(("127.0.0.1", 0), Before)
    Thread(target=front.serve_forever, daemon=True).start()
    address = f"http://127.0.0.1:{front.server_port}/plans/foothill-house/runbook?sheet=return/inlet"
    kept.goto(address)
    kept.evaluate("navigator.serviceWorker.ready.then(() => true)")
    row = {"kind": "done", "sheet": "return/inlet", "revision": 1, "fingerprint": "", "step": 1, "read": {}}
    keep_before(kept, [{**row, "id": "row-of-then", "at": "2026-11-27T03:10:00Z", "action": "Before"}])
    kept.goto(address)
    expect(kept.locator("body")).to_have_text("the app of last year")
    Before.old = False
    kept.evaluate(TAKE_OVER)
    kept.goto(address)
    expect(kept.get_by_test_id("kept-here")).to_contain_text("This device keeps these sheets")
    expect(kept.get_by_role("list", name="Record")).to_contain_text("Before")
    rows = recorded(kept, server, 1)
    assert [row["id"] for row in rows] == ["row-of-then"]
    front.shutdown()
    front.server_close()
    kept.goto(f"{address}&at=panel")
    expect(kept.get_by_test_id("at-panel")).to_contain_text("Step 1 of ")


def test_a_row_that_is_refused_is_shown_mended_or_put_aside(page: Page, server: Server) -> None:
    """The others go; it says why; mended it goes too, and put aside it can be taken up again."""
    row = {"kind": "done", "sheet": "return/inlet", "revision": 1, "fingerprint": "", "step": 1, "read": {}}
    kept = [
        {**row, "id": "row-good-1", "at": "2026-11-27T03:10:00Z", "action": "Good"},
        {**row, "id": "row-clock-1", "at": "1970-01-01T00:10:00Z", "action": "By a clock that was never set"},
        {**row, "id": "no", "at": "2026-11-27T03:11:00Z", "action": "Without a name"},
    ]
    page.goto(f"{server.address}/plans")
    page.evaluate(
        "rows => localStorage.setItem('weary-cedar record foothill-house', JSON.stringify(rows))", kept
    )
    page.goto(f"{server.address}/plans/foothill-house/runbook")
    held = page.get_by_role("region", name="Rows that are not taken in")
    expect(held).to_contain_text("2 rows cannot be taken in; all others are.")
    expect(page.get_by_role("list", name="Record")).to_contain_text("Good")
    expect(held).to_contain_text("should be a moment from 2000 to 2200")
    late = held.get_by_test_id("held-row").filter(has_text="never set")
    late.get_by_label("Moment of the act").fill("2026-11-27T03:12:00Z")
    late.get_by_role("button", name="Send it so").click()
    expect(page.get_by_role("list", name="Record")).to_contain_text("By a clock that was never set")
    expect(held).to_contain_text("One row cannot be taken in")
    held.get_by_role("button", name="Put it aside").click()
    expect(held).to_contain_text("One row is put aside on this device.")
    page.reload()
    held.get_by_role("button", name="Take up again").click()
    held.get_by_role("button", name="Send it so").click()
    expect(page.get_by_role("list", name="Record")).to_contain_text("Without a name")
    expect(held).to_have_count(0)


def pocket_of(page: Page, server: Server, folder: Path) -> str:
    answer = page.request.get(f"{server.address}/api/plans/foothill-house/pocket.html")
    file = folder / "pocket.html"
    file.write_bytes(answer.body())
    return file.as_uri()


def record_in(page: Page) -> dict[str, Any]:
    with page.expect_download() as saved:
        page.get_by_role("button", name="Save the record").click()
    found: dict[str, Any] = json.loads(saved.value.path().read_text())
    return found


def test_a_pocket_file_from_a_disk_gives_its_record_back(kept: Page, server: Server, tmp_path: Path) -> None:
    asked: list[str] = []
    address = pocket_of(kept, server, tmp_path)
    kept.on("request", lambda request: asked.append(request.url))
    kept.goto(address)
    sheets = kept.get_by_role("navigation", name="Sheets")
    sheets.get_by_role("button", name="6 kW station to Main panel").nth(1).click()
    expect(kept.get_by_test_id("sheet")).to_contain_text("Turn the main of Main panel off")
    kept.get_by_role("button", name="Go through it at the panel").click()
    tick(kept, "Step 2 of ")
    tick(kept, "Step 3 of ")
    kept.reload()
    kept.get_by_role("button", name="Go through it at the panel").click()
    kept.get_by_test_id("at-panel").get_by_role("button", name="Go on").click()
    expect(kept.get_by_test_id("at-panel")).to_contain_text("Step 3 of ")
    kept.get_by_test_id("at-panel").get_by_role("button", name="Leave for now").click()
    given = record_in(kept)
    assert not [url for url in asked if url.startswith("http")]
    assert [row["step"] for row in given["rows"]] == [1, 2]
    for palette in ("Night colours", "Day colours"):
        kept.get_by_role("button", name=palette).click()
        assert grave(kept) == []
    kept.goto(f"{server.address}/plans/foothill-house/runbook")
    region = kept.get_by_role("region", name="What was done")
    unfold(region, "Take in the record of a pocket file")
    region.get_by_label("Text of a record").fill(json.dumps(given))
    region.get_by_role("button", name="Take it in").click()
    expect(region).to_contain_text("2 new rows were taken in.")
    expect(region.get_by_role("list", name="Record").get_by_role("listitem")).to_have_count(2)
    file = tmp_path / "record.json"
    file.write_text(json.dumps(given))
    region.get_by_label("Record of a pocket file").set_input_files(file)
    expect(region).to_contain_text("All of it was known already.")
    region.get_by_label("Text of a record").fill(json.dumps({**given, "plan_id": "lake"}))
    region.get_by_role("button", name="Take it in").click()
    expect(region.get_by_role("alert")).to_contain_text("a record of this plan, foothill-house")


def test_schools_change_the_sheet_and_say_where_they_cannot(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/runbook?sheet=change-over/inlet")
    sheet = page.get_by_test_id("sheet")
    steps = sheet.locator("ol > li")
    expect(steps.nth(2)).to_contain_text("Turn off every branch breaker of Main panel")
    unfold(sheet, "Ways that practitioners differ in")
    sheet.get_by_label("off before").select_option("large")
    expect(steps.nth(2)).to_contain_text("Only these stay on: ")
    sheet.get_by_label("off before").select_option("none")
    expect(sheet).to_contain_text("What would come on at once is more than the source carries")
    expect(steps.nth(9)).to_contain_text("Turn its output on")
    sheet.get_by_label("output on").select_option("after")
    expect(steps.nth(9)).to_contain_text("Close the feed breaker")
    expect(steps.nth(9)).to_contain_text("Nothing yet: the source is still off")


def test_papers_are_there_to_be_taken(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans/foothill-house/runbook")
    papers = page.get_by_role("navigation", name="Paper and files")
    for link in papers.get_by_role("link").all():
        with page.expect_download() as saved:
            link.click()
        assert saved.value.suggested_filename.startswith("foothill-house-")
        assert saved.value.path().stat().st_size > 1_000


FILL = """() => {
  let number = 0;
  for (const size of [262144, 4096, 64])
    try {
      for (;;) localStorage.setItem(`full ${number++}`, "x".repeat(size));
    } catch {
      continue;
    }
}"""


def test_a_store_that_is_full_says_so_and_the_row_is_taken_in(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/plans")
    page.evaluate(FILL)
    page.goto(f"{server.address}/plans/foothill-house/runbook?sheet=return/inlet&at=panel")
    panel = page.get_by_test_id("at-panel")
    expect(panel).to_contain_text("Step 1 of ")
    page.wait_for_timeout(450)
    panel.get_by_role("button", name="It has waited already: done").click()
    expect(panel).to_contain_text("Step 2 of ")
    expect(panel.get_by_test_id("away")).to_contain_text("This device keeps nothing for this page")
    rows = recorded(page, server, 1)
    assert [row["step"] for row in rows] == [1]
