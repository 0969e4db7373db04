"""The sheets over the API, on paper, and from the command line."""

import io
import json
from datetime import date
from pathlib import Path

import pytest
from command_line import cedar
from fastapi.testclient import TestClient
from pypdf import PdfReader

from weary_cedar.core.checks import findings_of
from weary_cedar.core.runbook.sheet import CAUTIONS, folded, told, told_answer, told_wait
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.demo import demo_plan
from weary_cedar.formats.paper import Edition
from weary_cedar.formats.sheets_pdf import sheets_pdf

AT = "/api/plans/foothill-house"


def read(content: bytes) -> str:
    return " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(content)).pages).split())


@pytest.fixture
def plan_file(tmp_path: Path) -> Path:
    file = tmp_path / "plan.json"
    file.write_text(demo_plan().model_dump_json(exclude_none=True))
    return file


def test_sheets_over_the_api_are_those_of_the_core(client: TestClient) -> None:
    found = client.get(f"{AT}/sheets").json()
    plan = demo_plan()
    assert found["sheets"] == [sheet.model_dump(mode="json") for sheet in sheets_of(plan, findings_of(plan))]
    assert found["cautions"] == list(CAUTIONS)
    revision = client.get(AT).headers["etag"]
    feed = {"feeds": {"inlet": {"kind": "receptacle_backfeed", "breaker_spaces": []}}}
    client.patch(AT, json=feed, headers={"If-Match": revision})
    assert {sheet["kind"] for sheet in client.get(f"{AT}/sheets").json()["sheets"]} == {
        "charge",
        "end_charge",
        "find_out",
        "sun",
        "make_safe",
    }


def test_paper_has_every_step_and_every_caution(client: TestClient) -> None:
    plan = demo_plan()
    for sheet in sheets_of(plan, findings_of(plan)):
        answer = client.get(f"{AT}/sheets.pdf", params={"sheet": sheet.key})
        assert answer.headers["content-type"] == "application/pdf"
        words = read(answer.content)
        people = [words for first in sheet.first for words in (first.when, *first.do)]
        alone = [together[0] for _, together in folded(sheet.steps) if len(together) == 1]
        actions = [step.action for step in alone]
        actions += [f"{step.line}{told_wait(step)}" for step in sheet.steps if step.line]
        actions += [told_answer(answer) for step in sheet.steps for answer in step.answers]
        beside = [*sheet.cautions, *sheet.notes, *sheet.stay_off, *sheet.leave_off, *sheet.next]
        lines = " ".join(" ".join(told(sheet)).split())
        for wanted in [sheet.title, plan.name, *actions, *beside, *people]:
            assert " ".join(wanted.split()) in words, wanted
            assert wanted == plan.name or " ".join(wanted.split()) in lines, wanted
        assert "This is no approval" in words
        assert words.count("read: ___") == sum(len(step.readings) for step in alone)
    whole = client.get(f"{AT}/sheets.pdf").content
    assert len(PdfReader(io.BytesIO(whole)).pages) >= len(sheets_of(plan, []))
    assert client.get(f"{AT}/sheets.pdf", params={"sheet": "none"}).status_code == 404


def test_a_sheet_that_is_held_back_says_so_on_paper() -> None:
    plan = demo_plan()
    held = sheets_of(plan, [])[0].model_copy(update={"held_by": ["No fault path: here"], "steps": []})
    words = read(
        sheets_pdf(plan, [held.model_copy(update={"stay_off": ["Range"]})], Edition(7, date(2026, 11, 27)))
    )
    assert "HELD BACK, do not energise: No fault path: here" in words
    assert "STAYS OFF, there is no room for it: Range" in words


def test_sheets_from_the_command_line(plan_file: Path, tmp_path: Path) -> None:
    words = cedar("sheets", str(plan_file), "--sheet", "change-over/inlet")
    assert words.returncode == 0
    assert words.stdout.startswith("Change over: 6 kW station to Main panel (change-over/inlet)\n  Caution: ")
    assert "\n  Note: " in words.stdout
    assert "\n  1. Turn off cookers" in words.stdout
    assert "leg to leg: 228 to 252 V" in words.stdout
    listed = json.loads(cedar("sheets", str(plan_file), "--json").stdout)
    assert "make-safe/inlet" in [sheet["key"] for sheet in listed]
    assert cedar("sheets", str(plan_file), "--pdf", str(tmp_path / "s.pdf")).returncode == 0
    assert (tmp_path / "s.pdf").read_bytes().startswith(b"%PDF")
    wrong = cedar("sheets", str(plan_file), "--sheet", "none")
    assert wrong.returncode == 2
    assert "--sheet: got none; should be one of change-over/inlet" in wrong.stderr
    document = json.loads(plan_file.read_text())
    document["stations"]["station"]["neutral"] = "unknown"
    plan_file.write_text(json.dumps(document))
    held = cedar("sheets", str(plan_file), "--sheet", "change-over/inlet")
    assert held.returncode == 1
    assert "Held back, do not energise: Not known: how the neutral of 6 kW station is tied" in held.stdout
    assert cedar("sheets", str(plan_file), "--sheet", "make-safe/inlet").returncode == 0


def test_an_order_is_judged_from_the_command_line(plan_file: Path, tmp_path: Path) -> None:
    steps = tmp_path / "steps.json"
    steps.write_text(json.dumps({"acts": [{"what": "feed_breaker/inlet", "to": "on"}]}))
    found = cedar("replay", str(plan_file), str(steps))
    assert found.returncode == 1
    assert found.stdout.startswith("Act 1, feed breaker of feed of Main panel: on: impossible. The interlock")
    answer = json.loads(cedar("replay", str(plan_file), str(steps), "--json").stdout)
    assert (answer["safe"], answer["step"], answer["code"]) == (False, 1, "interlock_feed")
    over = json.loads(cedar("sheets", str(plan_file), "--sheet", "change-over/inlet", "--json").stdout)[0]
    steps.write_text(json.dumps({"acts": [act for step in over["steps"] for act in step["acts"]]}))
    safe = cedar("replay", str(plan_file), str(steps))
    assert (safe.returncode, safe.stderr) == (0, "")
    assert safe.stdout.startswith("Safe: ")
    states = json.loads(cedar("replay", str(plan_file), str(steps), "--json").stdout)["states"]
    assert {"step", "what", "to", "at_s", "giving", "live", "utility", "bonds"} == set(states[-1])
    assert list(states[-1]["bonds"].values()) == [["house"]]
    steps.write_text('{"acts": [{"what": "breaker/none", "to": "on"}]}')
    wrong = cedar("replay", str(plan_file), str(steps))
    assert wrong.returncode == 2
    assert "/acts/0/what: got breaker/none; an element of this plan" in wrong.stderr
    assert set(json.loads(cedar("schema", "--steps").stdout)["properties"]) == {"begins", "acts"}
