"""What lies in cold boxes, by what a thermometer said: keep it, cook it now, or throw it away."""

from dataclasses import dataclass
from typing import Final, Literal

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.log.from_then_on import Rest, warmth_read
from weary_cedar.core.log.session import Session
from weary_cedar.core.outage import RunResult
from weary_cedar.core.outage.food import SPOILS_AFTER_S
from weary_cedar.core.plan import Plan, Refrigerating
from weary_cedar.core.plan.base import LocalMoment
from weary_cedar.core.plan.load import FOOD_LIMIT_C

#: A thermometer is off by so much, K. Common practice.
READ_OFF_K: Final = 0.5
#: Colder than this it is kept frozen, °C.
FROZEN_C: Final = -5.0


Do = Literal["keep", "cook_now", "throw_away", "not_known"]


class FoodState(BaseModel):
    """One compartment: what to do with what lies in it, why, and what comes next."""

    model_config = ConfigDict(frozen=True)

    name: str
    do: Do
    sentence: str
    read: bool
    contents_c: float
    #: From here on: when it begins to soften, when it is too warm.
    softens: LocalMoment | None = None
    too_warm: LocalMoment | None = None


def food_states(plan: Plan, session: Session, rest: Rest, run: RunResult) -> list[FoodState]:
    """What to do with what lies in the cold boxes of a plan.

    Args:
        plan: the plan of the session.
        session: with what thermometers said.
        rest: the outage from now on.
        run: of that.

    Returns:
        One for each compartment: kept while it is frozen or not over its limit; to be cooked now where it
        thaws or was over the limit for less than two hours; else what spoils is thrown away. Time over the
        limit is counted by the air that was read, which is the careful side.

    Source: food safety agencies: perishable food over 40 °F (4.4 °C) for two hours is thrown away, what
    still holds ice or is at 40 °F and below may be frozen again or cooked; from memory.
    """
    found = []
    for load_id, load in rest.plan.loads.items():
        spec = load.behaviour
        if not isinstance(spec, Refrigerating):
            if load.role == "food":
                found += _by_reading(plan, session, rest, load_id, load.name)
            continue
        read = warmth_read(session, plan, load_id, rest.from_s + rest.lead_s)
        for key, box in spec.compartments.items():
            share = run.compartments.get(f"{load_id}/{key}")
            if share is None:
                continue
            name = load.name if box.name == load.name else f"{load.name}, {box.name}"
            over = _over(plan, session, load_id, key, box.limit_c, rest.from_s + rest.lead_s)
            warm = share.start_c
            frozen = box.set_c < FROZEN_C
            do, words = _judged(warm, frozen, box.limit_c, over, key in read)
            moments = (_moment(rest, share.thaws_at_s), _moment(rest, share.first_over_s))
            next_words = _next(plan, do, frozen, *moments)
            told = plan.site.units.told_warmth(warm)
            basis = "" if key in read else ", by the plan alone"
            sentence = f"{name}: {words} (contents about {told}{basis}){next_words}."
            found.append(
                FoodState(
                    name=name, do=do, sentence=sentence, read=key in read, contents_c=round(warm, 1),
                    softens=moments[0], too_warm=moments[1],
                )
            )  # fmt: skip
    return found


def _by_reading(plan: Plan, session: Session, rest: Rest, load_id: str, name: str) -> list[FoodState]:
    """A cold box of which the plan does not say what lies in it: by the thermometer alone."""
    rows = [
        row for row in session.standing() if row.what == "temperature_c" and row.part == f"loads/{load_id}"
    ]
    rows = [row for row in rows if session.seconds(plan, row.at) <= rest.from_s + rest.lead_s + 1.0]
    if not rows:
        return []
    warm = rows[-1].value or 0.0
    over = _over(plan, session, load_id, "", FOOD_LIMIT_C, rest.from_s + rest.lead_s)
    do, words = _judged(warm, False, FOOD_LIMIT_C, over, True)
    told = plan.site.units.told_warmth(warm)
    sentence = (
        f"{name}: {words} ({told} read; the plan does not say what lies in it, so no moment is foretold)."
    )
    return [FoodState(name=name, do=do, sentence=sentence, read=True, contents_c=round(warm, 1))]


def _judged(warm_c: float, frozen: bool, limit_c: float, over: "_Over | None", read: bool) -> tuple[Do, str]:
    if over is not None and over.read_s >= SPOILS_AFTER_S:
        return "throw_away", "throw away what spoils: read over its limit for two hours and more"
    if over is not None and over.since_s >= SPOILS_AFTER_S:
        return "not_known", (
            "it was over its limit when it was last read: read again. Over it for two hours, what spoils is"
            " thrown away"
        )
    if over is not None:
        return "cook_now", "cook or eat it now: over its limit"
    if warm_c > limit_c + READ_OFF_K:
        return "not_known", "it may be too warm: read a thermometer in it"
    if frozen and warm_c >= -READ_OFF_K:
        return "cook_now", "it thaws: cook it, or freeze it again while it holds ice"
    return "keep", "keep it, and keep it shut"


@dataclass(frozen=True)
class _Over:
    """Over the limit: between the first and the last reading that said so, and since the first, s."""

    read_s: float
    since_s: float


def _over(plan: Plan, session: Session, load_id: str, box: str, limit_c: float, now_s: float) -> _Over | None:
    """How long the air in a compartment was read over the limit; nothing where the last reading was not."""
    spec = plan.loads[load_id].behaviour
    only = isinstance(spec, Refrigerating) and len(spec.compartments) == 1
    since: float | None = None
    last = 0.0
    for row in session.standing():
        mine = row.pack == box or (only and not row.pack)
        at_s = session.seconds(plan, row.at)
        if row.what != "temperature_c" or row.part != f"loads/{load_id}" or not mine or at_s > now_s + 1.0:
            continue
        over = (row.value or 0.0) > limit_c
        since = (at_s if since is None else since) if over else None
        last = at_s
    return None if since is None else _Over(last - since, max(0.0, now_s - since))


def _moment(rest: Rest, t: float | None) -> LocalMoment | None:
    return None if t is None else rest.plan.site.instant(rest.plan.outage.start_local, t).replace(tzinfo=None)


def _next(plan: Plan, do: str, frozen: bool, softens: LocalMoment | None, warm: LocalMoment | None) -> str:
    told = plan.site.units.told_moment
    if do != "keep":
        return ""
    if frozen and softens is not None:
        return f"; it begins to soften {told(softens)}"
    if warm is not None:
        return f"; too warm from {told(warm)} on"
    return "; it stays cold as long as this looks ahead"
