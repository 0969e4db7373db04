"""What would make a plan last: single changes and the smallest set that is enough, each proven by a run."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Final

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.checks import findings_of, stops_of
from weary_cedar.core.decide.changes import Change, Seen, changes_of, patched, rules_of
from weary_cedar.core.errors import WearyCedarError
from weary_cedar.core.network import Network
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.judged import Judged, judge
from weary_cedar.core.outage.verdict import spoken_hours
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.merge import make_patch

#: A change that gains less is not told, s.
LEAST_GAIN_S: Final = 1_800.0
#: So many changes are told singly, and belong to a set at most.
MOST_TOLD, MOST_TOGETHER = 8, 4
#: So many of those that help are tried as a set's next part.
MOST_NEXT: Final = 12
MOST_OF_A_KIND: Final = 2
#: What is missed as much as this must run, as the household said.
HARD: Final = 4.0


class Suggestion(BaseModel):
    """One change: what it gains, what it asks, and the verdict with it."""

    model_config = ConfigDict(frozen=True)

    kind: str
    words: str
    patch: dict[str, Any]
    lasts: bool
    #: How much longer it lasts, s; to the end where it lasts.
    gains_s: float
    minutes_day: float
    litres_day: float
    without: str
    gear: bool
    verdict: str
    outcome: str


class Together(BaseModel):
    """The smallest set that was found to be enough: one patch, each part in words, and the verdict."""

    model_config = ConfigDict(frozen=True)

    words: tuple[str, ...]
    patch: dict[str, Any]
    lasts: bool
    verdict: str


class Suggestions(BaseModel):
    """The answer: in a sentence, single changes, a set where none alone is enough; or why there is none."""

    model_config = ConfigDict(frozen=True)

    sentence: str
    lasts: bool
    singles: tuple[Suggestion, ...] = ()
    #: What needs something that is not owned, where that was asked for.
    with_gear: tuple[Suggestion, ...] = ()
    together: Together | None = None
    #: How many changes were tried, each by a run.
    tried: int = 0
    held: str = ""


@dataclass(frozen=True)
class Found:
    """A change that helps, the plan with it, and what became of that."""

    change: Change
    plan: Plan
    judged: Judged


def suggest(plan: Plan, run: RunResult | None = None, *, gear: bool = False) -> Suggestions:
    """What would make a plan last that does not.

    Args:
        plan: a complete plan.
        run: of that plan; it is run if absent.
        gear: whether changes count that need something which is not owned.

    Returns:
        Changes after which a run of its own lasts, or lasts longer, those first that ask least; where none
        alone is enough the smallest set that was found, of which no part can be left out. Nothing that brings
        a stop which was not there. Of a plan with a stop nothing but that the stop comes first.

    Source: exact: every figure is of a run; sets greedily by gain for trouble, then each part left out once.
    """
    run = run or run_outage(plan)
    stops = stops_of(findings_of(plan, run))
    if stops:
        words = f"First what must not be: {stops[0]}. Nothing is proposed before that is mended."
        return Suggestions(sentence=words, lasts=False, held=stops[0])
    if run.verdict.status == "cannot_judge":
        why = "; ".join(run.verdict.missing)
        return Suggestions(sentence=f"Not judged yet: {why}.", lasts=False, held=why)
    if run.verdict.status == "lasts":
        return Suggestions(sentence="It lasts as it is: nothing has to change.", lasts=True)
    before = lasted_s(_judged(plan))
    found, tried = that_help(Seen(plan, run), before, gear=gear)
    singles = _singles([item for item in found if not item.change.gear], before)
    bought = _singles([item for item in found if item.change.gear], before)
    together = None if any(item.lasts for item in (*singles, *bought)) else _together(plan, found, before)
    return Suggestions(
        sentence=_sentence(run, [*singles, *bought], together, tried), lasts=False, singles=tuple(singles),
        with_gear=tuple(bought), together=together, tried=tried,
    )  # fmt: skip


def _allowed(plan: Plan) -> bool:
    """Whether no check forbids it."""
    return not stops_of(findings_of(plan))


def _judged(plan: Plan) -> Judged:
    network = Network(plan)
    return judge(network, network.plan)


def lasted_s(judged: Judged) -> float:
    """How long an outage lasted, s: all of it where nothing was lost."""
    return judged.length_s if judged.until_s is None else judged.until_s


def that_help(seen: Seen, before_s: float, *, gear: bool) -> tuple[list[Found], int]:
    """Changes after which a plan lasts longer, each proven by a run.

    Args:
        seen: the plan and its run.
        before_s: how long it lasts as it is, s.
        gear: whether changes count that need something which is not owned.

    Returns:
        Those that gain half an hour or are enough, the best for what it asks first; how many were tried.
    """
    found, tried = [], 0
    for change in changes_of(seen, gear=gear):
        try:
            plan = patched(seen.plan, change.patch)
            network = Network(plan)
            judged = judge(network, network.plan)
        except WearyCedarError:
            continue
        tried += 1
        if not any(hang.mark == "keep" for hang in network.hangs.values()):
            continue
        if judged.lasts or lasted_s(judged) >= before_s + LEAST_GAIN_S:
            found.append(Found(change, plan, judged))
    return sorted(found, key=lambda item: _worth(item, before_s)), tried


def _worth(item: Found, before_s: float) -> tuple[float, str]:
    """What gains most for what it asks comes first."""
    return -(lasted_s(item.judged) - before_s) / item.change.trouble, item.change.words


def _singles(found: Sequence[Found], before_s: float) -> list[Suggestion]:
    """A few changes, those that are enough first by what they ask; no more than three of a kind."""
    told: list[Suggestion] = []
    enough = sorted((item for item in found if item.judged.lasts), key=lambda item: item.change.trouble)
    for item in (*enough, *(item for item in found if not item.judged.lasts)):
        if sum(other.kind == item.change.kind for other in told) < MOST_OF_A_KIND and len(told) < MOST_TOLD:
            after = run_outage(item.plan)
            if not stops_of(findings_of(item.plan, after)):
                told.append(_told(item, before_s, after))
    return told


def _told(item: Found, before_s: float, after: RunResult) -> Suggestion:
    gains_s = (after.length_s if after.verdict.until_s is None else after.verdict.until_s) - before_s
    change = item.change
    outcome = "then it lasts" if after.verdict.status == "lasts" else f"lasts {spoken_hours(gains_s)} longer"
    return Suggestion(
        kind=change.kind, words=change.words, patch=dict(change.patch), lasts=after.verdict.status == "lasts",
        gains_s=gains_s, minutes_day=change.minutes_day, litres_day=change.litres_day, without=change.without,
        gear=change.gear, verdict=f"{after.verdict.headline}: {after.verdict.sentence}", outcome=outcome,
    )  # fmt: skip


def _together(plan: Plan, found: Sequence[Found], before_s: float) -> Together | None:
    """The smallest set that is enough: the best change again and again, then what is not needed left out.

    First of what asks nobody to go without what must run.
    """
    gentle = [item.change for item in found if item.change.missed < HARD]
    for pool in (gentle[:MOST_NEXT], [item.change for item in found][:MOST_NEXT]):
        chosen = _enough(plan, pool, before_s)
        if chosen:
            return _without_spare(plan, chosen)
    return None


def _enough(plan: Plan, pool: Sequence[Change], before_s: float) -> list[Change]:
    """Changes that are enough together, each the one that then gains most for what it asks, if any are."""
    chosen: list[Change] = []
    while len(chosen) < MOST_TOGETHER:
        next_ones = []
        for change in pool:
            with_it = _with_all(plan, [change]) if change not in chosen else None
            if with_it is not None:
                next_ones.append(Found(change, with_it, _judged(with_it)))
        ordered = sorted(next_ones, key=lambda item: (not item.judged.lasts, *_worth(item, before_s)))
        best = next((item for item in ordered if _allowed(item.plan)), None)
        if best is None or not (best.judged.lasts or lasted_s(best.judged) > before_s):
            return []
        chosen.append(best.change)
        if best.judged.lasts:
            return chosen
        plan, before_s = best.plan, lasted_s(best.judged)
    return []


def _without_spare(plan: Plan, needed: list[Change]) -> Together:
    """A set that is enough, without what it does not need: each part is left out once."""
    for change in list(needed):
        rest = [other for other in needed if other is not change]
        left_out = _with_all(plan, rest)
        if rest and left_out is not None and _judged(left_out).lasts:
            needed = rest
    whole = _with_all(plan, needed)
    assert whole is not None
    after = run_outage(whole)
    patch = make_patch(_document(plan), _document(whole))
    return Together(
        words=tuple(change.words for change in needed), patch=patch, lasts=after.verdict.status == "lasts",
        verdict=f"{after.verdict.headline}: {after.verdict.sentence}",
    )  # fmt: skip


def _document(plan: Plan) -> dict[str, Any]:
    return plan.model_dump(mode="json", exclude_none=True)


def _with_all(plan: Plan, changes: Sequence[Change]) -> Plan | None:
    """The plan with several changes, rules of one beside those of the other."""
    for change in changes:
        try:
            plan = patched(plan, _beside_rules(plan, change))
        except WearyCedarError:
            return None
    return plan


def _beside_rules(plan: Plan, change: Change) -> dict[str, Any]:
    """The patch of a change with the rules that it adds after those that are there by now."""
    patch = dict(change.patch)
    rules = patch.get("strategy", {}).get("rules")
    if rules is None:
        return patch
    here = rules_of(plan)
    return {**patch, "strategy": {"rules": [*here, *[rule for rule in rules if rule not in here]]}}


def _sentence(run: RunResult, singles: Sequence[Suggestion], together: Together | None, tried: int) -> str:
    enough = [item for item in singles if item.lasts]
    if enough:
        return f"{len(enough)} of {tried} changes that were run are enough alone."
    if together is not None:
        return f"None of {tried} changes that were run is enough alone; {len(together.words)} together are."
    if run.verdict.unreached:
        return f"What must run is not reached by any feed: {run.verdict.sentence}. That comes first."
    if singles:
        return f"None of {tried} changes that were run is enough, nor were any together; these gain time."
    until_s = run.verdict.until_s or 0.0
    brings = [event for event in run.events if event.remedy and event.t_s <= until_s + 1.0]
    told = f" What brings it down: {brings[-1].what}. {brings[-1].remedy}." if brings else ""
    return f"None of {tried} changes that were run gains half an hour.{told}"
