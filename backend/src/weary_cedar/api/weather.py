"""Routes of weather: files of a typical year, and the simulated forecast."""

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Form, Query, Response, UploadFile
from pydantic import BaseModel

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.core.plan import Sky, Weather, read_plan
from weary_cedar.formats.weather_file import read_weather
from weary_cedar.stand_ins.forecast import forecast

router = APIRouter(prefix="/api", tags=["weather"])

Degrees = Annotated[float, Query(ge=-180, le=180)]


class Forecast(BaseModel):
    """What the simulated service says: temperature by the hour from midnight, the sky by day."""

    name: str
    hourly_c: tuple[float, ...]
    sky: tuple[Sky, ...]


@router.post("/plans/{plan_id}/weather-file", response_model=Weather, responses=documented(404, 413, 422))
def weather_file(
    desk: AtDesk, plan_id: PlanId, file: UploadFile, as_on: Annotated[date | None, Form()] = None
) -> Response:
    """Read an EPW or TMY3 file for the hours of a plan's outage; nothing is stored."""
    document = desk.store.get(plan_id).document
    return desk.answer_from("weather", _read, file.file.read(), document, as_on)


def _read(content: bytes, document: str, as_on: date | None) -> bytes:
    plan = read_plan(document)
    start = plan.site.instant(plan.outage.start_local, 0.0)
    return read_weather(content, start, plan.outage.length_s, as_on).model_dump_json().encode()


@router.get("/stand-ins/forecast", responses=documented(422))
def stand_in_forecast(
    latitude: Degrees, longitude: Degrees, first: date, days: Annotated[int, Query(ge=1, le=32)] = 7
) -> Forecast:
    """A simulated forecast: made up, the same for the same place and day."""
    found = forecast(latitude, longitude, first, days)
    return Forecast(name=found.name, hourly_c=found.hourly_c, sky=found.sky)
