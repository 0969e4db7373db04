"""Checks that are questions of the survey: the answer, or that it is not known."""

from collections.abc import Callable, Iterator

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Hit, Level, Said, Unknown
from weary_cedar.core.checks.registry import check
from weary_cedar.core.network import network_of
from weary_cedar.core.plan import BACKFED_KINDS, PANEL_KINDS, Plan
from weary_cedar.core.tables import Row, table

#: Questions whose answer is the finding; the others are facts that a check of its own looks at.
BY_ANSWER = "by its answer"


def _fed(plan: Plan, panel_id: str, kinds: tuple[str, ...] = PANEL_KINDS) -> bool:
    return any(f.panel_id == panel_id and f.kind in kinds for f in plan.feeds.values())


def _shares(plan: Plan, key: str) -> bool:
    """Whether a feed comes after another one that can reach the same panels."""
    feed = plan.feeds[key]
    if feed.kind not in PANEL_KINDS:
        return False
    for other_key, other in plan.feeds.items():
        if other_key == key:
            return False
        both = other.kind in PANEL_KINDS and other.source_id != feed.source_id
        if both and plan.panels_reached(feed.panel_id) & plan.panels_reached(other.panel_id):
            return True
    return False


def _island(plan: Plan, key: str) -> bool:
    return not plan.site.split_phase and plan.feeds[key].kind in PANEL_KINDS


#: Condition of a question → whether it is asked of a part of the plan.
CONDITIONS: dict[str, Callable[[Plan, str], bool]] = {
    "": lambda plan, key: True,
    "interlocked": lambda plan, key: _fed(plan, key, BACKFED_KINDS),
    "sub": lambda plan, key: plan.panels[key].fed_from is not None,
    "backfed": lambda plan, key: plan.feeds[key].kind in BACKFED_KINDS,
    "interlock": lambda plan, key: plan.feeds[key].kind == "interlock_inlet",
    "panelfeed": lambda plan, key: plan.feeds[key].kind in PANEL_KINDS,
    "service": lambda plan, key: (
        plan.feeds[key].kind == "transfer_panel" and plan.panels[plan.feeds[key].panel_id].fed_from is None
    ),
    "furnace": lambda plan, key: (
        plan.feeds[key].kind in ("cords", "appliance_switch")
        and any(
            load.circuit_id in plan.feeds[key].circuit_ids and load.role == "heat"
            for load in plan.loads.values()
        )
    ),
    "split": lambda plan, key: plan.site.split_phase and bool(network_of(plan).running),
    "multiwire": lambda plan, key: plan.partner_of(key) is not None,
    "wet": lambda plan, key: (
        plan.loads[key].role in ("food", "pump")
        and plan.circuits[plan.loads[key].circuit_id].protection in ("gfci", "gfci_afci")
    ),
    "heat": lambda plan, key: plan.loads[key].role == "heat",
    "medical": lambda plan, key: plan.loads[key].role in ("life_support", "sleep_apnoea"),
    "dc": lambda plan, key: plan.arrays[key].kind != "grid_tied",
    "grid": lambda plan, key: plan.arrays[key].kind == "grid_tied",
    "islanded": lambda plan, key: any(feed.kind in PANEL_KINDS for feed in plan.feeds.values()),
    "shared": _shares,
    "island": _island,
    "island-floating": lambda plan, key: (
        _island(plan, key) and plan.source(plan.feeds[key]).neutral != "bonded"
    ),
    "subfed": lambda plan, key: plan.panels[key].fed_from is not None and _fed(plan, key, BACKFED_KINDS),
    "automatic": lambda plan, key: plan.feeds[key].kind in ("automatic", "hybrid"),
    "bondplug": lambda plan, key: plan.feeds[key].kind == "cords" and plan.feeds[key].bonding_plug == "yes",
    "switchable": lambda plan, key: (
        plan.feeds[key].kind != "cords" and plan.source(plan.feeds[key]).neutral == "switchable"
    ),
    "backfed-rcd": lambda plan, key: (
        _island(plan, key)
        and plan.feeds[key].kind in BACKFED_KINDS
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


def answer_of(plan: Plan, row: Row, key: str) -> str:
    """What the survey found: yes, no or unknown."""
    part = plan.site if row["room"] == "site" else getattr(plan, row["room"])[key]
    return str(part.survey.get(row["question_id"], "unknown"))


def said_of(facts: Facts, check_id: str) -> Iterator[Said]:
    """What the answers to the questions of a check say: not so, or not known."""
    for row, key in asked(facts.plan):
        if row["check_id"] != check_id:
            continue
        answer = answer_of(facts.plan, row, key)
        element = facts.element(row["room"], key)
        if answer == row["bad"]:
            level: Level | None = row["level"] or None  # type: ignore[assignment]
            if check_id == "medical" and _apnoea(facts, key):
                level = "caution"
            yield Hit(element, detail=f"Not so: {row['statement']}", question=row["question_id"], level=level)
        elif answer == "unknown":
            missing = f"whether this is so: {row['statement']}"
            yield Unknown(element, missing, question=row["question_id"])


def _apnoea(facts: Facts, key: str) -> bool:
    return facts.plan.loads[key].role == "sleep_apnoea"


def _register() -> None:
    own = [row for row in questions() if row["judged"] == BY_ANSWER]
    for check_id in dict.fromkeys(row["check_id"] for row in own):
        check(check_id)(lambda facts, asked_id=check_id: said_of(facts, asked_id))  # type: ignore[misc]


_register()
