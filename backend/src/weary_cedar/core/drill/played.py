"""An exercise played from a file, or so far on a screen: what stands, what may be chosen, what came of it."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from weary_cedar.core.drill.chosen import first_choices, score_first, score_search, search
from weary_cedar.core.drill.exercise import Exercise, Listing, exercises_of, sheet_of
from weary_cedar.core.drill.order import Stand, played
from weary_cedar.core.drill.score import Score
from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.core.handles.elements import elements_of
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.base import Noun
from weary_cedar.core.plan.reading import parse, read_part
from weary_cedar.core.runbook.sheet import Sheet
from weary_cedar.core.runbook.steps import Move

Words = Annotated[str, Field(max_length=400)]


class DrillSteps(Noun):
    """What was done: acts on handles (`look` reads what is due), or what was chosen, by its words."""

    acts: Annotated[tuple[Move, ...], Field(max_length=2_000)] = ()
    chosen: Annotated[tuple[Words, ...], Field(max_length=200)] = ()


class Handle(BaseModel):
    """Something that can be moved: its key, its name, its positions."""

    model_config = ConfigDict(frozen=True)

    key: str
    name: str
    positions: tuple[str, ...]


class Moment(BaseModel):
    """Where one chooses: what is done, what is seen then, and what may follow."""

    model_config = ConfigDict(frozen=True)

    action: str
    seen: str
    choices: tuple[str, ...]


class Played(BaseModel):
    """An exercise so far."""

    model_config = ConfigDict(frozen=True)

    exercise: Exercise
    score: Score
    handles: tuple[Handle, ...] = ()
    stand: Stand | None = None
    moment: Moment | None = None
    #: The next step of the sheet, where a hint was asked for.
    hint: str = ""


@dataclass(frozen=True)
class Drill:
    """The exercises of a plan with the sheets that they are made from."""

    plan: Plan
    sheets: Sequence[Sheet]
    listing: Listing

    @classmethod
    def of(cls, plan: Plan, sheets: Sequence[Sheet]) -> "Drill":
        """The drill of a plan out of its sheets."""
        return cls(plan, sheets, exercises_of(plan, sheets))

    def exercise(self, key: str) -> Exercise:
        """An exercise by its key.

        Raises:
            NotFound: it does not fit this plan, with why; or there is none of that kind.
        """
        found = next((one for one in self.listing.exercises if one.key == key), None)
        if found is not None:
            return found
        kind = key.partition("/")[0]
        own = [one.key for one in self.listing.exercises if one.kind == kind]
        why = self.listing.not_here.get(kind, "")
        known = ", ".join(own or [one.key for one in self.listing.exercises])
        right = f"another: {why}" if why else f"one of {known}"
        problem = Problem("/exercise", shown(key), right[:300])
        raise NotFound(str(problem), (problem,))

    def play(
        self, key: str, steps: DrillSteps, seed: int = 1, hints: int = 0, *, hint: bool = False
    ) -> Played:
        """An exercise after what was done.

        Args:
            key: of the exercise.
            steps: what was done so far, from the beginning.
            seed: hides the cause of a search.
            hints: how many were asked for.
            hint: whether the next step is told.

        Raises:
            NotFound: no such exercise of this plan.
            InvalidInput: an element or a position that there is not.
        """
        exercise = self.exercise(key)
        sheet = sheet_of(exercise, self.sheets)
        if exercise.form == "order":
            play = played(self.plan, exercise, sheet, steps.acts)
            return Played(
                exercise=exercise, score=play.score(hints), stand=play.stand(),
                handles=tuple(
                    Handle(key=key, name=element.name, positions=tuple(element.positions))
                    for key, element in elements_of(self.plan).items()
                ),
                hint=play.next_step() if hint else "",
            )  # fmt: skip
        if exercise.form == "first":
            score = score_first(exercise, sheet, steps.chosen, hints)
            every = first_choices(exercise, sheet, seed)
            choices = tuple(words for words in every if words not in steps.chosen)
            right = sheet.first[exercise.number].do
            told = right[len(steps.chosen)] if hint and len(steps.chosen) < len(right) else ""
            moment = Moment(action=exercise.tells, seen="", choices=choices)
            return Played(exercise=exercise, score=score, moment=moment, hint=told)
        score = score_search(exercise, sheet, steps.chosen, seed, hints)
        way = search(sheet, seed)
        open_ = way[len(steps.chosen)] if len(steps.chosen) < len(way) and score.hazard is None else None
        return Played(
            exercise=exercise, score=score,
            moment=Moment(action=open_.action, seen=open_.seen, choices=open_.choices) if open_ else None,
            hint=open_.choices[open_.right] if open_ and hint else "",
        )  # fmt: skip


def read_drill_steps(text: str | bytes) -> DrillSteps:
    """Steps out of the text of a file.

    Raises:
        NotReadable: it is not a JSON object.
        InvalidPlan: fields are wrong; names each with its value and what would be right.
    """
    return read_part(DrillSteps, parse(text))
