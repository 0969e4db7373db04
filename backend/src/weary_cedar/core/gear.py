"""Generic classes of gear to start from, each with typical figures and where those are from."""

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.plan import IdleCutout, Receptacle, Station
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.tables import Row, table, told_source


class StationClass(BaseModel):
    """One class of station."""

    model_config = ConfigDict(frozen=True)

    class_id: str
    station: Station
    pack_wh: float | None
    weight_kg: float
    source: str


def station_classes() -> list[StationClass]:
    """The stations of the gear library."""
    return [_station_class(row) for row in table("stations")]


def station_of_class(class_id: str) -> Station:
    """A station with the typical figures of its class.

    Raises:
        KeyError: no such class.
    """
    return {item.class_id: item.station for item in station_classes()}[class_id]


def _station_class(row: Row) -> StationClass:
    receptacles: dict[str, Receptacle] = {}
    for text in row["receptacles"].split(";"):
        kind, _, rating = text.strip().rpartition(" ")
        receptacles[free_id(kind, receptacles)] = Receptacle(kind=kind, rating_a=float(rating))
    station = Station.model_validate(
        {
            "name": row["name"],
            "output": row["output"],
            "rated_va": float(row["rated_va"]),
            "leg_va": float(row["leg_va"]),
            "receptacles": receptacles,
            "nameplate_wh": float(row["nameplate_wh"]),
            "cutoff_percent": float(row["cutoff_percent"]),
            "inverter_efficiency": float(row["inverter_efficiency"]),
            "idle_w": float(row["idle_w"]),
            "sleep_w": float(row["sleep_w"]),
            "idle_cutout": IdleCutout(threshold_w=float(row["idle_cutout_w"]))
            if row["idle_cutout_w"]
            else None,
        }
    )
    return StationClass(
        class_id=row["class_id"],
        station=station,
        pack_wh=float(row["pack_wh"]) if row["pack_wh"] else None,
        weight_kg=float(row["weight_kg"]),
        source=told_source(row),
    )
