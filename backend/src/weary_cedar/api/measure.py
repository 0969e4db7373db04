"""Routes of measuring: meter files and readings, motor plates, heat, the simulated meter."""

from dataclasses import replace
from datetime import datetime
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Form, Query, Response, UploadFile
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk
from weary_cedar.core.demand.measured import (
    MeterFinding,
    analyse_series,
    loss_between_meters,
    read_totals,
    standby_by_difference,
)
from weary_cedar.core.electrical.motor_start import clamp_meter_w, motor_start
from weary_cedar.core.plan import Cycling, Start, Steady
from weary_cedar.formats.meter_csv import PowerUnit, propose_columns, read_series
from weary_cedar.stand_ins.meter import APPLIANCES, MeterUnit, meter_csv, meter_series

router = APIRouter(prefix="/api", tags=["measure"])
CSV: dict[str, Any] = {"content": {"text/csv": {"schema": {"type": "string"}}}, "description": "A series"}


class ColumnProposal(BaseModel):
    """How a meter file would be read; the person confirms it."""

    columns: list[str]
    time: str
    value: str
    unit: PowerUnit
    unit_sure: bool
    decimal: str
    delimiter: str
    first_rows: list[list[str]]


class UnusualStretch(BaseModel):
    """A stretch unlike the others."""

    begins_s: float
    ends_s: float
    mean_w: float
    what: str


class MeterReport(BaseModel):
    """What a series says, and the load that it would make."""

    hours: float
    gap_hours: float
    rows: int
    bad_rows: int
    duplicates: int
    resets: int
    clock_changes: int
    mean_w: float
    wh_day: float
    wh_day_error: float
    cycles: bool
    on_w: float
    off_w: float
    duty: float
    period_s: float | None
    cycles_seen: int
    start_w: float | None
    unusual: list[UnusualStretch]
    behaviour: Annotated[Steady | Cycling, Field(discriminator="kind")]
    start: Start | None


class Reading(BaseModel):
    """Watts from a reading, or what it lacks."""

    watts: float
    wh: float | None = None


class TotalsReading(BaseModel):
    """What a plug-in meter's totals say."""

    mean_w: float
    duty: float | None
    start_w: float | None


class StartReading(BaseModel):
    """What a motor takes while it starts."""

    low_va: float
    high_va: float
    low_w: float
    high_w: float
    basis: str


#: Largest figure that a reading may have; anything above is a slip.
Figure = Annotated[float, Query(ge=0, le=1e6)]
Positive = Annotated[float, Query(ge=0.01, le=1e6)]


@router.post("/meter/propose", response_model=ColumnProposal, responses=documented(413, 422))
def propose(desk: AtDesk, file: UploadFile) -> Response:
    """Say how a meter file would be read."""
    return desk.answer_from("meters", _proposed, file.file.read())


def _proposed(content: bytes) -> bytes:
    how = propose_columns(content)
    proposal = ColumnProposal(
        columns=list(how.columns),
        time=how.time,
        value=how.value,
        unit=how.unit,
        unit_sure=how.unit_sure,
        decimal=how.decimal,
        delimiter=how.delimiter,
        first_rows=[list(row) for row in how.first_rows],
    )
    return proposal.model_dump_json().encode()


@router.post("/meter/analyse", response_model=MeterReport, responses=documented(413, 422))
def analyse(
    desk: AtDesk,
    file: UploadFile,
    time: Annotated[str, Form(max_length=200)] = "",
    value: Annotated[str, Form(max_length=200)] = "",
    unit: Annotated[PowerUnit | None, Form()] = None,
) -> Response:
    """Analyse a meter file; columns and unit as confirmed, as proposed where not given."""
    return desk.answer_from("meters", _analysed, file.file.read(), time, value, unit)


def _analysed(content: bytes, time: str, value: str, unit: PowerUnit | None) -> bytes:
    how = propose_columns(content)
    how = replace(how, time=time or how.time, value=value or how.value, unit=unit or how.unit)
    data = read_series(content, how)
    found = analyse_series(data.t_s, data.watts)
    report = _report(found, data.rows, data.bad_rows, data.duplicates, data.resets, data.clock_changes)
    return report.model_dump_json().encode()


def _report(
    found: MeterFinding, rows: int, bad: int, duplicates: int, resets: int, clock_changes: int
) -> MeterReport:
    behaviour: Steady | Cycling = Steady(watts=round(found.mean_w, 2))
    if found.cycles:
        watts = max(found.on_w, found.mean_w)
        duty = min(1.0, found.mean_w / watts)
        period_s = min(7 * 86_400.0, max(10.0, found.period_s or 2_400.0))
        behaviour = Cycling(on_w=round(watts, 2), duty=round(duty, 5), period_s=round(period_s, 1))
    figures = {key: value for key, value in vars(found).items() if key not in ("samples", "unusual")}
    return MeterReport(
        **figures,
        rows=rows,
        bad_rows=bad,
        duplicates=duplicates,
        resets=resets,
        clock_changes=clock_changes,
        unusual=[UnusualStretch(**vars(item)) for item in found.unusual],
        behaviour=behaviour,
        start=Start(va=round(found.start_w, 1)) if found.start_w else None,
    )


@router.get("/measure/totals", responses=documented(422))
def totals(
    kwh: Figure, hours: Positive, highest_w: Figure | None = None, running_w: Positive | None = None
) -> TotalsReading:
    """Mean watts, duty and start from a plug-in meter's totals."""
    return TotalsReading(**vars(read_totals(kwh, hours, highest_w, running_w)))


@router.get("/measure/clamp", responses=documented(422))
def clamp(amps: Figure, volts: Positive, power_factor: Annotated[float, Query(gt=0, le=1)] = 1.0) -> Reading:
    """Watts from a clamp-meter reading."""
    return Reading(watts=clamp_meter_w(amps, volts, power_factor))


@router.get("/measure/cord", responses=documented(422))
def cord(kwh_before: Figure, kwh_after: Figure, hours: Positive) -> Reading:
    """What a cord takes, from two meters on one run."""
    wh, watts = loss_between_meters(kwh_before, kwh_after, hours)
    return Reading(watts=watts, wh=wh)


@router.get("/measure/standby", responses=documented(422))
def standby(kwh: Figure, hours: Positive, known_w: Figure = 0.0) -> Reading:
    """What the house draws with everything switched off, by difference."""
    watts = standby_by_difference(kwh, hours, known_w)
    return Reading(watts=watts, wh=24 * watts)


@router.get("/measure/motor", responses=documented(422))
def motor(
    volts: Positive,
    horsepower: Annotated[float | None, Query(gt=0, le=1000)] = None,
    code_letter: Annotated[str | None, Query(max_length=2)] = None,
    locked_rotor_a: Annotated[float | None, Query(gt=0, le=1e5)] = None,
    running_a: Annotated[float | None, Query(gt=0, le=1e5)] = None,
) -> StartReading:
    """What a motor takes while it starts, from its plate."""
    return StartReading(**vars(motor_start(volts, horsepower, code_letter, locked_rotor_a, running_a)))


@router.get("/stand-ins/meter", responses={200: CSV, **documented(422)}, response_class=Response)
def stand_in_meter(
    appliance: Literal[tuple(APPLIANCES)] = "refrigerator",  # type: ignore[valid-type]
    days: Annotated[float, Query(ge=0.02, le=7)] = 2.0,
    step_s: Annotated[float, Query(ge=5, le=600)] = 30.0,
    seed: Annotated[int, Query(ge=0, le=10_000)] = 1,
    european: bool = False,
    unit: MeterUnit = "W",
) -> Response:
    """A simulated meter's series as CSV."""
    series = meter_series(appliance, days, step_s, seed)
    text = meter_csv(series, datetime(2026, 10, 10, 8, 0, 0), european=european, unit=unit)
    headers = {"Content-Disposition": f'attachment; filename="{appliance.replace(" ", "-")}.csv"'}
    return Response(text, media_type="text/csv", headers=headers)
