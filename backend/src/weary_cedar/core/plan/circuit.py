"""A branch circuit: one breaker and what hangs on it."""

from typing import Annotated, Literal

from pydantic import Field

from weary_cedar.core.plan.base import Amps, Answer, Bounds, Id, Metres, Name, Noun, OnPlate, Ref, Survey

#: keep: must run · room: runs when there is room · off: breaker stays off in the outage.
Mark = Literal["keep", "room", "off"]


#: What a breaker carries at least, by its poles, A. Common practice.
USUAL_A = {1: 15.0, 2: 30.0}


class Circuit(Noun):
    """One breaker in one panel. A two-pole breaker takes two spaces of one side, hence both legs."""

    panel_id: Annotated[Id, Ref("panels")]
    spaces: Annotated[tuple[Annotated[int, Field(ge=1, le=84)], ...], Field(min_length=1, max_length=2)]
    half: Literal["upper", "lower"] | None = None
    breaker_a: Annotated[Amps | None, OnPlate("the amps on its breaker", "A")]
    label: Name
    mark: Mark = "off"
    order: Annotated[int, Field(ge=1, le=999)] = Field(default=50, description="1 is the last to go")
    multiwire_partner: Annotated[Id | None, Ref("circuits", "lets_go")] = Field(
        default=None, description="the circuit that shares its neutral"
    )
    locked: bool = Field(default=False, description="stays where it is when the panel is balanced")
    protection: Literal["none", "gfci", "afci", "gfci_afci", "rcd"] = "none"
    awg: Literal[14, 12, 10, 8, 6, 4, 3, 2, 1] | None = None
    mm2: Annotated[float, Bounds(0.2, 120, "no building wire is thinner than 0.2 mm²")] | None = None
    metal: Literal["copper", "aluminium"] = "copper"
    terminals_c: Literal[60, 75] | None = Field(
        default=None,
        description="75 where cable and all terminals are marked so, and it is no house cable; else 60",
    )
    length_m: Metres | None = Field(
        default=None, description="of its wire, one way, to the farthest outlet; no drop is counted if absent"
    )
    breaker_by_plate: Answer = Field(
        default="unknown", description="a motor's or air conditioner's plate rules its breaker, not the wire"
    )
    outlets: Annotated[tuple[Name, ...], Field(max_length=60)] = Field(
        default=(), description="outlets and lights found dead when this breaker was off"
    )

    survey: Survey = Field(default_factory=dict)

    @property
    def breaker_words(self) -> str:
        """Amps of its breaker, in words."""
        return "amps not known" if self.breaker_a is None else f"{self.breaker_a:g} A"

    @property
    def counted_words(self) -> str:
        """Amps that count for its breaker, in words; that they are only counted where nobody knows them."""
        return f"amps not known, {self.rated_a:g} A counted" if self.breaker_a is None else self.breaker_words

    @property
    def rated_a(self) -> float:
        """What its breaker carries, A: as said, or the least that is usual while that is not known."""
        return float(self.counted("breaker_a"))

    def usual_figure(self, name: str) -> float:
        """What is usual for a figure of its plate."""
        return USUAL_A[self.poles]

    @property
    def poles(self) -> int:
        """One pole on one leg, two poles across both."""
        return len(self.spaces)
