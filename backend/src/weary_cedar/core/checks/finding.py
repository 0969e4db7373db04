"""What a check says."""

from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

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
    answerable: bool
    answered: str | None = None
    missing: str = ""
    asks: Asks | None = None
    fix: dict[str, Any] | None = None


@dataclass(frozen=True)
class Hit:
    """A check triggers. The level is the catalogue's unless given; `fix` is a merge patch that remedies."""

    element: Element
    figures: tuple[Figure, ...] = ()
    level: Level | None = None
    detail: str = ""
    fix: dict[str, Any] | None = None
    question: str | None = None


@dataclass(frozen=True)
class Unknown:
    """A check cannot judge: what is missing, in words."""

    element: Element
    missing: str
    question: str | None = None


Said = Hit | Unknown
