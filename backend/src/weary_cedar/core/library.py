"""Generic appliances to start from, each figure with its source."""

import re
from datetime import datetime as moment
from datetime import time, timedelta
from typing import cast

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.plan import (
    Behaviour,
    Compartment,
    Cycling,
    Job,
    JobStep,
    Load,
    Refrigerating,
    Role,
    SequenceStep,
    Start,
    Steady,
    Thermostatic,
)
from weary_cedar.core.tables import Row, table, told_source

#: A job may begin this long after its usual hour.
LATITUDE = timedelta(hours=2)


class Appliance(BaseModel):
    """One class of appliance, as a load of a plan would be."""

    model_config = ConfigDict(frozen=True)

    appliance_id: str
    name: str
    room: str
    circuit: str
    #: The breaker that it usually has, A, and its poles in a house of two legs.
    breaker_a: float
    poles: int
    wh_day: float
    load: Load
    source: str


class HeaterClass(BaseModel):
    """One class of heater or cooler on a thermostat: its electrical sequence and start."""

    model_config = ConfigDict(frozen=True)

    heater_id: str
    name: str
    behaviour: Thermostatic
    start: Start | None
    standby_w: float
    source: str

    def load(self, circuit_id: str | None) -> Load:
        """A load of this class on a circuit, or on none."""
        return Load(
            name=self.name,
            circuit_id=circuit_id,
            behaviour=self.behaviour,
            power_factor=0.8,
            start=self.start,
            tolerance_s=3600.0,
            role="heat" if self.behaviour.mode == "heat" else None,
            origin="library",
        )


def heaters() -> list[HeaterClass]:
    """Classes of heaters with typical sequences: inducer, igniter, blower or pumps, post-purge."""
    return [_heater(row) for row in table("heaters")]


def _heater(row: Row) -> HeaterClass:
    steps = [step for step in table("heater_steps") if step["heater_id"] == row["heater_id"]]

    def listed(when: str) -> tuple[SequenceStep, ...]:
        return tuple(
            SequenceStep(name=step["name"], watts=float(step["watts"]), seconds=float(step["seconds"]))
            for step in steps
            if step["when"] == when
        )

    behaviour = Thermostatic(
        mode="cool" if row["mode"] == "cool" else "heat",
        output_w=float(row["output_w"]),
        run_w=float(row["run_w"]),
        before=listed("before"),
        after=listed("after"),
        set_c=24.0 if row["mode"] == "cool" else 20.0,
    )
    return HeaterClass(
        heater_id=row["heater_id"],
        name=row["name"],
        behaviour=behaviour,
        start=Start(va=float(row["start_va"]), seconds=float(row["start_s"])) if row["start_va"] else None,
        standby_w=float(row["standby_w"]),
        source=told_source(row),
    )


def appliances() -> list[Appliance]:
    """The library, in the order of its table."""
    return [_appliance(row) for row in table("appliances")]


def appliance_load(appliance_id: str, circuit_id: str | None) -> Load:
    """A load of a class of appliance on a circuit, or on none.

    Raises:
        KeyError: no such class.
    """
    return _load(_row(appliance_id), circuit_id)


def _appliance(row: Row) -> Appliance:
    return Appliance(
        appliance_id=row["appliance_id"],
        name=row["name"],
        room=row["room"],
        circuit=row["circuit"],
        breaker_a=_breaker_a(row["circuit"]),
        poles=2 if "two-pole" in row["circuit"] else 1,
        wh_day=_wh_day(row),
        load=_load(row, None),
        source=told_source(row),
    )


def _breaker_a(circuit: str) -> float:
    """Amps of the breaker that a class of appliance usually has: "20 A kitchen" is 20."""
    found = re.match(r"\d+", circuit)
    return float(found[0]) if found else 20.0


def _wh_day(row: Row) -> float:
    if row["kind"] == "job":
        return float(row["wh_per_use"])
    return 24 * float(row["running_w"]) * (float(row["duty"]) if row["kind"] == "cycling" else 1.0)


def _load(row: Row, circuit_id: str | None) -> Load:
    start = None
    if row["start_va"]:
        start = Start(va=float(row["start_va"]), seconds=float(row["start_s"] or 0.5))
    cold = row["compressor"] == "yes"
    return Load(
        name=row["name"],
        circuit_id=circuit_id,
        behaviour=_behaviour(row),
        power_factor=float(row["power_factor"]),
        start=start,
        compressor=cold,
        tolerance_s=14_400.0 if cold else 900.0,
        role=row["role"] or None,  # type: ignore[arg-type]
        needs_sine=row["needs_sine"] == "yes",
        origin="library",
    )


def role_of(name: str) -> Role | None:
    """What a load is likely to be for by the words of its name; the first row that fits.

    Source: role_words.csv, common practice. The person may change it.

    >>> role_of("Gas furnace, upstairs"), role_of("aquarium")
    ('heat', None)
    """
    wanted = name.casefold()
    found = (row["role"] for row in table("role_words") if row["words"] in wanted)
    return cast("Role | None", next(found, None))


def beginnings() -> dict[str, Behaviour]:
    """What a load begins with when its kind is changed: typical figures, to be replaced.

    Source: the refrigerator and the furnace of the library; compartments that keep for 4 h and, half full,
    for 24 h, as the guidance of the U.S. Department of Agriculture says (from memory); the rest common
    practice.
    """
    cold = _behaviour(_row("refrigerator"))
    assert isinstance(cold, Cycling)
    job = Job(steps=(JobStep(watts=500.0, minutes=30.0),), earliest=time(18), latest=time(20))
    heat = heaters()[0].behaviour
    return {
        "steady": Steady(watts=20.0),
        "cycling": cold,
        "job": job,
        "thermostatic": heat,
        "refrigerating": Refrigerating(on_w=cold.on_w, compartments=dict(COMPARTMENTS)),
    }


#: Compartments of a usual refrigerator with a freezer, half full.
COMPARTMENTS = {
    "fridge": Compartment(name="refrigerator", contents_kg=30.0, loss_w_per_k=0.6, set_c=3.0, band_k=1.5),
    "freezer": Compartment(name="freezer", contents_kg=8.0, loss_w_per_k=1.3, set_c=-18.0, band_k=3.0),
}


def _row(appliance_id: str) -> Row:
    return {row["appliance_id"]: row for row in table("appliances")}[appliance_id]


def _behaviour(row: Row) -> Steady | Cycling | Job:
    watts = float(row["running_w"])
    if row["kind"] == "cycling":
        return Cycling(on_w=watts, duty=float(row["duty"]), period_s=60 * float(row["period_min"]))
    if row["kind"] == "job":
        at = time.fromisoformat(row["use_at"])
        latest = (moment.combine(moment.min.date() + timedelta(days=1), at) + LATITUDE).time()
        minutes = float(row["use_min"])
        mean_w = min(watts, 60 * float(row["wh_per_use"]) / minutes)
        return Job(steps=_steps(watts, mean_w, minutes), earliest=at, latest=latest)
    return Steady(watts=watts)


def _steps(watts: float, mean_w: float, minutes: float) -> tuple[JobStep, ...]:
    """Full power first for as long as the energy of a use lasts at it, then nearly nothing."""
    full = minutes * mean_w / watts
    if full >= 0.98 * minutes:
        return (JobStep(watts=watts, minutes=minutes),)
    return (JobStep(watts=watts, minutes=full), JobStep(watts=0.0, minutes=minutes - full))
