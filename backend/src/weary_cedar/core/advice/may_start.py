"""May it be started: an appliance at a moment of the outage, judged by the run in which it is."""

from collections.abc import Iterator, Mapping, Sequence
from functools import cached_property
from typing import Literal

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.checks.facts import start_of
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.network import LEG_A, LEG_B, network_of
from weary_cedar.core.outage import RunState, first_part, run_outage, state_at
from weary_cedar.core.outage.result import Event, EventKind, RunResult
from weary_cedar.core.plan import Act, Job, Load, Measured, Plan, Start, ToLoads
from weary_cedar.core.plan.ids import free_id

#: What goes wrong at once because of one appliance more.
AT_ONCE: tuple[EventKind, ...] = (
    "trip", "over_limit", "shed", "room_shed", "breaker_trip", "input_trip", "left_off", "empty",
    "source_empty",
)  # fmt: skip
#: An appliance of which nobody says how long it runs is asked for so long, s.
USUAL_S = 600.0
#: So soon after it stops its traces are still looked for, s.
AFTER_S = 120.0
#: Others are turned off so long before it is started, s.
OFF_BEFORE_S = 1.0
#: So many others are turned off for it at most; later moments are tried so often, s, for so long.
MOST_OFF, EVERY_S, AHEAD_S, MOST_TRIED = 4, 1_800.0, 86_400.0, 6
#: Drawn to this share of what was asked it did run.
RAN = 0.98
#: As much as a load of a plan may draw, W, and take to start, VA.
MOST_W, MOST_START_VA = 100_000.0, 200_000.0
#: Nobody is asked to turn these off.
NEVER_OFF = ("life_support", "sleep_apnoea", "communication", "heat")


class Asked(BaseModel):
    """One appliance, for a while: one of the plan, or watts on a circuit."""

    model_config = ConfigDict(frozen=True)

    name: str
    watts: float
    start_va: float | None
    start_s: float
    lasts_s: float
    circuit_id: str | None
    lead_id: str | None = None
    #: Of the plan.
    load_id: str | None = None


class MayStart(BaseModel):
    """The answer, and what it rests on: every figure is of a run with it in."""

    answer: Literal["yes", "if_off", "later", "no", "dark", "held"]
    sentence: str
    at_s: float
    #: What has to be off meanwhile, by circuit or load, the least needed first.
    turn_off: tuple[str, ...] = ()
    later_s: float | None = None
    #: What went wrong with it in the run.
    why: str = ""
    #: Greatest flow of the leg that it is on while it runs, and what that gives, VA; none if not known.
    leg_va: float | None = None
    limit_va: float | None = None
    wh: float = 0.0
    verdict: str = ""
    #: Whether the outage lasts with it as it does without.
    as_before: bool = True


def asked_of(
    plan: Plan,
    *,
    load_id: str | None = None,
    watts: float | None = None,
    start_va: float | None = None,
    lasts_s: float | None = None,
    circuit_id: str | None = None,
) -> Asked:
    """What is asked, of an appliance of the plan or of one that is not in it.

    Args:
        plan: the plan.
        load_id: of the plan; else watts are given.
        watts: of an appliance that is not in the plan, W.
        start_va: what it takes while it starts, VA; nothing more than it runs with if absent.
        lasts_s: how long it runs, s; a job's own time, else ten minutes, if absent.
        circuit_id: where it is plugged in; that of the load, else the first fed one of 120 V or 230 V.

    Returns:
        The appliance.

    Raises:
        InvalidInput: neither a load nor watts, or parts that the plan does not have.

    Source: the plan; a start of a motor as `start_of`.
    """
    bounds = ((0.1, MOST_W), (1.0, MOST_START_VA), (60.0, AHEAD_S))
    given = {"watts": watts, "start_va": start_va, "lasts_s": lasts_s}
    for (field, value), (least, most) in zip(given.items(), bounds, strict=True):
        if value is not None and not least <= value <= most:
            raise _wrong(f"/{field}", value, f"from {least:g} to {most:,.0f}")
    if load_id is not None:
        load = plan.loads.get(load_id)
        if load is None:
            raise _wrong(
                "/load_id", load_id, f"a load of this plan, such as {', '.join(list(plan.loads)[:5])}"
            )
        hang, start = network_of(plan).hangs[load_id], start_of(load)
        lead = next((key for key, hookup in plan.hookups.items() if load_id in hookup.load_ids), None)
        own_s = (
            sum(step.minutes for step in load.behaviour.steps) * 60
            if isinstance(load.behaviour, Job)
            else None
        )
        return Asked(
            name=load.name, watts=on_watts(load), start_va=start.va if start else None,
            start_s=start.seconds if start else 0.5, lasts_s=lasts_s or own_s or USUAL_S,
            circuit_id=hang.circuit_id, lead_id=lead if hang.circuit_id is None else None, load_id=load_id,
        )  # fmt: skip
    if watts is None:
        raise _wrong("/watts", watts, "watts above 0, or a load of the plan in load_id")
    if circuit_id is not None and circuit_id not in plan.circuits:
        raise _wrong("/circuit_id", circuit_id, "a circuit of this plan")
    fed = sorted(
        network_of(plan).carried,
        key=lambda key: (plan.circuits[key].poles, not plan.circuits[key].outlets, key),
    )
    if circuit_id is None and not fed:
        raise _wrong("/circuit_id", None, "a circuit that a source feeds: none is")
    return Asked(
        name=f"{watts:,.0f} W", watts=watts, start_va=start_va, start_s=0.5, lasts_s=lasts_s or USUAL_S,
        circuit_id=circuit_id or fed[0],
    )  # fmt: skip


def may_start(plan: Plan, run: RunResult, at_s: float, asked: Asked, stops: Sequence[str] = ()) -> MayStart:
    """Whether an appliance may be started at a moment, beside all that the plan runs then.

    Args:
        plan: the plan.
        run: of that plan.
        at_s: the moment, s from the cut.
        asked: the appliance, and for how long.
        stops: what forbids to energise, in words: then nothing is judged.

    Returns:
        Yes with what is left of its leg; or yes with what has to be off meanwhile, the least needed first
        and nothing without need; or the next time of the day at which it may; or no, and why.

    Raises:
        InvalidInput: a moment outside of the outage.

    Source: exact: the run with that appliance in it, against the one without.
    """
    if not 0 <= at_s < run.length_s:
        raise _wrong("/at_s", at_s, f"a moment of this outage, 0 to {run.length_s:g} s")
    if stops:
        words = f"Not judged, for this must not be energised: {stops[0]}."
        return MayStart(answer="held", sentence=words, at_s=at_s, why=stops[0], as_before=False)
    if asked.load_id is not None and _draws(run, at_s, 1.0).get(asked.load_id, 0.0) > 0:
        return MayStart(answer="yes", sentence=f"Yes: {asked.name} runs then already.", at_s=at_s)
    if run.ledger is None:
        words = f"Not judged, for there is nothing to run yet: {'; '.join(run.verdict.missing)}."
        return MayStart(answer="held", sentence=words, at_s=at_s, why=words, as_before=False)
    tried = _Try(plan, run, at_s, asked, whole=True)
    circuit = plan.circuits.get(asked.circuit_id or "")
    if circuit is not None and network_of(plan).feeding(asked.circuit_id or "") is None:
        why = "its breaker is off" if circuit.mark == "off" else "no source feeds it"
        return _answer(tried, "dark", f"No: in this plan {circuit.label} has no power, {why}")
    if not tried.powered:
        return _answer(tried, "dark", f"No: {circuit.label if circuit else asked.name} has no power then")
    if tried.fits:
        return _yes(tried)
    if tried.too_large:
        return _answer(tried, "no", f"No: {tried.why}; by itself it is more than that")
    for off in _to_turn_off(tried):
        if tried.again(off).fits:
            needed = _needed(tried, off)
            found = _yes(tried.again(needed))
            names = ", ".join(plan.circuits[key].label for key in needed)
            then = found.sentence.removeprefix("Yes: ")
            words = f"Yes, if you first turn off {names}: {then}"
            changes = {"answer": "if_off", "turn_off": needed, "why": tried.why, "sentence": words}
            return found.model_copy(update=changes)
    for later_s in _later(run, at_s, asked):
        if _Try(plan, run, later_s, asked).fits:
            when = plan.site.units.told_moment(plan.site.instant(plan.outage.start_local, later_s))
            found = _answer(tried, "later", f"Not now: {tried.why}. Yes on {when}")
            return found.model_copy(update={"later_s": later_s})
    return _answer(tried, "no", f"No: {tried.why}")


class _Try:
    """The run with an appliance at a moment and others off meanwhile, against the run without.

    Whether it fits is seen in the run until shortly after it is done, which goes on from the state before;
    the whole is run only for its price.
    """

    def __init__(
        self,
        plan: Plan,
        run: RunResult,
        at_s: float,
        asked: Asked,
        off: tuple[str, ...] = (),
        *,
        whole: bool = False,
        first: "_Try | None" = None,
    ) -> None:
        self.plan, self.before, self.at_s, self.asked = plan, run, at_s, asked
        self.first = first or self
        self.key, self.changed = _with(plan, at_s, asked, off)
        if whole:
            self.part = self.run
        else:
            self.part = run_outage(first_part(self.changed, at_s + asked.lasts_s + AFTER_S), self.since)
        ends_s = min(at_s + asked.lasts_s, run.length_s)
        drawn = self.part.load_series.get(self.key)
        times = (*drawn.t_s, self.part.length_s) if drawn else ()
        got_s = sum(
            max(0.0, min(until, ends_s) - max(begins, at_s))
            for begins, until, watts in zip(times, times[1:], drawn.watts if drawn else (), strict=False)
            if watts > 0
        )
        self.powered = got_s > 0 or any(e.t_s >= at_s - 1 for e in self._new())
        self.ran = got_s >= RAN * (ends_s - at_s)
        self.fits = self.ran and not self._new()

    def again(self, off: tuple[str, ...]) -> "_Try":
        """The same with other circuits off meanwhile."""
        return _Try(self.plan, self.before, self.at_s, self.asked, off, first=self.first)

    @cached_property
    def own_since(self) -> RunState | None:
        """The state before anything is done for it."""
        at_s = self.at_s - OFF_BEFORE_S - 1.0
        return state_at(self.plan, at_s) if at_s > 0 else None

    @property
    def since(self) -> RunState | None:
        """The state that all tries at this moment go on from."""
        return self.first.own_since

    @cached_property
    def run(self) -> RunResult:
        """The whole outage with it."""
        return run_outage(self.changed, self.since if "own_since" in vars(self.first) else None)

    def _new(self) -> list[Event]:
        """What goes wrong while it runs and went wrong of no part without it."""
        ends_s = self.at_s + self.asked.lasts_s + AFTER_S
        known = [(e.kind, e.part, e.loads) for e in self.before.events if self.at_s - 1 <= e.t_s <= ends_s]
        found = [e for e in self.part.events if self.at_s - 1 <= e.t_s <= ends_s and e.kind in AT_ONCE]
        return [event for event in found if (event.kind, event.part, event.loads) not in known]

    @property
    def why(self) -> str:
        """What goes wrong, in words: the leg that it is too much for, else what happens in the run."""
        leg, short_va = self._leg_of(self.before), self.short_va()
        if leg is not None and short_va > 0:
            carried, limit = leg
            return (
                f"{self.leg_name} would carry {limit + short_va:,.0f} VA with it, {carried:,.0f} VA of that "
                f"without, and gives {limit:,.0f} VA"
            )
        for event in self._new():
            return event.what + (f": {event.why}" if event.why else "")
        return f"{self.asked.name} does not get power for all of it"

    @property
    def leg_name(self) -> str:
        """The leg that it is on, by its circuit."""
        circuit = self.plan.circuits.get(self.asked.circuit_id or "")
        return "what feeds it" if circuit is None else f"the leg of {circuit.label}"

    def short_va(self) -> float:
        """By how much its leg is over its limit with it running, VA; not over where negative."""
        leg = self._leg_of(self.before)
        return -1.0 if leg is None else leg[0] + self.asked.watts / self._poles() - leg[1]

    @property
    def too_large(self) -> bool:
        """Whether its leg does not carry it even with nothing else on."""
        leg = self._leg_of(self.before)
        return leg is not None and self.asked.watts / self._poles() > leg[1]

    def leg(self) -> tuple[float, float] | None:
        """Greatest flow of its fullest leg while it runs, and the limit of that leg, VA."""
        return self._leg_of(self.part)

    def _poles(self) -> int:
        circuit = self.plan.circuits.get(self.asked.circuit_id or "")
        return 2 if circuit is not None and circuit.poles == 2 and self.plan.site.split_phase else 1

    def _leg_of(self, run: RunResult) -> tuple[float, float] | None:
        way = network_of(self.plan).feeding(self.asked.circuit_id or "")
        if way is None:
            return None
        share = run.sources.get(f"{way.hookup.source_kind}s/{way.hookup.source_id}")
        if share is None or share.leg_limit_va is None or not share.t_s:
            return None
        at = way.branches[self.asked.circuit_id or ""]
        legs = {LEG_A: (share.a_va,), LEG_B: (share.b_va,)}.get(at, (share.a_va, share.b_va))
        ends_s = min(self.at_s + self.asked.lasts_s, run.length_s)
        times = (*share.t_s, run.length_s)
        most = max((_most(times, leg, self.at_s, ends_s) for leg in legs if leg), default=0.0)
        return most, share.leg_limit_va


def _most(times: Sequence[float], values: Sequence[float], begins_s: float, ends_s: float) -> float:
    """The greatest value of a course of change points in a stretch; one time more than values."""
    spans = zip(times, times[1:], values, strict=False)
    return max((value for begins, until, value in spans if begins < ends_s and until > begins_s), default=0.0)


def _answer(tried: _Try, answer: Literal["yes", "no", "later", "dark"], sentence: str) -> MayStart:
    leg, asked = tried.leg(), tried.asked
    return MayStart(
        answer=answer, sentence=sentence + ".", at_s=tried.at_s, why=tried.why if answer != "yes" else "",
        leg_va=leg[0] if leg else None, limit_va=leg[1] if leg else None,
        wh=asked.watts * asked.lasts_s / 3600,
        verdict=f"{tried.run.verdict.headline} {tried.run.verdict.sentence}",
        as_before=tried.run.verdict.status == tried.before.verdict.status
        and tried.run.verdict.until_s == tried.before.verdict.until_s,
    )  # fmt: skip


def _yes(tried: _Try) -> MayStart:
    """The answer where it fits, with its price."""
    leg, now, before = tried.leg(), tried.run.verdict, tried.before.verdict
    room = (
        f"{tried.leg_name} then carries {leg[0]:,.0f} of {leg[1]:,.0f} VA"
        if leg
        else "what feeds it carries it"
    )
    price = f"it takes {tried.asked.watts * tried.asked.lasts_s / 3600:,.0f} Wh"
    if now.status != before.status or now.until_s != before.until_s:
        price += f", and then: {now.headline.lower()} {now.sentence}"
    return _answer(tried, "yes", f"Yes: {room}; {price}")


def _with(plan: Plan, at_s: float, asked: Asked, off: tuple[str, ...]) -> tuple[str, Plan]:
    """The plan with the appliance in it at a moment, and others off from a second before until it is done."""
    key, length_s = free_id("asked", plan.loads), plan.outage.length_s
    ends_s = min(at_s + asked.lasts_s, length_s)
    times, watts = (0.0, at_s, ends_s), (0.0, asked.watts, 0.0)
    spec = Measured(t_s=times if at_s > 0 else times[1:], watts=watts if at_s > 0 else watts[1:],
                    length_s=length_s,
                    repeats=False)  # fmt: skip
    start = Start(va=asked.start_va, seconds=asked.start_s) if asked.start_va else None
    load = Load(name=asked.name, circuit_id=asked.circuit_id, behaviour=spec, start=start)
    update: dict[str, object] = {"loads": {**plan.loads, key: load}}
    if asked.lead_id is not None:
        lead = plan.leads[asked.lead_id]
        assert isinstance(lead.to, ToLoads)
        to = lead.to.model_copy(update={"load_ids": (*lead.to.load_ids, key)})
        update["leads"] = {**plan.leads, asked.lead_id: lead.model_copy(update={"to": to})}
        update["loads"] = {**plan.loads, key: load.model_copy(update={"mark": "room"})}
    acts = dict(plan.outage.acts)
    for branch in off:
        room: Literal["circuits", "loads"] = "circuits" if branch in plan.circuits else "loads"
        for moment, turn in ((max(0.0, at_s - OFF_BEFORE_S), "off"), (ends_s, "on")):
            act = Act(at_s=moment, room=room, part_id=branch, turn="off" if turn == "off" else "on")
            acts[free_id(f"asked {branch} {turn}", acts)] = act
    update["outage"] = plan.outage.model_copy(update={"acts": acts})
    return key, plan.model_copy(update=update)


def _to_turn_off(tried: _Try) -> Iterator[tuple[str, ...]]:
    """Circuits that could be off meanwhile, the least needed first: one that is enough, else several."""
    plan, network = tried.plan, network_of(tried.plan)
    draws = _draws(tried.before, tried.at_s, tried.asked.lasts_s)
    spared = {network.hangs[key].branch for key, load in plan.loads.items() if load.role in NEVER_OFF}
    spared |= {network.hangs[key].branch for key, load in plan.loads.items() if "alarm" in load.name.lower()}
    drawn: dict[str, float] = {}
    for key, watts in draws.items():
        branch = network.hangs[key].branch if key in network.hangs else ""
        if watts > 0 and branch in plan.circuits and branch not in spared:
            drawn[branch] = drawn.get(branch, 0.0) + watts
    drawn.pop(tried.asked.circuit_id or "", None)
    in_turn = [branch for branch in network.given_up_first(drawn) if branch in drawn]
    enough = [branch for branch in in_turn if drawn[branch] >= tried.short_va()]
    yield from ((branch,) for branch in enough[:MOST_OFF])
    for count in range(2, min(MOST_OFF, len(in_turn)) + 1):
        yield tuple(in_turn[:count])


def _needed(tried: _Try, off: tuple[str, ...]) -> tuple[str, ...]:
    """What of that is needed: each is left on once, the most needed first."""
    for branch in reversed(off):
        rest = tuple(key for key in off if key != branch)
        if rest and tried.again(rest).fits:
            off = rest
    return off


def _draws(run: RunResult, at_s: float, lasts_s: float) -> Mapping[str, float]:
    """The most that every load draws in a stretch, W."""
    return {
        key: _most((*course.t_s, run.length_s), course.watts, at_s, at_s + lasts_s)
        for key, course in run.load_series.items()
    }


def _later(run: RunResult, at_s: float, asked: Asked) -> list[float]:
    """Moments of the next day at which least is drawn, in their order: those worth a run."""
    times = [at_s + EVERY_S * number for number in range(1, int(AHEAD_S / EVERY_S) + 1)]
    times = [t for t in times if t + asked.lasts_s < run.length_s]
    least = sorted(times, key=lambda t: (sum(_draws(run, t, asked.lasts_s).values()), t))[:MOST_TRIED]
    return sorted(least)


def _wrong(field: str, value: object, right: str) -> InvalidInput:
    problem = Problem(field, shown(value), right)
    return InvalidInput(str(problem), (problem,))
