"""The plan document: one definition for file, API and run."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Id, Name, Noun
from weary_cedar.core.plan.battery import ExternalBattery
from weary_cedar.core.plan.circuit import Circuit
from weary_cedar.core.plan.feed import BoxPart, Feed
from weary_cedar.core.plan.generator import Generator
from weary_cedar.core.plan.link import Link
from weary_cedar.core.plan.load import Load
from weary_cedar.core.plan.outage import Outage
from weary_cedar.core.plan.panel import Panel, leg_of_space
from weary_cedar.core.plan.place import Place
from weary_cedar.core.plan.recharge import Recharge
from weary_cedar.core.plan.site import Site
from weary_cedar.core.plan.solar import SolarArray
from weary_cedar.core.plan.station import Station
from weary_cedar.core.plan.station_inputs import DcInput
from weary_cedar.core.plan.strategy import Strategy
from weary_cedar.core.plan.vehicle import Vehicle

SCHEMA_ID = "urn:weary-cedar:plan:1"


class CheckAnswer(Noun):
    """Why a finding stands as it is; printed with the plan."""

    reason: Annotated[str, Field(min_length=5, max_length=500)]
    by: Name


class Plan(Noun):
    """A household's plan for an outage. Parts are keyed by id so that edits can name them."""

    schema_version: Literal[1] = Field(default=1, description="version of this format")
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
        default_factory=dict, description="cords, adapters and inlets that are at no joint of a feed"
    )
    recharges: Annotated[dict[Id, Recharge], Field(max_length=60)] = Field(default_factory=dict)
    places: Annotated[dict[Id, Place], Field(max_length=200)] = Field(default_factory=dict)
    feeds: Annotated[dict[Id, Feed], Field(max_length=8)] = Field(
        default_factory=dict, description="ways from sources to panels; those to the same circuits take turns"
    )
    check_answers: Annotated[dict[str, CheckAnswer], Field(max_length=2_000)] = Field(
        default_factory=dict, description="an electrician's answers to checks, by check@element"
    )
    outlets: Annotated[tuple[Name, ...], Field(max_length=300)] = Field(
        default=(), description="outlets and lights of the house whose breaker is not known yet"
    )
    outage: Outage
    strategy: Strategy = Strategy()

    def source_station(self, feed: Feed) -> Station:
        """The station of a feed; of a link, the unit on leg A.

        Raises:
            KeyError: a generator feeds it.
        """
        link = self.links.get(feed.source_id)
        return self.stations[link.leg_a if link else feed.source_id]

    def source(self, feed: Feed) -> Station | Generator:
        """The station or generator of a feed."""
        return self.generators.get(feed.source_id) or self.source_station(feed)

    def source_units(self, feed: Feed) -> dict[str, Station]:
        """The stations behind a feed by id: one, the two of a link, or none behind a generator."""
        link = self.links.get(feed.source_id)
        keys = (link.leg_a, link.leg_b) if link else (feed.source_id,)
        return {key: self.stations[key] for key in keys if key in self.stations}

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
