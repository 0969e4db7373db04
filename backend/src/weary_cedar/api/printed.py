"""Papers of a plan as they are sent: with the revision that is printed, and the day."""

from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any
from zoneinfo import ZoneInfo

from fastapi import Response

from weary_cedar.api.desk import Desk
from weary_cedar.api.errors import documented
from weary_cedar.formats.paper import Edition
from weary_cedar.workshop.derivation import plan_of

#: A spreadsheet, Office Open XML.
SPREADSHEET = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def a_file(kind: str) -> dict[int | str, dict[str, Any]]:
    """OpenAPI description of a file of a kind."""
    schema = {"type": "string"} if kind.startswith("text/") else {"type": "string", "format": "binary"}
    return {200: {"content": {kind: {"schema": schema}}, "description": "A file"}, **documented(404, 422)}


def attached(content: Response, kind: str, name: str) -> Response:
    """An answer as a file of a kind."""
    content.headers["Content-Type"] = kind
    content.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return content


def printed(
    desk: Desk,
    plan_id: str,
    name: str,
    job: Callable[..., bytes],
    *given: Any,
    code: str = "",
    kind: str = "application/pdf",
) -> Response:
    """What a job prints of a plan as it stands, as a file.

    Args:
        desk: where plans are opened.
        plan_id: the plan.
        name: of the file.
        job: is given the document, the edition, and what else is given.
        given: whatever it needs.
        code: what the code on paper says.
        kind: of the file.
    """
    stored = desk.store.get(plan_id)
    edition = Edition(stored.revision, None, code)
    answer = desk.answer_from(plan_id, _on_the_day, stored.document, edition, job, *given)
    return attached(answer, kind, name)


def _on_the_day(document: str, edition: Edition, job: Callable[..., bytes], *given: Any) -> bytes:
    """Print with the day as the site has it."""
    zone = ZoneInfo(plan_of(document).site.time_zone)
    dated = Edition(edition.revision, datetime.now(UTC).astimezone(zone).date(), edition.code)
    return job(document, dated, *given)
