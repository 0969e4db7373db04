"""Where a station takes power, and where it gives direct current."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Bounds, Noun, OnPlate, Volts

InputWatts = Annotated[float, Bounds(1, 50_000, "under 1 W nothing is ever charged")]


class AcInput(Noun):
    """Where a station takes AC: for charging, and for passing through."""

    volts: Literal[120, 230, 240] = 120
    most_w: InputWatts = Field(description="at the wall")
    steps_w: Annotated[tuple[InputWatts, ...], Field(max_length=40)] = Field(
        default=(), description="settings that it offers; any if none is named"
    )
    cap_a: Annotated[Amps | None, OnPlate("the most that its AC input takes and passes through", "A")] = 15.0
    passes_through: Annotated[
        bool | None, OnPlate("whether its AC input passes power through to its outlets")
    ] = True
    over_cap: Literal["input_trips", "assist"] = "input_trips"

    @property
    def carries_a(self) -> float:
        """Cap of inlet and pass-through that counts, A."""
        return float(self.counted("cap_a"))

    @property
    def passes(self) -> bool:
        """Whether it is counted as passing power through: what is not known may."""
        return self.passes_through is not False


class DcInput(Noun):
    """Where a station takes direct current."""

    kind: Literal["solar", "pack_port", "socket_12v"] = "solar"
    low_v: Annotated[
        Annotated[float, Field(ge=0, le=2_000)] | None,
        OnPlate("the least volts that its DC input takes", "V"),
    ] = 12.0
    high_v: Volts | None = Field(default=None, description="most that it bears; not known if absent")
    most_a: Amps | None = Field(default=None, description="most that it takes; not known if absent")
    short_circuit_a: Amps | None = None
    most_w: InputWatts
    efficiency: Annotated[float, Field(ge=0.5, le=1)] = Field(default=0.93, description="to the cells")

    @property
    def least_v(self) -> float:
        """Least volts that count as enough for it."""
        return float(self.counted("low_v"))


class DcOutput(Noun):
    """Where a station gives direct current, with its inverter off."""

    kind: Literal["usb", "socket_12v", "posts_12v", "high_voltage"] = "socket_12v"
    volts: Volts = 12.0
    most_a: Amps = 10.0
