"""A local app that strangers cannot use: host, origin, size, headers."""

from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient
from serving import OwnServer

from weary_cedar.api.guard import MOST_PLAN_BYTES
from weary_cedar.store.plans import PlanStore

AT = "/api/plans/foothill-house"


@pytest.mark.parametrize(
    "host", ["evil.example", "evil.example:8642", "127.0.0.1.evil.example", "", "192.168.1.4"]
)
def test_foreign_host_is_refused(client: TestClient, host: str) -> None:
    """DNS rebinding: the name in Host is the attacker's."""
    refused = client.get(AT, headers={"Host": host})
    assert refused.status_code == 421
    assert refused.headers["content-type"] == "application/problem+json"


@pytest.mark.parametrize("host", ["127.0.0.1", "127.0.0.1:8642", "localhost:1", "[::1]:80", "[::1]"])
def test_own_host_is_served(client: TestClient, host: str) -> None:
    assert client.get(AT, headers={"Host": host}).status_code == 200


@pytest.mark.parametrize(
    "headers",
    [
        {"Origin": "https://evil.example"},
        {"Origin": "null"},
        {"Origin": "http://127.0.0.1:9999"},
        {"Sec-Fetch-Site": "cross-site"},
        {"Sec-Fetch-Site": "same-site"},
    ],
)
def test_writes_only_from_the_same_origin(client: TestClient, headers: dict[str, str]) -> None:
    edit = {"circuits": {"bath": {"mark": "keep"}}}
    assert client.patch(AT, json=edit, headers={"If-Match": '"1"', **headers}).status_code == 403
    assert client.delete(AT, headers=headers).status_code == 403
    assert client.get(AT, headers=headers).json()["revision"] == 1
    own = {"Origin": "http://127.0.0.1:8642", "Sec-Fetch-Site": "same-origin"}
    assert client.patch(AT, json=edit, headers={"If-Match": '"1"', **own}).status_code == 200


def test_large_bodies_are_refused(client: TestClient) -> None:
    body = b'{"name": "' + b"x" * MOST_PLAN_BYTES + b'"}'
    told = client.patch(AT, content=body, headers={"If-Match": '"1"'})
    assert told.status_code == 413

    def in_parts() -> Iterator[bytes]:
        yield from (body[i : i + 100_000] for i in range(0, len(body), 100_000))

    assert client.patch(AT, content=in_parts(), headers={"If-Match": '"1"'}).status_code == 413
    upload = client.post("/api/plans/import", files={"file": ("plan.json", body)})
    assert upload.status_code == 413
    assert client.get(AT).json()["revision"] == 1


@pytest.mark.parametrize("path", ["/", "/api/plans", AT, "/api/none", "/plans/x/panel"])
def test_security_headers_everywhere(client: TestClient, path: str) -> None:
    headers = client.get(path).headers
    policy = dict(part.strip().split(" ", 1) for part in headers["content-security-policy"].split(";"))
    assert policy["script-src"] == "'self'"
    assert policy["default-src"] == "'self'"
    assert policy["frame-ancestors"] == "'none'"
    assert headers["x-content-type-options"] == "nosniff"
    assert headers["x-frame-options"] == "DENY"
    assert "server" not in headers
    assert "access-control-allow-origin" not in headers


def test_listens_on_this_machine_only(own_server: OwnServer) -> None:
    assert own_server.address.startswith("http://127.0.0.1:")


UPLOADS = ("/api/plans/import", "/api/meter/propose", "/api/meter/analyse", "/api/meter/sequence")


@pytest.mark.parametrize(
    ("method", "path"),
    [
        ("PATCH", AT),
        ("POST", f"{AT}/try"),
        ("POST", f"{AT}/heater"),
        ("POST", "/api/run"),
        ("POST", "/api/check"),
        ("POST", "/api/plans"),
        ("POST", "/api/needs/read"),
        ("POST", "/api/sums/cord"),
        ("POST", f"{AT}/sums/cord"),
        ("POST", "/api/plates/read"),
        ("POST", f"{AT}/panels/main/move"),
        *(("POST", path) for path in UPLOADS),
    ],
)
def test_chunked_bodies_have_the_same_limit(client: TestClient, method: str, path: str) -> None:
    """A body without a length is counted while it comes; every route that takes one documents it."""

    def parts() -> Iterator[bytes]:
        yield b'--x\r\nContent-Disposition: form-data; name="file"; filename="f"\r\n\r\n'
        for _ in range(66):
            yield b"9" * 1024 * 1024

    kind = "multipart/form-data; boundary=x" if path in UPLOADS else "application/json"
    headers = {"If-Match": '"1"', "Content-Type": kind}
    told = client.request(method, path, content=parts(), headers=headers)
    assert told.status_code == 413
    assert told.headers["content-type"] == "application/problem+json"
    described = client.get("/api/openapi.json").json()["paths"]
    shape = (
        path.replace(AT, "/api/plans/{plan_id}").replace("/main/", "/{panel_id}/").replace("cord", "{name}")
    )
    assert "413" in described[shape][method.lower()]["responses"]


@pytest.mark.parametrize("path", ["/", "/api/plans", AT, f"{AT}/run", f"{AT}/panels/main/schedule.pdf"])
def test_head_is_get_without_the_body(client: TestClient, path: str) -> None:
    got, head = client.get(path), client.head(path)
    assert (head.status_code, head.content) == (200, b"")
    assert head.headers["content-length"] == got.headers["content-length"]
    assert head.headers.get("etag") == got.headers.get("etag")


@pytest.mark.parametrize(("method", "path"), [("PUT", AT), ("DELETE", "/api/plans"), ("POST", f"{AT}/run")])
def test_a_method_that_is_not_there(client: TestClient, method: str, path: str) -> None:
    told = client.request(method, path)
    assert told.status_code == 405
    assert told.headers["allow"]
    assert told.json()["status"] == 405
    assert told.headers["x-frame-options"] == "DENY"


def test_a_fault_is_a_problem_too_with_headers_and_an_id_in_the_log(
    client: TestClient, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    def fails(_self: object, **_more: object) -> None:
        raise ZeroDivisionError("by nothing")

    monkeypatch.setattr(PlanStore, "entries", fails)
    told = client.get("/api/plans")
    assert told.status_code == 500
    assert told.headers["content-type"] == "application/problem+json"
    assert told.headers["x-content-type-options"] == "nosniff"
    problem = told.json()
    assert problem["fault"] in problem["detail"]
    assert problem["fault"] in caplog.text
    assert "by nothing" in caplog.text
    assert "by nothing" not in told.text


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("/api/needs/read", b'{"text": "\\ud800 20 W"}'),
        ("/api/plans", b'{"name": "\\ud800"}'),
        (f"{AT}/try", b'{"name": "\\ud800"}'),
        ("/api/run", b'{"name": NaN}'),
        ("/api/sums/cord", b'{"length": "\\udfff"}'),
    ],
)
def test_text_that_is_none_is_refused_by_field(client: TestClient, path: str, body: bytes) -> None:
    told = client.post(path, content=body, headers={"Content-Type": "application/json"})
    assert told.status_code in (400, 422)
    assert told.json()["problems"][0]["field"].startswith("/")


def test_a_stale_patch_with_no_number_in_it(client: TestClient) -> None:
    client.patch(AT, json={"circuits": {"bath": {"order": 7}}}, headers={"If-Match": '"1"'})
    stale = b'{"circuits": {"bath": {"order": NaN}}}'
    told = client.patch(AT, content=stale, headers={"If-Match": '"1"'})
    assert (told.status_code, "NaN" in told.json()["detail"]) == (400, True)
