"""What was done at the panel: taken in from pages and pocket files, each row once; and the papers."""

import io
import json
import re
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import pytest
from command_line import cedar
from fastapi.testclient import TestClient
from pypdf import PdfReader

from weary_cedar.demo import demo_plan

AT = "/api/plans/foothill-house"


def row(key: str = "row-0001", **more: Any) -> dict[str, Any]:
    own = {"id": key, "at": "2026-11-27T03:10:00Z", "sheet": "change-over/inlet", "revision": 1, "step": 4}
    return {**own, "action": "Turn the main of Main panel off", **more}


def record(*rows: dict[str, Any], plan_id: str = "foothill-house") -> dict[str, Any]:
    return {"record": 1, "plan_id": plan_id, "rows": list(rows)}


def test_the_same_row_twice_counts_once(client: TestClient) -> None:
    late = row("row-0002", at="2026-11-27T02:00:00-08:00", read={"leg A to neutral": "120,5"})
    first = client.post(f"{AT}/record", json=record(row(), late, row()))
    assert (first.status_code, first.json()["taken"]) == (200, 2)
    again = client.post(f"{AT}/record", json=record(late, row("row-0003", kind="undone", undoes="row-0001")))
    assert again.json()["taken"] == 1
    rows = client.get(f"{AT}/record").json()["rows"]
    # by the time of the act, wherever the clock stands
    assert [item["id"] for item in rows] == ["row-0001", "row-0003", "row-0002"]
    assert rows[2]["read"] == {"leg A to neutral": "120,5"}
    assert all(item["entered_at"] > "2026" for item in rows)


@pytest.mark.parametrize(
    ("sent", "field", "right"),
    [
        (record(row(), plan_id="other"), "/plan_id", "a record of this plan, foothill-house"),
        (record(row(step=0)), "/rows/0/step", "1 or more"),
        (
            record(row(at="2026-11-27T03:10:00")),
            "/rows/0/at",
            "should say its offset, such as 2026-11-27T03:10:00Z",
        ),
        (record(row(at="1826-11-27T03:10:00Z")), "/rows/0/at", "from 2000 to 2200"),
        (record(row("no")), "/rows/0/id", "8 to 64 letters, digits and hyphens"),
        (record(row(kind="maybe")), "/rows/0/kind", "done"),
        ({**record(row()), "record": 2}, "/record", "1"),
    ],
)
def test_what_is_no_record_is_named_and_nothing_is_taken(
    client: TestClient, sent: dict[str, Any], field: str, right: str
) -> None:
    answer = client.post(f"{AT}/record", json=sent)
    assert answer.status_code == 422
    (problem,) = answer.json()["problems"]
    assert problem["field"] == field
    assert right in problem["right"]
    assert client.get(f"{AT}/record").json()["rows"] == []


def test_what_was_sent_comes_back_and_no_more(client: TestClient) -> None:
    """However much is known already: a row costs at the end what it costs at the beginning."""
    many = [row(f"row-{number:05d}") for number in range(1_200)]
    assert client.post(f"{AT}/record", json=record(*many)).json()["taken"] == 1_200
    answer = client.post(f"{AT}/record", json=record(many[7], row("row-99999"))).json()
    assert answer["taken"] == 1
    assert [kept["id"] for kept in answer["rows"]] == ["row-00007", "row-99999"]
    assert len(client.get(f"{AT}/record").json()["rows"]) == 1_201


def test_a_row_that_is_wrong_stands_in_no_others_way(client: TestClient) -> None:
    wrong = row("row-0002", read={"volts": "1" * 41})
    sent = record(row(), wrong, row("row-0003", step=0), {"id": 7}, row("row-0004"))
    answer = client.post(f"{AT}/record", json=sent)
    assert (answer.status_code, answer.json()["taken"]) == (200, 2)
    assert [kept["id"] for kept in client.get(f"{AT}/record").json()["rows"]] == ["row-0001", "row-0004"]
    refused = answer.json()["refused"]
    assert [(item["index"], item["id"]) for item in refused] == [(1, "row-0002"), (2, "row-0003"), (3, "")]
    assert refused[0]["problems"][0]["field"] == "/rows/1/read/volts"
    assert "40" in refused[0]["problems"][0]["right"]
    assert refused[1]["problems"] == [{"field": "/rows/2/step", "value": "0", "right": "should be 1 or more"}]
    mended = client.post(f"{AT}/record", json=record(row("row-0003")))
    assert (mended.json()["taken"], mended.json()["refused"]) == (1, [])


def test_the_same_id_with_other_words_is_said(client: TestClient) -> None:
    client.post(f"{AT}/record", json=record(row()))
    sent = record(
        row("row-0002"), row(step=9), row(), row("row-0002", action="Other"), row("row-0003", step=0)
    )
    answer = client.post(f"{AT}/record", json=sent).json()
    assert answer["taken"] == 1
    assert [(item["index"], item["id"]) for item in answer["refused"]] == [
        (1, "row-0001"), (3, "row-0002"), (4, "row-0003")]  # fmt: skip
    assert "another row here has it" in answer["refused"][0]["problems"][0]["right"]
    kept = client.get(f"{AT}/record").json()["rows"]
    assert [item["step"] for item in kept] == [4, 4]


@pytest.mark.parametrize("half", ["\\ud83c", "\\udf32", "\\ud83c\\ud83c\\udf32"])
def test_half_a_character_loses_no_row(client: TestClient, half: str) -> None:
    text = json.dumps(record(row(action="MARK"), row("row-0002"))).replace("MARK", f"a{half}z")
    answer = client.post(f"{AT}/record", content=text, headers={"Content-Type": "application/json"})
    assert answer.json()["taken"] == 2
    (first, _) = client.get(f"{AT}/record").json()["rows"]
    assert first["action"].startswith("a�")
    assert first["action"].endswith("z")
    whole = json.dumps(record(row("row-0003", action="a\U0001f332z")))
    client.post(f"{AT}/record", content=whole, headers={"Content-Type": "application/json"})
    assert client.get(f"{AT}/record").json()["rows"][2]["action"] == "a\U0001f332z"


def test_ten_thousand_rows_are_taken_in_at_once(client: TestClient) -> None:
    many = [row(f"row-{number:06d}") for number in range(10_000)]
    assert client.post(f"{AT}/record", json=record(*many)).json()["taken"] == 10_000


def test_a_record_needs_its_plan_and_json(client: TestClient) -> None:
    assert client.post("/api/plans/none/record", json=record(plan_id="none")).status_code == 404
    assert client.post(f"{AT}/record", content=b"ticks").status_code == 400


def held(page: str) -> dict[str, Any]:
    found = re.search(r'<script type="application/json" id="pocket">(.*?)</script>', page, re.DOTALL)
    assert found
    data: dict[str, Any] = json.loads(found[1])
    return data


def test_the_pocket_file_needs_nothing_from_elsewhere(client: TestClient) -> None:
    sheets = client.get(f"{AT}/sheets").json()["sheets"]
    hostile = {"name": "House </script><script>alert(1)</script>"}
    client.patch(AT, json=hostile, headers={"If-Match": '"1"'})
    answer = client.get(f"{AT}/pocket.html")
    assert answer.headers["content-disposition"] == 'attachment; filename="foothill-house-pocket.html"'
    page = answer.text
    assert "alert(1)</script>" not in page
    assert not re.search(r'(src|href)="?(https?:)?//', page)
    assert "connect-src" not in page
    assert "default-src 'none'" in page
    data = held(page)
    assert (data["plan_id"], data["revision"], data["name"]) == ("foothill-house", 2, hostile["name"])
    assert data["sheets"] == sheets


def words_of(content: bytes) -> str:
    return " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(content)).pages).split())


def test_every_page_says_revision_day_and_that_it_is_no_approval(client: TestClient) -> None:
    for name in ("sheets.pdf", "signs.pdf", "one-line.pdf", "bundle.pdf", "panels/main/labels.pdf"):
        answer = client.get(f"{AT}/{name}")
        assert answer.headers["content-type"] == "application/pdf", name
        for page in PdfReader(io.BytesIO(answer.content)).pages:
            assert re.search(
                r"revision 1, printed 20\d\d-\d\d-\d\d\. A planning aid, no approval", page.extract_text()
            )
    assert "No code: the app answers on its own machine only" in words_of(
        client.get(f"{AT}/sheets.pdf").content
    )


def test_the_bundle_has_all_of_it(client: TestClient) -> None:
    words = words_of(client.get(f"{AT}/bundle.pdf").content)
    view = client.get(AT).json()
    wanted = [
        view["verdict"]["sentence"], "Needs, and the basis of loads", "702.4(B)(1)",
        "Main panel: panel schedule",
        "6 kW station", "One-line diagram", "AWG 10 copper", "interlocked with the main",
        "FOR CONNECTION OF A NONSEPARATELY DERIVED (FLOATING NEUTRAL) SYSTEM ONLY",
        "Change over: 6 kW station to Main panel", "Something is wrong", "Test record", "L1 to L2", "Licence",
        "What a licensed electrician does", "What the authority will ask for", "Citations are from memory",
        *(finding["title"] for finding in view["findings"]),
        *(load["name"] for load in view["plan"]["loads"].values()),
    ]  # fmt: skip
    for item in wanted:
        assert " ".join(item.split()) in words, item


def test_the_one_line_as_svg_has_its_words(client: TestClient) -> None:
    answer = client.get(f"{AT}/one-line.svg")
    assert answer.headers["content-type"].startswith("image/svg+xml")
    text = " ".join(ElementTree.fromstring(answer.text).itertext())
    for item in (
        "6,000 VA",
        "Outlet L14-30",
        "30 A cord",
        "2-pole 30 A",
        "main 2-pole 150 A",
        "interlock: only one",
    ):
        assert item in text, item


def test_papers_and_the_pocket_file_without_a_browser(tmp_path: Path) -> None:
    plan = tmp_path / "plan.json"
    plan.write_text(demo_plan().model_dump_json(exclude_none=True))
    pocket = tmp_path / "pocket.html"
    assert cedar("sheets", str(plan), "--pocket", str(pocket)).returncode == 0
    assert held(pocket.read_text())["plan_id"] == "foothill-house"
    for what, file, begins in (
        ("bundle", "b.pdf", b"%PDF"), ("signs", "s.pdf", b"%PDF"), ("one-line", "o.svg", b"<?xml")
    ):  # fmt: skip
        assert cedar("print", str(plan), what, str(tmp_path / file)).returncode == 0
        assert (tmp_path / file).read_bytes().startswith(begins)
    wrong = cedar("print", str(plan), "poster", str(tmp_path / "p.pdf"))
    assert (wrong.returncode, "got poster; should be bundle, one-line or signs" in wrong.stderr) == (2, True)
    document = json.loads(plan.read_text())
    document["feeds"]["inlet"]["neutral_switched"] = "yes"
    plan.write_text(json.dumps(document))
    stopped = cedar("print", str(plan), "bundle", str(tmp_path / "b.pdf"))
    assert stopped.returncode == 1
    assert "STOP, do not energise: No fault path" in stopped.stderr
    assert "STOP, do not energise: No fault path" in words_of((tmp_path / "b.pdf").read_bytes())
