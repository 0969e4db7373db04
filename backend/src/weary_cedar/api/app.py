"""The application: routes, guard, errors and the built screens."""

from pathlib import Path
from typing import Any

from fastapi import FastAPI, HTTPException
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from sqlalchemy import Engine

from weary_cedar import __version__
from weary_cedar.api import (
    breakers,
    decisions,
    drill,
    errors,
    gear,
    heaters,
    house,
    log,
    log_answers,
    log_files,
    log_following,
    measure,
    needs,
    networks,
    panels,
    plans,
    runbook,
    schedules,
    strip,
    sums,
    variants,
    weather,
)
from weary_cedar.api.alarms import Reach
from weary_cedar.api.desk import Desk
from weary_cedar.api.guard import Guard
from weary_cedar.api.lanes import Lanes
from weary_cedar.api.memory import Memory
from weary_cedar.core.plan import Plan
from weary_cedar.core.record import Record
from weary_cedar.store.plans import PlanStore

STATIC = Path(__file__).parent / "static"
#: Files that browsers ask for at the root: the icon, and the worker that keeps the screens when the server
#: is away.
AT_ROOT = ("icon.svg", "worker.js")


#: Everything that the API answers, by subject.
ROUTES = (
    plans, needs, measure, heaters, house, gear, panels, breakers, runbook, schedules, strip, sums, variants,
    weather, decisions, drill, log, log_answers, log_files, log_following, networks,
)  # fmt: skip


def make_app(
    engine: Engine | None = None,
    lanes: Lanes | None = None,
    memory: Memory | None = None,
    reach: Reach | None = None,
) -> FastAPI:
    """Build the application on a database; without one only its description is of use."""
    app = FastAPI(
        title="Weary Cedar",
        version=__version__,
        summary="How portable power stations carry a house through an outage.",
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    if engine is not None:
        app.state.desk = Desk(PlanStore(engine), lanes or Lanes(), memory, reach)
    errors.install(app)
    for part in ROUTES:
        app.include_router(part.router)
    _serve_screens(app)
    app.add_middleware(Guard)
    build = app.openapi

    def described() -> dict[str, Any]:
        if app.openapi_schema is None:
            build()
            assert app.openapi_schema is not None
            _add_plan_schema(app.openapi_schema)
        return app.openapi_schema or {}

    app.openapi = described  # type: ignore[method-assign]
    return app


def _add_plan_schema(description: dict[str, Any]) -> None:
    """Bodies that are read by hand refer to the plan's input schema."""
    schemas = description["components"]["schemas"]
    for body in (Plan, heaters.HeaterQuestion, Record):
        own = body.model_json_schema(ref_template="#/components/schemas/{model}")
        for name, schema in own.pop("$defs", {}).items():
            schemas.setdefault(name, schema)
        schemas.setdefault(body.__name__, own)


def _serve_screens(app: FastAPI) -> None:
    if (STATIC / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=STATIC / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def screen(path: str) -> FileResponse:
        if path.startswith("api/"):
            raise HTTPException(404, f"There is no /{path} here.")
        if path in AT_ROOT and (STATIC / path).is_file():
            return FileResponse(STATIC / path, headers={"Cache-Control": "no-cache"})
        index = STATIC / "index.html"
        if not index.is_file():
            raise HTTPException(404, "The screens are not built; run make setup.")
        return FileResponse(index, headers={"Cache-Control": "no-cache"})


def describe() -> dict[str, Any]:
    """OpenAPI description, without a database."""
    return make_app().openapi()
