"""Commands about what is plugged into what."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.commands.command import Command, refused
from weary_cedar.core.decide.feed_breaker import feed_of_breaker
from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.core.plan import Cord, Lead, Outlet, Plan, ToFeed, ToLoads
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.plan.lead import SourceKind
from weary_cedar.core.plan.refs import without

Id = Annotated[str, Field(min_length=1, max_length=40)]
#: A cord as it is mostly sold: 25 ft. Common practice.
USUAL_M = 7.62
SOURCES: tuple[SourceKind, ...] = ("station", "link", "generator", "vehicle")


class Plug(Command):
    """Put an appliance on a lead by its own plug; or take it off, back to its breaker."""

    usage = "plug LOAD LEAD|none"
    command: Literal["plug"] = "plug"
    load_id: Id
    lead_id: Id | None = None

    def made(self, plan: Plan) -> Plan:
        """The plan with it there, and on no other lead; what only counts on a lead goes with the plug."""
        if self.load_id not in plan.loads:
            problem = Problem("/load_id", shown(self.load_id), "a load of this plan")
            raise NotFound(str(problem), (problem,))
        lead = plan.leads.get(self.lead_id) if self.lead_id is not None else None
        if self.lead_id is not None and (lead is None or not isinstance(lead.to, ToLoads)):
            raise refused("/lead_id", self.lead_id, "a lead of this plan that ends at appliances")
        leads = {key: self._with(key, one) for key, one in plan.leads.items()}
        loads, load = dict(plan.loads), plan.loads[self.load_id]
        if self.lead_id is None and load.circuit_id is not None:
            loads[self.load_id] = load.model_copy(update={"mark": None, "order": None})
        return plan.model_copy(update={"leads": leads, "loads": loads})

    def _with(self, key: str, lead: Lead) -> Lead:
        if not isinstance(lead.to, ToLoads):
            return lead
        others = tuple(item for item in lead.to.load_ids if item != self.load_id)
        held = (*others, self.load_id) if key == self.lead_id else others
        return lead.model_copy(update={"to": lead.to.model_copy(update={"load_ids": held})})


class FeedAgain(Command):
    """Plug another source into a feed, in turn with those that are there."""

    usage = "feed FEED station|link|generator|vehicle/ID [OUTLET]"
    command: Literal["feed"] = "feed"
    feed_id: Id
    source: Annotated[str, Field(max_length=80)]
    outlet: Id | None = None

    def made(self, plan: Plan) -> Plan:
        """The plan with one more lead: with a cord like that of the first one there."""
        if self.feed_id not in plan.feeds:
            problem = Problem("/feed_id", shown(self.feed_id), "a feed of this plan")
            raise NotFound(str(problem), (problem,))
        kind, _, source_id = self.source.partition("/")
        known = next((one for one in SOURCES if one == kind), None)
        if known is None or source_id not in plan.room_of(known):
            raise refused("/source", self.source, "a source of this plan, such as station/unit")
        outlets = plan.outlets_of(known, source_id)
        outlet = self.outlet or next(iter(outlets), None)
        if outlet is not None and outlet not in outlets:
            raise refused(
                "/outlet", outlet, f"one of {', '.join(outlets) or 'none: a vehicle has one outlet'}"
            )
        there = [lead for lead in plan.leads.values() if isinstance(lead.to, ToFeed)]
        same = [lead for lead in there if lead.to == ToFeed(feed_id=self.feed_id)]
        cords = same[0].cords if same else (Cord(length_m=USUAL_M, awg=10, usual=True),)
        lead = Lead(
            source=Outlet(kind=known, id=source_id, outlet=outlet),
            cords=cords,
            to=ToFeed(feed_id=self.feed_id),
        )
        key = free_id(f"{source_id}-to-{self.feed_id}", set(plan.leads), "lead")
        return plan.model_copy(update={"leads": {**plan.leads, key: lead}})


class Inlet(Command):
    """Make the breaker of a circuit that of a feed, with the usual inlet of its rating."""

    usage = "inlet CIRCUIT"
    command: Literal["inlet"] = "inlet"
    circuit_id: Id

    def made(self, plan: Plan) -> Plan:
        """The plan with the feed, without the circuit and what was on it."""
        feed = feed_of_breaker(plan, self.circuit_id)
        left = without(plan, "circuits", self.circuit_id)
        key = free_id("inlet", set(left.feeds), "inlet")
        return left.model_copy(update={"feeds": {**left.feeds, key: feed}})


class Cords(Command):
    """End a lead at appliances by their own plugs, and no longer at a feed."""

    usage = "cords LEAD"
    command: Literal["cords"] = "cords"
    lead_id: Id

    def made(self, plan: Plan) -> Plan:
        """The plan with the circuits that the feed took on the cords; the feed goes with its last lead."""
        lead = plan.leads.get(self.lead_id)
        feed = plan.feeds.get(lead.to.feed_id) if lead is not None and isinstance(lead.to, ToFeed) else None
        if lead is None or feed is None:
            raise refused("/lead_id", self.lead_id, "a lead of this plan that ends at a feed")
        to = ToLoads(circuit_ids=feed.circuit_ids, plug=feed.inlet, plug_a=feed.inlet_a)
        left = without(plan, "leads", self.lead_id)
        cords = lead.model_copy(update={"to": to})
        leads = {**plan.leads, self.lead_id: cords}
        return left.model_copy(update={"leads": leads, "outage": plan.outage})
