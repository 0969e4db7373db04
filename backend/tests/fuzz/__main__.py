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

from hypothesis import HealthCheck, given, seed, settings

from fuzz.opening import opened
from fuzz.plans import strange_plans


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
        number += 1
        print(
            f"seed {number - 1}: {met.total():,} plans, {dict(met)}, {time.monotonic() - begun:.0f} s",
            flush=True,
        )


if __name__ == "__main__":
    main()
