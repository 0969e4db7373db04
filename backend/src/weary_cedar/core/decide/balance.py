"""Which breakers to move so that the legs lean least, each answer proven."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from weary_cedar.core.electrical.split_phase import lean
from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.network import network_of
from weary_cedar.core.panel_schedule import panel_schedule
from weary_cedar.core.plan import Plan, leg_of_space

#: peak: on-watts, for a split-phase inverter; energy: Wh a day, for one unit on each leg.
Goal = Literal["peak", "energy"]
MOST_MOVES = 6
#: An answer counts as proven when nothing better than this share of the whole load is left to find.
PROVEN_GAP = 2e-6
MOST_SECONDS = 10.0
#: Legs this even are not evened further.
EVEN = 1e-5


@dataclass(frozen=True)
class Move:
    """One breaker from one space to another."""

    circuit_id: str
    label: str
    from_space: int
    to_space: int


@dataclass(frozen=True)
class Balance:
    """The least lean for a number of moved breakers."""

    moves: tuple[Move, ...]
    leg_a: float
    leg_b: float
    lean: float
    proven: bool
    gap: float


@dataclass(frozen=True)
class _Single:
    """A single-pole breaker: where it is, what it weighs, whether it may change legs."""

    circuit_id: str
    on_b: bool
    weight: float
    movable: bool


def least_lean(plan: Plan, panel_id: str, goal: Goal = "peak", most_moves: int = MOST_MOVES) -> list[Balance]:
    """Least lean for 0, 1, 2 … moved breakers.

    Args:
        plan: the plan; circuits that are off or not on its transfer switch weigh nothing.
        panel_id: a panel of a split-phase house.
        goal: watts at once, or energy of a day.
        most_moves: largest number of breakers that may change legs.

    Returns:
        One balance for each number of moves. Two-pole, locked and tandem breakers stay; partners of
        a multiwire circuit stay on different legs; every moved breaker has a space. `proven` when
        the solver closed the gap, which is given as a share of the whole load.

    Raises:
        InvalidInput: a single-phase house has no legs to balance.

    Source: number partitioning as a mixed-integer programme, solved by HiGHS through SciPy.
    """
    if not plan.site.split_phase:
        problem = Problem("/site/system", plan.site.system, "a split-phase house; this one has one leg")
        raise InvalidInput(str(problem), (problem,))
    singles, fixed = _breakers(plan, panel_id, goal)
    spaces = {leg: _single_spaces(plan, panel_id, leg) for leg in "AB"}
    answers: list[Balance] = []
    for moves in range(most_moves + 1):
        if answers and answers[-1].proven and answers[-1].lean <= EVEN:
            answers.append(answers[-1])
            continue
        on_b, gap = _solve(plan, singles, spaces, moves, fixed["A"] - fixed["B"])
        answer = _described(plan, panel_id, singles, fixed, on_b, gap)
        better = not answers or answer.lean < answers[-1].lean - 1e-9
        answers.append(answer if better else answers[-1])
    return answers


def _breakers(plan: Plan, panel_id: str, goal: Goal) -> tuple[list[_Single], dict[str, float]]:
    """Single-pole breakers, and what two-pole breakers and sub-panels put on each leg."""
    schedule = panel_schedule(plan, panel_id)
    loads, legs = schedule.circuits, schedule.legs
    counted = network_of(plan).counted
    singles = []
    for key, circuit in sorted(plan.circuits.items()):
        if circuit.panel_id != panel_id:
            continue
        on = loads[key].on_w if goal == "peak" else 24 * loads[key].mean_w
        weight = on if key in counted else 0.0
        if circuit.poles == 1:
            on_b = plan.circuit_legs(key)[0] == "B"
            singles.append(_Single(key, on_b, weight, not circuit.locked and circuit.half is None))
    fixed = {}
    for leg, load in legs.items():
        whole = load.keep_w + load.room_w if goal == "peak" else load.keep_wh_day + load.room_wh_day
        fixed[leg] = whole - sum(s.weight for s in singles if s.on_b == (leg == "B"))
    return singles, fixed


def _single_spaces(plan: Plan, panel_id: str, leg: str) -> int:
    """Spaces of a leg that single-pole breakers may take: not held by two-pole, tandem or feed."""
    panel = plan.panels[panel_id]
    held = {
        space for feed in plan.feeds.values() if feed.panel_id == panel_id for space in feed.breaker_spaces
    }
    for circuit in plan.circuits.values():
        if circuit.panel_id == panel_id and (circuit.poles == 2 or circuit.half is not None):
            held.update(circuit.spaces)
    free = (space for space in range(1, panel.spaces + 1) if space not in held)
    return sum(leg_of_space(space, panel.first_leg) == leg for space in free)


def _solve(
    plan: Plan, singles: list[_Single], spaces: dict[str, int], moves: int, ahead: float
) -> tuple[list[bool], float]:
    """Variables: x_i = 1 on leg B, d ≥ |A − B| and a constant 1. Least 1 + d; a little per move breaks ties.

    The constant makes the solver's relative gap one of the whole load.

    `ahead` is what leg A has more than leg B apart from the single-pole breakers.
    """
    from scipy.optimize import Bounds, LinearConstraint, milp

    n = len(singles)
    now = np.array([s.on_b for s in singles], float)
    weight = np.array([s.weight for s in singles])
    total = float(weight.sum())
    if n == 0 or total == 0:
        return [s.on_b for s in singles], 0.0
    rows: list[NDArray[np.float64]] = []
    low: list[float] = []
    high: list[float] = []

    def constrain(coefficients: NDArray[np.float64], at_least: float, at_most: float, d: float = 0.0) -> None:
        rows.append(np.append(coefficients, d))
        low.append(at_least)
        high.append(at_most)

    constrain(2 * weight / total, -np.inf, 1.0 + ahead / total, -1.0)
    constrain(2 * weight / total, 1.0 + ahead / total, np.inf, 1.0)
    flips = np.where(now > 0, -1.0, 1.0)
    constrain(flips, -np.inf, moves - float(now.sum()))
    plain = np.array([plan.circuits[s.circuit_id].half is None for s in singles], float)
    constrain(plain, float(plain.sum()) - spaces["A"], spaces["B"])
    index = {s.circuit_id: i for i, s in enumerate(singles)}
    for i, single in enumerate(singles):
        partner = index.get(plan.partner_of(single.circuit_id) or "")
        if partner is not None and partner != i:
            pair = np.zeros(n)
            pair[[i, partner]] = 1.0
            constrain(pair, 1.0, 1.0)
    movable = np.array([s.movable for s in singles])
    lower, upper = np.where(movable, 0.0, now), np.where(movable, 1.0, now)
    answer = milp(
        np.append(1e-7 * flips, [1.0, 1.0]),
        constraints=LinearConstraint(np.array([np.append(row, 0.0) for row in rows]), low, high),
        integrality=np.append(np.ones(n), [0, 0]),
        bounds=Bounds(np.append(lower, [0.0, 1.0]), np.append(upper, [np.inf, 1.0])),
        options={"mip_rel_gap": PROVEN_GAP / 4, "time_limit": MOST_SECONDS},
    )
    if answer.x is None:
        return [s.on_b for s in singles], 1.0
    bound = answer.fun if answer.mip_dual_bound is None else answer.mip_dual_bound
    return [bool(x > 0.5) for x in answer.x[:n]], max(0.0, float(answer.fun - bound))


def _described(
    plan: Plan, panel_id: str, singles: list[_Single], fixed: dict[str, float], on_b: list[bool], gap: float
) -> Balance:
    changed = [s.circuit_id for s, side in zip(singles, on_b, strict=True) if s.on_b != side]
    a = fixed["A"] + sum(s.weight for s, side in zip(singles, on_b, strict=True) if not side)
    b = fixed["B"] + sum(s.weight for s, side in zip(singles, on_b, strict=True) if side)
    return Balance(_moves(plan, panel_id, changed), a, b, lean(a, b), gap <= PROVEN_GAP, gap)


def _moves(plan: Plan, panel_id: str, changed: list[str]) -> tuple[Move, ...]:
    """Give every breaker that changes legs a space: first of those that others leave, then a free one."""
    panel = plan.panels[panel_id]
    leaving = {key: plan.circuits[key].spaces[0] for key in changed}
    held = {space for c in plan.circuits.values() if c.panel_id == panel_id for space in c.spaces}
    held |= {space for f in plan.feeds.values() if f.panel_id == panel_id for space in f.breaker_spaces}
    open_spaces = sorted(leaving.values()) + [s for s in range(1, panel.spaces + 1) if s not in held]
    moves = []
    for key, space in sorted(leaving.items(), key=lambda item: item[1]):
        leg = leg_of_space(space, panel.first_leg)
        to = next(s for s in open_spaces if leg_of_space(s, panel.first_leg) != leg)
        open_spaces.remove(to)
        moves.append(Move(key, plan.circuits[key].label, space, to))
    return tuple(moves)


def with_moves(plan: Plan, moves: tuple[Move, ...]) -> Plan:
    """The plan with breakers moved; spaces that are exchanged are exchanged at once."""
    moved = {
        move.circuit_id: plan.circuits[move.circuit_id].model_copy(update={"spaces": (move.to_space,)})
        for move in moves
    }
    return plan.model_copy(update={"circuits": {**plan.circuits, **moved}})
