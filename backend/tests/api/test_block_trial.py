"""A block that is only tried: the whole outage, or as much of it as is asked for."""

import json
from typing import Any

import pytest
from fastapi.testclient import TestClient

AT = "/api/plans/foothill-house"


def deed(client: TestClient) -> dict[str, Any]:
    lanes = client.get(f"{AT}/blocks").json()
    block = next(lane for lane in lanes if lane["lane"] == "engine")["blocks"][0]
    return {"deed": "move", "key": block["key"], "at_s": block["at_s"] + 7_200.0, "for_s": block["for_s"]}


def test_the_first_part_of_a_trial_is_that_of_the_whole(client: TestClient) -> None:
    moved = deed(client)
    whole = client.post(f"{AT}/blocks/try", json=moved).json()
    first = client.post(f"{AT}/blocks/try?until_s=86400", json=moved).json()
    assert (whole["until_s"], first["until_s"]) == (whole["run"]["length_s"], 86_400.0)
    assert first["run"]["length_s"] == whole["run"]["length_s"]
    assert first["lanes"] == whole["lanes"]
    rows = [row for row, t in enumerate(whole["run"]["series"]["t_s"]) if t < 86_000]
    for name in ("t_s", "stored_wh", "a_va", "b_va"):
        mine, theirs = first["run"]["series"][name], whole["run"]["series"][name]
        assert mine[: len(rows)] == pytest.approx([theirs[row] for row in rows])


def test_how_far_it_is_tried_is_checked(client: TestClient) -> None:
    moved = deed(client)
    assert client.post(f"{AT}/blocks/try?until_s=9e9", json=moved).json()["until_s"] == 4 * 86_400.0
    refused = client.post(f"{AT}/blocks/try?until_s=0", json=moved)
    assert refused.status_code == 422
    assert "until_s" in refused.text


@pytest.mark.parametrize("figure", ["NaN", "1e308", "-Infinity"])
@pytest.mark.parametrize("field", ["at_s", "for_s"])
def test_a_block_is_never_moved_to_no_number(client: TestClient, field: str, figure: str) -> None:
    moved = json.dumps(deed(client) | {field: "here"}).replace('"here"', figure)
    for to in ("blocks/try", "blocks"):
        refused = client.post(f"{AT}/{to}", content=moved, headers={"If-Match": '"1"'})
        assert refused.status_code in (400, 422), refused.text
        assert refused.json()["problems"], refused.text
