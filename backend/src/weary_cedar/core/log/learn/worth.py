"""What it does to the chance of a plan when everything that was learnt is taken over."""

from datetime import datetime
from typing import Any, Final

import numpy as np
from pydantic import BaseModel, ConfigDict

from weary_cedar.core.decide.chance import Varying, try_outages, why_not
from weary_cedar.core.decide.chance.tally import share_of
from weary_cedar.core.errors import InvalidPlan
from weary_cedar.core.log.learn.lesson import Lesson
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch

#: In so many outages each is tried; eight in ten end within the band.
OUTAGES: Final = 60
LOW, HIGH = 10.0, 90.0


class Chances(BaseModel):
    """How many outages a plan lasts, with the interval of nine in ten, and between when eight in ten end."""

    model_config = ConfigDict(frozen=True)

    lasted: int
    outages: int
    low: float
    high: float
    #: When eight in ten outages end; nothing where they last to the end.
    ends_from: datetime | None
    ends_to: datetime | None


class LessonWorth(BaseModel):
    """The chance as the plan stands, and with what was learnt."""

    model_config = ConfigDict(frozen=True)

    sentence: str
    before: Chances | None = None
    after: Chances | None = None
    why_not: str = ""


def worth_of(plan: Plan, lesson: Lesson, outages: int = OUTAGES) -> LessonWorth:
    """The chance that a plan lasts, before and after figures that were learnt are taken over.

    Args:
        plan: the plan as it stands.
        lesson: what a session taught; only what is learnt counts.
        outages: how many are tried of each.

    Returns:
        Both chances, of the same outages but for what is surer: what varies beside is drawn alike for both.

    Source: outages as in the chance of a plan; shares with the interval of E. B. Wilson (1927).
    """
    learnt = [figure for figure in lesson.figures if figure.learnt]
    why = why_not(plan) or ("" if learnt else "nothing was learnt that could be taken over")
    if why:
        return LessonWorth(sentence=f"No chance to compare: {why}.", why_not=why)
    try:
        surer = with_lesson(plan, lesson)
    except InvalidPlan as error:
        why = f"what was learnt does not fit the plan as it stands now ({error.detail})"
        return LessonWorth(sentence=f"No chance to compare: {why}.", why_not=why)
    before, after = _chances(plan, outages), _chances(surer, outages)
    return LessonWorth(sentence=_sentence(plan, before, after), before=before, after=after)


def with_lesson(plan: Plan, lesson: Lesson) -> Plan:
    """A plan with everything taken over that was learnt.

    Raises:
        InvalidPlan: the plan would contradict itself.
    """
    document: Any = plan.model_dump(mode="json", exclude_none=True)
    for figure in lesson.figures:
        if figure.learnt:
            document = apply_patch(document, figure.patch)
    return read_plan(document)


def _chances(plan: Plan, outages: int) -> Chances:
    tried = try_outages(plan, range(outages), Varying())
    lasted = sum(one.judged.lasts for one in tried)
    low, high = share_of(lasted, max(1, len(tried)))
    ends = [one.judged.length_s if one.judged.until_s is None else one.judged.until_s for one in tried]
    from_s, to_s = (float(np.percentile(ends, q)) for q in (LOW, HIGH)) if ends else (0.0, 0.0)

    def moment(t: float) -> datetime | None:
        return None if t >= plan.outage.length_s - 1.0 else plan.site.instant(plan.outage.start_local, t)

    return Chances(
        lasted=lasted, outages=len(tried), low=low, high=high, ends_from=moment(from_s), ends_to=moment(to_s)
    )


def _sentence(plan: Plan, before: Chances, after: Chances) -> str:
    same = f"Of the same {before.outages}" if before.outages == after.outages else f"Of {before.outages}"
    return (
        f"{same} outages it lasts in {before.lasted} as the plan stands{_ends(plan, before)}; "
        f"with what was learnt in {after.lasted}{_ends(plan, after)}."
    )


def _ends(plan: Plan, of: Chances) -> str:
    """Between when eight in ten end, where not all of them last."""
    if of.ends_from is None:
        return ""
    told = plan.site.units.told_moment
    last = "the end" if of.ends_to is None else told(of.ends_to)
    return f", eight in ten until between {told(of.ends_from)} and {last}"
