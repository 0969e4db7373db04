"""Routes of panels: moving breakers, balancing legs, interlock or transfer switch."""

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, Base, PlanId
from weary_cedar.api.views import PlanView
from weary_cedar.core.decide.balance import Balance, least_lean, with_moves
from weary_cedar.core.decide.transfer_switch import (
    SIZES,
    best_circuits,
    interlock_outlook,
    with_interlock,
    with_switch,
)
from weary_cedar.core.errors import NotFound, Problem
from weary_cedar.core.outage import run_outage
from weary_cedar.core.outage.hourly import HourLean, lean_by_hour, on_endless_source
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.moves import move_breaker
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api/plans/{plan_id}/panels/{panel_id}", tags=["panels"])
Goal = Literal["peak", "energy"]


class BreakerMove(BaseModel):
    """Which breaker goes to which space."""

    circuit_id: str
    to_space: int


class MoveLine(BaseModel):
    """One breaker from one space to another."""

    circuit_id: str
    label: str
    from_space: int
    to_space: int


class BalanceLine(BaseModel):
    """The least lean for a number of moves."""

    moves: list[MoveLine]
    leg_a: float
    leg_b: float
    lean: float
    proven: bool
    gap: float


class BalanceView(BaseModel):
    """Balances for 0, 1, 2 … moves, and the lean by time of day as the plan runs."""

    goal: Goal
    answers: list[BalanceLine]
    by_hour: list[HourLean]
    remark: str


class SwitchLine(BaseModel):
    """A switch of one size."""

    handles: int
    chosen: list[str]
    blind_spots: list[str]
    dark_wh_day: float


class SwitchView(BaseModel):
    """Interlock and switches side by side."""

    switches: list[SwitchLine]
    interlock_overloads_per_day: float | None
    interlock_trips: int | None


REMARK = (
    "Moving breakers is work inside a live panel and an electrician's job: the service side stays live "
    "with the main off. Conductors must reach, and breakers must be listed for the panel."
)


Moves = Annotated[int, Query(ge=1, le=6)]
Handles = Annotated[int, Query(ge=0, le=20, description="0 for the interlock with nobody shedding")]


def of_panel(plan: Plan, panel_id: str) -> Plan:
    """A plan that has the panel."""
    if panel_id not in plan.panels:
        problem = Problem("/panel_id", panel_id[:40], "a panel of this plan")
        raise NotFound(str(problem), (problem,))
    return plan


@router.post("/move", response_model=PlanView, responses=documented(404, 412, 413, 422, 428, 507))
def move(desk: AtDesk, plan_id: PlanId, panel_id: str, base: Base, asked: BreakerMove) -> Response:
    """Move a breaker to a space, or exchange it with what is there."""
    return desk.edit_by(plan_id, base, _moved, panel_id, asked)


def _moved(plan: Plan, panel_id: str, asked: BreakerMove) -> Plan:
    of_panel(plan, panel_id)
    if asked.circuit_id not in plan.circuits:
        problem = Problem("/circuit_id", asked.circuit_id[:40], "a circuit of this plan")
        raise NotFound(str(problem), (problem,))
    return move_breaker(plan, asked.circuit_id, asked.to_space)


@router.get("/balance", response_model=BalanceView, responses=documented(404, 422))
def balance(desk: AtDesk, plan_id: PlanId, panel_id: str, goal: Goal = "peak") -> Response:
    """Least lean for 0 to 6 moves, each proven, and the lean by time of day."""
    return desk.answer(plan_id, _weighed, panel_id, goal)


def _weighed(document: str, panel_id: str, goal: Goal) -> bytes:
    plan = of_panel(opened(document).plan, panel_id)
    view = BalanceView(
        goal=goal,
        answers=[_line(answer) for answer in least_lean(plan, panel_id, goal)],
        by_hour=lean_by_hour(run_outage(on_endless_source(plan))),
        remark=REMARK,
    )
    return view.model_dump_json().encode()


def _line(answer: Balance) -> BalanceLine:
    moves = [MoveLine(**vars(item)) for item in answer.moves]
    return BalanceLine(**{**vars(answer), "moves": moves})


@router.post("/balance", response_model=PlanView, responses=documented(404, 412, 422, 428, 507))
def apply_balance(
    desk: AtDesk, plan_id: PlanId, panel_id: str, base: Base, moves: Moves, goal: Goal = "peak"
) -> Response:
    """Apply the balance of so many moves, as one edit."""
    return desk.edit_by(plan_id, base, _balanced, panel_id, goal, moves)


def _balanced(plan: Plan, panel_id: str, goal: Goal, moves: int) -> Plan:
    answers = least_lean(of_panel(plan, panel_id), panel_id, goal, moves)
    return with_moves(plan, answers[-1].moves)


@router.get("/switch", response_model=SwitchView, responses=documented(404, 422))
def switch(desk: AtDesk, plan_id: PlanId, panel_id: str) -> Response:
    """What switches of 6, 8 and 10 circuits would leave dark, and how often an interlock is overloaded."""
    return desk.answer(plan_id, _switched, panel_id)


def _switched(document: str, panel_id: str) -> bytes:
    plan = of_panel(opened(document).plan, panel_id)
    outlook = interlock_outlook(plan)
    choices = [best_circuits(plan, panel_id, handles) for handles in SIZES]
    view = SwitchView(
        switches=[
            SwitchLine(
                handles=c.handles,
                chosen=[plan.circuits[key].label for key in c.chosen],
                blind_spots=[plan.circuits[key].label for key in c.blind_spots],
                dark_wh_day=c.dark_wh_day,
            )
            for c in choices
        ],
        interlock_overloads_per_day=outlook.overloads_per_day if outlook else None,
        interlock_trips=outlook.trips if outlook else None,
    )
    return view.model_dump_json().encode()


@router.post("/switch", status_code=201, response_model=PlanView, responses=documented(404, 422, 507))
def keep_copy(desk: AtDesk, plan_id: PlanId, panel_id: str, handles: Handles) -> Response:
    """Keep the plan with a switch, or with an interlock alone, as a copy."""
    stored = desk.store.get(plan_id)
    return desk.create("copy", f"Copied from {stored.name}", _fitted, stored.document, panel_id, handles)


def _fitted(document: str, panel_id: str, handles: int) -> Plan:
    plan = of_panel(opened(document).plan, panel_id)
    return with_switch(plan, best_circuits(plan, panel_id, handles)) if handles else with_interlock(plan)
