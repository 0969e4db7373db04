"""Routes of panels: moving breakers, balancing legs, interlock or transfer switch."""

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import Base, PlanId, Store
from weary_cedar.api.views import PlanView, plan_view, run_of
from weary_cedar.core.decide.balance import Balance, least_lean, with_moves
from weary_cedar.core.decide.transfer_switch import (
    SIZES,
    best_circuits,
    interlock_outlook,
    with_interlock,
    with_switch,
)
from weary_cedar.core.errors import NotFound, Problem
from weary_cedar.core.outage.hourly import HourLean, lean_by_hour, on_endless_source
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.moves import move_breaker
from weary_cedar.store.merge import make_patch
from weary_cedar.store.plans import PlanStore, StoredPlan, canonical

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


def panel_of(stored: StoredPlan, panel_id: str) -> str:
    """The id of a panel that the plan has."""
    if panel_id not in stored.plan.panels:
        problem = Problem("/panel_id", panel_id[:40], "the id of a panel of this plan")
        raise NotFound(str(problem), (problem,))
    return panel_id


def save_plan(store: PlanStore, response: Response, stored: StoredPlan, base: int, plan: Plan) -> PlanView:
    """Store what was made of a revision, as one edit."""
    patch = make_patch(canonical(stored.plan), canonical(plan))
    saved = store.edit(stored.id, base, patch)
    response.headers["ETag"] = f'"{saved.revision}"'
    return plan_view(saved)


@router.post("/move", responses=documented(404, 412, 422, 428, 507))
def move(
    store: Store, response: Response, plan_id: PlanId, panel_id: str, base: Base, asked: BreakerMove
) -> PlanView:
    """Move a breaker to a space, or exchange it with what is there."""
    stored = store.revision(plan_id, base)
    panel_of(stored, panel_id)
    if asked.circuit_id not in stored.plan.circuits:
        problem = Problem("/circuit_id", asked.circuit_id[:40], "the id of a circuit of this plan")
        raise NotFound(str(problem), (problem,))
    return save_plan(
        store, response, stored, base, move_breaker(stored.plan, asked.circuit_id, asked.to_space)
    )


@router.get("/balance", responses=documented(404, 422))
def balance(store: Store, plan_id: PlanId, panel_id: str, goal: Goal = "peak") -> BalanceView:
    """Least lean for 0 to 6 moves, each proven, and the lean by time of day."""
    stored = store.get(plan_id)
    answers = least_lean(stored.plan, panel_of(stored, panel_id), goal)
    return BalanceView(
        goal=goal,
        answers=[_line(answer) for answer in answers],
        by_hour=lean_by_hour(run_of(on_endless_source(stored.plan))),
        remark=REMARK,
    )


def _line(answer: Balance) -> BalanceLine:
    moves = [MoveLine(**vars(item)) for item in answer.moves]
    return BalanceLine(**{**vars(answer), "moves": moves})


@router.post("/balance", responses=documented(404, 412, 422, 428, 507))
def apply_balance(
    store: Store,
    response: Response,
    plan_id: PlanId,
    panel_id: str,
    base: Base,
    moves: Annotated[int, Query(ge=1, le=6)],
    goal: Goal = "peak",
) -> PlanView:
    """Apply the balance of so many moves, as one edit."""
    stored = store.revision(plan_id, base)
    answers = least_lean(stored.plan, panel_of(stored, panel_id), goal, moves)
    return save_plan(store, response, stored, base, with_moves(stored.plan, answers[-1].moves))


@router.get("/switch", responses=documented(404, 422))
def switch(store: Store, plan_id: PlanId, panel_id: str) -> SwitchView:
    """What switches of 6, 8 and 10 circuits would leave dark, and how often an interlock is overloaded."""
    stored = store.get(plan_id)
    plan = stored.plan
    outlook = interlock_outlook(plan)
    choices = [best_circuits(plan, panel_of(stored, panel_id), handles) for handles in SIZES]
    return SwitchView(
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


@router.post("/switch", status_code=201, responses=documented(404, 422, 507))
def keep_copy(
    store: Store,
    response: Response,
    plan_id: PlanId,
    panel_id: str,
    handles: Annotated[int, Query(ge=0, le=20, description="0 for the interlock with nobody shedding")],
) -> PlanView:
    """Keep the plan with a switch, or with an interlock alone, as a copy."""
    stored = store.get(plan_id)
    panel_of(stored, panel_id)
    plan = with_switch(stored.plan, best_circuits(stored.plan, panel_id, handles)) if handles else None
    copy = store.create(plan or with_interlock(stored.plan), "copy", f"Copied from {stored.plan.name}")
    response.headers["ETag"] = f'"{copy.revision}"'
    return plan_view(copy)
