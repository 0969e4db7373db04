"""Lists and results as CSV: needs go out and come back in, results are as the command line writes them."""

import csv
import io
import zipfile
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from weary_cedar.core.decide.how_sure import judged
from weary_cedar.core.decide.needs import need_list
from weary_cedar.core.inventory import inventory
from weary_cedar.core.plan import Cycling, Steady
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.formats.list_csv import inventory_csv, needs_csv, needs_spreadsheet
from weary_cedar.formats.need_lines import read_need_lines, text_of_table
from weary_cedar.formats.series_csv import write_series, zipped_series


@pytest.mark.parametrize("name", DEMOS)
def test_needs_go_out_and_come_back(name: str) -> None:
    plan = demo_plan(name)
    found = need_list(plan)
    again = read_need_lines(needs_csv(plan, found))
    assert read_need_lines(text_of_table(needs_spreadsheet(plan, found))) == again
    assert [need.name for need in again] == [need.name for need in found.needs]
    for need, line in zip(found.needs, again, strict=True):
        use = line.behaviour
        wh = 24 * use.watts if isinstance(use, Steady) else 24 * use.on_w * use.duty
        assert isinstance(use, Steady | Cycling)
        assert wh == pytest.approx(need.wh_day, rel=1e-6)
        assert line.origin == need.origin
        spaces = plan.circuits[need.circuit_id].spaces if need.circuit_id else ()
        assert line.breaker.rstrip("ab") == (str(spaces[0]) if spaces else "")
        assert (line.start.va if line.start else None) == pytest.approx(need.start_va)


def test_a_line_says_its_breaker() -> None:
    found = read_need_lines("saw 900 W on breaker 14\nlamp 10 W on 9a (measured)\nfan on high 50 W\n")
    assert [(need.name, need.breaker, need.origin) for need in found] == [
        ("saw", "14", ""), ("lamp", "9a", "measured"), ("fan on high", "", ""),
    ]  # fmt: skip


def test_what_is_owned_as_csv() -> None:
    plan = demo_plan()
    found = inventory(plan, judged(plan))
    rows = list(csv.DictReader(io.StringIO(inventory_csv(found))))
    assert [row["name"] for row in rows] == [item.name for item in found.items]
    assert {row["kind"] for row in rows} >= {"stations", "generators", "arrays"}


def test_results_are_the_files_of_the_command_line(tmp_path: Path, client: TestClient) -> None:
    result = judged(demo_plan())
    files = {file.name: file.read_bytes() for file in write_series(result, tmp_path)}
    archive = zipfile.ZipFile(io.BytesIO(zipped_series(result)))
    assert {name: archive.read(name) for name in archive.namelist()} == files
    assert zipped_series(result) == zipped_series(result)
    sent = client.get("/api/plans/foothill-house/results.zip")
    assert sent.headers["content-type"] == "application/zip"
    assert set(zipfile.ZipFile(io.BytesIO(sent.content)).namelist()) == set(files)
    for path, first in (("needs.csv", "name,"), ("inventory.csv", "kind,"), ("breakers.csv", "id,")):
        answer = client.get(f"/api/plans/foothill-house/{path}")
        assert answer.text.startswith(first)
        assert "attachment" in answer.headers["content-disposition"]
