"""Why an act cannot be done, or must not be. Common practice; local code and licensed work rule."""

from dataclasses import dataclass
from typing import Literal

Kind = Literal["impossible", "unsafe"]

#: By code: what forbids an act, or what it does; in braces what the house knows.
REASONS: dict[str, tuple[Kind, str]] = {
    "already": ("impossible", "It is {to} already."),
    "interlock_main": ("impossible", "The interlock holds the main off while it stands at the source."),
    "interlock_feed": (
        "impossible",
        "The interlock holds the feed breaker off while it stands at the utility.",
    ),
    "interlock_over": ("impossible", "The interlock does not slide over while the main is on."),
    "interlock_back": ("impossible", "The interlock does not slide back while the feed breaker is on."),
    "kept_apart": ("impossible", "One device keeps it and {other} apart, as was answered: open that first."),
    "wired": ("impossible", "It is wired: nobody plugs it."),
    "occupied": ("impossible", "{other} is in it already."),
    "home_plug": ("impossible", "An appliance has one plug: it is in the wall at home, or on the cord."),
    "back_feed": (
        "unsafe",
        "A source and the utility are joined: the line outside becomes live and can kill, or the utility’s "
        "return meets the source.",
    ),
    "house_outlet": ("unsafe", "A live plug into a house outlet can kill, whatever is off."),
    "two_sources": ("unsafe", "Two sources are joined that do not run in step."),
    "driven": (
        "unsafe",
        "{driven} is joined to what another source makes live: it is not made to be driven, on or off.",
    ),
    "live_blades": (
        "unsafe",
        "The blades of {inlet}, or of the plug at the other end of its cord, are live.",
    ),
    "moved_live": (
        "unsafe",
        "An end of a cord is moved only while the output is off: connectors never make or break load.",
    ),
    "moved_closed": (
        "unsafe",
        "The cord is moved while its feed is closed: open the feed breaker or the transfer first.",
    ),
    "free_end": (
        "unsafe",
        "Far end first when connecting, source’s end first when disconnecting: the cord is dead in the hand.",
    ),
    "through_off": ("unsafe", "Not at once: stop at off first, so that motors come to rest."),
    "motor_turning": ("unsafe", "{load} may still turn: five seconds in off first."),
    "engine_loaded": ("unsafe", "An engine is started and stopped with its breaker off, without load."),
    "two_bonds": (
        "unsafe",
        "The bonding plug is in while the house keeps its own bond: ground wires carry current.",
    ),
    "no_bond": (
        "unsafe",
        "The neutral of {source} floats and the transfer leaves the house’s bond behind: nothing ties it to "
        "ground, so a fault makes a case live and trips no breaker.",
    ),
    "device_between": (
        "unsafe",
        "{source} is bonded behind a ground-fault device, and the house keeps its own bond: the device does "
        "not hold, and what is fed goes dark.",
    ),
    "over_charge": (
        "unsafe",
        "{source} is to give {watts:,.0f} W, {charge:,.0f} W of it for charging; it carries {rated:,.0f} W.",
    ),
    "charging_circle": (
        "unsafe",
        "{station} charges, by way of others, from what it feeds: they empty themselves in a circle.",
    ),
    "kit_refuses": (
        "impossible",
        "{link} takes no charge from AC while its outputs are on: take that unit out of it first.",
    ),
    "kit_drops": ("unsafe", "{link} drops its outputs as soon as AC charges one of its units."),
    "charger_on_itself": (
        "unsafe",
        "The station charges from a circuit that it feeds: it empties itself in a circle.",
    ),
    "pair_apart": (
        "unsafe",
        "Two circuits that share a neutral are on two supplies: move them together.",
    ),
    "array_free": ("unsafe", "Solar that is made for the utility can wake on the source: lock it off first."),
    "standby_free": ("unsafe", "A set that starts by itself is not locked out."),
    "left_on": ("unsafe", "The breaker of {circuit} is on, and it is to stay off in this plan."),
    "compressor": (
        "unsafe",
        "{load} was off for {gone:.0f} s only: wait {left:.0f} s more, or it starts against pressure.",
    ),
    "over_curve": ("unsafe", "{branches}: {over}."),
}


@dataclass(frozen=True)
class Fault:
    """Why an act cannot be done, or must not be."""

    kind: Kind
    code: str
    why: str


def fault(code: str, **known: object) -> Fault:
    """A fault by its code, with what the house knows of it."""
    kind, words = REASONS[code]
    return Fault(kind, code, words.format(**known))
