"""What is plugged: from an outlet through cords and adapters to a feed, to appliances, or to an input."""

from collections.abc import Mapping
from typing import Annotated, Final, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Answer, Bounds, Id, Name, Noun, Ref, Survey
from weary_cedar.core.plan.feed import Adapter, Cord

#: What an outlet may belong to.
SourceKind = Literal["station", "link", "generator", "vehicle", "circuit"]


#: Rooms of parts with outlets, and what an outlet's reference calls them.
OUTLET_ROOMS: Final[Mapping[str, SourceKind]] = {
    "stations": "station", "links": "link", "generators": "generator", "vehicles": "vehicle",
}  # fmt: skip


class Outlet(Noun):
    """An outlet by the one reference that there is to it."""

    kind: SourceKind
    id: Id
    outlet: Id | None = Field(
        default=None,
        description="receptacle of a station or generator; of a link, of its kit or of its unit on leg A",
    )


class ToFeed(Noun):
    """Into the inlet, or to the terminals, of a feed. Several leads at one feed take turns."""

    end: Literal["feed"] = "feed"
    feed_id: Annotated[Id, Ref("feeds")]


class ToLoads(Noun):
    """To appliances: a plug or a power strip at its end."""

    end: Literal["loads"] = "loads"
    circuit_ids: Annotated[tuple[Id, ...], Field(max_length=42), Ref("circuits")] = Field(
        default=(), description="circuits all of whose loads are unplugged at home and hang here"
    )
    load_ids: Annotated[tuple[Id, ...], Field(max_length=60), Ref("loads")] = Field(
        default=(),
        description="single appliances that hang here by their own plugs",
    )
    plug: Name = Field(default="5-15", description="configuration at its end")
    plug_a: Amps = 15.0
    overcurrent_a: Amps | None = Field(default=None, description="of a breaker in the strip at its end")


class ToInput(Noun):
    """Into an input of a station, which it recharges."""

    end: Literal["input"] = "input"
    station_id: Annotated[Id, Ref("stations")]
    input_id: Id = Field(description="an AC input; from a vehicle a DC input, too")
    setting_w: Annotated[float, Bounds(1, 50_000, "under 1 W nothing is ever charged")] | None = Field(
        default=None, description="that it is set to; as much as the input takes if absent"
    )
    converter_w: Annotated[float, Bounds(1, 50_000, "under 1 W nothing is ever charged")] | None = Field(
        default=None, description="most of a converter between a vehicle and the input; none if absent"
    )
    converter_efficiency: Annotated[float, Field(ge=0.3, le=1)] = Field(
        default=1.0, description="of that converter"
    )
    when: Literal["always", "grid", "strategy"] | None = Field(
        default=None,
        description="plugged in; if absent: with the grid from a circuit, always from another station, "
        "as the strategy says from an engine or a vehicle",
    )


End = Annotated[ToFeed | ToLoads | ToInput, Field(discriminator="end")]


class Lead(Noun):
    """From one outlet to one end."""

    name: Name | None = None
    source: Outlet
    cords: Annotated[tuple[Cord, ...], Field(max_length=6)] = Field(
        default=(), description="in their order from the source; none: wired, or not known"
    )
    adapters: Annotated[tuple[Adapter, ...], Field(max_length=4)] = ()
    to: End
    bonding_plug: Answer = Field(default="no", description="a plug that ties neutral to ground")
    survey: Survey = Field(default_factory=dict)
