"""How plans begin: from answers, rooms, typed labels, a CSV or a demo; and what would become of answers."""

from collections.abc import Iterator
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from weary_cedar.core import beginning
from weary_cedar.core.answers import Answers, plan_from_answers
from weary_cedar.core.checks import findings_of
from weary_cedar.core.decide.how_sure import judged
from weary_cedar.core.decide.needs import need_list
from weary_cedar.core.inventory import inventory
from weary_cedar.core.outage import RunResult
from weary_cedar.core.outage.result import Verdict
from weary_cedar.core.plan import Plan, ToInput, read_plan
from weary_cedar.core.plan.site import System
from weary_cedar.demo import demo_plan
from weary_cedar.store.edits import canonical
from weary_cedar.workshop.breaker_tables import GivenTable, with_schedule, with_table


class NewPlan(BaseModel):
    """How a plan begins: out of answers, as a demo household, from rooms, typed labels or a CSV, or empty."""

    model_config = ConfigDict(extra="forbid")

    name: str
    begin: Literal["empty", "foothill", "canal", "hut", "orchard", "rooms", "labels", "csv", "answers"] = (
        "empty"
    )
    rooms: Annotated[list[str], Field(max_length=40)] = []
    text: Annotated[str, Field(max_length=200_000)] = ""
    answers: Answers | None = None
    #: Whether breakers of which nothing more is said carry what their labels usually mean.
    usual: bool = False


class BeginningLine(BaseModel):
    """One thing that the plan would have: what it is about, its name, and what it does."""

    topic: Literal["house", "gear", "feed", "needs"]
    name: str
    words: str


class Beginning(BaseModel):
    """What would become of some answers."""

    lines: list[BeginningLine]
    verdict: Verdict
    stops: list[str]
    cautions: int
    open: int


def begun(new: NewPlan) -> Plan:
    """The plan that someone begins.

    Raises:
        InvalidInput: lines that cannot be read, an answer that names what there is not.
        InvalidPlan: parts that contradict each other.
    """
    return read_plan({**canonical(_unnamed(new)), "name": new.name})


def _unnamed(new: NewPlan) -> Plan:
    start = datetime.now().replace(hour=18, minute=0, second=0, microsecond=0)
    if new.begin == "answers":
        answers = new.answers or Answers()
        return plan_from_answers("This house", start, answers, _with_text(new, start, answers.house_system))
    if new.begin == "empty":
        return beginning.empty_plan("This house", start)
    if new.begin == "rooms":
        return beginning.plan_from_rooms("This house", start, new.rooms)
    if new.begin in ("labels", "csv"):
        return _with_text(new, start, "split_phase_120_240")
    return demo_plan(new.begin)


def bare_house(system: System, start: datetime | None = None) -> Plan:
    """A house with a panel without breakers."""
    moment = start or datetime(2026, 1, 1, 18)
    return beginning.house_with("This house", moment, {}, {}, split_phase=system == "split_phase_120_240")


def _with_text(new: NewPlan, start: datetime, system: System) -> Plan:
    """A house with the breakers that were pasted, if any were."""
    house = bare_house(system, start)
    if not new.text.strip() and new.begin == "answers":
        return house
    if new.begin == "csv":
        return with_schedule(house, beginning.PANEL_ID, new.text.encode())
    return with_table(house, GivenTable(text=new.text, usual=new.usual))


def previewed(new: NewPlan) -> bytes:
    """What would become of a plan, as JSON: its parts in words, its verdict, and what the checks say."""
    plan = begun(new)
    run = judged(plan)
    open_ones = [finding for finding in findings_of(plan, run) if not finding.answered]
    return (
        Beginning(
            lines=[*_lines(plan, run_result=run), *_not_by_cord(plan, new)],
            verdict=run.verdict,
            stops=[
                f"{finding.title}: {finding.element.name}" for finding in open_ones if finding.level == "stop"
            ],
            cautions=sum(finding.level == "caution" for finding in open_ones),
            open=sum(finding.level == "cannot_judge" for finding in open_ones),
        )
        .model_dump_json()
        .encode()
    )


def _lines(plan: Plan, run_result: RunResult) -> Iterator[BeginningLine]:
    site, weather = plan.site, plan.outage.weather
    volts = "120/240 V" if site.split_phase else "230 V"
    low_c = site.design_low_c
    cold = (
        f"coldest morning {site.units.told_warmth(low_c)}"
        if low_c is not None
        else "coldest morning not said"
    )
    days = f"{plan.outage.length_s / 3600:.0f} h from {site.units.told_moment(plan.outage.start_local)}"
    air = f"{site.units.told_warmth(weather.low_c)} to {site.units.told_warmth(weather.high_c)} outdoors"
    yield BeginningLine(topic="house", name=volts, words=cold)
    yield BeginningLine(topic="house", name="the outage", words=f"{days}, {air}")
    for item in inventory(plan, run_result).items:
        if item.room in ("stations", "arrays", "generators", "vehicles"):
            words = "; ".join(part for part in (item.words, item.does) if part)
            yield BeginningLine(topic="gear", name=item.name, words=words)
    for key in plan.leads:
        yield BeginningLine(topic="feed", name=plan.lead_name(key), words=_path(plan, key))
    for feed in plan.feeds.values():
        if not any(hookup.feed_id for hookup in plan.hookups.values()):
            yield BeginningLine(topic="feed", name=feed.inlet, words="nothing is plugged into it yet")
    if plan.loads:
        needs = need_list(plan)
        kept = sum(need.mark == "keep" for need in needs.needs)
        words = f"{kept} must run; {needs.wh_day / 1000:.1f} kWh a day, ± {needs.wh_day_error / 1000:.1f}"
        yield BeginningLine(topic="needs", name=_counted(len(needs.needs), "thing"), words=words)
    bare = sum(not any(load.circuit_id == key for load in plan.loads.values()) for key in plan.circuits)
    if bare:
        yield BeginningLine(
            topic="needs", name=_counted(bare, "breaker"), words="nothing is said to be on them yet"
        )


def _not_by_cord(plan: Plan, new: NewPlan) -> Iterator[BeginningLine]:
    """Cords were chosen, and nothing of what is named so far can hang on one, or nothing gives power."""
    if new.answers is None or new.answers.reach != "cords" or plan.leads:
        return
    words = "nothing gives power yet" if not (plan.stations or plan.generators) else (
        "nothing that is named so far has a plug: heat and pumps are wired in, and a cord does not reach them"
        if plan.loads
        else "nothing is named yet that hangs on them"
    )  # fmt: skip
    yield BeginningLine(topic="feed", name="cords to the appliances", words=words)


def _counted(count: int, name: str) -> str:
    return f"{count} {name}" if count == 1 else f"{count} {name}s"


def _path(plan: Plan, lead_id: str) -> str:
    lead = plan.leads[lead_id]
    if isinstance(lead.to, ToInput):
        recharge = plan.recharges[lead_id]
        asked = "" if recharge.said else ", as much as its input takes"
        return f"charges it at {recharge.setting_w:,.0f} W{asked}"
    hookup = plan.hookups[lead_id]
    if hookup.feed_id is None:
        return f"{_counted(len(hookup.load_ids), 'thing')} by cord, {hookup.inlet}"
    wired = f", {_counted(len(hookup.circuit_ids), 'circuit')}" if hookup.circuit_ids else ""
    return f"{hookup.traits.asked}, {hookup.inlet}, {hookup.inlet_a:g} A{wired}"
