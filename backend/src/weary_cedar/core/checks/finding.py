"""What a check says."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from weary_cedar.core.plan import Noun

Level = Literal["stop", "caution", "note", "cannot_judge"]
LEVELS: tuple[Level, ...] = ("stop", "caution", "cannot_judge", "note")


class Part(BaseModel):
    """A frozen part of a finding."""

    model_config = ConfigDict(frozen=True)


class Figure(Part):
    """What was found against what is allowed."""

    name: str
    value: float
    limit: float | None = None
    unit: str = ""


def told_figure(figure: Figure) -> str:
    """A figure in words: what was found, against what is allowed."""
    limit = f" against {four_figures(figure.limit)}" if figure.limit is not None else ""
    return f"{figure.name}: {four_figures(figure.value)}{limit} {figure.unit}".rstrip()


def four_figures(value: float) -> str:
    """A number in four figures, never with an exponent."""
    return f"{value:,.0f}" if abs(value) >= 1000 else f"{value:,.4g}"


class Element(Part):
    """The part of the plan that a finding is about."""

    room: str
    id: str
    name: str


class Asks(Part):
    """The question of the survey behind a finding, and the part of the plan that it is asked of."""

    question_id: str
    statement: str
    question: str
    room: str
    id: str


#: Dangerous without any outage; to be mended before the next one; permanent wiring. Common practice.
Who = Literal["today", "outage", "electrician"]


class Finding(Part):
    """One finding: element, figures, reason, remedy and source."""

    key: str
    check_id: str
    level: Level
    title: str
    element: Element
    figures: tuple[Figure, ...] = ()
    detail: str = ""
    why: str
    remedy: str
    source: str
    who: Who = Field(
        default="outage",
        description="who mends it and when: today, before the next outage, or an electrician",
    )
    answerable: bool
    answered: str | None = None
    missing: str = ""
    asks: Asks | None = None
    fix: dict[str, Any] | None = None
    amendment: str = Field(default="", description="what local rules add, as the plan notes it")
    fix_words: str = Field(default="", description="what the remedy does to the plan, where it is said")


#: At least one: what is there, against what may be, or the two that belong together.
Figures = tuple[Figure, *tuple[Figure, ...]]


@dataclass(frozen=True)
class Hit:
    """A check triggers: its figures, a level if not the catalogue's, and a merge patch that remedies."""

    element: Element
    figures: Figures
    level: Level | None = None
    detail: str = ""
    fix: dict[str, Any] | None = None
    question: str | None = None


@dataclass(frozen=True)
class Seen:
    """A check triggers on what is so and has no figure: only where the catalogue's row says that."""

    element: Element
    level: Level | None = None
    detail: str = ""
    fix: dict[str, Any] | None = None
    question: str | None = None


def not_read(element: Element, part: Noun, name: str) -> "Unknown":
    """What cannot be judged for a figure of a plate that nobody has read."""
    return Unknown(element, part.plate_figures()[name].words)


@dataclass(frozen=True)
class Unknown:
    """A check cannot judge: what is missing, in words."""

    element: Element
    missing: str
    question: str | None = None


#: What a check says that gives its figures, and one whose row has none to give, or not always.
Said = Hit | Unknown
Told = Hit | Seen | Unknown


def shown(
    element: Element,
    figures: Sequence[Figure],
    level: Level | None = None,
    detail: str = "",
    fix: dict[str, Any] | None = None,
) -> Hit | Seen:
    """A hit with the figures that are known, or without where none is."""
    if figures:
        return Hit(element, (figures[0], *figures[1:]), level, detail, fix)
    return Seen(element, level, detail, fix)
