"""How a station reaches a panel."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Id, Metres, Noun


class Cord(Noun):
    """A flexible cord: stranded copper, both ways counted by the computation."""

    length_m: Metres
    awg: Literal[18, 16, 14, 12, 10, 8, 6, 4]


class Feed(Noun):
    """Receptacle of a station, cord, inlet, interlocked feed breaker, panel."""

    kind: Literal["interlock_inlet"] = "interlock_inlet"
    station_id: Id
    receptacle_id: Id
    cord: Cord
    inlet_a: Amps
    panel_id: Id
    breaker_a: Amps
    breaker_spaces: Annotated[
        tuple[Annotated[int, Field(ge=1, le=84)], ...], Field(min_length=1, max_length=2)
    ]
