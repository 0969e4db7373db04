"""An exercise by hand: acts on the house’s state machine, readings where they are due, a goal at the end."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import Final

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.drill.answering import Answering, Before, LegVolts
from weary_cedar.core.drill.exercise import SURPRISED, Exercise, reading_steps, surprise_step
from weary_cedar.core.drill.score import Hazard, Score
from weary_cedar.core.electrical.split_phase import open_neutral_volts
from weary_cedar.core.handles.conductors import UTILITY, node_of
from weary_cedar.core.network.carrying import NOTHING, running
from weary_cedar.core.plan import Lead, Plan
from weary_cedar.core.runbook.house import House
from weary_cedar.core.runbook.sheet import Sheet
from weary_cedar.core.runbook.steps import Move

#: An act that moves nothing: to read what is due, at a place or everywhere.
LOOK: Final = "look"
#: What the legs read with an open neutral where the load does not tell, and of a utility that is back by
#: half, V.
UNEVEN, HALF = (151.0, 89.0), (121.0, 58.0)
#: Legs that are nearer than this do not show an open neutral, V.
SHOWS_V = 10.0


class Shown(BaseModel):
    """One reading as it is shown."""

    model_config = ConfigDict(frozen=True)

    where: str
    value: float
    unit: str


class LegDraw(BaseModel):
    """What a source gives on its legs, VA."""

    model_config = ConfigDict(frozen=True)

    a_va: float
    b_va: float


class Stand(BaseModel):
    """How the simulated panel stands: handles, what has power, what displays show."""

    model_config = ConfigDict(frozen=True)

    at: dict[str, str]
    #: Circuits and plugs with power, each with the lead that it is from; those on the utility.
    live: dict[str, str]
    utility: tuple[str, ...]
    #: By panel: what its bus is joined to, sources that give and the utility; leads that are live.
    buses: dict[str, tuple[str, ...]] = {}
    hot: tuple[str, ...] = ()
    #: VA by leg of every lead that gives.
    draws: dict[str, LegDraw]
    t_s: float
    #: What was read at the last look.
    readings: tuple[Shown, ...] = ()
    #: Whether something is due to be read.
    due: bool = False
    #: The last act: that it could not be done, or what would have happened.
    impossible: str = ""
    #: Volts at the end of each lead that gives.
    volts: dict[str, LegVolts] = {}
    #: What the last act was like.
    answer: tuple[str, ...] = ()
    hazard: Hazard | None = None


@dataclass
class OrderPlay:
    """An exercise as it is played, act by act."""

    plan: Plan
    exercise: Exercise
    sheet: Sheet
    house: House = field(init=False)
    impossible: list[str] = field(default_factory=list)
    hazard: Hazard | None = None
    done: int = 0
    readings: tuple[Shown, ...] = ()
    answer: tuple[str, ...] = ()
    _looked: set[int] = field(default_factory=set)
    _surprised: bool = False
    _last: str = ""
    _progress: int = 0
    _to_read: list[int] = field(default_factory=list)
    _answering: Answering = field(init=False)
    _must: list[int] = field(default_factory=list)
    _begins: dict[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.house = House(self.plan, self.sheet.begins)
        self._answering = Answering.of(self.house)
        self._begins = dict(self.house.at)
        self._to_read, self._must = reading_steps(self.sheet), reading_steps(self.sheet, must=True)
        self._go_on()

    def do(self, act: Move) -> None:
        """Do an act, or look; after a dangerous one nothing is done any more.

        Raises:
            InvalidInput: an element or a position that there is not.
        """
        if self.hazard is not None:
            return
        self.readings, self._last, self.answer = (), "", ()
        if act.what == LOOK:
            self.house.t += act.wait_s
            self._look()
            self._go_on()
            self.done += 1
            return
        after_surprise = self._surprised and act.what.startswith(("breaker/", "main/")) and act.to == "on"
        before = Before.of(self.house)
        fault = self.house.do(act)
        self.answer = tuple(self._answering.words(before, act.what, act.to, fault))
        if self.house.over_on is not None:
            self.house.trip(self.house.over_on)
        number = self.done + len(self.impossible) + 1
        if after_surprise and (fault is None or fault.kind == "unsafe"):
            why = (
                "The neutral is open: what is on the bright leg gets too many volts and burns."
                if self.exercise.kind == "open-neutral"
                else "The utility is back by half: motors stall on it and burn, and it may go again."
            )
            self.hazard = Hazard(
                number=number, act=self.house.words(act), code="uneven", why=why, prevents=STOP
            )
        elif fault is not None and fault.kind == "unsafe":
            self.hazard = Hazard(
                number=number,
                act=self.house.words(act),
                code=fault.code,
                why=fault.why,
                prevents=self.next_step(),
            )
        elif fault is not None:
            self._last = f"{self.house.words(act)}: {fault.why}"
            self.impossible.append(self._last)
        else:
            self.done += 1
            self._go_on()

    def next_step(self) -> str:
        """The first step of the sheet that is not done: a hint, and what prevents a mistake."""
        if self._progress < len(self.sheet.steps):
            return self.sheet.steps[self._progress].action
        return "Everything is as it should be: finish"

    def hint(self) -> Move | None:
        """The next act of the sheet; none where it is done."""
        if self._surprised:
            return next((Move(what=key, to=to) for key, to in self._goal() if self.house.at[key] != to), None)
        if self._progress >= len(self.sheet.steps):
            return None
        step = self.sheet.steps[self._progress]
        act = next((act for act in step.acts if self.house.at[act.what] != act.to), None)
        return act or Move(what=LOOK, to="all")

    def _go_on(self) -> None:
        """Count on over steps of the sheet that are done."""
        while self._progress < len(self.sheet.steps):
            step = self.sheet.steps[self._progress]
            placed = all(
                self.house.at[key] == to for key, to in {act.what: act.to for act in step.acts}.items()
            )
            if not placed or (self._progress in self._must and self._progress not in self._looked):
                return
            self._progress += 1

    def stand(self) -> Stand:
        """How the simulated panel stands now."""
        house = self.house
        return Stand(
            at=dict(house.at),
            live=dict(house.live),
            utility=tuple(key for key in house.branches if house.joined.on_utility(key)),
            buses={key: tuple(self._joined_to(key)) for key in self.plan.panels},
            hot=tuple(key for key, lead in self.plan.leads.items() if self._is_hot(key, lead)),
            draws=self._draws(),
            t_s=house.t,
            readings=self.readings,
            due=self._due() is not None,
            impossible=self._last,
            volts=self._answering.volts(),
            answer=self.answer,
            hazard=self.hazard,
        )

    def _joined_to(self, panel_id: str) -> Iterator[str]:
        joined = self.house.joined
        group = joined.group_of(f"panel/{panel_id}")
        giving = joined.giving(group)
        hookups = {node_of(hookup): hookup for hookup in self.plan.hookups.values()}
        yield from (self.plan.source_name(hookups[node]) for node in giving if node in hookups)
        if UTILITY in group:
            yield "the utility"

    def _is_hot(self, key: str, lead: Lead) -> bool:
        """Whether a source gives on a lead that sits in it."""
        source = lead.source
        if self.house.at[f"source_end/{key}"] == "out":
            return False
        if source.kind == "circuit":
            return source.id in self.house.live or self.house.joined.on_utility(source.id)
        return self.house.joined.gives(f"source/{source.kind}/{source.id}")

    def score(self, hints: int = 0) -> Score:
        """What came of it so far."""
        left = [
            f"{self.house.elements[key].name}: {to}" for key, to in self._goal() if self.house.at[key] != to
        ]
        wanted = [] if self._surprised else self._must
        if self.exercise.kind in SURPRISED and not self._surprised:
            left.insert(0, "what the meter shows was not read, or not acted on")
        missed = [self.sheet.steps[index].action for index in wanted if index not in self._looked]
        passed = self.hazard is None and not left and not missed
        return Score(
            exercise=self.exercise.key,
            passed=passed,
            sentence=self._sentence(passed, left, missed),
            done=self.done,
            hazard=self.hazard,
            impossible=tuple(self.impossible),
            missed=tuple(missed),
            read=len(self._looked),
            left=tuple(left),
            time_s=self.house.t,
            hints=hints,
        )

    # ---------------------------------------------------------------- looking

    def _look(self) -> None:
        """Read what is due; what is not due reads nothing, or nothing new."""
        index = self._due()
        if index is None:
            return
        self._looked.add(index)
        step = self.sheet.steps[index]
        surprising = self.exercise.kind in SURPRISED and index == surprise_step(self.sheet)
        self._surprised = self._surprised or surprising
        shown = []
        for reading in step.readings:
            value = reading.usual if reading.usual is not None else (reading.low + reading.high) / 2
            if surprising and reading.unit == "V":
                a, b = self._uneven() if self.exercise.kind == "open-neutral" else HALF
                both = "leg to leg" in reading.where
                value = (
                    a + b
                    if both
                    else a
                    if "leg A" in reading.where
                    else b
                    if "leg B" in reading.where
                    else value
                )
            shown.append(Shown(where=reading.where, value=round(value, 1), unit=reading.unit))
        self.readings = tuple(shown)

    def _uneven(self) -> tuple[float, float]:
        """Volts of both legs with an open neutral, as what is on now shares them."""
        draws = self._draws().values()
        a, b = sum(draw.a_va for draw in draws), sum(draw.b_va for draw in draws)
        if a <= 0 or b <= 0:
            return UNEVEN
        volts = self.plan.site.leg_volts
        a_v, b_v = open_neutral_volts(volts**2 / a, volts**2 / b, 2 * volts)
        return (a_v, b_v) if abs(a_v - b_v) >= SHOWS_V else UNEVEN

    def _due(self) -> int | None:
        """The first step at which something is to be read, everything before it done and nothing after it."""
        for index in self._to_read:
            if index in self._looked:
                continue
            before = {act.what: act.to for step in self.sheet.steps[: index + 1] for act in step.acts}
            placed = all(self.house.at[key] == to for key, to in before.items() if self._counts(key, to))
            if placed and not self._past(index, before):
                return index
        return None

    def _past(self, index: int, before: dict[str, str]) -> bool:
        """Whether something of a later step is done already."""
        return any(
            self.house.at[act.what] == act.to
            for step in self.sheet.steps[index + 1 :]
            for act in step.acts
            if before.get(act.what, self._begins[act.what]) != act.to
        )

    # ---------------------------------------------------------------- the goal

    def _goal(self) -> list[tuple[str, str]]:
        """Where handles stand at the end: as the sheet leaves them; of circuits those that are to be kept on.

        With a reading that is not as it should be: the source’s output off, or the main off.
        """
        if self._surprised:
            kind = "output/" if self.exercise.kind == "open-neutral" else "main/"
            touched = [act.what for act in self.sheet.acts if act.what.startswith(kind)]
            return [(key, "off") for key in dict.fromkeys(touched)]
        ends = {act.what: act.to for act in self.sheet.acts}
        return [(key, to) for key, to in ends.items() if self._counts(key, to)]

    def _counts(self, key: str, to: str) -> bool:
        kind, _, of = key.partition("/")
        circuit = self.plan.circuits.get(of) if kind == "breaker" else None
        return circuit is None or to == "off" or circuit.mark == "keep"

    def _draws(self) -> dict[str, LegDraw]:
        network = self.house.network
        found: dict[str, LegDraw] = {}
        for lead in sorted(set(self.house.live.values())):
            way = network.way(lead)
            total = NOTHING
            for branch, of in self.house.live.items():
                if of == lead:
                    total = total.plus(running(network, way, branch))
            found[lead] = LegDraw(a_va=round(total.a), b_va=round(total.b))
        return found

    def _sentence(self, passed: bool, left: Sequence[str], missed: Sequence[str]) -> str:
        minutes = f"{self.house.t / 60:.0f} min"
        if self.hazard is not None:
            return f"Stopped at act {self.hazard.number}, “{self.hazard.act}”: {self.hazard.why}"
        if passed:
            tried = f", {len(self.impossible)} that could not be done" if self.impossible else ""
            return f"Passed: {self.done} acts in {minutes}{tried}."
        if left:
            more = f", and {len(left) - 1} more" if len(left) > 1 else ""
            return f"Not done yet: {left[0]}{more}."
        return f"Not passed: not read: {missed[0]}."


STOP: Final = "Read both legs with a lamp on each; where they are far apart: stop, everything off"


def played(plan: Plan, exercise: Exercise, sheet: Sheet, acts: Sequence[Move]) -> OrderPlay:
    """An exercise after some acts.

    Raises:
        InvalidInput: an element or a position that there is not.
    """
    play = OrderPlay(plan, exercise, sheet)
    for act in acts:
        play.do(act)
    return play
