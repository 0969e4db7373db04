"""The sheets of a plan, and what holds back those by which something is energised."""

from collections.abc import Iterator, Mapping, Sequence
from itertools import combinations
from typing import Final

from weary_cedar.core.checks import Finding
from weary_cedar.core.handles.elements import charging_from
from weary_cedar.core.network import Network, Way, network_of
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import Hookup, Plan, ToInput
from weary_cedar.core.runbook.before import before
from weary_cedar.core.runbook.charging import between_cuts, charge, end_charge
from weary_cedar.core.runbook.days import carried, ration, through_the_day
from weary_cedar.core.runbook.energising import change_over, swap
from weary_cedar.core.runbook.find_out import find_out
from weary_cedar.core.runbook.find_out_heat import heat_sheets
from weary_cedar.core.runbook.going_back import back, make_safe, recover
from weary_cedar.core.runbook.house import House
from weary_cedar.core.runbook.night import night_rounds
from weary_cedar.core.runbook.replay import replay
from weary_cedar.core.runbook.schools import joins_a_panel
from weary_cedar.core.runbook.sheet import CAUTIONS, Sheet, SheetKind, Step
from weary_cedar.core.runbook.two_panels import back_from_both, over_both

#: What is not known and holds a sheet back all the same: a neutral, and checks that could not be made.
HOLDING = ("neutral-unknown", "checks")


def sheets_of(plan: Plan, findings: Sequence[Finding], run: RunResult | None = None) -> list[Sheet]:
    """Every sheet of a plan.

    Args:
        plan: the plan.
        findings: of its checks; a stop that nobody has answered, and a neutral that is not known, hold
            back every sheet by which something is energised.
        run: of the plan, if there is one already.

    Returns:
        What is at hand before. For each lead that feeds: change over, return, recover, make safe, ration;
        for two leads at one feed: the swap; for two panels: both; for each lead that charges: how, and how
        it is ended; between the cuts of a rolling outage; modules through the day; a round for each night.
        One that is held back says by which findings.

    Source: the order of steps, common practice of the trade; local code, and the instructions of panel
    and source, come first.
    """
    held = _held(findings)
    made = _Made(plan, run or run_outage(plan))
    found = [_held_back(sheet, held) if held else _proven(plan, sheet) for sheet in made.energising()]
    found += [sheet if sheet.kind == "make_safe" else _led_out(plan, sheet) for sheet in made.always(held)]
    return [
        sheet.model_copy(update={"next": list(WHAT_NEXT[sheet.kind]), "cautions": CAUTIONS})
        for sheet in found
    ]


def _held_back(sheet: Sheet, held: list[str]) -> Sheet:
    nothing: dict[str, object] = {"steps": [], "stay_off": [], "leave_off": [], "notes": []}
    return sheet.model_copy(update={"held_by": held, **nothing})


def _proven(plan: Plan, sheet: Sheet) -> Sheet:
    """A sheet whose own acts were replayed; one that they make unsafe is not given, and says where."""
    found = replay(plan, sheet.acts, sheet.begins) if sheet.steps else None
    if found is None or found.safe:
        return sheet
    return _held_back(sheet, [f"These steps are not safe in this plan, at “{found.act}”: {found.why}"])


def _led_out(plan: Plan, sheet: Sheet) -> Sheet:
    """A sheet that leads out of how the house stands: given although that is not safe, and says so."""
    stands = House(plan, sheet.begins).standing() if sheet.steps else None
    if stands is None:
        return _proven(plan, sheet)
    if sheet.kind == "recover":
        sheet = _left_off(sheet, [stands.why])
    return sheet.model_copy(update={"notes": [f"As it stands it is not safe: {stands.why}", *sheet.notes]})


#: What comes next, and what is watched until when, by kind of sheet. Common practice.
WHAT_NEXT: Final[Mapping[SheetKind, tuple[str, ...]]] = {
    "before": ("The power goes: “Change over”",),
    "change_over": (
        "Touch every plug and the inlet after fifteen minutes, then every few hours: no warmer than the hand",
        "Before bed: “Night round, before bed”",
        "It trips: “After a trip”. The utility is steady for ten minutes: “Back to the utility”",
    ),
    "swap": (
        "Watch plugs and watts for fifteen minutes, as after every change",
        "Charge the source that was taken off, then swap back the same way",
    ),
    "charge": (
        "Touch both plugs after fifteen minutes; look again every hour until it is full",
        "Full, or before bed: “End the charge”",
    ),
    "end_charge": (
        "The charge is read again before bed: “Night round”",
        "A second charge of the day begins at the first step of its sheet",
    ),
    "between_cuts": ("The next cut: “Change over” from its first step",),
    "sun": ("At dusk: “Night round, before bed”",),
    "night": ("In the morning: look at charge and plugs before anything large is turned on",),
    "ration": ("Look at the charge every few hours; what was given up comes back in the reverse order",),
    "return": (
        "Change-over is done with: the next one begins at its first step",
        "Charge everything again; clear the food; write down what went otherwise than planned",
    ),
    "recover": (
        "What tripped stays off until its cause is known",
        "It trips a second time: leave it off. Never a third reset",
    ),
    "find_out": (
        "Put right: begin again with “Change over”, or go on where you were",
        "It comes back, or nothing fits: leave it off, and call",
    ),
    "trial": ("Write into the plan what was measured; try it again before every winter",),
    "make_safe": ("Nothing is turned on before a licensed electrician, or the fire service, has looked",),
}  # fmt: skip


def _held(findings: Sequence[Finding]) -> list[str]:
    holding = [f for f in findings if not f.answered and (f.level == "stop" or f.check_id in HOLDING)]
    return list(dict.fromkeys(f"{f.title.strip()}: {f.element.name}" for f in holding))


class _Made:
    """Sheets as they are made; what several begin from is made once."""

    def __init__(self, plan: Plan, run: RunResult) -> None:
        self.plan, self.run, self.network = plan, run, network_of(plan)
        self.overs = {way.lead_id: change_over(self.network, way) for way in self.network.running}
        self.both = [(one, other, over_both(self.network, one, other)) for one, other in _pairs(self.network)]

    def energising(self) -> Iterator[Sheet]:
        """Those by which something comes under power."""
        plan, network = self.plan, self.network
        for way in network.running:
            yield self.overs[way.lead_id]
            for other in network.running:
                same = way.hookup.feed_id is not None and other.hookup.feed_id == way.hookup.feed_id
                if other is not way and same:
                    yield swap(network, way, other, self._fed(way))
        for _, _, over in self.both:
            yield over
        for key, lead in plan.leads.items():
            if isinstance(lead.to, ToInput):
                yield charge(plan, key)
        for way in network.running if plan.outage.grid else ():
            for key in plan.leads:
                charged = charging_from(plan, key)
                if way.hookup.kind != "cords" and charged in plan.source_units(way.hookup):
                    yield between_cuts(network, way, key, self._fed(way))
        for key, array in plan.arrays.items():
            if carried(array):
                yield through_the_day(plan, self.run, key)

    def always(self, held: list[str]) -> Iterator[Sheet]:
        """Those that nothing holds back."""
        network = self.network
        if network.running:
            yield before(self.plan, held)
        for way in network.running:
            fed = self._fed(way)
            yield back(network, way, fed)
            yield _left_off(recover(network, way, fed), held)
            yield make_safe(network, way, fed)
            yield ration(network, way, fed, self.run)
        for key, lead in self.plan.leads.items():
            if isinstance(lead.to, ToInput):
                yield end_charge(self.plan, key)
        for sheet in (*find_out(network), *heat_sheets(network)):
            yield _only_looked(sheet, held)
        for one, other, over in self.both:
            yield back_from_both(network, one, other, over.after)
        if network.running:
            yield from night_rounds(self.plan, self.run)
        for way in network.ways:
            if way.why_not:
                yield make_safe(network, way, _hooked_up(way.hookup))

    def _fed(self, way: Way) -> dict[str, str]:
        """How the house stands while a way feeds it."""
        return self.overs[way.lead_id].after


def _depth(plan: Plan, panel_id: str) -> int:
    """How many panels are above one."""
    above, depth = plan.panels[panel_id].fed_from, 0
    while above is not None and depth < len(plan.panels):
        above, depth = plan.panels[plan.circuits[above].panel_id].fed_from, depth + 1
    return depth


def _pairs(network: Network) -> Iterator[tuple[Way, Way]]:
    """Ways to two panels through inlets of their own, the first lead of each; the outer one is first."""
    first: dict[str, Way] = {}
    for way in network.running:
        if way.hookup.feed_id is not None and joins_a_panel(way):
            first.setdefault(way.hookup.panel_id, way)
    panels = network.plan.panels
    order = sorted(
        first, key=lambda key: (_depth(network.plan, key), -panels[key].counted("main_a"), panels[key].name)
    )
    for one, other in combinations([first[key] for key in order], 2):
        apart = one.hookup.feed_id != other.hookup.feed_id
        if apart and (one.hookup.source_kind, one.hookup.source_id) != (
            other.hookup.source_kind, other.hookup.source_id
        ):  # fmt: skip
            yield one, other


def _left_off(sheet: Sheet, held: list[str]) -> Sheet:
    """A sheet that goes as far as everything is off, where findings forbid to energise again."""
    if not held:
        return sheet
    on = next((n for n, step in enumerate(sheet.steps) if any(act.to == "on" for act in step.acts)), 0)
    left = Step(
        action=f"Leave it off: {'; '.join(held)}", where="at the source", see="Nothing is live",
        if_not="Turn it off again", why="This must be put right before anything is energised.",
    )  # fmt: skip
    return sheet.model_copy(update={"steps": [*sheet.steps[:on], left]})


def _only_looked(sheet: Sheet, held: list[str]) -> Sheet:
    """A search, or a trial, that says what forbids to energise."""
    forbids = [f"Only look, turn nothing on: {'; '.join(held)}"] if held else []
    if held and sheet.kind == "trial":
        return _held_back(sheet, held)
    return sheet.model_copy(update={"notes": [*forbids, *sheet.notes]})


def _hooked_up(hookup: Hookup) -> dict[str, str]:
    """How a house stands that was fed in a way that must not be: nothing else is known of it."""
    plugged = {f"source_end/{hookup.lead_id}": "in", f"load_end/{hookup.lead_id}": "in"}
    source = f"{hookup.source_kind}/{hookup.source_id}"
    running = {f"engine/{hookup.source_id}": "on"} if hookup.source_kind == "generator" else {}
    return {**plugged, **running, f"output/{source}": "on"}
