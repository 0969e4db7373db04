"""Faces in which papers are set: they ship with the app and are embedded, so that names print as written.

A name is set in the face of the paper as far as that has its letters; what it has not comes from the first
other face that has them. Words that run from right to left are put in their visible order; letters that
join, move or carry marks are shaped.
"""

import unicodedata
from bisect import bisect_left
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache
from itertools import groupby
from operator import itemgetter
from pathlib import Path
from typing import Literal

from bidi import get_display
from reportlab.pdfbase.pdfmetrics import getFont, registerFont, stringWidth
from reportlab.pdfbase.ttfonts import ShapedStr, TTFont, shapeStr
from reportlab.pdfgen.canvas import Canvas

FOLDER = Path(__file__).parent / "faces"
PLAIN, BOLD, SLANTED = "Cedar", "Cedar-Bold", "Cedar-Slanted"
OWN = {
    PLAIN: "DejaVuSansCondensed.ttf",
    BOLD: "DejaVuSansCondensed-Bold.ttf",
    SLANTED: "DejaVuSansCondensed-Oblique.ttf",
}
#: Others, in the order in which they are asked, and whether their letters are shaped.
OTHERS = {
    "DroidSansFallbackFull.ttf": False,
    "NanumGothic.ttf": False,
    **{
        f"NotoSans{script}-Regular.ttf": True
        for script in (
            "Thai", "Devanagari", "Bengali", "Tamil", "Telugu", "Gujarati", "Gurmukhi", "Kannada",
            "Malayalam", "Sinhala", "Oriya", "Khmer", "Myanmar", "Ethiopic", "Thaana", "Syriac",
            "Adlam", "Mongolian", "Cherokee", "CanadianAboriginal", "OlChiki", "MeeteiMayek",
            "SylotiNagri", "Chakma", "Limbu", "Lepcha", "Javanese", "Balinese", "Sundanese", "Buginese",
            "Rejang", "Cham", "TaiTham", "TaiLe", "NewTaiLue", "Yi", "Vai", "Bamum", "Osage", "Symbols",
            "Symbols2",
        )
    },
    "NotoSerifTibetan-Regular.ttf": True,
}  # fmt: skip
Align = Literal["left", "right", "middle"]
RIGHT_TO_LEFT = ("R", "AL", "AN")
#: What joins a letter to its neighbours, or keeps it apart from them.
JOINERS = "\u200c\u200d"
#: Combining class of the sign that writes a letter and the next as one (Unicode Standard, table 4-3).
JOINS_NEXT = 9
NO_LETTER = ("Cc", "Cs", "Cn", "Zl", "Zp")


@dataclass(frozen=True)
class Run:
    """A stretch of a text in one face, in one direction, its letters in the order in which they are read."""

    face: str
    text: str
    shaped: bool = False


@cache
def _face(font: str) -> str:
    """A face of the paper, known to its maker from now on."""
    registerFont(TTFont(font, str(FOLDER / OWN.get(font, font))))
    return font


@cache
def _letters(font: str) -> frozenset[int]:
    return frozenset(getFont(_face(font)).face.charToGlyph)


@cache
def _face_of(letter: str, font: str) -> str | None:
    """The face that has a letter: the wanted one if it can be, none where no face has it."""
    return next((name for name in (font, *OTHERS) if ord(letter) in _letters(name)), None)


def on_one_line(text: str) -> str:
    """A text without what is no letter: ends of lines, control characters, what no script has."""
    return "".join(" " if unicodedata.category(letter) in NO_LETTER else letter for letter in text)


def _visible(text: str) -> Iterator[tuple[str, bool]]:
    """Letters of a text on one line, in the order in which they are seen, and whether each runs leftward."""
    turned = [(_has_leftward(word), word) for word in on_one_line(text).split(" ")]
    for number, (leftward, words) in enumerate(groupby(turned, key=itemgetter(0))):
        stretch = " ".join(word for _, word in words)
        yield from [(" ", False)] if number else []
        for letter in str(get_display(stretch)) if leftward else stretch:
            yield letter, leftward and unicodedata.bidirectional(letter) in ("R", "AL", "NSM", "BN")


def _has_leftward(word: str) -> bool:
    return any(unicodedata.bidirectional(letter) in RIGHT_TO_LEFT for letter in word)


def runs(text: str, font: str) -> Iterator[Run]:
    """A text as stretches, each in one face; a letter that no face has stands as its number.

    Args:
        text: on one line.
        font: face of the paper.
    """
    if text.isascii() and text.isprintable():
        yield Run(_face(font), text)
        return
    face, held, leftward = font, "", False
    for letter, turned in _visible(text):
        if unicodedata.category(letter) in ("Cf", "Cs", "Cn", "Co") and letter not in JOINERS:
            continue
        found = _face_of(letter, font)
        joins = unicodedata.combining(letter) or letter in JOINERS
        wanted = face if joins and held and (found is None or found == font) else found
        written = letter if wanted is not None else f"[U+{ord(letter):04X}]"
        wanted = wanted or font
        if (wanted, turned) != (face, leftward) and held:
            yield _run(face, held, leftward)
            held = ""
        face, held, leftward = wanted, held + written, turned
    if held:
        yield _run(face, held, leftward)


def _run(font: str, held: str, leftward: bool) -> Run:
    return Run(_face(font), held[::-1] if leftward else held, leftward or OTHERS.get(font, False))


def shaped(run: Run, size: float) -> str | ShapedStr:
    """The letters of a stretch as they are put on the paper, from left to right."""
    return shapeStr(run.text, run.face, size) if run.shaped else run.text


def run_width(run: Run, size: float) -> float:
    """How wide a stretch is, pt."""
    drawn = shaped(run, size)
    if isinstance(drawn, ShapedStr):
        return float(sum(data.x_advance for data in drawn.__shapeData__)) * size / 1000
    return float(stringWidth(run.text, run.face, size))


def width_of(text: str, font: str, size: float) -> float:
    """How wide a text is, pt."""
    return _width_at_1(text, font) * size


@lru_cache(maxsize=20_000)
def _width_at_1(text: str, font: str) -> float:
    return sum(run_width(run, 1.0) for run in runs(text, font))


def write(
    canvas: Canvas, x: float, y: float, text: str, font: str, size: float, align: Align = "left"
) -> None:
    """Put a text on a page: from a point on, up to it, or around it."""
    if align != "left":
        x -= width_of(text, font, size) / (1 if align == "right" else 2)
    for run in runs(text, font):
        canvas.setFont(run.face, size)
        canvas.drawString(x, y, shaped(run, size))
        x += run_width(run, size)


def in_lines(text: str, font: str, size: float, room: float) -> list[str]:
    """A text in lines of a width at most; a word that is wider is parted.

    Args:
        text: any.
        font: face of the paper.
        size: of it, pt.
        room: width, pt.
    """
    lines, line, wide = list[str](), "", 0.0
    gap = width_of(" ", font, size)
    for word in text.split():
        own = width_of(word, font, size)
        if line and wide + gap + own <= room:
            line, wide = f"{line} {word}", wide + gap + own
            continue
        if line:
            lines.append(line)
        line, wide = word, own
        while wide > room and (parts := cuts(line)):
            fits = _letters_that_fit(parts, line, font, size, room)
            lines.append(line[:fits])
            line = line[fits:]
            wide = width_of(line, font, size)
    return [*lines, line] if line else lines


def cuts(text: str) -> list[int]:
    """Where a text may be parted: never before a mark, and never within letters that are written as one."""
    return [
        at
        for at in range(1, len(text))
        if not unicodedata.category(text[at]).startswith("M")
        and text[at] not in JOINERS
        and text[at - 1] not in JOINERS
        and unicodedata.combining(text[at - 1]) != JOINS_NEXT
    ]


def _letters_that_fit(places: Sequence[int], word: str, font: str, size: float, room: float) -> int:
    """The last of some places to part a word before which it has room; the first where none has."""
    fits = bisect_left(places, True, key=lambda at: width_of(word[:at], font, size) > room)
    return places[max(fits - 1, 0)]


def fit(text: str, font: str, size: float, room: float) -> str:
    """A text as much of which as has room."""
    if width_of(text, font, size) <= room:
        return text
    places = [0, *cuts(text)]
    kept = _letters_that_fit(places, text, font, size, room - width_of("...", font, size))
    return text[:kept].rstrip() + "..."
