"""One place that maps the error tree to HTTP problem details (RFC 9457)."""

from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from weary_cedar.api.lanes import Left
from weary_cedar.core.errors import (
    Busy,
    CannotOpen,
    CannotRead,
    CannotStore,
    EditConflict,
    InvalidInput,
    NotFound,
    NothingToUndo,
    NotReadable,
    Problem,
    RevisionMissing,
    WearyCedarError,
    shown,
)
from weary_cedar.core.plan.said import said

MEDIA_TYPE = "application/problem+json"
#: So many things that are wrong are told at once.
MOST_TOLD = 200

STATUS: dict[type[WearyCedarError], int] = {
    NotReadable: 400,
    NotFound: 404,
    NothingToUndo: 409,
    EditConflict: 412,
    InvalidInput: 422,
    RevisionMissing: 428,
    Busy: 503,
    CannotRead: 503,
    CannotStore: 507,
}


class FieldProblem(BaseModel):
    """Where, what was given, what would be right."""

    field: str
    value: str
    right: str


class Clash(BaseModel):
    """One place that two people changed: what it was, what each made of it."""

    field: str
    base: Any = None
    theirs: Any = None
    yours: Any = None


class StoredState(BaseModel):
    """Where a plan that cannot be opened stands: enough to undo, to look at its history, to export it."""

    id: str
    name: str
    revision: int
    can_undo: bool
    can_redo: bool


class ProblemDetails(BaseModel):
    """RFC 9457 problem details, with the fields concerned."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    problems: list[FieldProblem] = []
    revision: int | None = None
    clashes: list[Clash] | None = None
    stored: StoredState | None = None
    fault: str | None = None


def problem_response(
    status: int, title: str, detail: str, problems: tuple[Problem, ...] = (), **more: Any
) -> JSONResponse:
    """An answer of media type application/problem+json."""
    fields = [
        FieldProblem(field=whole(p.field), value=whole(p.value), right=whole(p.right))
        for p in problems[:MOST_TOLD]
    ]
    body = ProblemDetails(title=title, status=status, detail=whole(detail), problems=fields, **more)
    return JSONResponse(body.model_dump(exclude_none=True), status, media_type=MEDIA_TYPE)


def whole(text: str) -> str:
    """Text that can be sent: half characters (lone surrogates) become question marks."""
    return text.encode("utf-8", "replace").decode()


def documented(*statuses: int) -> dict[int | str, dict[str, Any]]:
    """OpenAPI descriptions of the problem answers that a route may give."""
    return {
        status: {"model": ProblemDetails, "content": {MEDIA_TYPE: {}}, "description": DESCRIPTIONS[status]}
        for status in sorted({400, 403, 421, 503, *statuses})
    }


DESCRIPTIONS = {
    400: "Not readable",
    403: "Refused: the write comes from another site",
    404: "No such plan or revision",
    409: "Nothing to undo or redo",
    412: "Someone else changed the same thing",
    413: "Too large",
    415: "Not of the kind it should be",
    421: "Refused: this server answers only on this machine",
    422: "Something is wrong in it; every field is named",
    428: "If-Match is missing",
    503: "Busy just now, or the database cannot be read; ask again",
    507: "It could not be saved",
}


def status_of(error: WearyCedarError) -> int:
    """HTTP status of an error of the tree: that of its nearest mapped class."""
    return next(STATUS[kind] for kind in type(error).__mro__ if kind in STATUS)


def install(app: FastAPI) -> None:
    """Register the mapping."""

    @app.exception_handler(WearyCedarError)
    def _known(_request: Request, error: WearyCedarError) -> JSONResponse:
        more: dict[str, Any] = {}
        if isinstance(error, EditConflict):
            more = {"revision": error.revision, "clashes": error.clashes}
        elif isinstance(error, CannotOpen):
            more = {"stored": {key: error.stored.get(key) for key in StoredState.model_fields}}
        answer = problem_response(status_of(error), error.title, error.detail, error.problems, **more)
        if answer.status_code == 503:
            answer.headers["Retry-After"] = "2"
        return answer

    @app.exception_handler(Left)
    def _left(_request: Request, _error: Left) -> JSONResponse:
        return problem_response(503, "Nobody waits", "The one who asked has left; nothing was changed.")

    @app.exception_handler(RequestValidationError)
    def _parameters(_request: Request, error: RequestValidationError) -> JSONResponse:
        problems = tuple(
            Problem("/" + "/".join(str(part) for part in item["loc"]), shown(item.get("input")), said(item))
            for item in error.errors()
        )
        unreadable = any(item["type"] == "json_invalid" for item in error.errors())
        return problem_response(
            400 if unreadable else 422, "The request has something wrong in it", str(problems[0]), problems
        )

    @app.exception_handler(HTTPException)
    def _http(_request: Request, error: HTTPException) -> JSONResponse:
        answer = problem_response(error.status_code, "The request was refused", str(error.detail))
        answer.headers.update(error.headers or {})
        return answer
