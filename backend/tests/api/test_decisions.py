"""The chance over the API: step by step, remembered, refused by name, held under a stop."""

from fastapi.testclient import TestClient

AT = "/api/plans/foothill-house"


def test_the_chance_comes_in_steps_and_what_was_run_is_remembered(client: TestClient) -> None:
    first = client.get(f"{AT}/chance", params={"outages": 4}).json()
    second = client.get(f"{AT}/chance", params={"outages": 8}).json()
    assert (first["outages"], second["outages"]) == (4, 8)
    fewer = client.get(f"{AT}/chance", params={"outages": 4}).json()
    assert fewer == second, "what is known already is told"
    asked: dict[str, str | int] = {"outages": 4, "begins": "any_hour", "one_in_ten_s": 864_000}
    assert client.get(f"{AT}/chance", params=asked).json() != first


def test_what_cannot_be_asked_is_refused_by_name(client: TestClient) -> None:
    wrong: dict[str, str | float] = {
        "outages": 501,
        "no_start": 1.5,
        "one_in_ten_s": 60,
        "begins": "later",
        "fog": 1,
    }
    for field, value in wrong.items():
        got = client.get(f"{AT}/chance", params={field: value})
        assert (got.status_code, field in got.text) == (422, True), field
    assert client.get("/api/plans/none/chance").status_code == 404


def test_no_chance_is_told_of_what_must_not_be_energised(client: TestClient) -> None:
    plan = client.get(AT)
    feed = next(iter(plan.json()["plan"]["feeds"]))
    patch = {"feeds": {feed: {"kind": "no_transfer"}}}
    edited = client.patch(AT, json=patch, headers={"if-match": plan.headers["etag"]})
    assert edited.status_code == 200, edited.text
    found = client.get(f"{AT}/chance").json()
    assert found["outages"] == 0
    assert found["why_not"].startswith("this must not be energised: ")


def test_suggestions_come_with_their_patches(client: TestClient) -> None:
    plan = client.get(AT)
    patch = {"outage": {"changeover_after_s": 7_200.0}}
    client.patch(AT, json=patch, headers={"if-match": plan.headers["etag"]})
    found = client.get(f"{AT}/suggestions").json()
    enough = next(item for item in found["singles"] if item["lasts"])
    edited = client.patch(AT, json=enough["patch"], headers={"if-match": client.get(AT).headers["etag"]})
    assert edited.json()["verdict"]["status"] == "lasts"
    assert client.get(f"{AT}/suggestions").json()["lasts"]


def test_how_much_to_buy_comes_in_pieces_until_it_is_done(client: TestClient) -> None:
    asked = {"days": 2, "chance": 0.8}
    found = client.get(f"{AT}/size", params=asked).json()
    assert found["days"] == 2
    assert found["outages"] > 0
    for _ in range(120):
        more = client.get(f"{AT}/size", params=asked).json()
        assert more["outages"] >= found["outages"]
        found = more
        if found["done"]:
            break
    assert found["done"]
    assert found["choices"]
    assert client.get(f"{AT}/size", params={"days": 60}).status_code == 422
    patch = found["choices"][0]["patch"]
    made = client.post(f"{AT}/variants/changed", json=patch)
    assert made.status_code == 201
    assert made.json()["variant_of"] == "foothill-house"
    assert (
        client.post(f"{AT}/variants/changed", json={"loads": {"fridge": {"circuit_id": "x"}}}).status_code
        == 422
    )


def test_answers_about_one_plan(client: TestClient) -> None:
    when = client.get(f"{AT}/schedule", params={"outages": 0}).json()
    assert when["better"]
    assert when["patch"]["strategy"]["rules"]
    assert client.get(f"{AT}/schedule", params={"from_s": -1}).status_code == 422
    assert client.get(f"{AT}/heat").json()["choices"][0]["which"] == "station"
    assert client.get(f"{AT}/ways-in").json()["ways"][0]["way"] == "cords"
    assert client.get(f"{AT}/for-ever").json()["days"][0]["holds"]


def test_an_outage_of_the_chance_opens_as_a_variant_that_goes_alike(client: TestClient) -> None:
    found = client.get(f"{AT}/chance", params={"outages": 20}).json()
    made = client.post(f"{AT}/variants/outage", params={"number": found["worst"]})
    assert made.status_code == 201
    variant = made.json()
    assert variant["variant_of"] == "foothill-house"
    assert variant["verdict"]["status"] == ("lasts" if found["lasted"] == 20 else "does_not_last")
    assert client.post(f"{AT}/variants/outage", params={"number": 5_000}).status_code == 422
