"""A local app that strangers cannot use: host, origin, size, headers."""

from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from weary_cedar.api.guard import MOST_PLAN_BYTES

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


def test_listens_on_this_machine_only(server: "object") -> None:
    assert server.address.startswith("http://127.0.0.1:")  # type: ignore[attr-defined]
