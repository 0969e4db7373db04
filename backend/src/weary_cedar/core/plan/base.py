"""What all nouns of a plan share."""

from dataclasses import dataclass
from datetime import datetime, time
from functools import cache
from typing import Annotated, Any, Literal, TypeVar

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    GetCoreSchemaHandler,
    GetJsonSchemaHandler,
    SerializerFunctionWrapHandler,
    StringConstraints,
    Tag,
    WithJsonSchema,
    model_serializer,
)
from pydantic_core import CoreSchema, PydanticCustomError, core_schema

#: How a file says that a figure of a plate is not known.
NOT_KNOWN = "unknown"


def word_or_said(value: Any) -> str:
    """Which of both stands for a figure that is a group or a list: the word, or what is said."""
    return "word" if isinstance(value, str) else "nothing" if value is None else "said"


TheWord = Annotated[Literal["unknown"], Tag("word")]
Nothing = Annotated[None, Tag("nothing")]


@dataclass(frozen=True)
class OnPlate:
    """Marks a figure that a plate or a manual gives, and that may be unknown: none here, "unknown" in files.

    What needs it says that it cannot be judged; a run counts with what is usual and says so. Files may say
    null, too; a word is written, since null in a merge patch takes the field away.
    """

    words: str
    unit: str = ""
    #: What a run counts with while it is not known; what the field says if absent where nothing stands here.
    usual: Any = None
    #: Whether the word stands here, too: where nothing means that there is none, or a list may stand.
    keeps_word: bool = False

    def unread(self, value: Any) -> bool:
        """Whether a value says that the figure is not known."""
        return bool(value == NOT_KNOWN if self.keeps_word else value is None)

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        """Read the word as nothing."""
        schema = handler(source)
        if self.keeps_word:
            return schema
        return core_schema.no_info_before_validator_function(
            lambda value: None if value == NOT_KNOWN else value, schema
        )

    def __get_pydantic_json_schema__(
        self, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        """Tell the word beside what the figure may be."""
        found = handler(schema)
        if self.keeps_word:
            return found
        options = [
            one for one in found.pop("anyOf") if one != {"type": "null"} or handler.mode == "validation"
        ]
        return {**found, "anyOf": [*options, {"const": NOT_KNOWN, "type": "string"}]}


class Noun(BaseModel):
    """A frozen, strict part of a plan: nothing extra, nothing coerced, nothing infinite."""

    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, allow_inf_nan=False)

    @classmethod
    @cache
    def plate_figures(cls) -> dict[str, OnPlate]:
        """Its figures that may be unknown, by field."""
        return {
            name: mark
            for name, field in cls.model_fields.items()
            for mark in field.metadata
            if isinstance(mark, OnPlate)
        }

    @model_serializer(mode="wrap")
    def _with_the_word(self, told: SerializerFunctionWrapHandler):  # type: ignore[no-untyped-def]  # noqa: ANN202
        """Write the word for every figure that is not known, also where nothing is left out."""
        written = told(self)
        for name in self.unread():
            written[name] = NOT_KNOWN
        for name in self.said_to_be_none():
            if getattr(self, name) is None:
                written.setdefault(name, None)
        return written

    @classmethod
    @cache
    def said_to_be_none(cls) -> tuple[str, ...]:
        """Its fields that are something when nothing is said: that there is none is written, too."""
        return tuple(
            name
            for name, field in cls.model_fields.items()
            if not field.is_required()
            and field.get_default(call_default_factory=True) is not None
            and name not in cls.plate_figures()
        )

    def unread(self) -> dict[str, OnPlate]:
        """Its figures that are not known, by field."""
        return {name: mark for name, mark in self.plate_figures().items() if mark.unread(getattr(self, name))}

    def counted(self, name: str) -> Any:
        """What a run counts with for a figure of a plate: as said, or what is usual while it is not known."""
        value = getattr(self, name)
        return self.usual_figure(name) if self.plate_figures()[name].unread(value) else value

    def usual_figure(self, name: str) -> Any:
        """What is usual for a figure of a plate."""
        mark = self.plate_figures()[name]
        return type(self).model_fields[name].default if mark.usual is None else mark.usual


@dataclass(frozen=True)
class Ref:
    """A field that names parts of the plan, and what becomes of its noun when one of them is taken away.

    It goes, too; or it lets go of the part, with other fields that make no sense without it; or, where the
    field is a list or has ids for keys, that item is dropped, and the noun goes with less than `least`.
    """

    room: str
    gone: Literal["goes", "lets_go"] = "goes"
    least: int = 0
    with_it: tuple[str, ...] = ()

    @property
    def rooms(self) -> tuple[str, ...]:
        """The rooms in which the part may be."""
        return tuple(self.room.split("|"))


@dataclass(frozen=True)
class Bounds:
    """Least and greatest value of a figure, with the reason in words."""

    least: float
    most: float
    why: str

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        """Check after the type was checked."""
        return core_schema.no_info_after_validator_function(self._within, handler(source))

    def __get_pydantic_json_schema__(
        self, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        """Tell both bounds."""
        return {**handler(schema), "minimum": self.least, "maximum": self.most}

    def _within(self, value: float) -> float:
        if not self.least <= value <= self.most:
            figures = {"least": f"{self.least:,.10g}", "most": f"{self.most:,.10g}", "why": self.why}
            raise PydanticCustomError("bounds", "should be from {least} to {most}: {why}", figures)
        return value


Id = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9_-]{0,39}$")]
Name = Annotated[str, StringConstraints(min_length=1, max_length=80, strip_whitespace=True)]
Remark = Annotated[str, StringConstraints(max_length=500)]

#: Where a figure comes from; it decides how sure the result is.
Origin = Literal["measured", "plate", "estimate", "library"]

#: What a survey of the house found; unknown is never taken for fine.
Answer = Literal["yes", "no", "unknown"]

#: Answers to the questions of the survey, by question; a question without an answer is unknown.
Survey = dict[Id, Answer]

Watts = Annotated[float, Bounds(0, 100_000, "nothing draws less than nothing, and no house carries more")]
WattHours = Annotated[float, Bounds(0, 2_000_000, "more is no household")]
Amps = Annotated[float, Bounds(0.01, 1_000, "nothing that is rated less than 10 mA matters here")]
Seconds = Annotated[float, Bounds(0, 31 * 86_400, "times are counted for a month at most")]
Percent = Annotated[float, Bounds(0, 100, "a share of the whole")]
PowerFactor = Annotated[float, Bounds(0.05, 1, "no appliance is under 0.05")]
Celsius = Annotated[float, Bounds(-60, 60, "°C; people live nowhere colder or hotter")]
Volts = Annotated[float, Bounds(0.1, 2_000, "less than 0.1 V drives nothing here")]
Metres = Annotated[float, Bounds(0, 500, "no cord of a house is longer")]

Degrees = Annotated[float, Field(ge=0, lt=360)]
Money = Annotated[float, Bounds(0, 1_000_000, "more is no household")]
Litres = Annotated[float, Bounds(0, 100_000, "more is no household")]


class Owned(Noun):
    """Something that a household has or thinks of buying: where it is, what it costs and weighs."""

    place_id: Annotated[Id | None, Ref("places", "lets_go")] = None
    price: Money | None = None
    weight_kg: Annotated[float, Field(ge=0, le=5_000)] | None = None


AnyClock = TypeVar("AnyClock", datetime, time)


#: Years that an outage may be in: calendars and the sun are sure of these.
FIRST_YEAR, LAST_YEAR = 2000, 2099


def _in_these_years(value: datetime) -> datetime:
    if not FIRST_YEAR <= value.year <= LAST_YEAR:
        raise ValueError(f"should be in the years {FIRST_YEAR} to {LAST_YEAR}: the sun is computed for these")
    return value


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
    AfterValidator(_in_these_years),
    WithJsonSchema(
        {
            "type": "string",
            "pattern": rf"^\d{{4}}-\d{{2}}-\d{{2}}T{CLOCK}$",
            "examples": ["2026-10-13T18:00:00"],
        }
    ),
]
