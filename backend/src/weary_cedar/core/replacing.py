"""Another station in the place of one: what is plugged stays plugged."""

from collections.abc import Mapping

from weary_cedar.core.electrical.ampacity import receptacle
from weary_cedar.core.errors import InvalidInput, NotFound, Problem, shown
from weary_cedar.core.plan import Lead, Plan, Receptacle, Station, ToInput


def with_other_station(plan: Plan, station_id: str, other: Station) -> Plan:
    """A plan in which a station is another one.

    Args:
        plan: the plan.
        station_id: the station that goes.
        other: the station that comes, to where the old one stood; nothing that was found out stays.

    Returns:
        The plan: leads from it begin at the outlet that is most like the old one, leads, arrays and batteries
        into it end at the input that is most like theirs; charging is set no higher than it takes. Acts with
        packs, and charges of packs, that it has not are gone.

    Raises:
        NotFound: no such station.
        InvalidInput: it is one of a linked pair, which only takes its like; or it has no outlet at all.

    Source: common practice.
    """
    old = plan.stations.get(station_id)
    if old is None:
        raise NotFound(
            f"No station {shown(station_id)}.", (Problem("/station_id", shown(station_id), "a station"),)
        )
    linked = any(station_id in (link.leg_a, link.leg_b) for link in plan.links.values())
    if linked and other.output != old.output:
        right = f"a station of {old.output} V: it is one of a linked pair"
        raise InvalidInput(right, (Problem("/class_id", other.output, right),))
    new = other.model_copy(update={"place_id": old.place_id})
    leads = {key: _lead(lead, plan, station_id, old, new) for key, lead in plan.leads.items()}
    joined = {
        room: {
            key: part.model_copy(update={"input_id": _dc_input(part.input_id, old, new), "pack_id": None})
            if part.station_id == station_id
            else part
            for key, part in getattr(plan, room).items()
        }
        for room in ("arrays", "externals")
    }
    charges = {key: held for key, held in plan.outage.pack_charge_percent.items() if key != station_id}
    acts = {
        key: act
        for key, act in plan.outage.acts.items()
        if not (
            act.room == "stations"
            and act.part_id == station_id
            and (act.pack_id or act.outlet_id or act.input_id)
        )
    }
    outage = plan.outage.model_copy(update={"pack_charge_percent": charges, "acts": acts})
    stations = {**plan.stations, station_id: new}
    return plan.model_copy(update={"stations": stations, "leads": leads, "outage": outage, **joined})


def _lead(lead: Lead, plan: Plan, station_id: str, old: Station, new: Station) -> Lead:
    source, end = lead.source, lead.to
    begins = source.kind == "station" and source.id == station_id
    begins = begins or (source.kind == "link" and plan.links[source.id].leg_a == station_id)
    if begins and source.outlet in old.receptacles:
        outlet = _like(old.receptacles[source.outlet], new.receptacles)
        lead = lead.model_copy(update={"source": source.model_copy(update={"outlet": outlet})})
    if isinstance(end, ToInput) and end.station_id == station_id and end.input_id in old.ac_inputs:
        volts = old.ac_inputs[end.input_id].volts
        fits = sorted(new.ac_inputs, key=lambda key: (new.ac_inputs[key].volts != volts, key))
        if not fits:
            right = "a station with an input for AC: a charger is plugged into this one"
            raise InvalidInput(right, (Problem("/class_id", new.name, right),))
        entry = new.ac_inputs[fits[0]]
        setting = None if end.setting_w is None else min(end.setting_w, entry.most_w)
        lower = [step for step in entry.steps_w if setting is not None and step <= setting]
        if entry.steps_w and setting is not None:
            setting = max(lower, default=min(entry.steps_w))
        lead = lead.model_copy(
            update={"to": end.model_copy(update={"input_id": fits[0], "setting_w": setting})}
        )
    return lead


def _like(old: Receptacle, outlets: Mapping[str, Receptacle]) -> str:
    """The outlet that is most like an old one: of its kind, else of its voltage, else the largest."""
    if not outlets:
        right = "a station with an outlet: something is plugged into this one"
        raise InvalidInput(right, (Problem("/class_id", "no outlet", right),))
    row = receptacle(old.kind)

    def rank(key: str) -> tuple[bool, bool, float]:
        own = receptacle(outlets[key].kind)
        same = row is not None and own is not None and row["volts"] == own["volts"]
        return outlets[key].kind != old.kind, not same, -outlets[key].rating_a

    return min(sorted(outlets), key=rank)


def _dc_input(input_id: str | None, old: Station, new: Station) -> str | None:
    """The input for direct current that is most like an old one; none where there is none of its kind."""
    kind = old.dc_inputs[input_id].kind if input_id in old.dc_inputs else "solar"
    return next((key for key, entry in sorted(new.dc_inputs.items()) if entry.kind == kind), None)
