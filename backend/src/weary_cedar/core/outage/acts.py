"""Acts of the plan in the run: what someone switches, plugs in or takes out at a set moment.

What is off by an act stays off until an act undoes it: each thing keeps the acts that hold it.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from weary_cedar.core.outage.assemble import DcLead
from weary_cedar.core.outage.carriers import StationCarrier, VehicleCarrier
from weary_cedar.core.outage.tree import LiveLink, LiveWay
from weary_cedar.core.plan import Act

if TYPE_CHECKING:
    from weary_cedar.core.outage.kernel import OutageRun

NEVER = math.inf


def acted(run: OutageRun, act: Act, t: float) -> None:
    """Do what an act of the plan says.

    Args:
        run: the run.
        act: what is switched, plugged in or taken out; its part is in the plan.
        t: the moment, s from the start.
    """
    if act.pack_id is not None and act.input_id is None:
        unit = run.parts.units[act.part_id]
        run.touch(run.carrier_of[id(unit)], t)
        unit.plug_pack(act.pack_id, on=act.turn == "on")
        run.packs_changed(t, unit)
    elif act.outlet_id is None and act.input_id is None and act.room != "leads":
        _switch(run, act, t)
    _plug(run, act, t)
    run.replug = run.looking = run.rewired = True
    run.out.act(t, act)


def _switch(run: OutageRun, act: Act, t: float) -> None:
    """A breaker, an appliance or a source as a whole; arrays follow their own hours."""
    on = act.turn == "on"
    for circuit in run.circuits if act.room == "circuits" else ():
        circuit.open_by_hand = not on if circuit.id == act.part_id else circuit.open_by_hand
    for load in run.loads if act.room == "loads" else ():
        load.off_by_hand = not on if load.id == act.part_id else load.off_by_hand
    carrier = run.parts.carriers.get(f"{act.room}/{act.part_id}")
    if act.room == "stations":
        carrier = run.parts.of_station[act.part_id]
    if carrier is None:
        return
    run.touch(carrier, t)
    carrier.held_off = not on
    if isinstance(carrier, StationCarrier):
        carrier.fault = carrier.fault and not on
        carrier.turn(not carrier.empty)
        carrier.reset_at = NEVER if on else carrier.reset_at
    elif isinstance(carrier, VehicleCarrier):
        run.forest.switch_vehicle(t, carrier)


def _plug(run: OutageRun, act: Act, t: float) -> None:
    """Leads that an act is about: by themselves, by their outlet, by their input, by what they come from."""
    held = f"{act.room}/{act.part_id}/{act.outlet_id}/{act.input_id}"
    plugs: list[LiveWay | LiveLink | DcLead] = [*run.ways, *run.links, *run.parts.leads]
    for plug in plugs:
        if not _about(run, act, plug):
            continue
        if act.turn == "off":
            plug.off_by.add(held)
        else:
            plug.off_by.discard(held)
        if isinstance(plug, DcLead):
            run.touch(plug.carrier, t)
            run.forest.give(plug)


def _about(run: OutageRun, act: Act, plug: LiveWay | LiveLink | DcLead) -> bool:
    if act.room == "leads":
        lead = not isinstance(plug, DcLead) or plug.recharge is not None
        return lead and plug.key == act.part_id
    if act.room == "externals":
        return isinstance(plug, DcLead) and plug.recharge is None and plug.key == act.part_id
    if act.outlet_id is not None:
        return _from(plug) == (act.room, act.part_id, act.outlet_id)
    return act.input_id is not None and _into(run, plug) == (act.part_id, act.pack_id, act.input_id)


def _from(plug: LiveWay | LiveLink | DcLead) -> tuple[str, str, str | None]:
    """Room, id and outlet of what a lead comes from."""
    if isinstance(plug, LiveWay):
        hookup = plug.way.hookup
        return f"{hookup.source_kind}s", hookup.source_id, hookup.receptacle_id
    recharge = plug.recharge
    return (f"{recharge.kind}s", recharge.from_id, recharge.outlet_id) if recharge else ("", "", None)


def _into(run: OutageRun, plug: LiveWay | LiveLink | DcLead) -> tuple[str, str | None, str | None]:
    """Station, pack and input that a lead or an external battery ends at."""
    if isinstance(plug, LiveWay):
        return "", None, None
    if plug.recharge is not None:
        return plug.recharge.station_id, None, plug.recharge.input_id
    battery = run.plan.externals[plug.key]
    return battery.station_id or "", battery.pack_id, battery.input_id
