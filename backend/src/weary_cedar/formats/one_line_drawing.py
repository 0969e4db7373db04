"""The one-line diagram as SVG and on paper: black lines, symbols of the trade, words beside them."""

from collections.abc import Sequence

from reportlab.graphics import renderPDF, renderSVG
from reportlab.graphics.shapes import Circle, Drawing, Group, Line, Path, Polygon, Rect, String
from reportlab.lib.colors import black, white
from reportlab.lib.utils import simpleSplit

from weary_cedar.core.one_line import LinePanel, LinePart, LineRow, OneLine, one_line
from weary_cedar.core.plan import Plan
from weary_cedar.formats.paper import BOLD, PLAIN, SAFETY, Edition, Paper, document

#: Width of the column of a source, and of the words in it; size of words, pt.
WIDE, WORDS, SIZE = 172.0, 134.0, 7.0
LEAD = 9.0
#: Left of a column to its line, and to its words.
AXIS, BESIDE = 14.0, 32.0
#: So many sources stand beside each other on a page; more go below.
ACROSS = 3


def one_line_svg(one: OneLine, name: str, edition: Edition) -> str:
    """The whole diagram in one drawing, as SVG.

    Args:
        one: the diagram.
        name: of the plan.
        edition: revision and day.

    Returns:
        SVG text; words are text in it.
    """
    drawings = [_drawing(one, panel, rows) for panel, rows in _groups(one, most=99)]
    below = [line for row in one.rows for line in _bond_lines(row)]
    below += [f"Also: {words}" for words in one.others] + [f"Not known: {words}" for words in one.missing]
    width = max([drawing.width for drawing in drawings] + [560.0])
    lines = [line for words in below for line in simpleSplit(words, PLAIN, SIZE, width - 20)]
    height = 40 + sum(drawing.height + 16 for drawing in drawings) + LEAD * (len(lines) + 2)
    whole = Drawing(width, height)
    whole.add(Rect(0, 0, width, height, fillColor=white, strokeColor=None))
    y = height - 18
    _write(whole, 8, y, f"{name}: one-line diagram", BOLD, 11)
    y -= 12
    _write(whole, 8, y, f"{edition.words}. {SAFETY}")
    for drawing in drawings:
        y -= drawing.height + 12
        group = Group(*drawing.contents)
        group.translate(0, y)
        whole.add(group)
    for line in lines:
        y -= LEAD
        _write(whole, 8, y, line)
    return str(renderSVG.drawToString(whole))


def _write(drawing: Drawing, x: float, y: float, text: str, font: str = PLAIN, size: float = SIZE) -> None:
    drawing.add(String(x, y, text, fontName=font, fontSize=size))


def one_line_pdf(plan: Plan, edition: Edition) -> bytes:
    """The diagram on paper, with where the bond is in each state."""
    return document(
        plan, f"{plan.name}: one-line diagram", lambda paper: one_line_on(paper, one_line(plan)), edition
    )


def one_line_on(paper: Paper, one: OneLine) -> None:
    """The diagram on pages of its own, with where the bond is in each state."""
    paper.page("One-line diagram")
    for panel, rows in _groups(one, most=ACROSS):
        drawing = _drawing(one, panel, rows)
        scale = min(1.0, paper.room / drawing.width)
        paper.needs(drawing.height * scale + 8)
        paper.gap(drawing.height * scale)
        canvas = paper.canvas
        canvas.saveState()
        canvas.translate((paper.width - paper.room) / 2, paper.y)
        canvas.scale(scale, scale)
        renderPDF.draw(drawing, canvas, 0, 0)
        canvas.restoreState()
        paper.gap(10)
    paper.heading("Neutral and ground: where the one bond is, state by state")
    for row in one.rows:
        for words in _bond_lines(row):
            paper.words(words, size=8)
    if one.others:
        paper.heading("Other sources")
        for words in one.others:
            paper.words(words, size=8)
    if one.missing:
        paper.heading("Not known: to be looked at")
        for words in one.missing:
            paper.words(words, size=8)


def _bond_lines(row: LineRow) -> list[str]:
    return [f"{row.title}, {bond.state}: {bond.words}" for bond in row.bonds]


def _groups(one: OneLine, most: int) -> list[tuple[LinePanel | None, Sequence[LineRow]]]:
    """Panels with the sources that feed them, then what hangs on cords, then what charges."""
    found: list[tuple[LinePanel | None, Sequence[LineRow]]] = []
    for panel in one.panels:
        rows = [row for row in one.rows if row.panel_id == panel.panel_id]
        for at in range(0, max(1, len(rows)), most):
            found.append((panel, rows[at : at + most]))
    for rows in ([row for row in one.rows if row.panel_id is None], list(one.charging)):
        for at in range(0, len(rows), most + 1):
            found.append((None, rows[at : at + most + 1]))
    return found


def _drawing(one: OneLine, panel: LinePanel | None, rows: Sequence[LineRow]) -> Drawing:
    columns = [_column(row.parts) for row in rows]
    if panel is not None:
        title = "From the other panel" if panel.fed_from else "Utility"
        first = LinePart(kind="source", title=title, words=(panel.feeder or one.supply,))
        main = LinePart(kind="breaker", title="Main breaker", words=panel.words[:1])
        columns.insert(0, _column((first, main)))
    tall = max((sum(height for _, _, height in column) for column in columns), default=0.0)
    bottom = 34.0 if panel is not None else 4.0
    drawing = Drawing(max(1, len(columns)) * WIDE, tall + bottom + 14)
    for number, column in enumerate(columns):
        _draw_column(drawing, column, number * WIDE, drawing.height - 12, bottom if panel else None)
    if panel is not None:
        _bus(drawing, panel, rows, bottom, len(columns))
    return drawing


def _bus(drawing: Drawing, panel: LinePanel, rows: Sequence[LineRow], level: float, columns: int) -> None:
    right = (columns - 1) * WIDE + AXIS + 30
    drawing.add(Line(AXIS - 8, level, right, level, strokeColor=black, strokeWidth=2.5))
    _write(drawing, AXIS + 12, level - 12, f"{panel.name}: {', '.join(panel.words[1:])}", BOLD, 8)
    bonded = not rows or any(bond.bond in ("service", "two") for row in rows for bond in row.bonds)
    if panel.fed_from is None and bonded:
        _ground(drawing, AXIS, level)
        _write(drawing, AXIS + 12, 6, "neutral and ground are bonded here")
    if panel.interlocked and columns > 1:
        over = level + 8
        ends = AXIS + 6, WIDE + AXIS - 6
        drawing.add(Line(ends[0], over, ends[1], over, strokeColor=black, strokeDashArray=[2, 2]))
        _write(drawing, AXIS + 22, over + 3, "interlock: only one can be on")


Column = list[tuple[LinePart, list[str], float]]


def _column(parts: Sequence[LinePart]) -> Column:
    found: Column = []
    for part in parts:
        title = simpleSplit(part.title, BOLD, SIZE, WORDS)
        lines = [line for words in part.words for line in simpleSplit(words, PLAIN, SIZE, WORDS)]
        found.append((part, [*title, "", *lines], max(30.0, LEAD * (len(title) + len(lines)) + 8)))
    return found


def _draw_column(drawing: Drawing, column: Column, left: float, top: float, bus: float | None) -> None:
    x, y = left + AXIS, top
    for number, (part, lines, height) in enumerate(column):
        last = number == len(column) - 1
        end = bus if last and bus is not None else y - height
        if not (last and bus is None):
            dashes = [4, 2] if part.kind == "cord" else None
            drawing.add(Line(x, y, x, end, strokeColor=black, strokeWidth=1, strokeDashArray=dashes))
        _symbol(drawing, part.kind, x, y - 6)
        title = lines[: lines.index("")]
        for at, words in enumerate([*title, *lines[len(title) + 1 :]]):
            font = BOLD if at < len(title) else PLAIN
            drawing.add(String(left + BESIDE, y - 8 - LEAD * at, words, fontName=font, fontSize=SIZE))
        y -= height


def _symbol(drawing: Drawing, kind: str, x: float, y: float) -> None:
    """The symbol of an element on its line: source, connector, breaker, transfer, load."""
    if kind == "source":
        drawing.add(Circle(x, y, 9, fillColor=white, strokeColor=black))
        wave = Path(strokeColor=black, fillColor=None)
        wave.moveTo(x - 5, y)
        wave.curveTo(x - 3, y + 6, x - 1, y + 2, x, y)
        wave.curveTo(x + 1, y - 2, x + 3, y - 6, x + 5, y)
        drawing.add(wave)
    elif kind in ("outlet", "inlet", "adapter"):
        for shift in (0, -4):
            drawing.add(Line(x - 5, y + shift + 4, x, y + shift, strokeColor=black))
            drawing.add(Line(x + 5, y + shift + 4, x, y + shift, strokeColor=black))
    elif kind == "breaker":
        drawing.add(Rect(x - 6, y - 6, 12, 12, fillColor=white, strokeColor=black))
    elif kind == "transfer":
        drawing.add(Rect(x - 8, y - 8, 16, 16, fillColor=white, strokeColor=black))
        drawing.add(Line(x, y - 8, x - 5, y + 5, strokeColor=black, strokeWidth=1.5))
        for contact in (-5, 0, 5):
            drawing.add(Circle(x + contact, y + 5.5, 1.2, fillColor=black, strokeColor=None))
    elif kind == "loads":
        drawing.add(Polygon([x - 5, y + 2, x + 5, y + 2, x, y - 6], fillColor=black, strokeColor=None))


def _ground(drawing: Drawing, x: float, y: float) -> None:
    drawing.add(Line(x, y, x, y - 24, strokeColor=black))
    for number, half in enumerate((7, 4.5, 2)):
        level = y - 24 - 2.5 * number
        drawing.add(Line(x - half, level, x + half, level, strokeColor=black))
