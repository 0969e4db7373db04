"""The rest of an outage from a moment of a session on, as a plan that begins with what was read."""

from dataclasses import dataclass
from datetime import timedelta
from typing import Any, Final
from zoneinfo import ZoneInfo

import numpy as np

from weary_cedar.core.demand.cold_store import AIR_SHARE
from weary_cedar.core.log.session import Session, SessionRow
from weary_cedar.core.outage import RunResult, first_part, run_outage
from weary_cedar.core.outage.result import BatteryShare, CompartmentShare
from weary_cedar.core.plan import Act, Load, Plan, Refrigerating
from weary_cedar.core.plan.ids import free_id

#: Rooms of what acts of a session switch.
SWITCHED: Final = (
    "circuits", "loads", "stations", "generators", "vehicles", "externals", "arrays", "leads",
)  # fmt: skip
HOUR_S, DAY_S = 3_600.0, 86_400.0
#: The charge that was read is met within so many points, in so many turns; shorter runs are not made, s.
NEAR_POINTS, TURNS, SHORTEST_S = 0.05, 3, 600.0
#: However long the plan's outage is, so much more is told of one that goes on, s.
LEAST_S: Final = DAY_S


@dataclass(frozen=True)
class Rest:
    """The rest: the plan of it, from when on (s after the beginning), and what was taken as read."""

    plan: Plan
    from_s: float
    #: The plan begins so much before the moment that it is about, s: circuits are all back on by then.
    lead_s: float
    #: By station: charge at that moment, %, and whether it was read or follows from the plan.
    charges: dict[str, float]
    read: bool
    notes: tuple[str, ...]


def as_it_went(plan: Plan, session: Session) -> Plan:
    """The plan of a session: it begins when the session did, and what was switched is among its acts."""
    acts = dict(plan.outage.acts)
    for row in session.standing():
        at_s = session.seconds(plan, row.at)
        room, _, part_id = row.part.partition("/")
        if row.kind != "act" or room not in SWITCHED or part_id not in getattr(plan, room) or at_s < 0:
            continue
        key = free_id(f"log {row.id}", set(acts), "act")
        told: dict[str, Any] = {"at_s": at_s, "room": room, "part_id": part_id, "turn": row.turn}
        acts[key] = Act.model_validate(told)
    length_s = plan.outage.length_s
    kept = {key: act for key, act in acts.items() if act.at_s < length_s}
    outage = plan.outage.model_copy(update={"start_local": session.begins, "acts": kept})
    return plan.model_copy(update={"outage": outage})


def charges_read(session: Session, plan: Plan, until_s: float) -> dict[tuple[str, str], SessionRow]:
    """The last charge that was read of every station and pack, by station and pack."""
    found: dict[tuple[str, str], SessionRow] = {}
    for row in session.standing():
        if row.what == "charge" and session.seconds(plan, row.at) <= until_s + 1.0:
            found[row.part.partition("/")[2], row.pack] = row
    return found


def rest_of(plan: Plan, session: Session, now_s: float, lead_s: float = 0.0) -> Rest:
    """The outage from a moment on.

    Args:
        plan: the plan of the session.
        session: with what was read and done.
        now_s: the moment, s after the beginning.
        lead_s: the plan begins so much earlier, s, so that every circuit is on again at that moment.

    Returns:
        A plan that begins at that moment, or the lead before it, with the charges that were read, carried on
        to then by the run, and with what was switched. Temperatures of cold boxes are those that were read,
        else those of the run. What is told hour by hour from the beginning is told on from there.
    """
    went = as_it_went(plan, session)
    run = run_outage(went)
    notes: list[str] = []
    if went.outage.length_s - now_s < LEAST_S:
        end = went.site.instant(session.begins, went.outage.length_s)
        told = went.site.units.told_moment(end)
        notes.append(
            f"The outage of the plan ends {told}; should it go on, a day more is looked at from here."
        )
    from_s = max(0.0, now_s - lead_s)
    charges, packs, read = _charges(went, session, run, now_s, from_s)
    outage = went.outage
    left_s = max(LEAST_S, outage.length_s - from_s)
    start = went.site.instant(session.begins, from_s).replace(tzinfo=None)
    acts = _acts_from(went, from_s, left_s)
    changed = outage.changeover_after_s <= from_s
    weather = _weather_from(went, from_s)
    if any(load.behaviour.kind == "measured" for load in went.loads.values()):
        notes.append("Loads with a meter's series begin it anew from here.")
    update = {
        "start_local": start,
        "length_s": left_s,
        "start_charge_percent": {**outage.start_charge_percent, **charges},
        "pack_charge_percent": packs,
        "ac_on_at_start": outage.ac_on_at_start or changed,
        "changeover_after_s": 0.0 if changed else outage.changeover_after_s - from_s,
        "acts": acts,
        "incidents": _shifted(outage.incidents, from_s),
        "grid": _shifted(outage.grid, from_s),
        "weather": weather,
    }
    generators = {key: _fuelled(went, session, run, key, now_s) for key in went.generators}
    loads = {key: _cold_from(went, session, run, key, now_s, from_s) for key in went.loads}
    feeds = {key: feed.model_copy(update={"changeover_after_s": 0.0}) if changed else feed
             for key, feed in went.feeds.items()}  # fmt: skip
    rest = went.model_copy(
        update={
            "outage": outage.model_copy(update=update), "generators": generators, "loads": loads,
            "feeds": feeds,
        }
    )  # fmt: skip
    if now_s > from_s and read:
        wanted, _, _ = _charges(went, session, run, now_s, now_s)
        rest, charges = _led_to(rest, now_s - from_s, charges, wanted)
    return Rest(rest, from_s, now_s - from_s, charges, read, tuple(notes))


def _led_to(
    rest: Plan, lead_s: float, charges: dict[str, float], wanted: dict[str, float]
) -> tuple[Plan, dict[str, float]]:
    """A rest that has the charges that were read once its lead is over: what flows until then is made up."""
    for _ in range(TURNS):
        led = run_outage(first_part(rest, max(lead_s + 60.0, SHORTEST_S)))
        off = {
            key: wanted[key] - charges[key] - (_charged(share, lead_s) - _charged(share, 0.0))
            for key, share in led.batteries.items()
            if key in wanted
        }
        if all(abs(points) < NEAR_POINTS for points in off.values()):
            break
        charges = {key: _percent(value + off.get(key, 0.0)) for key, value in charges.items()}
        outage = rest.outage
        packs = {
            key: {pack: _percent(value + off.get(key, 0.0)) for pack, value in own.items()}
            for key, own in outage.pack_charge_percent.items()
        }
        start = {**outage.start_charge_percent, **charges}
        update = {"start_charge_percent": start, "pack_charge_percent": packs}
        rest = rest.model_copy(update={"outage": outage.model_copy(update=update)})
    return rest, charges


def _charged(share: BatteryShare, t: float) -> float:
    return _percent_at(share.t_s, share.stored_wh, share.cell_wh, t)


def _percent(value: float) -> float:
    return min(100.0, max(0.0, value))


def _charges(
    plan: Plan, session: Session, run: RunResult, now_s: float, from_s: float
) -> tuple[dict[str, float], dict[str, dict[str, float]], bool]:
    """Charges at a moment by station and pack: what was read up to now, carried there by the run."""
    read = charges_read(session, plan, now_s)
    charges: dict[str, float] = {}
    packs: dict[str, dict[str, float]] = {}
    for key, share in run.batteries.items():
        own = {pack: row for (station, pack), row in read.items() if station == key}
        by_run = _percent_at(share.t_s, share.stored_wh, share.cell_wh, from_s)
        head = own.get("")
        charges[key] = by_run if head is None else _carried(plan, session, share, head, from_s, by_run)
        named = {pack: row for pack, row in own.items() if pack and pack in plan.stations[key].packs}
        if named:
            packs[key] = {
                pack: _carried(plan, session, share, row, from_s, by_run) for pack, row in named.items()
            }
    for key in plan.outage.start_charge_percent:
        if key not in charges and (key in plan.vehicles or key in plan.externals):
            charges[key] = plan.outage.start_charge_percent[key]
    return charges, packs, bool(read)


def _carried(plan: Plan, session: Session, share: Any, row: SessionRow, now_s: float, by_run: float) -> float:
    at_s = max(0.0, session.seconds(plan, row.at))
    then = _percent_at(share.t_s, share.stored_wh, share.cell_wh, at_s)
    return float(min(100.0, max(0.0, (row.value or 0.0) + by_run - then)))


def _percent_at(t_s: Any, stored_wh: Any, cell_wh: float, at_s: float) -> float:
    return float(100.0 * np.interp(at_s, t_s, stored_wh) / cell_wh) if cell_wh and len(t_s) else 0.0


def _acts_from(plan: Plan, now_s: float, left_s: float) -> dict[str, Act]:
    """Acts from a moment on; what is off then is off from the beginning."""
    last: dict[tuple[Any, ...], tuple[str, Act]] = {}
    later: dict[str, Act] = {}
    for key, act in sorted(plan.outage.acts.items(), key=lambda item: item[1].at_s):
        if act.at_s <= now_s:
            last[act.room, act.part_id, act.outlet_id, act.input_id, act.pack_id] = (key, act)
        elif act.at_s - now_s < left_s:
            later[key] = act.model_copy(update={"at_s": act.at_s - now_s})
    held = {key: act.model_copy(update={"at_s": 0.0}) for key, act in last.values() if act.turn == "off"}
    return {**held, **later}


def _shifted(parts: Any, now_s: float) -> dict[str, Any]:
    """Windows and incidents from a moment on."""
    found = {}
    for key, part in parts.items():
        ends_s = part.at_s + part.for_s - now_s
        if ends_s > 1.0:
            at_s = max(0.0, part.at_s - now_s)
            found[key] = part.model_copy(update={"at_s": at_s, "for_s": ends_s - at_s})
    return found


def _weather_from(plan: Plan, now_s: float) -> Any:
    """The sky and the warmth from a moment on."""
    weather, hours = plan.outage.weather, int(now_s // HOUR_S)
    zone = ZoneInfo(plan.site.time_zone)
    first = plan.outage.start_local.replace(tzinfo=zone).date()
    days = (plan.site.instant(plan.outage.start_local, now_s).date() - first) // timedelta(days=1)
    sky = (
        plan.sky[min(days, len(plan.sky) - 1) :]
        if plan.arrays and weather.hourly_sun is None
        else weather.sky
    )
    sun = weather.hourly_sun
    if sun is not None:
        cut = min(hours, len(sun.ghi_w_m2) - 1)
        parts = {name: getattr(sun, name)[cut:] for name in ("ghi_w_m2", "dni_w_m2", "dhi_w_m2")}
        sun = sun.model_copy(update=parts)
    warm = weather.hourly_c[min(hours, max(0, len(weather.hourly_c) - 1)) :]
    return weather.model_copy(update={"sky": tuple(sky), "hourly_c": warm, "hourly_sun": sun})


def _fuelled(plan: Plan, session: Session, run: RunResult, key: str, now_s: float) -> Any:
    """An engine with the fuel that is left: as it was read last, or what the run has not burned."""
    engine = plan.generators[key]
    read = [row for row in session.standing() if row.what == "fuel_l" and row.part == f"generators/{key}"]
    read = [row for row in read if session.seconds(plan, row.at) <= now_s]
    if read:
        return engine.model_copy(update={"on_hand_l": read[-1].value})
    share = run.sources.get(f"generators/{key}")
    if engine.on_hand_l is None or share is None or not share.burned_l:
        return engine
    on_h = sum(max(0.0, min(span.ends_s, now_s) - span.begins_s) for span in share.ran)
    whole = sum(span.ends_s - span.begins_s for span in share.ran)
    burned = share.burned_l * on_h / whole if whole else 0.0
    return engine.model_copy(update={"on_hand_l": max(0.0, engine.on_hand_l - burned)})


def _cold_from(plan: Plan, session: Session, run: RunResult, key: str, now_s: float, from_s: float) -> Load:
    """A cold box whose contents are as warm as a thermometer said, or as the run has them then."""
    load = plan.loads[key]
    spec = load.behaviour
    if not isinstance(spec, Refrigerating):
        return load
    read = warmth_read(session, plan, key, now_s)
    boxes = {}
    for name, box in spec.compartments.items():
        share = run.compartments.get(f"{key}/{name}")
        if share is None or not share.t_s:
            boxes[name] = box
            continue
        warm = float(np.interp(from_s, share.t_s, share.contents_c))
        row = read.get(name)
        if row is not None:
            then_s = max(0.0, session.seconds(plan, row.at))
            warm += contents_c(row.value or 0.0, spec.room_c, run_air(share, then_s)) - float(
                np.interp(then_s, share.t_s, share.contents_c)
            )
        boxes[name] = box.model_copy(update={"start_c": warm})
    return load.model_copy(update={"behaviour": spec.model_copy(update={"compartments": boxes})})


def warmth_read(session: Session, plan: Plan, load_id: str, until_s: float) -> dict[str, SessionRow]:
    """By compartment of a cold box what a thermometer in it said last."""
    spec = plan.loads[load_id].behaviour
    boxes = spec.compartments if isinstance(spec, Refrigerating) else {}
    only = next(iter(boxes)) if len(boxes) == 1 else ""
    found = {}
    for row in session.standing():
        mine = row.what == "temperature_c" and row.part == f"loads/{load_id}"
        if mine and session.seconds(plan, row.at) <= until_s + 1.0 and (row.pack or only) in boxes:
            found[row.pack or only] = row
    return found


def run_air(share: CompartmentShare, t: float) -> tuple[float, float]:
    """Contents and air of a compartment in a run at a moment, °C."""
    air, contents = (float(np.interp(t, share.t_s, course)) for course in (share.air_c, share.contents_c))
    return contents, air


def contents_c(read_c: float, room_c: float, by_run: tuple[float, float]) -> float:
    """How warm contents are when a thermometer in the air above them reads so much, °C.

    Args:
        read_c: what it reads, °C.
        room_c: air around the box, °C.
        by_run: contents and air as a run has them then, °C: where the compressor has just run, air is the
            colder one; contents are then taken as near to the air as there.

    Source: in still air it reads a fifth of the way from the contents to the room; common practice.
    """
    contents, air = by_run
    still = (read_c - AIR_SHARE * room_c) / (1.0 - AIR_SHARE)
    return still if air >= contents else read_c + (contents - air)
