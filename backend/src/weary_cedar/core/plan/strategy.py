"""What the household does during the outage."""

from collections.abc import Sequence
from datetime import time
from typing import Annotated, Literal, TypeVar

from pydantic import Field

from weary_cedar.core.plan.base import Bounds, Degrees, Id, LocalTime, Noun, Percent, Ref, Seconds
from weary_cedar.core.plan.load import Hours
from weary_cedar.core.plan.solar import Tilt

#: Minutes of dark that a change-over by hand costs.
Swap = Annotated[float, Bounds(0, 7_200, "a swap that takes longer than two hours is none")]


class Rule(Noun):
    """A line of the strategy: it acts while it is on; the first that speaks about a part is followed."""

    on: bool = Field(default=True, description="switched off, it is kept but not followed")


class EngineRule(Rule):
    """When an engine starts and stops, by the charge of what it recharges."""

    kind: Literal["engine"] = "engine"
    generator_id: Annotated[Id, Ref("generators")]
    on_below_percent: Percent | None = Field(
        default=30.0, description="none: by its hours alone, whatever the charge"
    )
    off_above_percent: Percent = 90.0
    least_s: Seconds = Field(default=1_800.0, description="runs at least this long")
    hours: Hours | None = Field(default=None, description="of the day; any if absent")
    purpose: Literal["house", "charging", "both"] = "both"
    left_running: bool = Field(
        default=False,
        description="goes on while nobody is there and awake; an engine that is stopped by hand only is "
        "else stopped before",
    )


class PlugRule(Rule):
    """When a lead into an input is plugged in, by the charge of the station that it fills."""

    kind: Literal["plug"] = "plug"
    lead_id: Annotated[Id, Ref("leads")]
    in_below_percent: Percent = 50.0
    out_above_percent: Percent = 95.0


class ShedRule(Rule):
    """Circuits that go off below a charge, and come back above another."""

    kind: Literal["shed"] = "shed"
    circuit_ids: Annotated[tuple[Id, ...], Field(min_length=1, max_length=200), Ref("circuits", least=1)]
    off_below_percent: Percent = 30.0
    back_above_percent: Percent = 40.0


class TogetherRule(Rule):
    """Loads of which never two run at the same time: the next waits until the one before is done."""

    kind: Literal["together"] = "together"
    load_ids: Annotated[tuple[Id, ...], Field(min_length=2, max_length=60), Ref("loads", least=2)]


class SurplusRule(Rule):
    """Loads that run only on sun that is left over, while the cells are nearly full."""

    kind: Literal["surplus"] = "surplus"
    load_ids: Annotated[tuple[Id, ...], Field(min_length=1, max_length=60), Ref("loads", least=1)] = Field(
        description="the first is served first"
    )
    above_percent: Percent = Field(default=90.0, description="charge from which on they may run")


class WhileRule(Rule):
    """Loads that run only while an engine runs, or while the sun gives enough: a water heater at noon."""

    kind: Literal["while"] = "while"
    load_ids: Annotated[tuple[Id, ...], Field(min_length=1, max_length=60), Ref("loads", least=1)]
    generator_id: Annotated[Id | None, Ref("generators", "lets_go")] = Field(
        default=None, description="while it runs; no engine if absent"
    )
    sun_above_w: Annotated[float, Bounds(1, 100_000, "under 1 W there is no sun")] | None = Field(
        default=None, description="what all arrays give together, above which they may run; no sun if absent"
    )


class HandCycleRule(Rule):
    """Loads that someone lets run for a while at a time: a freezer for an hour of every four."""

    kind: Literal["hand_cycle"] = "hand_cycle"
    load_ids: Annotated[tuple[Id, ...], Field(min_length=1, max_length=60), Ref("loads", least=1)]
    on_s: Annotated[float, Bounds(300, 86_400, "nobody switches more often")] = 3_600.0
    every_s: Annotated[float, Bounds(600, 7 * 86_400, "nobody switches more often")] = 14_400.0


class ReserveRule(Rule):
    """Circuits that stay off for the night where too little is left at bedtime."""

    kind: Literal["reserve"] = "reserve"
    circuit_ids: Annotated[tuple[Id, ...], Field(min_length=1, max_length=200), Ref("circuits", least=1)]
    percent: Percent = Field(default=50.0, description="charge that should be left at bedtime")
    bedtime: LocalTime = time(22, 0)
    until: LocalTime = time(7, 0)


class UtilityRule(Rule):
    """In a rolling outage: back on the utility only where it is needed. Without it: whenever it is there."""

    kind: Literal["utility"] = "utility"
    back_below_percent: Percent = 50.0
    away_above_percent: Percent = 95.0


class SwapRule(Rule):
    """The cord of another station goes into the feed before the one that feeds is empty."""

    kind: Literal["swap"] = "swap"
    lead_id: Annotated[Id, Ref("leads")] = Field(
        description="from a station to a feed that other leads end at, too"
    )
    below_percent: Percent = Field(default=20.0, description="charge of what feeds")
    back_above_percent: Percent = 80.0


#: From where a station is recharged.
RechargeSource = Literal["sun", "engine", "vehicle", "wall", "station", "battery"]


class OrderRule(Rule):
    """From what is taken first when more is offered than goes in; what is not named comes after."""

    kind: Literal["order"] = "order"
    sources: Annotated[tuple[RechargeSource, ...], Field(min_length=1, max_length=6)] = ("sun", "vehicle")


class StartRule(Rule):
    """When a job is begun in this outage, whenever it is begun otherwise."""

    kind: Literal["start"] = "start"
    load_id: Annotated[Id, Ref("loads")]
    at: LocalTime = time(12, 0)


class TurnRule(Rule):
    """Where someone turns an array to from a time of day on, until it is turned back in the night."""

    kind: Literal["turn"] = "turn"
    array_id: Annotated[Id, Ref("arrays")]
    at: LocalTime = time(12, 0)
    tilt_deg: Tilt = 30.0
    azimuth_deg: Degrees = 180.0


AnyRule = Annotated[
    EngineRule
    | PlugRule
    | ShedRule
    | TogetherRule
    | SurplusRule
    | WhileRule
    | HandCycleRule
    | ReserveRule
    | UtilityRule
    | SwapRule
    | OrderRule
    | StartRule
    | TurnRule,
    Field(discriminator="kind"),
]
AnyKind = TypeVar("AnyKind", bound=Rule)


class Strategy(Noun):
    """Who sheds loads, how fast, and what stays off after a trip."""

    shedding: Literal["automatic", "by_hand", "none"] = "automatic"
    reaction_s: Annotated[float, Field(ge=0, le=86_400)] = 60.0
    reset_after_s: Annotated[float, Field(ge=0, le=86_400)] = 900.0
    recovery_off: Annotated[tuple[Id, ...], Ref("circuits")] = Field(
        default=(), description="circuits that are left off when someone resets after a trip"
    )
    room_off_below_percent: Percent | None = Field(
        default=None, description="charge under which circuits marked room are shed"
    )
    swap_s: Swap = Field(default=300.0, description="dark while someone moves the cord to another source")
    rules: Annotated[tuple[AnyRule, ...], Field(max_length=60)] = ()

    def followed(self, kind: type[AnyKind]) -> list[AnyKind]:
        """Its lines of one kind that are on, in their order."""
        rules: Sequence[Rule] = self.rules
        return [rule for rule in rules if rule.on and isinstance(rule, kind)]
