"""The panel schedule and breaker labels on paper."""

from collections.abc import Iterator, Mapping, Sequence

from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.checks.editions import code_words
from weary_cedar.core.panel_schedule import Cell, PanelSchedule, panel_schedule
from weary_cedar.core.plan import Circuit, Plan
from weary_cedar.core.runbook.staying_on import Standing, staying_on
from weary_cedar.core.tables import table
from weary_cedar.formats.faces import BOLD, PLAIN, Align, fit, in_lines
from weary_cedar.formats.paper import MARGIN, Edition, Paper, document

#: Height of a row of two breakers, of a line in it, and where it is ruled under its middle, pt.
ROW, LINE, BELOW = 25.0, 10.0, 9.0
SIZE = 8.5
HALVES = {"upper": "a", "lower": "b"}
WORDS: dict[Standing, str] = {
    "keep": "STAYS ON",
    "room": "MAY RUN",
    "off": "NEVER",
    "no_room": "NO ROOM",
    "not_fed": "NOT FED",
}
TELL: dict[Standing, str] = {
    "keep": "stays on in an outage",
    "room": "may run when there is room",
    "off": "never on in an outage",
    "no_room": "stays off: no room for it",
    "not_fed": "no source reaches it",
}
CAUTION = (
    "The authority having jurisdiction decides; permanent wiring is a licensed electrician’s work. "
    "Try every breaker before relying on this."
)


def schedule_pdf(
    plan: Plan, panel_id: str, edition: Edition, findings: Sequence[Finding] | None = None
) -> bytes:
    """The schedule of a panel: what stays on, what may, what never.

    Args:
        plan: the plan.
        panel_id: one of its panels.
        edition: revision and day.
        findings: of the checks on that plan, if there are some already.

    Returns:
        A PDF of as many pages as it takes; letter paper for a split-phase house, else A4.
    """

    def draw(paper: Paper) -> None:
        schedule_on(paper, panel_id, findings_of(plan) if findings is None else findings)

    return document(plan, f"{plan.name}: {plan.panels[panel_id].name}", draw, edition)


def schedule_on(paper: Paper, panel_id: str, findings: Sequence[Finding]) -> None:
    """The schedule of a panel on pages of its own: its directory."""
    schedule, standings = panel_schedule(paper.plan, panel_id), staying_on(paper.plan)
    paper.page(f"{schedule.name}: panel schedule")
    for row in schedule.rows:
        paper.needs(ROW)
        for cell in row:
            _place(paper, cell, standings)
        paper.canvas.line(MARGIN, paper.y - BELOW, paper.width - MARGIN, paper.y - BELOW)
        paper.gap(ROW)
    for size, words in _foot(paper.plan, schedule, findings):
        paper.words(words, size=size)


def labels_pdf(plan: Plan, panel_id: str, edition: Edition) -> bytes:
    """Labels to cut out, one a breaker, in the order of the spaces."""
    return document(
        plan,
        f"{plan.name}: labels of {plan.panels[panel_id].name}",
        lambda paper: labels_on(paper, panel_id),
        edition,
    )


def labels_on(paper: Paper, panel_id: str) -> None:
    """Labels of a panel on pages of their own."""
    own = {key: circuit for key, circuit in paper.plan.circuits.items() if circuit.panel_id == panel_id}
    circuits = sorted(own.items(), key=lambda item: (item[1].spaces, item[1].half == "lower"))
    standings = staying_on(paper.plan)
    wide, tall, column = paper.room / 3, 58.0, 0
    paper.bare()
    for key, circuit in circuits:
        if paper.y - tall < MARGIN:
            paper.bare()
            column = 0
        _label(paper, circuit, standings[key], MARGIN + column * wide, paper.y - tall, wide, tall)
        column += 1
        if column == 3:
            column = 0
            paper.gap(tall)


def _place(paper: Paper, cell: Cell, standings: Mapping[str, Standing]) -> None:
    middle, left, y = paper.width / 2, cell.space % 2 == 1, paper.y
    room = middle - MARGIN - 30
    align: Align = "left" if left else "right"
    edge = MARGIN if left else paper.width - MARGIN
    paper.write(middle - 18 if left else middle + 18, y, str(cell.space), BOLD, 9, "middle")
    if left:
        paper.write(middle, y, cell.leg, PLAIN, 8, "middle")
    said = {"feed": "FEED from the inlet, interlocked", "empty": "free", "second_pole": "(second pole)"}
    if cell.kind in said:
        paper.write(edge, y, said[cell.kind], PLAIN, 8, align)
    ids = cell.circuit_ids if cell.kind == "circuit" else ()
    keys = sorted(ids, key=lambda key: paper.plan.circuits[key].half == "lower")
    lines = [
        line
        for key in keys
        for line in _lines_of(paper.plan.circuits[key], standings[key], room, tandem=len(ids) > 1)
    ]
    top = y + (LINE / 2 if len(lines) > 1 else 0.0)
    for index, (font, words) in enumerate(lines):
        paper.write(edge, top - LINE * index, words, font, SIZE, align)


def _lines_of(circuit: Circuit, standing: Standing, room: float, *, tandem: bool) -> list[tuple[str, str]]:
    """A breaker on the schedule: on two lines where its label is long; half of a tandem has one."""
    font = BOLD if standing == "keep" else PLAIN
    half = f"{HALVES[circuit.half]} " if circuit.half else ""
    words = f"{half}{WORDS[standing]} · {circuit.label} · {circuit.breaker_words}"
    lines = [words] if tandem else in_lines(words, font, SIZE, room)[:2]
    return [(font, fit(line, font, SIZE, room)) for line in lines]


def _foot(plan: Plan, schedule: PanelSchedule, findings: Sequence[Finding]) -> Iterator[tuple[float, str]]:
    """Words under the schedule, each with its size: legs, what stands in the way, cautions."""
    for leg, load in schedule.legs.items():
        limit = f" of {load.limit_a:.0f} A" if load.limit_a else ""
        on = f"{load.keep_w:,.0f} W stay on, {load.room_w:,.0f} W may run"
        yield 9, f"Leg {leg}: {on}, {load.most_a:.1f} A{limit}"
    yield from ((8, words) for words in _answers(plan, findings))
    yield 7.5, CAUTION


def _answers(plan: Plan, findings: Sequence[Finding]) -> list[str]:
    """What stands in the way, the code note, and what an electrician has answered, with the reasons."""
    stops = [
        f"STOP, do not energise: {finding.title}: {finding.element.name}"
        for finding in findings
        if finding.level == "stop"
    ]
    note = [f"Code: {code_words(plan.site)}"] if plan.site.code != "unknown" else []
    note += [f"Local rules: {plan.site.code_note}"] if plan.site.code_note else []
    titles = {row["check_id"]: row["title"] for row in table("checks")}
    answers = [
        f"Answered: {titles[key.partition('@')[0]]}: {answer.reason} ({answer.by})"
        for key, answer in sorted(plan.check_answers.items())
    ]
    return stops + note + answers


def _label(
    paper: Paper, circuit: Circuit, standing: Standing, x: float, y: float, wide: float, tall: float
) -> None:
    paper.canvas.rect(x, y, wide, tall)
    number = "+".join(str(space) for space in circuit.spaces) + HALVES.get(circuit.half or "", "")
    paper.write(x + 6, y + tall - 18, number, BOLD, 14)
    paper.write(x + wide - 6, y + tall - 16, WORDS[standing], BOLD, 9, "right")
    paper.write(x + 6, y + tall - 34, fit(circuit.label, PLAIN, 10, wide - 12), PLAIN, 10)
    paper.write(x + 6, y + 7, f"{circuit.breaker_words}, {TELL[standing]}", PLAIN, 7.5)
