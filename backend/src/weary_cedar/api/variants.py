"""Routes of variants: copies of a plan that belong to it, side by side with it, and adopted by it."""

from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from weary_cedar.api.desk import Desk
from weary_cedar.api.errors import documented
from weary_cedar.api.plans import MERGE_PATCH, AtDesk, Base, JsonBody, PlanId, body_of
from weary_cedar.api.views import PlanView
from weary_cedar.core.checks import stops_of
from weary_cedar.core.decide.chance import MOST_OUTAGES, Varying, as_plan
from weary_cedar.core.decide.side_by_side import Judged, Row, rows_of
from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.outage.result import Verdict
from weary_cedar.core.outage.thinned import rows_kept
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.plan.reading import parse
from weary_cedar.store.describe import describe_change
from weary_cedar.store.edits import canonical, present
from weary_cedar.store.plans import StoredPlan
from weary_cedar.workshop.derivation import opened

router = APIRouter(prefix="/api/plans/{plan_id}", tags=["plans"])

#: A plan and so many variants stand side by side; more are no comparison.
MOST_VARIANTS = 3
#: Points that draw a charge side by side.
STRETCHES = 400


class OutageAsked(Varying):
    """Which of the outages that a chance was told from."""

    number: Annotated[int, Field(ge=0, lt=MOST_OUTAGES)]


class Sibling(BaseModel):
    """A plan of a family: by what it differs from the first, its verdict, and its charge over the outage."""

    id: str
    #: By what it differs; the name of the plan itself.
    name: str
    own: bool
    verdict: Verdict
    length_s: float
    t_s: list[float]
    charge_percent: list[float]


class SideBySide(BaseModel):
    """A plan and its variants, and what differs."""

    plans: list[Sibling]
    rows: list[Row]
    room_for_more: bool


@router.get("/variants", response_model=SideBySide, responses=documented(404, 422))
def side_by_side(desk: AtDesk, plan_id: PlanId) -> Response:
    """A plan with its variants, asked of the plan or of one of them."""
    family = [(stored.id, stored.document) for stored in desk.store.family(plan_id)]
    return desk.answer_from(plan_id, _side_by_side, family)


def _side_by_side(family: list[tuple[str, str]]) -> bytes:
    found = [opened(document) for _, document in family]
    judged = [Judged(each.plan, each.run, len(stops_of(each.findings))) for each in found]
    first = present(family[0][1])
    plans = []
    for (key, document), item in zip(family, judged, strict=True):
        series = item.run.series
        kept = rows_kept(series.t_s, [series.charge_percent], STRETCHES)
        own = key == family[0][0]
        plans.append(
            Sibling(
                id=key,
                name=item.plan.name if own else _difference(first, document),
                own=own,
                verdict=item.run.verdict,
                length_s=item.run.length_s,
                t_s=[series.t_s[row] for row in kept],
                charge_percent=[series.charge_percent[row] for row in kept],
            )
        )
    more = len(family) <= MOST_VARIANTS
    return SideBySide(plans=plans, rows=rows_of(judged), room_for_more=more).model_dump_json().encode()


def _difference(first: dict[str, object], document: str) -> str:
    own = present(document)
    told = describe_change(first, own | {"name": first.get("name")})
    return "the same so far" if told == "Nothing changed" else told


@router.post("/variants", status_code=201, response_model=PlanView, responses=documented(404, 413, 422, 507))
def new_variant(desk: AtDesk, plan_id: PlanId) -> Response:
    """Copy a plan as a variant that belongs to it; of a variant, one more of its plan."""
    first = _room_for_more(desk, plan_id)
    from_plan = desk.store.get(plan_id)
    summary = f"Variant of {first.name}"[:300]
    return desk.create("variant", summary, read_plan, from_plan.document, variant_of=first.id)


def _room_for_more(desk: Desk, plan_id: str) -> StoredPlan:
    """The plan that a new variant belongs to.

    Raises:
        InvalidInput: it has as many as stand side by side.
    """
    family = desk.store.family(plan_id)
    if len(family) > MOST_VARIANTS:
        problem = Problem("/plan_id", plan_id, f"at most {MOST_VARIANTS} variants: take one away first")
        raise InvalidInput(str(problem), (problem,))
    return family[0]


@router.post(
    "/variants/changed",
    status_code=201,
    response_model=PlanView,
    responses=documented(404, 413, 422, 507),
    openapi_extra=body_of({"type": "object"}, {"loads": {"fridge": {"origin": "measured"}}}, MERGE_PATCH),
)
def changed_variant(desk: AtDesk, plan_id: PlanId, patch: JsonBody) -> Response:
    """Copy a plan as a variant in which a merge patch is applied at once."""
    first = _room_for_more(desk, plan_id)
    document = desk.store.get(plan_id).document
    summary = f"Variant of {first.name}"[:300]
    return desk.create("variant", summary, _with_patch, document, patch, variant_of=first.id)


@router.post(
    "/variants/outage", status_code=201, response_model=PlanView, responses=documented(404, 422, 507)
)
def outage_variant(
    desk: AtDesk,
    plan_id: PlanId,
    asked: Annotated[OutageAsked, Query()],
) -> Response:
    """Copy a plan as a variant that is one of the outages that its chance was told from."""
    first = _room_for_more(desk, plan_id)
    document = desk.store.get(plan_id).document
    summary = f"Outage {asked.number + 1} of {first.name}"[:300]
    varying = Varying.model_validate(asked.model_dump(exclude={"number"}))
    return desk.create("variant", summary, _outage, document, asked.number, varying, variant_of=first.id)


def _outage(document: str, number: int, varying: Varying) -> Plan:
    return as_plan(read_plan(document), number, varying)


def _with_patch(document: str, patch: bytes) -> Plan:
    return read_plan(apply_patch(canonical(read_plan(document)), parse(patch)))


@router.post("/adopt", response_model=PlanView, responses=documented(404, 412, 422, 428, 507))
def adopt(
    desk: AtDesk, plan_id: PlanId, base: Base, variant: Annotated[str, Query(max_length=40)]
) -> Response:
    """Make a plan what one of its variants is, as one edit that can be undone; the variant stays."""
    family = {stored.id: stored for stored in desk.store.family(plan_id)}
    if variant not in family or family[variant].variant_of != plan_id:
        problem = Problem("/variant", variant[:40], "a variant of this plan")
        raise InvalidInput(str(problem), (problem,))
    return desk.edit_by(plan_id, base, _adopted, family[variant].document)


def _adopted(plan: Plan, document: str) -> Plan:
    return read_plan({**canonical(read_plan(document)), "name": plan.name})
