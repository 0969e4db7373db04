"""Figures of plates that are not known: files keep that, runs count with the usual and say so, checks ask."""

import json
from collections.abc import Iterator
from datetime import date
from typing import Any

import pytest
from check_plans import PLANS, Json
from check_rows import ROWS

from weary_cedar.core.checks import findings_of
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Noun, read_plan
from weary_cedar.core.plan.merge import apply_patch, make_patch
from weary_cedar.core.plan.unread import plate_figures, unread_figures
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.formats.bundle_pdf import bundle_pdf
from weary_cedar.formats.paper import Edition

EDITION = Edition(1, date(2026, 11, 27))
#: Every figure of a plate → the check that needs it; none where only a run does. Common practice, no source.
ASKED = {
    ("Station", "coldest_charge_c"): "batt-cold",
    ("Station", "works_from_c"): "station-place",
    ("Station", "works_to_c"): "station-place",
    ("Station", "transfer_gap_ms"): "needs-no-gap",
    ("Station", "overload_curve"): "start-trip",
    ("Station", "idle_cutout"): "idle-cutout",
    ("Station", "output_while_charging"): "passthrough-none",
    ("AcInput", "cap_a"): "passthrough-cap",
    ("AcInput", "passes_through"): "passthrough-none",
    ("DcInput", "low_v"): "pv-window",
    ("Generator", "auto_start"): "auto-start-source",
    ("Generator", "healthy_minimum_share"): "gen-load",
    ("Panel", "main_a"): "bus-sum",
    ("Panel", "bus_a"): "bus-sum",
    ("Circuit", "breaker_a"): "continuous-80",
    ("FixedWire", "awg"): "inlet-feed",
    ("FixedWire", "length_m"): "cord-drop",
    ("Cord", "length_m"): "cord-drop",
    ("SolarArray", "lead_m"): "pv-lead",
    ("Vehicle", "most_w"): None,
}


def parts(value: object) -> Iterator[Noun]:
    """Every noun in a plan."""
    if isinstance(value, Noun):
        yield value
        for name in type(value).model_fields:
            yield from parts(getattr(value, name))
    elif isinstance(value, dict | tuple):
        for one in value.values() if isinstance(value, dict) else value:
            yield from parts(one)


def without(value: Any, held: object, figures: set[tuple[str, str]]) -> Any:
    """A document in which some figures of plates are not known, wherever they stand."""
    if isinstance(held, Noun):
        own = {name: without(value[name], getattr(held, name), figures) for name in type(held).model_fields}
        return own | {f: "unknown" for noun, f in figures if noun == type(held).__name__}
    if isinstance(held, dict):
        return {key: without(value[key], one, figures) for key, one in held.items()}
    if isinstance(held, tuple):
        return [without(told, one, figures) for told, one in zip(value, held, strict=True)]
    return value


def unknown(document: Json, *figures: tuple[str, str]) -> Json:
    held = read_plan(document)
    made: Json = without(held.model_dump(mode="json"), held, set(figures))
    return made


def test_every_figure_of_a_plate_is_looked_at_here() -> None:
    assert set(plate_figures()) == set(ASKED)


@pytest.mark.parametrize("name", sorted(PLANS))
def test_a_plan_with_nothing_read_is_kept_and_runs_as_what_is_usual(name: str) -> None:
    made = unknown(PLANS[name], *ASKED)
    held = read_plan(made)
    assert json.loads(held.model_dump_json()) == made
    assert read_plan(held.model_dump(mode="json", exclude_none=True)) == held
    assert read_plan(apply_patch(PLANS[name], make_patch(PLANS[name], made))) == held
    result = run_outage(held)
    assert result.ledger is not None
    assert result.ledger.closes
    said = unread_figures(held)
    assert said
    assert set(said) <= set(result.verdict.assumed)
    found = findings_of(held, result)
    asked = [(f.element, f.missing) for f in found if f.level == "cannot_judge" and not f.asks]
    assert ("circuits", "the amps on its breaker") in {(part.room, missing) for part, missing in asked}
    about = [part for part, missing in asked if missing == "the amps on its breaker"]
    assert len(about) == len(set(about))
    assert bundle_pdf(held, result, found, sheets_of(held, []), EDITION)


@pytest.mark.parametrize(("figure", "check_id"), [(f, c) for f, c in ASKED.items() if c is not None])
def test_the_check_that_needs_a_figure_asks_for_it(figure: tuple[str, str], check_id: str) -> None:
    """In some plan in which that check speaks while the figure is known."""
    figures = [("Panel", "bus_a"), ("Panel", "main_a")] if figure[0] == "Panel" else [figure]
    rows = [(row[1], patch or {}) for row in ROWS if row[0] == check_id for patch in (row[2], row[3])]
    plans = [*rows, *((name, {}) for name in PLANS)]
    said = set[str]()
    for name, patch in plans:
        found = findings_of(read_plan(unknown(apply_patch(PLANS[name], patch), *figures)))
        said |= {f.missing for f in found if f.check_id == check_id and f.level == "cannot_judge"}
        if plate_figures()[figure].words in said:
            break
    words = {plate_figures()[one].words for one in figures} - (
        {plate_figures()[figure].words} if figure[1] == "main_a" else set()
    )
    assert said & words, said
