"""Measures what must stay quick; prints medians of several runs and ratios within this one process.

Run by `make bench`. Ratios count: absolute times depend on the machine.
"""

import json
import statistics
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tests"))

import numpy as np
from builders import circuit, house, load, steady
from conftest import CHROMIUM, FLAGS, Server
from outside.fixed_step import FixedStep
from playwright.sync_api import sync_playwright

from weary_cedar.core.decide.balance import least_lean
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.demo import demo_plan

WEEK_S = 7 * 86_400.0
MOST_STEP_US = 30.0


def median_s(job: Callable[[], object], times: int) -> float:
    spans = []
    for _ in range(times):
        begun = time.perf_counter()
        job()
        spans.append(time.perf_counter() - begun)
    return statistics.median(spans)


def week_of_the_demo() -> tuple[Plan, dict[str, Any]]:
    """The demo over seven days, with a battery large enough to carry them."""
    document = demo_plan().model_dump(mode="json", exclude_none=True)
    document["outage"]["length_s"] = WEEK_S
    document["stations"]["station"]["cell_wh"] = 200_000.0
    return read_plan(document), document


def bench_run() -> None:
    plan, document = week_of_the_demo()
    result = run_outage(plan)
    exact_s = median_s(lambda: run_outage(plan), 7)
    begun = time.perf_counter()
    steps = FixedStep(document).run().steps
    step_us = (time.perf_counter() - begun) / steps * 1e6
    charged_us = min(step_us, MOST_STEP_US)
    print(f"seven days of the demo, exact      {exact_s * 1000:8.1f} ms")
    print(f"  intervals                        {result.intervals:8d}")
    print(f"  per interval                     {exact_s / result.intervals * 1e6:8.1f} µs")
    print(f"  one-second fixed step, per step  {step_us:8.1f} µs")
    ratio = charged_us * steps / 1e6 / exact_s
    print(f"  fixed step (at most {MOST_STEP_US:.0f} µs) ÷ exact {ratio:6.0f} times")


def full_panel() -> Plan:
    """A panel of 42 spaces, 40 single-pole breakers of many weights."""
    spaces = [n for n in range(1, 43) if n not in (2, 4)]
    weights = np.random.default_rng(1).lognormal(5.2, 1.3, len(spaces)).round()
    circuits = {f"c{n}": circuit([n]) for n in spaces}
    loads = {key: load(key, steady(float(weights[n]))) for n, key in enumerate(circuits)}
    document = house(circuits, loads)
    document["panels"]["main"]["spaces"] = 42
    return read_plan(document)


def bench_balance() -> None:
    plan = full_panel()
    seconds = median_s(lambda: least_lean(plan, "main"), 3)
    print(f"balance of 42 spaces, 0 to 6 moves {seconds:8.2f} s")


def bench_server() -> None:
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder))
        begun = time.perf_counter()
        server.start()
        urllib.request.urlopen(f"{server.address}/api/plans").read()
        print(f"cold start to first answer         {(time.perf_counter() - begun) * 1000:8.0f} ms")
        try:
            bench_edits(server.address)
            bench_browser(server.address)
        finally:
            server.stop()


def bench_edits(address: str) -> None:
    at = f"{address}/api/plans/foothill-house"
    revision = 1

    def edit() -> None:
        nonlocal revision
        body = json.dumps({"loads": {"internet": {"behaviour": {"watts": 20.0 + revision}}}}).encode()
        asked = urllib.request.Request(at, body, {"If-Match": f'"{revision}"'}, method="PATCH")
        revision = json.load(urllib.request.urlopen(asked))["revision"]

    print(f"edit to verdict, API               {median_s(edit, 15) * 1000:8.1f} ms")


def bench_browser(address: str) -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{address}/plans/foothill-house/panel")
        page.get_by_test_id("verdict-sentence").wait_for()
        answer_ms = """async ([group, name]) => {
            const radios = document.querySelectorAll(`[aria-label="Mark of ${group}"] [role=radio]`);
            const radio = [...radios].find((item) => item.ariaLabel === name);
            const begun = performance.now();
            radio.click();
            const verdict = () => document.querySelector('[data-testid=verdict]').dataset.revision;
            const old = verdict();
            while (verdict() === old) await new Promise((next) => setTimeout(next, 1));
            return performance.now() - begun;
        }"""
        spans = [page.evaluate(answer_ms, ["Bathroom", name]) for name in ("keep", "off") * 6]
        print(f"edit to verdict, browser           {statistics.median(spans):8.1f} ms")
        browser.close()


if __name__ == "__main__":
    bench_run()
    bench_balance()
    bench_server()
