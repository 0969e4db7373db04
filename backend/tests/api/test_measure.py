"""Routes of needs, measuring, heaters and schedule files, as a client uses them."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

AT = "/api/plans/foothill-house"
PANEL = f"{AT}/panels/main"


def upload(text: str | bytes) -> dict[str, Any]:
    return {"file": ("meter.csv", text)}


def test_measuring_from_the_stand_in_to_the_plan(client: TestClient) -> None:
    series = client.get("/api/stand-ins/meter", params={"days": 2, "european": True}).text
    proposal = client.post("/api/meter/propose", files=upload(series)).json()
    assert (proposal["time"], proposal["value"], proposal["unit"]) == ("Datum Uhrzeit", "Leistung (W)", "W")
    report = client.post("/api/meter/analyse", files=upload(series)).json()
    assert report["behaviour"]["kind"] == "cycling"
    patch = {"loads": {"fridge": {"origin": "measured", "behaviour": {"on_w": report["on_w"], "duty": 0.9}}}}
    before = client.get(AT).json()
    trial = client.post(f"{AT}/try", json=patch).json()
    assert trial["after"]["wh_day"] > trial["before"]["wh_day"]
    before_percent, after_percent = (trial[at]["verdict"]["lowest_percent"] for at in ("before", "after"))
    assert after_percent < before_percent
    assert client.get(AT).json() == before
    wrong = client.post(f"{AT}/try", json={"loads": {"fridge": {"behaviour": {"duty": 2}}}})
    assert wrong.status_code == 422
    assert wrong.json()["problems"][0]["field"] == "/loads/fridge/behaviour/duty"


@pytest.mark.parametrize(
    ("path", "query", "answer"),
    [
        ("totals", {"kwh": 2.4, "hours": 24, "highest_w": 900, "running_w": 200}, ("mean_w", 100.0)),
        ("totals", {"kwh": 2.97, "hours": 46}, ("duty", None)),
        ("clamp", {"amps": 6.2, "volts": 121, "power_factor": 0.8}, ("watts", 600.16)),
        ("cord", {"kwh_before": 3.02, "kwh_after": 2.97, "hours": 46}, ("wh", 50.0)),
        ("standby", {"kwh": 0.5, "hours": 4, "known_w": 18}, ("watts", 107.0)),
        ("motor", {"volts": 230, "horsepower": 1, "code_letter": "J"}, ("high_va", 7990.0)),
    ],
)
def test_readings(client: TestClient, path: str, query: dict[str, float], answer: tuple[str, float]) -> None:
    found = client.get(f"/api/measure/{path}", params=query).json()
    assert found[answer[0]] == (answer[1] if answer[1] is None else pytest.approx(answer[1]))


@pytest.mark.parametrize(
    ("path", "query", "field"),
    [
        ("totals", {"kwh": 2.4, "hours": 24, "running_w": 50}, "/running_w"),
        ("standby", {"kwh": 0.5, "hours": 4, "known_w": 180}, "/known_w"),
        ("cord", {"kwh_before": 1, "kwh_after": 2, "hours": 1}, "/kwh_after"),
        ("motor", {"volts": 230}, "/"),
        ("clamp", {"amps": 6, "volts": 0}, "/query/volts"),
    ],
)
def test_readings_that_cannot_be(client: TestClient, path: str, query: dict[str, float], field: str) -> None:
    refused = client.get(f"/api/measure/{path}", params=query)
    assert refused.status_code == 422
    assert refused.json()["problems"][0]["field"] == field


def test_a_heater_by_fuel(client: TestClient) -> None:
    furnace = client.get(AT).json()["plan"]["loads"]["furnace"]
    asked = {
        "load_id": "furnace",
        "loss": {
            "basis": "fuel",
            "fuel": "propane",
            "amount": 2000,
            "degree_days_k": 2500,
            "efficiency": 0.8,
        },
        "behaviour": furnace["behaviour"],
        "start": furnace["start"],
    }
    found = client.post(f"{AT}/heater", json=asked).json()
    assert found["loss_w_per_k"] == pytest.approx(2000 * 7.1 * 1000 * 0.8 / (24 * 2500))
    assert found["behaviour"]["loss_w_per_k"] == found["loss_w_per_k"]
    assert found["worst"]["legs"] == ["B"]
    wrong = client.post(f"{AT}/heater", json={**asked, "load_id": "attic"})
    assert (wrong.status_code, wrong.json()["problems"][0]["field"]) == (404, "/load_id")
    wrong = client.post(
        f"{AT}/heater", json={**asked, "loss": {"basis": "run", "run_fraction": 2, "outdoor_c": 0}}
    )
    assert wrong.json()["problems"][0]["field"] == "/run_fraction"


def test_schedule_files(client: TestClient) -> None:
    text = client.get(f"{PANEL}/schedule.csv").text
    for name, kind in (("schedule", "application/pdf"), ("labels", "application/pdf")):
        assert client.get(f"{PANEL}/{name}.pdf").headers["content-type"] == kind
    changed = text.replace("Garage freezer", "Freezer in the garage").replace(
        "freezer,Main panel,6,", "freezer,Main panel,2,"
    )
    match = {"If-Match": '"1"'}
    refused = client.post(f"{PANEL}/schedule.csv", files=upload(changed), headers=match)
    assert refused.status_code == 422
    assert "taken by" in refused.json()["problems"][0]["right"]
    assert client.get(AT).json()["revision"] == 1
    changed = changed.replace("freezer,Main panel,2,", "freezer,Main panel,6,")
    saved = client.post(f"{PANEL}/schedule.csv", files=upload(changed), headers=match).json()
    assert saved["plan"]["circuits"]["freezer"]["label"] == "Freezer in the garage"
    assert client.get(f"{AT}/history").json()["lines"][0]["summary"] == (
        "Freezer in the garage: label Garage freezer → Freezer in the garage"
    )
    binary = client.post(f"{PANEL}/schedule.csv", files=upload(b"\xff\xfe\x00"), headers={"If-Match": '"2"'})
    assert binary.status_code == 400


def test_moving_and_balancing(client: TestClient) -> None:
    moved = client.post(
        f"{PANEL}/move", json={"circuit_id": "freezer", "to_space": 8}, headers={"If-Match": '"1"'}
    ).json()
    circuits = moved["plan"]["circuits"]
    assert (circuits["freezer"]["spaces"], circuits["office"]["spaces"]) == ([8], [6])
    refused = client.post(
        f"{PANEL}/move", json={"circuit_id": "freezer", "to_space": 4}, headers={"If-Match": '"2"'}
    )
    assert "interlock keeps it there" in refused.json()["problems"][0]["right"]
    answers = client.get(f"{PANEL}/balance").json()["answers"]
    best = client.post(f"{PANEL}/balance", params={"moves": 2}, headers={"If-Match": '"2"'}).json()
    assert best["schedules"][0]["lean_w"] == pytest.approx(answers[2]["lean"])
    assert client.get(f"{PANEL}/switch").json()["switches"][0]["handles"] == 6
    copy = client.post(f"{PANEL}/switch", params={"handles": 6}).json()
    feed = next(iter(copy["plan"]["feeds"].values()))
    assert (feed["kind"], len(feed["circuit_ids"])) == ("transfer_switch", 5)


@pytest.mark.parametrize(
    ("body", "right"),
    [
        ({"begin": "rooms"}, "some of kitchen"),
        ({"begin": "labels", "text": "fridge"}, "one space such as 5"),
        ({"begin": "csv", "text": "a,b\n1,2"}, "space, amps, label"),
    ],
)
def test_beginnings(client: TestClient, body: dict[str, Any], right: str) -> None:
    refused = client.post("/api/plans", json={"name": "x", **body})
    assert refused.status_code == 422
    assert right in refused.json()["problems"][0]["right"]
    good = {
        "rooms": ["hall"],
        "text": "1 fridge 20 A" if body["begin"] == "labels" else "spaces,breaker_a,label\n1,20,x",
    }
    begun = client.post("/api/plans", json={"name": "x", **body, **good})
    assert begun.status_code == 201
    assert begun.json()["plan"]["circuits"]


def test_what_would_become_of_answers_is_told_and_nothing_is_stored(client: TestClient) -> None:
    said = {"climate_id": "dry-hills", "station": {"class_id": "split-6000"}, "reach": "interlock_inlet"}
    body = {"name": "Ridge", "begin": "answers", "answers": said, "text": "1 fridge 20 A"}
    before = client.get("/api/plans").json()
    told = client.post("/api/beginnings", json=body).json()
    assert {line["topic"] for line in told["lines"]} == {"house", "gear", "feed", "needs"}
    assert told["verdict"]["status"] == "cannot_judge"
    assert client.get("/api/plans").json() == before
    refused = client.post("/api/beginnings", json={**body, "text": "fridge\n2 ok 20 A\nstove"})
    assert [problem["field"] for problem in refused.json()["problems"]] == ["/row/1/spaces", "/row/3/spaces"]
    made = client.post("/api/plans", json=body).json()
    assert (made["plan"]["name"], list(made["plan"]["circuits"])) == ("Ridge", ["fridge"])
    rooms = client.get("/api/library/rooms").json()
    assert all(item["running_w"] > 0 for room in rooms for item in room["brings"])
    assert len(client.get("/api/library/climates").json()) >= 12
