"""Routes of gear and feeds: library, comparison, string layouts, paths, survey."""

from collections.abc import Mapping
from datetime import date
from typing import Annotated, Literal, TypeVar

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.api.plans import AtDesk, Base, PlanId
from weary_cedar.api.printed import a_file, attached
from weary_cedar.api.views import PlanView
from weary_cedar.core.checks.editions import Clause
from weary_cedar.core.decide.compare import Option, compare, linked_pair, mean_load_w
from weary_cedar.core.decide.string_layout import Layout, layouts
from weary_cedar.core.electrical.pv_string import unread
from weary_cedar.core.errors import InvalidInput, NotFound, Problem, shown
from weary_cedar.core.feed_path import FeedPath
from weary_cedar.core.gear import GearLibrary, gear_library, station_classes
from weary_cedar.core.handles.dangers import Looked
from weary_cedar.core.hookup_drawing import HookupDrawing
from weary_cedar.core.inventory import Inventory, inventory
from weary_cedar.core.lead_conductors import LeadConductors
from weary_cedar.core.replacing import with_other_station
from weary_cedar.core.supply.sun import array_day
from weary_cedar.formats.list_csv import inventory_csv
from weary_cedar.formats.plate_line import read_plate
from weary_cedar.workshop.derivation import Question, opened

T = TypeVar("T")
NO_GENERATOR = "none"
router = APIRouter(prefix="/api", tags=["gear"])


class LayoutView(BaseModel):
    """Layouts of an array's modules on its input, the best first."""

    modules: int
    coldest_c: float
    day: date
    layouts: list[Layout]


class Comparison(BaseModel):
    """Options side by side at a load."""

    mean_w: float
    generator: str | None
    options: list[Option]


@router.get("/library/gear", responses=documented())
def library() -> GearLibrary:
    """Generic classes of gear with typical figures."""
    return gear_library()


class PlateText(BaseModel):
    """A plate as typed."""

    kind: Literal["dc_input", "ac_input", "module", "generator"]
    text: Annotated[str, Field(max_length=1_000, examples=["12-60V 15A, 500W max"])]


@router.post("/plates/read", responses=documented(413, 422))
def plate(given: PlateText) -> dict[str, float]:
    """Read a plate as it is printed; nothing is stored."""
    return read_plate(given.kind, given.text)


@router.get("/plans/{plan_id}/paths", response_model=list[FeedPath], responses=documented(404, 422))
def paths(desk: AtDesk, plan_id: PlanId) -> Response:
    """Every feed as a line of elements, with flows, pinch and neutral."""
    return desk.sheet(plan_id, "paths")


@router.get(
    "/plans/{plan_id}/conductors", response_model=list[LeadConductors], responses=documented(404, 422)
)
def conductors(desk: AtDesk, plan_id: PlanId) -> Response:
    """Every conductor of every lead: rating, protection, greatest currents, length and drop."""
    return desk.sheet(plan_id, "conductors")


@router.get("/plans/{plan_id}/arrangements", response_model=Looked, responses=documented(404, 422))
def arrangements(desk: AtDesk, plan_id: PlanId) -> Response:
    """What every arrangement of handles lets meet that must not, with the shortest way there."""
    return desk.sheet(plan_id, "arrangements")


@router.get("/plans/{plan_id}/clauses", response_model=list[Clause], responses=documented(404, 422))
def clauses(desk: AtDesk, plan_id: PlanId) -> Response:
    """Every clause that a check is cited from memory by, in the edition of the plan: to be looked up."""
    return desk.sheet(plan_id, "clauses")


@router.get("/plans/{plan_id}/hookup", response_model=HookupDrawing, responses=documented(404, 422))
def hookup(desk: AtDesk, plan_id: PlanId) -> Response:
    """Everything that is plugged into what, as one drawing."""
    return desk.sheet(plan_id, "hookup")


@router.get("/plans/{plan_id}/survey", response_model=list[Question], responses=documented(404, 422))
def survey(desk: AtDesk, plan_id: PlanId) -> Response:
    """What is asked of this plan, with the answers."""
    return desk.sheet(plan_id, "survey")


@router.get("/plans/{plan_id}/compare", response_model=Comparison, responses=documented(404, 422))
def comparison(
    desk: AtDesk,
    plan_id: PlanId,
    option: Annotated[
        list[str], Query(max_length=4, description="station of the plan, or class of the library")
    ],
    mean_w: Annotated[float | None, Query(ge=0, le=1e5)] = None,
    generator: Annotated[
        str | None,
        Query(description="generator of the plan, or class of the library, or none; the plan's if absent"),
    ] = None,
) -> Response:
    """Stations of the plan or of the library side by side, at the plan's mean load or a stated one."""
    return desk.answer(plan_id, _compared, option, mean_w, generator)


def _compared(document: str, option: list[str], mean_w: float | None, generator: str | None) -> bytes:
    plan = opened(document).plan
    known = {item.class_id: item.station for item in station_classes()} | plan.stations
    known |= {f"pair:{key}": linked_pair(unit) for key, unit in known.items() if unit.output == "120"}
    stations = [_chosen(known, name, "/option") for name in option]
    engines = {item.class_id: item.generator for item in gear_library().generators} | plan.generators
    chosen = next(iter(plan.generators), None) if generator is None else generator
    chosen = None if chosen == NO_GENERATOR else chosen
    engine = _chosen(engines, chosen, "/generator") if chosen else None
    watts = mean_load_w(plan) if mean_w is None else mean_w
    found = Comparison(mean_w=watts, generator=chosen, options=compare(stations, watts, engine))
    return found.model_dump_json().encode()


def _chosen(known: Mapping[str, T], name: str, field: str) -> T:
    if name not in known:
        problem = Problem(field, shown(name), f"one of {', '.join(known)}")
        raise InvalidInput(str(problem), (problem,))
    return known[name]


@router.get(
    "/plans/{plan_id}/arrays/{array_id}/layouts", response_model=LayoutView, responses=documented(404, 422)
)
def string_layouts(
    desk: AtDesk, plan_id: PlanId, array_id: str, modules: Annotated[int | None, Query(ge=1, le=24)] = None
) -> Response:
    """Which series × parallel layouts fit the input from the coldest morning to the hottest noon."""
    return desk.answer(plan_id, _laid_out, array_id, modules)


def _laid_out(document: str, array_id: str, modules: int | None) -> bytes:
    plan = opened(document).plan
    array = plan.arrays.get(array_id)
    entry = plan.dc_input_of(array) if array else None
    if array is None or entry is None:
        problem = Problem("/array_id", shown(array_id), "an array of this plan that is wired to an input")
        raise NotFound(str(problem), (problem,))
    cold_c = plan.site.design_low_c
    if cold_c is None:
        problem = Problem(
            "/site/design_low_c", "nothing", "the coldest temperature that the modules may see, °C"
        )
        raise InvalidInput(str(problem), (problem,))
    missing = unread(array.module, entry, cold_c)
    if missing:
        problem = Problem(f"/arrays/{array_id}/module", "nothing", f"what plate and manual say: {missing}")
        raise InvalidInput(str(problem), (problem,))
    count = modules or min(24, array.series * array.parallel)
    day = plan.outage.start_local.date()
    sun = array_day(plan.site, array, day, plan.outage.weather.high_c)
    found = layouts(array.module, count, entry, cold_c, sun)
    view = LayoutView(modules=count, coldest_c=cold_c, day=day, layouts=found[:12])
    return view.model_dump_json().encode()


@router.post(
    "/plans/{plan_id}/stations/{station_id}/replace",
    response_model=PlanView,
    responses=documented(404, 412, 422, 428, 507),
)
def replace_station(
    desk: AtDesk,
    plan_id: PlanId,
    station_id: str,
    base: Base,
    class_id: Annotated[str, Query(description="class of the library")],
) -> Response:
    """Put a station of a class in the place of one; what is plugged into it stays plugged."""
    known = {item.class_id: item.station for item in station_classes()}
    other = _chosen(known, class_id, "/class_id")
    return desk.edit_by(plan_id, base, with_other_station, station_id, other)


@router.get("/plans/{plan_id}/inventory", response_model=Inventory, responses=documented(404, 422))
def what_there_is(desk: AtDesk, plan_id: PlanId) -> Response:
    """Everything that is owned or thought of: where it is, what it costs and weighs."""
    return desk.sheet(plan_id, "inventory")


@router.get("/plans/{plan_id}/inventory.csv", responses=a_file("text/csv"), response_class=Response)
def inventory_as_csv(desk: AtDesk, plan_id: PlanId) -> Response:
    """What the plan owns as CSV."""
    return attached(desk.answer(plan_id, _inventory_csv), "text/csv", f"{plan_id}-gear.csv")


def _inventory_csv(document: str) -> bytes:
    found = opened(document)
    return inventory_csv(inventory(found.plan, found.run)).encode()
