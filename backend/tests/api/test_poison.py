"""Nothing that is accepted breaks a plan; what is broken already can be mended; no plan harms another."""

import json
import re
from typing import Any

import pytest
from builders import circuit, cycling, house, load
from fastapi.testclient import TestClient
from sqlalchemy import text

from weary_cedar.core.decide.needs import need_list
from weary_cedar.core.plan import read_plan
from weary_cedar.store.database import DataFolder
from weary_cedar.store.edits import made_of
from weary_cedar.store.plans import PlanStore
from weary_cedar.workshop import derivation, edits

AT = "/api/plans/foothill-house"


def test_a_start_of_nothing_is_refused_and_the_plan_still_opens(client: TestClient) -> None:
    edit = {"loads": {"fridge": {"start": {"va": 0}}}}
    refused = client.patch(AT, json=edit, headers={"If-Match": '"1"'})
    assert refused.status_code == 422
    assert refused.json()["problems"][0]["field"] == "/loads/fridge/start/va"
    assert "leave it out" in refused.json()["problems"][0]["right"]
    assert client.get(AT).json()["revision"] == 1


def test_a_stored_plan_that_cannot_be_opened_says_why_and_every_way_back_works(
    client: TestClient, folder: DataFolder
) -> None:
    client.post("/api/plans", json={"name": "Other", "begin": "empty"})
    good = client.post(f"{AT}/duplicate").json()["id"]
    at = f"/api/plans/{good}"
    client.patch(at, json={"circuits": {"bath": {"mark": "keep"}}}, headers={"If-Match": '"1"'})
    assert folder.engine is not None
    with folder.engine.begin() as connection:
        bad = "UPDATE revisions SET document = json_set(document, '$.loads.fridge.start.va', 0.0)"
        connection.execute(text(bad + " WHERE plan_id = :id AND number = 2"), {"id": good})
    told = client.get(at)
    assert told.status_code == 422
    problem = told.json()
    assert problem["title"] == "This plan cannot be opened"
    assert problem["stored"] == {
        "id": good,
        "name": "Foothill house, copy",
        "revision": 2,
        "can_undo": True,
        "can_redo": False,
    }
    assert [item["field"] for item in problem["problems"]] == ["/loads/fridge/start/va"]
    assert {line["id"] for line in client.get("/api/plans").json()} >= {good, "other"}
    assert client.get("/api/plans/other").status_code == 200
    assert client.get(f"{at}/history").json()["kept"] == 2
    assert json.loads(client.get(f"{at}/file").content)["name"] == "Foothill house, copy"
    mend = {"loads": {"fridge": {"start": {"va": 900.0}}}}
    assert client.patch(at, json=mend, headers={"If-Match": '"2"'}).status_code == 200
    assert client.post(f"{at}/undo", headers={"If-Match": '"3"'}).status_code == 422
    assert client.post(f"{at}/revisions/1/restore", headers={"If-Match": '"3"'}).status_code == 200


def too_much() -> dict[str, Any]:
    loads = {f"l{n}": load("a", cycling(1.0, 0.5, 10.0)) for n in range(4)}
    return house({"a": circuit([1])}, loads, outage={"length_s": 6 * 86_400.0})


def test_an_edit_that_makes_the_run_endless_is_refused_with_the_load(client: TestClient) -> None:
    document = too_much()
    length_s = document["outage"].pop("length_s")
    document["outage"]["length_s"] = 3_600.0
    begun = client.post("/api/plans/import", files={"file": ("p.json", json.dumps(document))})
    at = f"/api/plans/{begun.json()['id']}"
    refused = client.patch(at, json={"outage": {"length_s": length_s}}, headers={"If-Match": '"1"'})
    assert refused.status_code == 422
    assert "changes more than" in refused.json()["detail"]
    restless, length = (problem["field"] for problem in refused.json()["problems"])
    assert re.fullmatch("/loads/l[0-9]+/behaviour", restless)
    assert length == "/outage/length_s"
    assert client.get(at).json()["revision"] == 1
    assert client.post("/api/run", content=json.dumps(too_much())).status_code == 422


def test_a_stored_plan_that_cannot_be_run_shows_the_rest_and_takes_edits(
    client: TestClient, folder: DataFolder, store: PlanStore
) -> None:
    """As a version before the limit may have stored it: nothing of it is judged, everything else opens."""
    stored = store.create(read_plan(too_much()))
    at = f"/api/plans/{stored.id}"
    view = client.get(at).json()
    assert view["verdict"]["status"] == "cannot_judge"
    assert "changes more than" in view["verdict"]["sentence"]
    assert {item["sheet"] for item in view["failed"]} >= {"run"}
    assert client.get(f"{at}/run").status_code == 422
    assert client.get(f"{at}/needs").status_code == 200
    assert client.get(f"{at}/panels/main/schedule.pdf").content[:4] == b"%PDF"
    still = client.patch(at, json={"loads": {"l3": None}}, headers={"If-Match": '"1"'})
    assert (still.status_code, len(still.json()["failed"]) > 0) == (200, True)
    mended = client.patch(at, json={"outage": {"length_s": 3600.0}}, headers={"If-Match": '"2"'})
    assert (mended.json()["failed"], mended.json()["verdict"]["status"]) == ([], "lasts")


def test_a_fault_is_shown_and_an_edit_that_causes_it_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    """The other sheets stand; the fault knows no field, so what was edited is named."""
    document = made_of(read_plan(house({"a": circuit([1])}, {}))).document

    def fails(plan: Any) -> Any:
        if plan.panels["main"].main_a < 50:
            raise ZeroDivisionError("by nothing")
        return need_list(plan)

    monkeypatch.setattr(derivation, "need_list", fails)
    fine = edits.edit(document, None, 1, b'{"panels": {"main": {"main_a": 60}}}')
    assert fine is not None
    assert fine.derivation.failed == {}
    changed = edits.edit(document, None, 1, b'{"panels": {"main": {"main_a": 40}}}')
    assert changed is not None
    assert set(changed.derivation.failed) == {"needs"}
    assert b'"sheet":"needs"' in changed.derivation.sheets["view"]
    assert changed.derivation.sheets["run"]
    why = changed.derivation.failed["needs"]
    assert "ZeroDivisionError" in why.trace
    refused = edits.refusal(changed.derivation.failed, changed.touched)
    assert "needs failed with ZeroDivisionError" in refused.detail
    assert [(p.field, p.value) for p in refused.problems] == [("/panels/main/main_a", "40")]
