"""Routes of gear, feeds, checks and sums, as a client uses them."""

import json
from typing import Any

import pytest
from fastapi.testclient import TestClient

from weary_cedar.demo import demo_plan

AT = "/api/plans/foothill-house"


def test_a_dangerous_edit_shows_in_the_same_answer(client: TestClient) -> None:
    patch = {"feeds": {"inlet": {"kind": "receptacle_backfeed", "breaker_spaces": []}}}
    view = client.patch(AT, json=patch, headers={"If-Match": '"1"'}).json()
    assert view["findings"][0]["check_id"] == "feed-male-plug"
    assert view["verdict"]["status"] == "cannot_judge"
    answer = {"check_answers": {"feed-male-plug@feeds/inlet": {"reason": "it is fine", "by": "me"}}}
    refused = client.patch(AT, json=answer, headers={"If-Match": '"2"'})
    assert refused.status_code == 422
    assert "cannot be answered" in refused.json()["problems"][0]["right"]


def test_every_arrangement_of_handles_is_looked_at(client: TestClient) -> None:
    sound = client.get(f"{AT}/arrangements").json()
    assert (sound["sound"], sound["handles"], sound["looked_at"], sound["dangers"]) == (True, 10, 2, [])
    client.patch(AT, json={"feeds": {"inlet": {"kind": "no_transfer"}}}, headers={"If-Match": '"1"'})
    found = client.get(f"{AT}/arrangements").json()
    assert [danger["code"] for danger in found["dangers"]] == ["back_feed", "live_blades"]
    last = found["dangers"][0]["acts"][-1]
    assert (last["what"], last["to"]) == ("feed_breaker/inlet", "on")
    finding = next(f for f in client.get(AT).json()["findings"] if f["check_id"] == "feed-no-transfer")
    assert finding["detail"].endswith("feed breaker of feed of Main panel on: 3 acts")


def test_clauses_come_in_the_edition_of_the_house(client: TestClient) -> None:
    edited = client.patch(AT, json={"site": {"code": "us_2020"}}, headers={"If-Match": '"1"'})
    assert edited.status_code == 200
    found = {clause["check_id"]: clause for clause in client.get(f"{AT}/clauses").json()}
    assert found["wet-no-gfci"]["source"] == "NFPA 70 (2020) 210.8, from memory"
    assert found["wet-no-gfci"]["differs"].startswith("Basements count")


def test_paths_survey_layouts_and_comparison(client: TestClient) -> None:
    (path,) = client.get(f"{AT}/paths").json()
    assert (path["pinch"], path["neutral_cell"]) == ("source", "right")
    asked = client.get(f"{AT}/survey").json()
    assert {"single-main", "legs-measured", "retainer"} <= {item["question_id"] for item in asked}
    found = client.get(f"{AT}/arrays/ground/layouts", params={"modules": 8}).json()
    assert found["layouts"][0]["fits"]
    assert found["layouts"][0]["day_wh"] > 5000
    assert found["day"] == "2026-10-13"
    assert client.get(f"{AT}/arrays/roof/layouts").status_code == 404
    options = client.get(f"{AT}/compare", params={"option": ["station", "split-7000"], "mean_w": 300}).json()
    assert [item["leg_va"] for item in options["options"]] == [3000.0, 3500.0]
    refused = client.get(f"{AT}/compare", params={"option": "magic"})
    assert refused.json()["problems"][0]["field"] == "/option"
    bigger = client.get(f"{AT}/compare", params={"option": "station", "generator": "open-5500"}).json()
    assert bigger["generator"] == "open-5500"
    assert bigger["options"][0]["generator_h_day"] < options["options"][0]["generator_h_day"] * 2
    alone = client.get(f"{AT}/compare", params={"option": "station", "generator": "none"}).json()
    assert (alone["generator"], alone["options"][0]["generator_h_day"]) == (None, None)
    wrong = client.get(f"{AT}/compare", params={"option": "station", "generator": "windmill"})
    assert wrong.json()["problems"][0]["field"] == "/generator"


def test_sums(client: TestClient) -> None:
    assert len(client.get("/api/sums").json()) >= 14
    found = client.post("/api/sums/cord", json={"length": "25 ft", "awg": "14", "amps": "2.5"}).json()
    assert {item["label"]: round(item["value"], 3) for item in found}["loop that a meter reads"] == 0.129
    assert client.post("/api/sums/magic", json={}).status_code == 404
    refused = client.post("/api/sums/cord", json={"length": "long"})
    assert refused.json()["problems"][0]["field"] == "/length"


def test_sums_of_a_plan_go_back_into_it(client: TestClient) -> None:
    known = client.get(f"{AT}/sums/motor", params={"about": "well"}).json()
    assert known["about"] == "well"
    assert {"id": "well", "name": "well pump"} in known["parts"]
    assert known["known"]["volts"] == 240
    found = client.post(
        f"{AT}/sums/motor", params={"about": "well"}, json={"hp": "1 hp", "running": "0"}
    ).json()
    start = next(item for item in found if item["label"] == "start at most")
    assert start["back"]["words"] == "start of well pump"
    view = client.patch(AT, json=start["back"]["patch"], headers={"If-Match": '"1"'}).json()
    assert view["plan"]["loads"]["well"]["start"]["va"] == round(start["value"])
    assert client.get(f"{AT}/sums/motor", params={"about": "gone"}).status_code == 404
    assert client.get(f"{AT}/sums/magic").status_code == 404
    none = client.get(f"{AT}/sums/legs").json()
    assert (none["parts"], none["about"]) == ([], None)


def test_plates_inventory_and_beginnings(client: TestClient) -> None:
    read = client.post("/api/plates/read", json={"kind": "dc_input", "text": "12-60V 15A"})
    assert read.json() == {"low_v": 12.0, "high_v": 60.0, "most_a": 15.0}
    refused = client.post("/api/plates/read", json={"kind": "ac_input", "text": "220-240 V"})
    assert refused.json()["problems"][0]["field"] == "/text"
    assert client.post("/api/plates/read", json={"kind": "soup", "text": ""}).status_code == 422
    owned = client.get(f"{AT}/inventory").json()
    assert owned["price"] > 0
    assert len(owned["items"]) == 8
    kinds = client.get("/api/library/behaviours").json()
    assert {key: value["kind"] for key, value in kinds.items()} == {key: key for key in kinds}
    assert {"fresh", "leads", "externals"} <= set(client.get("/api/library/gear").json())
    lines = client.post("/api/needs/read", json={"text": "Chest freezer 1 kWh/day\nAquarium 60 W"}).json()
    assert [line["role"] for line in lines] == ["food", None]


@pytest.mark.parametrize(("kind", "level"), [("no_transfer", "stop"), ("interlock_inlet", "note")])
def test_a_document_is_checked_without_storing_it(client: TestClient, kind: str, level: str) -> None:
    document: Any = json.loads(demo_plan().model_dump_json(exclude_none=True))
    document["feeds"]["inlet"]["kind"] = kind
    assert client.post("/api/check", json=document).json()[0]["level"] == level
