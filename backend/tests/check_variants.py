"""Plans of the tests of checks, each varied by dice: marks, sizes of stations, schools of closing."""

from copy import deepcopy
from random import Random

from check_plans import PLANS, Json
from check_rows import ROWS
from check_rulings import RULINGS

from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.runbook.replay import replay
from weary_cedar.core.runbook.sheets import sheets_of

#: Every plan of a row: with its finding, without it, with a figure missing.
PATCHES: list[tuple[str, Json]] = [
    (base, patch) for _, base, *patches, _ in ROWS + RULINGS for patch in patches if patch is not None
]


def variant(number: int, seed: int = 0) -> Plan:
    """One of them, varied."""
    base, patch = PATCHES[number]
    dice = Random(f"{number} {seed}")
    document = deepcopy(apply_patch(PLANS[base], patch))
    for circuit in document.get("circuits", {}).values():
        if dice.random() < 0.4:
            circuit["mark"] = dice.choice(["keep", "room", "off"])
    for station in document.get("stations", {}).values():
        station["rated_va"] *= dice.choice([0.5, 0.75, 1.0, 1.5])
    for feed in document.get("feeds", {}).values():
        feed["branches_off"] = dice.choice(["all", "large", "none"])
        feed["output_on"] = dice.choice(["before", "after"])
        feed["light_first"] = dice.choice([True, False])
    return read_plan(document)


def unproven(plan: Plan) -> list[str]:
    """Sheets that are given although their own replay refuses them, and that do not say so.

    What makes it safe begins wherever the house is, so of that it is the end that must be safe to leave.
    """
    found = []
    for sheet in sheets_of(plan, []):
        replayed = replay(plan, sheet.acts, sheet.begins)
        told = any(note.startswith("As it stands it is not safe") for note in sheet.notes)
        if not (replayed.safe or sheet.held_by or told or sheet.kind == "make_safe"):
            found.append(f"{sheet.key}: at “{replayed.act}”: {replayed.why}")
    return found
