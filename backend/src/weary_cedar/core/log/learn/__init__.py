"""Learning from a session: figures that fit what was read, with how sure they are, and what that is worth."""

from weary_cedar.core.log.learn.lesson import Learnt, Lesson, Misfit, learn
from weary_cedar.core.log.learn.worth import LessonWorth, with_lesson, worth_of

__all__ = ["Learnt", "Lesson", "LessonWorth", "Misfit", "learn", "with_lesson", "worth_of"]
