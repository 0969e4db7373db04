"""A portable power station: one inverter with its packs."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Id, Name, Noun, Origin, Percent, WattHours, Watts


class Pack(Noun):
    """An extra battery that adds energy to a station."""

    name: Name
    nameplate_wh: Annotated[float, Field(gt=0, le=1_000_000)]
    count: Annotated[int, Field(ge=1, le=50)] = 1


class Receptacle(Noun):
    """A group of outlets of a station behind one breaker."""

    kind: Name
    rating_a: Amps


class CurvePoint(Noun):
    """An overload multiple of rating and how long it is carried; no seconds means for ever."""

    multiple: Annotated[float, Field(ge=1, le=20)]
    seconds: Annotated[float, Field(gt=0, le=86_400)] | None = None


class IdleCutout(Noun):
    """The station turns its output off when little has been drawn for long."""

    threshold_w: Watts = 10.0
    after_s: Annotated[float, Field(ge=60, le=7 * 86_400)] = 7_200.0


#: Default overload behaviour of a station, multiple of rating and seconds. From memory, an estimate
#: for the class; replace by the maker's curve or by what was measured.
DEFAULT_CURVE = (
    CurvePoint(multiple=1.05),
    CurvePoint(multiple=1.10, seconds=600.0),
    CurvePoint(multiple=1.15, seconds=180.0),
    CurvePoint(multiple=1.28, seconds=10.0),
    CurvePoint(multiple=1.5, seconds=1.0),
    CurvePoint(multiple=2.0, seconds=0.2),
)


class Station(Noun):
    """A station as its plate and its owner describe it; defaults are typical of the class."""

    name: Name
    output: Literal["120/240", "120", "230"] = "120/240"
    rated_va: Annotated[float, Field(gt=0, le=100_000)]
    leg_va: Annotated[float, Field(gt=0, le=100_000)] | None = Field(
        default=None, description="limit of one leg; half of the rating if absent"
    )
    receptacles: dict[Id, Receptacle] = Field(default_factory=dict)
    nameplate_wh: Annotated[float, Field(gt=0, le=1_000_000)]
    cell_wh: WattHours | None = Field(
        default=None, description="what the head unit's cells really give, 100 to 0 %; nameplate if absent"
    )
    packs: dict[Id, Pack] = Field(default_factory=dict)
    cutoff_percent: Percent = 0.0
    inverter_efficiency: Annotated[float, Field(ge=0.5, le=1)] = 0.92
    idle_w: Watts = 40.0
    sleep_w: Watts = 3.0
    self_discharge_percent_per_week: Annotated[float, Field(ge=0, le=20)] = 0.5
    overload_curve: Annotated[tuple[CurvePoint, ...], Field(min_length=1, max_length=20)] = DEFAULT_CURVE
    idle_cutout: IdleCutout | None = Field(
        default=None, description="absent when the station never turns off by itself or it is disabled"
    )
    idle_origin: Origin = "library"
    efficiency_origin: Origin = "library"
    capacity_origin: Origin = "plate"

    @property
    def total_cell_wh(self) -> float:
        """Energy of head unit and packs from 100 to 0 %, in Wh at the cells."""
        head = self.nameplate_wh if self.cell_wh is None else self.cell_wh
        return head + sum(pack.nameplate_wh * pack.count for pack in self.packs.values())

    @property
    def leg_limit_va(self) -> float:
        """Limit of one leg in VA."""
        if self.leg_va is not None:
            return self.leg_va
        return self.rated_va / 2 if self.output == "120/240" else self.rated_va
