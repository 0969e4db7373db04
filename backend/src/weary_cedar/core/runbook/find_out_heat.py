"""Heat on a source: why a burner locks out or lights no flame, and the test of a furnace's conversion.

Causes, limits and their order are common practice of the trade; gas, oil and flues are a heating
technician's, wiring an electrician's.
"""

from collections.abc import Iterator

from weary_cedar.core.decide.needs import DOUBT
from weary_cedar.core.network import Network
from weary_cedar.core.network.carrying import bearer
from weary_cedar.core.plan import Load, Station, Thermostatic
from weary_cedar.core.runbook.burner import (
    KEPT_APART,
    NO_FLAME,
    WHOLE_OHM,
    burns,
    lights_up,
    neutral_ends,
    polarity,
)
from weary_cedar.core.runbook.places import IN_HOUSE
from weary_cedar.core.runbook.readings import DISPLAY_OFF, DISPLAY_STEP_W
from weary_cedar.core.runbook.search import SOUND_V, TIED_V, Look, Span, ohms, search, volts
from weary_cedar.core.runbook.sheet import End, Expected, Order, Sheet
from weary_cedar.core.runbook.writer import Writer

TECHNICIAN = "Leave it off; a heating technician looks"
NEVER_MORE = (
    "After three tries stop: unburnt gas or oil may be in it. Wait an hour, smell, then once more at most"
)


def heat_sheets(network: Network) -> Iterator[Sheet]:
    """Sheets about burners that a plan's sources feed.

    Args:
        network: of the plan.

    Returns:
        For each burner that a way feeds: why it locks out, why no flame comes; and where it is fed by a
        switch of its own or a cord, the test of that conversion.

    Source: common practice.
    """
    plan = network.plan
    for way in network.running:
        for key in network.loads_of(list(way.branches)):
            load = plan.loads[key]
            if burns(load):
                writer = Writer(network, way, Order(plan))
                yield _locks_out(writer, key, load)
                yield _no_flame(writer, key, load)
                if way.hookup.traits.as_one:
                    yield _conversion(writer, key, load)


def _locks_out(writer: Writer, load_id: str, load: Load) -> Sheet:
    plan, source = writer.plan, writer.plan.source(writer.hookup)
    low, high = SOUND_V[plan.site.split_phase]
    lengths = ", ".join(
        f"{plan.site.units.told_length(cord.length_m)}, {cord.size}" for cord in writer.hookup.cords
    )
    modified = isinstance(source, Station) and source.waveform != "sine"
    burner = End(
        cause="Not the supply: its flame sensor is dirty, or gas, air or drain",
        do=TECHNICIAN, stop=True,
    )  # fmt: skip
    return search(
        f"locks-out/{writer.way.lead_id}/{load_id}",
        f"{load.name} runs a minute and locks out: {plan.lead_name(writer.way.lead_id)}",
        {
            "code": Look(
                "Count the flashes of its lamp, and read them against the plate inside its door",
                f"at {load.name}", "What they name",
                {
                    "Flame not sensed, or ignition failed": "volts",
                    "Pressure switch, draught, or limit": End(
                        cause="Air, flue or filter: snow over a pipe, a wet drain, a clogged filter",
                        do="Free the pipes outdoors, change the filter; again: " + TECHNICIAN.lower()),
                    "Hot and neutral reversed, or no ground": "polarity",
                    "Nothing, or something else": "volts",
                },
            ),
            "volts": Look(
                "Read hot to neutral where it is fed, while it tries to start", f"at {load.name}",
                "The lowest value that shows",
                {
                    Span(f"Under {low:.0f} V", low): "at_source",
                    Span("In between", high): "polarity",
                    Span(f"Over {high:.0f} V"): End(
                        cause="Too many volts: a lost neutral, or the source",
                        do="Off at once; see “Lights bright on one leg and dim on the other”", stop=True),
                },
                reading=volts(plan, "hot to neutral while it tries"),
            ),
            "at_source": Look(
                "The same at the source’s own outlet", writer.at_source, "The lowest value that shows",
                {
                    Span(f"Under {low:.0f} V", low): End(
                        cause="The source gives way: too much is on, or it is nearly empty",
                        do="Everything else off; charge it; then try once"),
                    Span(f"{low:.0f} V or more"): End(
                        cause=f"The cord is long or thin{f': {lengths}' if lengths else ''}",
                        do="A shorter or a thicker one"),
                },
                reading=volts(plan, "hot to neutral at the source"),
            ),
            "polarity": Look(
                f"Everything off, the cord out at both ends: resistance from {neutral_ends(plan)}",
                "at the cord", KEPT_APART,
                {
                    Span("Next to nothing", WHOLE_OHM): "tied",
                    Span("More"): End(cause="Hot and neutral are crossed in the cord, or it is broken",
                                      do="Another cord, or an electrician turns its plug’s wires"),
                },
                reading=ohms(neutral_ends(plan)),
            ),
            "tied": Look(
                "Neutral to ground where it is fed, with the source on", f"at {load.name}",
                "Flame current returns by ground to neutral: they must be tied somewhere",
                {
                    Span(f"Under {TIED_V:.0f} V", TIED_V): "wave",
                    Span("More, up to half of its volts"): End(
                        cause="The source floats: sound by itself, but the flame is not sensed",
                        do="A furnace switch that leaves the house’s bond, fitted by an electrician, or a "
                        "source whose neutral is bonded. A bonding plug only where its maker allows it; "
                        "tie nothing by hand", stop=True),
                },
                reading=Expected(where="neutral to ground where it is fed", low=0, high=TIED_V, unit="V",
                                 if_high="not tied"),
            ),
            "wave": Look(
                "Look at the source’s plate: sine wave, or modified", writer.at_source,
                "By the plan it is modified, or not known" if modified else "By the plan it is a sine wave",
                {
                    "Sine wave": burner,
                    "Modified, or it does not say": End(
                        cause="Its waveform: controls and flame sensing want a sine wave",
                        do="Another source for it"),
                },
            ),
        },
    )  # fmt: skip


def _no_flame(writer: Writer, load_id: str, load: Load) -> Sheet:
    plan = writer.plan
    low, high = SOUND_V[plan.site.split_phase]
    return search(
        f"no-flame/{writer.way.lead_id}/{load_id}",
        f"No flame in {load.name}: {plan.lead_name(writer.way.lead_id)}",
        {
            "smell": Look(
                "Smell, before anything is tried again", f"at {load.name}", "No gas, no oil",
                {
                    "Gas, or strong oil": End(
                        cause="Fuel is where it must not be", stop=True,
                        do="Touch no switch, everyone out, call the emergency number from outside"),
                    "Nothing": "calls",
                },
            ),
            "calls": Look(
                "Look at the thermostat: display on, heat chosen, set well over the room", IN_HOUSE,
                "It calls for heat",
                {
                    "Dark": "volts",
                    "It does not call": End(cause="The thermostat", do="Set it up, new batteries in it; "
                                            "wait five minutes"),
                    "It calls": "volts",
                },
            ),
            "volts": Look(
                "Read hot to neutral where it is fed; look at its own switch and its door’s safety switch",
                f"at {load.name}", "Volts as on the utility",
                {
                    Span("Next to none", 20.0): End(
                        cause="It gets no power: its switch, its door, its fuse, or its breaker",
                        do="Each of them on; the door pushed home; a fuse that blew twice: an electrician"),
                    Span(f"Under {low:.0f} V", low): End(
                        cause="Too few volts: the cord, or the source",
                        do=f"See “{load.name} runs a minute and locks out”"),
                    Span("In between", high): "starts",
                    Span(f"Over {high:.0f} V"): End(cause="Too many volts", do="Off at once", stop=True),
                },
                reading=volts(plan, "hot to neutral where it is fed"),
            ),
            "starts": Look(
                "Off for a minute, on again: watch its first two minutes", f"at {load.name}",
                lights_up(load),
                {
                    "Nothing moves": End(cause="Its controls or its blower", do=TECHNICIAN, stop=True),
                    "It starts, and nothing glows or sparks": End(
                        cause="Its igniter, or what it waits for: air, drain, limit", stop=True,
                        do=TECHNICIAN),
                    "It glows or sparks, and no flame comes": "fuel",
                    "A flame comes and goes out": End(
                        cause="The flame is not sensed", do=f"See “{load.name} runs a minute and locks out”"),
                },
                why=NEVER_MORE,
            ),
            "fuel": Look(
                "Look at the valves and the tank", "at its fuel", "Valves along the pipe, fuel in the tank",
                {
                    "Closed, or empty": End(
                        cause="No fuel",
                        do="Open it, or fill it; oil and gas lines are bled by a technician"),
                    "Open, and there is fuel": End(
                        cause="Air in the line, a frozen regulator, or its valve", do=TECHNICIAN, stop=True),
                },
                why=NEVER_MORE,
            ),
        },
        notes=[NEVER_MORE],
    )  # fmt: skip


def _conversion(writer: Writer, load_id: str, load: Load) -> Sheet:
    """The test of a burner's switch or cord: each stage measured before, on the utility, and after."""
    order, plan = writer.order, writer.plan
    order.step(f"On the utility, cold start: note the watts of each stage of {load.name}", f"at {load.name}",
               "By a plug-in meter, or by an electrician’s clamp: amps times volts",
               "No meter: go on, and read them on the source",
               readings=_stages(writer, load, "on the utility"),
               why="What it draws is not what its plate says; the plan counts with these.")  # fmt: skip
    order.step("On the utility: hot to neutral, and neutral to ground, where it will be fed",
               f"at {load.name}", "As below", "Not as below: an electrician looks before anything is changed",
               readings=[
                   volts(plan, "hot to neutral, before"),
                   Expected(where="neutral to ground, before", low=0, high=TIED_V, unit="V",
                            if_high="the house’s bond does not reach it: an electrician"),
               ])  # fmt: skip
    polarity(order)
    over = "Change over"
    order.step(f"Put it on the source, by “{over}”; thermostat up", IN_HOUSE, lights_up(load), NO_FLAME)
    order.step("On the source: the watts of each stage", writer.at_source, "As before, within a tenth or two",
               "A stage that never comes: “No flame”; one that trips: “After a trip”",
               readings=_stages(writer, load, "on the source"),
               why="A stage that is more than the source carries shows here, in daylight.")  # fmt: skip
    order.step("On the source: hot to neutral while its blower starts", f"at {load.name}", "As below",
               "Lower: a shorter or thicker cord; the source alone for it",
               readings=[volts(plan, "hot to neutral, on the source")])  # fmt: skip
    order.step("Let it run a whole cycle, and touch the plugs", f"at {load.name}",
               "The flame holds until the room is warm; plugs no warmer than the hand",
               "It locks out: “runs a minute and locks out”; warm: a better cord")  # fmt: skip
    order.step("Back on the utility, by “Back to the utility”: let it run once more", f"at {load.name}",
               "As at the beginning", "Not as before: an electrician looks")  # fmt: skip
    order.step("Write the watts of each stage into the plan, as measured", "in the plan",
               "Load counts as measured", "Nothing was measured: the plan’s figures stay estimates",
               )  # fmt: skip
    way = "switch" if writer.traits.single else "cord"
    return Sheet(key=f"trial/{writer.way.lead_id}/{load_id}", kind="trial", steps=order.steps,
                 title=f"Test of {load.name} on its {way}: {plan.lead_name(writer.way.lead_id)}")  # fmt: skip


def _stages(writer: Writer, load: Load, when: str) -> list[Expected]:
    """Watts of each stage by the plan, within the doubt of where they are from; never over the source."""
    spec = load.behaviour
    assert isinstance(spec, Thermostatic)
    named = [*((s.name, s.watts) for s in spec.before), ("while it heats", spec.run_w)]
    named += [(f"{s.name} afterwards", s.watts) for s in spec.after]
    bears = bearer(writer.network, writer.way)
    carried = min(bears.leg_va, bears.source_leg_va, bears.total_va) * load.power_factor
    off = DOUBT[load.origin] + DISPLAY_OFF
    return [
        Expected(
            where=f"{name}, {when}", low=max(0.0, (1 - off) * watts - DISPLAY_STEP_W),
            high=min((1 + off) * watts + DISPLAY_STEP_W, carried), unit="W", usual=None,
            if_low="less than the plan counts with: put this figure into the plan",
            if_high=f"more than the plan counts with: put it in; the source carries {carried:,.0f} W",
        )
        for name, watts in dict(named).items()
    ]  # fmt: skip
