"""The API: what the screens get, and how wrong input is refused."""

import json
from typing import Any

import pytest
from builders import one_load, steady
from fastapi.testclient import TestClient

from weary_cedar.demo import demo_plan

AT = "/api/plans/foothill-house"

NOTHING_FEEDS = "no feed leads from a station or an engine to a panel or an appliance"


def patch(client: TestClient, body: Any, revision: int = 1, **headers: str) -> Any:
    content = body if isinstance(body, str) else json.dumps(body)
    return client.patch(AT, content=content, headers={"If-Match": f'"{revision}"', **headers})


def test_plan_view_and_edit(client: TestClient) -> None:
    got = client.get(AT)
    assert got.headers["etag"] == '"1"'
    before = got.json()
    assert before["verdict"]["status"] == "lasts"
    assert before["schedules"][0]["circuits"]["fridge"]["legs"] == ["A"]
    after = patch(client, {"circuits": {"bath": {"mark": "keep"}}}).json()
    assert after["revision"] == 2
    assert after["verdict"]["lowest_percent"] < before["verdict"]["lowest_percent"]
    assert client.get(f"{AT}/run").json()["verdict"] == after["verdict"]
    assert client.get(f"{AT}/history").json()["lines"][0]["summary"] == "Bathroom: mark off → keep"
    undone = client.post(f"{AT}/undo", headers={"If-Match": '"2"'}).json()
    assert undone["verdict"] == before["verdict"]


@pytest.mark.parametrize(
    ("body", "status", "field", "value", "right"),
    [
        (
            {"loads": {"kettle": {"power_factor": 2}}},
            422,
            "/loads/kettle/power_factor",
            "2",
            "should be from 0.05 to 1",
        ),
        (
            {"loads": {"internet": {"behaviour": {"watts": -3}}}},
            422,
            "/loads/internet/behaviour/watts",
            "-3",
            "should be from 0",
        ),
        (
            {"circuits": {"bath": {"spaces": [1]}}},
            422,
            "/circuits/bath/spaces",
            "space 1",
            "choose a free space",
        ),
        ({"schema_version": 7}, 422, "/schema_version", "7", "version 2"),
        ("{", 400, "/", "{", "JSON object"),
        ("[]", 400, "/", "[]", "JSON object"),
    ],
)
def test_wrong_edits_are_refused_and_store_nothing(
    client: TestClient, body: Any, status: int, field: str, value: str, right: str
) -> None:
    refused = patch(client, body)
    assert refused.status_code == status
    assert refused.headers["content-type"] == "application/problem+json"
    problem = refused.json()["problems"][0]
    assert problem["field"] == field
    assert value in problem["value"]
    assert right in problem["right"]
    assert client.get(AT).json()["revision"] == 1


def test_if_match_is_needed_and_understood(client: TestClient) -> None:
    assert client.patch(AT, json={}).status_code == 428
    assert client.patch(AT, json={}, headers={"If-Match": "one"}).status_code == 422
    patch(client, {"circuits": {"bath": {"mark": "keep"}}})
    clash = patch(client, {"circuits": {"bath": {"mark": "room"}}})
    assert clash.status_code == 412
    assert clash.json()["clashes"] == [
        {"field": "/circuits/bath/mark", "base": "off", "theirs": "keep", "yours": "room"}
    ]
    assert client.post(f"{AT}/undo", headers={"If-Match": '"1"'}).status_code == 412
    assert client.post(f"{AT}/redo", headers={"If-Match": '"2"'}).status_code == 409


def test_plans_new_copy_delete_and_files(client: TestClient) -> None:
    empty = client.post("/api/plans", json={"name": "Lake cabin"}).json()["verdict"]
    assert (empty["status"], empty["missing"]) == ("cannot_judge", [NOTHING_FEEDS])
    assert client.post("/api/plans", json={"name": ""}).status_code == 422
    copy = client.post(f"{AT}/duplicate").json()
    assert (copy["id"], copy["plan"]["name"]) == ("foothill-house-copy", "Foothill house, copy")
    file = client.get(f"{AT}/file")
    assert "attachment" in file.headers["content-disposition"]
    imported = client.post("/api/plans/import", files={"file": ("mine.json", file.content)})
    assert imported.status_code == 201
    assert client.get(f"/api/plans/{imported.json()['id']}/file").content == file.content
    assert client.delete(AT).status_code == 204
    assert client.get(AT).status_code == 404
    assert client.post(f"{AT}/undelete").status_code == 200


@pytest.mark.parametrize(
    ("content", "status", "told"),
    [
        (b"\x89PNG\r\n\x1a\n\x00", 400, "not JSON"),
        (b"PK\x03\x04", 400, "not JSON"),
        (b"[1, 2]", 400, "not a JSON object"),
        (b'{"schema_version": 3}', 422, "version 3 is not known"),
        (b'{"name": "x"}', 422, "version nothing"),
    ],
)
def test_files_that_are_not_plans_are_refused(
    client: TestClient, content: bytes, status: int, told: str
) -> None:
    before = client.get("/api/plans").json()
    refused = client.post("/api/plans/import", files={"file": ("plan.json", content)})
    assert refused.status_code == status
    assert told in refused.json()["detail"]
    assert client.get("/api/plans").json() == before


def test_run_without_storing(client: TestClient) -> None:
    assert client.post("/api/run", json=one_load(steady(50))).json()["verdict"]["status"] == "lasts"
    assert client.post("/api/run", json={"schema_version": 1}).status_code == 422
    assert client.get("/api/schema/plan").json()["$id"] == "urn:weary-cedar:plan:2"
    assert client.post("/api/run", content=demo_plan().model_dump_json(exclude_none=True)).json()["ledger"][
        "closes"
    ]
