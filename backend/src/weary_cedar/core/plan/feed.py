"""The fixed way in: inlet or terminals, wire, transfer device. It belongs to no source."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import (
    Amps,
    Answer,
    Bounds,
    Id,
    Metres,
    Name,
    Noun,
    OnPlate,
    Owned,
    Ref,
    Seconds,
    Survey,
)
from weary_cedar.core.plan.feed_kind import TRAITS, FeedKind, FeedTraits


class Cord(Owned):
    """A flexible cord: stranded copper, both ways counted by the computation."""

    part: Literal["cord"] = "cord"
    name: Name | None = None
    length_m: Annotated[Metres | None, OnPlate("the length of its cord", "m", usual=7.62)]
    awg: Literal[18, 16, 14, 12, 10, 8, 6, 4] | None = Field(default=None, description="or else mm2")
    mm2: Annotated[float, Bounds(0.5, 16, "a flexible cord is between 0.5 and 16 mm²")] | None = None
    conductors: Annotated[int, Field(ge=2, le=5)] | None = Field(
        default=None, description="all of them, ground included; what its end needs if absent"
    )
    usual: bool = Field(default=False, description="put in as it is mostly sold: nobody measured it")

    @property
    def counted_m(self) -> float:
        """Length that counts, m: as said, or 25 ft, as is mostly sold."""
        return float(self.counted("length_m"))

    @property
    def size(self) -> str:
        """Gauge or square millimetres, in words."""
        return f"AWG {self.awg}" if self.mm2 is None else f"{self.mm2:g} mm²"


class Adapter(Owned):
    """Two connectors of different kinds in one piece."""

    part: Literal["adapter"] = "adapter"
    name: Name | None = None
    sits_at: Literal["source", "load"] = Field(
        default="load", description="before the cords, at the source, or after them"
    )
    source_end: Name
    load_end: Name
    rating_a: Amps
    passes_neutral: Answer = "yes"
    passes_ground: Answer = "yes"
    overcurrent_a: Amps | None = Field(default=None, description="of a breaker or fuse inside it")


class Inlet(Owned):
    """An inlet that is not built in yet."""

    part: Literal["inlet"] = "inlet"
    name: Name | None = None
    kind: Name = "L14-30"
    rating_a: Amps = 30.0


class FixedWire(Noun):
    """Building wire from the inlet to the transfer device or feed breaker."""

    length_m: Annotated[Metres | None, OnPlate("the length of its wire", "m", usual=7.62)]
    awg: Annotated[
        Literal[14, 12, 10, 8, 6, 4, 3, 2, 1] | None, OnPlate("the gauge of its wire", "AWG", usual=14)
    ]
    metal: Literal["copper", "aluminium"] = "copper"
    terminals_c: Literal[60, 75] | None = Field(
        default=None,
        description="75 where cable and all terminals are marked so, and it is no house cable; else 60",
    )
    conductors: Annotated[int, Field(ge=2, le=4)] | None = Field(
        default=None, description="without the ground: 2 have no neutral; what its inlet needs if absent"
    )

    @property
    def column(self) -> Literal[60, 75]:
        """Column of the table that counts: the careful one where nothing is said."""
        return self.terminals_c or 60


#: How circuits come back once a source feeds them, and the seconds between two of them.
Restoring = Literal["one_at_a_time", "all_at_once"]
RestoreInterval = Annotated[float, Bounds(1, 3_600, "no hand is faster than a second")]

#: What lies in the box: a part leaves it for a joint of a feed, and comes back to it.
BoxPart = Annotated[Cord | Adapter | Inlet, Field(discriminator="part")]


class Feed(Noun):
    """Inlet or terminals, its wire, the transfer device, and where it enters the panel."""

    name: Name | None = None
    kind: FeedKind = "interlock_inlet"
    inlet: Name = Field(default="L14-30", description="configuration of the inlet")
    inlet_a: Amps
    wire: FixedWire | None = Field(default=None, description="not known if absent")
    panel_id: Annotated[Id, Ref("panels")]
    breaker_a: Amps = Field(description="feed breaker, or the input of the transfer switch")
    breaker_spaces: Annotated[tuple[Annotated[int, Field(ge=1, le=84)], ...], Field(max_length=2)] = Field(
        default=(), description="of the interlocked feed breaker; none with a transfer switch"
    )
    circuit_ids: Annotated[tuple[Id, ...], Field(max_length=42), Ref("circuits")] = Field(
        default=(), description="circuits wired to a transfer switch"
    )
    switch_legs: Annotated[dict[Id, Literal["A", "B"]], Field(max_length=42), Ref("circuits")] = Field(
        default_factory=dict,
        description="leg of the switch that a circuit is on, where that is not its leg in the panel",
    )
    neutral_switched: Answer = Field(default="no", description="whether the transfer device switches it")
    changeover_after_s: Seconds | None = Field(
        default=None, description="from the cut to its changeover; that of the outage if absent"
    )
    restore: Restoring | None = Field(default=None, description="that of the outage if absent")
    restore_interval_s: RestoreInterval | None = Field(
        default=None, description="between two breakers; that of the outage if absent"
    )
    branches_off: Literal["all", "large", "none"] = Field(
        default="all", description="which branch breakers are off before a source is joined to the panel"
    )
    output_on: Literal["before", "after"] = Field(
        default="before", description="whether the source’s output is on before it is joined to the panel"
    )
    light_first: bool = Field(default=False, description="a circuit of lamps comes back before all others")
    survey: Survey = Field(default_factory=dict)

    @property
    def traits(self) -> FeedTraits:
        """What its kind is."""
        return TRAITS[self.kind]
