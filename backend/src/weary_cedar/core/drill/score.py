"""What came of an exercise."""

from pydantic import BaseModel, ConfigDict


class Hazard(BaseModel):
    """A dangerous act: what it was, what would have happened, and what prevents it."""

    model_config = ConfigDict(frozen=True)

    number: int
    act: str
    code: str
    why: str
    #: The step of the sheet that comes before it.
    prevents: str = ""


class Score(BaseModel):
    """Order, hazards, time, readings; and what went wrong first."""

    model_config = ConfigDict(frozen=True)

    exercise: str
    passed: bool
    sentence: str
    done: int
    hazard: Hazard | None = None
    #: Acts that a mechanism or a plug did not let happen.
    impossible: tuple[str, ...] = ()
    #: What should have been read, and was not.
    missed: tuple[str, ...] = ()
    read: int = 0
    #: What is not yet as it should be at the end.
    left: tuple[str, ...] = ()
    time_s: float = 0.0
    hints: int = 0
