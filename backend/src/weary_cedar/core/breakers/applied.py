"""The plan with the breakers of a table, and with what hangs on them."""

from collections.abc import Collection, Iterator, Sequence

from pydantic import ValidationError

from weary_cedar.core.breakers.hung import Hung, hung_by
from weary_cedar.core.breakers.row import BreakerRow, told_spaces
from weary_cedar.core.errors import InvalidInput, Problem, shown
from weary_cedar.core.plan import Circuit, Panel, Plan
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.plan.refs import without
from weary_cedar.core.plan.said import said

#: Spaces of a sub-panel that a table names, at least.
LEAST_SPACES = 12
MOST_SPACES = 84
#: Columns of the table that are called otherwise than the field of a circuit.
COLUMN_OF = {
    "awg": "wire",
    "mm2": "wire",
    "length_m": "length",
    "terminals_c": "terminals",
    "breaker_by_plate": "plate_rule",
    "survey": "answers",
}


def with_breakers(
    plan: Plan,
    rows: Sequence[BreakerRow],
    panel_id: str,
    whole: Collection[str] = (),
    *,
    loads_go: bool = False,
) -> tuple[Plan, dict[int, str]]:
    """Put the rows of a table into a plan.

    Args:
        plan: the plan; it stays as it is.
        rows: as they were read.
        panel_id: the panel of rows that name none.
        whole: panels whose breakers are those of the table and no others.
        loads_go: whether what hangs on a breaker that is not in the table goes with it, if no row names it.

    Returns:
        The plan, and the id of the circuit of each row. A row without an id is the breaker with its label,
        else that in its spaces, else a new one, marked off if nothing else is said. A panel that there is
        not yet is made where a row says that it feeds it; a panel grows to the spaces that are named.

    Raises:
        InvalidInput: everything that is wrong, by row and column; or a breaker that is missing while
            loads hang on it.
    """
    problems: list[Problem] = []
    panels = _Panels(plan, panel_id)
    placed = {row.number: panels.of(row) for row in rows}
    ids = _ids(plan, rows, placed, problems)
    circuits: dict[str, Circuit] = {}
    for row in rows:
        if row.number in ids:
            _make(plan, row, ids[row.number], placed[row.number], circuits, problems)
    _join_neutrals(rows, ids, circuits, problems)
    made = panels.made(rows, ids, circuits, problems)
    gone = [key for key, item in plan.circuits.items() if item.panel_id in whole and key not in ids.values()]
    own = [(row, ids[row.number]) for row in rows if row.number in ids]
    hung = hung_by(plan, circuits, own, gone if loads_go else ())
    problems += hung.problems
    problems += _homeless(hung, plan, gone)
    if problems:
        raise InvalidInput(f"{len(problems)} things are wrong in the table: {problems[0]}", tuple(problems))
    next_plan = plan.model_copy(
        update={"panels": made, "circuits": {**plan.circuits, **circuits}, "loads": hung.loads}
    )
    for room, keys in (("circuits", gone), ("loads", hung.gone)):
        for key in keys:
            if key in getattr(next_plan, room):
                next_plan = without(next_plan, room, key)
    return next_plan, ids


class _Panels:
    """Panels that rows name, by name or id; those that there are not yet."""

    def __init__(self, plan: Plan, panel_id: str) -> None:
        self._plan = plan
        self._default = panel_id
        self._known = {panel.name.casefold(): key for key, panel in plan.panels.items()}
        self._known |= {key.casefold(): key for key in plan.panels}
        self._new: dict[str, str] = {}

    def of(self, row: BreakerRow) -> str:
        return self._named(row.panel) if row.panel else self._default

    def _named(self, words: str) -> str:
        key = self._known.get(words.casefold())
        if key is None:
            key = free_id(words, {*self._plan.panels, *self._new}, "sub-panel")
            self._new[key] = words[:1].upper() + words[1:]
            self._known[words.casefold()] = key
        return key

    def made(
        self,
        rows: Sequence[BreakerRow],
        ids: dict[int, str],
        circuits: dict[str, Circuit],
        problems: list[Problem],
    ) -> dict[str, Panel]:
        feeders = {self._named(row.feeds): ids[row.number] for row in rows if row.feeds and row.number in ids}
        let_go = {ids[row.number] for row in rows if row.feeds is not None and row.number in ids}
        found = {
            key: panel.model_copy(update={"fed_from": None}) if panel.fed_from in let_go else panel
            for key, panel in self._plan.panels.items()
        }
        for key, name in self._new.items():
            feeder = feeders.get(key) or _feeder_of(name, circuits)
            if feeder is None:
                row = next(row for row in rows if row.panel.casefold() == name.casefold())
                right = f"a panel of the plan, or a row of the breaker that feeds it: “feeds {name}”"
                problems.append(Problem(f"/row/{row.number}/panel", shown(name), right))
                continue
            feeders[key] = feeder
            found[key] = Panel(name=name, main_a=None, bus_a=None, spaces=LEAST_SPACES)
        for key, panel in found.items():
            own = [space for item in circuits.values() if item.panel_id == key for space in item.spaces]
            spaces = max([panel.spaces, *(space + space % 2 for space in own)])
            update: dict[str, object] = {"spaces": min(spaces, MOST_SPACES)} if spaces > panel.spaces else {}
            if key in feeders:
                update["fed_from"] = feeders[key]
            found[key] = panel.model_copy(update=update)
        return found


def _feeder_of(name: str, circuits: dict[str, Circuit]) -> str | None:
    named = [key for key, item in circuits.items() if name.casefold() in item.label.casefold()]
    return named[0] if len(named) == 1 else None


def _ids(
    plan: Plan, rows: Sequence[BreakerRow], placed: dict[int, str], problems: list[Problem]
) -> dict[int, str]:
    """Which circuit each row is: by its id, else by label and spaces, by label, by spaces, else a new one."""
    found: dict[int, str] = {}
    for row in rows:
        if row.circuit_id:
            if row.circuit_id in found.values():
                right = "an id that no other breaker has"
                problems.append(Problem(f"/row/{row.number}/id", shown(row.circuit_id), right))
            else:
                found[row.number] = row.circuit_id
    waiting = [row for row in rows if not row.circuit_id]
    for by_label, by_place in ((True, True), (True, False), (False, True)):
        for row in waiting:
            if row.number in found:
                continue
            fits = (
                key
                for key, item in plan.circuits.items()
                if item.panel_id == placed[row.number]
                and key not in found.values()
                and (not by_label or item.label.casefold() == row.label.casefold())
                and (not by_place or (item.spaces, item.half) == (row.spaces, row.half))
            )
            key = next(fits, None)
            if key is not None:
                found[row.number] = key
    taken = {*plan.circuits, *found.values()}
    for row in waiting:
        if row.number not in found:
            found[row.number] = free_id(row.label, taken, "breaker")
            taken.add(found[row.number])
    return found


def _make(
    plan: Plan,
    row: BreakerRow,
    key: str,
    panel_id: str,
    circuits: dict[str, Circuit],
    problems: list[Problem],
) -> None:
    before = plan.circuits.get(key)
    given: dict[str, object] = before.model_dump() if before is not None else {"breaker_a": None}
    given |= {"panel_id": panel_id, "spaces": row.spaces, "half": row.half, "label": row.label, **row.given}
    try:
        circuits[key] = Circuit.model_validate(given)
    except ValidationError as error:
        for item in error.errors(include_url=False):
            column = COLUMN_OF.get(str(item["loc"][0]), item["loc"][0])
            problems.append(Problem(f"/row/{row.number}/{column}", shown(item["input"]), said(item)))


def _join_neutrals(
    rows: Sequence[BreakerRow],
    ids: dict[int, str],
    circuits: dict[str, Circuit],
    problems: list[Problem],
) -> None:
    """Circuits that share a neutral, each named by the other's space, label or id."""
    named = {row.number for row in rows if row.partner}
    by_id = {ids[row.number]: row for row in rows if row.number in ids}
    for row in rows:
        key = ids.get(row.number)
        if key not in circuits or row.partner is None:
            continue
        if not row.partner:
            circuits[key] = circuits[key].model_copy(update={"multiwire_partner": None})
            continue
        partner = _circuit_named(row.partner, circuits[key].panel_id, circuits)
        if partner is None or partner == key:
            right = "the space of the other breaker on its neutral, such as 19"
            problems.append(Problem(f"/row/{row.number}/multiwire_partner", shown(row.partner), right))
            continue
        circuits[key] = circuits[key].model_copy(update={"multiwire_partner": partner})
        if by_id[partner].number not in named:
            circuits[partner] = circuits[partner].model_copy(update={"multiwire_partner": key})


def _circuit_named(words: str, panel_id: str, circuits: dict[str, Circuit]) -> str | None:
    wanted = " ".join(words.casefold().split())
    for key, item in circuits.items():
        spaces = {told_spaces(item.spaces, item.half), *(told_spaces((one,), None) for one in item.spaces)}
        if item.panel_id == panel_id and (wanted in spaces or item.label.casefold() == wanted):
            return key
    return wanted if wanted in circuits else None


def _homeless(hung: Hung, plan: Plan, gone: list[str]) -> Iterator[Problem]:
    """Loads that stay while their breaker is not in the table."""
    for key, load in hung.loads.items():
        if load.circuit_id in gone and key not in hung.gone:
            label = plan.circuits[load.circuit_id or ""].label
            yield Problem(f"/loads/{key}", load.name, f"a row for its breaker {label}")
