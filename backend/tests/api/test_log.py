"""Sessions over the API: begun, heard, added, corrected, foretold, learnt; kept as they were typed."""

import json
from datetime import datetime
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from threading import Thread

from fastapi.testclient import TestClient

from weary_cedar.api.alarms import Reach
from weary_cedar.api.app import make_app
from weary_cedar.api.lanes import Lanes
from weary_cedar.api.log_answers import alarms_now
from weary_cedar.demo import demo_plan
from weary_cedar.store.database import DataFolder
from weary_cedar.store.plans import PlanStore

AT = "/api/plans/foothill-house/sessions"
NOW = "2026-10-14T21:40:00"


def begun(client: TestClient) -> str:
    told = {"name": "Storm", "begins": "2026-10-13T18:00:00"}
    made = client.post(AT, json=told)
    assert made.status_code == 201
    return str(made.json()["id"])


def test_a_session_is_begun_and_added_to(client: TestClient) -> None:
    key = begun(client)
    assert [item["id"] for item in client.get(AT).json()] == [key]
    heard = client.post(f"{AT}/{key}/heard", json={"line": "main 64, pack 68", "now": NOW}).json()
    assert next(row["told"] for row in heard["rows"]).endswith("64 %")
    assert not heard["added"]
    assert client.get(f"{AT}/{key}").json()["session"]["rows"] == []
    added = client.post(f"{AT}/{key}/rows", json={"line": "main 64, pack 68", "now": NOW}).json()
    assert added["added"]
    assert len(added["rows"]) == 2
    asked = client.post(f"{AT}/{key}/rows", json={"line": "64", "now": NOW}).json()
    assert not asked["added"]
    assert "which" in asked["questions"][0]
    told = {"line": "main 46", "now": NOW, "corrects": added["rows"][0]["id"]}
    assert client.post(f"{AT}/{key}/rows", json=told).json()["added"]
    rows = client.get(f"{AT}/{key}").json()["session"]["rows"]
    assert [row["text"] for row in rows] == ["main 64, pack 68", "main 64, pack 68", "main 46"]
    assert rows[2]["corrects"] == rows[0]["id"]
    assert client.post(f"{AT}/{key}/rows", json={**told, "corrects": "none"}).status_code == 422
    foretold = client.get(f"{AT}/{key}/forecast").json()
    assert foretold["read"]
    assert foretold["sentence"].startswith("Lasts")
    lesson = client.get(f"{AT}/{key}/lesson").json()
    assert "too few" in lesson["why_not"]
    assert "nothing was learnt" in client.get(f"{AT}/{key}/lesson/worth").json()["why_not"]


def test_a_line_that_waited_tells_when_it_was_typed_whatever_the_phones_clock_says(
    client: TestClient,
) -> None:
    key = begun(client)
    typed = client.post(f"{AT}/{key}/rows", json={"line": "main 64"}).json()["rows"][0]
    waited = client.post(f"{AT}/{key}/rows", json={"line": "main 63", "ago_s": 7200}).json()["rows"][0]
    between = datetime.fromisoformat(typed["at"]) - datetime.fromisoformat(waited["at"])
    assert 0 <= 7200 - between.total_seconds() < 3600
    assert client.post(f"{AT}/{key}/rows", json={"line": "main 63", "ago_s": -5}).status_code == 422


def test_a_session_keeps_the_plan_that_it_began_from(client: TestClient) -> None:
    key = begun(client)
    tag = client.get("/api/plans/foothill-house").headers["ETag"]
    client.patch(
        "/api/plans/foothill-house", json={"loads": {"fridge": None}}, headers={"If-Match": tag}
    )  # fmt: skip
    heard = client.post(f"{AT}/{key}/heard", json={"line": "fridge off", "now": NOW}).json()
    assert heard["rows"][0]["part"] == "loads/fridge"
    assert client.get(f"{AT}/{key}").json()["revision"] == 1


def test_what_is_not_there_and_what_is_wrong(client: TestClient) -> None:
    assert client.get(f"{AT}/0000").status_code == 404
    assert client.get("/api/plans/none/sessions").status_code == 404
    assert client.post(AT, json={"kind": "party"}).status_code == 422
    key = begun(client)
    assert client.get(f"/api/plans/canal-side-duplex/sessions/{key}").status_code == 404
    assert client.post(f"{AT}/{key}/heard", json={"line": "x" * 400}).status_code == 422


def test_what_follows_from_now_on(client: TestClient) -> None:
    key = begun(client)
    client.post(f"{AT}/{key}/rows", json={"line": "main 64", "now": NOW})
    start = client.get(f"{AT}/{key}/start", params={"load_id": "fridge", "lasts_s": 600}).json()
    assert start["answer"] == "yes", start
    assert client.get(f"{AT}/{key}/start", params={"load_id": "none"}).status_code == 422
    assert client.get(f"{AT}/{key}/suggestions").json()["sentence"]
    assert client.get(f"{AT}/{key}/schedule").json()["sentence"]
    assert "at least two meters" in client.get(f"{AT}/{key}/meters").json()["why_not"]
    assert client.get(f"{AT}/{key}/afterwards").json()["sentence"].startswith("The outage lasted")


def test_a_row_that_is_sent_twice_counts_once_and_devices_merge(client: TestClient) -> None:
    key = begun(client)
    told = {"line": "main 64, pack 68", "now": NOW, "row_id": "a1b2"}
    for _ in range(3):
        assert client.post(f"{AT}/{key}/rows", json=told).json()["added"]
    client.post(f"{AT}/{key}/rows", json={**told, "line": "fridge off", "row_id": "c3"})
    kept = client.get(f"{AT}/{key}").json()
    assert ([row["id"] for row in kept["session"]["rows"]], kept["rows_total"]) == (
        ["a1b2-0", "a1b2-1", "c3-0"],
        3,
    )


def test_a_session_goes_out_as_a_file_and_comes_in_again(client: TestClient) -> None:
    key = begun(client)
    client.post(f"{AT}/{key}/rows", json={"line": "main 64", "now": NOW})
    whole = client.get(f"{AT}/{key}/file").json()
    assert whole["plan"]["name"] == "Foothill house"
    made = client.post(f"{AT}/import", json=whole)
    assert made.status_code == 201
    again = client.get(f"{AT}/{made.json()['id']}/file").json()
    assert again["rows"] == whole["rows"]
    assert client.post(f"{AT}/import", json={**whole, "rows": [{"id": "x"}]}).status_code == 422
    wrong = client.post(f"{AT}/{key}/rows.csv", json={"csv": "a,b\n1,2\n"})
    assert wrong.status_code == 422
    assert "lacks id" in wrong.json()["detail"]


def test_ticks_at_the_panel_are_rows_of_the_log(client: TestClient) -> None:
    key = begun(client)
    row = {
        "id": "5f0c1b1e-31ab", "at": "2026-10-14T10:10:00Z", "sheet": "change-over/inlet", "revision": 1,
        "step": 1, "action": "Turn the main off", "read": {"leg A": "119 V"},
    }  # fmt: skip
    for _ in range(2):
        sent = client.post(
            "/api/plans/foothill-house/record", json={"record": 1, "plan_id": "foothill-house", "rows": [row]}
        )
        assert sent.status_code == 200
    rows = client.get(f"{AT}/{key}").json()["session"]["rows"]
    assert [(one["told"], one["at"], one["by"]) for one in rows] == [
        ("Turn the main off (leg A 119 V)", "2026-10-14T03:10:00", "the sheet")
    ]


def test_an_alarm_reaches_a_command_and_an_address_once(
    folder: DataFolder, lanes: Lanes, tmp_path: Path, store: PlanStore
) -> None:
    """A stand-in for what a person has: a command that writes down, an address that listens."""
    store.create(demo_plan())
    heard: list[bytes] = []

    class Listening(BaseHTTPRequestHandler):
        def do_POST(self) -> None:
            heard.append(self.rfile.read(int(self.headers["Content-Length"])))
            self.send_response(204)
            self.end_headers()

        def log_message(self, *_: object) -> None:
            """Nothing is written."""

    listening = ThreadingHTTPServer(("127.0.0.1", 0), Listening)
    Thread(target=listening.serve_forever, daemon=True).start()
    out = tmp_path / "alarms"
    command = f"sh -c 'cat >> {out}'"
    reach = Reach(command, f"http://127.0.0.1:{listening.server_address[1]}/alarm")
    app = make_app(folder.engine, lanes, reach=reach)
    with TestClient(app, base_url="http://127.0.0.1:8642") as client:
        key = begun(client)
        client.post(f"{AT}/{key}/rows", json={"line": "main 6", "now": NOW})
        for _ in range(2):
            told = client.get(f"{AT}/{key}/forecast").json()["alarms"]
        found = alarms_now(app.state.desk)
    listening.shutdown()
    listening.server_close()
    assert told
    assert [alarm.words for alarm in found] == told
    assert [json.loads(body)["alarm"] for body in heard] == told
    assert json.loads(out.read_text().split("}")[0] + "}")["session"] == "Storm"
