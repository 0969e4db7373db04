"""From where a station is recharged."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Bounds, Id, Name, Noun


class Recharge(Noun):
    """A station's input on a circuit, a generator, another station or a vehicle (that one DC, too)."""

    name: Name
    station_id: Id
    input_id: Id
    kind: Literal["circuit", "generator", "station", "vehicle"]
    from_id: Id
    setting_w: Annotated[float, Bounds(1, 50_000, "under 1 W nothing is ever charged")]
    when: Literal["always", "grid", "strategy"] | None = Field(
        default=None,
        description="plugged in; if absent: with the grid from a circuit, always from another station, "
        "as the strategy says from an engine or a vehicle",
    )

    @property
    def plugged(self) -> Literal["always", "grid", "strategy"]:
        """When it is plugged in, said or usual of its kind."""
        return self.when or {"circuit": "grid", "station": "always"}.get(self.kind, "strategy")  # type: ignore[return-value]
