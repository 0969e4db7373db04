"""The legs by time of day, from a run."""

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.electrical.split_phase import lean
from weary_cedar.core.outage.result import RunResult
from weary_cedar.core.plan import Cord, CurvePoint, Lead, Outlet, Plan, Receptacle, Station, ToInput, ToLoads

#: Id of the stand-in for a source without limits.
ENDLESS = "endless-source"


class HourLean(BaseModel):
    """One hour of the day: mean and greatest watts of both legs while the output was on."""

    model_config = ConfigDict(frozen=True)

    hour: int
    a_mean_w: float
    b_mean_w: float
    a_most_w: float
    b_most_w: float
    lean_wh: float


def on_endless_source(plan: Plan) -> Plan:
    """The plan on a source that never runs out and carries everything: what the loads ask for."""
    station = Station(
        name="endless",
        output="120/240" if plan.site.split_phase else "230",
        rated_va=100_000.0,
        nameplate_wh=1_000_000.0,
        inverter_efficiency=1.0,
        idle_w=0.0,
        overload_curve=(CurvePoint(multiple=20.0),),
        receptacles={"out": Receptacle(kind="endless", rating_a=1000.0)},
    )
    big = {"inlet_a": 1000.0, "breaker_a": 1000.0}
    feeds = {key: feed.model_copy(update=big) for key, feed in plan.feeds.items()}
    leads = {key: _on_endless(lead) for key, lead in plan.leads.items() if not isinstance(lead.to, ToInput)}
    outage = plan.outage.model_copy(
        update={
            "changeover_after_s": 0.0,
            "incidents": {},
            "start_charge_percent": {},
            "pack_charge_percent": {},
            "grid": {},
            "acts": {},
        }
    )
    none = {"shedding": "none", "room_off_below_percent": None, "rules": ()}
    strategy = plan.strategy.model_copy(update=none)
    return plan.model_copy(
        update={
            "stations": {**plan.stations, ENDLESS: station},
            "feeds": feeds,
            "leads": leads,
            "arrays": {},
            "externals": {},
            "outage": outage,
            "strategy": strategy,
        }
    )


def _on_endless(lead: Lead) -> Lead:
    """The lead from the endless source, by a cord that loses nothing."""
    end = lead.to
    if isinstance(end, ToLoads):
        end = end.model_copy(update={"plug_a": 1000.0, "overcurrent_a": None})
    outlet = Outlet(kind="station", id=ENDLESS, outlet="out")
    cords = (Cord(length_m=0.0, awg=4),)
    return lead.model_copy(update={"source": outlet, "cords": cords, "adapters": (), "to": end})


def lean_by_hour(result: RunResult) -> list[HourLean]:
    """Mean and greatest watts of both legs for each hour of the day.

    Args:
        result: of a run; stretches without any draw from the cells are left out.

    Returns:
        24 entries, by hours since the clock hour of the start; empty for a run without series.
    """
    series = result.series
    if not series.t_s:
        return []
    offset = (result.start.hour * 3600 + result.start.minute * 60 + result.start.second) / 3600
    sums = [[0.0, 0.0, 0.0, 0.0, 0.0] for _ in range(24)]
    for index, begins in enumerate(series.t_s[:-1]):
        ends, a, b = series.t_s[index + 1], series.a_w[index], series.b_w[index]
        if a == 0 and b == 0:
            continue
        for hour in range(int(offset + begins / 3600), int(offset + ends / 3600) + 1):
            held = min(ends, (hour + 1 - offset) * 3600) - max(begins, (hour - offset) * 3600)
            if held <= 0:
                continue
            cell = sums[hour % 24]
            cell[0] += held
            cell[1] += a * held
            cell[2] += b * held
            cell[3], cell[4] = max(cell[3], a), max(cell[4], b)
    return [
        HourLean(
            hour=hour,
            a_mean_w=a_ws / held if held else 0.0,
            b_mean_w=b_ws / held if held else 0.0,
            a_most_w=a_most,
            b_most_w=b_most,
            lean_wh=lean(a_ws, b_ws),
        )
        for hour, (held, a_ws, b_ws, a_most, b_most) in enumerate(sums)
    ]
