"""Edits of several people in any order: whatever is stored opens, and undo leads back to what was there."""

import json
import tempfile
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient
from fuzz.plans import DOCUMENTS, SCHEMA, ids_of, places, put, value_of
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import (
    RuleBasedStateMachine,
    initialize,
    invariant,
    precondition,
    rule,
    run_state_machine_as_test,
)

from weary_cedar.api.app import make_app
from weary_cedar.api.lanes import Lanes
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.merge import make_patch
from weary_cedar.store.database import DataFolder

SHEETS = ("run", "needs", "paths", "survey", "inventory", "history", "file", "compare?option=nothing")


@st.composite
def strange_edits(draw: st.DrawFn) -> tuple[tuple[Any, ...], Any]:
    """A place of the hut, and what to put there."""
    document = DOCUMENTS["hut"]
    found = sorted(places(SCHEMA, document), key=lambda place: str(place[0]))
    path, schema, _ = draw(st.sampled_from(found))
    return path, value_of(draw, schema, ids_of(document))


class People(RuleBasedStateMachine):
    """Two people with the same plan; one of them may look at an old revision."""

    lanes: Lanes

    def __init__(self) -> None:
        super().__init__()
        self.folder = tempfile.TemporaryDirectory()
        self.data = DataFolder(Path(self.folder.name))
        app = make_app(self.data.open(), self.lanes)
        self.client = TestClient(app, base_url="http://127.0.0.1", raise_server_exceptions=False)
        self.client.__enter__()
        self.views: dict[int, Any] = {}

    def teardown(self) -> None:
        self.client.__exit__(None, None, None)
        self.data.close()
        self.folder.cleanup()

    def ask(self, method: str, path: str = "", base: int | None = None, **more: Any) -> Any:
        headers = {} if base is None else {"If-Match": f'"{base}"'}
        answer = self.client.request(method, f"/api/plans/the-hut{path}", headers=headers, **more)
        assert answer.status_code < 500, answer.text
        if answer.status_code >= 400:
            assert answer.json()["detail"]
        elif method != "GET":
            self.views[answer.json()["revision"]] = answer.json()["plan"]
        return answer

    @initialize()
    def begin(self) -> None:
        document = {**DOCUMENTS["hut"], "name": "The hut"}
        made = self.client.post("/api/plans/import", files={"file": ("p.json", json.dumps(document))})
        self.views = {1: made.json()["plan"]}

    @property
    def head(self) -> int:
        return max(self.views)

    @rule(edit=strange_edits(), back=st.integers(0, 3))
    def edit(self, edit: tuple[tuple[Any, ...], Any], back: int) -> None:
        base = max(1, self.head - back)
        before = self.views[base]
        try:
            after = put(before, *edit)
        except (KeyError, IndexError, TypeError):
            return
        self.ask("PATCH", base=base, json=make_patch(before, after))

    @rule(way=st.sampled_from(["undo", "redo"]))
    def step(self, way: str) -> None:
        self.ask("POST", f"/{way}", base=self.head)

    @precondition(lambda self: self.head > 1)
    @rule(chosen=st.integers(1, 50))
    def restore(self, chosen: int) -> None:
        number = chosen % self.head + 1
        answer = self.ask("POST", f"/revisions/{number}/restore", base=self.head)
        assert answer.status_code == 200
        assert answer.json()["plan"] == self.views[number]

    @rule(sheet=st.sampled_from(SHEETS))
    def look(self, sheet: str) -> None:
        self.ask("GET", f"/{sheet}")

    @invariant()
    def what_is_stored_opens(self) -> None:
        view = self.ask("GET").json()
        assert view["revision"] == self.head
        assert view["failed"] == []
        assert view["plan"] == self.views[self.head]
        read_plan(self.client.get("/api/plans/the-hut/file").content)


def test_edits_in_any_order(lanes: Lanes) -> None:
    People.lanes = lanes
    run_state_machine_as_test(People, settings=settings(max_examples=12, stateful_step_count=15))
