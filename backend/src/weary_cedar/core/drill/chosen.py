"""Exercises in which one chooses: what follows from what is seen, and what is done first of all."""

from collections.abc import Sequence

import numpy as np
from pydantic import BaseModel, ConfigDict

from weary_cedar.core.drill.exercise import Exercise
from weary_cedar.core.drill.score import Hazard, Score
from weary_cedar.core.runbook.sheet import Answer, Sheet

#: So many things that are not to be done stand among those that are.
OTHERS = 4
MOST_STEPS = 40


class Choice(BaseModel):
    """One moment of a search: what is done, what is seen then, and what may follow."""

    model_config = ConfigDict(frozen=True)

    action: str
    seen: str
    choices: tuple[str, ...]
    right: int


def search(sheet: Sheet, seed: int) -> list[Choice]:
    """A search with its cause hidden: by the seed one way through the sheet to one of its ends.

    Args:
        sheet: that starts from what is seen.
        seed: the same one hides the same cause.
    """
    dice = np.random.default_rng(seed)
    ways = _ways(sheet, 0, 0)
    if not ways:
        return []
    way = ways[int(dice.integers(len(ways)))]
    found = []
    for index, answer in way:
        step = sheet.steps[index]
        follows = list(dict.fromkeys(_follows(sheet, other) for other in step.answers))
        order = [follows[int(place)] for place in dice.permutation(len(follows))]
        found.append(
            Choice(
                action=step.action,
                seen=_seen(answer, dice, step.readings[0].unit if step.readings else ""),
                choices=tuple(order),
                right=order.index(_follows(sheet, answer)),
            )
        )
    return found


def _ways(sheet: Sheet, index: int, depth: int) -> list[list[tuple[int, Answer]]]:
    """Every way from a step to an end."""
    found: list[list[tuple[int, Answer]]] = []
    if depth > MOST_STEPS or index >= len(sheet.steps):
        return found
    for answer in sheet.steps[index].answers:
        if answer.end is not None:
            found.append([(index, answer)])
        elif answer.to is not None:
            found += [[(index, answer), *rest] for rest in _ways(sheet, answer.to - 1, depth + 1)]
    return found


def _follows(sheet: Sheet, answer: Answer) -> str:
    """What is done after an answer: the next step, or what its end says."""
    if answer.end is not None:
        return f"{answer.end.cause}: {answer.end.do[0].lower()}{answer.end.do[1:]}"
    return sheet.steps[(answer.to or 1) - 1].action


def _seen(answer: Answer, dice: np.random.Generator, unit: str) -> str:
    if answer.low is None and answer.high is None:
        return answer.when
    low = 0.0 if answer.low is None else answer.low
    high = low + max(10.0, 0.3 * low) if answer.high is None else answer.high
    value = low + (high - low) * float(dice.uniform(0.25, 0.75))
    return (
        f"It reads {value:,.1f} {unit}".strip()
        if abs(value) < 10
        else f"It reads {value:,.0f} {unit}".strip()
    )


def first_choices(exercise: Exercise, sheet: Sheet, seed: int) -> list[str]:
    """What may be done, the right among others, in no order."""
    right = sheet.first[exercise.number].do
    others = [step.action for step in sheet.steps if step.action not in right]
    others += [words for first in sheet.first for words in first.do if words not in right]
    dice = np.random.default_rng(seed)
    others = [others[int(place)] for place in dice.permutation(len(others))][:OTHERS]
    every = [*right, *dict.fromkeys(others)]
    return [every[int(place)] for place in dice.permutation(len(every))]


def score_search(exercise: Exercise, sheet: Sheet, chosen: Sequence[str], seed: int, hints: int = 0) -> Score:
    """What came of a search.

    Args:
        exercise: the exercise.
        sheet: that it is made from.
        chosen: what was chosen at each moment, in words, or by its number from 1.
        seed: that hid the cause.
        hints: how many were asked for.
    """
    way = search(sheet, seed)
    for number, moment in enumerate(way, 1):
        if number > len(chosen):
            left = (f"{moment.action}: {moment.seen}",)
            return Score(
                exercise=exercise.key,
                passed=False,
                sentence=f"Not done yet: {moment.action}.",
                done=number - 1,
                left=left,
                hints=hints,
            )
        said = chosen[number - 1]
        if said not in (moment.choices[moment.right], str(moment.right + 1)):
            why = f"{moment.seen}: that leads to “{moment.choices[moment.right]}”"
            return Score(
                exercise=exercise.key,
                passed=False,
                sentence=f"Not so, at “{moment.action}”. {why}.",
                done=number - 1,
                hazard=Hazard(number=number, act=_words(moment, said), code="wrong_way", why=why),
                hints=hints,
            )
    return Score(
        exercise=exercise.key,
        passed=True,
        sentence=f"Passed: found in {len(way)} steps.",
        done=len(way),
        hints=hints,
    )


def _words(moment: Choice, said: str) -> str:
    index = int(said) - 1 if said.isdecimal() else -1
    return moment.choices[index] if 0 <= index < len(moment.choices) else said


def score_first(exercise: Exercise, sheet: Sheet, chosen: Sequence[str], hints: int = 0) -> Score:
    """What came of choosing what is done first: just that, in its order, and nothing after it."""
    right = sheet.first[exercise.number].do
    for number, words in enumerate(chosen, 1):
        wanted = right[number - 1] if number <= len(right) else None
        if words == wanted:
            continue
        why = "Nothing more is done: it ends there" if wanted is None else f"First “{wanted}”"
        return Score(
            exercise=exercise.key,
            passed=False,
            sentence=f"Not so: {why}.",
            done=number - 1,
            hazard=Hazard(number=number, act=words, code="not_first", why=why, prevents=wanted or right[-1]),
            hints=hints,
        )
    passed = len(chosen) == len(right)
    sentence = (
        f"Passed: {len(right)} things, and nothing after them."
        if passed
        else f"Not done yet: {len(right) - len(chosen)} to go."
    )
    return Score(
        exercise=exercise.key,
        passed=passed,
        sentence=sentence,
        done=len(chosen),
        hints=hints,
        left=() if passed else (f"{len(right) - len(chosen)} to go",),
    )
