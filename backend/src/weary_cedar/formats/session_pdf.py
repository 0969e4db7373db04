"""The report of a session on two pages: what was foretold, what was, what it teaches, and its rows."""

from weary_cedar.core.log.afterwards import Afterwards, Compared
from weary_cedar.core.log.learn import Lesson
from weary_cedar.core.log.session import Session
from weary_cedar.core.plan import Plan
from weary_cedar.formats.faces import BOLD, fit
from weary_cedar.formats.paper import MARGIN, Edition, Paper, document

SIZE, LINE = 8.5, 11.0
#: Where columns of figures end, from the right edge.
COLUMNS = (150.0, 80.0, 0.0)
#: The most rows of the log that have room on the second page.
MOST_ROWS = 52
#: Loads on the first page.
MOST_LOADS = 14


def session_pdf(plan: Plan, session: Session, after: Afterwards, lesson: Lesson, edition: Edition) -> bytes:
    """The report.

    Args:
        plan: the plan of the session.
        session: what was logged.
        after: what was foretold against what was.
        lesson: what it teaches.
        edition: revision and day.

    Returns:
        A PDF of two pages.
    """

    def draw(paper: Paper) -> None:
        _first(paper, session, after, lesson)
        _second(paper, session)

    return document(plan, f"{plan.name}: {session.name}", draw, edition)


def _first(paper: Paper, session: Session, after: Afterwards, lesson: Lesson) -> None:
    paper.page(f"{session.name}: afterwards")
    paper.words(after.sentence, size=10)
    paper.gap(4)
    _table(paper, "Foretold and so it was", after.figures)
    _table(paper, "Loads", sorted(after.loads, key=lambda item: -(item.as_it_went or 0))[:MOST_LOADS])
    for title, lines in (
        ("What surprised", after.surprises),
        ("Wanted, and not on the plan", after.blind_spots),
        ("What it teaches", (lesson.sentence,)),
        ("Should stand in the plan", tuple(item.words for item in after.follows)),
    ):
        if lines:
            paper.heading(title)
            for line in lines[:5]:
                paper.words(line, size=SIZE)


def _table(paper: Paper, title: str, rows: "list[Compared] | tuple[Compared, ...]") -> None:
    if not rows:
        return
    paper.heading(title)
    right = paper.width - MARGIN
    for place, words in zip(COLUMNS, ("foretold", "as it went", "read"), strict=True):
        paper.write(right - place, paper.y, words, size=7, align="right")
    paper.y -= LINE
    for row in rows:
        paper.needs(LINE)
        paper.write(
            MARGIN, paper.y, fit(f"{row.words}, {row.unit}", BOLD, SIZE, right - 220 - MARGIN), size=SIZE
        )
        for place, value in zip(COLUMNS, (row.planned, row.as_it_went, row.read), strict=True):
            told = "–" if value is None else f"{value:,.0f}" if abs(value) >= 10 else f"{value:,.1f}"
            paper.write(right - place, paper.y, told, size=SIZE, align="right")
        paper.y -= LINE


def _second(paper: Paper, session: Session) -> None:
    paper.page(f"{session.name}: the log")
    rows = session.standing()
    if len(rows) > MOST_ROWS:
        paper.words(
            f"The last {MOST_ROWS} of {len(rows)} rows; all of them are in the file of the session.",
            size=SIZE,
        )
    for row in rows[-MOST_ROWS:]:
        paper.write(MARGIN, paper.y, f"{row.at:%a %d %b %H:%M}", size=SIZE)
        paper.write(MARGIN + 90, paper.y, fit(row.told, BOLD, SIZE, paper.width - 2 * MARGIN - 90), size=SIZE)
        paper.y -= LINE
    if not rows:
        paper.words("Nothing was logged.", size=SIZE)
