"""Sessions over the API: begun, heard, added, corrected, foretold, learnt; kept as they were typed."""

from fastapi.testclient import TestClient

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
