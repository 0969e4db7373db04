"""Questions from a plan’s own figures: which kinds fit, one of a kind by a seed, an answer judged."""

from weary_cedar.core.drill.questions import cells, cords, judgement, legs, sources  # noqa: F401 (kinds)
from weary_cedar.core.drill.questions.asking import fitting, judge_answer, question
from weary_cedar.core.drill.questions.question import KINDS, Answered, Question, Slip

__all__ = ["KINDS", "Answered", "Question", "Slip", "fitting", "judge_answer", "question"]
