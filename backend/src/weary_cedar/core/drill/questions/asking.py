"""Which kinds of questions fit a plan, one of a kind by a seed, and an answer judged."""

from hashlib import blake2b

import numpy as np

from weary_cedar.core.drill.questions.question import KINDS, Answered, Facts, NotHere, Question
from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import Plan

#: A kind fits where one of so many seeds makes a question of it.
TRIES = 6


def fitting(plan: Plan, run: RunResult) -> dict[str, str]:
    """By kind of question why it does not fit; nothing where it does."""
    found = {}
    for key in KINDS:
        reasons = []
        for seed in range(TRIES):
            try:
                _made(Facts(plan, run), key, seed)
            except NotHere as why:
                reasons.append(str(why))
            else:
                reasons = []
                break
        found[key] = reasons[0] if reasons else ""
    return found


def question(plan: Plan, run: RunResult, key: str, seed: int) -> Question:
    """One question of a kind.

    Args:
        plan: from whose figures it is made.
        run: of that plan.
        key: the kind.
        seed: the same one makes the same question.

    Raises:
        NotFound: no such kind, or one that this plan makes meaningless, with why.
    """
    if key not in KINDS:
        problem = Problem("/kind", shown(key), f"one of {', '.join(KINDS)}")
        raise NotFound(str(problem), (problem,))
    why = ""
    for turn in range(TRIES):
        try:
            return _made(Facts(plan, run), key, seed + 7919 * turn)
        except NotHere as reason:
            why = why or str(reason)
    problem = Problem("/kind", shown(key), f"another kind: {why}")
    raise NotFound(str(problem), (problem,))


def judge_answer(asked: Question, value: float) -> Answered:
    """Judge an answer.

    Args:
        asked: the question.
        value: the figure in its unit, or the number of the choice, from 0.

    Returns:
        Whether it is right; where it is not, the slip that would give just that, if one does; the working.
    """
    if asked.right is not None:
        right = round(value) == asked.right
        slip = next((slip.words for slip in asked.slips if slip.choice == round(value)), "")
        told = f"It is: {asked.choices[asked.right]}."
    else:
        right = asked.fits(value)
        slip = "" if right else _slip(asked, value)
        told = f"It is {_shown(asked)}."
    words = "Right." if right else f"Not so. {told}"
    return Answered(right=right, words=words, slip="" if right else slip, working=asked.working)


def _slip(asked: Question, value: float) -> str:
    """The slip whose figure is nearest to an answer, if one is near."""
    near = [
        (abs(value - slip.value), slip.words)
        for slip in asked.slips
        if slip.value is not None and abs(value - slip.value) <= max(0.04 * abs(slip.value), 0.5 * asked.step)
    ]
    return min(near)[1] if near else ""


def _shown(asked: Question) -> str:
    value = asked.answer or 0.0
    digits = {0.01: 2, 0.1: 1, 1.0: 0}.get(asked.step, -1)
    return f"{round(value, digits):,.{max(0, digits)}f} {asked.unit}".strip()


def _made(facts: Facts, key: str, seed: int) -> Question:
    digest = blake2b(f"{key}/{seed}".encode(), digest_size=16).digest()
    return KINDS[key].make(facts, np.random.default_rng(int.from_bytes(digest)))
