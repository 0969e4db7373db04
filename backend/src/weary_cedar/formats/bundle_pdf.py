"""Everything of a plan for whoever it is handed over to, in one PDF."""

from collections.abc import Sequence

from weary_cedar.core.checks import Finding
from weary_cedar.core.checks.editions import clauses, code_words
from weary_cedar.core.checks.finding import told_figure
from weary_cedar.core.decide.needs import need_list
from weary_cedar.core.handover import MEMORY, authority_asks, electricians_jobs, load_basis, record_of_tests
from weary_cedar.core.inlet_sign import inlet_signs
from weary_cedar.core.inventory import inventory
from weary_cedar.core.one_line import one_line
from weary_cedar.core.outage.result import RunResult
from weary_cedar.core.panel_schedule import panel_schedule
from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.sheet import Sheet
from weary_cedar.formats.faces import BOLD, PLAIN, fit, in_lines
from weary_cedar.formats.one_line_drawing import one_line_on
from weary_cedar.formats.panel_pdf import labels_on, schedule_on
from weary_cedar.formats.paper import MARGIN, Edition, Paper, document
from weary_cedar.formats.sheets_pdf import sheet_on
from weary_cedar.formats.sign_pdf import sign_on

LEVELS = {"stop": "STOP", "caution": "Caution", "cannot_judge": "Not known", "note": "Note"}
ORIGINS = {
    "measured": "measured", "plate": "from its plate", "estimate": "estimated", "library": "of its class"
}  # fmt: skip


def bundle_pdf(
    plan: Plan, run: RunResult, findings: Sequence[Finding], sheets: Sequence[Sheet], edition: Edition
) -> bytes:
    """House, needs, panel, gear, feed, findings, verdict, sheets, load basis, test record, checklist.

    Args:
        plan: the plan.
        run: of it.
        findings: of its checks, answers included.
        sheets: of its runbook.
        edition: revision and day.

    Returns:
        A PDF; letter paper for a split-phase house, else A4.
    """

    def draw(paper: Paper) -> None:
        _first(paper, run, findings)
        _needs(paper)
        for panel_id in plan.panels:
            schedule_on(paper, panel_id, findings)
        _gear(paper, run)
        one_line_on(paper, one_line(plan))
        for sign in inlet_signs(plan):
            sign_on(paper, sign)
        _findings(paper, findings)
        _clauses(paper)
        for sheet in sheets:
            sheet_on(paper, sheet)
        _record(paper)
        _checklist(paper)
        for panel_id in plan.panels:
            labels_on(paper, panel_id)

    return document(plan, f"{plan.name}: handed over", draw, edition)


def _first(paper: Paper, run: RunResult, findings: Sequence[Finding]) -> None:
    plan, verdict = paper.plan, run.verdict
    paper.page("Backup power of this house")
    open_stops = [finding for finding in findings if finding.level == "stop" and not finding.answered]
    for finding in open_stops:
        paper.words(f"STOP, do not energise: {finding.title}: {finding.element.name}", font=BOLD, size=11)
    paper.heading("House")
    paper.words(f"{plan.site.name}; {one_line(plan).supply}")
    for panel in plan.panels.values():
        paper.words(f"{panel.name}: {panel.words}")
    paper.words(f"Code: {code_words(plan.site)}")
    if plan.site.code_note:
        paper.words(f"Local rules: {plan.site.code_note}")
    paper.heading("Does it last?")
    start = plan.site.units.told_moment(run.start)
    paper.words(f"Planned for {run.length_s / 3600:,.0f} h from {start}.")
    paper.words(f"{verdict.headline}: {verdict.sentence}", font=BOLD)
    if verdict.how_sure:
        paper.words(f"How sure: {verdict.how_sure}.")
    elif verdict.uncertainty is not None:
        paper.words(f"How sure: what is drawn is known within about {100 * verdict.uncertainty:.0f} %.")
    for title, items in (
        ("Not known", verdict.missing), ("Taken for granted", verdict.assumed), ("Left out", verdict.left_out)
    ):  # fmt: skip
        for words in items:
            paper.words(f"{title}: {words}")
    paper.heading("In this paper")
    for words in (
        "Needs and the basis of loads; schedules of panels; gear; one-line diagram; signs; findings with "
        "sources and answers; clauses to look up; sheets for every act; test record; checklist; labels to "
        "cut out.",
        MEMORY,
    ):
        paper.words(words)


def _table(paper: Paper, widths: Sequence[float], rows: Sequence[Sequence[str]], size: float = 8.0) -> None:
    """Rows in columns, the first one a head; a word that has no room is cut, which its dots show."""
    for number, row in enumerate(rows):
        paper.needs(size + 4)
        x = MARGIN
        font = BOLD if number == 0 else PLAIN
        for width, words in zip(widths, row, strict=True):
            paper.write(x, paper.y, fit(words, font, size, width - 4), font, size)
            x += width
        paper.gap(size + 4)


def _needs(paper: Paper) -> None:
    plan = paper.plan
    paper.page("Needs, and the basis of loads")
    found = need_list(plan)
    rows = [("Load", "mark", "runs, W", "starts, VA", "Wh a day", "give or take", "known by")]
    rows += [
        (
            need.name, need.mark, f"{need.running_w:,.0f}", f"{need.start_va:,.0f}" if need.start_va else "",
            f"{need.wh_day:,.0f}", f"{need.wh_day_error:,.0f}", ORIGINS.get(need.origin, need.origin),
        )
        for need in found.needs
    ]  # fmt: skip
    _table(paper, (180, 44, 56, 62, 60, 64, 66), rows)
    paper.gap(4)
    paper.words(f"In all {found.wh_day:,.0f} Wh a day, give or take {found.wh_day_error:,.0f} Wh.", font=BOLD)
    paper.heading("Basis of loads")
    paper.words(load_basis(plan))
    for panel_id in plan.panels:
        schedule = panel_schedule(plan, panel_id)
        for leg, load in schedule.legs.items():
            words = f"{schedule.name}, leg {leg}: {load.most_a:.1f} A were everything on at once"
            if load.limit_a:
                words += f"; its feed carries {load.limit_a:.0f} A"
            if load.limit_a and load.most_a > load.limit_a:
                words += ": not all of it may be on together, which rules and hands see to"
            paper.words(words)


def _gear(paper: Paper, run: RunResult) -> None:
    paper.page("Gear")
    for item in inventory(paper.plan, run).items:
        count = f"{item.count} × " if item.count > 1 else ""
        paper.words(f"{count}{item.name}: {item.words}")
        if item.does:
            paper.words(item.does, size=8, left=MARGIN + 14)


def _findings(paper: Paper, findings: Sequence[Finding]) -> None:
    paper.page("Findings, with their sources and answers")
    if not findings:
        paper.words("None.")
    for finding in findings:
        paper.needs(40)
        paper.words(f"{LEVELS[finding.level]}: {finding.title}: {finding.element.name}", font=BOLD)
        figures = "; ".join(told_figure(figure) for figure in finding.figures)
        for words in (
            finding.detail,
            figures,
            finding.why,
            f"Remedy: {finding.remedy}",
            f"Source: {finding.source}",
            finding.amendment and f"Local rule: {finding.amendment}",
        ):
            if words:
                paper.words(words, size=8, left=MARGIN + 14)
        answer = paper.plan.check_answers.get(finding.key)
        if answer is not None:
            paper.words(f"ANSWERED by {answer.by}: {answer.reason}", font=BOLD, size=8, left=MARGIN + 14)
        elif finding.answered:
            paper.words(f"ANSWERED: {finding.answered}", font=BOLD, size=8, left=MARGIN + 14)
        paper.gap(4)


def _clauses(paper: Paper) -> None:
    """What is cited from memory, to be ticked by a person with the book."""
    site = paper.plan.site
    paper.page("Clauses to look up: cited from memory")
    paper.words(f"The house goes by {code_words(site)}. Tick what stands in the book as it is said here.")
    for clause in clauses(site):
        first, *more = clause.lines
        paper.needs(12 + 10 * len(more))
        paper.canvas.rect(MARGIN, paper.y - 1, 7, 7)
        paper.words(first, size=8, left=MARGIN + 14)
        for line in more:
            paper.words(line.strip(), size=7.5, left=MARGIN + 24)


def _record(paper: Paper) -> None:
    plan = paper.plan
    paper.page("Test record")
    for lead_id in plan.hookups:
        paper.heading(plan.lead_name(lead_id))
        for line in record_of_tests(plan, lead_id):
            _blank(paper, line.what, line.expected)
    paper.heading("Signed")
    for what in ("Date", "Name", "Licence", "Signature"):
        _blank(paper, what, "")


def _blank(paper: Paper, what: str, expected: str) -> None:
    lines = in_lines(what, PLAIN, 8.5, 250)
    paper.needs(14 * len(lines))
    paper.write(MARGIN + 264, paper.y, fit(expected, PLAIN, 8.5, 150), PLAIN, 8.5)
    paper.canvas.line(MARGIN + 420, paper.y - 2, paper.width - MARGIN, paper.y - 2)
    for line in lines:
        paper.write(MARGIN, paper.y, line, PLAIN, 8.5)
        paper.gap(14)


def _checklist(paper: Paper) -> None:
    plan = paper.plan
    paper.page("Checklist")
    for title, items in (
        ("What a licensed electrician does, or looks at", electricians_jobs(plan)),
        ("What the authority will ask for", authority_asks(plan)),
        ("Not known in the plan: to be looked at", one_line(plan).missing),
    ):
        paper.heading(title)
        for words in items or ("nothing",):
            paper.needs(14)
            paper.canvas.rect(MARGIN, paper.y - 1, 8, 8)
            paper.words(words, left=MARGIN + 16)
            paper.gap(2)
    paper.gap(6)
    paper.words(MEMORY, font=BOLD)
