"""From an outlet to house wiring or to appliances: a lead with the feed that it ends at, as one thing."""

from dataclasses import dataclass
from typing import Literal

from weary_cedar.core.plan.base import Answer
from weary_cedar.core.plan.feed import Adapter, Cord, Feed, FixedWire, Restoring
from weary_cedar.core.plan.feed_kind import TRAITS, FeedTraits, Kind
from weary_cedar.core.plan.lead import Lead, SourceKind, ToLoads
from weary_cedar.core.plan.vehicle import VEHICLE_OUTLET


@dataclass(frozen=True)
class Hookup:
    """Everything between one outlet and what it feeds; `kind` is that of the feed, or cords to appliances."""

    lead_id: str
    #: The feed that the lead ends at; none where it leads to appliances.
    feed_id: str | None
    kind: Kind
    source_kind: SourceKind
    source_id: str
    receptacle_id: str
    cords: tuple[Cord, ...]
    adapters: tuple[Adapter, ...]
    #: Configuration and rating of the inlet, or of the plug at the end.
    inlet: str
    inlet_a: float
    wire: FixedWire | None
    #: The panel that a feed enters; empty with cords to appliances.
    panel_id: str
    #: Feed breaker or input of the transfer switch; of a strip, its breaker if it has one.
    breaker_a: float | None
    breaker_spaces: tuple[int, ...]
    circuit_ids: tuple[str, ...]
    #: Appliances that hang on it by their own plugs.
    load_ids: tuple[str, ...]
    switch_legs: dict[str, Literal["A", "B"]]
    neutral_switched: Answer
    bonding_plug: Answer
    survey: dict[str, Answer]
    #: Of its own feed; those of the outage where none is said.
    changeover_after_s: float | None = None
    restore: Restoring | None = None
    restore_interval_s: float | None = None
    #: How its feed is closed by hand.
    branches_off: Literal["all", "large", "none"] = "all"
    output_on: Literal["before", "after"] = "before"
    light_first: bool = False

    @property
    def traits(self) -> FeedTraits:
        """What its kind is."""
        return TRAITS[self.kind]

    @property
    def ends(self) -> int:
        """How many appliances or circuits of its own it leads to."""
        return len(self.circuit_ids) + len(self.load_ids)


def _outlet(lead: Lead) -> str:
    """The outlet that a lead begins at; a vehicle has one."""
    return lead.source.outlet or (VEHICLE_OUTLET if lead.source.kind == "vehicle" else "")


def through_feed(lead_id: str, lead: Lead, feed_id: str, feed: Feed) -> Hookup:
    """A lead that ends at a feed."""
    return Hookup(
        lead_id=lead_id,
        feed_id=feed_id,
        kind=feed.kind,
        source_kind=lead.source.kind,
        source_id=lead.source.id,
        receptacle_id=_outlet(lead),
        cords=lead.cords,
        adapters=lead.adapters,
        inlet=feed.inlet,
        inlet_a=feed.inlet_a,
        wire=feed.wire,
        panel_id=feed.panel_id,
        breaker_a=feed.breaker_a,
        breaker_spaces=feed.breaker_spaces,
        circuit_ids=feed.circuit_ids,
        load_ids=(),
        switch_legs=feed.switch_legs,
        neutral_switched=feed.neutral_switched,
        bonding_plug=lead.bonding_plug,
        survey={**feed.survey, **lead.survey},
        changeover_after_s=feed.changeover_after_s,
        restore=feed.restore,
        restore_interval_s=feed.restore_interval_s,
        branches_off=feed.branches_off,
        output_on=feed.output_on,
        light_first=feed.light_first,
    )


def to_appliances(lead_id: str, lead: Lead, end: ToLoads) -> Hookup:
    """A lead that ends at appliances."""
    return Hookup(
        lead_id=lead_id,
        feed_id=None,
        kind="cords",
        source_kind=lead.source.kind,
        source_id=lead.source.id,
        receptacle_id=_outlet(lead),
        cords=lead.cords,
        adapters=lead.adapters,
        inlet=end.plug,
        inlet_a=end.plug_a,
        wire=None,
        panel_id="",
        breaker_a=end.overcurrent_a,
        breaker_spaces=(),
        circuit_ids=end.circuit_ids,
        load_ids=end.load_ids,
        switch_legs={},
        neutral_switched="no",
        bonding_plug=lead.bonding_plug,
        survey=dict(lead.survey),
    )
