"""Runs all tests, one phase after the other whatever comes of them, and counts once at the end."""

import subprocess
import sys
import time
from pathlib import Path
from xml.etree import ElementTree

TESTS = Path(__file__).resolve().parent
REPORTS = TESTS.parents[1] / ".make"
#: Two processes each: what needs no browser, then the screens.
PHASES = {
    "without a browser": [str(TESTS), "--ignore", str(TESTS / "browser"), "--dist", "worksteal"],
    "in the browser": [str(TESTS / "browser"), "--dist", "worksteal"],
}
SHOWN = 10


def run(name: str, arguments: list[str]) -> tuple[int, Path]:
    """One phase: how it ended, and its report."""
    report = REPORTS / f"tests-{name.replace(' ', '-')}.xml"
    report.unlink(missing_ok=True)
    pytest = [sys.executable, "-m", "pytest", "-c", str(TESTS.parent / "pyproject.toml")]
    options = ["--rootdir", str(TESTS.parent), "--numprocesses", "2", f"--junitxml={report}", *sys.argv[1:]]
    print(f"== {name}", flush=True)
    return subprocess.run([*pytest, *options, *arguments], check=False).returncode, report


def main() -> int:
    REPORTS.mkdir(exist_ok=True)
    begun = time.monotonic()
    ended = {name: run(name, arguments) for name, arguments in PHASES.items()}
    cases: list[tuple[float, str]] = []
    failed: list[str] = []
    for _, report in ended.values():
        for case in ElementTree.parse(report).iter("testcase") if report.exists() else ():
            name = f"{case.get('classname')}::{case.get('name')}"
            cases.append((float(case.get("time", "0")), name))
            if case.find("failure") is not None or case.find("error") is not None:
                failed.append(name)
    print(f"== the {SHOWN} slowest")
    for seconds, name in sorted(cases, reverse=True)[:SHOWN]:
        print(f"{seconds:7.1f} s  {name}")
    print(f"== {len(cases) - len(failed)} passed, {len(failed)} failed in {time.monotonic() - begun:.0f} s")
    for name in failed:
        print(f"   {name}")
    return 0 if cases and not any(code for code, _ in ended.values()) else 1


if __name__ == "__main__":
    sys.exit(main())
