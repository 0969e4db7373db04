"""A station is followed: what it tells becomes rows, once, and what it cannot tell is said."""

import json
from collections.abc import Iterator
from datetime import datetime, timedelta
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from threading import Event, Thread
from typing import Any

import pytest
from fastapi.testclient import TestClient

from weary_cedar.api.following import readings_of

AT = "/api/plans/foothill-house/sessions"
SHOWN: dict[str, Any] = {
    "station": "station", "at": "2026-10-14T08:00:00", "charge_percent": {"head": 64}, "in_w": 10, "sun_w": 0,
    "out_w": 290, "left_h": None,
}  # fmt: skip


def shown(minutes: float, percent: int, out_w: int = 290) -> dict[str, Any]:
    at = datetime.fromisoformat(SHOWN["at"]) + timedelta(minutes=minutes)
    return {**SHOWN, "at": at.isoformat(), "charge_percent": {"head": percent}, "out_w": out_w}


class Telling(BaseHTTPRequestHandler):
    """A station of these tests: its words are those of its server."""

    def do_GET(self) -> None:
        self.send_response(200)
        self.send_header("Content-Type", "text/event-stream")
        self.end_headers()
        for line in self.server.lines:  # type: ignore[attr-defined]
            self.wfile.write(line)

    def log_message(self, *_: object) -> None:
        """Nothing is written."""


@pytest.fixture
def telling() -> Iterator[ThreadingHTTPServer]:
    server = ThreadingHTTPServer(("127.0.0.1", 0), Telling)
    Thread(target=server.serve_forever, daemon=True).start()
    yield server
    server.shutdown()
    server.server_close()


def followed(
    client: TestClient, server: ThreadingHTTPServer, lines: list[bytes], wanted: str
) -> dict[str, Any]:
    server.lines = lines  # type: ignore[attr-defined]
    key = client.post(AT, json={"name": "Storm", "begins": "2026-10-13T18:00:00"}).json()["id"]
    address = f"http://127.0.0.1:{server.server_address[1]}"
    assert client.put(f"{AT}/{key}/following", json={"address": address}).status_code == 200
    for _ in range(1800):
        found: dict[str, Any] = client.get(f"{AT}/{key}/following").json()
        if found[wanted]:
            break
        Event().wait(0.1)
    assert found[wanted]
    rows = client.get(f"{AT}/{key}").json()["session"]["rows"]
    client.put(f"{AT}/{key}/following", json={"on": False})
    assert not client.get(f"{AT}/{key}/following").json()["on"]
    return {**found, "rows_told": [row["told"] for row in rows]}


def test_what_it_tells_becomes_rows(client: TestClient, telling: ThreadingHTTPServer) -> None:
    told = [shown(0, 64), shown(1, 64, 900), shown(2, 63), shown(11, 63, 310)]
    lines = [b": not reached\n\n", *(f"event: shown\ndata: {json.dumps(one)}\n\n".encode() for one in told)]
    found = followed(client, telling, lines, "ended")
    assert found["rows"] == len(found["rows_told"])
    assert [words for words in found["rows_told"] if words.endswith("%")] == [
        "6 kW station: 64 %", "6 kW station: 63 %",
    ]  # fmt: skip
    assert [words for words in found["rows_told"] if words.endswith("out")] == [
        "6 kW station: 290 W out", "6 kW station: 310 W out",
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("line", "words"),
    [
        (b"data: [1, 2]\n\n", "not understood"),
        (b"data: {broken\n\n", "not understood"),
        (f"data: {json.dumps({**SHOWN, 'charge_percent': {'head': 640}})}\n\n".encode(), "0 to 100 %"),
        (f"data: {json.dumps({**SHOWN, 'station': 'none'})}\n\n".encode(), "a part of this plan"),
    ],
)
def test_what_it_tells_wrongly_is_said_and_adds_nothing(
    client: TestClient, telling: ThreadingHTTPServer, line: bytes, words: str
) -> None:
    found = followed(client, telling, [line], "trouble")
    assert words in found["trouble"]
    assert found["rows_told"] == []


@pytest.mark.parametrize(
    "address", ["http://192.168.1.9:80", "file:///etc/passwd", "http://127.0.0.1:80/x", "x"]
)
def test_only_an_address_of_this_machine_is_followed(client: TestClient, address: str) -> None:
    key = client.post(AT, json={"name": "Storm"}).json()["id"]
    told = client.put(f"{AT}/{key}/following", json={"address": address})
    assert told.status_code == 422
    assert told.json()["problems"][0]["field"] == "/address"
    assert client.put(f"{AT}/{key}/following", json={"station": "none"}).status_code == 422


def test_the_simulated_station_is_a_process_that_ends_with_its_session(client: TestClient) -> None:
    key = client.post(AT, json={"name": "Storm", "begins": "2026-10-13T18:00:00"}).json()["id"]
    told = client.put(f"{AT}/{key}/following", json={"station": "station", "speed": 600}).json()
    assert told["simulated"]
    for _ in range(1800):
        if client.get(f"{AT}/{key}/following").json()["rows"] >= 4:
            break
        Event().wait(0.1)
    rows = client.get(f"{AT}/{key}").json()["session"]["rows"]
    assert {row["by"] for row in rows} == {"simulated station"}
    added = client.post(f"{AT}/{key}/rows", json={"line": "fridge off", "now": "2026-10-13T18:00:00"}).json()
    assert added["added"]
    assert client.get(f"{AT}/{key}/following").json()["trouble"] == ""
    assert not client.put(f"{AT}/{key}/following", json={"on": False}).json()["on"]


def test_watts_are_written_down_every_ten_minutes_and_charges_when_they_change() -> None:
    last: dict[str, Any] = {}
    assert len(readings_of(shown(0, 64), last)) == 4
    assert readings_of(shown(9, 64), last) == []
    assert [reading.what for reading in readings_of(shown(9.5, 63), last)] == ["charge"]
    assert [reading.what for reading in readings_of(shown(10, 63), last)] == ["in_w", "sun_w", "out_w"]
    ids = [reading.id for reading in readings_of(shown(0, 64), {})]
    assert ids == [reading.id for reading in readings_of(shown(0, 64), {})]
    assert len(set(ids)) == 4
