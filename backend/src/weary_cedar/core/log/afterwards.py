"""After an outage or a test: what was foretold against what was, where the rest went, and what to do next."""

from collections.abc import Iterator
from datetime import datetime
from typing import Any, Final

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.log.displays import charge_at
from weary_cedar.core.log.from_then_on import as_it_went
from weary_cedar.core.log.session import Session, SessionRow
from weary_cedar.core.outage import RunResult, first_part, run_outage
from weary_cedar.core.outage.verdict import spoken_hours
from weary_cedar.core.plan import Plan

#: A charge that was off by more than so many points surprised.
SURPRISES: Final = 10.0
#: A test of so long, with so many readings, answers whether the plan was lived on for a day.
A_DAY_S: Final = 20 * 3_600.0
LEAST_READINGS: Final = 4
#: At most so many surprises are told.
MOST_TOLD: Final = 8
TRIED: Final = "tried-a-day"


class Compared(BaseModel):
    """One figure: as the plan foretold it, as the run has it with what was done, as it was read."""

    model_config = ConfigDict(frozen=True)

    words: str
    unit: str
    planned: float | None = None
    #: With what was switched in the session.
    as_it_went: float | None = None
    read: float | None = None


class Follows(BaseModel):
    """Something that the plan should say from now on, as a merge patch."""

    model_config = ConfigDict(frozen=True)

    words: str
    patch: dict[str, Any]


class Afterwards(BaseModel):
    """How a session went."""

    model_config = ConfigDict(frozen=True)

    sentence: str
    begins: datetime
    ends: datetime
    rows: int
    figures: tuple[Compared, ...] = ()
    #: Loads with what they took by the plan and with what was switched, Wh.
    loads: tuple[Compared, ...] = ()
    surprises: tuple[str, ...] = ()
    blind_spots: tuple[str, ...] = ()
    follows: tuple[Follows, ...] = ()
    why_not: str = ""


def afterwards(plan: Plan, session: Session) -> Afterwards:
    """Set what a plan foretold against what was logged.

    Args:
        plan: the plan of the session.
        session: from its beginning to its last row.

    Returns:
        Hours, charges, energy by load, idle draw, cords, sun and fuel: as planned, as the run has them with
        what was switched, and as they were read where that was; what surprised; what was wanted and is not
        on the plan; what to take over into it. Energies are Wh.
    """
    rows = session.standing()
    last = max((row.at for row in rows), default=session.begins)
    length_s = session.seconds(plan, last)
    if length_s < 60.0:
        why = "there are no rows after its beginning"
        return Afterwards(
            sentence=f"Nothing to compare yet: {why}.",
            begins=session.begins,
            ends=last,
            rows=len(rows),
            why_not=why,
        )
    began = plan.outage.model_copy(update={"start_local": session.begins})
    planned_plan = plan.model_copy(update={"outage": began})
    upto = min(length_s, plan.outage.length_s)
    planned = run_outage(first_part(planned_plan, upto))
    went = run_outage(first_part(as_it_went(plan, session), upto))
    whole = run_outage(planned_plan)
    figures = tuple(_figures(plan, session, planned, went, upto))
    return Afterwards(
        sentence=_sentence(plan, session, whole, rows, length_s), begins=session.begins, ends=last,
        rows=len(rows),
        figures=figures, loads=tuple(_loads(plan, planned, went)),
        surprises=tuple(_surprises(plan, session, went, upto))[:MOST_TOLD],
        blind_spots=tuple(words for words, _ in _blind(plan, rows)),
        follows=tuple(_follows(plan, session, rows, length_s)),
    )  # fmt: skip


def _sentence(plan: Plan, session: Session, whole: RunResult, rows: list[SessionRow], length_s: float) -> str:
    kind = "The test" if session.kind == "test" else "The outage"
    dark = [row for row in rows if row.what == "dark"]
    until = whole.verdict.until
    told = plan.site.units.told_moment
    planned = f"foretold until {told(until)}" if until is not None else "foretold to last"
    if dark:
        return f"{kind} lasted {spoken_hours(length_s)}; it went dark {told(dark[0].at)}, {planned}."
    beyond = ""
    if length_s > plan.outage.length_s + 60.0:
        beyond = (
            f", longer than the {spoken_hours(plan.outage.length_s)} of the plan: that part is not compared"
        )
    return f"{kind} lasted {spoken_hours(length_s)}{beyond}; nothing went dark by this log, {planned}."


def _figures(
    plan: Plan, session: Session, planned: RunResult, went: RunResult, upto: float
) -> Iterator[Compared]:
    for key, station in plan.stations.items():
        rows = _readings(session, "charge", f"stations/{key}", plan, upto)
        if rows:
            at_s = session.seconds(plan, rows[-1].at)
            pack = rows[-1].pack or "head"
            yield Compared(
                words=f"charge of {station.name} at the last reading", unit="%",
                planned=round(charge_at(planned, key, at_s, pack), 1),
                as_it_went=round(charge_at(went, key, at_s, pack), 1), read=rows[-1].value,
            )  # fmt: skip
    for name, words in (
        ("loads_wh", "taken by loads"), ("idle_wh", "idle draw"), ("inverter_loss_wh", "lost in inverters"),
        ("charging_loss_wh", "lost in charging"), ("cord_wh", "warmth of cords"), ("sun_wh", "from the sun"),
        ("engine_wh", "from engines"),
    ):  # fmt: skip
        values = [round(getattr(run.ledger, name), 1) if run.ledger else None for run in (planned, went)]
        if any(values):
            yield Compared(words=words, unit="Wh", planned=values[0], as_it_went=values[1])
    for key, engine in plan.generators.items():
        burned = [run.sources[f"generators/{key}"].burned_l if f"generators/{key}" in run.sources else None
                  for run in (planned, went)]  # fmt: skip
        rows = _readings(session, "fuel_l", f"generators/{key}", plan, upto)
        read = (rows[0].value or 0.0) - (rows[-1].value or 0.0) if len(rows) > 1 else None
        if any(burned) or read:
            litres = [None if value is None else round(value, 2) for value in (*burned, read)]
            yield Compared(
                words=f"fuel burned by {engine.name}", unit="L", planned=litres[0], as_it_went=litres[1],
                read=litres[2],
            )  # fmt: skip


def _readings(session: Session, what: str, part: str, plan: Plan, upto: float) -> list[SessionRow]:
    own = (row for row in session.standing() if row.what == what and row.part == part)
    return [row for row in own if 0 <= session.seconds(plan, row.at) <= upto + 1.0]


def _loads(plan: Plan, planned: RunResult, went: RunResult) -> Iterator[Compared]:
    for key, load in plan.loads.items():
        wh = [run.loads[key].served_wh if key in run.loads else 0.0 for run in (planned, went)]
        if any(wh):
            yield Compared(words=load.name, unit="Wh", planned=round(wh[0], 1), as_it_went=round(wh[1], 1))


def _surprises(plan: Plan, session: Session, went: RunResult, upto: float) -> Iterator[str]:
    told = plan.site.units.told_moment
    for row in session.standing():
        if row.what in ("trip", "dark", "alarm"):
            yield f"{told(row.at)}: {row.told}"
    worst: dict[str, tuple[float, str]] = {}
    for key, station in plan.stations.items():
        for row in _readings(session, "charge", f"stations/{key}", plan, upto):
            expected = charge_at(went, key, session.seconds(plan, row.at), row.pack or "head")
            off = (row.value or 0.0) - expected
            if abs(off) > max(SURPRISES, worst.get(key, (0.0, ""))[0]):
                words = (
                    f"{told(row.at)}: {station.name} {row.value:.0f} % where {expected:.0f} % was expected"
                )
                worst[key] = (abs(off), words)
    yield from (words for _, words in worst.values())


def _blind(plan: Plan, rows: list[SessionRow]) -> Iterator[tuple[str, dict[str, Any]]]:
    """What was switched on though the plan leaves it off: it was wanted, and nobody had thought of it."""
    seen = set()
    for row in rows:
        room, _, key = row.part.partition("/")
        if row.kind != "act" or row.turn != "on" or row.part in seen:
            continue
        seen.add(row.part)
        circuit_id = key if room == "circuits" else None
        if room == "loads" and key in plan.loads:
            circuit_id = plan.loads[key].circuit_id
        circuit = plan.circuits.get(circuit_id or "")
        if circuit is not None and circuit.mark == "off":
            words = f"{row.told}: the plan leaves {circuit.label} off"
            yield words, {"circuits": {circuit_id: {"mark": "room"}}}


def _follows(plan: Plan, session: Session, rows: list[SessionRow], length_s: float) -> Iterator[Follows]:
    for words, patch in _blind(plan, rows):
        yield Follows(words=f"Count it as wanted where there is room ({words})", patch=patch)
    readings = sum(row.kind == "reading" for row in rows)
    if length_s >= A_DAY_S and readings >= LEAST_READINGS and plan.site.survey.get(TRIED) != "yes":
        words = f"The plan was lived on for a day: {spoken_hours(length_s)}, {readings} readings"
        yield Follows(words=words, patch={"site": {"survey": {TRIED: "yes"}}})
