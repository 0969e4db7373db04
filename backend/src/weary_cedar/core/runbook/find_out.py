"""It does not work: searches that begin with what is seen, one for each thing that a plan's gear can do.

Causes, limits and their order are common practice of the trade; permanent wiring is an electrician's.
"""

from collections.abc import Iterator

from weary_cedar.core.network import Network
from weary_cedar.core.network.carrying import bearer, spread
from weary_cedar.core.plan import Load, Station, ToInput
from weary_cedar.core.runbook.burner import WHOLE_OHM
from weary_cedar.core.runbook.find_out_charge import charging_stops
from weary_cedar.core.runbook.places import AT_METER, IN_HOUSE, OUTDOORS
from weary_cedar.core.runbook.search import (
    DEAD_LEG_V,
    ELECTRICIAN,
    SOUND_V,
    TIED_V,
    Look,
    Span,
    ohms,
    search,
    volts,
)
from weary_cedar.core.runbook.sheet import End, Expected, Order, Sheet
from weary_cedar.core.runbook.writer import Writer

#: Above its cut-off a station still starts something large; below, its limit falls, %. Common practice.
LOW_CHARGE = 20.0


def find_out(network: Network) -> Iterator[Sheet]:
    """Searches for what can go wrong in a plan, way by way.

    Args:
        network: of the plan.

    Returns:
        A sheet for each, of gear that the plan has: one leg bright and the other dim, one leg dead, a
        source that trips as something starts, an output that went off, "open ground", a ground-fault
        outlet that does not hold; and for each lead that charges: charging stops.

    Source: common practice.
    """
    plan = network.plan
    for way in network.running:
        writer = Writer(network, way, Order(plan))
        if plan.site.split_phase and not way.single:
            yield _uneven(writer)
            yield _dead_leg(writer)
        starter = _hardest_start(writer)
        if starter is not None:
            yield _start_trips(writer, *starter)
        if plan.source_units(way.hookup):
            yield _went_off(writer)
        yield _open_ground(writer)
        yield _does_not_hold(writer)
    for key, lead in plan.leads.items():
        if isinstance(lead.to, ToInput):
            yield charging_stops(plan, key, lead)


def _title(writer: Writer, words: str) -> str:
    return f"{words}: {writer.plan.lead_name(writer.way.lead_id)}"


def _uneven(writer: Writer) -> Sheet:
    plan, low, high = writer.plan, *SOUND_V[True]
    opened = "The neutral is open in the inlet, the feed, or the panel"
    return search(
        f"uneven/{writer.way.lead_id}",
        _title(writer, "Lights bright on one leg and dim on the other"),
        {
            "off": Look(
                f"Turn the {writer.output} of the source off now: what is on the bright leg burns",
                writer.at_source, "Everything is dark",
                {"It is off": "apart", "It stays on": End(
                    cause="The source does not turn off", stop=True,
                    do="Go away from what it feeds, everyone out if it smells; its own switch, then call")},
                why="With its neutral open two legs share 240 V: the lightly loaded one rises.",
            ),
            "apart": Look(
                "All branch breakers off, feed breaker or transfer off, cord out at the source. Then its "
                f"{writer.output} on, with nothing on it: read one leg to neutral at its own outlet",
                writer.at_source, "Each leg for itself, one after the other",
                {
                    Span(f"Under {low:.0f} V on either", low): End(
                        cause="The source itself, or its kit, has lost its neutral or runs out of step",
                        do="Leave it off; its maker looks at it", stop=True),
                    Span("Both in between", high): "cord",
                    Span(f"Over {high:.0f} V on either"): End(
                        cause="The source itself, or its kit, has lost its neutral or runs out of step",
                        do="Leave it off; its maker looks at it", stop=True),
                },
                reading=volts(plan, "leg to neutral at its own outlet"),
            ),
            "cord": Look(
                "Source off. The cord out at both ends: resistance of its neutral from end to end, while "
                "someone bends it at both plugs", "at the cord", "Next to nothing, and steady",
                {
                    Span("Next to nothing, and steady", WHOLE_OHM): "lamps",
                    Span("More, or it jumps"): End(
                        cause="The neutral of the cord is broken or its pin is burnt",
                        do="This cord is not used again; another of the same kind, then from the first step"),
                },
                reading=ohms("neutral of the cord, end to end"),
            ),
            "lamps": Look(
                "Look at the pins of the inlet with a light, source off and cord out", "at the inlet",
                "Bright, straight, none of them brown or loose",
                {
                    "Brown, loose, or bent": End(cause="The inlet has a bad neutral pin", stop=True,
                                                 do=ELECTRICIAN),
                    "All of them sound": End(cause=opened, stop=True, do=ELECTRICIAN),
                },
            ),
        },
    )  # fmt: skip


def _dead_leg(writer: Writer) -> Sheet:
    plan = writer.plan
    link = plan.link_of(writer.hookup)
    of_kit = (
        f"One unit of {link.name} is empty, off, or not linked" if link else "Half of its output has tripped"
    )
    return search(
        f"dead-leg/{writer.way.lead_id}", _title(writer, "Nothing on one leg"),
        {
            "source": Look(
                "Read both legs to neutral at the source’s own outlet or its display", writer.at_source,
                "The lower of the two counts",
                {
                    Span(f"Under {DEAD_LEG_V:.0f} V", DEAD_LEG_V): End(
                        cause=of_kit,
                        do="Everything off, look at both displays and its own breakers; charge what is "
                        "empty, then begin with “After a trip”"),
                    Span(f"{DEAD_LEG_V:.0f} V or more"): "breakers",
                },
                reading=volts(plan, "the lower leg to neutral at the source"),
            ),
            "breakers": Look(
                "Look at the feed breaker, or the handles of the transfer: off all the way, then on again, "
                "with all branches off", writer.at_feed if not writer.traits.as_one else IN_HOUSE,
                "Both halves move together and stay on",
                {
                    "One half does not stay on": End(
                        cause="The feed breaker or switch has a bad pole, or that leg has a fault",
                        do=ELECTRICIAN, stop=True),
                    "Both are on, and the leg is there": End(
                        cause="A pole was not all the way on", do="Go on where you were; read both legs"),
                    "Both are on, and the leg is still dead": "cord",
                },
            ),
            "cord": Look(
                "Source off, cord out at both ends: resistance of each hot conductor from end to end",
                "at the cord", "The higher of the two counts",
                {
                    Span("Next to nothing", WHOLE_OHM): End(
                        cause="The inlet, its wiring or the feed breaker is open on that leg", stop=True,
                        do=ELECTRICIAN),
                    Span("More"): End(
                        cause="A hot conductor of the cord is broken, or it has one hot only",
                        do="Another cord, with as many conductors as both ends have pins"),
                },
                reading=ohms("hot conductor of the cord, the worse of both"),
            ),
        },
    )  # fmt: skip


def _hardest_start(writer: Writer) -> tuple[str, Load] | None:
    """What of a way starts hardest, with the branch that it is on."""
    found = [
        (load.start.va, branch, load)
        for branch in writer.way.branches
        for load in (writer.plan.loads[key] for key in writer.network.loads_of([branch]))
        if load.start is not None
    ]
    return max(found, key=lambda one: (one[0], one[1]))[1:] if found else None


def _start_trips(writer: Writer, branch: str, load: Load) -> Sheet:
    plan, way = writer.plan, writer.way
    assert load.start is not None
    bears = bearer(writer.network, way)
    multiple = bears.curve.carried_multiple(load.start.seconds) if bears.curve else bears.surge
    start = spread(way, branch, load.start.va, load.start.seconds)
    own = max(start.a, start.b)
    room = max(0.0, min(bears.source_leg_va * multiple - own, bears.total_va * multiple - start.total))
    source = plan.source(writer.hookup).name
    figures = (
        f"{load.name} starts with {load.start.va:,.0f} VA by the plan, {own:,.0f} VA on its leg; {source} "
        f"carries {bears.source_leg_va * multiple:,.0f} VA a leg for that long"
    )
    too_large = End(
        cause=f"The start is larger than the source gives: {figures}",
        do="Leave it off on this source. A soft start or a larger source is for an electrician to fit",
    )
    return search(
        f"start-trips/{way.lead_id}", _title(writer, f"It trips when {load.name} starts"),
        {
            "code": Look(
                "Read the code or the lamps before anything is reset", writer.at_source,
                "What it names",
                {
                    "Overload": "beside",
                    "Ground fault": End(cause=f"{load.name} or its wiring leaks to ground", stop=True,
                                        do=ELECTRICIAN),
                    "Battery low, or temperature": End(
                        cause="The source is empty, cold or hot: it gives less then",
                        do="Charge it, or bring it to room temperature, then “After a trip”"),
                    "Nothing, or something else": "beside",
                },
            ),
            "beside": Look(
                f"After “After a trip”, before {load.name} is turned on again: read what else runs on its "
                "leg, or in all", writer.at_source, "Watts just before it starts",
                {
                    Span(f"Up to {room:,.0f} W", room): "charge",
                    Span("More"): End(
                        cause=f"What runs beside leaves too little for the start: {figures}",
                        do=f"Bring {load.name} back first, or turn off what heats while it starts"),
                },
                reading=Expected(where="on its leg just before it starts", low=0, high=room, unit="W",
                                 if_high="too much beside it"),
                why=figures,
            ),
            "charge": Look(
                "Read the charge", writer.at_source, "A station that is nearly empty gives less",
                {
                    Span(f"Under {LOW_CHARGE:.0f} %", LOW_CHARGE): End(
                        cause="It is nearly empty", do="Charge it first; nothing large meanwhile"),
                    Span(f"{LOW_CHARGE:.0f} % or more"): "alone",
                },
                reading=Expected(where="charge", low=LOW_CHARGE, high=100, unit="%", if_low="nearly empty"),
            ) if isinstance(plan.source(writer.hookup), Station) else Look(
                "Listen to the engine as it starts", OUTDOORS, "It dips and comes back",
                {"It dips and comes back": "alone", "It stalls, or hunts": End(
                    cause="The engine is cold, its fuel old, or its filter clogged",
                    do="Warm it three minutes; else a mechanic")},
            ),
            "alone": Look(
                f"Everything else off: {load.name} alone, once", writer.at_source, "Whether it starts",
                {
                    "It starts": End(
                        cause="Alone it starts: what runs beside it is too much",
                        do=f"Bring {load.name} back first, and the others after it"),
                    "It trips again": too_large,
                    "It hums and does not turn": End(
                        cause=f"{load.name} is stuck, or its capacitor is gone", stop=True,
                        do="Off at once; it is repaired before it is tried again"),
                },
                why="Never a third reset.",
            ),
        },
    )  # fmt: skip


def _went_off(writer: Writer) -> Sheet:
    plan = writer.plan
    station = plan.source(writer.hookup)
    assert isinstance(station, Station)
    stops = station.cutoff_percent
    idle = station.cuts_out
    sleeps = End(
        cause=f"Its idle cut-out: it turns itself off when next to nothing is drawn{_idle_words(station)}",
        do="Turn the cut-out off in its settings, or leave a lamp on all night"
        if idle
        else "Look in its settings whether it has one; turn it off, and say so in the plan",
    )
    return search(
        f"went-off/{writer.way.lead_id}", _title(writer, "The output went off in the night"),
        {
            "charge": Look(
                "Read its charge; turn nothing on yet", writer.at_source, "Before anything else",
                {
                    Span(f"{max(1.0, stops + 1):.0f} % or less", stops + 1.5): End(
                        cause="It is empty",
                        do="All branches off; charge it first, then “After a trip”; look at “Ration” and at "
                        "tonight’s “Night round”"),
                    Span("More"): "code",
                },
                reading=Expected(where="charge", low=stops + 1.5, high=100, unit="%", if_low="empty"),
            ),
            "code": Look(
                "Read the code or the lamps", writer.at_source, "What it names",
                {
                    "Overload": End(
                        cause="Something large came on at night: a pump, defrost, water heater, two at once",
                        do="“After a trip”; then look at Outage for what runs at that hour"),
                    "Temperature": End(
                        cause=f"Too hot or too cold: it gives from {station.counted('works_from_c'):.0f} to "
                        f"{station.counted('works_to_c'):.0f} °C",
                        do="Let it cool, or bring it in; nothing over its vents; then “After a trip”"),
                    "Ground fault": End(cause="Something leaks to ground", do="“The ground-fault outlet "
                                        "does not hold” finds which"),
                    "Nothing": "drawn",
                },
            ),
            "drawn": Look(
                "How much was on when people went to bed?", IN_HOUSE, "What ran all night",
                {
                    "Next to nothing: chargers, a router": sleeps,
                    "As always": "by_itself",
                },
                why="Output with nothing on it looks to a station as if nobody needed it.",
            ),
            "by_itself": Look(
                "Did the utility come back for a while, or was a charger plugged in?", IN_HOUSE,
                "Clocks that blink tell",
                {
                    "Yes": End(
                        cause="It went over to what charges it, and did not come back from it",
                        do="Charger out, then its output on with nothing on; look in its settings"),
                    "No": End(
                        cause="Not to be found by looking",
                        do="Do not count on it at night before its maker has said why", stop=True),
                },
            ),
        },
    )  # fmt: skip


def _idle_words(station: Station) -> str:
    idle = station.cuts_out
    if idle is None:
        return ""
    return f", under {idle.threshold_w:.0f} W for {idle.after_s / 60:.0f} min by the plan"


def _open_ground(writer: Writer) -> Sheet:
    neutral, cords = writer.neutral_is(), writer.kind == "cords"
    told = {
        "house": "By the plan the house keeps its bond: here it should not show",
        "bonded": "By the plan the source is bonded: here it should not show",
        "floating": "By the plan the source floats: the lamps say “open ground” though nothing is broken",
        "unknown": "By the plan it is not known how the neutral of the source is tied",
    }[neutral]
    floats = End(
        cause="The source floats: neither conductor is tied to ground, so the tester’s lamps have nothing "
        "to go by. No fault by itself",
        do="Appliances by cord may be used as the station’s manual says; a burner that senses its flame may "
        "lock out. Tie nothing by hand: a bonding plug only where its maker allows it",
    ) if cords else End(
        cause="The source floats and the house’s bond does not reach it: a fault would make a case live "
        "and trip no breaker",
        do=ELECTRICIAN, stop=True,
    )  # fmt: skip
    return search(
        f"open-ground/{writer.way.lead_id}", _title(writer, "The tester says “open ground”"),
        {
            "cord": Look(
                f"Turn the {writer.output} off and take the cord out at both ends: resistance of its ground "
                "conductor, ground pin to ground pin", "at the cord",
                "Next to nothing, while someone bends it",
                {
                    Span("Next to nothing", WHOLE_OHM): "source",
                    Span("More"): End(cause="The ground conductor of the cord is broken",
                                      do="This cord is not used again"),
                },
                reading=ohms("ground conductor of the cord, end to end"),
                why=told,
            ),
            "source": Look(
                f"With its {writer.output} on and nothing plugged in: neutral to ground at the source’s own "
                "outlet", writer.at_source, "Volts between the wide slot and the ground hole",
                {
                    Span(f"Under {TIED_V:.0f} V", TIED_V): "house",
                    Span("More, up to half of its volts"): floats if cords else "panel",
                },
                reading=Expected(where="neutral to ground at its own outlet", low=0, high=TIED_V, unit="V",
                                 if_high="it floats"),
                why="A bonded source shows next to nothing, a floating one anything up to half.",
            ),
            **({} if cords else {"panel": Look(
                "Back on the source as “Change over” has it: neutral to ground where it is fed",
                AT_METER, "Read with nothing on",
                {
                    Span(f"Under {TIED_V:.0f} V", TIED_V): "house",
                    Span("More"): floats,
                },
                reading=Expected(where="neutral to ground where it is fed", low=0, high=TIED_V, unit="V",
                                 if_high="no bond"),
            )}),
            "house": Look(
                "The same tester in the same outlet on the utility, or in another outlet of that circuit",
                IN_HOUSE, "What it says there",
                {
                    "“Open ground” there, too": End(
                        cause="That outlet has no ground, whatever feeds it", do=ELECTRICIAN, stop=True),
                    "Right": End(
                        cause="A ground was loose in the plug, the inlet or the outlet", stop=True,
                        do="Leave that circuit off until an electrician has looked at its grounds"),
                },
            ),
        },
    )  # fmt: skip


def _does_not_hold(writer: Writer) -> Sheet:
    device = "ground-fault outlet" if writer.plan.site.split_phase else "residual-current device"
    house = writer.neutral_is() == "house"
    bonds = "A bonded source and the house’s own bond: part of the neutral current returns by the ground"
    return search(
        f"does-not-hold/{writer.way.lead_id}", _title(writer, f"The {device} does not hold"),
        {
            "alone": Look(
                f"Nothing in the source, its {writer.output} on: reset it, then a lamp into it",
                writer.at_source, "It holds with the lamp on, and its test button trips it",
                {
                    "It does not hold": End(cause=f"The {device} itself, or it is wet",
                                            do="Dry it; else its maker. Use no outlet without one instead"),
                    "It holds": "cord",
                },
            ),
            "cord": Look(
                f"{writer.output.capitalize()} off; the cord in at both ends, everything behind it off or "
                f"unplugged; {writer.output} on", writer.at_source,
                "It holds with nothing on",
                {
                    "It trips": End(
                        cause="The cord or the inlet leaks: wet, pinched, or wired wrong",
                        do="Another cord; a wet inlet dries first. Again: an electrician looks"),
                    "It holds": "feed" if not writer.traits.as_one else "one",
                },
            ),
            **({} if writer.traits.as_one else {"feed": Look(
                "Close the feed, or move the transfer over, with all branches off",
                writer.at_feed, "It holds with nothing on",
                {
                    "It trips": End(
                        cause=bonds if house else "Neutral and ground touch behind the transfer",
                        do="No resetting helps. An outlet of the source without that device, a source whose "
                        "neutral can float, or a transfer that switches the neutral: an electrician chooses",
                        stop=True),
                    "It holds": "one",
                },
            )}),
            "one": Look(
                "Circuits, or appliances, one at a time, a minute each", IN_HOUSE, "Which one trips it",
                {
                    "Always the same one": End(
                        cause="That one leaks to ground, or its neutral and ground touch", stop=True,
                        do="Leave it off; an electrician, or whoever repairs it, looks"),
                    "Only with several on": End(
                        cause="Filters of electronics and heaters leak a little each; together too much",
                        do="Fewer of them on that outlet; electronics on another one"),
                    "None": End(cause="It was wet, or a plug was half in", do="Go on, and look again"),
                },
            ),
        },
    )  # fmt: skip
