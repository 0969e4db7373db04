"""From where a station is recharged."""

from typing import Annotated, Literal

from weary_cedar.core.plan.base import Bounds, Id, Name, Noun


class Recharge(Noun):
    """A station's AC input on a circuit, a generator, another station or a vehicle."""

    name: Name
    station_id: Id
    input_id: Id
    kind: Literal["circuit", "generator", "station", "vehicle"]
    from_id: Id
    setting_w: Annotated[float, Bounds(1, 50_000, "under 1 W nothing is ever charged")]
    when: Literal["always", "grid", "strategy"] = "grid"
