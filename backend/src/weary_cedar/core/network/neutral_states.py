"""How the neutral of a source stands at an outlet: on its battery, and with each input that it passes on.

What stands at the input of a station that passes it through counts for everything further down: its bond,
and every ground-fault device on the way.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from weary_cedar.core.plan import Answer, Hookup, Plan, Recharge


@dataclass(frozen=True)
class NeutralState:
    """One state of a source at an outlet."""

    #: Lead into the station that is passed through; none on its own battery, or of a source without one.
    via: str | None
    #: floating, bonded, or unknown.
    neutral: str
    #: Whether a ground-fault device is between that bond and the end of the lead: yes, no, unknown.
    gfci: Answer
    #: In words; empty for a source that has only this state.
    words: str
    #: The name of the part that has to be looked at where it is not known.
    of: str
    #: Not known because nobody looked at its switch.
    by_switch: bool = False


def neutral_states(plan: Plan, feed: Hookup) -> tuple[NeutralState, ...]:
    """Every state in which a source can feed a hook-up, its own first.

    Args:
        plan: the plan.
        feed: one of its hook-ups, with its bonding plug and what was answered about its switch.

    Returns:
        One state on battery (or of an engine), and one for every lead into the station, or into one of
        a linked pair, that it passes through while this hook-up feeds.

    Source: common practice; a station that passes through joins its input's neutral to its output's.
    """
    source = plan.source(feed)
    tied, by_switch = _as_set(source.neutral, feed.survey, bonded=feed.neutral_switched == "yes")
    gfci = plan.outlet(feed).gfci
    several = bool(_inputs(plan, feed))
    own = NeutralState(None, tied, gfci, "on battery" if several else "", source.name, by_switch)
    found = [own]
    for recharge in _inputs(plan, feed):
        found += [
            replace(state, gfci=_either(state.gfci, gfci)) for state in _passing(plan, recharge, frozenset())
        ]
    if feed.bonding_plug == "yes":
        found = [replace(s, neutral="bonded") if s.neutral == "floating" else s for s in found]
    return tuple(dict.fromkeys(found))


def floats_at(plan: Plan, feed: Hookup) -> tuple[NeutralState, ...]:
    """States in which what a hook-up feeds has no bond at all: by cord, or one appliance on a switch.

    Source: common practice; a furnace switch that leaves the neutral alone keeps the bond of the house.
    """
    single = feed.traits.single and feed.neutral_switched == "yes" and len(feed.circuit_ids) == 1
    if feed.kind != "cords" and not single:
        return ()
    return tuple(state for state in neutral_states(plan, feed) if state.neutral == "floating")


def _as_set(neutral: str, survey: dict[str, Answer], *, bonded: bool) -> tuple[str, bool]:
    """A neutral as it is set, and whether it is not known because nobody looked at its switch."""
    if neutral == "switchable":
        if survey.get("neutral-set") != "yes":
            return "unknown", True
        return ("bonded" if bonded else "floating"), False
    return (neutral if neutral in ("floating", "bonded") else "unknown"), False


def _either(one: Answer, other: Answer) -> Answer:
    return "yes" if "yes" in (one, other) else "unknown" if "unknown" in (one, other) else "no"


def _inputs(plan: Plan, feed: Hookup) -> list[Recharge]:
    """Leads into a source that it may pass through while a hook-up feeds.

    From the utility only to appliances: a panel is on the utility itself while that is back.
    """
    units = plan.source_units(feed)
    return [
        recharge
        for _, recharge in plan.recharges.items()
        if recharge.station_id in units
        and _passes(plan, recharge)
        and (recharge.kind != "circuit" or feed.kind == "cords")
    ]


def _passes(plan: Plan, recharge: Recharge) -> bool:
    entry = plan.stations[recharge.station_id].ac_inputs.get(recharge.input_id)
    return entry is not None and entry.passes


def _passing(plan: Plan, recharge: Recharge, seen: frozenset[str]) -> Iterator[NeutralState]:
    """States of a station's output while it passes an input through.

    Where it is not said whether its own bond or that of its input counts then, and both are alike, it is
    that; where they differ it is not known.
    """
    station = plan.stations[recharge.station_id]
    name = _source_name(plan, recharge)
    words = f"passing {name} through"
    if station.neutral_in_bypass == "unknown":
        before = list(_upstream(plan, recharge, seen | {recharge.station_id}))
        alike = {state.neutral for state in before} == {station.neutral} <= {"floating", "bonded"}
        tied, of = (station.neutral, station.name) if alike else ("unknown", f"{station.name}, {words}")
        guarded = alike and any(state.gfci != "no" for state in before)
        yield NeutralState(recharge.lead_id, tied, "unknown" if guarded else "no", words, of)
    elif station.neutral_in_bypass != "passes":
        yield NeutralState(recharge.lead_id, station.neutral_in_bypass, "no", words, station.name)
    else:
        for state in _upstream(plan, recharge, seen | {recharge.station_id}):
            told = f"{words}, {state.words}" if state.words else words
            yield replace(state, via=recharge.lead_id, words=told)


def _upstream(plan: Plan, recharge: Recharge, seen: frozenset[str]) -> Iterator[NeutralState]:
    """States of what a charging lead is plugged into."""
    name, gfci = _source_name(plan, recharge), _gfci(plan, recharge)
    if recharge.kind == "circuit":
        yield NeutralState(None, "bonded", gfci, "", name)
        return
    if recharge.kind != "station":
        part = plan.room_of(recharge.kind)[recharge.from_id]
        lead = plan.leads[recharge.lead_id]
        tied, by_switch = _as_set(part.neutral, lead.survey, bonded=lead.bonding_plug == "yes")
        if lead.bonding_plug == "yes" and tied == "floating":
            tied = "bonded"
        yield NeutralState(None, tied, gfci, "", name, by_switch)
        return
    station = plan.stations[recharge.from_id]
    tied, by_switch = _as_set(station.neutral, plan.leads[recharge.lead_id].survey, bonded=False)
    yield NeutralState(None, tied, gfci, f"{name} on battery", name, by_switch)
    if recharge.from_id in seen:
        return
    for _, above in plan.recharges.items():
        if above.station_id == recharge.from_id and above.kind != "circuit" and _passes(plan, above):
            for state in _passing(plan, above, seen):
                yield replace(state, gfci=_either(state.gfci, gfci))


def _source_name(plan: Plan, recharge: Recharge) -> str:
    if recharge.kind == "circuit":
        return f"the circuit {plan.circuits[recharge.from_id].label}"
    return str(plan.room_of(recharge.kind)[recharge.from_id].name)


def _gfci(plan: Plan, recharge: Recharge) -> Answer:
    """Whether the outlet that a charging lead is plugged into has ground-fault protection."""
    if recharge.kind == "circuit":
        return "yes" if plan.circuits[recharge.from_id].protection in ("gfci", "gfci_afci") else "no"
    outlet = plan.outlets_of(recharge.kind, recharge.from_id).get(recharge.outlet_id or "")
    return outlet.gfci if outlet is not None else "unknown"
