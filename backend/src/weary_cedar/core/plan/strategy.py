"""What the household does during the outage."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Bounds, Id, LocalTime, Noun, Percent, Seconds

#: Minutes of dark that a change-over by hand costs.
Swap = Annotated[float, Bounds(0, 7_200, "a swap that takes longer than two hours is none")]


class Rule(Noun):
    """A line of the strategy: it acts while it is on; the first that speaks about a part is followed."""

    on: bool = Field(default=True, description="switched off, it is kept but not followed")


class EngineHours(Noun):
    """Hours of every day in which an engine may run."""

    begins: LocalTime
    ends: LocalTime


class EngineRule(Rule):
    """When an engine starts and stops, by the charge of what it recharges."""

    kind: Literal["engine"] = "engine"
    generator_id: Id
    on_below_percent: Percent = 30.0
    off_above_percent: Percent = 90.0
    least_s: Seconds = Field(default=1_800.0, description="runs at least this long")
    hours: EngineHours | None = Field(default=None, description="of the day; any if absent")
    purpose: Literal["house", "charging", "both"] = "both"


class PlugRule(Rule):
    """When a lead into an input is plugged in, by the charge of the station that it fills."""

    kind: Literal["plug"] = "plug"
    lead_id: Id
    in_below_percent: Percent = 50.0
    out_above_percent: Percent = 95.0


class ShedRule(Rule):
    """Circuits that go off below a charge, and come back above another."""

    kind: Literal["shed"] = "shed"
    circuit_ids: Annotated[tuple[Id, ...], Field(min_length=1, max_length=200)]
    off_below_percent: Percent = 30.0
    back_above_percent: Percent = 40.0


class TogetherRule(Rule):
    """Loads of which never two run at the same time: the next waits until the one before is done."""

    kind: Literal["together"] = "together"
    load_ids: Annotated[tuple[Id, ...], Field(min_length=2, max_length=60)]


class SurplusRule(Rule):
    """Loads that run only on sun that is left over, while the cells are nearly full."""

    kind: Literal["surplus"] = "surplus"
    load_ids: Annotated[tuple[Id, ...], Field(min_length=1, max_length=60)] = Field(
        description="the first is served first"
    )
    above_percent: Percent = Field(default=90.0, description="charge from which on they may run")


AnyRule = Annotated[
    EngineRule | PlugRule | ShedRule | TogetherRule | SurplusRule, Field(discriminator="kind")
]


class Strategy(Noun):
    """Who sheds loads, how fast, and what stays off after a trip."""

    shedding: Literal["automatic", "by_hand", "none"] = "automatic"
    reaction_s: Annotated[float, Field(ge=0, le=86_400)] = 60.0
    reset_after_s: Annotated[float, Field(ge=0, le=86_400)] = 900.0
    recovery_off: tuple[Id, ...] = Field(
        default=(), description="circuits that are left off when someone resets after a trip"
    )
    room_off_below_percent: Percent | None = Field(
        default=None, description="charge under which circuits marked room are shed"
    )
    swap_s: Swap = Field(default=300.0, description="dark while someone moves the cord to another source")
    rules: Annotated[tuple[AnyRule, ...], Field(max_length=60)] = ()
