"""Remedies: taken one after the other they come to an end, and none of them brings a stop."""

from check_plans import PLANS, Json
from check_rows import ROWS
from hypothesis import given, settings
from hypothesis import strategies as st

from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.errors import InvalidPlan
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch

#: So many remedies are more than any plan of these needs.
MOST = 40
#: What trips in a run hides what would trip next: one of these taken away may show another.
BY_THE_RUN = {"leg-over", "total-over", "start-trip"}


def stops(found: list[Finding]) -> set[tuple[str, str]]:
    return {(finding.check_id, finding.element.id) for finding in found if finding.level == "stop"}


def readable(document: Json) -> Plan | None:
    try:
        return read_plan(document)
    except InvalidPlan:
        return None


@settings(max_examples=40)
@given(st.data())
def test_taking_every_remedy_ends_and_never_adds_a_stop(data: st.DataObject) -> None:
    bad = [(plan, patch) for _, plan, patch, *_ in ROWS]
    plan = data.draw(st.sampled_from(["foothill", "foothill", "canal", "hut"]))
    document = PLANS[plan]
    for patch in data.draw(st.lists(st.sampled_from([p for name, p in bad if name == plan]), max_size=4)):
        changed = apply_patch(document, patch)
        document = changed if readable(changed) else document
    found, taken = findings_of(read_plan(document)), []
    while remedies := [finding for finding in found if finding.fix is not None]:
        remedy = data.draw(st.sampled_from(remedies))
        assert remedy.fix is not None
        document = apply_patch(document, remedy.fix)
        taken.append((remedy.check_id, remedy.element.id, remedy.fix))
        assert len(taken) <= MOST, taken
        after = findings_of(read_plan(document))
        new = stops(after) - stops(found)
        if BY_THE_RUN & {check for check, _ in stops(found)}:
            new = {(check, part) for check, part in new if check not in BY_THE_RUN}
        assert not new, (taken, new)
        found = after
