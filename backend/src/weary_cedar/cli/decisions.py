"""Commands that decide with figures: may it start, how likely, what would help, when, how much to buy."""

from functools import partial
from time import monotonic
from typing import Annotated, Literal

import typer

from weary_cedar.cli.session import Now, SessionOption, standing
from weary_cedar.cli.terminal import MOST_S, AsJson, PlanFile, app, plan_from, refuse, say
from weary_cedar.core.advice.may_start import asked_of, may_start
from weary_cedar.core.advice.schedule import USUAL_OUTAGES, schedule
from weary_cedar.core.advice.size import Choice, SizeAsked, size
from weary_cedar.core.advice.suggest import suggest
from weary_cedar.core.advice.why import why
from weary_cedar.core.checks import findings_of, stops_of
from weary_cedar.core.decide.chance import MOST_OUTAGES, Chance, Varying, chance_of, not_worked_out
from weary_cedar.core.decide.chance.drawn import LONGEST_S, SHORTEST_S
from weary_cedar.core.decide.for_ever import for_ever
from weary_cedar.core.decide.heat_choice import heat_choices
from weary_cedar.core.decide.ways_in import ways_in
from weary_cedar.core.outage import run_outage
from weary_cedar.formats.quantity import read_quantity


@app.command("start")
def do_start(
    plan_file: PlanFile,
    at: Annotated[
        str | None,
        typer.Option("--at", help="The moment after the cut, such as 36 h; of a session: after now."),
    ] = None,
    load_id: Annotated[str | None, typer.Option("--load", help="A load of the plan, by its id.")] = None,
    power: Annotated[str | None, typer.Option("--watts", help="Of another one, such as 1100 W.")] = None,
    starting: Annotated[str | None, typer.Option("--start", help="What that takes to start, in VA.")] = None,
    lasts: Annotated[str | None, typer.Option("--for", help="How long it runs, such as 10 min.")] = None,
    circuit_id: Annotated[str | None, typer.Option("--circuit", help="Where that is plugged in.")] = None,
    session_file: SessionOption = None,
    now: Now = None,
    as_json: AsJson = False,
) -> None:
    """May it be started at a moment of the outage? Exit code 0: yes as it is, 1: not so, 2: bad input."""
    if at is None and session_file is None:
        refuse("--at: got nothing; should be a moment after the cut, such as 36 h", [])
    plan, now_s = standing(plan_file, session_file, now)
    run = run_outage(plan)

    def read(text: str | None, field: str, *kinds: str) -> float | None:
        return None if text is None else read_quantity(text, field, *kinds).value

    asked = asked_of(
        plan,
        load_id=load_id,
        watts=read(power, "--watts", "power"),
        start_va=read(starting, "--start", "apparent"),
        lasts_s=read(lasts, "--for", "time"),
        circuit_id=circuit_id,
    )
    stops = stops_of(findings_of(plan, run))
    answer = may_start(plan, run, now_s + (read(at, "--at", "time") or 0.0), asked, stops)
    if as_json:
        print(answer.model_dump_json(indent=1))
    else:
        say(answer.sentence)
    raise SystemExit(0 if answer.answer == "yes" else 1)


@app.command("chance")
def do_chance(
    plan_file: PlanFile,
    outages: Annotated[
        int, typer.Option("--outages", min=1, max=MOST_OUTAGES, help="At most so many; fewer where enough.")
    ] = 200,
    seed: Annotated[int, typer.Option("--seed", min=0, max=1_000_000_000, help="Of the dice.")] = 1,
    any_hour: Annotated[bool, typer.Option("--any-hour", help="It may begin at any hour.")] = False,
    one_in_ten: Annotated[
        str | None, typer.Option("--one-in-ten", help="One outage in ten lasts so long, such as 7 d.")
    ] = None,
    no_start: Annotated[
        float, typer.Option("--no-start", min=0, max=1, help="How often an engine does not come on.")
    ] = 0.02,
    forgets: Annotated[
        float, typer.Option("--forgets", min=0, max=1, help="How often someone forgets, or comes late.")
    ] = 0.05,
    wanted: Annotated[
        float, typer.Option("--wanted", min=0, max=1, help="The chance below which the exit code is 1.")
    ] = 0.9,
    as_json: AsJson = False,
) -> None:
    """How likely is it that the plan lasts? Exit code 0: as likely as wanted, 1: less so, 2: bad input."""
    plan = plan_from(plan_file)
    longest_s = None if one_in_ten is None else read_quantity(one_in_ten, "--one-in-ten", "time").value
    if longest_s is not None and not SHORTEST_S <= longest_s <= LONGEST_S:
        refuse(f"--one-in-ten: got {one_in_ten}; should be from 1 h to 14 d", [])
    begins: Literal["any_hour", "as_said"] = "any_hour" if any_hour else "as_said"
    varying = Varying(seed=seed, no_start=no_start, forgets=forgets, begins=begins, one_in_ten_s=longest_s)
    stops = stops_of(findings_of(plan))
    why = f"this must not be energised: {stops[0]}" if stops else ""
    begun = monotonic()
    late = partial(_is_late, begun)
    found = not_worked_out(why) if stops else chance_of(plan, outages, varying, late)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(*_chance_in_words(found))
    raise SystemExit(0 if found.outages and found.share >= wanted else 1)


def _is_late(begun: float) -> bool:
    """Whether half of the time that a command has is over: what was found by then is told."""
    return monotonic() - begun > MOST_S / 2


def _chance_in_words(found: Chance) -> list[str]:
    lines = [found.sentence[0].upper() + found.sentence[1:]]
    if found.outages:
        lines.append(f"{found.lasted} of {found.outages} outages that were run")
    lines += [*found.notes, *(f"    {100 * item.share:.0f} %: {item.words}" for item in found.first_failures)]
    lines += [f"What it hangs on: {item.words}, {100 * item.share:.0f} %" for item in found.doubts]
    if found.next:
        lines.append(f"Next: {found.next}")
    return lines


@app.command("why")
def do_why(
    plan_file: PlanFile,
    as_json: AsJson = False,
) -> None:
    """Where did the energy go until it failed? Exit code 0: it lasts, 1: it does not, 2: bad input."""
    plan = plan_from(plan_file)
    run = run_outage(plan)
    found = why(plan, run)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(found.sentence)
        rows = (
            ("Stored and got", found.came),
            ("Went", found.went),
            ("Offered and not taken", found.not_taken),
        )
        for name, bars in rows:
            say(*([f"{name}:", *(f"    {bar.wh:10,.0f} Wh  {bar.words}" for bar in bars)] if bars else []))
    raise SystemExit(0 if run.verdict.status == "lasts" else 1)


@app.command("suggest")
def do_suggest(
    plan_file: PlanFile,
    gear: Annotated[bool, typer.Option("--gear", help="With what is not owned yet, too.")] = False,
    session_file: SessionOption = None,
    now: Now = None,
    as_json: AsJson = False,
) -> None:
    """What would make it last? Exit code 0: it lasts, or something is enough, 1: nothing is, 2: bad input."""
    found = suggest(standing(plan_file, session_file, now)[0], gear=gear)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(found.sentence)
        for item in (*found.singles, *found.with_gear):
            say(f"    {item.words}: {item.outcome}")
        if found.together is not None:
            say("Together:", *(f"    {words}" for words in found.together.words), found.together.verdict)
    enough = found.lasts or found.together is not None
    raise SystemExit(0 if enough or any(item.lasts for item in (*found.singles, *found.with_gear)) else 1)


@app.command("schedule")
def do_schedule(
    plan_file: PlanFile,
    begins: Annotated[
        str | None, typer.Option("--from", help="From this moment after the cut on, such as 36 h.")
    ] = None,
    outages: Annotated[
        int, typer.Option("--outages", min=0, max=200, help="Try it in so many outages as they may be, too.")
    ] = USUAL_OUTAGES,
    session_file: SessionOption = None,
    now: Now = None,
    as_json: AsJson = False,
) -> None:
    """When to do what? Exit code 0: by the schedule it lasts, 1: it does not, 2: bad input."""
    from_s = 0.0 if begins is None else read_quantity(begins, "--from", "time").value
    late = partial(_is_late, monotonic())
    plan, now_s = standing(plan_file, session_file, now)
    found = schedule(plan, from_s=now_s + from_s, outages=outages, late=late)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(found.sentence, *(f"    {item.words}" for item in found.doings))
        say(*(f"{line.words}: {line.before} -> {line.after}" for line in found.costs))
        say(*filter(None, (found.gap, found.chance, found.verdict)))
        say(*(f"{day.day}: {day.text}" for day in found.days))
    raise SystemExit(0 if found.lasts else 1)


@app.command("size")
def do_size(
    plan_file: PlanFile,
    days: Annotated[
        float | None, typer.Option("--days", min=0.5, max=14, help="How long the outage is.")
    ] = None,
    chance: Annotated[float, typer.Option("--chance", min=0.5, max=0.99, help="That it lasts.")] = 0.9,
    month: Annotated[
        int | None, typer.Option("--month", min=1, max=12, help="When it is; temperatures stay.")
    ] = None,
    as_json: AsJson = False,
) -> None:
    """How much to buy? Exit code 0: something is enough, 1: nothing that was tried, 2: bad input."""
    late = partial(_is_late, monotonic())
    found = size(plan_from(plan_file), SizeAsked(days=days, chance=chance, month=month), stop=late)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(found.sentence)
        say(*(f"    {_choice_in_words(choice)}" for choice in found.choices), *found.notes)
    raise SystemExit(0 if found.choices else 1)


def _choice_in_words(choice: Choice) -> str:
    money = "price not said" if choice.money is None else f"{choice.money:,.0f} in money"
    weight = "weight not said" if choice.weight_kg is None else f"{choice.weight_kg:,.0f} kg"
    asked = f"{choice.fuel_day} and {choice.minutes_day:.0f} min a day"
    return f"{choice.words}: {choice.lasted} of {choice.outages} outages last; {money}, {weight}, {asked}"


@app.command("heat")
def do_heat(plan_file: PlanFile, as_json: AsJson = False) -> None:
    """Heat by the station, by the engine or by gas? Exit code 0: it is said, 1: not known, 2: bad input."""
    plan = plan_from(plan_file)
    found = heat_choices(plan, run_outage(plan), stops_of(findings_of(plan)))
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(*(f"{item.name}: {item.sentence}" for item in found.choices), found.why_not or found.caution)
    raise SystemExit(0 if found.choices else 1)


@app.command("ways-in")
def do_ways_in(plan_file: PlanFile, as_json: AsJson = False) -> None:
    """By cords, a switch for one circuit, an interlock or a transfer switch? Exit code 1: not known."""
    plan = plan_from(plan_file)
    stops = stops_of(findings_of(plan))
    found = ways_in(plan, stops)
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(found.sentence, *(f"    {way.sentence} {way.permit}" for way in found.ways), found.defers)
    raise SystemExit(1 if found.why_not or stops else 0)


@app.command("for-ever")
def do_for_ever(plan_file: PlanFile, as_json: AsJson = False) -> None:
    """Does it hold for ever, under which sky? Exit code 0: under some sky, 1: under none, 2: bad input."""
    plan = plan_from(plan_file)
    found = for_ever(plan, stops_of(findings_of(plan)))
    if as_json:
        print(found.model_dump_json(indent=1))
    else:
        say(found.sentence, *(f"    {day.name}: {day.words}" for day in found.days))
    raise SystemExit(0 if any(day.holds for day in found.days) else 1)
