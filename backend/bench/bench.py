"""Measures what must stay quick; prints medians of several runs and ratios within this one process.

Run by `make bench`. Ratios count: absolute times depend on the machine.
"""

import json
import os
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import urllib.request
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tests"))

import numpy as np
from builders import circuit, cycling, house, load, steady
from conftest import CHROMIUM, FLAGS
from outside.fixed_step import FixedStep
from playwright.sync_api import sync_playwright
from serving import OwnServer

from weary_cedar.core.advice.schedule import schedule
from weary_cedar.core.advice.size import SizeAsked, Sized, size
from weary_cedar.core.advice.suggest import suggest
from weary_cedar.core.checks import findings_of
from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.decide.balance import least_lean
from weary_cedar.core.decide.chance import Varying, try_outages
from weary_cedar.core.decide.schedule import best_hours, counted_hours, least_worth, priced
from weary_cedar.core.decide.schedule.worth import left_at_the_end
from weary_cedar.core.network import Network
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.kernel import OutageRun
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.refs import without
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.machine_code import in_use

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
    document["name"] = f"{document['name']}, 7 days"
    document["stations"]["station"]["cell_wh"] = 200_000.0
    document["loads"]["freezer"]["behaviour"] = cycling(125.0, 0.45, 3_300.0)
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


def bench_deciding() -> None:
    """Chance, changes, schedule and size, each against one run of the plan; what common dice are worth."""
    plan = demo_plan("foothill")
    run = run_outage(plan)
    once_s = median_s(lambda: run_outage(plan), 5)
    engine = next(iter(plan.generators))
    hourly = counted_hours(plan, run, engine, 0.0, left_at_the_end(run))
    told, bound = best_hours(hourly), least_worth(hourly)
    assert bound is not None
    for words, job in (
        ("40 outages of a chance", lambda: try_outages(plan, range(40))),
        ("changes that would make it last", lambda: suggest(_eight_days(plan))),
        ("half hours from two runs", lambda: counted_hours(plan, run, engine, 0.0, 0.0)),
        ("dynamic programme", lambda: best_hours(hourly)),
        ("bound by HiGHS", lambda: least_worth(hourly)),
        ("a schedule", lambda: schedule(plan, run, outages=0)),
        ("60 outages of a size", lambda: size(plan, SizeAsked(days=5), Sized(), 60)),
    ):
        print(f"  {words:34} {median_s(job, 1) / once_s:8.1f} runs")
    best = priced(hourly, told).worth
    over = 100 * (best - bound.worth) / hourly.wanted
    print(f"  dynamic programme over its bound   {over:8.2f} % of what is wanted")
    weaker = without(plan, "generators", engine)
    print(f"  variance, own dice ÷ common dice   {_dice(plan, weaker):8.1f} times")


def _eight_days(plan: Plan) -> Plan:
    return plan.model_copy(update={"outage": plan.outage.model_copy(update={"length_s": 8 * 86_400.0})})


def _dice(one: Plan, other: Plan) -> float:
    """By how much common dice lower the variance of the difference of two plans."""
    first, same = (np.array([t.score for t in try_outages(plan, range(60))]) for plan in (one, other))
    apart = np.array([t.score for t in try_outages(other, range(60), Varying(seed=2))])
    return float(np.var(first - apart) / max(1e-9, np.var(first - same)))


def bare_call_ns() -> float:
    """What a call of an empty function costs in this process: how quick the machine is right now."""

    def nothing(_given: int) -> None:
        return

    def many() -> None:
        for number in range(50_000):
            nothing(number)

    return median_s(many, 9) / 50_000 * 1e9


def wide_plan() -> Plan:
    """A station on a panel of 40 circuits with 74 loads that cycle: some 120 parts."""
    circuits = {f"c{n}": circuit([n]) for n in range(1, 41)}
    loads = {f"l{n}": load(f"c{n % 40 + 1}", cycling(20.0 + n, 0.3, 1_500.0 + 37.0 * n)) for n in range(74)}
    document = house(circuits, loads, station={"cell_wh": 90_000.0}, outage={"length_s": 2 * 86_400.0})
    document["name"] = "120 parts"
    document["panels"]["main"]["spaces"] = 42
    document["feeds"]["feed"].update(kind="transfer_panel", breaker_spaces=[])
    return read_plan(document)


def longest_demo() -> Plan:
    """The demo with the most moments, over seven days."""
    longest = max((demo_plan(name) for name in DEMOS), key=lambda plan: run_outage(plan).intervals)
    outage = longest.outage.model_copy(update={"length_s": WEEK_S})
    return longest.model_copy(update={"name": f"{longest.name}, 7 days", "outage": outage})


#: Rooms of a plan whose things are parts of a run.
ROOMS = ["circuits", "loads", "stations", "generators", "leads", "feeds", "panels", "arrays", "vehicles"]


def bench_moments() -> None:
    """Microseconds a moment of named plans, the least of several runs; laying out and result stand beside."""
    built = "machine code" if in_use() else "source"
    print(f"moments, the run from its {built}; a bare call takes {bare_call_ns():.0f} ns here")
    for plan in (*map(demo_plan, DEMOS), wide_plan(), longest_demo(), week_of_the_demo()[0]):
        spans = []
        for _ in range(15):
            run = OutageRun(Network(plan))
            begun = time.perf_counter()
            run.run()
            spans.append(time.perf_counter() - begun)
        moments, run_s = run.out.intervals, min(spans)
        whole_ms = median_s(partial(run_outage, plan), 7) * 1000
        parts = sum(len(getattr(plan, room)) for room in ROOMS)
        print(
            f"  {plan.name[:28]:28} {parts:3} parts, {moments:5} moments, "
            f"{run_s / moments * 1e6:5.1f} µs each; with laying out and result {whole_ms:6.1f} ms"
        )


def bench_from_source() -> None:
    """The same moments without machine code, in a process of its own."""
    if in_use():
        plain = os.environ | {"WEARY_CEDAR_PLAIN": "1"}
        subprocess.run([sys.executable, __file__, "moments"], check=True, env=plain)


def bench_checks() -> None:
    """The whole catalogue beyond the run, and how many further runs it asks for."""
    for name in DEMOS:
        plan = demo_plan(name)
        run = run_outage(plan)
        facts = Facts(plan, run)
        further = int(facts.unshed is not run)
        beside = partial(Facts, plan, run, facts.unshed)
        seconds = median_s(partial(_look, plan, run, beside), 5)
        print(f"{name:12} all checks beyond the run {seconds * 1000:6.1f} ms, further runs: {further}")


def _look(plan: Plan, run: RunResult, facts: Callable[[], Facts]) -> None:
    findings_of(plan, run, facts())


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
        server = OwnServer(Path(folder))
        begun = time.perf_counter()
        server.start()
        urllib.request.urlopen(f"{server.address}/api/plans").read()
        print(f"cold start to first answer         {(time.perf_counter() - begun) * 1000:8.0f} ms")
        try:
            bench_edits(server.address)
            bench_browser(server.address)
            bench_strip(server.address)
            bench_beside(server.address)
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


def heavy_document(number: int) -> dict[str, Any]:
    """Among the heaviest plans that are taken: some 100,000 changes in a month."""
    circuits = {f"c{n}": circuit([n]) for n in range(1, 41)}
    loads = {f"l{n}": load(f"c{n + 1}", cycling(3.0, 0.4, 1_800.0 + n, phase=0.1)) for n in range(40)}
    document = house(circuits, loads, station={"cell_wh": 900_000.0}, outage={"length_s": 31 * 86_400.0})
    document["name"] = f"Heavy {number}"
    document["panels"]["main"]["spaces"] = 42
    document["feeds"]["feed"].update(kind="transfer_panel", breaker_spaces=[])
    return document


def ask(address: str, method: str, path: str, body: Any = None, revision: int = 0) -> Any:
    headers = {"Content-Type": "application/json"} | ({"If-Match": f'"{revision}"'} if revision else {})
    data = None if body is None else json.dumps(body).encode()
    asked = urllib.request.Request(address + path, data, headers, method=method)
    return json.load(urllib.request.urlopen(asked, timeout=120))


def import_plan(address: str, document: dict[str, Any]) -> str:
    part = b'--x\r\nContent-Disposition: form-data; name="file"; filename="p"\r\n\r\n'
    body = part + json.dumps(document).encode() + b"\r\n--x--\r\n"
    headers = {"Content-Type": "multipart/form-data; boundary=x"}
    asked = urllib.request.Request(f"{address}/api/plans/import", body, headers, method="POST")
    made: str = json.load(urllib.request.urlopen(asked, timeout=240))["id"]
    return made


def bench_beside(address: str) -> None:
    """A small plan is opened and edited while eight of the heaviest are edited without a pause."""
    with ThreadPoolExecutor(8) as importing:
        heavy = list(importing.map(lambda n: import_plan(address, heavy_document(n)), range(8)))
    small = ask(address, "POST", "/api/plans", {"name": "Small"})["id"]
    ends = time.perf_counter() + 20.0
    edits = Counter[str]()

    def keep_editing(plan_id: str) -> None:
        revision = 1
        while time.perf_counter() < ends:
            patch = {"loads": {"l0": {"behaviour": {"on_w": 3.0 + revision}}}}
            revision = ask(address, "PATCH", f"/api/plans/{plan_id}", patch, revision)["revision"]
            edits["heavy"] += 1

    others = [threading.Thread(target=keep_editing, args=(plan_id,)) for plan_id in heavy]
    for other in others:
        other.start()
    time.sleep(1.0)
    opened, edited, revision = [], [], 1
    while time.perf_counter() < ends:
        begun = time.perf_counter()
        ask(address, "GET", f"/api/plans/{small}")
        opened.append(time.perf_counter() - begun)
        begun = time.perf_counter()
        patch = {"site": {"latitude": 40.0 + revision / 100}}
        revision = ask(address, "PATCH", f"/api/plans/{small}", patch, revision)["revision"]
        edited.append(time.perf_counter() - begun)
        time.sleep(0.05)
    for other in others:
        other.join()
    print(f"beside eight heavy plans, {edits['heavy']} edits of them, of a small one:")
    for what, spans in (("opened", opened), ("edited", edited)):
        median_ms, worst_ms = statistics.median(spans) * 1000, max(spans) * 1000
        print(f"  {what} {len(spans):4d} times, median         {median_ms:8.1f} ms, worst {worst_ms:.1f} ms")


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


def month_document() -> dict[str, Any]:
    """The demo over thirty days with forty loads, and cells that carry them."""
    document = demo_plan().model_dump(mode="json", exclude_none=True)
    document["name"] = "Month"
    document["outage"]["length_s"] = 30 * 86_400.0
    document["stations"]["station"]["cell_wh"] = 300_000.0
    like = document["loads"]["internet"]
    for n in range(40 - len(document["loads"])):
        behaviour = cycling(20.0 + n, 0.3, 3_000.0 + 60 * n) if n % 2 else steady(5.0 + n)
        document["loads"][f"more{n}"] = {**like, "name": f"more {n}", "behaviour": behaviour}
    return document


#: Notes the frame in which the curves of the strip are drawn first.
DRAWN = """
const look = () => {
    const curves = document.querySelectorAll("[data-testid=strip] svg path");
    if ([...curves].some((curve) => (curve.getAttribute("d") ?? "").length > 50))
        requestAnimationFrame(() => { window.drawn = performance.now(); });
    else requestAnimationFrame(look);
};
look();
"""

#: Drags the first block of a lane a little, and waits until the curve of the charge is another one.
DRAG_MS = """async ([lane, by]) => {
    const block = document.querySelector(`[data-testid=blocks] [aria-label="${lane}"] [data-block]`);
    const strip = document.querySelector("[data-testid=strip] svg");
    const box = block.getBoundingClientRect();
    const send = (kind, x) => block.dispatchEvent(new PointerEvent(kind, {
        bubbles: true, pointerId: 1, clientX: x, clientY: box.top + 5,
    }));
    block.setPointerCapture = () => {};
    const old = strip.innerHTML;
    send("pointerdown", box.left + 3);
    const begun = performance.now();
    send("pointermove", box.left + 3 + by);
    const late = () => performance.now() - begun > 20000;
    while (strip.innerHTML === old && !late()) await new Promise((next) => requestAnimationFrame(next));
    const took = performance.now() - begun;
    send("pointercancel", box.left + 3);
    return took;
}"""


def bench_strip(address: str) -> None:
    """First paint of the strip, and a dragged block to the new curve, in the browser."""
    month = import_plan(address, month_document())
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for name, plan_id in (("demo", "foothill-house"), ("30 days, 40 loads", month)):
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.add_init_script(DRAWN)
            page.goto(f"{address}/plans/{plan_id}/outage")
            page.locator("[data-testid=blocks] [data-block]").first.wait_for()
            paints = []
            for _ in range(5):
                page.reload()
                page.wait_for_function("() => window.drawn")
                paints.append(page.evaluate("window.drawn"))
            page.locator("[data-testid=blocks] [data-block]").first.wait_for()
            spans = []
            for by in (40, 60, 80, 50, 70):
                spans.append(page.evaluate(DRAG_MS, ["engine", by]))
                page.wait_for_timeout(3_000)
            weight = page.evaluate("performance.memory.usedJSHeapSize") / 2**20
            painted = statistics.median(paints)
            print(f"strip of {name:18} first paint   {painted:8.0f} ms, memory {weight:.0f} MB")
            print(f"  a drag to the new curve            {statistics.median(spans):8.0f} ms")
            page.close()
        browser.close()


if __name__ == "__main__" and sys.argv[1:] == ["moments"]:
    bench_moments()
elif __name__ == "__main__" and sys.argv[1:] == ["deciding"]:
    bench_deciding()
elif __name__ == "__main__":
    bench_run()
    bench_moments()
    bench_from_source()
    bench_checks()
    bench_balance()
    bench_deciding()
    bench_server()
