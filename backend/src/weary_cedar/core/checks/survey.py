"""Checks that are questions of the survey: the answer, or that it is not known."""

from collections.abc import Callable, Iterator

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Level, Seen, Told, Unknown
from weary_cedar.core.checks.registry import seen
from weary_cedar.core.network import network_of
from weary_cedar.core.plan import Plan, plug_of
from weary_cedar.core.tables import Row, table

#: Questions whose answer is the finding; the others are facts that a check of its own looks at.
BY_ANSWER = "by its answer"


def _fed(plan: Plan, panel_id: str) -> bool:
    """Whether a breaker that is interlocked with a panel's main feeds it."""
    return any(feed.panel_id == panel_id and feed.traits.interlocked for feed in plan.feeds.values())


def _shares(plan: Plan, key: str) -> bool:
    """Whether a lead comes after one of another source that can reach the same panels, or is at its inlet."""
    hookups = {name: hookup for name, hookup in plan.hookups.items() if hookup.traits.panel}
    own = hookups.get(key)
    if own is None or not own.panel_id:
        return False
    for name, other in sorted(hookups.items()):
        if name == key:
            return False
        if other.source_id == own.source_id or not other.panel_id:
            continue
        if own.feed_id is not None and own.feed_id == other.feed_id:
            return True
        by_circuit = "handles" in (own.traits.moves, other.traits.moves)
        if not by_circuit and plan.panels_reached(own.panel_id) & plan.panels_reached(other.panel_id):
            return True
    return False


def _furnace(plan: Plan, key: str) -> bool:
    found = plan.hookups.get(key)
    if found is None or found.kind != "cords":
        return False
    hangs = network_of(plan).hangs
    own = {*found.circuit_ids, *map(plug_of, found.load_ids)}
    return any(load.role == "heat" and hangs[k].branch in own for k, load in plan.loads.items())


def _floats(plan: Plan, key: str) -> bool:
    """Whether a source that may be plugged into a feed does not bring its own bond."""
    ends = [hookup for hookup in plan.hookups.values() if hookup.feed_id == key]
    return any(plan.source(hookup).neutral != "bonded" for hookup in ends)


def _switch_of(plan: Plan, key: str) -> str:
    """How the source of a lead is tied, where that decides: at a feed, or into a station that feeds one."""
    hookup = plan.hookups.get(key)
    if hookup is not None:
        return plan.source(hookup).neutral if hookup.kind != "cords" else ""
    recharge = plan.recharges[key]
    onward = [hookup for hookup in plan.hookups.values() if recharge.station_id in plan.source_units(hookup)]
    if recharge.kind == "circuit" or all(hookup.kind == "cords" for hookup in onward):
        return ""
    return str(plan.room_of(recharge.kind)[recharge.from_id].neutral)


def _island(plan: Plan, key: str) -> bool:
    return not plan.site.split_phase and plan.feeds[key].traits.panel


def _protection(plan: Plan, load_id: str) -> str:
    """Protection of the circuit that a load hangs on; none where it hangs on a lead."""
    circuit_id = network_of(plan).hangs[load_id].circuit_id
    return "none" if circuit_id is None else plan.circuits[circuit_id].protection


#: Condition of a question → whether it is asked of a part of the plan.
CONDITIONS: dict[str, Callable[[Plan, str], bool]] = {
    "": lambda plan, key: True,
    "interlocked": _fed,
    "sub": lambda plan, key: plan.site.split_phase and plan.panels[key].fed_from is not None,
    "backfed": lambda plan, key: plan.site.split_phase and plan.feeds[key].traits.interlocked,
    "interlock": lambda plan, key: plan.feeds[key].kind == "interlock_inlet",
    "panelfeed": lambda plan, key: plan.feeds[key].traits.panel,
    "service": lambda plan, key: (
        plan.site.split_phase
        and plan.feeds[key].traits.service
        and plan.panels[plan.feeds[key].panel_id].fed_from is None
    ),
    "feeding": lambda plan, key: key in plan.hookups,
    "furnace": _furnace,
    "split": lambda plan, key: plan.site.split_phase and bool(network_of(plan).running),
    "multiwire": lambda plan, key: key < (plan.partner_of(key) or key),
    "wet": lambda plan, key: (
        plan.loads[key].role in ("food", "pump") and _protection(plan, key) in ("gfci", "gfci_afci")
    ),
    "heat": lambda plan, key: plan.loads[key].role == "heat",
    "medical": lambda plan, key: plan.loads[key].role in ("life_support", "sleep_apnoea"),
    "dc": lambda plan, key: plan.arrays[key].kind != "grid_tied",
    "grid": lambda plan, key: plan.arrays[key].kind == "grid_tied",
    "islanded": lambda plan, key: any(feed.traits.panel for feed in plan.feeds.values()),
    "shared": _shares,
    "island": _island,
    "island-floating": lambda plan, key: _island(plan, key) and _floats(plan, key),
    "subfed": lambda plan, key: plan.panels[key].fed_from is not None and _fed(plan, key),
    "automatic": lambda plan, key: plan.feeds[key].traits.by_itself,
    "bondplug": lambda plan, key: (
        plan.leads[key].bonding_plug == "yes" and key in plan.hookups and plan.hookups[key].kind == "cords"
    ),
    "switchable": lambda plan, key: _switch_of(plan, key) == "switchable",
    "backfed-rcd": lambda plan, key: (
        _island(plan, key)
        and plan.feeds[key].traits.interlocked
        and any(
            c.panel_id == plan.feeds[key].panel_id and c.protection == "rcd" for c in plan.circuits.values()
        )
    ),
}


def questions() -> list[Row]:
    """All questions, in the order of their table."""
    return list(table("survey"))


def asked(plan: Plan) -> list[tuple[Row, str]]:
    """(question, key) of everything that is asked of a plan."""
    found = []
    for row in questions():
        keys = ["site"] if row["room"] == "site" else list(getattr(plan, row["room"]))
        found += [(row, key) for key in keys if CONDITIONS[row["condition"]](plan, key)]
    return found


#: What is asked of the plan that was asked last, by the check that looks at it: many checks ask.
_ASKED: list[tuple[Plan, dict[str, list[tuple[Row, str]]]]] = []


def _asked_for(plan: Plan, check_id: str) -> list[tuple[Row, str]]:
    """(question, key) of what is asked of a plan for one check."""
    if not _ASKED or _ASKED[0][0] is not plan:
        by_check: dict[str, list[tuple[Row, str]]] = {}
        for row, key in asked(plan):
            by_check.setdefault(row["check_id"], []).append((row, key))
        _ASKED[:] = [(plan, by_check)]
    return _ASKED[0][1].get(check_id, [])


#: Where on a walk through the house a part is looked at, in the order of the walk.
WALK = {
    "panels": "At the panel",
    "circuits": "At the panel",
    "feeds": "At the inlet and its switch",
    "leads": "Along the cords",
    "stations": "At the stations",
    "generators": "At the engine",
    "arrays": "At the modules",
    "loads": "At what is used",
    "site": "The house as a whole",
}


def on_a_walk(plan: Plan) -> list[tuple[Row, str]]:
    """(question, key) of everything that is asked of a plan, part by part, as one walks through the house."""
    rooms = list(WALK)
    parts = {room: [] if room == "site" else list(getattr(plan, room)) for room in rooms}
    stops = list(dict.fromkeys(WALK.values()))

    def place(item: tuple[Row, str]) -> tuple[int, int, int]:
        room, key = item[0]["room"], item[1]
        rank = parts[room].index(key) if parts[room] else 0
        return stops.index(WALK[room]), rooms.index(room), rank

    return sorted(asked(plan), key=place)


def answer_of(plan: Plan, row: Row, key: str) -> str:
    """What the survey found: yes, no or unknown."""
    part = plan.site if row["room"] == "site" else getattr(plan, row["room"])[key]
    return str(part.survey.get(row["question_id"], "unknown"))


def said_of(facts: Facts, check_id: str) -> Iterator[Told]:
    """What the answers to the questions of a check say: not so, or not known."""
    for row, key in _asked_for(facts.plan, check_id):
        answer = answer_of(facts.plan, row, key)
        element = facts.element(row["room"], key)
        if answer == row["bad"]:
            level: Level | None = row["level"] or None  # type: ignore[assignment]
            if check_id == "medical" and _apnoea(facts, key):
                level = "caution"
            yield Seen(
                element, detail=f"Not so: {row['statement']}", question=row["question_id"], level=level
            )
        elif answer == "unknown":
            missing = f"whether this is so: {row['statement']}"
            yield Unknown(element, missing, question=row["question_id"])


def _apnoea(facts: Facts, key: str) -> bool:
    return facts.plan.loads[key].role == "sleep_apnoea"


def _register() -> None:
    own = [row for row in questions() if row["judged"] == BY_ANSWER]
    for check_id in dict.fromkeys(row["check_id"] for row in own):
        seen(check_id)(lambda facts, asked_id=check_id: said_of(facts, asked_id))  # type: ignore[misc]


_register()
