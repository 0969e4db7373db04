"""The one-line diagram as SVG and on paper: black lines, symbols of the trade, words beside them."""

from collections.abc import Sequence

from reportlab.graphics import renderPDF, renderSVG
from reportlab.graphics.shapes import Circle, Drawing, Group, Line, Path, Polygon, PolyLine, Rect, String
from reportlab.lib.colors import black, white

from weary_cedar.core.one_line import LinePanel, LinePart, LineRow, OneLine, one_line
from weary_cedar.core.plan import Plan
from weary_cedar.formats.faces import BOLD, PLAIN, in_lines, on_one_line, run_width, runs
from weary_cedar.formats.paper import LOWEST, SAFETY, Edition, Paper, document

#: Width of the column of a source, and of the words in it; size of words, pt.
WIDE, WORDS, SIZE = 172.0, 134.0, 7.0
LEAD = 9.0
#: Left of a column to its line, and to its words.
AXIS, BESIDE = 14.0, 32.0
#: From the foot of a panel's drawing up to its bus; left of panels that are joined, and between them, pt.
BUS, JOINT = 34.0, 16.0
#: A drawing is enlarged at most so many times to fill its page, and made smaller no further than this.
MOST, LEAST = 1.7, 0.62
#: So many sources stand beside each other on a page; more go below.
ACROSS = 3


Grouped = tuple[LinePanel | None, Sequence[LineRow]]


def one_line_svg(one: OneLine, name: str, edition: Edition) -> str:
    """The whole diagram in one drawing, as SVG.

    Args:
        one: the diagram.
        name: of the plan.
        edition: revision and day.

    Returns:
        SVG text; words are text in it.
    """
    drawings = _joined(one, _groups(one, most=99))
    below = [line for row in one.rows for line in _bond_lines(row)]
    below += [f"Also: {words}" for words in one.others] + [f"Not known: {words}" for words in one.missing]
    width = max([drawing.width for drawing in drawings] + [560.0])
    lines = [line for words in below for line in in_lines(words, PLAIN, SIZE, width - 20)]
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
    for part in whole.contents:
        _named_plainly(part)
    return str(renderSVG.drawToString(whole))


def _named_plainly(part: object) -> None:
    """Words of a drawing in faces that every viewer has; what these lack it takes from its own."""
    if isinstance(part, Group):
        for piece in part.contents:
            _named_plainly(piece)
    elif isinstance(part, String):
        part.text = on_one_line(part.text)
        part.fontName = "Helvetica-Bold" if part.fontName == BOLD else "Helvetica"


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
    drawings = _joined(one, _groups(one, most=ACROSS))
    tallest = paper.y - LOWEST - 10
    if any(tallest / drawing.height < LEAST for drawing in drawings):
        drawings = [_drawing(one, panel, rows) for panel, rows in _groups(one, most=ACROSS)]
    for drawing in drawings:
        scale = min(MOST, paper.room / drawing.width, tallest / drawing.height)
        paper.needs(drawing.height * scale + 8)
        paper.gap(drawing.height * scale)
        canvas = paper.canvas
        canvas.saveState()
        canvas.translate((paper.width - paper.room) / 2, paper.y)
        canvas.scale(scale, scale)
        renderPDF.draw(_in_faces(drawing), canvas, 0, 0)
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


def _joined(one: OneLine, groups: Sequence[Grouped]) -> list[Drawing]:
    """All panels in one drawing, each joined to the one that feeds it; the others for themselves."""
    of_panels = [(panel, _drawing(one, panel, rows)) for panel, rows in groups if panel is not None]
    rest = [_drawing(one, None, rows) for panel, rows in groups if panel is None]
    if len(of_panels) < 2:
        return [*(drawing for _, drawing in of_panels), *rest]
    width = max(drawing.width for _, drawing in of_panels) + JOINT
    whole = Drawing(width, sum(drawing.height + JOINT for _, drawing in of_panels))
    buses: dict[str, float] = {}
    y = whole.height
    for panel, drawing in of_panels:
        y -= drawing.height + JOINT
        group = Group(*drawing.contents)
        group.translate(JOINT, y)
        whole.add(group)
        above = buses.get(panel.fed_from or "")
        if above is not None and panel.panel_id not in buses:
            x, top, shift = JOINT + AXIS, y + drawing.height - 6, 3.0 * len(buses)
            corners = [JOINT + AXIS - 8, above, shift, above, shift, top, x - 9, top]
            whole.add(PolyLine(corners, strokeColor=black, strokeWidth=1))
        buses.setdefault(panel.panel_id, y + BUS)
    return [whole, *rest]


def _in_faces(drawing: Drawing) -> Drawing:
    """A drawing whose words are in the faces that have their letters."""
    found = Drawing(drawing.width, drawing.height)
    for part in drawing.contents:
        if isinstance(part, Group):
            inner = Drawing(drawing.width, drawing.height)
            for piece in part.contents:
                inner.add(piece)
            group = Group(*_in_faces(inner).contents)
            group.transform = part.transform
            found.add(group)
            continue
        if not isinstance(part, String):
            found.add(part)
            continue
        x = part.x
        for run in runs(part.text, part.fontName):
            found.add(String(x, part.y, run.text, fontName=run.face, fontSize=part.fontSize))
            x += run_width(run, part.fontSize)
    return found


def _bond_lines(row: LineRow) -> list[str]:
    return [f"{row.title}, {bond.state}: {bond.words}" for bond in row.bonds]


def _groups(one: OneLine, most: int) -> list[Grouped]:
    """Panels with the sources that feed them, then what hangs on cords, then what charges."""
    found: list[Grouped] = []
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
        above = next((other.name for other in one.panels if other.panel_id == panel.fed_from), "")
        title = f"From {above}" if panel.fed_from else "Utility"
        first = LinePart(kind="source", title=title, words=(panel.feeder or one.supply,))
        main = LinePart(kind="breaker", title="Main breaker", words=panel.words[:1])
        columns.insert(0, _column((first, main)))
    tall = max((sum(height for _, _, height in column) for column in columns), default=0.0)
    bottom = BUS if panel is not None else 4.0
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
        title = in_lines(part.title, BOLD, SIZE, WORDS)
        lines = [line for words in part.words for line in in_lines(words, PLAIN, SIZE, WORDS)]
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
