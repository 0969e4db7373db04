"""Steps as a file has them: which element goes where, and when."""

from typing import Annotated, Any

from pydantic import Field

from weary_cedar.core.plan.base import Bounds, Noun
from weary_cedar.core.plan.reading import parse, read_part

STEPS_ID = "https://weary-cedar.example/steps-1.json"


class Move(Noun):
    """One hand on one thing."""

    what: Annotated[str, Field(max_length=200)] = Field(
        description="element: main/PANEL, breaker/CIRCUIT, feed_breaker/FEED, interlock/FEED, transfer/FEED, "
        "handle/FEED/CIRCUIT, output/KIND/SOURCE, engine/GENERATOR, source_end/LEAD, load_end/LEAD, "
        "bonding_plug/LEAD, home_plug/LEAD, plug/LEAD/CIRCUIT (or plug:LOAD), lockout/KIND/PART"
    )
    to: Annotated[str, Field(max_length=20)] = Field(
        description="on, off, in, out, utility, source, free or locked, as the element has it"
    )
    wait_s: Annotated[float, Bounds(0, 86_400, "nobody waits longer than a day between two steps")] = Field(
        default=5.0, description="from the act before to this one"
    )


class Steps(Noun):
    """An order of acts, and how the house stands before the first."""

    begins: dict[str, str] = Field(
        default_factory=dict,
        description="elements that do not stand as on the utility: mains and breakers on, nothing plugged",
    )
    acts: Annotated[tuple[Move, ...], Field(max_length=2_000)]


def read_steps(text: str | bytes) -> Steps:
    """Steps out of the text of a file.

    Raises:
        NotReadable: it is not a JSON object.
        InvalidPlan: fields are wrong; names each with its value and what would be right.
    """
    return read_part(Steps, parse(text))


def steps_schema() -> dict[str, Any]:
    """JSON Schema of a steps file."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$id": STEPS_ID,
        **Steps.model_json_schema(),
    }
