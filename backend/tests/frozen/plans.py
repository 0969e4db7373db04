"""Random plans of schema 1, always the same, and what their runs said when they were frozen.

    python -m frozen.plans > frozen/schema_1.json     writes both anew, from `backend/tests`

Plans are written out whole in the file, so that they stay as they were whatever becomes of this module.
"""

import json
import math
import random
from typing import Any

from builders import Json, circuit, cycling, house, job, load, steady

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.demo import DEMOS, demo_plan

COUNT, SEED = 300, 1
SPACES = ([1], [3], [5], [6], [8], [10], [9, 11], [12, 14])
HOUR_S = 3600.0
#: Lines of the ledger that there were when the plans were frozen.
LEDGER = (
    "stored_start_wh",
    "stored_end_wh",
    "from_battery_wh",
    "loads_wh",
    "inverter_loss_wh",
    "idle_wh",
    "sleep_wh",
    "self_discharge_wh",
    "cord_wh",
)


def behaviour(chance: random.Random) -> Json:
    watts = chance.choice([5.0, 20.0, 60.0, 60.0, 140.0, 333.3, 900.0, 1500.0, 2600.0])
    match chance.randrange(5):
        case 0:
            return steady(watts)
        case 1:
            more: Json = {"defrost": {"watts": 400.0, "seconds": 900.0, "every_s": 36_000.0}}
            period_s = chance.choice([600.0, 2_400.0, 5_400.0])
            duty = chance.choice([0.1, 0.38, 0.75, 1.0])
            return cycling(watts, duty, period_s, phase=chance.random(), **(more if duty < 0.5 else {}))
        case 2:
            begins = chance.randrange(0, 20)
            steps = [(watts, chance.choice([5.0, 45.0])), (watts / 3, 20.0)][: chance.randint(1, 2)]
            split = chance.random() < 0.5
            return job(f"{begins:02}:15:00", f"{begins + 3:02}:00:00", *steps, splittable=split)
        case 3:
            heat: Json = {
                "kind": "thermostatic",
                "loss_w_per_k": chance.choice([120.0, 300.0]),
                "run_w": chance.choice([150.0, 640.0]),
                "before": [{"name": "inducer", "watts": 80.0, "seconds": 30.0}],
            }
            if chance.random() < 0.5:
                heat["setback"] = {"begins": "22:00:00", "ends": "06:00:00", "set_c": 16.0}
            return heat
    times = sorted({0.0, *(float(chance.randrange(1, 7_000)) for _ in range(5))})
    drawn = [chance.choice([0.0, 80.0, 700.0]) for _ in times]
    return {"kind": "measured", "t_s": times, "watts": drawn, "length_s": 7_200.0}


def plan(chance: random.Random) -> Json:
    circuits, loads = {}, {}
    for number, spaces in enumerate(chance.sample(SPACES, chance.randint(1, len(SPACES)))):
        key = f"c{number}"
        mark = chance.choices(["keep", "room", "off"], [6, 3, 1])[0]
        circuits[key] = circuit(
            spaces, mark, chance.randint(1, 90), breaker_a=chance.choice([15.0, 20.0, 30.0])
        )
        for index in range(chance.randint(0, 2)):
            parts: Json = {"power_factor": chance.choice([1.0, 0.95, 0.7])}
            if chance.random() < 0.4:
                start = {"va": chance.choice([900.0, 2_400.0, 5_200.0]), "seconds": chance.choice([0.3, 1.0])}
                parts |= {"start": start, "compressor": chance.random() < 0.5}
            parts |= {
                "drops_on_dip": chance.random() < 0.1,
                "tolerance_s": chance.choice([0.0, 900.0, 14_400.0]),
            }
            loads[f"l{number}{index}"] = load(key, behaviour(chance), **parts)
    station = {
        "rated_va": chance.choice([3_600.0, 6_000.0, 7_200.0]),
        "cell_wh": chance.choice([2_000.0, 5_120.0, 12_288.0, 40_000.0]),
        "cutoff_percent": chance.choice([0.0, 5.0]),
        "inverter_efficiency": chance.choice([0.88, 0.92, 1.0]),
        "idle_w": chance.choice([0.0, 25.0, 55.0]),
        "sleep_w": 3.0,
        "self_discharge_percent_per_week": 0.5,
        "idle_cutout": chance.choice([None, None, {"threshold_w": 15.0, "after_s": 7_200.0}]),
    }
    outage: Json = {
        "length_s": chance.choice([4.0, 24.0, 96.0]) * HOUR_S,
        "start_charge_percent": {"unit": chance.choice([40.0, 100.0])},
        "changeover_after_s": chance.choice([0.0, 900.0]),
        "restore": chance.choice(["one_at_a_time", "all_at_once"]),
        "restore_interval_s": 20.0,
        "occupancy": {"wakes": "06:30:00", "sleeps": chance.choice(["06:30:00", "22:30:00"])},
        "weather": {"low_c": chance.choice([-12.0, 4.0]), "high_c": 11.0},
        "ac_on_at_start": chance.random() < 0.3,
    }
    if chance.random() < 0.2:
        outage["incidents"] = {"cord": {"kind": "cord_unplugged", "at_s": 9_000.0, "for_s": 1_800.0}}
    strategy = {
        "shedding": chance.choice(["automatic", "by_hand", "none"]),
        "room_off_below_percent": chance.choice([None, 30.0]),
    }
    document = house(circuits, loads, station, outage, strategy)
    document["feeds"]["feed"]["cords"][0]["length_m"] = chance.choice([0.0, 7.6])
    return document


def said(result: RunResult) -> Json:
    """What is frozen of a run: everything that a person is told, and the totals of every series."""
    verdict = result.verdict
    kinds = sorted({event.kind for event in result.events})
    times = {kind: [event.t_s for event in result.events if event.kind == kind] for kind in kinds}
    events = {kind: [len(at), math.fsum(at)] for kind, at in times.items()}
    series = result.series
    return {
        "status": verdict.status,
        "until_s": verdict.until_s,
        "dark_at_s": verdict.dark_at_s,
        "first_lost": verdict.first_lost,
        "lowest_percent": verdict.lowest_percent,
        "pinch": verdict.pinch.share if verdict.pinch else None,
        "start_pinch": verdict.start_pinch.share if verdict.start_pinch else None,
        "events": events,
        "loads": {
            key: [share.served_wh, share.without_power_s] for key, share in sorted(result.loads.items())
        },
        "ledger": result.ledger.model_dump(include=set(LEDGER)) if result.ledger else None,
        "points": len(series.t_s),
        "end": [series.stored_wh[-1], series.account[-1]] if series.t_s else None,
    }


def documents() -> dict[str, Json]:
    """The demos, and 300 random plans."""
    chance = random.Random(SEED)
    found = {name: demo_plan(name).model_dump(mode="json", exclude_none=True) for name in DEMOS}
    return found | {f"random {number}": plan(chance) for number in range(COUNT)}


def main() -> None:
    frozen: dict[str, Any] = {
        name: {"plan": document, "said": said(run_outage(read_plan(document)))}
        for name, document in documents().items()
    }
    print(json.dumps(frozen, indent=None, separators=(",", ":")))


if __name__ == "__main__":
    main()
