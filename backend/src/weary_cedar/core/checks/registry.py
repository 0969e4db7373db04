"""The registry: which function answers for which row of the catalogue."""

import re
from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence
from functools import cache, partial

from weary_cedar.core.checks.editions import told_source
from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import (
    LEVELS,
    Asks,
    Element,
    Finding,
    Hit,
    Level,
    Said,
    Seen,
    Told,
    Unknown,
)
from weary_cedar.core.checks.mending import Mend, mend
from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import Plan
from weary_cedar.core.tables import Row, table

#: A check whose stops and cautions all have their figures, and one whose row says that it cannot always.
Check = Callable[[Facts], Iterator[Said]]
Look = Callable[[Facts], Iterator[Told]]
CHECKS: dict[str, Look] = {}
#: Checks that look at what the others have said, too.
Late = Callable[[Facts, Sequence[Finding]], Iterator[Said]]
LATE: dict[str, Late] = {}


def check(check_id: str) -> Callable[[Check], Check]:
    """Register a function for a row of the catalogue, whose findings all have their figures."""

    def registered(function: Check) -> Check:
        _register(check_id, function, figures="yes")
        return function

    return registered


def seen(check_id: str) -> Callable[[Look], Look]:
    """Register a function for a row of the catalogue that says that there may be no figure to give."""

    def registered(function: Look) -> Look:
        _register(check_id, function, figures="no")
        return function

    return registered


def afterwards(check_id: str) -> Callable[[Late], Late]:
    """Register a function for a row of the catalogue that asks what the other checks have said."""

    def registered(function: Late) -> Late:
        def nothing_yet(facts: Facts) -> Iterator[Said]:
            return iter(())

        nothing_yet.__doc__ = function.__doc__
        _register(check_id, nothing_yet, figures="yes")
        LATE[check_id] = function
        return function

    return registered


def _register(check_id: str, function: Look, figures: str) -> None:
    if check_id in CHECKS or catalogue()[check_id]["figures"] != figures:
        raise ValueError(f"{check_id} is registered twice, or its row says something else of its figures")
    CHECKS[check_id] = function


@cache
def catalogue() -> dict[str, Row]:
    """Rows of the catalogue by id."""
    return {row["check_id"]: row for row in table("checks")}


def stops_of(findings: Iterable[Finding]) -> list[str]:
    """What forbids to energise on a plan, in words."""
    return [
        f"{finding.title}: {finding.element.name}"
        for finding in findings
        if finding.level == "stop" and not finding.answered
    ]


def findings_of(
    plan: Plan,
    run: RunResult | None = None,
    facts: Facts | None = None,
    faults: list[Exception] | None = None,
) -> list[Finding]:
    """Look at a plan with every check.

    Args:
        plan: the plan.
        run: its run, if there is one already.
        facts: the same, if there are some already.
        faults: takes what a check raised; that check is then said not to be judged, the others stand.
            Without it the first fault is raised.

    Returns:
        Findings: stops first, then cautions, what cannot be judged, notes; each group in the order
        of the catalogue.

    Source: the catalogue names one for each check.
    """
    from weary_cedar.core.checks import families

    families.load()
    facts = facts or Facts(plan, run)
    order = {check_id: rank for rank, check_id in enumerate(catalogue())}
    found = [
        _finding(check_id, key, said, facts)
        for check_id, function in CHECKS.items()
        for key, said in _keyed(check_id, _said(function, facts, faults))
    ]
    for check_id, late in LATE.items():
        said_late = _said(partial(_judged_late, late, tuple(found)), facts, faults)
        found += [_finding(check_id, key, said, facts) for key, said in _keyed(check_id, said_late)]
    return sorted(found, key=lambda f: (LEVELS.index(f.level), order[f.check_id], f.element.name, f.key))


def _judged_late(late: Late, found: Sequence[Finding], facts: Facts) -> Iterator[Told]:
    return late(facts, found)


def _said(function: Look, facts: Facts, faults: list[Exception] | None) -> list[Told]:
    """What a check says; of one that fails, that it could not judge and why."""
    try:
        said = list(function(facts))
    except Exception as error:
        if faults is None:
            raise
        faults.append(error)
        missing = f"an answer: this check failed ({type(error).__name__}: {error})"
        return [Unknown(facts.element("site", "site"), missing[:300])]
    once = {said.index(item) for item in said if isinstance(item, Unknown)}
    return [item for at, item in enumerate(said) if not isinstance(item, Unknown) or at in once]


def _keyed(check_id: str, said: list[Told]) -> list[tuple[str, Told]]:
    """What a check says, each with a key of its own: of several about one part, by what they say."""
    keys = [f"{check_id}@{item.element.room}/{item.element.id}" for item in said]
    several = {key for key, count in Counter(keys).items() if count > 1}
    found: dict[str, Told] = {}
    for key, item in zip(keys, said, strict=True):
        own = f"{key}#{_slug(item)}" if key in several else key
        number, unique = 2, own
        while unique in found:
            unique, number = f"{own}-{number}", number + 1
        found[unique] = item
    return list(found.items())


def _slug(said: Told) -> str:
    """What a check says in a few characters that can stand in a key."""
    if isinstance(said, Unknown):
        words = said.missing
    else:
        words = " ".join(figure.name for figure in said.figures) if isinstance(said, Hit) else said.detail
    return re.sub(r"[^a-z0-9]+", "-", words.lower()).strip("-")[:60]


def _finding(check_id: str, key: str, said: Told, facts: Facts) -> Finding:
    plan = facts.plan
    row = catalogue()[check_id]
    answer = plan.check_answers.get(key)
    level: Level = row["level"]  # type: ignore[assignment]
    if isinstance(said, Unknown):
        level = "cannot_judge"
    elif said.level is not None:
        level = said.level
    answerable = row["answerable"] == "yes" and level != "stop"
    hit = said if isinstance(said, Hit | Seen) else None
    asks = _asks(said, plan) if said.question else None
    mended = Mend(hit.fix, "") if hit is not None and hit.fix else hit and mend(check_id, facts, hit)
    return Finding(
        key=key,
        check_id=check_id,
        level=level,
        title=_open_title(said, asks) if isinstance(said, Unknown) else row["title"],
        element=said.element,
        figures=said.figures if isinstance(said, Hit) else (),
        detail=hit.detail if hit else "",
        why=row["why"],
        remedy=row["remedy"],
        source=told_source(row, plan.site),
        who=row["who"],
        amendment=plan.site.amendments.get(check_id, ""),
        answerable=answerable,
        answered=f"{answer.reason} ({answer.by})" if answer and answerable else None,
        missing=said.missing if isinstance(said, Unknown) else "",
        asks=asks,
        fix=mended.patch if mended else None,
        fix_words=mended.words if mended else "",
    )


def _open_title(said: Unknown, asks: Asks | None) -> str:
    """What is open, neutrally: the question, or what is not known; never as if the fault were there."""
    return asks.question if asks is not None else f"Not known: {said.missing}"


def _panel_of(plan: Plan, element: Element) -> str:
    if element.room == "feeds":
        return plan.feeds[element.id].panel_id
    return plan.hookups[element.id].panel_id


def _asks(said: Told, plan: Plan) -> Asks:
    row = next(row for row in table("survey") if row["question_id"] == said.question)
    element = said.element
    key = element.id
    if row["room"] == "panels" and element.room in ("feeds", "leads"):
        key = _panel_of(plan, element)
    return Asks(
        question_id=row["question_id"],
        statement=row["statement"],
        question=row["question"],
        room=row["room"],
        id=key,
    )
