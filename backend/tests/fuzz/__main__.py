"""Tries plans with fresh seeds for as long as one likes; prints what was tried. Run by `make fuzz`."""

import argparse
import json
import random
import sys
import time
from collections import Counter
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from any_house import any_house
from check_variants import PATCHES, unproven, variant
from hypothesis import HealthCheck, given, seed, settings
from renaming import named_back, renamed
from told_sessions import held, lamp_house, told

from fuzz.opening import opened
from fuzz.plans import strange_plans
from weary_cedar.core.errors import RunTooLong
from weary_cedar.core.log.learn import learn
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.demo import demo_plan

#: Variants of checked plans for every hundred strange plans.
VARIANTS = 40
#: Houses at random for every hundred strange plans.
HOUSES = 50


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--minutes", type=float, default=5.0)
    parser.add_argument("--seed", type=int, default=random.SystemRandom().randrange(2**32))
    given_ = parser.parse_args()
    met: Counter[str] = Counter()
    begun, number = time.monotonic(), given_.seed
    while time.monotonic() - begun < 60 * given_.minutes:

        @seed(number)
        @settings(max_examples=100, deadline=None, database=None, suppress_health_check=list(HealthCheck))
        @given(strange_plans())
        def attempt(document: dict[str, Any]) -> None:
            try:
                met[opened(document)] += 1
            except Exception:
                print(json.dumps(document))
                raise

        attempt()
        met.update(houses(number))
        met.update(sheets(number))
        met.update(lessons(number))
        number += 1
        print(
            f"seed {number - 1}: {met.total():,} plans, {dict(met)}, {time.monotonic() - begun:.0f} s",
            flush=True,
        )


def lessons(number: int) -> Counter[str]:
    """What sessions teach whose truth is known: how many intervals of nine in ten hold it."""
    met: Counter[str] = Counter()
    for plan in (lamp_house(), demo_plan("foothill")):
        of = told(plan, number)
        for _, holds in held(of, learn(plan, of.session)):
            met["interval holds" if holds else "interval misses"] += 1
    return met


def houses(number: int) -> Counter[str]:
    """Houses at random: their books close, and other ids change nothing; a fault names its seed."""
    met: Counter[str] = Counter()
    for house in range(HOUSES * number, HOUSES * (number + 1)):
        document = any_house(house)
        other, names = renamed(document, house)
        try:
            result = run_outage(read_plan(document)).model_dump_json()
            again = run_outage(read_plan(other)).model_dump_json()
        except RunTooLong:
            met["house too long"] += 1
            continue
        except Exception:
            print(f"house {house}", flush=True)
            raise
        if named_back(again, names) != named_back(result, {}):
            raise AssertionError(f"house {house} hangs on its ids")
        met["house"] += 1
    return met


def sheets(number: int) -> Counter[str]:
    """Variants of checked plans: every sheet that is given passes its own replay; a fault names its dice."""
    for tried in range(VARIANTS * number, VARIANTS * (number + 1)):
        which, dice = tried % len(PATCHES), tried // len(PATCHES)
        if found := unproven(variant(which, dice)):
            raise AssertionError(f"variant {which} with dice {dice}: {found}")
    return Counter({"variant": VARIANTS})


if __name__ == "__main__":
    main()
