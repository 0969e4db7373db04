"""A whole outage played: stop by stop, and what each choice was worth."""

from collections.abc import Iterator, Sequence
from datetime import datetime
from functools import lru_cache

from pydantic import BaseModel, ConfigDict, Field

from weary_cedar.core.decide.chance.as_plan import as_plan
from weary_cedar.core.decide.chance.drawn import Varying
from weary_cedar.core.decide.chance.tally import why_not
from weary_cedar.core.drill.whole.options import GO_ON, NO_START, Option, options_at
from weary_cedar.core.drill.whole.stops import MOST, next_stop
from weary_cedar.core.drill.whole.surprises import is_of_people, put_on, with_people
from weary_cedar.core.errors import InvalidInput, InvalidPlan, Problem, shown
from weary_cedar.core.network import Network
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.base import Noun
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.plan.reading import parse, read_part

#: An end is as good as the best that was found if it is within so many seconds of it, and what must run got
#: at least so large a share. An hour nobody notices.
NEAR_S, NEAR_SHARE = 3_600.0, 0.9


class WholeDrill(Noun):
    """A practised outage as a file: its seed, and what was chosen at each stop, such as `go-on`."""

    seed: int = Field(default=1, ge=0, le=1_000_000_000)
    chosen: tuple[str, ...] = Field(default=(), max_length=MOST)


class Told(BaseModel):
    """A frozen part of what is told."""

    model_config = ConfigDict(frozen=True)


class WayOn(Told):
    """What can be chosen: its key, and in words."""

    key: str
    words: str


class Charge(Told):
    """What a display shows: whole per cents, and the hours that it tells, where it tells some."""

    name: str
    percent: int
    hours: float | None


class Stop(Told):
    """A moment at which one decides: why, what happened since, what can be seen, what can be chosen."""

    at_s: float
    at: datetime
    why: str
    happened: tuple[str, ...]
    charges: tuple[Charge, ...]
    fuel: tuple[str, ...]
    sky: str
    choices: tuple[WayOn, ...]


class Outcome(Told):
    """How an outage ends: as decide ranks ends, the first that differs counts.

    `until_s` is when something that must run is lost, or the end; `must_wh` what reached what must run,
    `room_wh` what ran because there was room; litres burned; per cent left.
    """

    lasts: bool
    until_s: float
    until: datetime | None
    must_wh: float
    room_wh: float
    burned_l: float
    left_percent: float
    sentence: str


class Chosen(Told):
    """A stop with what was chosen, what came of it, and the best there was from there."""

    at: datetime
    why: str
    words: str
    outcome: Outcome
    best: str
    best_outcome: Outcome
    won_h: float
    lost_h: float


class AfterTalk(Told):
    """What an outage came to: as played, as the plan says, and at best; and what each choice was worth."""

    played: Outcome
    as_planned: Outcome
    best: Outcome
    best_choices: tuple[str, ...]
    choices: tuple[Chosen, ...]
    passed: bool
    sentence: str


class WholePlay(Told):
    """An outage after what was chosen: the next stop, or the end."""

    caution: str
    seed: int
    stops: int
    stop: Stop | None
    outcome: Outcome | None


#: A run of more changes than this takes long: then no way through all of an outage is looked for.
MOST_INTERVALS = 4_000

CAUTION = (
    "This is practice with a made-up outage, drawn by its number from what is not sure: it foretells none. "
    "In a real one, read the displays, keep engines outdoors, and follow the sheets."
)


def why_no_outage(plan: Plan) -> str:
    """Why no whole outage can be practised on a plan; empty where it can."""
    return why_not(plan)


def read_whole_steps(text: str | bytes) -> WholeDrill:
    """A practised outage from JSON.

    Raises:
        NotReadable: not JSON.
        InvalidPlan: wrong fields, each with its value and what would be right.
    """
    return read_part(WholeDrill, parse(text))


def play_whole(plan: Plan, steps: WholeDrill) -> WholePlay:
    """Play an outage up to its next stop.

    Args:
        plan: the plan that is practised.
        steps: the seed of the outage, and what was chosen so far.

    Returns:
        The next stop with its choices, or the end. What is shown at a stop is what people can see then; the
        outage itself is one of those that the chance draws, so nobody knows what comes.

    Raises:
        InvalidInput: no outage can be drawn, or a choice that there is not at its stop.
    """
    table = _Table.of(plan, steps.seed)
    now = table.after(steps.chosen)
    told = Stop(
        at_s=now.at_s,
        at=_at(plan, now.at_s),
        why=now.why,
        happened=tuple(_happened(now))[-8:],
        charges=tuple(_charges(now.run, now.at_s)),
        fuel=tuple(_fuel(now.world, now.run, now.at_s)),
        sky=_sky(now.world, now.at_s),
        choices=tuple(WayOn(key=one.key, words=one.words) for one in now.options),
    ) if not now.over else None  # fmt: skip
    return WholePlay(
        caution=CAUTION,
        seed=steps.seed,
        stops=len(steps.chosen),
        stop=told,
        outcome=_outcome(plan, now.run) if now.over else None,
    )


def after_talk(plan: Plan, steps: WholeDrill) -> AfterTalk:
    """What a played outage came to, and what each choice was worth.

    Args:
        plan: the plan.
        steps: the seed and all that was chosen; stops after them go on as the plan says.

    Returns:
        For each stop the end if one goes on as the plan says from there, against that of the best choice
        there; and the best end of all that were tried, the best choice at every stop among them. It is the
        best that was found among these choices, not the best that can be.

    Raises:
        InvalidInput: as `play_whole`.
    """
    table = _Table.of(plan, steps.seed)
    chosen: list[Chosen] = []
    paths = [(), steps.chosen, *([table.greedy()] if table.short else [])]
    ends: dict[tuple[str, ...], Outcome] = {path: table.end(path) for path in paths}
    for index, key in enumerate(steps.chosen):
        now = table.after(steps.chosen[:index])
        tried = {one.key: table.end((*steps.chosen[:index], one.key)) for one in now.options}
        went, plain = tried[key], tried[GO_ON]
        best_key = max(tried, key=lambda one: (_rank(tried[one]), one == key))
        best = tried[best_key]
        ends[*steps.chosen[:index], best_key] = best
        words = {one.key: one.words for one in now.options}
        chosen.append(
            Chosen(
                at=_at(plan, now.at_s),
                why=now.why,
                words=words[key],
                outcome=went,
                best=words[best_key],
                best_outcome=best,
                won_h=(went.until_s - plain.until_s) / 3600,
                lost_h=(best.until_s - went.until_s) / 3600,
            )
        )
    last, planned = ends[steps.chosen], ends[()]
    path = max(ends, key=lambda one: (_rank(ends[one]), -len(one)))
    reached = ends[path]
    near = last.until_s >= reached.until_s - NEAR_S and last.must_wh >= NEAR_SHARE * reached.must_wh
    return AfterTalk(
        played=last,
        as_planned=planned,
        best=reached,
        best_choices=tuple(table.words_of(path)),
        choices=tuple(chosen),
        passed=near,
        sentence=_sentence(last, planned, reached, near),
    )


# ------------------------------------------------------------------------ the outage at hand


class _Now(BaseModel):
    """Where a played outage stands."""

    model_config = ConfigDict(arbitrary_types_allowed=True)

    world: Plan
    run: RunResult
    at_s: float
    since_s: float
    why: str
    options: list[Option]
    over: bool


class _Table:
    """One drawn outage, with the runs that were made of it."""

    def __init__(self, plan: Plan, seed: int) -> None:
        why = why_not(plan)
        if why:
            problem = Problem("/plan", plan.name, f"a plan of which an outage can be run: {why}")
            raise InvalidInput(str(problem), (problem,))
        try:
            self.world = with_people(as_plan(plan, seed, Varying(seed=seed)), seed)
        except InvalidPlan as error:
            problem = Problem("/seed", str(seed), f"another seed: {error.detail}")
            raise InvalidInput(str(problem), (problem,)) from None
        self._nows: dict[tuple[str, ...], _Now] = {}
        self._ends: dict[tuple[str, ...], Outcome] = {}

    @staticmethod
    def of(plan: Plan, seed: int) -> "_Table":
        return _drawn_of(plan.model_dump_json(), seed)

    def after(self, chosen: Sequence[str]) -> _Now:
        """Where it stands after some choices.

        Raises:
            InvalidInput: a choice that there is not.
        """
        key = tuple(chosen)
        if key not in self._nows:
            self._nows[key] = self._made(key)
        return self._nows[key]

    def _made(self, chosen: tuple[str, ...]) -> _Now:
        if not chosen:
            run = run_outage(self.world)
            return self._at_next(self.world, run, -1.0, 0)
        before = self.after(chosen[:-1])
        world, run = self._went_on(before, chosen)
        return self._at_next(world, run, before.at_s, len(chosen))

    @staticmethod
    def _went_on(before: _Now, chosen: tuple[str, ...]) -> tuple[Plan, RunResult]:
        """The outage with the last of some choices, run to its end."""
        option = next((one for one in before.options if one.key == chosen[-1]), None)
        if option is None:
            keys = [one.key for one in before.options]
            right = f"one of {', '.join(keys)}" if keys else "nothing: the outage is over"
            problem = Problem(f"/chosen/{len(chosen) - 1}", shown(chosen[-1]), right)
            raise InvalidInput(str(problem), (problem,))
        acts = dict(before.world.outage.acts)
        for act in option.acts:
            acts[free_id("chosen", acts, "act")] = act
        outage = before.world.outage.model_copy(update={"acts": acts})
        world = before.world.model_copy(update={"outage": outage})
        return world, run_outage(world) if option.acts else before.run

    def _at_next(self, world: Plan, run: RunResult, since_s: float, count: int) -> _Now:
        found = next_stop(world, run, since_s, count)
        if found is None:
            return _Now(
                world=world, run=run, at_s=run.length_s, since_s=since_s, why="", options=[], over=True
            )
        at_s, why = found
        options = options_at(world, run, at_s)
        return _Now(world=world, run=run, at_s=at_s, since_s=since_s, why=why, options=options, over=False)

    def end(self, chosen: Sequence[str]) -> Outcome:
        """The end where one goes on as the plan says after some choices; its run is not kept."""
        key = tuple(chosen)
        if key not in self._ends:
            run = self._went_on(self.after(key[:-1]), key)[1] if key else self.after(key).run
            self._ends[key] = _outcome(self.world, run)
        return self._ends[key]

    @property
    def short(self) -> bool:
        """Whether an outage is short enough to look for the best way through all of it, not stop by stop."""
        return self.after(()).run.intervals <= MOST_INTERVALS

    def greedy(self) -> tuple[str, ...]:
        """The choices where the best from there is taken at every stop."""
        chosen: tuple[str, ...] = ()
        while not (now := self.after(chosen)).over:
            ends = {one.key: _rank(self.end((*chosen, one.key))) for one in now.options}
            chosen = (*chosen, max(ends, key=lambda key: (ends[key], key == GO_ON)))
        return chosen

    def words_of(self, chosen: Sequence[str]) -> list[str]:
        """Choices in words, but for going on."""
        told = []
        for index, key in enumerate(chosen):
            now = self.after(chosen[:index])
            words = next(one.words for one in now.options if one.key == key)
            if key != GO_ON:
                told.append(f"{self.world.site.units.told_moment(_at(self.world, now.at_s))}: {words}")
        return told


@lru_cache(maxsize=1)
def _drawn_of(document: str, seed: int) -> _Table:
    return _Table(Plan.model_validate_json(document), seed)


# ------------------------------------------------------------------------ what is seen, and ends


def _at(plan: Plan, at_s: float) -> datetime:
    return plan.site.instant(plan.outage.start_local, at_s)


def _happened(now: _Now) -> Iterator[str]:
    """What happened since the stop before, as someone there would tell it."""
    failed = {
        (act.at_s, act.part_id) for key, act in now.world.outage.acts.items() if key.startswith(NO_START)
    }
    told = [(at_s, words) for at_s, _, words in put_on(now.world, now.run)]
    for event in now.run.events:
        engine = event.part.rpartition("/")[2]
        if event.kind == "act" and (event.t_s, engine) in failed:
            told.append((event.t_s, f"{now.world.generators[engine].name} does not come on"))
        elif event.what:
            told.append((event.t_s, event.what))
    since = (item for item in told if now.since_s < item[0] <= now.at_s)
    yield from (words for _, words in sorted(since, key=lambda item: item[0]))


def _charges(run: RunResult, at_s: float) -> list[Charge]:
    """What displays show: whole per cents, each pack by itself where they differ."""
    found = []
    for battery in run.batteries.values():
        if not battery.t_s or battery.cell_wh <= 0:
            continue
        index = max((i for i, t in enumerate(battery.t_s) if t <= at_s), default=0)
        hours = battery.shown_h[index] if index < len(battery.shown_h) else None
        percent = 100 * battery.stored_wh[index] / battery.cell_wh
        found.append(
            Charge(name=battery.name, percent=round(percent), hours=None if hours is None else round(hours))
        )
    return found


def _fuel(world: Plan, run: RunResult, at_s: float) -> list[str]:
    told = []
    for key, engine in world.generators.items():
        source = run.sources.get(f"generators/{key}")
        hours = (
            sum(max(0.0, min(span.ends_s, at_s) - span.begins_s) for span in source.ran) / 3600
            if source
            else 0.0
        )
        on = source is not None and any(span.begins_s <= at_s < span.ends_s for span in source.ran)
        told.append(f"{engine.name} {'runs' if on else 'stands'}; it has run {hours:.1f} h so far")
    return told


def _sky(world: Plan, at_s: float) -> str:
    sky = world.outage.weather.sky
    day = (_at(world, at_s).date() - world.outage.start_local.date()).days
    return sky[min(day, len(sky) - 1)].replace("_", " ") if sky else "as is usual"


def _outcome(plan: Plan, run: RunResult) -> Outcome:
    network = Network(plan)
    marks = {key: hang.mark for key, hang in network.hangs.items() if not is_of_people(key)}
    verdict = run.verdict
    lasts = verdict.status == "lasts"
    until_s = run.length_s if lasts or verdict.until_s is None else verdict.until_s
    burned = sum(share.burned_l or 0.0 for share in run.sources.values())
    cells = sum(battery.cell_wh for battery in run.batteries.values())
    left = sum(battery.stored_end_wh for battery in run.batteries.values())
    return Outcome(
        lasts=lasts,
        until_s=until_s,
        until=verdict.until,
        must_wh=sum(share.served_wh for key, share in run.loads.items() if marks.get(key) == "keep"),
        room_wh=sum(share.served_wh for key, share in run.loads.items() if marks.get(key) == "room"),
        burned_l=burned,
        left_percent=100 * left / cells if cells > 0 else 0.0,
        sentence=f"{verdict.headline}: {verdict.sentence}",
    )


def _rank(outcome: Outcome) -> tuple[bool, float, float, float, float]:
    """Ends as decide ranks them: lasting, how long, what must run, what may, fuel."""
    hours = round(outcome.until_s / 900)
    return (
        outcome.lasts,
        hours,
        round(outcome.must_wh / 100),
        round(outcome.room_wh / 100),
        -round(outcome.burned_l, 1),
    )


def _sentence(played: Outcome, planned: Outcome, best: Outcome, near: bool) -> str:
    won = (played.until_s - planned.until_s) / 3600
    lost = (best.until_s - played.until_s) / 3600
    against = (
        f"{abs(won):.0f} h {'longer' if won > 0 else 'less'} than by going on as the plan says"
        if abs(won) >= 1
        else "as long as by going on as the plan says"
    )
    if near:
        return f"As good as the best that was found; {against}."
    if lost < 1:
        less = (best.must_wh - played.must_wh) / 1000
        return f"As long as the best that was found, with {less:.1f} kWh less for what must run; {against}."
    return f"{lost:.0f} h less than the best that was found; {against}."
