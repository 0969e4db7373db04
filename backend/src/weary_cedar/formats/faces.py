"""Faces in which papers are set: they ship with the app and are embedded, so that names print as written.

A name is set in the face of the paper as far as that has its letters; what it has not comes from the first
other face that has them. Scripts that run from right to left are put in their visible order; those whose
letters join or move are shaped.
"""

import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache, lru_cache
from pathlib import Path
from typing import Literal

from arabic_reshaper import reshape
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
    "NotoSansThai-Regular.ttf": True,
    **{
        f"NotoSans{script}-Regular.ttf": True
        for script in (
            "Devanagari", "Bengali", "Tamil", "Telugu", "Gujarati", "Gurmukhi", "Kannada", "Malayalam",
            "Sinhala", "Khmer", "Myanmar", "Ethiopic",
        )
    },
}  # fmt: skip
Align = Literal["left", "right", "middle"]
RIGHT_TO_LEFT = ("R", "AL", "AN")
NO_LETTER = ("Cc", "Cs", "Cn", "Zl", "Zp")


@dataclass(frozen=True)
class Run:
    """A stretch of a text in one face."""

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


def _visible(text: str) -> str:
    """A text on one line, in the order in which it is seen: words from right to left, its rest as it is."""
    flat = on_one_line(text)
    found, words = list[str](), list[str]()
    for word in [*flat.split(" "), None]:
        if word is not None and any(unicodedata.bidirectional(letter) in RIGHT_TO_LEFT for letter in word):
            words.append(word)
            continue
        if words:
            found.append(str(get_display(reshape(" ".join(words)))))
            words = []
        if word is not None:
            found.append(word)
    return " ".join(found)


def runs(text: str, font: str) -> Iterator[Run]:
    """A text as stretches, each in one face; a letter that no face has stands as its number.

    Args:
        text: on one line.
        font: face of the paper.
    """
    face, held = _face(font), ""
    if text.isascii() and text.isprintable():
        yield Run(face, text)
        return
    for letter in _visible(text):
        if unicodedata.category(letter) in ("Cf", "Cs", "Cn", "Co") and letter not in "\u200c\u200d":
            continue
        found = _face_of(letter, font)
        joins = unicodedata.combining(letter) or letter in "\u200c\u200d"
        wanted = face if joins and held and (found is None or found == font) else found
        written = letter if wanted is not None else f"[U+{ord(letter):04X}]"
        wanted = wanted or font
        if wanted != face and held:
            yield Run(_face(face), held, OTHERS.get(face, False))
            held = ""
        face, held = wanted, held + written
    if held:
        yield Run(_face(face), held, OTHERS.get(face, False))


def _shaped(run: Run, size: float) -> str | ShapedStr:
    return shapeStr(run.text, run.face, size) if run.shaped else run.text


def run_width(run: Run, size: float) -> float:
    """How wide a stretch is, pt."""
    shaped = _shaped(run, size)
    if isinstance(shaped, ShapedStr):
        return float(sum(data.x_advance for data in shaped.__shapeData__)) * size / 1000
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
        canvas.drawString(x, y, _shaped(run, size))
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
        while wide > room and len(line) > 1:
            fits = _letters_that_fit(line, font, size, room)
            lines.append(line[:fits])
            line = line[fits:]
            wide = width_of(line, font, size)
    return [*lines, line] if line else lines


def _letters_that_fit(word: str, font: str, size: float, room: float) -> int:
    fits = len(word) - 1
    while fits > 1 and width_of(word[:fits], font, size) > room:
        fits -= 1
    return fits


def fit(text: str, font: str, size: float, room: float) -> str:
    """A text as much of which as has room."""
    if width_of(text, font, size) <= room:
        return text
    while text and width_of(text + "...", font, size) > room:
        text = text[:-1]
    return text.rstrip() + "..."
