"""How much to buy: for so many days at a chance, the choices that no other beats, each proven by runs."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Annotated, Any, Final

from pydantic import BaseModel, ConfigDict, Field

from weary_cedar.core.checks import findings_of, stops_of
from weary_cedar.core.decide.buying import Amount, Market, market_of, missing_words
from weary_cedar.core.decide.chance import tally, try_outages, why_not
from weary_cedar.core.decide.chance.tally import share_of
from weary_cedar.core.decide.changes import Seen, patched
from weary_cedar.core.errors import WearyCedarError
from weary_cedar.core.network import network_of
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Plan

DAY_S: Final = 86_400.0
#: Outages by which a choice is found, and by which it is confirmed.
FIRST, CONFIRMED = 20, 40
#: How often the edge is walked again where a choice was not confirmed.
MOST_ROUNDS: Final = 4
#: A doubt on which so much hangs is measured before anything is bought.
MEASURE_FIRST: Final = 0.25
#: A choice that saves so many steps of storage says that more storage is the wrong answer.
SAVES_STEPS: Final = 2
#: So many circuits are tried without.
MOST_WITHOUT: Final = 2


class SizeAsked(BaseModel):
    """For how many days, at which chance, in which month; as the plan says if absent."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    days: Annotated[float, Field(ge=0.5, le=14)] | None = None
    chance: Annotated[float, Field(ge=0.5, le=0.99)] = 0.9
    month: Annotated[int, Field(ge=1, le=12)] | None = None


class Choice(BaseModel):
    """One choice: what is more, in how many outages it lasts, and what it asks."""

    model_config = ConfigDict(frozen=True)

    words: str
    storage: int
    strings: int
    engine_h: int
    lasted: int
    outages: int
    low: float
    high: float
    storage_wh: float
    #: Nothing where a price or a weight is not said.
    money: float | None
    weight_kg: float | None
    litres_day: float
    #: The same in the units of the plan.
    fuel_day: str
    minutes_day: float
    noise_db: float | None
    verdict: str
    patch: dict[str, Any]


class Size(BaseModel):
    """The answer as far as it is: choices that no other beats, the one that buys least storage last."""

    model_config = ConfigDict(frozen=True)

    sentence: str
    days: float
    chance: float
    choices: tuple[Choice, ...] = ()
    notes: tuple[str, ...] = ()
    done: bool = True
    #: How many choices were tried, and outages run.
    tried: int = 0
    outages: int = 0
    held: str = ""


#: Of each choice that was tried: how many outages lasted, how many were run.
Known = dict[Amount, tuple[int, int]]


@dataclass
class Sized:
    """What is known by now, to go on from."""

    known: Known = field(default_factory=dict)
    #: Circuits without which it was tried.
    without: dict[str, tuple[int, int]] = field(default_factory=dict)

    @property
    def done(self) -> int:
        """How many outages were run."""
        return sum(count for _, count in (*self.known.values(), *self.without.values()))


class _Enough(Exception):
    """As many outages were run as were asked for now."""


def for_so_long(plan: Plan, asked: SizeAsked) -> Plan:
    """The plan for an outage of so many days in a month; temperatures stay as the plan says."""
    outage = plan.outage
    update: dict[str, Any] = {}
    if asked.days is not None:
        update["length_s"] = asked.days * DAY_S
    if asked.month is not None and asked.month != outage.start_local.month:
        update["start_local"] = outage.start_local.replace(month=asked.month, day=15)
        update["weather"] = outage.weather.model_copy(update={"sky": ()})
    return plan.model_copy(update={"outage": outage.model_copy(update=update)}) if update else plan


def size(
    plan: Plan,
    asked: SizeAsked,
    sized: Sized | None = None,
    most_outages: int = 100_000,
    stop: Callable[[], bool] = lambda: False,
) -> Size:
    """How much storage, how many modules and engine hours a plan needs.

    Args:
        plan: a complete plan.
        asked: days, chance and month.
        sized: what is known from before; it is added to.
        most_outages: run at most so many now; the answer then says that it is not done.
        stop: asked between choices, whether what is known has to do.

    Returns:
        Choices that last at the chance and that no other beats in storage, strings and hours together; each
        was run in outages as they may be, with the same dice. Nothing that brings a stop.

    Method: more of anything is never worse, so the edge between enough and too little is walked along.
    """
    plan = for_so_long(plan, asked)
    days = plan.outage.length_s / DAY_S
    run = run_outage(plan)
    stops = stops_of(findings_of(plan, run))
    why = f"this must not be energised: {stops[0]}" if stops else why_not(plan)
    if not why and run.verdict.unreached:
        names = ", ".join(plan.loads[key].name for key in run.verdict.unreached)
        why = f"no feed reaches {names}, which must run; that comes first, whatever is bought"
    if why:
        return Size(sentence=f"Not worked out: {why}.", days=days, chance=asked.chance, held=why)
    return _Walk(plan, run, asked, sized or Sized(), most_outages, stop).answer()


class _Walk:
    """Along the edge between enough and too little."""

    def __init__(
        self, plan: Plan, run: RunResult, asked: SizeAsked, sized: Sized, most: int, stop: Callable[[], bool]
    ) -> None:
        self.plan, self.run, self.asked, self.sized = plan, run, asked, sized
        self.left, self.stop = most, stop
        units = [plan.source_units(way.hookup) for way in network_of(plan).running]
        feeding = {key: station for unit in units for key, station in unit.items()}
        self.market: Market = market_of(plan, feeding, run)
        self.done = False
        #: Strings that the input takes, and why it takes no more.
        self.most_strings, self.too_many = self._strings()

    def _strings(self) -> tuple[int, str]:
        """How many strings may be added before a check forbids it, and which one."""
        for more in range(1, self.market.most_strings + 1):
            patch = self.market.patch(Amount(0, more, max(self.market.hours)))
            try:
                stops = stops_of(findings_of(patched(self.plan, patch)))
            except WearyCedarError as error:
                return more - 1, error.detail
            if stops:
                return more - 1, stops[0]
        return self.market.most_strings, ""

    def answer(self) -> Size:
        """As far as it is found."""
        try:
            found: list[Amount] = []
            for _ in range(MOST_ROUNDS):
                found = list(self._edge())
                if all(self._lasts(amount, CONFIRMED) for amount in found):
                    break
            self._without(found)
            self.done = True
        except _Enough:
            pass
        choices = self._choices()
        return Size(
            sentence=self._sentence(choices), days=self.plan.outage.length_s / DAY_S,
            chance=self.asked.chance, choices=tuple(choices), notes=tuple(self._notes(choices)),
            done=self.done, tried=len(self.sized.known), outages=sum(n for _, n in self.sized.known.values()),
        )  # fmt: skip

    # ------------------------------------------------------------ outages

    def _lasts(self, amount: Amount, outages: int = FIRST) -> bool:
        """Whether a choice lasts at the chance; those that cannot any more are not run to the end."""
        lasted, done = self.sized.known.get(amount, (0, 0))
        allowed = int((1.0 - self.asked.chance) * max(done, outages) + 1e-9)
        if done < outages and done - lasted <= allowed:
            plan = self._with(self.market.patch(amount))
            while plan is not None and done < outages and done - lasted <= allowed:
                self._count()
                tried = try_outages(plan, [done])
                lasted, done = lasted + sum(item.judged.lasts for item in tried), done + 1
                self.sized.known[amount] = lasted, done
            if plan is None:
                self.sized.known[amount] = 0, outages
                return False
        return done - lasted <= allowed

    def _enough(self, amount: Amount) -> bool:
        """Whether a choice lasts, by what is known of less and of more where that tells."""
        for other, (lasted, done) in self.sized.known.items():
            if self._good(lasted, done) and other.beats(amount):
                return True
            if amount.beats(other) and done - lasted > (1.0 - self.asked.chance) * max(done, FIRST) + 1e-9:
                return False
        return self._lasts(amount)

    def _count(self) -> None:
        if self.left <= 0 or self.stop():
            raise _Enough
        self.left -= 1

    def _with(self, patch: Mapping[str, Any]) -> Plan | None:
        """The plan with a change; none where that cannot be, or must not."""
        try:
            plan = patched(self.plan, patch)
            return None if stops_of(findings_of(plan)) else plan
        except WearyCedarError:
            return None

    def _edge(self) -> Iterator[Amount]:
        """The least storage for every number of strings and hours, where there is any."""
        market = self.market
        for hours in market.hours:
            most = market.most_storage
            strings = 0
            least: int | None = None
            while strings <= self.most_strings:
                start = most if least is None else least
                if not self._enough(Amount(start, strings, hours)):
                    strings += 1
                    continue
                while start > 0 and self._enough(Amount(start - 1, strings, hours)):
                    start -= 1
                if least is None or start < least:
                    yield Amount(start, strings, hours)
                least = start
                if start == 0:
                    break
                strings += 1
            if least == 0 and strings == 0:
                break

    def _without(self, found: list[Amount]) -> None:
        """Whether a circuit left off does what nothing bought does."""
        if not found or any(not (amount.storage or amount.strings) for amount in found):
            return
        seen = Seen(self.plan, self.run)
        for circuit_id in seen.circuits("room")[:MOST_WITHOUT]:
            lasted, done = self.sized.without.get(circuit_id, (0, 0))
            allowed = int((1.0 - self.asked.chance) * FIRST + 1e-9)
            plan = self._with({"circuits": {circuit_id: {"mark": "off"}}})
            while plan is not None and done < FIRST and done - lasted <= allowed:
                self._count()
                lasted += sum(item.judged.lasts for item in try_outages(plan, [done]))
                done += 1
                self.sized.without[circuit_id] = lasted, done

    # ------------------------------------------------------------ what is told

    def _choices(self) -> list[Choice]:
        """Those that last by what is known now and that no other one beats."""
        good = [amount for amount, (lasted, done) in self.sized.known.items() if self._good(lasted, done)]
        best = [amount for amount in good if not any(other.beats(amount) for other in good)]
        ordered = sorted(best, key=lambda a: (a.engine_h, a.strings, a.storage))
        return [choice for amount in ordered for choice in self._told(amount)]

    def _good(self, lasted: int, done: int) -> bool:
        return done >= FIRST and lasted >= self.asked.chance * done - 1e-9

    def _told(self, amount: Amount) -> Iterator[Choice]:
        market = self.market
        plan = self._with(market.patch(amount))
        if plan is None:
            return
        run = run_outage(plan)
        if stops_of(findings_of(plan, run)):
            return
        lasted, done = self.sized.known[amount]
        low, high = share_of(lasted, done)
        litres = sum(share.burned_l or 0.0 for share in run.sources.values())
        yield Choice(
            words=market.words(amount), storage=amount.storage, strings=amount.strings,
            engine_h=amount.engine_h, lasted=lasted, outages=done, low=low, high=high,
            storage_wh=market.storage_wh(amount), money=market.money(amount),
            weight_kg=market.weight_kg(amount), litres_day=litres / (run.length_s / DAY_S),
            fuel_day=plan.site.units.told_volume(litres / (run.length_s / DAY_S)),
            minutes_day=market.minutes_day(run), noise_db=market.noise_db(amount),
            verdict=f"{run.verdict.headline}: {run.verdict.sentence}", patch=market.patch(amount),
        )  # fmt: skip

    def _sentence(self, choices: list[Choice]) -> str:
        told = f"{self.plan.outage.length_s / DAY_S:g} days at {100 * self.asked.chance:.0f} of 100"
        if not choices:
            if not self.done:
                return f"For {told}: being worked out."
            market = self.market
            most = market.words(Amount(market.most_storage, self.most_strings, max(market.hours)))
            return f"For {told} nothing that was tried is enough, not even this: {most}."
        nothing = [item for item in choices if not (item.storage or item.strings)]
        if nothing:
            return f"For {told} nothing has to be bought{self._so_far()}: {nothing[0].words}."
        least = min(choices, key=lambda item: (item.storage, item.strings, item.engine_h))
        still = next((item for item in choices if not item.engine_h and item is not least), None)
        words = f" · or {still.words}" if still is not None else ""
        return f"For {told} it takes{self._so_far()} at least this: {least.words}{words}."

    def _so_far(self) -> str:
        return "" if self.done else ", as far as it is worked out,"

    def _notes(self, choices: list[Choice]) -> Iterator[str]:
        """When more storage is the wrong answer, what to measure first, and what leaving off does."""
        if not self.done:
            return
        alone = [item for item in choices if not item.engine_h and not item.strings]
        market = self.market
        if choices and not alone and market.most_storage:
            most = market.words(Amount(market.most_storage, 0, 0))
            yield f"More storage alone is the wrong answer: not even {most} lasts."
        elif alone and len(choices) > 1:
            least = min(choices, key=lambda item: item.storage)
            if alone[0].storage - least.storage >= SAVES_STEPS:
                fewer = alone[0].storage - least.storage
                yield f"{least.words}: that needs {fewer} fewer than storage alone."
        for circuit_id, (lasted, done) in self.sized.without.items():
            if self._good(lasted, done):
                label = self.plan.circuits[circuit_id].label
                yield f"Leaving {label} off does it without buying anything: {lasted} of {done} outages last."
        if self.too_many:
            string = "string" if self.most_strings == 0 else f"string beyond {self.most_strings}"
            yield f"Another {string} on that input must not be: {self.too_many}."
        yield from self._measure_first()
        yield from (f"Not compared: {words}." for words in missing_words(market))

    def _measure_first(self) -> Iterator[str]:
        tried = try_outages(self.plan, range(FIRST))
        if not tried:
            return
        for doubt in tally(self.plan, tried).doubts:
            if doubt.share >= MEASURE_FIRST and doubt.remedy:
                yield f"Before anything is bought: {doubt.remedy} ({100 * doubt.share:.0f} % hangs on it)."
                return
