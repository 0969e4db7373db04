"""Papers: names in any script, drawings that stay well-formed, and one word for what stays on."""

import io
import unicodedata
from datetime import date
from typing import Any
from xml.etree import ElementTree

import pytest
from builders import Json
from check_plans import merged
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader
from reportlab.pdfbase.pdfmetrics import getFont
from uharfbuzz import Blob, Buffer, Face, Font, shape
from whole_houses import HOUSE, SUB, UNIT

from weary_cedar.core.checks import findings_of
from weary_cedar.core.checks.editions import clauses
from weary_cedar.core.network.ways import network_of
from weary_cedar.core.one_line import one_line
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.core.runbook.staying_on import staying_on
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.formats.bundle_pdf import bundle_pdf
from weary_cedar.formats.faces import (
    BOLD,
    FOLDER,
    OTHERS,
    OWN,
    PLAIN,
    Run,
    cuts,
    fit,
    in_lines,
    run_width,
    runs,
    shaped,
    width_of,
)  # fmt: skip
from weary_cedar.formats.one_line_drawing import one_line_pdf, one_line_svg
from weary_cedar.formats.panel_pdf import WORDS, labels_pdf, schedule_pdf
from weary_cedar.formats.paper import Edition
from weary_cedar.formats.sheets_pdf import sheets_pdf

EDITION = Edition(7, date(2026, 11, 27))
#: A kitchen, in scripts that people write.
NAMES = {
    "Polish": "Łazienka i kuchnia", "Greek": "Κουζίνα", "Russian": "Кухня", "Chinese": "厨房和客厅",
    "Japanese": "台所とリビング", "Korean": "부엌", "Thai": "ห้องครัว", "Hindi": "रसोई", "Tamil": "சமையலறை",
    "Nepali": "भान्सा क्षेत्र", "Bengali": "রান্নাঘর", "Telugu": "వంటగది స్త్రీ", "Sinhala": "මුළුතැන්ගෙය",
    "Odia": "ରୋଷେଇ ଘର", "Burmese": "မီးဖိုချောင်", "Khmer": "ផ្ទះបាយ", "Lao": "ເຮືອນຄົວ", "Tibetan": "ཐབ་ཚང",
    "Mongolian": "ᠭᠠᠯ", "Javanese": "ꦥꦮꦺꦴꦤ", "Inuktitut": "ᐃᒐᕐᕕᒃ", "Cherokee": "ᎠᏓᏍᏓ", "Berber": "ⴰⵏⵡⴰⵍ",
    "Amharic": "ወጥቤት", "Georgian": "სამზარეულო", "Armenian": "Խոհանոց", "Vietnamese": "Nhà bếp",
}  # fmt: skip


def words_of(pdf: bytes) -> str:
    return " ".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)


def faces_in(pdf: bytes) -> set[tuple[str, bool]]:
    """Faces of a paper by name, and whether each is embedded."""
    found = set()
    for page in PdfReader(io.BytesIO(pdf)).pages:
        resources: Any = page["/Resources"]
        for font in resources["/Font"].values():
            described = font.get_object().get("/FontDescriptor")
            inside = bool(described and "/FontFile2" in described.get_object())
            found.add((str(font.get_object()["/BaseFont"]), inside))
    return found


def named(label: str) -> Plan:
    return read_plan(
        apply_patch(HOUSE, merged(UNIT, {"name": label, "circuits": {"fridge": {"label": label}}}))
    )


@pytest.mark.parametrize("script", NAMES)
def test_a_name_prints_as_it_is_written(script: str) -> None:
    """Every letter has a face that has it; the faces are embedded; nothing stands as its number."""
    label = NAMES[script]
    assert "".join(run.text for run in runs(label, PLAIN)).replace(" ", "") == label.replace(" ", "")
    plan = named(label)
    for pdf in (schedule_pdf(plan, "main", EDITION), labels_pdf(plan, "main", EDITION)):
        text = words_of(pdf)
        assert "[U+" not in text
        if not any(OTHERS.get(run.face) for run in runs(label, PLAIN)):
            assert label.replace(" ", "") in text.replace(" ", "")
        embedded = {name for name, inside in faces_in(pdf) if inside}
        assert embedded
        assert {name for name, inside in faces_in(pdf) if not inside} <= {"/Helvetica"}


LEFTWARD = {"Hebrew": "מִטְבָּח", "Arabic": "مَطبخ كبير", "Dhivehi": "ބަދިގެ", "Syriac": "ܡܛܒܚܐ", "Fula": "𞤀𞤣𞤤"}


@pytest.mark.parametrize("script", LEFTWARD)
def test_what_runs_from_right_to_left_is_set_so(script: str) -> None:
    """The first word stands on the right; figures and words beside it stay where they are."""
    word = LEFTWARD[script]
    seen = " ".join(reversed(word.split()))
    assert "".join(run.text for run in runs(word, PLAIN)) == seen
    assert "".join(run.text for run in runs(f"MAY RUN · {word} · 15 A", PLAIN)) == f"MAY RUN · {seen} · 15 A"


def glyphs(run: Run) -> list[int]:
    """Numbers of the glyphs that are put on the paper, from left to right."""
    return [getFont(run.face).face.charToGlyph[ord(letter)] for letter in shaped(run, 9.0)]


@pytest.mark.parametrize("script", NAMES | LEFTWARD)
def test_letters_join_and_move_as_their_script_wants(script: str) -> None:
    """The same glyphs in the same order, as wide, as a reference library for setting scripts gives.

    Source: HarfBuzz, the shaping engine, asked directly of the face's own file.
    """
    for run in runs((NAMES | LEFTWARD)[script], PLAIN):
        asked = Buffer()
        asked.add_str(run.text)
        asked.guess_segment_properties()
        setter = Font(Face(Blob.from_file_path(str(FOLDER / OWN.get(run.face, run.face)))))
        shape(setter, asked, {"kern": run.shaped})
        assert glyphs(run) == [glyph.codepoint for glyph in asked.glyph_infos]
        wide = sum(place.x_advance for place in asked.glyph_positions) * 9.0 / setter.face.upem
        assert run_width(run, 9.0) == pytest.approx(wide, abs=1e-6)


def test_a_word_is_never_parted_before_a_mark() -> None:
    for word in ("क्षत्रियस्त्री", "ബാംഗ്ലൂർക്ഷ", "e\u0301e\u0301e\u0301e\u0301", "ห้องครัวที่นี่"):
        for line in in_lines(word, PLAIN, 9.0, 12.0)[1:]:
            assert not unicodedata.category(line[0]).startswith("M")
    assert all(not line.endswith("\u094d") for line in in_lines("क्षत्रियस्त्री", PLAIN, 9.0, 12.0))


def test_a_letter_that_no_face_has_stands_as_its_number() -> None:
    assert "".join(run.text for run in runs("a\U00013000", PLAIN)) == "a[U+13000]"
    assert list(runs("", PLAIN)) == [] or next(runs("", PLAIN)).text == ""


@given(st.text(max_size=60), st.sampled_from(list(OWN)), st.floats(20.0, 400.0))
def test_lines_stay_within_their_room_and_lose_no_letter(text: str, font: str, room: float) -> None:
    lines = in_lines(text, font, 9.0, room)
    assert all(width_of(line, font, 9.0) <= room + 1e-6 or not cuts(line) for line in lines)
    assert "".join(lines).replace(" ", "") == "".join(text.split())
    assert width_of(fit(text, BOLD, 9.0, 60.0), BOLD, 9.0) <= 60.0 + 1e-6


@given(st.text(st.characters(exclude_categories=["Cs"]), min_size=1, max_size=40))
def test_a_drawing_stays_well_formed_whatever_a_name_holds(name: str) -> None:
    """As it is read in: what a plan may be called. Control characters are none of XML."""
    document: Json = merged(HOUSE, merged(UNIT, {"stations": {"unit": {"name": "unit"}}}))
    plan = read_plan(document).model_copy(update={"name": name})
    unit = plan.stations["unit"].model_copy(update={"name": name})
    plan = plan.model_copy(update={"stations": {"unit": unit}})
    root = ElementTree.fromstring(one_line_svg(one_line(plan), plan.name, EDITION))
    assert root.tag.endswith("svg")


@pytest.mark.parametrize("name", DEMOS)
def test_the_one_line_shows_every_source_and_fills_its_page(name: str) -> None:
    plan = demo_plan(name)
    svg = one_line_svg(one_line(plan), plan.name, EDITION)
    pdf = words_of(one_line_pdf(plan, EDITION))
    rooms = (plan.stations, plan.links, plan.generators, plan.vehicles, plan.arrays)
    linked = {unit for link in plan.links.values() for unit in (link.leg_a, link.leg_b)}
    for room in rooms:
        for key, source in room.items():
            if key not in linked:
                assert source.name.split()[0] in svg, source.name
                assert source.name.split()[0] in pdf, source.name
    for row in one_line(plan).rows:
        for bond in row.bonds:
            assert bond.state.split(",")[0] in pdf
    assert "neutral, ground" in pdf or "line, neutral, earth" in pdf or not plan.hookups


def test_a_sub_panel_is_joined_to_the_one_that_feeds_it() -> None:
    plan = read_plan(apply_patch(HOUSE, merged(UNIT, SUB)))
    svg = one_line_svg(one_line(plan), plan.name, EDITION)
    assert "From Main" in svg
    assert "polyline" in svg


def test_schedule_labels_and_sheets_agree_about_what_stays_on() -> None:
    """A circuit without room is nowhere said to stay on, and one that no source reaches neither."""
    heavy: Json = {
        "circuits": {key: {"mark": "keep"} for key in HOUSE["circuits"]},
        "stations": {"unit": {"rated_va": 1500.0}},
    }
    plan = read_plan(apply_patch(HOUSE, merged(UNIT, heavy)))
    over = next(sheet for sheet in sheets_of(plan, []) if sheet.kind == "change_over")
    standings = staying_on(plan)
    left = {plan.circuits[key].label for key, standing in standings.items() if standing == "no_room"}
    assert left == set(over.stay_off)
    assert left
    for paper in (schedule_pdf(plan, "main", EDITION), labels_pdf(plan, "main", EDITION)):
        assert words_of(paper).count("NO ROOM") == len(left)
    six = demo_plan("canal")
    fed = {key for way in network_of(six).running for key in way.branches}
    unfed = {key for key, standing in staying_on(six).items() if standing == "not_fed"}
    assert unfed == {key for key, c in six.circuits.items() if c.mark != "off"} - fed
    assert set(staying_on(six).values()) <= set(WORDS)


def test_findings_on_paper_carry_both_their_figures() -> None:
    plan = read_plan(apply_patch(HOUSE, merged(UNIT, {"stations": {"unit": {"rated_va": 900.0}}})))
    findings = findings_of(plan)
    judged = [f for f in findings for figure in f.figures if figure.limit is not None]
    assert judged
    text = words_of(bundle_pdf(plan, run_outage(plan), findings, [], EDITION))
    for finding in judged:
        assert f"{finding.figures[0].name}: " in text
    assert " against " in text
    assert text.count(", from memory") >= len(clauses(plan.site))
    assert "Clauses to look up" in text


def test_halves_of_a_tandem_stand_in_their_place_with_their_letters() -> None:
    half: Json = {"panel_id": "main", "spaces": [20], "breaker_a": 15, "mark": "keep"}
    lower, upper = half | {"half": "lower", "label": "Aquarium"}, half | {"half": "upper", "label": "Zither"}
    halves: Json = {"circuits": {"low": lower, "up": upper}}
    plan = read_plan(apply_patch(HOUSE, merged(UNIT, halves)))
    for paper in (schedule_pdf(plan, "main", EDITION), labels_pdf(plan, "main", EDITION)):
        text = words_of(paper)
        assert text.index("Zither") < text.index("Aquarium")
    schedule = words_of(schedule_pdf(plan, "main", EDITION))
    assert "a STAYS ON · Zither" in schedule
    assert "b STAYS ON · Aquarium" in schedule


def test_the_same_paper_twice_is_the_same_bytes() -> None:
    plan = named("厨房 Łazienka")
    sheets = sheets_of(plan, [])[:3]
    assert sheets_pdf(plan, sheets, EDITION) == sheets_pdf(plan, sheets, EDITION)
