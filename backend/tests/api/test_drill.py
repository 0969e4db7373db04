"""The drill over the API: what fits, an exercise played and kept, a question judged."""

from fastapi.testclient import TestClient

AT = "/api/plans/foothill-house/drill"


def test_an_exercise_is_played_and_kept_once_it_is_over(client: TestClient) -> None:
    view = client.get(AT).json()
    assert "not the real panel" in view["caution"]
    assert view["readiness"]["sentence"].startswith("Never practised: 20")
    acts = [{"what": "feed_breaker/inlet", "to": "on"}]
    asked = {"exercise": "change-over/inlet", "acts": acts, "hint": True}
    found = client.post(f"{AT}/play", json=asked).json()
    assert "interlock holds" in found["stand"]["impossible"]
    assert found["hint"] == "Turn off every branch breaker of Main panel"
    assert client.get(AT).json()["readiness"]["sentence"].startswith("Never practised")
    over = client.post(f"{AT}/play", json={**asked, "finished": True, "person": "Ada"}).json()
    assert not over["score"]["passed"]
    after = client.get(AT).json()["readiness"]
    assert after["sentence"].startswith("0 of 20")
    assert [words[:33] for words in after["weakest"]] == ["Not read: Prove Main panel dead be"[:33]]
    (row,) = client.get(f"{AT}/record").json()
    assert (row["exercise"], row["person"], row["passed"]) == ("change-over/inlet", "Ada", False)
    assert client.get(f"{AT}/card.pdf").content.startswith(b"%PDF")


def test_what_is_wrong_is_named(client: TestClient) -> None:
    assert client.post(f"{AT}/play", json={"exercise": "none/x"}).status_code == 404
    wrong = client.post(
        f"{AT}/play", json={"exercise": "change-over/inlet", "acts": [{"what": "x", "to": "on"}]}
    )
    assert wrong.status_code == 422
    assert client.get(f"{AT}/question", params={"kind": "none"}).status_code == 404


def test_a_question_is_asked_without_its_answer_and_judged(client: TestClient) -> None:
    asked = client.get(f"{AT}/question", params={"kind": "breaker", "seed": 4}).json()
    assert "answer" not in asked
    assert asked["unit"] == "W"
    told = client.post(f"{AT}/answer", json={"kind": "breaker", "seed": 4, "value": 2400}).json()
    assert not told["right"] or "2,400" in asked["ask"]
    assert told["working"]


def test_a_whole_outage_is_played_weighed_and_kept(client: TestClient) -> None:
    chosen: list[str] = []
    for _ in range(12):
        found = client.post(f"{AT}/outage", json={"seed": 2, "chosen": chosen}).json()
        if found["stop"] is None:
            break
        chosen.append(found["stop"]["choices"][0]["key"])
    assert found["outcome"]["sentence"].startswith("Does not last")
    talk = client.post(f"{AT}/outage/talk", json={"seed": 2, "chosen": chosen, "person": "Ada"}).json()
    assert len(talk["choices"]) == len(chosen)
    kept = client.get(AT).json()
    assert [(row["exercise"], row["person"], row["passed"]) for row in kept["outages"]] == [
        ("whole-outage/2", "Ada", False)
    ]
    assert kept["readiness"]["sentence"].startswith("Never practised"), "it is no exercise of the panel"
    wrong = client.post(f"{AT}/outage", json={"seed": 2, "chosen": ["sing"]})
    assert (wrong.status_code, wrong.json()["problems"][0]["field"]) == (422, "/chosen/0")
    endless = client.post(f"{AT}/outage", json={"seed": 2, "chosen": ["go-on"] * 11})
    assert (endless.status_code, endless.json()["problems"][0]["field"]) == (422, "/body/chosen")
