"""Commands about gear: another station in the place of one, packs more or fewer."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.commands.command import Command, refused
from weary_cedar.core.commands.plugging import Id
from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.core.gear import station_classes
from weary_cedar.core.plan import Plan, Station
from weary_cedar.core.replacing import with_other_station


class Swap(Command):
    """Put a station of a class in the place of one; what is plugged into it stays plugged."""

    usage = "swap STATION CLASS"
    command: Literal["swap"] = "swap"
    station_id: Id
    class_id: Id

    def made(self, plan: Plan) -> Plan:
        """The plan with the other station."""
        known = {item.class_id: item.station for item in station_classes()}
        if self.class_id not in known:
            raise refused("/class_id", self.class_id, f"one of {', '.join(known)}")
        return with_other_station(plan, self.station_id, known[self.class_id])


class Packs(Command):
    """Have so many of a pack on a station; with none, what was joined to it lets go."""

    usage = "packs STATION PACK COUNT"
    command: Literal["packs"] = "packs"
    station_id: Id
    pack_id: Id
    count: Annotated[int, Field(ge=0, le=50)]

    def made(self, plan: Plan) -> Plan:
        """The plan with so many; the last one goes with the acts about it and its charge."""
        station = plan.stations.get(self.station_id)
        if station is None or self.pack_id not in station.packs:
            named = f"{self.station_id}/{self.pack_id}"
            problem = Problem("/pack_id", shown(named), "a station of this plan and one of its packs")
            raise NotFound(str(problem), (problem,))
        if self.count:
            pack = station.packs[self.pack_id].model_copy(update={"count": self.count})
            return _with_packs(plan, self.station_id, {**station.packs, self.pack_id: pack})
        return without_pack(plan, self.station_id, self.pack_id)


def _with_packs(plan: Plan, station_id: str, packs: object) -> Plan:
    station: Station = plan.stations[station_id].model_copy(update={"packs": packs})
    return plan.model_copy(update={"stations": {**plan.stations, station_id: station}})


def without_pack(plan: Plan, station_id: str, pack_id: str) -> Plan:
    """A plan in which a station has a pack no more; arrays and batteries on it are joined to nothing."""
    station, outage = plan.stations[station_id], plan.outage
    packs = {key: pack for key, pack in station.packs.items() if key != pack_id}
    free = {"station_id": None, "pack_id": None, "input_id": None}
    joined = {
        room: {
            key: part.model_copy(update=free)
            if (part.station_id, part.pack_id) == (station_id, pack_id)
            else part
            for key, part in getattr(plan, room).items()
        }
        for room in ("arrays", "externals")
    }
    charges = {
        key: {pack: held for pack, held in of.items() if (key, pack) != (station_id, pack_id)}
        for key, of in outage.pack_charge_percent.items()
    }
    acts = {
        key: act for key, act in outage.acts.items()
        if (act.room, act.part_id, act.pack_id) != ("stations", station_id, pack_id)
    }  # fmt: skip
    changed = outage.model_copy(update={"pack_charge_percent": charges, "acts": acts})
    return _with_packs(plan.model_copy(update={**joined, "outage": changed}), station_id, packs)
