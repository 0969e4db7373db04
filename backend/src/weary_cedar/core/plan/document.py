"""The plan document: one definition for file, API and run."""

from collections.abc import Mapping
from functools import cached_property
from typing import Annotated, Any, Self

from pydantic import Field

from weary_cedar.core.plan.base import Id, Name, Noun
from weary_cedar.core.plan.battery import ExternalBattery
from weary_cedar.core.plan.circuit import Circuit
from weary_cedar.core.plan.feed import BoxPart, Feed
from weary_cedar.core.plan.generator import Generator
from weary_cedar.core.plan.hookup import Hookup, through_feed, to_appliances
from weary_cedar.core.plan.lead import Lead, SourceKind, ToFeed, ToInput, ToLoads
from weary_cedar.core.plan.link import Link
from weary_cedar.core.plan.load import Load
from weary_cedar.core.plan.outage import Outage, Sky
from weary_cedar.core.plan.panel import Panel, leg_of_space
from weary_cedar.core.plan.place import Place
from weary_cedar.core.plan.receptacle import Receptacle
from weary_cedar.core.plan.recharge import Recharge, recharge_of
from weary_cedar.core.plan.site import Site
from weary_cedar.core.plan.solar import SolarArray
from weary_cedar.core.plan.station import Station
from weary_cedar.core.plan.station_inputs import DcInput
from weary_cedar.core.plan.strategy import Strategy
from weary_cedar.core.plan.upgrade import SCHEMA_VERSION
from weary_cedar.core.plan.usual_sky import usual_sky
from weary_cedar.core.plan.vehicle import Vehicle

SCHEMA_ID = f"urn:weary-cedar:plan:{SCHEMA_VERSION}"


class CheckAnswer(Noun):
    """Why a finding stands as it is; printed with the plan."""

    reason: Annotated[str, Field(min_length=5, max_length=500)]
    by: Name


class Plan(Noun):
    """A household's plan for an outage. Parts are keyed by id so that edits can name them."""

    schema_version: int = Field(
        default=SCHEMA_VERSION, ge=SCHEMA_VERSION, le=SCHEMA_VERSION, description="version of this format"
    )
    name: Name
    site: Site
    panels: Annotated[dict[Id, Panel], Field(max_length=100)] = Field(default_factory=dict)
    circuits: Annotated[dict[Id, Circuit], Field(max_length=2000)] = Field(default_factory=dict)
    loads: Annotated[dict[Id, Load], Field(max_length=1000)] = Field(default_factory=dict)
    stations: Annotated[dict[Id, Station], Field(max_length=60)] = Field(default_factory=dict)
    links: Annotated[dict[Id, Link], Field(max_length=30)] = Field(default_factory=dict)
    generators: Annotated[dict[Id, Generator], Field(max_length=30)] = Field(default_factory=dict)
    arrays: Annotated[dict[Id, SolarArray], Field(max_length=60)] = Field(default_factory=dict)
    vehicles: Annotated[dict[Id, Vehicle], Field(max_length=30)] = Field(default_factory=dict)
    externals: Annotated[dict[Id, ExternalBattery], Field(max_length=60)] = Field(default_factory=dict)
    box: Annotated[dict[Id, BoxPart], Field(max_length=500)] = Field(
        default_factory=dict, description="cords, adapters and inlets that are in no lead or feed"
    )
    places: Annotated[dict[Id, Place], Field(max_length=200)] = Field(default_factory=dict)
    feeds: Annotated[dict[Id, Feed], Field(max_length=16)] = Field(
        default_factory=dict, description="fixed ways into panels; they belong to no source"
    )
    leads: Annotated[dict[Id, Lead], Field(max_length=100)] = Field(
        default_factory=dict, description="what is plugged into what; those to the same circuits take turns"
    )
    check_answers: Annotated[dict[str, CheckAnswer], Field(max_length=2_000)] = Field(
        default_factory=dict, description="an electrician's answers to checks, by check@element"
    )
    outlets: Annotated[tuple[Name, ...], Field(max_length=300)] = Field(
        default=(), description="outlets and lights of the house whose breaker is not known yet"
    )
    outage: Outage
    strategy: Strategy = Strategy()

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> Self:
        """A copy with changes; what follows from the leads follows anew."""
        copied = super().model_copy(update=update, deep=deep)
        for name in ("hookups", "recharges"):
            copied.__dict__.pop(name, None)
        return copied

    @property
    def sky(self) -> tuple[Sky, ...]:
        """Kinds of days from the first on, the last one stays; those of the season where none is said."""
        said, outage = self.outage.weather.sky, self.outage
        days = int(outage.length_s // 86_400) + 2
        return said or usual_sky(outage.start_local.date(), self.site.latitude, days)

    @cached_property
    def hookups(self) -> Mapping[str, Hookup]:
        """Leads that end at a feed or at appliances, by their ids, with what they end at."""
        found: dict[str, Hookup] = {}
        for key, lead in self.leads.items():
            if isinstance(lead.to, ToFeed):
                found[key] = through_feed(key, lead, lead.to.feed_id, self.feeds[lead.to.feed_id])
            elif isinstance(lead.to, ToLoads):
                found[key] = to_appliances(key, lead, lead.to)
        return found

    @cached_property
    def recharges(self) -> Mapping[str, Recharge]:
        """Leads that end at an input of a station, by their ids."""
        return {
            key: recharge_of(key, self.lead_name(key), lead, lead.to, self._input_w(lead.to))
            for key, lead in self.leads.items()
            if isinstance(lead.to, ToInput)
        }

    def _input_w(self, end: ToInput) -> float:
        """Most that an input takes, W; nothing where there is no such input."""
        station = self.stations.get(end.station_id)
        if station is None:
            return 0.0
        entry = station.ac_inputs.get(end.input_id) or station.dc_inputs.get(end.input_id)
        return entry.most_w if entry else 0.0

    def link_of(self, hookup: Hookup) -> Link | None:
        """The link that a hook-up hangs on, if it is one."""
        return self.links[hookup.source_id] if hookup.source_kind == "link" else None

    def source(self, hookup: Hookup) -> Station | Generator:
        """The station or generator of a hook-up; of a link, the unit on leg A; a vehicle as one of these."""
        if hookup.source_kind == "vehicle":
            return self.vehicles[hookup.source_id].as_source()
        if hookup.source_kind == "generator":
            return self.generators[hookup.source_id]
        link = self.link_of(hookup)
        return self.stations[link.leg_a if link else hookup.source_id]

    def source_name(self, hookup: Hookup) -> str:
        """Name of the station, link, generator or vehicle of a hook-up."""
        return (self.link_of(hookup) or self.source(hookup)).name

    def source_units(self, hookup: Hookup) -> dict[str, Station]:
        """The stations behind a hook-up by id: one, the two of a link, or none behind a generator."""
        link = self.link_of(hookup)
        if hookup.source_kind in ("generator", "vehicle"):
            return {}
        return {
            key: self.stations[key] for key in ((link.leg_a, link.leg_b) if link else (hookup.source_id,))
        }

    def room_of(self, kind: SourceKind) -> Mapping[str, Any]:
        """The parts of a kind, by id."""
        room: Mapping[str, Any] = getattr(self, f"{kind}s")
        return room

    def outlets_of(self, kind: SourceKind, source_id: str) -> dict[str, Receptacle]:
        """Outlets of a source by their ids; those of a link's kit beside those of its unit on leg A."""
        if kind == "vehicle":
            return self.vehicles[source_id].as_source().receptacles
        if kind == "link":
            link = self.links[source_id]
            return {**self.stations[link.leg_a].receptacles, **link.receptacles}
        if kind == "generator":
            return self.generators[source_id].receptacles
        return self.stations[source_id].receptacles if kind == "station" else {}

    def outlet(self, hookup: Hookup) -> Receptacle:
        """The outlet that a hook-up begins at."""
        return self.outlets_of(hookup.source_kind, hookup.source_id)[hookup.receptacle_id]

    def changeover_s(self, hookup: Hookup) -> float:
        """From the cut to the moment at which a hook-up feeds, s."""
        own = hookup.changeover_after_s
        return self.outage.changeover_after_s if own is None else own

    def lead_name(self, lead_id: str) -> str:
        """A lead by its name, or by what it joins."""
        lead = self.leads[lead_id]
        if lead.name is not None:
            return lead.name
        part = self.room_of(lead.source.kind).get(lead.source.id)
        source = getattr(part, "label", None) or getattr(part, "name", lead.source.id)
        if isinstance(lead.to, ToInput):
            station = self.stations.get(lead.to.station_id)
            return f"{source} to {station.name if station else lead.to.station_id}"
        if isinstance(lead.to, ToLoads):
            return f"cords from {source}"
        feed = self.feeds.get(lead.to.feed_id)
        panel = self.panels.get(feed.panel_id) if feed else None
        return f"{source} to {(feed.name if feed else None) or (panel.name if panel else lead.to.feed_id)}"

    def start_wh(self, station_id: str) -> float:
        """Energy of a station and its packs when the outage begins, Wh at the cells."""
        percent = self.outage.start_charge_percent.get(station_id, 100.0)
        return self.stations[station_id].wh_at(percent, self.outage.pack_charge_percent.get(station_id, {}))

    def dc_inputs_of(self, part: SolarArray | ExternalBattery) -> dict[str, DcInput]:
        """The DC inputs among which a part has its own: of its station, or of that station's pack."""
        station = self.stations.get(part.station_id or "")
        if station is None:
            return {}
        if part.pack_id is None:
            return station.dc_inputs
        pack = station.packs.get(part.pack_id)
        return pack.dc_inputs if pack else {}

    def dc_input_of(self, part: SolarArray | ExternalBattery) -> DcInput | None:
        """The DC input that a part is joined to, if any."""
        return self.dc_inputs_of(part).get(part.input_id or "")

    def panels_reached(self, panel_id: str) -> set[str]:
        """A panel and all sub-panels fed from it through feeders that are not marked off."""
        fed: dict[str, list[str]] = {}
        for key, panel in self.panels.items():
            if panel.fed_from is not None and self.circuits[panel.fed_from].mark != "off":
                fed.setdefault(self.circuits[panel.fed_from].panel_id, []).append(key)
        reached, waiting = {panel_id}, [panel_id]
        while waiting:
            more = [key for key in fed.get(waiting.pop(), ()) if key not in reached]
            reached.update(more)
            waiting += more
        return reached

    def partner_of(self, circuit_id: str) -> str | None:
        """The circuit that shares a neutral with this one; it is enough that one of them names it."""
        own = self.circuits[circuit_id].multiwire_partner
        if own is not None:
            return own
        return next((key for key, c in self.circuits.items() if c.multiwire_partner == circuit_id), None)

    def circuit_legs(self, circuit_id: str) -> tuple[str, ...]:
        """Legs that a circuit is on: one for a single pole, both for two poles."""
        circuit = self.circuits[circuit_id]
        panel = self.panels[circuit.panel_id]
        if not self.site.split_phase:
            return ("L",)
        return tuple(leg_of_space(space, panel.first_leg) for space in circuit.spaces)
