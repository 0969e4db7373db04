"""Changes one thing in the core at a time and looks whether a test notices. Run by `make mutants`.

A seeded sample over all changes that a mutation library (`cosmic-ray`) makes of the rooms below, each tried
on a copy of the program that runs from its source: first the tests of the room, then what stands on it.
"""

import argparse
import os
import random
import shutil
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

from cosmic_ray.commands import init
from cosmic_ray.mutating import mutate_and_test
from cosmic_ray.work_db import use_db
from cosmic_ray.work_item import MutationSpec, TestOutcome, WorkResult

BACKEND = Path(__file__).resolve().parent
#: Room of the core → tests that stand on it, after its own, the quick ones first.
ROOMS = {
    "electrical": "core/checks core/test_sums.py outside core/outage core/decide",
    "supply": "core/outage outside core/decide",
    "demand": "core/outage outside core/decide",
    "outage": "outside core/checks core/decide core/advice",
    "checks": "api/test_plans.py core/runbook",
    "runbook": "core/drill api/test_runbook.py formats",
}
#: Changes of type annotations, which nothing evaluates.
LEFT_OUT = ("BitOr", "BitAnd", "BitXor", "Shift", "RemoveDecorator")
#: What takes longer than this hangs, s.
LATEST_S = 900
#: Share that has to be noticed.
WANTED = 0.85


def all_changes() -> list[tuple[str, MutationSpec]]:
    """Every change of every module of the rooms, with its room."""
    found = list[tuple[str, MutationSpec]]()
    for room in ROOMS:
        modules = sorted(Path("src/weary_cedar/core", room).rglob("*.py"))
        with tempfile.TemporaryDirectory() as folder, use_db(Path(folder) / "work.sqlite") as work:
            init([path for path in modules if path.name != "__init__.py"], work, {})
            found += [(room, change) for item in work.work_items for change in item.mutations]
    kept = [pair for pair in found if not any(out in pair[1].operator_name for out in LEFT_OUT)]
    return sorted(kept, key=str)


def noticed(room: str, change: MutationSpec) -> WorkResult:
    """Try one change against the tests of its room, then against those that stand on it."""
    run = f"{sys.executable} -m pytest -c pyproject.toml --rootdir . -x -q -p no:cacheprovider"
    found = mutate_and_test([change], f"{run} -n 0 tests/core/{room}", LATEST_S)
    if found.test_outcome != TestOutcome.SURVIVED:
        return found
    more = " ".join(f"tests/{name}" for name in ROOMS[room].split())
    return mutate_and_test([change], f"{run} -n 2 {more}", LATEST_S)


def main() -> int:
    """Try a sample, list what survives."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--sample", type=int, default=300)
    parser.add_argument("--after", type=int, default=0, help="leave out so many of the sample")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--room", choices=sorted(ROOMS), help="only changes of this room")
    given = parser.parse_args()
    copy = Path(tempfile.mkdtemp(prefix="mutants-"))
    for name in ("src", "tests", "pyproject.toml"):
        source = BACKEND / name
        shutil.copytree(source, copy / name) if source.is_dir() else shutil.copy(source, copy / name)
    shutil.rmtree(copy / "src/weary_cedar/compiled", ignore_errors=True)
    os.chdir(copy)
    os.environ.update(WEARY_CEDAR_PLAIN="1", PYTHONPATH=str(copy / "src"))
    changes = [(room, change) for room, change in all_changes() if given.room in (None, room)]
    tried = random.Random(given.seed).sample(changes, min(given.sample, len(changes)))
    print(f"{len(tried)} of {len(changes):,} changes, seed {given.seed}", flush=True)
    met: Counter[str] = Counter()
    for number, (room, change) in list(enumerate(tried, 1))[given.after :]:
        begun = time.monotonic()
        found = noticed(room, change)
        survived = found.test_outcome == TestOutcome.SURVIVED
        met["survived" if survived else "noticed"] += 1
        where = f"{change.module_path}:{change.start_pos[0]} {change.operator_name.rpartition('/')[2]}"
        took = f"{time.monotonic() - begun:.0f} s"
        print(f"{number:4} {'SURVIVED' if survived else 'noticed '} {where} ({took})", flush=True)
        if survived:
            print(found.diff, flush=True)
    share = met["noticed"] / max(met.total(), 1)
    print(f"{met['noticed']} of {met.total()} noticed, {share:.0%}; {WANTED:.0%} are wanted")
    shutil.rmtree(copy)
    return 0 if share >= WANTED else 1


if __name__ == "__main__":
    sys.exit(main())
