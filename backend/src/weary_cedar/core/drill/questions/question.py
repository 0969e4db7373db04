"""A question: what is asked, the answer with its working, and slips with what each would give."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from pydantic import BaseModel, ConfigDict

from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import Plan

Dice = np.random.Generator
#: An answer is right within this share, or within half a unit of what is asked.
NEAR = 0.03


class NotHere(Exception):
    """This plan makes a kind of question meaningless, and why."""


class Slip(BaseModel):
    """A usual slip, and what it would give: a figure, or one of the choices."""

    model_config = ConfigDict(frozen=True)

    words: str
    value: float | None = None
    choice: int | None = None


class Question(BaseModel):
    """A question with a figure, or with one of some choices, as its answer."""

    model_config = ConfigDict(frozen=True)

    kind: str
    title: str
    ask: str
    #: Of the figure that is asked for; empty where one chooses.
    unit: str = ""
    answer: float | None = None
    choices: tuple[str, ...] = ()
    right: int | None = None
    #: How it is worked out, step by step.
    working: tuple[str, ...]
    slips: tuple[Slip, ...] = ()
    #: Figures that are told in it, in SI or the unit of the trade.
    given: dict[str, float] = {}
    #: 1 easy, 3 hard.
    level: int = 1

    def fits(self, value: float) -> bool:
        """Whether a figure is near enough to the answer."""
        return self.answer is not None and abs(value - self.answer) <= max(
            NEAR * abs(self.answer), 0.5 * self.step
        )

    @property
    def step(self) -> float:
        """What the answer is rounded to, as people would."""
        size = abs(self.answer or 0.0)
        return 0.01 if size < 2 else 0.1 if size < 20 else 1.0 if size < 1000 else 10.0


class Answered(BaseModel):
    """What came of an answer."""

    right: bool
    words: str
    slip: str = ""
    working: tuple[str, ...] = ()


@dataclass(frozen=True)
class Facts:
    """What questions are made from: the plan, and its run."""

    plan: Plan
    run: RunResult

    def one(self, room: str, dice: Dice) -> tuple[str, Any]:
        """One part of a room, by the dice.

        Raises:
            NotHere: there is none.
        """
        parts = list(getattr(self.plan, room).items())
        if not parts:
            raise NotHere(f"the plan has no {NOUNS.get(room, room)}")
        found: tuple[str, Any] = parts[int(dice.integers(len(parts)))]
        return found

    @property
    def leg_v(self) -> float:
        """Volts of one leg."""
        return self.plan.site.leg_volts

    @property
    def split(self) -> bool:
        """Whether the house has two legs."""
        return self.plan.site.split_phase


NOUNS = {
    "stations": "station",
    "arrays": "modules",
    "generators": "engine",
    "loads": "loads",
    "feeds": "feed",
}
Make = Callable[[Facts, Dice], Question]


@dataclass(frozen=True)
class Kind:
    """A kind of question: its title, and how one is made."""

    key: str
    title: str
    level: int
    make: Make = field(repr=False)


KINDS: dict[str, Kind] = {}


def kind(key: str, title: str, level: int = 1) -> Callable[[Make], Make]:
    """Register a kind of question."""

    def registered(make: Make) -> Make:
        KINDS[key] = Kind(key, title, level, make)
        return make

    return registered


def figure(
    key: str,
    ask: str,
    unit: str,
    answer: float,
    working: list[str],
    given: dict[str, float],
    slips: list[tuple[float, str]],
) -> Question:
    """A question with a figure as its answer; slips that give nearly the answer are left out."""
    of = KINDS[key]
    made = Question(
        kind=key,
        title=of.title,
        level=of.level,
        ask=ask,
        unit=unit,
        answer=answer,
        working=tuple(working),
        given=given,
    )
    kept: list[Slip] = []
    for value, words in slips:
        apart = all(abs(value - (slip.value or 0.0)) > NEAR * abs(value) for slip in kept)
        if not made.fits(value) and apart and value >= 0:
            kept.append(Slip(words=words, value=value))
    return made.model_copy(update={"slips": tuple(kept)})


def choice(
    key: str,
    ask: str,
    right: str,
    wrong: list[tuple[str, str]],
    working: list[str],
    dice: Dice,
    given: dict[str, float] | None = None,
) -> Question:
    """A question with choices: the right one, and wrong ones each with the slip that leads to it."""
    of = KINDS[key]
    every = [(right, ""), *wrong]
    order = dice.permutation(len(every))
    choices = tuple(every[int(place)][0] for place in order)
    slips = tuple(
        Slip(words=every[int(place)][1], choice=index) for index, place in enumerate(order) if int(place)
    )
    return Question(
        kind=key,
        title=of.title,
        level=of.level,
        ask=ask,
        choices=choices,
        right=choices.index(right),
        working=tuple(working),
        slips=slips,
        given=given or {},
    )
