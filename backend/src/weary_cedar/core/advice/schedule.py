"""A schedule for an outage: engine hours, jobs, recharging and acts of people, each proven by a run."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any, Final

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.checks import findings_of, stops_of
from weary_cedar.core.decide.chance import try_outages
from weary_cedar.core.decide.changes import Seen, patched
from weary_cedar.core.decide.day_plan import day_plan
from weary_cedar.core.decide.schedule import (
    Cost,
    Hourly,
    Setting,
    best_hours,
    by_day,
    cost_of,
    counted_hours,
    daily_settings,
    hand_settings,
    least_litres,
    least_worth,
)
from weary_cedar.core.decide.schedule.hours import KEEP_WORTH, LEFT_WORTH, LITRE_WORTH, START_WORTH
from weary_cedar.core.decide.schedule.worth import STEPS, left_at_the_end
from weary_cedar.core.errors import InvalidInput, Problem, WearyCedarError
from weary_cedar.core.network import network_of
from weary_cedar.core.outage import RunResult, first_part, run_outage
from weary_cedar.core.outage.verdict import spoken_hours
from weary_cedar.core.plan import Plan

#: What is other every day, or asks more of hands, must save this share of the fuel, and so many litres.
SAVES_SHARE, SAVES_L = 0.05, 0.3
#: Or it must serve so much more: s of what is lost or too warm, Wh, share of what is missing.
GAINS_S, GAINS_WH, GAINS_SHARE = 1_800.0, 100.0, 0.1
#: A schedule that is other every day must be this much likelier to last.
LIKELIER: Final = 0.05
#: So many of those that cost least are looked at for that.
MOST_LOOKED_AT: Final = 6
#: Rules that change what comes in; the bound is of a plan that has them.
BY_HAND: Final = ("turn", "plug", "hand_cycle")
#: In so many outages as they may be a schedule is tried where nothing else is asked.
USUAL_OUTAGES: Final = 20
#: Outages of a long run with many changes are fewer: so many changes together.
MOST_MOMENTS: Final = 200_000
#: What is better, in the order of what counts; and what that takes.
GAINS: Final = (
    "what must run lasts {} longer",
    "{} instead of {} is missing to what must run",
    "{} instead of {} is missing to what is marked room",
    "food or rooms are beyond their limits for {} instead of {}",
    "{} instead of {} is missing to what should be left",
    "it takes {} of fuel instead of {}",
    "it takes {} starts of engines instead of {}",
)
LOSSES: Final = (
    "what must run lasts {} less",
    "{1} instead of {0} is missing to what must run",
    "{1} instead of {0} is missing to what is marked room",
    "food or rooms are beyond their limits for {1} instead of {0}",
    "{1} instead of {0} is missing to what should be left",
    "it takes {1} of fuel instead of {0}",
    "it takes {1} starts of engines instead of {0}",
    "there is more to do by hand: {1}",
)


class Scheduled(BaseModel):
    """One thing to do, in words: its kind and the part that it is about."""

    model_config = ConfigDict(frozen=True)

    kind: str
    part: str
    words: str


class CostLine(BaseModel):
    """One of the things that an outage costs, as the plan stands and by the schedule."""

    model_config = ConfigDict(frozen=True)

    words: str
    before: str
    after: str
    better: bool


class DayTold(BaseModel):
    """One day of the outage by the schedule, in words."""

    model_config = ConfigDict(frozen=True)

    day: str
    text: str


class Schedule(BaseModel):
    """The answer: what to do when, what that costs and saves, and how far it is from the best."""

    model_config = ConfigDict(frozen=True)

    sentence: str
    lasts: bool
    #: Whether it is better than the plan as it stands.
    better: bool = False
    doings: tuple[Scheduled, ...] = ()
    #: The same every day; else other acts day by day.
    daily: bool = True
    costs: tuple[CostLine, ...] = ()
    patch: dict[str, Any] = {}
    verdict: str = ""
    days: tuple[DayTold, ...] = ()
    #: What could still be gained, as a share of all that is wanted, %, and in words.
    gap_percent: float | None = None
    gap: str = ""
    #: Of so many outages as they may be, how many last as the plan stands and by the schedule.
    chance: str = ""
    #: How many schedules were run.
    tried: int = 0
    held: str = ""


@dataclass(frozen=True)
class _Tried:
    setting: Setting
    plan: Plan
    run: RunResult
    cost: Cost


def schedule(
    plan: Plan,
    run: RunResult | None = None,
    *,
    from_s: float = 0.0,
    outages: int = USUAL_OUTAGES,
    late: Callable[[], bool] = lambda: False,
) -> Schedule:
    """When to do what in an outage, so that least is missing and least is spent.

    Args:
        plan: a complete plan.
        run: of that plan; it is run if absent.
        from_s: from when on, s from the start of the outage; what was before stays as it was.
        outages: in how many outages as they may be it is tried besides.
        late: asked before each of these outages, whether it is told without them.

    Returns:
        The schedule that costs least of those that were run, as rules of every day where one other every day
        gains little; nothing that brings a stop. Of a plan with a stop nothing but that it comes first.

    Raises:
        InvalidInput: a moment outside of the outage.

    Method: hours counted ahead on one store (dynamic programme and daily hours), exact runs as the judge,
    and a linear programme as the bound; see docs/method.md.
    """
    if not 0 <= from_s < plan.outage.length_s:
        problem = Problem("/from_s", f"{from_s:g}", f"0 to {plan.outage.length_s:g} s, within the outage")
        raise InvalidInput(str(problem), (problem,))
    run = run or run_outage(plan)
    stops = stops_of(findings_of(plan, run))
    if stops:
        words = f"First what must not be: {stops[0]}. Nothing is scheduled before that is mended."
        return Schedule(sentence=words, lasts=False, held=stops[0])
    if run.verdict.status == "cannot_judge":
        why = "; ".join(run.verdict.missing)
        return Schedule(sentence=f"Not judged yet: {why}.", lasts=False, held=why)
    return _Search(plan, run, from_s, outages, late).answer()


class _Late(Exception):
    """Outages as they may be would take too long."""


class _Search:
    """The search for one plan."""

    def __init__(
        self, plan: Plan, run: RunResult, from_s: float, outages: int, late: Callable[[], bool]
    ) -> None:
        self.late, self.was_late = late, False
        self.plan, self.run, self.from_s = plan, run, from_s
        self.outages = min(outages, MOST_MOMENTS // max(1, run.intervals))
        self.left_wh = left_at_the_end(run)
        self.tried = self.unlikely = 0
        #: Share of outages that each lasts in; each is held, so that no other takes its place.
        self.shares: dict[int, float] = {}
        self.kept: list[_Tried] = []
        self.engine_id = self._engine()
        first = Setting()
        self.before = _Tried(first, plan, run, cost_of(plan, network_of(plan), run, self.left_wh))

    def _engine(self) -> str | None:
        """The largest engine that feeds or charges something and has no acts of its own."""
        unused = {item.name for item in self.run.unused}
        acted = {act.part_id for act in self.plan.outage.acts.values() if act.room == "generators"}
        engines = [
            (engine.rated_w, key)
            for key, engine in self.plan.generators.items()
            if engine.name not in unused and key not in acted and f"generators/{key}" in self.run.sources
        ]
        return max(engines)[1] if engines else None

    def _hourly(self, plan: Plan, run: RunResult) -> Hourly | None:
        try:
            return counted_hours(plan, run, self.engine_id, self.from_s, self.left_wh)
        except WearyCedarError:
            return None

    def _try(self, setting: Setting) -> _Tried | None:
        """A schedule by its run; none where the plan that it makes cannot be, or must not."""
        try:
            plan = patched(self.plan, setting.patch(self.plan))
            run = run_outage(plan)
        except WearyCedarError:
            return None
        self.tried += 1
        cost = cost_of(plan, network_of(plan), run, self.left_wh, setting.hand_acts)
        return _Tried(setting, plan, run, cost)

    def answer(self) -> Schedule:
        """The best that was found, with what it saves."""
        hourly = self._hourly(self.plan, self.run)
        if hourly is None or not hourly.count:
            return Schedule(
                sentence="No schedule was found: the outage could not be counted in half hours.",
                lasts=self.run.verdict.status == "lasts", held="not counted",
            )  # fmt: skip
        told = best_hours(hourly)
        other = self._allowed(self._try(by_day(self.plan, hourly, self.engine_id, told, self.run)))
        daily = []
        if self.from_s == 0:
            daily = list(self._all(daily_settings(self.plan, hourly, self.engine_id)))
        try:
            best = self._found(daily, other)
        except _Late:
            self.outages, self.was_late, self.unlikely = 0, True, 0
            best = self._found(daily, other)
        return self._told(best)

    def _found(self, daily: Sequence[_Tried], other: _Tried | None) -> _Tried:
        """The best of all that was tried."""
        best = self._best([self.before, *daily])
        if self.from_s == 0:
            best = self._with_hands(best)
        return other if other is not None and self._instead(other, best) else best

    def _instead(self, other: _Tried, daily: _Tried) -> bool:
        """Whether a schedule that is another one every day is worth it beside one that is always the same."""
        if self.from_s > 0:
            return other.cost.rank < daily.cost.rank and self._likely(other)
        if not _worth_it(other.cost, daily.cost):
            return False
        if not self.outages or not other.cost.serves_alike(daily.cost):
            return self._likely(other)
        return self._share(other) >= self._share(daily) + LIKELIER

    def _all(self, settings: Sequence[Setting]) -> Iterator[_Tried]:
        for setting in settings:
            found = self._try(setting)
            if found is not None:
                yield found

    def _best(self, tried: Sequence[_Tried]) -> _Tried:
        """The one that costs least, brings no stop and lasts in no fewer outages as they may be."""
        for item in sorted(tried, key=lambda item: item.cost.rank)[:MOST_LOOKED_AT]:
            if item is self.before or (self._allowed(item) is not None and self._likely(item)):
                return item
        return self.before

    def _likely(self, item: _Tried) -> bool:
        """Whether it lasts in about as many outages as they may be as the plan as it stands."""
        if not self.outages or self._share(item) >= self._share(self.before) - LIKELIER:
            return True
        self.unlikely += 1
        return False

    def _allowed(self, item: _Tried | None) -> _Tried | None:
        return None if item is None or stops_of(findings_of(item.plan, item.run)) else item

    def _with_hands(self, best: _Tried) -> _Tried:
        """What hands can do besides, each where it serves more, or saves enough fuel for the trouble."""
        for setting in hand_settings(Seen(self.plan, self.run)):
            found = self._try(best.setting + setting)
            if found is not None and _worth_it(found.cost, best.cost) and self._allowed(found) is not None:
                best = found
        return best

    def _share(self, item: _Tried) -> float:
        """In which share of outages as they may be it lasts."""
        key = id(item)
        if key not in self.shares:
            lasted = 0
            for number in range(self.outages):
                if self.late():
                    raise _Late
                lasted += sum(one.judged.lasts for one in try_outages(item.plan, [number]))
            self.shares[key] = lasted / self.outages
            self.kept.append(item)
        return self.shares[key]

    def _chance(self, best: _Tried) -> str:
        if not self.outages:
            why = ": that would have taken too long here" if self.was_late else ""
            return f"Not compared in outages as they may be{why}"
        before, after = (round(self._share(item) * self.outages) for item in (self.before, best))
        told = f"Compared in the same {self.outages} outages as they may be: {before} last as the plan stands"
        if best is not self.before:
            told += f", {after} by this schedule"
        if self.unlikely:
            told += f"; of what costs less {self.unlikely} last less often and are not told"
        return told

    # ------------------------------------------------------------ in words

    def _told(self, best: _Tried) -> Schedule:
        better = best is not self.before and best.cost.rank < self.before.cost.rank
        if not better:
            best = self.before
        try:
            chance = self._chance(best)
        except _Late:
            self.outages, self.was_late = 0, True
            chance = self._chance(best)
        gap_percent, gap = self._gap(best)
        verdict = best.run.verdict
        return Schedule(
            sentence=self._sentence(best),
            lasts=verdict.status == "lasts",
            better=better,
            doings=tuple(Scheduled(kind=d.kind, part=d.part, words=d.words) for d in best.setting.doings),
            daily=not best.setting.acts,
            costs=tuple(_lines(self.plan, self.before.cost, best.cost)),
            patch=best.setting.patch(self.plan) if better else {},
            verdict=f"{verdict.headline}: {verdict.sentence}",
            days=tuple(DayTold(day=day.day, text=day.text) for day in day_plan(best.plan, best.run)),
            gap_percent=gap_percent,
            gap=gap,
            chance=chance,
            tried=self.tried,
        )

    def _gap(self, best: _Tried) -> tuple[float | None, str]:
        """How far it is from the best there can be."""
        by_hand = tuple(rule for rule in best.setting.rules if rule["kind"] in BY_HAND)
        plan = patched(self.plan, Setting(rules=by_hand).patch(self.plan)) if by_hand else self.plan
        hourly = self._hourly(plan, self.run)
        bound = least_worth(hourly) if hourly is not None else None
        if hourly is None or bound is None or hourly.wanted <= 0:
            return None, "How far that is from the best there can be was not worked out."
        cost = self._from_then_on(best.cost)
        worth = KEEP_WORTH * cost.keep_wh + cost.room_wh + LEFT_WORTH * cost.reserve_wh
        worth += LITRE_WORTH * cost.litres + START_WORTH * cost.engine_starts
        percent = max(0.0, 100.0 * (worth - bound.worth) / hourly.wanted)
        words = f"No schedule can gain more than {percent:.1f} % of all that is wanted"
        if len(best.run.batteries) > 1:
            words += ", counted as if all batteries were one"
        litres = least_litres(hourly, cost.keep_wh, cost.room_wh, cost.reserve_wh)
        if litres is not None and cost.litres > 0:
            least, own = map(self.plan.site.units.told_volume, (min(litres, cost.litres), cost.litres))
            then = " from then on" if self.from_s else ""
            words += f"; with as much served none burns less than {least}{then} (this one {own})"
        return round(percent, 2), words + "."

    def _from_then_on(self, cost: Cost) -> Cost:
        """A cost without what was missing and burned before the schedule begins."""
        if not self.from_s:
            return cost
        part = first_part(self.plan, self.from_s)
        past = cost_of(part, network_of(part), run_outage(part), 0.0)
        return replace(
            cost, keep_wh=max(0.0, cost.keep_wh - past.keep_wh),
            room_wh=max(0.0, cost.room_wh - past.room_wh), litres=max(0.0, cost.litres - past.litres),
            engine_starts=max(0, cost.engine_starts - past.engine_starts),
        )  # fmt: skip

    def _sentence(self, best: _Tried) -> str:
        if best is self.before:
            if self.tried == 1:
                return "The one schedule that was run is no better than the plan as it stands."
            return f"None of {self.tried} schedules that were run is better than the plan as it stands."
        gains = list(_gains(self.plan, self.before.cost, best.cost, GAINS))
        lasts = best.run.verdict.status == "lasts"
        if lasts and self.run.verdict.status != "lasts":
            gains.insert(0, "it lasts")
        told = "; ".join(gains) or "it asks less"
        price = "; ".join(_gains(self.plan, best.cost, self.before.cost, LOSSES))
        told += f"; for that {price}" if price else ""
        return f"By this schedule {told}." + ("" if lasts else " It does not last even so.")


def _worth_it(new: Cost, old: Cost) -> bool:
    """Whether one serves enough more, or as much with so much less fuel, that it is worth more trouble."""
    if not new.serves_alike(old):
        missing, missed = new.keep_wh + new.room_wh, old.keep_wh + old.room_wh
        gains = (
            old.lost_s - new.lost_s >= GAINS_S,
            missed - missing >= max(GAINS_WH, GAINS_SHARE * missed),
            old.over_s - new.over_s >= GAINS_S,
        )
        return new.rank < old.rank and any(gains)
    saved = old.litres - new.litres
    return saved >= max(SAVES_L, SAVES_SHARE * old.litres)


def _figures(plan: Plan, cost: Cost) -> tuple[tuple[str, float, str], ...]:
    """What an outage costs, by words: a figure that is compared, and as it is shown."""
    return (
        ("time after what must run is lost", cost.lost_s, spoken_hours(cost.lost_s)),
        ("missing to what must run", cost.keep_wh, f"{cost.keep_wh / 1000:.2f} kWh"),
        ("missing to what is marked room", cost.room_wh, f"{cost.room_wh / 1000:.2f} kWh"),
        ("food or rooms beyond their limits", cost.over_s, spoken_hours(cost.over_s)),
        ("missing to what should be left", cost.reserve_wh, f"{cost.reserve_wh / 1000:.2f} kWh"),
        ("fuel", cost.litres, plan.site.units.told_volume(cost.litres)),
        ("starts of engines", float(cost.engine_starts), str(cost.engine_starts)),
        ("more to do by hand", float(cost.hand_acts), f"{cost.hand_acts}×"),
    )


def _lines(plan: Plan, before: Cost, after: Cost) -> Iterator[CostLine]:
    pairs = zip(_figures(plan, before), _figures(plan, after), strict=True)
    for number, ((words, old, told_old), (_, new, told_new)) in enumerate(pairs):
        if old or new:
            better = old - new >= STEPS[number]
            yield CostLine(words=words, before=told_old, after=told_new, better=better)


def _gains(plan: Plan, worse: Cost, better: Cost, forms: Sequence[str]) -> Iterator[str]:
    """By what one is better than the other, in words."""
    if better.rank[0] < worse.rank[0]:
        yield forms[0].format(spoken_hours(worse.lost_s - better.lost_s))
    pairs = zip(forms[1:], _figures(plan, worse)[1:], _figures(plan, better)[1:], strict=False)
    for number, (form, old, new) in enumerate(pairs, start=1):
        if old[1] - new[1] >= STEPS[number]:
            yield form.format(new[2], old[2])
