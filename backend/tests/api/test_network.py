"""The house's network: nobody comes in but who was paired, and nobody does more than was allowed."""

import re
import socket
from collections.abc import Callable
from pathlib import Path
from types import SimpleNamespace

import pytest
from fastapi.testclient import TestClient
from serving import OwnServer

from weary_cedar.api.app import make_app
from weary_cedar.api.certificate import given, made
from weary_cedar.api.door import COOKIE, TRIES, Door, NotLetIn
from weary_cedar.api.gate import Gate
from weary_cedar.api.lanes import Lanes
from weary_cedar.api.network import Network, Wanted
from weary_cedar.api.runbook import page_of
from weary_cedar.core.errors import CannotStore
from weary_cedar.demo import demo_plan
from weary_cedar.store.database import DataFolder
from weary_cedar.store.devices import DeviceStore
from weary_cedar.store.plans import PlanStore

PLAN = "/api/plans/foothill-house"
AT = "192.168.7.20:8642"
EDIT = {"circuits": {"bath": {"mark": "keep"}}}


class Shown:
    """A network as the gate sees it."""

    hosts = frozenset({AT})
    fingerprint = ""


@pytest.fixture
def door(store: PlanStore) -> Door:
    return Door(DeviceStore(store.sessions))


@pytest.fixture
def outside(folder: DataFolder, store: PlanStore, lanes: Lanes, door: Door) -> Callable[[], TestClient]:
    """Browsers on other devices."""
    store.create(demo_plan())
    gate = Gate(make_app(folder.engine, lanes), door, Shown())
    return lambda: TestClient(gate, base_url=f"http://{AT}", raise_server_exceptions=False)


def pair(client: TestClient, door: Door, role: str = "full", name: str = "Phone") -> None:
    code = door.new_code(role)  # type: ignore[arg-type]
    told = client.post("/pair", data={"code": code.digits, "name": name}, follow_redirects=False)
    assert told.status_code == 303


def test_a_phone_is_paired_by_a_code_and_then_does_everything(
    outside: Callable[[], TestClient], door: Door
) -> None:
    phone = outside()
    assert phone.get(PLAN).status_code == 401
    assert "Weary" not in phone.get(PLAN).text
    sent = phone.get("/plans/foothill-house", headers={"Accept": "text/html"}, follow_redirects=False)
    assert (sent.status_code, sent.headers["location"]) == (303, "/pair")
    page = phone.get("/pair?code=123456").text
    assert 'value="123456"' in page
    assert "not encrypted" in page
    pair(phone, door)
    cookie = phone.cookies.jar._cookies["192.168.7.20"]["/"][COOKIE]  # type: ignore[attr-defined]
    assert cookie.has_nonstandard_attr("HttpOnly")
    assert cookie.get_nonstandard_attr("SameSite") == "strict"
    assert phone.get(PLAN).json()["revision"] == 1
    assert phone.patch(PLAN, json=EDIT, headers={"If-Match": '"1"'}).status_code == 200
    assert outside().get(PLAN).status_code == 401


@pytest.mark.parametrize(
    "host", ["127.0.0.1:8642", "localhost:8642", "evil.example", "192.168.7.20", "192.168.7.21:8642", ""]
)
def test_other_hosts_get_no_word(outside: Callable[[], TestClient], door: Door, host: str) -> None:
    phone = outside()
    pair(phone, door)
    for path in (PLAN, "/pair", "/api/openapi.json", "/"):
        refused = phone.get(path, headers={"Host": host})
        assert (refused.status_code, refused.text) == (421, "")


@pytest.mark.parametrize(
    "headers",
    [
        {"Origin": "https://evil.example"},
        {"Origin": "http://127.0.0.1:8642"},
        {"Sec-Fetch-Site": "cross-site"},
    ],
)
def test_foreign_origins_write_nothing(
    outside: Callable[[], TestClient], door: Door, headers: dict[str, str]
) -> None:
    phone = outside()
    code = door.new_code()
    assert phone.post("/pair", data={"code": code.digits}, headers=headers).status_code == 403
    pair(phone, door)
    assert phone.patch(PLAN, json=EDIT, headers={"If-Match": '"1"', **headers}).status_code == 403


def test_a_guest_reads_and_a_machine_sends_to_its_session_only(
    outside: Callable[[], TestClient], door: Door, store: PlanStore
) -> None:
    guest, phone = outside(), outside()
    pair(guest, door, "guest")
    assert guest.get(PLAN).status_code == 200
    refused = guest.patch(PLAN, json=EDIT, headers={"If-Match": '"1"'})
    assert (refused.status_code, "only reads" in refused.text) == (403, True)
    pair(phone, door)
    keys = [phone.post(f"{PLAN}/sessions", json={"name": name}).json()["id"] for name in ("One", "Two")]
    token = DeviceStore(store.sessions).add("script", "machine", keys[0])
    machine, bearer = outside(), {"Authorization": f"Bearer {token}"}
    reading = {"part": "stations/station", "what": "charge", "value": 0.5, "unit": "%"}
    body = {"readings": [{**reading, "id": "r1"}]}
    sent = machine.post(f"{PLAN}/sessions/{keys[0]}/readings", json=body, headers=bearer)
    assert (sent.status_code, sent.json()) == (201, {"new": 1})
    again = machine.post(f"{PLAN}/sessions/{keys[0]}/readings", json=body, headers=bearer)
    assert again.json() == {"new": 0}
    row = phone.get(f"{PLAN}/sessions/{keys[0]}").json()["session"]["rows"][0]
    assert (row["by"], row["value"]) == ("script", 0.5)
    for method, path in (
        ("POST", f"{PLAN}/sessions/{keys[1]}/readings"), ("GET", PLAN), ("POST", f"{PLAN}/sessions"),
        ("GET", f"{PLAN}/sessions/{keys[0]}"), ("DELETE", PLAN),
    ):  # fmt: skip
        assert machine.request(method, path, json=body, headers=bearer).status_code == 403


def test_who_was_paired_does_not_let_others_in(outside: Callable[[], TestClient], door: Door) -> None:
    phone = outside()
    pair(phone, door)
    assert phone.get("/api/network").status_code == 403
    assert phone.post("/api/network/code", json={}).status_code == 403
    assert phone.put("/api/network", json={"on": True}).status_code == 403
    key = phone.post(f"{PLAN}/sessions", json={"name": "One"}).json()["id"]
    told = {"address": "http://127.0.0.1:22", "on": True}
    assert phone.put(f"{PLAN}/sessions/{key}/following", json=told).status_code == 403


def test_a_revoked_token_and_half_a_token_let_nobody_in(
    outside: Callable[[], TestClient], door: Door, store: PlanStore
) -> None:
    phone = outside()
    pair(phone, door)
    token = str(phone.cookies[COOKIE])
    for wrong in (
        token[:-1],
        token.split(".", maxsplit=1)[0],
        "." + token.split(".")[1],
        token + "x",
        "x" * 4000,
        "",
    ):
        assert outside().get(PLAN, headers={"Cookie": f"{COOKIE}={wrong}"}).status_code == 401
    devices = DeviceStore(store.sessions)
    assert [(item.name, item.role) for item in devices.all()] == [("Phone", "full")]
    devices.revoke(devices.all()[0].id)
    assert phone.get(PLAN).status_code == 401
    assert devices.all() == []


def test_a_code_is_good_once_for_two_minutes_and_five_tries(store: PlanStore) -> None:
    clock = [0.0]
    door = Door(DeviceStore(store.sessions), lambda: clock[0])

    def refused(digits: str) -> str:
        with pytest.raises(NotLetIn) as told:
            door.pair(digits, "Phone")
        return told.value.detail

    assert "no code" in refused("000000")
    code = door.new_code().digits
    door.pair(code, "Phone")
    assert "no code" in refused(code)
    code = door.new_code().digits
    clock[0] += 121
    assert "no code" in refused(code)
    code = door.new_code().digits
    other = f"{(int(code) + 1) % 1_000_000:06d}"
    told = [refused(other) for _ in range(TRIES)]
    assert ["not the code" in words for words in told] == [True] * (TRIES - 1) + [False]
    assert "no code" in refused(code)
    clock[0] += 121
    before = door.new_code().digits
    after = door.new_code().digits
    if before != after:
        assert "not the code" in refused(before)
    while "Too many" not in refused("x"):
        door.new_code()
    assert "Too many" in refused(door.new_code().digits)
    clock[0] += 61
    door.pair(door.new_code().digits, "Phone")


def test_the_switch_is_only_where_it_is_served(client: TestClient) -> None:
    view = client.get("/api/network").json()
    assert (view["can"], view["on"], view["devices"]) == (False, False, [])
    assert client.put("/api/network", json={"on": True}).status_code == 422
    assert client.post("/api/network/code", json={}).status_code == 422
    assert client.delete("/api/network/devices/none").status_code == 404


def test_a_code_on_paper_names_the_address_that_a_phone_reaches(client: TestClient) -> None:
    """From this machine: that of the network while it is open, none while it is not."""

    def code(**state: object) -> str:
        app = SimpleNamespace(state=SimpleNamespace(**state))
        url = SimpleNamespace(hostname="127.0.0.1")
        return page_of(SimpleNamespace(app=app, url=url), "cabin")  # type: ignore[arg-type]

    open_ = SimpleNamespace(on=True, addresses=["http://192.168.7.20:8642"])
    assert code(network=open_) == "http://192.168.7.20:8642/plans/cabin/runbook"
    assert code(network=SimpleNamespace(on=False, addresses=[])) == ""
    assert code() == ""


def test_a_certificate_is_made_or_taken(tmp_path: Path) -> None:
    own = made(tmp_path, ["127.0.0.2"])
    assert own.own
    assert own.key.stat().st_mode & 0o077 == 0
    assert re.fullmatch(r"([0-9A-F]{2}:){31}[0-9A-F]{2}", own.fingerprint)
    assert given(own.file, own.key).fingerprint == own.fingerprint
    assert made(tmp_path, ["127.0.0.2"]).fingerprint != own.fingerprint
    with pytest.raises(CannotStore, match="cannot be used"):
        given(tmp_path / "none.pem", own.key)


def test_an_address_that_is_not_of_this_machine_is_refused(door: Door, tmp_path: Path) -> None:
    network = Network(lambda *_: None, door, tmp_path, 0, Wanted(("203.0.113.9",)))  # type: ignore[arg-type]
    with pytest.raises(CannotStore, match=r"203\.0\.113\.9"):
        network.open()
    assert not network.on


def test_nothing_listens_elsewhere_unless_it_is_asked_for(own_server: OwnServer) -> None:
    """127.0.0.2 is another address of this machine: without --lan nobody is there."""
    port = int(own_server.address.rsplit(":", 1)[1])
    with socket.socket() as asked:
        assert asked.connect_ex(("127.0.0.2", port)) != 0
