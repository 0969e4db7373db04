"""From where a station is recharged: a lead that ends at one of its inputs, as one thing."""

from dataclasses import dataclass
from typing import Literal

from weary_cedar.core.plan.feed import Adapter, Cord
from weary_cedar.core.plan.lead import Lead, SourceKind, ToInput


@dataclass(frozen=True)
class Recharge:
    """A lead into an input of a station."""

    lead_id: str
    name: str
    station_id: str
    input_id: str
    kind: SourceKind
    from_id: str
    #: Receptacle of the source, if it is said.
    outlet_id: str | None
    setting_w: float
    #: Someone said what it is set to; else it is as much as the input takes.
    said: bool
    #: Of a converter before the input: its most, W, and its efficiency.
    converter_w: float | None
    converter_efficiency: float
    when: Literal["always", "grid", "strategy"] | None
    cords: tuple[Cord, ...]
    adapters: tuple[Adapter, ...]

    @property
    def plugged(self) -> Literal["always", "grid", "strategy"]:
        """When it is plugged in, said or usual of its kind."""
        if self.when is not None:
            return self.when
        return (
            "grid" if self.kind == "circuit" else "always" if self.kind in ("station", "link") else "strategy"
        )


def recharge_of(lead_id: str, name: str, lead: Lead, end: ToInput, most_w: float) -> Recharge:
    """A lead into an input that takes so many watts at most, as one thing."""
    return Recharge(
        lead_id=lead_id,
        name=name,
        station_id=end.station_id,
        input_id=end.input_id,
        kind=lead.source.kind,
        from_id=lead.source.id,
        outlet_id=lead.source.outlet,
        setting_w=most_w if end.setting_w is None else end.setting_w,
        said=end.setting_w is not None,
        converter_w=end.converter_w,
        converter_efficiency=end.converter_efficiency,
        when=end.when,
        cords=lead.cords,
        adapters=lead.adapters,
    )
