"""Plans of every kind of feed and source, for what their sheets say."""

from builders import Json
from check_plans import merged
from whole_houses import (
    CHANGEOVER,
    FLAT,
    FLAT_UNIT,
    HOUSE,
    KIT,
    ONE_HOT,
    SIX,
    SUB,
    TT_LEAD,
    UNIT,
    engine,
    inlet,
    lead,
)

from weary_cedar.core.checks import findings_of
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.runbook.sheet import Sheet
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.demo import DEMOS, demo_plan

TWO_SOURCES: Json = merged(
    UNIT, {"generators": {"set": engine()}, "leads": {"swap": lead("generator", "set")}}
)
PLANS: dict[str, Plan] = {name: demo_plan(name) for name in DEMOS} | {
    name: read_plan(apply_patch(base, patch))
    for name, (base, patch) in {
        "interlock": (HOUSE, UNIT),
        "an engine and a station": (HOUSE, TWO_SOURCES),
        "a linked pair": (HOUSE, KIT),
        "one hot on six handles": (HOUSE, merged(ONE_HOT, {"feeds": {"inlet": {**SIX, "inlet": "TT-30"}}, "leads": {"in": TT_LEAD}})),
        "a sub-panel": (HOUSE, merged(UNIT, SUB)),
        "a furnace": (HOUSE, merged(UNIT, {"feeds": {"inlet": inlet(kind="appliance_switch", breaker_spaces=[], circuit_ids=["furnace"])}})),
        "230 V": (FLAT, merged(FLAT_UNIT, CHANGEOVER)),
    }.items()
}  # fmt: skip


def sheets(plan: Plan) -> list[Sheet]:
    return sheets_of(plan, findings_of(plan))
