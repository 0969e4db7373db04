"""Plans side by side: what differs between them in figures that decide."""

from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import BaseModel

from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.outage.result import RunResult
from weary_cedar.core.plan import Plan

#: Under this a source is taken as giving nothing, W.
DARK_W = 1.0
#: Less than this is not told as gone without, Wh.
LEAST_WH = 1.0
#: Less than this is not paid for, L.
LEAST_L = 0.01


class Row(BaseModel):
    """One line of the table: a value for each plan, in words, and whether they differ."""

    what: str
    values: list[str]
    differs: bool


@dataclass(frozen=True)
class Judged:
    """A plan with its run, and how many findings forbid to energise on it."""

    plan: Plan
    run: RunResult
    stops: int


def rows_of(judged: Sequence[Judged]) -> list[Row]:
    """What decides between plans, a row for each figure.

    Args:
        judged: the plans, the one that the others are compared with first.

    Returns:
        Rows in the order of their weight: what is dangerous, how long it lasts, what is dark, fuel and
        engine, charge, food, trips; then a row for each load that goes without anywhere. Energies in Wh
        or kWh, fuel in the units of the first plan.
    """
    told = [_figures(item, judged[0].plan) for item in judged]
    rows = [
        Row(what=what, values=[values[what] for values in told], differs=len({v[what] for v in told}) > 1)
        for what in told[0]
    ]
    return rows + _without(judged)


def _figures(item: Judged, first: Plan) -> dict[str, str]:
    run, verdict = item.run, item.run.verdict
    if run.ledger is None:
        return dict.fromkeys(_NAMES, "not known") | {"stops": _stops(item), "lasts": verdict.sentence}
    units = first.site.units
    engines = [run.sources[key] for key in run.sources if key.startswith("generators/")]
    burned = sum(share.burned_l or 0.0 for share in engines)
    food_s = sum(part.over_s for part in run.compartments.values())
    breakers = sum(event.kind in ("breaker_trip", "input_trip") for event in run.events)
    lowest, stranded = verdict.lowest_percent, verdict.stranded_wh
    return {
        "stops": _stops(item),
        "lasts": verdict.sentence,
        "dark spells": str(sum(load.dark_spells for load in run.loads.values())),
        "went without": _energy(sum(load.unserved_wh for load in run.loads.values())),
        "fuel": units.told_volume(burned),
        "price of fuel": _fuel_price(item),
        "engine hours": f"{sum(share.on_s for share in engines) / 3600:.1f} h",
        "engine starts": str(sum(share.starts or 0 for share in engines)),
        "of them in quiet hours": f"{_quiet_s(item) / 3600:.1f} h",
        "lowest charge": "not known" if lowest is None else f"{lowest:.0f} %",
        "left in cells that cannot be reached": "none" if stranded is None else _energy(stranded),
        "taken from the sun": _energy(sum(sun.taken_wh for sun in run.suns.values())),
        "food too warm": f"{food_s / 3600:.1f} h",
        "trips": str(sum(share.trips for share in run.sources.values()) + breakers),
    }


_NAMES = (
    "stops", "lasts", "dark spells", "went without", "fuel", "price of fuel", "engine hours", "engine starts",
    "of them in quiet hours", "lowest charge", "left in cells that cannot be reached",
    "taken from the sun", "food too warm", "trips",
)  # fmt: skip


def _stops(item: Judged) -> str:
    return "none" if item.stops == 0 else f"{item.stops}: do not energise"


def _fuel_price(item: Judged) -> str:
    """What the fuel that is burned costs; not known where one that is burned has no price."""
    total, without = 0.0, []
    prices: dict[str, tuple[str, float | None, float | None]] = {}
    for key, engine in item.plan.generators.items():
        second = engine.second_fuel.price_per_l if engine.second_fuel else None
        prices[f"generators/{key}"] = (engine.name, engine.fuel_price_per_l, second)
    for key, vehicle in item.plan.vehicles.items():
        prices[f"vehicles/{key}"] = (vehicle.name, vehicle.fuel_price_per_l, None)
    for key, (name, first, second) in prices.items():
        share = item.run.sources.get(key)
        burned = (share.burned_l or 0.0) if share else 0.0
        by_second = (share.second_l or 0.0) if share else 0.0
        for litres, price in ((burned - by_second, first), (by_second, second)):
            if litres > LEAST_L and price is None:
                without.append(name)
            total += litres * (price or 0.0)
    return f"not known: no price for {', '.join(dict.fromkeys(without))}" if without else f"{total:,.2f}"


def _energy(wh: float) -> str:
    return f"{wh / 1000:.1f} kWh" if wh >= 1000 else f"{wh:.0f} Wh"


def _quiet_s(item: Judged) -> float:
    """How long engines run in their quiet hours, s."""
    calendar = Calendar(item.plan.site, item.plan.outage)
    total = 0.0
    for key, engine in item.plan.generators.items():
        share = item.run.sources.get(f"generators/{key}")
        if share is None or engine.quiet is None:
            continue
        windows = calendar.windows(engine.quiet.begins, engine.quiet.ends)
        for index, t in enumerate(share.t_s):
            last = share.t_s[index + 1] if index + 1 < len(share.t_s) else item.run.length_s
            if share.a_w[index] + share.b_w[index] > DARK_W:
                total += sum(max(0.0, min(last, b) - max(t, a)) for a, b in windows)
    return total


def _without(judged: Sequence[Judged]) -> list[Row]:
    """A row for each load that goes without somewhere, the most first."""
    shares = [
        {load.name: load.unserved_wh for load in item.run.loads.values() if load.unserved_wh > LEAST_WH}
        for item in judged
    ]
    names = {name: max(share.get(name, 0.0) for share in shares) for share in shares for name in share}
    rows = []
    for name in sorted(names, key=lambda name: -names[name]):
        values = [_energy(share.get(name, 0.0)) for share in shares]
        rows.append(Row(what=f"went without: {name}", values=values, differs=len(set(values)) > 1))
    return rows
