"""One cord, several sources: which of them feeds, and when someone swaps.

Refused: never two at a time. Delayed: a swap by hand waits for someone who is awake and at home, and
costs the minutes of the strategy, in which the house is dark; an automatic device swaps at once.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, ClassVar

from weary_cedar.core.outage.carriers import EngineCarrier, GridCarrier, StationCarrier, VehicleCarrier
from weary_cedar.core.outage.controls import NEVER, Control
from weary_cedar.core.outage.leg_sums import SLACK
from weary_cedar.core.plan import AnyRule, SwapRule, UtilityRule

if TYPE_CHECKING:
    from weary_cedar.core.outage.kernel import OutageRun
    from weary_cedar.core.outage.tree import LiveWay


class TurnControl(Control):
    """One cord, several sources: which way feeds a set of circuits, never two at a time."""

    STATE: ClassVar[str] = Control.STATE + " swapped on_utility at going leaves_s joins_s"

    def __init__(
        self, ways: list[LiveWay], grid: LiveWay | None, rules: Sequence[AnyRule], above: list[LiveWay]
    ) -> None:
        super().__init__()
        self.ways = ways
        #: Ways into panels above: while none of its own feeds, its panel hangs on these by its feeder.
        self.above = above
        keys = [way.key for way in ways]
        self.swaps = [rule for rule in rules if isinstance(rule, SwapRule) and rule.lead_id in keys]
        self.utility = next((rule for rule in rules if isinstance(rule, UtilityRule)), None)
        #: Swaps that are in force, by the lead that took over, and whether the house is on the utility.
        self.swapped: set[str] = set()
        self.on_utility = False
        self.grid = grid
        self.at: LiveWay | None = None
        self.going: LiveWay | None = None
        self.leaves_s = self.joins_s = NEVER

    @property
    def about(self) -> str:
        return " ".join(way.key for way in self.ways)

    def wanted(self, run: OutageRun, t: float) -> LiveWay | None:
        """The way that should feed now: the utility when it is back, else the first that can give."""
        if self.grid is not None and run.grid_up and self._takes_utility(run, t):
            return self.grid
        engines = [way for way in self.ways if run.engine_of(way) is not None]
        for way in engines:
            control = run.engine_of(way)
            if control is not None and control.feeds_house:
                return way
        stations = [way for way in self.ways if isinstance(way.carrier, StationCarrier)]
        give = [way for way in stations if not run.spent(self._station(way))]
        for way in stations if self.swaps else ():
            run.touch(way.carrier, t)
        for rule in self.swaps:
            self._mind_swap(run, t, rule, stations, give)
        give.sort(key=lambda way: way.key not in self.swapped)
        if give:
            return give[0]
        for way in self.ways:
            if isinstance(way.carrier, VehicleCarrier) and way.carrier.can_give:
                return way
        for way in engines:
            control = run.engine_of(way)
            if control is not None and control.running:
                return way
        return self.at if self.at is not self.grid else None

    @staticmethod
    def _station(way: LiveWay) -> StationCarrier:
        assert isinstance(way.carrier, StationCarrier)
        return way.carrier

    def _mind_swap(
        self, run: OutageRun, t: float, rule: SwapRule, stations: list[LiveWay], give: list[LiveWay]
    ) -> None:
        """Put the lead of a rule first while the other stations are low."""
        others = [self._station(way).percent for way in stations if way.key != rule.lead_id]
        able = any(way.key == rule.lead_id for way in give)
        if rule.lead_id in self.swapped:
            if not able or max(others, default=0.0) >= rule.back_above_percent * (1 - SLACK):
                self.swapped.discard(rule.lead_id)
        elif able and others and max(others) <= rule.below_percent * (1 + SLACK):
            self.swapped.add(rule.lead_id)
            run.did(rule, t)

    def _takes_utility(self, run: OutageRun, t: float) -> bool:
        """Whether the house goes back to the utility that is there: always, or as the rule says."""
        rule = self.utility
        stations = [self._station(way) for way in self.ways if isinstance(way.carrier, StationCarrier)]
        able = [carrier for carrier in stations if not run.spent(carrier)]
        if rule is None or not able:
            return True
        for carrier in able:
            run.touch(carrier, t)
        charge = max(carrier.percent for carrier in able)
        if not self.on_utility and charge <= rule.back_below_percent * (1 + SLACK):
            self.on_utility = True
            run.did(rule, t)
        elif self.on_utility and charge >= rule.away_above_percent * (1 - SLACK):
            self.on_utility = False
        return self.on_utility

    def levels(self) -> list[tuple[float, float]]:
        """Charges of what feeds at which it looks again, falling and rising, %."""
        found = [(rule.below_percent, rule.back_above_percent) for rule in self.swaps]
        if self.utility is not None and self.grid is not None:
            found.append((self.utility.back_below_percent, self.utility.away_above_percent))
        return found

    def begin(self, run: OutageRun, t: float) -> None:
        """The first change-over of the outage."""
        first = self.wanted(run, t) or self.ways[0]
        self.due_s = self.joins_s = run.plan.changeover_s(first.way.hookup)
        if self.joins_s > t:
            self.going = first
            return
        self.joins_s = self.due_s = NEVER
        self.at = first
        self.at.joined = True
        run.replug = True

    def look(self, run: OutageRun, t: float) -> None:
        if not run.changed_over or (self.joins_s < NEVER and self.leaves_s == NEVER):
            return
        want = self.wanted(run, t)
        if self.above and self._back_on_feeder(run, want):
            self._leave(run, t)
        elif want is None or want is self.at:
            self.going, self.leaves_s, self.joins_s = None, NEVER, NEVER
        elif want is not self.going:
            self._plan(run, t, want)
        self.due_s = min(self.leaves_s, self.joins_s)

    def _back_on_feeder(self, run: OutageRun, want: LiveWay | None) -> bool:
        """Whether its panel is better fed from above: its own give nothing, or the utility is back."""
        live = [way for way in self.above if way.live]
        if any(isinstance(way.carrier, GridCarrier) for way in live) or (run.grid_up and not live):
            return True
        if want is None:
            return True
        spent = isinstance(want.carrier, StationCarrier) and run.spent(want.carrier)
        empty = isinstance(want.carrier, VehicleCarrier) and not want.carrier.can_give
        stands = isinstance(want.carrier, EngineCarrier) and not want.carrier.engine.running
        return bool(live) and (spent or empty or stands)

    def _leave(self, run: OutageRun, t: float) -> None:
        """Someone opens its own inlet, and closes the feeder again."""
        self.going, self.joins_s = None, NEVER
        if self.at is None or not self.at.joined:
            self.leaves_s = NEVER
        elif self.leaves_s == NEVER:
            self.leaves_s = t if self.at.way.automatic else run.presence.next(t + run.plan.strategy.swap_s)

    @property
    def hands_over(self) -> bool:
        """Whether another way takes over by itself from the one that feeds."""
        others = [way for way in self.ways if way is not self.at]
        return not others or any(way.way.automatic for way in others)

    def _plan(self, run: OutageRun, t: float, want: LiveWay) -> None:
        by_itself = want.way.automatic or (want is self.grid and self.ways[0].way.automatic)
        self.going = want
        if self.at is self.grid and not run.grid_up:
            after = t + run.plan.changeover_s(want.way.hookup)
            self.leaves_s, self.joins_s = t, after if by_itself else run.presence.next(after)
        elif by_itself:
            self.leaves_s = self.joins_s = t
        else:
            self.leaves_s = run.presence.next(t)
            self.joins_s = self.leaves_s + run.plan.strategy.swap_s

    def act(self, run: OutageRun, t: float) -> None:
        if t >= self.leaves_s:
            self.leaves_s = NEVER
            if self.at is not None and self.at.joined:
                self.at.joined = False
                run.replug = True
                if self.going is None:
                    self.at = None
        if t >= self.joins_s and self.going is not None:
            before, self.at, self.going, self.joins_s = self.at, self.going, None, NEVER
            self.at.joined = True
            run.replug = True
            run.out.swapped(t, before.carrier.name if before else "", self.at.carrier.name)
        self.due_s = min(self.leaves_s, self.joins_s)
