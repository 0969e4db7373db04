"""Many outages added up: the chance, what fails first, how batteries go, and which doubt matters."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from pydantic import BaseModel, ConfigDict
from scipy.stats import binomtest, rankdata

from weary_cedar.core.decide.chance.doubts import CIRCUMSTANCES, Doubt, doubts_of
from weary_cedar.core.decide.chance.drawn import Varying, drawn, of_set_hours
from weary_cedar.core.errors import RunTooLong
from weary_cedar.core.network import Network
from weary_cedar.core.outage.judged import HOUR_S, Judged, judge
from weary_cedar.core.outage.verdict import spoken_hours
from weary_cedar.core.plan import Plan

#: How many outages there are after each step, and at most.
BATCHES: Final = tuple(range(20, 501, 20))
MOST_OUTAGES: Final = BATCHES[-1]
#: It is enough when the interval is not wider than this on either side.
CLOSE_ENOUGH: Final = 0.04
#: A chance from which on it is told in passing only. Common practice, no source.
LIKELY: Final = 0.9
#: The interval holds nine times out of ten.
CONFIDENCE: Final = 0.9
QUANTILES: Final = (5, 25, 50, 75, 95)
#: A doubt that explains less of what becomes of the outages is not named.
LEAST_SHARE: Final = 0.03
#: Causes that are rarer than this are told together.
MOST_CAUSES: Final = 6
MOST_DOUBTS: Final = 7


@dataclass(frozen=True)
class Tried:
    """One outage that was tried: its number, what became of it, and by how much each doubt was off."""

    number: int
    judged: Judged
    off: dict[str, float]

    @property
    def score(self) -> float:
        """How well it went: the share that it lasted, or above 1 what was left at the least."""
        judged = self.judged
        if judged.until_s is not None:
            return judged.until_s / judged.length_s
        return 1.0 + judged.lowest_percent / 100.0


def share_of(lasted: int, count: int) -> tuple[float, float]:
    """Between what the share of outages lies that a plan lasts, nine times in ten.

    Args:
        lasted: how many it lasted.
        count: of how many; one at least.

    Source: E. B. Wilson, J. Amer. Statist. Assoc. 22 (1927) 209, by SciPy.
    """
    interval = binomtest(lasted, count).proportion_ci(CONFIDENCE, method="wilson")
    return float(interval.low), float(interval.high)


class FirstFailure(BaseModel):
    """What fails first, how often, and when in the middle of these outages."""

    model_config = ConfigDict(frozen=True)

    words: str
    load_id: str | None
    part: str
    share: float
    until_s: float


class DoubtShare(BaseModel):
    """How much of what becomes of the outages hangs on one doubt, and what makes it surer."""

    model_config = ConfigDict(frozen=True)

    words: str
    share: float
    remedy: str
    part: str


class Band(BaseModel):
    """Charge of one battery by the hour, %: below it are 5, 25, 50, 75 and 95 of 100 outages."""

    model_config = ConfigDict(frozen=True)

    name: str
    #: How it stands at the last hour that is told.
    words: str
    t_s: tuple[float, ...]
    percent: dict[str, tuple[float, ...]]


class Chance(BaseModel):
    """The answer after so many outages."""

    model_config = ConfigDict(frozen=True)

    outages: int
    lasted: int
    share: float
    low: float
    high: float
    sentence: str
    #: The chance and its interval in a few words, the same figures as in the sentence.
    brief: str = ""
    #: Whether that is a chance to rely on, and what varied besides the figures.
    likely: bool = False
    varying: Varying = Varying()
    #: Whether more outages would say more: the interval is still wide.
    done: bool
    #: Half of the outages that do not last get further than this, s.
    until_s: float | None
    first_failures: tuple[FirstFailure, ...] = ()
    doubts: tuple[DoubtShare, ...] = ()
    #: What to measure or decide next, in words.
    next: str = ""
    bands: dict[str, Band] = {}
    #: Numbers of the outage in the middle and of the worst, to look at.
    middle: int | None = None
    worst: int | None = None
    #: Outages that could not be counted through.
    skipped: int = 0
    #: What was asked to vary and does not, with the reason.
    notes: tuple[str, ...] = ()
    #: Why nothing was worked out, if that is so.
    why_not: str = ""


def not_worked_out(why: str, skipped: int = 0) -> Chance:
    """What is said where no chance can be told: never a number."""
    none = {"outages": 0, "lasted": 0, "share": 0.0, "low": 0.0, "high": 1.0, "until_s": None, "done": True}
    words = f"chance not worked out: {why}"
    return Chance.model_validate({**none, "sentence": words, "why_not": why, "skipped": skipped})


def why_not(plan: Plan) -> str:
    """Why the chance of a plan cannot be told; empty where it can."""
    network = Network(plan)
    if not network.running:
        return "nothing feeds anything yet"
    if not any(hang.mark == "keep" for hang in network.hangs.values()):
        return "nothing is marked keep yet"
    return ""


def try_outages(plan: Plan, numbers: Sequence[int], varying: Varying | None = None) -> list[Tried]:
    """Run outages of a plan as they may be.

    Args:
        plan: a complete plan with something to run.
        numbers: of the outages.
        varying: the seed and what else varies.

    Returns:
        Those that could be counted through, in their order; each hangs on its number alone.
    """
    network = Network(plan)
    assert not why_not(plan), "nothing to run"
    found = []
    for number in numbers:
        one = drawn(network.plan, number, varying or Varying())
        try:
            found.append(Tried(number, judge(network, one.plan, one.fails_at), dict(one.off)))
        except RunTooLong:
            continue
    return found


def tally(
    plan: Plan, tried: Sequence[Tried], asked: int | None = None, varying: Varying | None = None
) -> Chance:
    """What many outages say together.

    Args:
        plan: the plan.
        tried: outages of it.
        asked: how many were to be tried; as many as there are if absent.
        varying: what else was asked to vary.

    Returns:
        The share that lasts with its 90 % interval (Wilson), first failures, bands, doubts by their share of
        the squared rank correlation with how each outage went.

    Source: E. B. Wilson, J. Am. Stat. Assoc. 22 (1927) 209, by SciPy; rank correlation after Spearman.
    """
    count, lasted = len(tried), sum(item.judged.lasts for item in tried)
    if not count:
        return not_worked_out("none of these outages could be counted through", asked or 0)
    low, high = share_of(lasted, count)
    failed = [item for item in tried if not item.judged.lasts]
    until = sorted(item.judged.until_s or 0.0 for item in failed)
    order = sorted(tried, key=lambda item: (item.score, item.number))
    failures, shares = _first_failures(plan, failed), _doubts(plan, tried)
    close = max(high - lasted / count, lasted / count - low) <= CLOSE_ENOUGH
    return Chance(
        outages=count,
        lasted=lasted,
        share=lasted / count,
        likely=lasted / count >= LIKELY,
        varying=varying or Varying(),
        low=low,
        high=high,
        brief=_brief(lasted / count, low, high),
        sentence=_sentence(lasted, count, low, high, failures),
        done=close or (asked or count) >= MOST_OUTAGES,
        until_s=until[len(until) // 2] if until else None,
        first_failures=failures,
        doubts=tuple(share for _, share in shares),
        next=next((share.remedy for doubt, share in shares if doubt.kind != "bear" and share.remedy), ""),
        bands=_bands(plan, tried),
        middle=order[len(order) // 2].number,
        worst=order[0].number,
        skipped=(asked or count) - count,
        notes=_notes(plan, varying),
    )


def _notes(plan: Plan, varying: Varying | None) -> tuple[str, ...]:
    """What was asked to vary and does not."""
    held = of_set_hours(plan) if varying is not None and varying.begins == "any_hour" else ""
    return (f"It begins when the plan says: {held}.",) if held else ()


def chance_of(
    plan: Plan,
    outages: int = MOST_OUTAGES,
    varying: Varying | None = None,
    stop: Callable[[], bool] = lambda: False,
) -> Chance:
    """The chance that a plan lasts, after as many outages as are needed, at most so many.

    Args:
        plan: a complete plan with something to run.
        outages: at most.
        varying: the seed and what else varies.
        stop: asked after every step, whether those that were run have to do.

    Returns:
        As `tally`; it stops sooner when the interval is narrow enough.
    """
    why = why_not(plan)
    if why:
        return not_worked_out(why)
    tried: list[Tried] = []
    found, done = None, 0
    for upto in (*[step for step in BATCHES if step < outages], outages):
        tried += try_outages(plan, range(done, upto), varying)
        found, done = tally(plan, tried, upto, varying), upto
        if found.done or stop():
            break
    assert found is not None
    return found


def _percent(share: float) -> str:
    return f"{100 * share:.0f}"


def _brief(share: float, low: float, high: float) -> str:
    return f"{_percent(share)} of 100 ({_percent(low)}–{_percent(high)})"


def _sentence(lasted: int, count: int, low: float, high: float, failures: Sequence[FirstFailure]) -> str:
    """The chance in words: never surer than the outages that were run."""
    of = "lasts in " + _brief(lasted / count, low, high).replace(" (", " outages like this (")
    if not failures:
        return of
    first = failures[0]
    often = "it is mostly that" if first.share < 0.95 else "then"
    return f"{of}; if not, {often} {first.words}"


def _first_failures(plan: Plan, failed: Sequence[Tried]) -> tuple[FirstFailure, ...]:
    """What brings the first load down, by how often it does."""
    groups: dict[tuple[str, str], list[Tried]] = {}
    for item in failed:
        cause = item.judged.cause
        groups.setdefault(cause[:2] if cause else ("", item.judged.first_lost or ""), []).append(item)
    found = []
    for group in groups.values():
        until = sorted(item.judged.until_s or 0.0 for item in group)
        at_s = until[len(until) // 2]
        loads = [item.judged.first_lost for item in group]
        load_id = max(sorted({x for x in loads if x}), key=loads.count, default=None)
        cause = group[0].judged.cause
        name = plan.loads[load_id].name if load_id else "what must run"
        why = _lowered(cause[2]) if cause else f"{name} is without power too long"
        words = why + (f", after {spoken_hours(at_s)}" if at_s >= 1.0 else "")
        words += f"; {name} goes first" if cause and name not in why else ""
        found.append(
            FirstFailure(
                words=words, load_id=load_id, part=cause[1] if cause else "",
                share=len(group) / len(failed), until_s=at_s,
            )
        )  # fmt: skip
    return tuple(sorted(found, key=lambda item: (-item.share, item.words))[:MOST_CAUSES])


def _lowered(words: str) -> str:
    """Words of an event within a sentence: its first word small where it is an article."""
    return words[0].lower() + words[1:] if words.startswith(("The ", "Circuits ", "Off ")) else words


def _doubts(plan: Plan, tried: Sequence[Tried]) -> list[tuple[Doubt, DoubtShare]]:
    """Doubts by their share in how outages go; those that do not matter are left out."""
    if len(tried) < BATCHES[0]:
        return []
    scores = rankdata([item.score for item in tried])
    if np.ptp(scores) == 0:
        return []
    found = []
    for doubt in (*doubts_of(plan), *CIRCUMSTANCES):
        values = [item.off.get(doubt.key, 0.0) for item in tried]
        if max(values) > min(values):
            found.append((doubt, float(np.corrcoef(rankdata(values), scores)[0, 1]) ** 2))
    noise = 1.0 / len(tried)
    whole = math.fsum(max(0.0, square - noise) for _, square in found)
    shares = []
    for doubt, square in found:
        share = max(0.0, square - noise) / whole if whole > 0 else 0.0
        if share >= LEAST_SHARE:
            said = DoubtShare(words=doubt.words, share=share, remedy=doubt.remedy, part=doubt.part)
            shares.append((doubt, said))
    return sorted(shares, key=lambda x: -x[1].share)[:MOST_DOUBTS]


def _bands(plan: Plan, tried: Sequence[Tried]) -> dict[str, Band]:
    """Charge of every battery by the hour, as long as a quarter of the outages last."""
    found = {}
    for key in tried[0].judged.percents:
        rows = [item.judged.percents[key] for item in tried if key in item.judged.percents]
        lengths = sorted((len(row) for row in rows), reverse=True)
        hours = lengths[(len(lengths) - 1) // 4]
        columns = [[row[hour] for row in rows if hour < len(row)] for hour in range(hours)]
        quantiles = np.array([np.percentile(column, QUANTILES) for column in columns]).round(2)
        percent = {str(q): tuple(quantiles[:, place].tolist()) for place, q in enumerate(QUANTILES)}
        times = tuple(HOUR_S * hour for hour in range(hours))
        name, low, middle, high = plan.stations[key].name, *(percent[q][-1] for q in ("5", "50", "95"))
        words = f"{name}: after {spoken_hours(times[-1])} {middle:.0f} % in the middle outage"
        words += f", {low:.0f} to {high:.0f} % in nine of ten"
        found[key] = Band(name=name, words=words, t_s=times, percent=percent)
    return found
