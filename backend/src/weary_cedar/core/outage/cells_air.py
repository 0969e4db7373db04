"""When cells are too cold to take charge: they follow the air where they stand, hours behind."""

import math

from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.outage.weather import HOUR_S, OutdoorTemperature
from weary_cedar.core.plan import Place, Plan, Station

#: Cells follow the air with this time constant, h. Common practice: hours.
FOLLOWS_IN_H = 4.0
#: Kinds of place whose air is that outdoors.
OUTDOORS = ("outdoors", "vehicle")


def cold_spans(
    plan: Plan, station: Station, calendar: Calendar, outdoors: OutdoorTemperature
) -> list[tuple[float, float]]:
    """Stretches in which a station's cells take no charge.

    Args:
        plan: for the place where it stands.
        station: its coldest charging temperature; a self-heated one has none.
        calendar: length of the outage.
        outdoors: temperature by the hour.

    Returns:
        (begin, end) in s from the start; nothing where the place is heated or not known. A place
        outdoors or in a vehicle has the air outdoors, one with a coldest temperature is never under it.

    Source: dT/dt = (T_air − T)/4 h by the hour; no charge of lithium under 0 °C, common practice.
    """
    place = plan.places.get(station.place_id or "")
    if place is None or station.self_heated or not _exposed(place):
        return []
    keeps = math.exp(-1.0 / FOLLOWS_IN_H)
    cells_c = _air(place, outdoors.at(0.0))
    spans: list[tuple[float, float]] = []
    for hour in range(int(calendar.length_s // HOUR_S) + 1):
        begins = hour * HOUR_S
        if cells_c < station.charges_from_c:
            if spans and spans[-1][1] == begins:
                spans[-1] = (spans[-1][0], begins + HOUR_S)
            else:
                spans.append((begins, begins + HOUR_S))
        air_c = _air(place, outdoors.at(begins))
        cells_c = air_c + (cells_c - air_c) * keeps
    return spans


def _exposed(place: Place) -> bool:
    return place.kind in OUTDOORS or (place.coldest_c is not None and place.coldest_c < 0)


def _air(place: Place, outdoors_c: float) -> float:
    if place.kind in OUTDOORS:
        return outdoors_c
    return max(outdoors_c, place.coldest_c if place.coldest_c is not None else outdoors_c)
