"""What a session teaches: figures that fit its readings best, how sure they are, and rows that do not fit."""

from weary_cedar.core.log.learn.lesson import Learnt, Lesson, Misfit, learn

__all__ = ["Learnt", "Lesson", "Misfit", "learn"]
