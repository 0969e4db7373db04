"""What kinds of feed there are, and what each of them is: the one table that everyone asks."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final, Literal

FeedKind = Literal[
    "interlock_inlet",
    "transfer_switch",
    "transfer_panel",
    "appliance_switch",
    "bridged",
    "half_leg",
    "automatic",
    "hybrid",
    "no_transfer",
    "receptacle_backfeed",
]
#: Kind of the feed that a lead ends at, or cords to appliances.
Kind = FeedKind | Literal["cords"]


@dataclass(frozen=True, slots=True)
class FeedTraits:
    """What a kind of feed is. Common practice."""

    #: As one is asked for it, its device in a path, and in a diagram.
    asked: str
    words: str
    drawn: str
    #: What a hand moves: a breaker, a switch for all of it, a handle for each circuit, nothing but plugs.
    moves: Literal["breaker", "switch", "handles", ""]
    #: It feeds house wiring through a panel.
    panel: bool = False
    #: It puts both legs of a whole panel on the source.
    whole: bool = False
    #: It has one hot, for a panel of two legs.
    one_hot: bool = False
    #: An interlock with the panel's main keeps it apart from the utility.
    interlocked: bool = False
    #: Its breaker takes spaces of the panel.
    breaker: bool = False
    #: It reaches only the circuits that are wired to it, or what hangs on its cords.
    own_circuits: bool = False
    #: It changes over by itself; its source is wired to terminals and needs no cord.
    by_itself: bool = False
    #: It may stand for the service disconnect of a main panel.
    service: bool = False
    #: Why it is refused, for whoever wants to use it; empty where it is not.
    refused: str = ""

    @property
    def wired(self) -> bool:
        """Whether circuits of a panel are wired to it."""
        return self.own_circuits and self.moves != ""

    @property
    def single(self) -> bool:
        """Whether it is a switch for one circuit."""
        return self.own_circuits and self.moves == "switch"

    @property
    def as_one(self) -> bool:
        """Whether all that it feeds comes on at one act: cords, or a switch for one circuit."""
        return self.own_circuits and self.moves != "handles"

    @property
    def joins_panel(self) -> bool:
        """Whether one act puts a whole panel under power."""
        return self.moves in ("breaker", "switch") and not self.own_circuits


TRAITS: Final[Mapping[Kind, FeedTraits]] = {
    "interlock_inlet": FeedTraits(
        "inlet and interlocked breaker", "interlocked feed breaker", "interlocked with the main",
        "breaker", panel=True, whole=True, interlocked=True, breaker=True,
    ),
    "transfer_switch": FeedTraits(
        "transfer switch, chosen circuits", "transfer switch", "transfer switch, circuit by circuit",
        "handles", panel=True, own_circuits=True,
    ),
    "transfer_panel": FeedTraits(
        "transfer switch for the whole panel", "panel transfer switch", "transfer switch of the panel",
        "switch", panel=True, whole=True, service=True,
    ),
    "appliance_switch": FeedTraits(
        "single-circuit switch or inlet", "single-circuit switch", "transfer switch of one circuit",
        "switch", own_circuits=True,
    ),
    "bridged": FeedTraits(
        "one 120 V hot on both legs", "feed breaker, one hot on both legs",
        "interlocked; one hot on both legs", "breaker",
        panel=True, one_hot=True, interlocked=True, breaker=True,
    ),
    "half_leg": FeedTraits(
        "one 120 V hot on one leg", "feed breaker, one leg", "interlocked; one leg",
        "breaker", panel=True, one_hot=True, interlocked=True, breaker=True,
    ),
    "automatic": FeedTraits(
        "automatic transfer of a standby set", "automatic transfer", "automatic transfer switch",
        "switch", panel=True, whole=True, by_itself=True, service=True,
    ),
    "hybrid": FeedTraits(
        "built-in hybrid inverter", "hybrid inverter", "hybrid inverter",
        "switch", panel=True, whole=True, by_itself=True, service=True,
    ),
    "no_transfer": FeedTraits(
        "wired in with nothing in between", "nothing in between", "NOTHING IN BETWEEN: refused",
        "breaker", panel=True, breaker=True,
        refused="nothing keeps it and the utility apart: this can kill and is refused; see the checks",
    ),
    "receptacle_backfeed": FeedTraits(
        "a plug into a receptacle of the house", "a receptacle of the house", "A HOUSE OUTLET: refused",
        "breaker", panel=True,
        refused="a live plug into a house outlet can kill and is refused; see the checks",
    ),
    "cords": FeedTraits(
        "cords to appliances", "cords", "cords only, no house wiring",
        "", own_circuits=True,
    ),
}  # fmt: skip


def kinds_that(trait: str) -> tuple[Kind, ...]:
    """Kinds of feed that are something, in the order of the table."""
    return tuple(kind for kind, traits in TRAITS.items() if getattr(traits, trait))
