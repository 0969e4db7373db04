"""The run as machine code: in use where it can be built, the same to the byte, never of another source."""

import importlib.util
import json
import os
import subprocess
import sys
from importlib.machinery import EXTENSION_SUFFIXES
from itertools import chain
from pathlib import Path
from typing import Any

import pytest
from any_house import any_house
from outside.test_by_the_second import PLANS

from weary_cedar import machine_code
from weary_cedar.core.outage import kernel, run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.demo import DEMOS, demo_plan

#: So many houses at random, over all nouns, beside the demos and the plans of the referee.
HOUSES = 80
PLAIN = "WEARY_CEDAR_PLAIN"
#: Reads plans, one a line, and writes how each runs, after a line that says what it runs from.
RUNS = """
import json, sys
from weary_cedar.core.outage import kernel, run_outage
from weary_cedar.core.plan import read_plan
print(kernel.__file__)
for line in sys.stdin:
    print(run_outage(read_plan(json.loads(line))).model_dump_json())
"""


def documents() -> list[Any]:
    demos = (demo_plan(name).model_dump(mode="json", exclude_none=True) for name in DEMOS)
    return list(chain(demos, PLANS.values(), map(any_house, range(HOUSES))))


def in_the_other_way(given: list[Any]) -> list[str]:
    """What a process says that runs from the source if this one does not, and the other way round."""
    around = os.environ | {PLAIN: "1" if machine_code.in_use() else ""}
    lines = "\n".join(json.dumps(document) for document in given)
    ran = subprocess.run(
        [sys.executable, "-c", RUNS], input=lines, env=around, capture_output=True, text=True, check=True
    )
    return ran.stdout.splitlines()


def test_it_is_in_use_where_it_can_be_built() -> None:
    path = Path(__file__).parents[3] / "compile.py"
    spec = importlib.util.spec_from_file_location("build_it", path)
    assert spec is not None
    assert spec.loader is not None
    built = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(built)
    wanted = built.can_compile() and not os.environ.get(PLAIN)
    assert machine_code.in_use() == wanted, "make compiled builds it"
    assert str(kernel.__file__).endswith(".py") != wanted


def test_both_ways_run_alike_to_the_byte() -> None:
    given = documents()
    runs_from, *others = in_the_other_way(given)
    if machine_code.is_fresh():
        assert runs_from.endswith(".py") == machine_code.in_use()
    ours = [run_outage(read_plan(document)).model_dump_json() for document in given]
    assert len(ours) == len(others) > 18
    for document, here, there in zip(given, ours, others, strict=True):
        assert here == there, document.get("name")


def test_what_was_built_from_another_source_is_not_taken(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(machine_code, "FOLDER", tmp_path)
    assert not machine_code.is_fresh()
    kept = tmp_path / machine_code.FINGERPRINT
    kept.write_text("of yesterday")
    assert not machine_code.is_fresh()
    before = list(sys.meta_path)
    machine_code.prefer()
    assert sys.meta_path == before
    machine_code.seal()
    assert machine_code.is_fresh()
    built = tmp_path / f"part{EXTENSION_SUFFIXES[0]}"
    built.write_bytes(b"code")
    assert not machine_code.is_fresh(), "a file that was not there when it was built"
    machine_code.seal()
    assert machine_code.is_fresh()
    built.write_bytes(b"cod")
    assert not machine_code.is_fresh(), "a damaged file"


def test_every_module_that_is_built_is_one_of_the_core() -> None:
    for rooms in machine_code.PARTS.values():
        for room, modules in rooms.items():
            assert room in machine_code.ROOMS
            for module in modules.split():
                assert (machine_code.PACKAGE / "core" / room / f"{module}.py").is_file()
