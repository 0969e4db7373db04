"""Sessions with a known truth: what displays would have shown of a house as it may be, read now and then."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from builders import circuit, house, load, steady

from weary_cedar.core.decide.chance import Varying
from weary_cedar.core.decide.chance.drawn import drawn
from weary_cedar.core.log.displays import display_at
from weary_cedar.core.log.learn import Lesson
from weary_cedar.core.log.session import Session, SessionRow, begun
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Load, Plan, Steady, read_plan

HOUR_S = 3600.0


@dataclass(frozen=True)
class Told:
    """A plan, the house that it was in truth, and the session that was read there."""

    plan: Plan
    true: Plan
    session: Session

    @property
    def truth(self) -> dict[str, float]:
        """Figures as they are in truth, by the key of what is learnt."""
        found: dict[str, float] = {}
        for key, station in self.true.stations.items():
            found[f"stations/{key}/cells"] = station.total_cell_wh
            found[f"stations/{key}/loss"] = station.inverter_efficiency
            if self.plan.stations[key].idle_draw_w:
                found[f"stations/{key}/idle"] = station.idle_draw_w
        if len(self.plan.loads) == 1:
            ((true, assumed),) = zip(self.true.loads.values(), self.plan.loads.values(), strict=True)
            found["draws"] = _watts(true) / _watts(assumed)
        for key, array in self.true.arrays.items():
            found["sun"] = array.module.watts / self.plan.arrays[key].module.watts
        return found

    def with_rows(self, rows: list[SessionRow]) -> Session:
        """The session with other rows."""
        return begun(self.plan, "told", self.plan.outage.start_local).with_rows(
            sorted(rows, key=lambda row: row.at)
        )


def _watts(load: Load) -> float:
    assert isinstance(load.behaviour, Steady)
    return load.behaviour.watts


def lamp_house() -> Plan:
    """One guessed load on one station, for forty hours."""
    return read_plan(
        house(
            {"one": circuit([1])},
            {"lamp": load("one", steady(150.0), origin="estimate", tolerance_s=0)},
            outage={"ac_on_at_start": True, "length_s": 40 * HOUR_S},
        )
    )


def told(plan: Plan, seed: int, count: int = 10, hours: float = 24.0) -> Told:
    """A session of a house whose every doubt was drawn: the first reading at once, the others at any time."""
    true = drawn(plan, 0, Varying(seed=seed, no_start=0, forgets=0)).plan
    true = true.model_copy(update={"outage": plan.outage})
    run, dice = run_outage(true), np.random.default_rng(seed)
    begins, key = plan.outage.start_local, next(iter(plan.stations))
    rows = []
    times = np.sort(dice.uniform(0.3, hours, count))
    times[0] = 0.3
    for number, hour in enumerate(times):
        shown = display_at(true, run, key, float(hour) * HOUR_S)
        at = plan.site.instant(begins, float(hour) * HOUR_S).replace(tzinfo=None, microsecond=0)
        values = {"charge": shown.percent["head"], "out_w": shown.out_w}
        values |= {"sun_w": shown.sun_w} if plan.arrays else {}
        rows += [
            SessionRow(id=f"{number}.{what}", at=at, entered=at, kind="reading", told=f"{what} {value}",
                       part=f"stations/{key}", what=what, value=float(value))
            for what, value in values.items()
        ]  # fmt: skip
    return Told(plan, true, begun(plan, "told", begins).with_rows(rows))


def held(of: Told, lesson: Lesson) -> Iterator[tuple[str, bool]]:
    """Of each figure whose truth is known: whether its interval holds it."""
    truth = of.truth
    for figure in lesson.figures:
        if figure.key in truth:
            yield figure.key, figure.low <= truth[figure.key] <= figure.high


def slips(of: Told, seed: int) -> Iterator[tuple[str, str, Session]]:
    """The session with one slip each: which one, the row that it is in, and the session.

    Ten times the watts; digits of a charge turned round; a charge that was read hours before it was entered.
    Only slips that change something: by six points at least.
    """
    dice, rows = np.random.default_rng(seed), list(of.session.rows)
    watts = [row for row in rows if row.what == "out_w" and (row.value or 0.0) >= 60.0]
    charges = [row for row in rows if row.what == "charge"][1:]
    turned = [(row, float(str(int(row.value or 0.0))[::-1])) for row in charges if (row.value or 0.0) >= 13.0]
    turned = [(row, other) for row, other in turned if abs(other - (row.value or 0.0)) > 8.0 and other <= 100]
    late = [
        (row, later)
        for number, row in enumerate(charges)
        for later in charges[number + 1 :]
        if abs((later.value or 0.0) - (row.value or 0.0)) > 6.0
    ]
    found: list[tuple[str, SessionRow]] = []
    if watts:
        row = watts[dice.integers(len(watts))]
        found.append(("ten times", row.model_copy(update={"value": (row.value or 0.0) * 10.0})))
    if turned:
        row, other = turned[dice.integers(len(turned))]
        found.append(("turned round", row.model_copy(update={"value": other})))
    if late:
        row, later = late[dice.integers(len(late))]
        found.append(("late", row.model_copy(update={"at": later.at})))
    for kind, slipped in found:
        yield kind, slipped.id, of.with_rows([slipped if row.id == slipped.id else row for row in rows])
