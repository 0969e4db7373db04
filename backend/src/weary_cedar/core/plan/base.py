"""What all nouns of a plan share."""

from datetime import datetime, time
from typing import Annotated, Literal, TypeVar

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints, WithJsonSchema


class Noun(BaseModel):
    """A frozen, strict part of a plan: nothing extra, nothing coerced, nothing infinite."""

    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, allow_inf_nan=False)


Id = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9_-]{0,39}$")]
Name = Annotated[str, StringConstraints(min_length=1, max_length=80, strip_whitespace=True)]
Remark = Annotated[str, StringConstraints(max_length=500)]

#: Where a figure comes from; it decides how sure the result is.
Origin = Literal["measured", "plate", "estimate", "library"]

#: What a survey of the house found; unknown is never taken for fine.
Answer = Literal["yes", "no", "unknown"]

#: Answers to the questions of the survey, by question; a question without an answer is unknown.
Survey = dict[Id, Answer]

Watts = Annotated[float, Field(ge=0, le=100_000)]
VoltAmps = Annotated[float, Field(ge=0, le=200_000)]
WattHours = Annotated[float, Field(ge=0, le=2_000_000)]
Amps = Annotated[float, Field(gt=0, le=1_000)]
Seconds = Annotated[float, Field(ge=0, le=31 * 86_400)]
Percent = Annotated[float, Field(ge=0, le=100)]
PowerFactor = Annotated[float, Field(gt=0, le=1)]
Celsius = Annotated[float, Field(ge=-60, le=60)]
Volts = Annotated[float, Field(gt=0, le=2_000)]
Metres = Annotated[float, Field(ge=0, le=500)]

Degrees = Annotated[float, Field(ge=0, lt=360)]
Money = Annotated[float, Field(ge=0, le=1_000_000)]
Litres = Annotated[float, Field(ge=0, le=100_000)]


class Owned(Noun):
    """Something that a household has or thinks of buying: where it is, what it costs and weighs."""

    place_id: Id | None = None
    price: Money | None = None
    weight_kg: Annotated[float, Field(ge=0, le=5_000)] | None = None


AnyClock = TypeVar("AnyClock", datetime, time)


def _without_offset(value: AnyClock) -> AnyClock:
    if value.tzinfo is not None:
        raise ValueError("should be local time of the site without an offset")
    return value


CLOCK = r"\d{2}:\d{2}(:\d{2}(\.\d{1,6})?)?"

#: Time of day on the site's clock.
LocalTime = Annotated[
    time,
    AfterValidator(_without_offset),
    WithJsonSchema(
        {"type": "string", "pattern": r"^\d{2}:\d{2}(:\d{2}(\.\d{1,6})?)?$", "examples": ["18:00:00"]}
    ),
]
#: A moment on the site's clock.
LocalMoment = Annotated[
    datetime,
    AfterValidator(_without_offset),
    WithJsonSchema(
        {
            "type": "string",
            "pattern": rf"^\d{{4}}-\d{{2}}-\d{{2}}T{CLOCK}$",
            "examples": ["2026-10-13T18:00:00"],
        }
    ),
]
