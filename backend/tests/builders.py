"""Small plans for tests, as the JSON that a person would write."""

from typing import Any

from weary_cedar.core.errors import InvalidPlan
from weary_cedar.core.plan import read_plan

Json = dict[str, Any]


def steady(watts: float) -> Json:
    return {"kind": "steady", "watts": watts}


def cycling(on_w: float, duty: float, period_s: float, **more: Any) -> Json:
    return {"kind": "cycling", "on_w": on_w, "duty": duty, "period_s": period_s, **more}


def job(earliest: str, latest: str, *steps: tuple[float, float], **more: Any) -> Json:
    listed = [{"watts": watts, "minutes": minutes} for watts, minutes in steps]
    return {"kind": "job", "earliest": earliest, "latest": latest, "steps": listed, **more}


def circuit(
    spaces: list[int], mark: str = "keep", order: int = 50, breaker_a: float = 20, **more: Any
) -> Json:
    return {"panel_id": "main", "spaces": spaces, "breaker_a": breaker_a, "label": f"space {spaces[0]}"} | {
        "mark": mark,
        "order": order,
        **more,
    }


def load(circuit_id: str, behaviour: Json, **more: Any) -> Json:
    return {"name": more.pop("name", circuit_id), "circuit_id": circuit_id, "behaviour": behaviour, **more}


def house(
    circuits: Json,
    loads: Json,
    station: Json | None = None,
    outage: Json | None = None,
    strategy: Json | None = None,
) -> Json:
    """A one-panel house on one lossless, ideal 6 kW station unless told otherwise."""
    return {
        "schema_version": 1,
        "name": "Test house",
        "site": {"name": "Test house", "time_zone": "UTC"},
        "panels": {"main": {"name": "Main", "spaces": 24}},
        "circuits": circuits,
        "loads": loads,
        "stations": {
            "unit": {
                "name": "unit",
                "rated_va": 6000.0,
                "nameplate_wh": 5120.0,
                "inverter_efficiency": 1.0,
                "idle_w": 0.0,
                "sleep_w": 0.0,
                "self_discharge_percent_per_week": 0.0,
                "receptacles": {"out": {"kind": "L14-30", "rating_a": 30.0}},
                **(station or {}),
            }
        },
        "feeds": {
            "feed": {
                "source_id": "unit",
                "receptacle_id": "out",
                "cords": [{"length_m": 0.0, "awg": 10}],
                "inlet_a": 30.0,
                "panel_id": "main",
                "breaker_a": 30.0,
                "breaker_spaces": [2, 4],
            }
        },
        "outage": {
            "start_local": "2026-01-12T00:00:00",
            "length_s": 48 * 3600.0,
            "changeover_after_s": 0.0,
            "restore_interval_s": 1.0,
            "occupancy": {"wakes": "00:00:00", "sleeps": "00:00:00"},
            **(outage or {}),
        },
        "strategy": strategy or {},
    }


def one_load(behaviour: Json, space: int = 1, **parts: Any) -> Json:
    """A house with a single load on one circuit."""
    more = parts.pop("load", {})
    return house({"only": circuit([space])}, {"only": load("only", behaviour, **more)}, **parts)


def refusals(document: Json) -> dict[str, str]:
    """What is wrong with a document: field → what would be right; nothing where it is a plan."""
    try:
        read_plan(document)
    except InvalidPlan as error:
        return {problem.field: problem.right for problem in error.problems}
    return {}
