"""What the checks look at: the plan, its run, and sums that several of them need."""

from functools import cached_property

from weary_cedar.core.checks.finding import Element
from weary_cedar.core.electrical.split_phase import PhaseLoad, phase_load
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.feed_limits import FeedLimits, feed_limits
from weary_cedar.core.panel_schedule import on_watts
from weary_cedar.core.plan import (
    PANEL_KINDS,
    WIRED_KINDS,
    Circuit,
    Feed,
    Generator,
    Job,
    Load,
    Plan,
    Receptacle,
    Station,
    Steady,
)

#: A load that draws this long at a time is continuous, s. NFPA 70 (2023) article 100, from memory.
CONTINUOUS_S = 3 * 3600.0
#: Ways of feeding a house that are refused: nothing about them is left open.
REFUSED = ("no_transfer", "receptacle_backfeed")


class Facts:
    """A plan as the checks see it."""

    def __init__(self, plan: Plan, run: RunResult | None = None, unshed: RunResult | None = None) -> None:
        self.plan = plan
        self._run = run
        self._unshed = unshed

    @cached_property
    def run(self) -> RunResult:
        """The run of the plan as it stands."""
        return self._run or run_outage(self.plan)

    @cached_property
    def unshed(self) -> RunResult:
        """The run with nobody shedding."""
        if self._unshed is not None:
            return self._unshed
        strategy = self.plan.strategy.model_copy(update={"shedding": "none"})
        return run_outage(self.plan.model_copy(update={"strategy": strategy}))

    # ------------------------------------------------------------ elements

    def element(self, room: str, key: str) -> Element:
        """A part of the plan by name."""
        if room == "site":
            return Element(room=room, id="site", name=self.plan.site.name)
        part = getattr(self.plan, room)[key]
        if room == "feeds":
            panel = self.plan.panels[part.panel_id].name
            return Element(room=room, id=key, name=f"feed of {panel} from {self.source_name(part)}")
        if room == "circuits":
            spaces = " ".join(str(space) for space in part.spaces)
            return Element(room=room, id=key, name=f"Breaker {spaces} · {part.label}")
        return Element(room=room, id=key, name=part.name)

    def source_name(self, feed: Feed) -> str:
        """Name of the station, link or generator of a feed."""
        link = self.plan.links.get(feed.source_id)
        return link.name if link else self.plan.source(feed).name

    # ------------------------------------------------------------ feeds

    @property
    def panel_feeds(self) -> list[tuple[str, Feed]]:
        """Feeds that put house wiring under power."""
        return [(key, feed) for key, feed in self.plan.feeds.items() if feed.kind in PANEL_KINDS]

    def source(self, feed: Feed) -> Station | Generator:
        """Station or generator of a feed."""
        return self.plan.source(feed)

    def outlet(self, feed: Feed) -> Receptacle | None:
        """The outlet of the source that a feed begins at."""
        return self.source(feed).receptacles.get(feed.receptacle_id)

    def reached(self, feed: Feed) -> dict[str, Circuit]:
        """Circuits that a feed can put under power, whatever their mark."""
        if feed.kind in WIRED_KINDS:
            return {key: self.plan.circuits[key] for key in feed.circuit_ids}
        panels = self.plan.panels_reached(feed.panel_id)
        return {key: c for key, c in self.plan.circuits.items() if c.panel_id in panels}

    def on(self, feed: Feed) -> dict[str, Circuit]:
        """Circuits of a feed that are not marked off."""
        return {key: c for key, c in self.reached(feed).items() if c.mark != "off"}

    def loads_on(self, circuits: dict[str, Circuit]) -> dict[str, Load]:
        """Loads on some circuits."""
        return {key: load for key, load in self.plan.loads.items() if load.circuit_id in circuits}

    @cached_property
    def limits(self) -> FeedLimits | None:
        """Limits of the feed that is run, or of a linked pair; nothing of one that has no run."""
        feed = self.plan.run_feed
        if feed is None or (self.run.ledger is None and feed.source_id not in self.plan.links):
            return None
        return feed_limits(self.plan, feed, self.plan.source_station(feed))

    @cached_property
    def not_run(self) -> tuple[Element, str] | None:
        """The feed that would be run, and why it is not, where that leaves something open."""
        feed = self.plan.run_feed
        if feed is None or self.run.ledger is not None or feed.kind in REFUSED:
            return None
        key = next(k for k, item in self.plan.feeds.items() if item is feed)
        return self.element("feeds", key), self.run.verdict.sentence

    # ------------------------------------------------------------ loads

    def legs_of(self, load: Load) -> tuple[str, ...]:
        """Legs that a load is on."""
        return self.plan.circuit_legs(load.circuit_id)

    def kept(self) -> dict[str, Load]:
        """Loads on circuits marked keep that the run's feed carries."""
        carried = self.plan.carried_circuits()
        circuits = {key: self.plan.circuits[key] for key in carried}
        return self.loads_on({key: c for key, c in circuits.items() if c.mark == "keep"})

    def kept_sums(self) -> dict[str, PhaseLoad]:
        """Watts and vars of everything marked keep together, by leg."""
        names = ("A", "B") if self.plan.site.split_phase else ("L",)
        sums = {name: PhaseLoad(0.0) for name in names}
        for load in self.kept().values():
            legs = self.legs_of(load)
            for leg in legs:
                sums[leg] = sums[leg] + phase_load(on_watts(load) / len(legs), load.power_factor)
        return sums

    def amps(self, load: Load) -> float:
        """Running amps of a load on its legs."""
        legs = self.legs_of(load)
        return on_watts(load) / load.power_factor / (self.plan.site.leg_volts * len(legs))

    def continuous(self, load: Load) -> bool:
        """Whether it draws for three hours or more at a time."""
        if load.continuous is not None:
            return load.continuous
        spec = load.behaviour
        if isinstance(spec, Steady):
            return spec.watts > 0
        if isinstance(spec, Job):
            return max(step.minutes for step in spec.steps) * 60 >= CONTINUOUS_S
        return False

    def greatest_flow(self, key: str) -> float:
        """Greatest flow of an element in A, as planned or with nobody shedding, whichever is more."""
        flows = [flow for run in (self.run, self.unshed) for flow in run.flows if flow.key == key]
        return max((flow.flow for flow in flows), default=0.0)

    def flow(self, key: str) -> tuple[float, float] | None:
        """Greatest flow and rating of an element of the run's feed."""
        found = next((flow for flow in self.run.flows if flow.key == key), None)
        return (found.flow, found.rating) if found else None
