"""How a station reaches a panel."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Id, Metres, Noun


class Cord(Noun):
    """A flexible cord: stranded copper, both ways counted by the computation."""

    length_m: Metres
    awg: Literal[18, 16, 14, 12, 10, 8, 6, 4]


class Feed(Noun):
    """Receptacle of a source, cord, inlet, then an interlocked feed breaker or a transfer switch."""

    kind: Literal["interlock_inlet", "transfer_switch"] = "interlock_inlet"
    source_id: Id = Field(description="a station, or a link of two")
    receptacle_id: Id = Field(description="of the station; of a link: of the unit on leg A")
    cord: Cord
    inlet_a: Amps
    panel_id: Id
    breaker_a: Amps = Field(description="feed breaker, or the input of the transfer switch")
    breaker_spaces: Annotated[tuple[Annotated[int, Field(ge=1, le=84)], ...], Field(max_length=2)] = Field(
        default=(), description="of the interlocked feed breaker; none with a transfer switch"
    )
    circuit_ids: Annotated[tuple[Id, ...], Field(max_length=42)] = Field(
        default=(), description="circuits wired to a transfer switch"
    )
