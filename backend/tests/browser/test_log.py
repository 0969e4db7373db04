"""The log in the browser: begun, typed as people say it, corrected; the forecast follows."""

import re
from datetime import UTC, datetime

from accessibility import grave
from playwright.sync_api import Browser, Page, expect
from serving import OwnServer, Server
from told_sessions import told

from weary_cedar.demo import demo_plan


def test_a_log_of_an_outage(page: Page, server: Server) -> None:
    made = page.request.post(f"{server.address}/api/plans", data={"name": "Storm", "begin": "foothill"})
    page.goto(f"{server.address}/plans/{made.json()['id']}/log")
    page.get_by_role("button", name="The power is out: begin a log now").click()
    line = page.get_by_label("What do you read, or what was done?")
    line.fill("64")
    heard = page.get_by_test_id("heard")
    expect(heard).to_contain_text("which")
    expect(page.get_by_role("button", name="Add to the log")).to_be_disabled()
    line.fill("main 64, pack 68")
    expect(heard).to_contain_text("64 %")
    line.press("Enter")
    rows = page.get_by_role("list", name="Rows of the log").get_by_role("listitem")
    expect(rows).to_have_count(2)
    expect(page.get_by_test_id("forecast-sentence")).to_contain_text("Lasts", timeout=60_000)
    expect(page.get_by_role("region", name="Forecast")).to_contain_text("by what was read")
    line.fill("fridge off")
    page.get_by_role("button", name="Add to the log").click()
    expect(rows).to_have_count(3)
    fridge = rows.filter(has_text=re.compile("off"))
    fridge.get_by_role("button", name="Correct").click()
    expect(page.get_by_text("In place of")).to_be_visible()
    line.fill("freezer off")
    line.press("Enter")
    expect(rows).to_have_count(4)
    expect(page.locator(".line-through")).to_have_count(1)
    page.get_by_role("button", name="Learn from the readings").click()
    expect(page.get_by_test_id("lesson")).to_contain_text("readings", timeout=60_000)
    assert grave(page) == []


def begun(page: Page, address: str) -> str:
    """A log of an outage that began at six in the evening, on its screen; returns its id."""
    told = {"name": "Storm", "begins": "2026-10-13T18:00:00"}
    made = page.request.post(f"{address}/api/plans/foothill-house/sessions", data=told)
    page.goto(f"{address}/plans/foothill-house/log")
    return str(made.json()["id"])


def test_a_line_waits_for_the_server_and_counts_once(page: Page, server: Server) -> None:
    key = begun(page, server.address)
    line = page.get_by_label("What do you read, or what was done?")
    rows = page.get_by_role("list", name="Rows of the log").get_by_role("listitem")
    expect(rows).to_have_text(["Nothing is in the log yet."])
    page.route("**/sessions/*/rows", lambda route: route.abort())
    wrong = datetime(2031, 5, 3, 2, 0, tzinfo=UTC)
    page.clock.set_fixed_time(wrong)
    line.fill("main 64")
    line.press("Enter")
    expect(page.get_by_test_id("waiting")).to_contain_text("One line waits for the server: “main 64”")
    page.reload()
    expect(page.get_by_test_id("waiting")).to_contain_text("One line waits")
    page.unroute_all()
    expect(page.get_by_test_id("waiting")).to_have_count(0)
    expect(rows).to_have_count(1)
    kept = page.request.get(f"{server.address}/api/plans/foothill-house/sessions/{key}").json()
    (row,) = kept["session"]["rows"]
    assert row["text"] == "main 64"
    assert datetime.fromisoformat(row["entered"]).year < wrong.year


def test_a_simulated_station_is_followed_and_answers_from_now(page: Page, server: Server) -> None:
    begun(page, server.address)
    follow = page.get_by_role("region", name="Follow a station")
    follow.get_by_label("Its clock").select_option("600")
    follow.get_by_role("button", name="Follow a simulated one").click()
    rows = page.get_by_role("list", name="Rows of the log").get_by_role("listitem")
    expect(rows.filter(has_text="by simulated station").first).to_be_visible()
    expect(page.get_by_role("region", name="Forecast")).to_contain_text("by what was read")
    page.get_by_role("button", name="Dark", exact=True).click()
    expect(page.get_by_label("What do you read, or what was done?")).to_have_value("it went dark")
    follow.get_by_role("button", name="Follow no more").click()
    expect(follow.get_by_role("button", name="Follow a simulated one")).to_be_visible()
    now = page.get_by_role("region", name="What now")
    now.get_by_role("button", name="Ask, ").click()
    expect(now.get_by_test_id("may-start")).to_contain_text("Yes")
    now.get_by_role("button", name="Try changes from here on").click()
    expect(now.get_by_test_id("help-now")).not_to_be_empty()
    page.get_by_role("button", name="Compare the meters").click()
    expect(page.get_by_test_id("meters")).to_contain_text(re.compile("are lost between|Nothing to compare"))
    assert grave(page) == []


def test_how_it_went_is_told_and_taken_over(page: Page, server: Server) -> None:
    key = begun(page, server.address)
    base = f"{server.address}/api/plans/foothill-house/sessions/{key}"
    for hour, line in (
        (19, "main 98"),
        (23, "main 80"),
        (30, "main 61"),
        (40, "main 50"),
        (41, "it tripped"),
    ):
        at = f"2026-10-{13 + hour // 24}T{hour % 24:02}:00:00"
        assert page.request.post(f"{base}/rows", data={"line": line, "now": at}).json()["added"]
    page.get_by_role("button", name="Compare with what was foretold").click()
    expect(page.get_by_test_id("afterwards")).to_contain_text("The outage lasted")
    page.get_by_role("button", name="Take it over into the plan").click()
    expect(page.get_by_test_id("saved")).to_contain_text("Saved")
    files = page.get_by_test_id("session-files")
    with page.expect_download() as got:
        files.get_by_role("link", name="Report on two pages (PDF)").click()
    assert got.value.path().read_bytes().startswith(b"%PDF")
    csv = page.request.get(f"{base}/rows.csv").text().replace("it tripped", "nothing more")
    files.locator("input").set_input_files(
        {"name": "rows.csv", "mimeType": "text/csv", "buffer": csv.encode()}
    )  # fmt: skip
    expect(files.get_by_role("status")).to_have_text("0 new rows")
    again = csv.replace("2026-10-13T19", "2026-10-13T20").replace("\n", "\nx", 1)
    files.locator("input").set_input_files(
        {"name": "rows.csv", "mimeType": "text/csv", "buffer": again.encode()}
    )  # fmt: skip
    expect(files.get_by_role("status")).to_have_text("1 new rows")


def test_a_phone_on_the_network_is_paired_logs_and_is_let_in_no_more(
    page: Page, browser: Browser, own_server: OwnServer
) -> None:
    own_server.stop()
    own_server.start("--lan", "--lan-address", "127.0.0.2")
    outside = own_server.address.replace("127.0.0.1", "127.0.0.2")
    begun(page, own_server.address)
    page.get_by_role("button", name="Units and palette").click()
    page.get_by_role("button", name="Other devices").click()
    devices = page.get_by_role("dialog", name="Other devices")
    expect(devices.get_by_test_id("network")).to_have_text("Open to the network.")
    expect(devices).to_contain_text("not encrypted")
    devices.get_by_role("button", name="Pair a device").click()
    digits = devices.get_by_test_id("pairing").locator("p").first.inner_text().replace(" ", "")
    assert grave(page) == []
    phone = browser.new_context(viewport={"width": 390, "height": 844}).new_page()
    phone.goto(f"{outside}/plans/foothill-house/log")
    expect(phone.get_by_role("heading", name="Pair this device")).to_be_visible()
    assert grave(phone) == []
    phone.get_by_label("The six digits").fill("000000" if digits != "000000" else "111111")
    phone.get_by_role("button", name="Pair").click()
    expect(phone.get_by_role("alert")).to_contain_text("not the code")
    phone.get_by_label("The six digits").fill(digits)
    phone.get_by_label("A name for this device").fill("Cellar phone")
    phone.get_by_role("button", name="Pair").click()
    phone.goto(f"{outside}/plans/foothill-house/log")
    line = phone.get_by_label("What do you read, or what was done?")
    line.fill("main 64")
    line.press("Enter")
    expect(phone.get_by_role("list", name="Rows of the log").get_by_role("listitem")).to_have_count(1)
    expect(devices.get_by_role("region", name="Paired devices")).to_contain_text("Cellar phone")
    devices.get_by_role("button", name="Let Cellar phone in no more").click()
    expect(devices.get_by_role("region", name="Paired devices")).to_contain_text("None is paired")
    line.fill("main 63")
    line.press("Enter")
    expect(phone.get_by_role("alert").filter(has_text="Pair this device").first).to_be_visible()
    devices.get_by_role("button", name="Close it").click()
    expect(devices.get_by_test_id("network")).to_have_text("Only on this computer.")
    page.keyboard.press("Escape")
    expect(page.get_by_role("list", name="Rows of the log")).to_contain_text("64 %")


def test_what_was_learnt_is_told_with_what_it_does_to_the_chance(page: Page, server: Server) -> None:
    key = begun(page, server.address)
    spoken = {"charge": "main {:.0f}", "out_w": "out {:.0f} W", "sun_w": "sun {:.0f} W"}
    for row in told(demo_plan("foothill"), 7, 10, 30.0).session.rows:
        line = {"line": spoken[row.what].format(row.value or 0.0), "now": row.at.isoformat()}
        at = f"{server.address}/api/plans/foothill-house/sessions/{key}/rows"
        assert page.request.post(at, data=line).json()["added"]
    page.reload()
    page.get_by_role("button", name="Learn from the readings").click()
    taught = page.get_by_role("region", name="What it teaches")
    expect(taught.get_by_test_id("worth")).to_contain_text("with what was learnt in")
    taught.get_by_role("button", name="Take over as measured").first.click()
    expect(page.get_by_text("The plan was changed since this log began")).to_be_visible()
    assert grave(page) == []
