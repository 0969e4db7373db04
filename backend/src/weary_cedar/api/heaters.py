"""Routes of heaters: loss of the house, electricity against outdoor temperature, worst moment."""

from typing import Annotated, Literal

from fastapi import APIRouter, Response, UploadFile
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, JsonBody, PlanId, body_of
from weary_cedar.core.decide.heater import heater_days, worst_moment
from weary_cedar.core.demand.heat_loss import loss_from_fuel, loss_from_run_fraction
from weary_cedar.core.demand.sequence import find_sequence
from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.core.library import HeaterClass, heaters
from weary_cedar.core.plan import SequenceStep, Start, Thermostatic, read_part
from weary_cedar.core.plan.load import LossWPerK
from weary_cedar.core.plan.reading import parse
from weary_cedar.core.tables import table
from weary_cedar.formats.meter_csv import propose_columns, read_series
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api", tags=["heaters"])
Finite = Annotated[float, Field(allow_inf_nan=False, ge=-1e6, le=1e6)]


class KnownLoss(BaseModel):
    """The loss is known."""

    basis: Literal["known"] = "known"
    loss_w_per_k: LossWPerK


class FuelLoss(BaseModel):
    """From last winter's fuel and its degree days."""

    basis: Literal["fuel"] = "fuel"
    fuel: str
    amount: Finite
    degree_days_k: Finite
    efficiency: Finite = 0.85


class RunLoss(BaseModel):
    """From how long the heater ran at an outdoor temperature."""

    basis: Literal["run"] = "run"
    run_fraction: Finite
    outdoor_c: Finite


class HeaterQuestion(BaseModel):
    """A heater of the plan as it could be, and how the loss of its house is known."""

    load_id: str
    loss: Annotated[KnownLoss | FuelLoss | RunLoss, Field(discriminator="basis")]
    behaviour: Thermostatic
    start: Start | None = None
    standby_w: Annotated[float, Field(ge=0, le=1000)] = 0.0


class HeaterDayLine(BaseModel):
    """A day at one outdoor temperature."""

    outdoor_c: float
    run_fraction: float
    cycles_per_hour: float
    electrical_wh: float
    short: bool
    setback_saving: float


class WorstMomentView(BaseModel):
    """The heater's worst moment on its leg."""

    legs: list[str]
    others_w: float
    heater_w: float
    start_va: float
    limit_va: float | None
    carried_va: float | None


class HeaterAnswer(BaseModel):
    """Loss of the house, days, worst moment, and the behaviour with that loss."""

    loss_w_per_k: float
    days: list[HeaterDayLine]
    worst: WorstMomentView
    behaviour: Thermostatic


class FuelLine(BaseModel):
    """A fuel and its unit."""

    fuel: str
    unit: str
    kwh_per_unit: float


class HeaterLibrary(BaseModel):
    """Classes of heaters, and fuels."""

    heaters: list[HeaterClass]
    fuels: list[FuelLine]


class SequenceView(BaseModel):
    """A call found in a meter series."""

    before: list[SequenceStep]
    run_w: float
    after: list[SequenceStep]
    calls: int


@router.get("/library/heaters", responses=documented())
def heater_library() -> HeaterLibrary:
    """Heaters with typical electrical sequences, and fuels with their heat."""
    fuels = [
        FuelLine(fuel=row["fuel"], unit=row["unit"], kwh_per_unit=float(row["kwh_per_unit"]))
        for row in table("fuels")
    ]
    return HeaterLibrary(heaters=heaters(), fuels=fuels)


EXAMPLE = {
    "load_id": "furnace",
    "loss": {"basis": "known", "loss_w_per_k": 200},
    "behaviour": {"run_w": 640.0},
}


@router.post(
    "/plans/{plan_id}/heater",
    response_model=HeaterAnswer,
    responses=documented(404, 413, 422),
    openapi_extra=body_of({"$ref": "#/components/schemas/HeaterQuestion"}, EXAMPLE),
)
def heater(desk: AtDesk, plan_id: PlanId, question: JsonBody) -> Response:
    """What a heater takes a day, and at its worst moment on its leg; nothing is stored."""
    return desk.answer(plan_id, _answered, question)


def _answered(document: str, question: bytes) -> bytes:
    asked = read_part(HeaterQuestion, parse(question))
    plan = opened(document).plan
    if asked.load_id not in plan.loads:
        problem = Problem("/load_id", shown(asked.load_id), "a load of this plan")
        raise NotFound(str(problem), (problem,))
    loss = _loss(asked)
    spec = asked.behaviour.model_copy(update={"loss_w_per_k": loss})
    days = [
        HeaterDayLine(
            **{**vars(item.day), "outdoor_c": item.outdoor_c, "setback_saving": item.setback_saving}
        )
        for item in heater_days(spec, asked.standby_w)
    ]
    worst = worst_moment(plan, asked.load_id, spec, asked.start)
    view = WorstMomentView(**{**vars(worst), "legs": list(worst.legs)})
    answer = HeaterAnswer(loss_w_per_k=loss, days=days, worst=view, behaviour=spec)
    return answer.model_dump_json().encode()


def _loss(asked: HeaterQuestion) -> float:
    loss, spec = asked.loss, asked.behaviour
    if isinstance(loss, KnownLoss):
        return loss.loss_w_per_k
    if isinstance(loss, RunLoss):
        return loss_from_run_fraction(
            loss.run_fraction, spec.output_w, spec.set_c, loss.outdoor_c, spec.gain_w
        )
    return loss_from_fuel(loss.fuel, loss.amount, loss.degree_days_k, loss.efficiency)


@router.post("/meter/sequence", response_model=SequenceView, responses=documented(413, 422))
def sequence(desk: AtDesk, file: UploadFile) -> Response:
    """Find the steps of a heater's call in a meter series."""
    return desk.answer_from("meters", _sequence, file.file.read())


def _sequence(content: bytes) -> bytes:
    data = read_series(content, propose_columns(content))
    found = find_sequence(data.t_s, data.watts)
    view = SequenceView(
        before=list(found.before), run_w=found.run_w, after=list(found.after), calls=found.calls
    )
    return view.model_dump_json().encode()
