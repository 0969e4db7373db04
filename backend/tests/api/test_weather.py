"""Weather files and the simulated forecast, as a client uses them."""

from datetime import date
from pathlib import Path

import pvlib
from fastapi.testclient import TestClient

from weary_cedar.stand_ins.forecast import forecast

FILE = Path(pvlib.__file__).parent / "data" / "723170TYA.CSV"
AT = "/api/plans/foothill-house"


def test_a_file_is_read_for_the_hours_of_the_plan_and_edits_it(client: TestClient) -> None:
    sent = {"file": ("year.csv", FILE.read_bytes())}
    read = client.post(f"{AT}/weather-file", files=sent, data={"as_on": "2027-01-14"}).json()
    assert len(read["hourly_c"]) == 97
    assert read["hourly_sun"]["name"].startswith("Greensboro")
    before = client.get(f"{AT}/run").json()
    part = {"hourly_c": read["hourly_c"], "hourly_sun": read["hourly_sun"]}
    patch = {"outage": {"weather": part}}
    revision = client.get(AT).json()["revision"]
    edited = client.patch(AT, json=patch, headers={"If-Match": f'"{revision}"'})
    assert edited.status_code == 200
    after = client.get(f"{AT}/run").json()
    assert before["suns"]["ground"]["offered_wh"] != after["suns"]["ground"]["offered_wh"]


def test_what_is_no_weather_file_names_the_file(client: TestClient) -> None:
    refused = client.post(f"{AT}/weather-file", files={"file": ("x", b"hello")})
    assert refused.status_code in (400, 422)
    assert refused.json()["problems"][0]["field"] == "/file"


def test_the_forecast_is_made_up_the_same_for_the_same_place_and_day(client: TestClient) -> None:
    query: dict[str, str | float] = {"latitude": 46.6, "longitude": 9.8, "first": "2027-01-24", "days": 7}
    told = client.get("/api/stand-ins/forecast", params=query).json()
    assert told == client.get("/api/stand-ins/forecast", params=query).json()
    assert (len(told["hourly_c"]), len(told["sky"]), told["name"]) == (168, 7, "simulated forecast")
    summer = client.get("/api/stand-ins/forecast", params={**query, "first": "2027-07-24"}).json()
    assert sum(summer["hourly_c"]) > sum(told["hourly_c"]) + 168 * 8


def test_every_kind_of_day_comes_some_time() -> None:
    skies = {kind for month in range(1, 13) for kind in forecast(60.0, 20.0, date(2027, month, 1), 30).sky}
    assert skies == {"clear", "haze", "broken_cloud", "overcast", "rain", "snow_on_panels"}
