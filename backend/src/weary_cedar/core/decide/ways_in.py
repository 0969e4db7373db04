"""Four ways into the same house: cords, a switch for one circuit, inlet and interlock, transfer switch."""

from collections.abc import Sequence
from typing import Final, Literal

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.decide.transfer_switch import SIZES, best_circuits, with_interlock, with_switch
from weary_cedar.core.errors import WearyCedarError
from weary_cedar.core.network import network_of
from weary_cedar.core.outage import run_outage
from weary_cedar.core.panel_schedule import mean_watts
from weary_cedar.core.plan import Plan, Thermostatic

WayIn = Literal["cords", "one_circuit", "interlock", "switch"]
#: What it costs with labour, in dollars. Common practice, no source, from memory: ask for a quotation.
USUAL_MONEY: Final = {
    "cords": (40, 250), "one_circuit": (250, 700), "interlock": (500, 1_500), "switch": (800, 2_500),
}  # fmt: skip
#: Minutes to bring the station out and start it, for each plug that is moved, each handle or breaker. Common
#: practice: 20 s between two breakers, two minutes a cord.
FIRST_MIN, PLUG_MIN, HANDLE_MIN, MAIN_MIN = 5.0, 2.0, 0.5, 1.0
#: Hard-wired as a rule: what is in the walls. Common practice.
WIRED_ROLES: Final = ("heat", "pump", "light")
PERMIT: Final = {
    "cords": "No permit as a rule: nothing of the house is touched.",
    "one_circuit": "A permit and an electrician as a rule: it is wired into a branch circuit.",
    "interlock": "A permit, an electrician and an inspection as a rule; only the one made for that panel.",
    "switch": "A permit, an electrician and an inspection as a rule; the supply may have to be cut.",
}
CONSENT: Final = {
    "cords": "Nobody's consent, but mind cords in shared stairs.",
    "one_circuit": "The owner's consent in a rented home.",
    "interlock": "The owner's consent, and that of whoever runs the grid where they ask for it.",
    "switch": "The owner's consent, and that of whoever runs the grid where they ask for it.",
}
TAKEN: Final = {
    "cords": "All of it can be taken along.",
    "one_circuit": "The switch stays in the wall; the cord and the station can be taken along.",
    "interlock": "Inlet, wire and interlock stay; the cord and the station can be taken along.",
    "switch": "The switch and its wiring stay; the cord and the station can be taken along.",
}
MOST_NAMED: Final = 6
DEFERS: Final = "Local code, the panel's label and a licensed electrician come first."


class OneWayIn(BaseModel):
    """One way: what it reaches and leaves dark, what it costs and asks."""

    model_config = ConfigDict(frozen=True)

    way: WayIn
    name: str
    #: The plan has this one now.
    own: bool
    money_low: int
    money_high: int
    #: Loads that are wanted and stay dark, those that must run first, and what they take, Wh a day.
    dark: tuple[str, ...]
    dark_must: int
    dark_wh_day: float
    minutes: float
    permit: str
    consent: str
    taken_along: str
    #: How the outage goes with it, by a run; why it was not run, where it was not.
    verdict: str
    sentence: str


class WaysIn(BaseModel):
    """All ways, the cheapest first, and which is said."""

    model_config = ConfigDict(frozen=True)

    sentence: str
    ways: tuple[OneWayIn, ...] = ()
    defers: str = DEFERS
    why_not: str = ""


def ways_in(plan: Plan, stops: Sequence[str] = ()) -> WaysIn:
    """The same house by four kinds of feed.

    Args:
        plan: the plan.
        stops: what forbids to energise the plan as it stands, in words: it is said first, and of no way how
            the outage would go, since what must not be may be in all of them.

    Returns:
        For each: dollars with labour, loads that are wanted and stay dark, Wh a day; minutes at change-over,
        permit, consent, what moves out with a tenant; and how the outage goes where the plan's feed can be
        thought as that one. Minutes are counted by plugs, handles and breakers.

    Source: what a feed reaches from the plan; prices, minutes and permits are common practice.
    """
    wanted = _wanted(plan)
    if not wanted:
        return WaysIn(
            sentence="Nothing is marked keep or room yet.", why_not="nothing is marked keep or room yet"
        )
    plugs = {key for key in wanted if _has_plug(plan, key)}
    found = [_cords(plan, wanted, plugs)]
    panels = _panels(plan)
    if panels:
        found += [
            _one_circuit(plan, wanted, plugs), _interlock(plan, wanted, panels),
            *(_switch(plan, wanted, panels[0], size) for size in SIZES),
        ]  # fmt: skip
    if not stops:
        return WaysIn(sentence=_sentence(found, panels), ways=tuple(found))
    held = f"Must not be energised as the plan stands: {stops[0]}"
    ways = tuple(way.model_copy(update={"verdict": held}) for way in found)
    return WaysIn(sentence=f"{held}. {_sentence(found, panels)}", ways=ways)


def _wanted(plan: Plan) -> list[str]:
    hangs = network_of(plan).hangs
    return [key for key in plan.loads if hangs[key].mark in ("keep", "room")]


def _panels(plan: Plan) -> list[str]:
    """The panels that are fed, or else all that are fed by no other one."""
    fed = list(dict.fromkeys(feed.panel_id for feed in plan.feeds.values()))
    return fed or [key for key, panel in plan.panels.items() if panel.fed_from is None]


def _by_cord(plan: Plan) -> set[str]:
    """Circuits and plugs that hang on cords in the plan."""
    return {branch for way in network_of(plan).ways if way.hookup.kind == "cords" for branch in way.branches}


def _has_plug(plan: Plan, key: str) -> bool:
    """Whether a load can hang on a cord: it does already, or it is plugged into an outlet of one leg."""
    load, hang = plan.loads[key], network_of(plan).hangs[key]
    if hang.lead_id is not None or hang.branch in _by_cord(plan):
        return True
    circuit = plan.circuits.get(load.circuit_id or "")
    wired = load.role in WIRED_ROLES or isinstance(load.behaviour, Thermostatic)
    return not wired and (circuit is None or circuit.poles == 1)


def _wh_day(plan: Plan, keys: Sequence[str]) -> float:
    return sum(24.0 * mean_watts(plan, plan.loads[key]) for key in keys)


def _told(
    plan: Plan,
    way: WayIn,
    name: str,
    wanted: Sequence[str],
    reached: set[str],
    minutes: float,
    verdict: str,
    *,
    own: bool,
) -> OneWayIn:
    network = network_of(plan)
    hangs = network.hangs
    if own:
        reached = {key for key in wanted if hangs[key].branch in network.branches}
    must = [key for key in wanted if key not in reached and hangs[key].mark == "keep"]
    rest = [key for key in wanted if key not in reached and hangs[key].mark == "room"]
    dark = [*must, *rest]
    low, high = USUAL_MONEY[way]
    names = [plan.loads[key].name for key in dark]
    told = ", ".join(names[:MOST_NAMED]) + (
        f" and {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else ""
    )
    stays = "nothing that is wanted stays dark" if not dark else f"dark: {told}"
    return OneWayIn(
        way=way, name=name, own=own, money_low=low, money_high=high, dark=tuple(names), dark_must=len(must),
        dark_wh_day=_wh_day(plan, dark), minutes=minutes, permit=PERMIT[way], consent=CONSENT[way],
        taken_along=TAKEN[way], verdict=verdict,
        sentence=f"{name}: ${low:,} to ${high:,}, about {minutes:.0f} min; {stays}.",
    )  # fmt: skip


def _own(plan: Plan, kinds: Sequence[str], size: int | None = None) -> bool:
    feeds = [feed for feed in plan.feeds.values() if feed.kind in kinds]
    return any(size is None or len(feed.circuit_ids) == size for feed in feeds)


def _cords(plan: Plan, wanted: Sequence[str], plugs: set[str]) -> OneWayIn:
    minutes = FIRST_MIN + PLUG_MIN * len(plugs)
    words = "Not run: draw its cords on Feed."
    if not plan.feeds and any(lead.to.end == "loads" for lead in plan.leads.values()):
        words = _verdict(plan)
    return _told(plan, "cords", "Cords to appliances", wanted, plugs, minutes, words, own=not plan.feeds)


def _one_circuit(plan: Plan, wanted: Sequence[str], plugs: set[str]) -> OneWayIn:
    """A switch for the circuit that heats, or for what must run and takes most; cords for the rest."""
    hangs = network_of(plan).hangs
    wired = [key for key in wanted if key not in plugs and hangs[key].circuit_id is not None]
    ranked = sorted(
        wired,
        key=lambda key: (
            plan.loads[key].role != "heat",
            hangs[key].mark != "keep",
            -_wh_day(plan, [key]),
            key,
        ),
    )
    circuit_id = hangs[ranked[0]].circuit_id if ranked else None
    reached = plugs | {
        key for key in wanted if circuit_id is not None and hangs[key].circuit_id == circuit_id
    }
    label = plan.circuits[circuit_id].label if circuit_id else "one circuit"
    minutes = FIRST_MIN + MAIN_MIN + PLUG_MIN * len(plugs)
    return _told(
        plan, "one_circuit", f"Switch for {label}, cords for the rest", wanted, reached, minutes,
        "Not run: draw it on Feed.", own=_own(plan, ("appliance_switch",)),
    )  # fmt: skip


def _interlock(plan: Plan, wanted: Sequence[str], panels: Sequence[str]) -> OneWayIn:
    reached = {key for key in wanted if _on_panel(plan, key, panels)}
    handles = {network_of(plan).hangs[key].circuit_id for key in reached}
    minutes = FIRST_MIN + MAIN_MIN + 2 * HANDLE_MIN * len(handles)
    own = _own(plan, ("interlock_inlet", "bridged", "half_leg", "transfer_panel"))
    verdict = _verdict(plan if own else with_interlock(plan)) if plan.feeds else "Not run: draw it on Feed."
    return _told(
        plan, "interlock", "Inlet and interlock, every circuit", wanted, reached, minutes, verdict, own=own
    )


def _switch(plan: Plan, wanted: Sequence[str], panel_id: str, size: int) -> OneWayIn:
    choice = best_circuits(plan, panel_id, size)
    reached = {key for key in wanted if network_of(plan).hangs[key].circuit_id in choice.chosen}
    minutes = FIRST_MIN + HANDLE_MIN * len(choice.chosen)
    verdict = _verdict(with_switch(plan, choice)) if plan.feeds else "Not run: draw it on Feed."
    return _told(
        plan, "switch", f"Transfer switch, {size} places", wanted, reached, minutes, verdict,
        own=_own(plan, ("transfer_switch",), size),
    )  # fmt: skip


def _on_panel(plan: Plan, key: str, panels: Sequence[str]) -> bool:
    circuit = plan.circuits.get(network_of(plan).hangs[key].circuit_id or "")
    return circuit is not None and any(
        circuit.panel_id in plan.panels_reached(panel_id) for panel_id in panels
    )


def _verdict(plan: Plan) -> str:
    try:
        verdict = run_outage(plan).verdict
    except WearyCedarError as error:
        return f"Not run: {error.detail}"
    return f"{verdict.headline}: {verdict.sentence}"


def _sentence(found: Sequence[OneWayIn], panels: Sequence[str]) -> str:
    """The cheapest by which nothing that must run stays dark."""
    enough = [way for way in found if not way.dark_must]
    if not panels:
        told = (
            "By cords nothing that must run stays dark"
            if enough
            else "By cords something that must run stays dark"
        )
        return f"{told}; there is no panel in the plan to compare other ways with."
    if not enough:
        return "By none of these does all that must run get power: see what stays dark."
    first = min(enough, key=lambda way: (way.money_low, way.minutes))
    dark = (
        f"; dark stays {', '.join(first.dark)}" if first.dark else ", and nothing that is wanted stays dark"
    )
    return f"The cheapest by which all that must run has power: {first.name.lower()}{dark}."
