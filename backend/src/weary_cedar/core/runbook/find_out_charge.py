"""Why charging stops: a search for each lead into an input. Common practice of the trade."""

from weary_cedar.core.plan import Lead, Plan, ToInput
from weary_cedar.core.runbook.feed_and_panel import HERTZ
from weary_cedar.core.runbook.search import DEAD_LEG_V, SOUND_V, Look, Span, search, volts
from weary_cedar.core.runbook.sheet import End, Expected, Sheet


def charging_stops(plan: Plan, lead_id: str, lead: Lead) -> Sheet:
    """What to look at where a lead into an input has stopped to charge.

    Args:
        plan: the plan.
        lead_id: of a lead that ends at an input.
        lead: that lead.

    Returns:
        The search.

    Source: common practice.
    """
    assert isinstance(lead.to, ToInput)
    station, source = plan.stations[lead.to.station_id], _source_of(plan, lead)
    engine = plan.generators.get(lead.source.id) if lead.source.kind == "generator" else None
    at, split = f"at {station.name}", plan.site.split_phase
    low, high = SOUND_V[split]
    below = station.recharge_below_percent
    slower = "A lower rate; a thicker or shorter cord; nothing else on that source"
    looks: dict[str, Look] = {
        "full": Look(
            "Read the charge", at, "Whether it needs any",
            {
                Span(f"Under {below:.0f} %", below): "cold",
                Span(f"{below:.0f} % or more"): End(
                    cause=f"It is full, or nearly: it takes charge again under {below:.0f} % only",
                    do="Nothing is wrong; “End the charge”"),
            },
            reading=Expected(where="charge", low=0, high=below, unit="%", if_high="full, or nearly"),
        ),
        "cold": Look(
            "Read the temperature of its battery, or of the room in which it stood for hours", at,
            "By its display, else a thermometer beside it",
            {
                Span("Colder", station.charges_from_c): End(
                    cause=f"It takes no charge under {station.charges_from_c:.0f} °C",
                    do="Bring it in, and wait some hours; never with a heater beside it"),
                Span("Warmer"): "volts",
            },
            reading=Expected(where="temperature of its battery", low=station.charges_from_c,
                             high=station.counted("works_to_c"), unit="°C", if_low="too cold to charge"),
        ),
        "volts": Look(
            f"Read the volts at the cord’s end for {station.name}, out of it, with {source} on", at,
            "Nothing else on that cord",
            {
                Span("Next to none", DEAD_LEG_V): "breaker",
                Span(f"Under {low:.0f} V", low): End(
                    cause="Too few volts: the cord is long or thin, or its source overloaded", do=slower),
                Span("In between", high): "hertz" if engine else "rate",
                Span(f"Over {high:.0f} V"): End(
                    cause="Too many volts", do="Off; its source is looked at", stop=True),
            },
            reading=volts(plan, "at the end of the cord"),
        ),
        "breaker": Look(
            f"Look at the breaker and the ground-fault device of {source}, and at the button of the input",
            "at the source", "Which has tripped",
            {
                "A ground-fault device": End(
                    cause="It leaks, or two bonds are joined through the station",
                    do="“The ground-fault outlet does not hold” finds which"),
                "A breaker, or the button of the input": End(
                    cause="The charge, and what is passed through, was more than it carries",
                    do=slower + "; reset it once, with the rate at its lowest"),
                "None of them": End(cause="The cord or an adapter is broken",
                                    do="Another cord, then from the first step"),
            },
        ),
    }  # fmt: skip
    if engine is not None:
        first, last = HERTZ[split]
        refused = engine.waveform in station.refuses
        unsteady = (
            f"{station.name} is known to refuse engines of this class"
            if refused
            else "The engine’s frequency or its waveform is not what the charger wants"
        )
        uneven = End(
            cause=unsteady,
            do="The lowest rate; warm the engine; another engine, or a charger at its DC input",
        )
        looks["hertz"] = Look(
            "Read the frequency with the charger in", at, "On a meter, or on the station’s display",
            {
                Span("Lower", first): uneven,
                Span("In between", last): uneven if refused else "rate",
                Span("Higher"): uneven,
            },
            reading=Expected(where="frequency", low=first, high=last, unit="Hz",
                             if_low="overloaded, or its governor", if_high="its governor"),
        )  # fmt: skip
    looks["rate"] = Look(
        "Plug it in at the lowest charge rate", at, "It charges for ten minutes",
        {
            "It charges, and stops at a higher rate": End(
                cause="Its source carries less than that rate", do=slower),
            "It charges for minutes, then stops": End(
                cause="It, the cord or a plug is hot", do="Touch them; free its vents; a lower rate"),
            "It does not charge at all": End(
                cause="A setting, its kit, or the charger itself",
                do="Look whether a limit is set, or a kit takes no charge while it is on; else its maker"),
        },
    )  # fmt: skip
    return search(f"charging-stops/{lead_id}", f"Charging stops: {plan.lead_name(lead_id)}", looks)


def _source_of(plan: Plan, lead: Lead) -> str:
    if lead.source.kind == "circuit":
        return plan.circuits[lead.source.id].label
    return str(getattr(plan.room_of(lead.source.kind).get(lead.source.id), "name", "its source"))
