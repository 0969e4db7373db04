"""One thing that a person does to a plan: as data, with the plan that it makes."""

from abc import ABC, abstractmethod
from typing import ClassVar

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.plan import Plan


class Command(BaseModel, ABC):
    """A command; `usage` is how it is typed, one word or word list for each of its fields."""

    model_config = ConfigDict(frozen=True, extra="forbid")
    usage: ClassVar[str]

    @classmethod
    def read(cls, name: str, word: str) -> object:
        """A field from a word as it is typed: a number where it is one."""
        numbers = (int, float)
        kinds = getattr(cls.model_fields[name].annotation, "__args__", (cls.model_fields[name].annotation,))
        kind = next((kind for kind in kinds if kind in numbers), None)
        try:
            return kind(word) if kind is not None else word
        except ValueError:
            return word

    @abstractmethod
    def made(self, plan: Plan) -> Plan:
        """The plan after it.

        Raises:
            NotFound: a part that it names is not there.
            InvalidInput: it cannot be done so.
            InvalidPlan: the plan would contradict itself.
        """


def refused(field: str, value: object, right: str) -> InvalidInput:
    """The error of a command that cannot be done, with what would be right."""
    problem = Problem(field, shown(value), right)
    return InvalidInput(str(problem), (problem,))
