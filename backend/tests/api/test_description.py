"""The API against its own description, with made-up and hostile requests (Schemathesis)."""

import tempfile
from pathlib import Path
from typing import Any

import schemathesis
from hypothesis import HealthCheck, settings
from schemathesis import Case
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)
from schemathesis.specs.openapi.schemas import OpenApiSchema

from weary_cedar.api.app import make_app
from weary_cedar.core.outage.run import first_part
from weary_cedar.demo import demo_plan
from weary_cedar.store.database import DataFolder
from weary_cedar.store.plans import PlanStore

KEPT = tempfile.TemporaryDirectory()
ENGINE = DataFolder(Path(KEPT.name)).open()
#: A short outage: what is asked of it is how it answers, not how long it lasts.
PlanStore(ENGINE).create(first_part(demo_plan(), 6 * 3600.0))
schema = schemathesis.openapi.from_asgi("/api/openapi.json", make_app(ENGINE), headers={"Host": "127.0.0.1"})


#: What takes a whole plan in: plans made up from their schema are tried by `fuzz`; here any object is.
WHOLE_PLANS = ["/api/run", "/api/check"]


def any_object() -> OpenApiSchema:
    """The same description with any object as the body of these."""
    app = make_app(ENGINE)
    for path in WHOLE_PLANS:
        content = app.openapi()["paths"][path]["post"]["requestBody"]["content"]
        content["application/json"]["schema"] = {"type": "object"}
    return schemathesis.openapi.from_asgi("/api/openapi.json", app, headers={"Host": "127.0.0.1"})


CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]


@schema.exclude(path=WHOLE_PLANS).parametrize()
@settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck))
def test_no_undocumented_answer(case: Case[Any]) -> None:
    case.headers["Host"] = "127.0.0.1"
    case.call_and_validate(checks=CHECKS)


@any_object().include(path=WHOLE_PLANS).parametrize()
@settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck))
def test_no_undocumented_answer_to_a_whole_plan(case: Case[Any]) -> None:
    case.headers["Host"] = "127.0.0.1"
    case.call_and_validate(checks=CHECKS)


def test_every_body_has_an_example() -> None:
    for path, methods in make_app(ENGINE).openapi()["paths"].items():
        for method, operation in methods.items():
            content = operation.get("requestBody", {}).get("content", {})
            for kind, media in content.items():
                shown = "example" in media or "examples" in media or "$ref" in media.get("schema", {})
                assert shown, (method, path, kind)
