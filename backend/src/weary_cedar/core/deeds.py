"""What each part of the gear does for the plan, in one line each, out of its run."""

from weary_cedar.core.outage import RunResult
from weary_cedar.core.plan import Plan
from weary_cedar.core.supply.sun import array_day

DAY_S = 86_400.0
NOTHING = "gives nothing in this outage"


def deeds(plan: Plan, run: RunResult) -> dict[tuple[str, str], str]:
    """One line for each station, array, engine, vehicle and external battery.

    Args:
        plan: the plan.
        run: its run; without a ledger nothing is said, but of the sun on a clear day.

    Returns:
        (room, id) → words: Wh or kWh a day of the outage; of an array what a clear day gives here.

    Source: the run; the sun as `array_day`.
    """
    days = max(run.length_s, 3600.0) / DAY_S
    words: dict[tuple[str, str], str] = {}
    for key, battery in run.batteries.items():
        got = f", gets {_energy(battery.charged_wh / days)}" if battery.charged_wh > 0 else ""
        told = f"gives {_energy(battery.given_wh / days)} a day{got}; lowest {battery.lowest_percent:.0f} %"
        words["stations", key] = told
    for key in plan.generators:
        share = run.sources.get(f"generators/{key}")
        if share is not None and share.starts:
            burned = (
                ""
                if share.burned_l is None
                else f", burns {plan.site.units.told_volume(share.burned_l / days)} a day"
            )
            words["generators", key] = f"runs {share.on_s / days / 3600:.1f} h a day{burned}"
        else:
            words["generators", key] = "does not run in this outage"
    for key, array in plan.arrays.items():
        words["arrays", key] = _sun(plan, run, key, days) if array.kind != "grid_tied" else "not counted"
    for key in plan.vehicles:
        taken = sum(
            share.taken_wh for lead, share in run.leads.items() if _from(plan, lead) == ("vehicle", key)
        )
        own = run.sources.get(f"vehicles/{key}")
        given = taken + (own.given_wh if own else 0.0)
        told = f"gives {_energy(given / days)} a day" if given else NOTHING
        words["vehicles", key] = told
    for key in plan.externals:
        found = run.externals.get(key)
        taken = found.taken_wh if found else 0.0
        words["externals", key] = f"gives {_energy(taken)} in all" if taken else NOTHING
    return words


def _from(plan: Plan, lead_id: str) -> tuple[str, str]:
    lead = plan.leads.get(lead_id)
    return (lead.source.kind, lead.source.id) if lead else ("", "")


def _sun(plan: Plan, run: RunResult, array_id: str, days: float) -> str:
    """What a clear day gives here, and what the outage takes."""
    array = plan.arrays[array_id]
    watts = array.series * array.parallel * array.module.watts
    sun = array_day(plan.site, array, plan.outage.start_local.date(), plan.outage.weather.high_c)
    clear_wh = sum(sample.share * sample.length_s for sample in sun) / 3600 * watts
    clear = f"the sun gives {_energy(clear_wh)} on a clear day here"
    if array.station_id is None or array.input_id is None:
        return f"{clear}, and none of it is used: it is on no input of a station"
    beside = [
        a for a in plan.arrays.values() if (a.station_id, a.input_id) == (array.station_id, array.input_id)
    ]
    station = plan.stations[array.station_id].name
    shares = [share for share in run.suns.values() if share.station in (array.station_id, station)]
    if len(beside) > 1 or len(shares) != 1:
        return clear
    return f"{clear}; {_energy(shares[0].taken_wh / days)} a day are taken in this outage"


def _energy(wh: float) -> str:
    return f"{wh / 1000:.1f} kWh" if wh >= 1000 else f"{wh:.0f} Wh"
