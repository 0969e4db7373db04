"""A breaker as people type it: `18 20 well pump 20A 2p 12 AWG 60 ft keep, 8 A at 240 V plate`."""

import re
from collections.abc import Callable

from weary_cedar.formats.quantity import NUMBER

SPACES = re.compile(
    r"^\s*(?:(?:space|ckt|circuit|breaker|no\.?|#)\s*)?"
    r"(?P<first>\d{1,20})(?P<half>[ab])?(?:\s*[,/&+ "
    r"-]\s*(?P<second>\d{1,2})(?!\s*a(?:mps?)?\b)(?=\s*[.:)]?\s+\D|\s*$))?"
    r"\s*[.:)]?(?:\s+|$)",
    re.IGNORECASE,
)
WORD = r"(?<![\w-])"
#: The name of a panel: a few words and what it is.
PANEL = r"(?:[^\W\d][\w']*[ -]){0,3}?(?:sub-?panel|panel|board)\b"
#: What is taken out of a line, in this order: the column, its pattern, how its cell is written.
Maker = Callable[[re.Match[str]], str]
_PARTS: tuple[tuple[str, str, Maker], ...] = (
    ("multiwire_partner", r"(?:mwbc|multi-?wire|shares?(?: (?:a|its))? neutral|shared neutral)(?: with| "
                          r"w/)?"
     r"(?: (?:space|breaker|#))?\s*(\d{1,2}[ab]?)", lambda m: m[1]),
    ("clamp_a", rf"(?:clamp(?:ed)?|reads?)\s*:?\s*({NUMBER})\s*a(?:mps?)?\b", lambda m: f"{m[1]} A"),
    ("read_on", r"(?:on |read )?(\d{4}-\d{2}-\d{2})\b", lambda m: m[1]),
    ("start", rf"(?:starts?|starting|peak|surge|inrush)(?: at| with)?\s*:?\s*({NUMBER}\s*(?:k?w|k?va))\b",
     lambda m: m[1]),
    ("draw", rf"({NUMBER}\s*a(?:mps?)?\s*(?:at|@|x|×)\s*{NUMBER}\s*v)(?:olts?)?\b", lambda m: m[1]),
    ("draw", rf"({NUMBER}\s*k?wh\s*(?:/\s*d(?:ay)?|a day|per day))\b",
     lambda m: re.sub(r"\s*(?:a day|per day|/\s*d(?:ay)?)$", "/day", m[1], flags=re.IGNORECASE)),
    ("draw", rf"({NUMBER}\s*(?:k?w|hp))(?:atts?)?\b", lambda m: m[1]),
    ("draw", rf"draws\s*({NUMBER}\s*a)(?:mps?)?\b", lambda m: m[1]),
    ("feeds", rf"feeds? (?:the )?({PANEL})", lambda m: m[1]),
    ("panel", rf"(?:on|in|at) (?:the )?({PANEL})", lambda m: m[1]),
    ("length", rf"({NUMBER}\s*(?:ft|feet|foot|'|m|metres?|meters?))(?:\s*(?:long|run|away))?(?![\w²2])",
     lambda m: re.sub(r"\s*(?:feet|foot|')$", " ft", re.sub(r"(?i)met(?:re|er)s?$", "m", m[1]))),
    ("wire", r"(#?\s*\d{1,2}\s*(?:awg|ga(?:uge)?\b)|\d{1,3}(?:[.,]\d+)?\s*mm(?:2|²))(?:\s*(?:cu|copper))?",
     lambda m: re.sub(r"(?:ga(?:uge)?)$", "AWG", m[1].lstrip("# "), flags=re.IGNORECASE)),
    ("wire", r"(14|12|10|8|6|4)/[2-4](?:\s*(?:nm(?:-b)?|uf|romex|cable))?(?!\w)", lambda m: f"{m[1]} AWG"),
    ("metal", r"(?:alumini?um\b|al(?=\s*(?:$|[,;])))", lambda m: "aluminium"),
    ("metal", r"(?:copper\b|cu(?=\s*(?:$|[,;])))", lambda m: "copper"),
    ("breaker_a", r"(\d{1,400}(?:\.\d+)?)\s*a(?:mps?)?\s*/\s*1\s*p\b", lambda m: m[1]),
    ("breaker_a", r"(\d{1,400}(?:[.,]\d+)?)\s*a(?:mps?)?(?![\w])", lambda m: m[1].replace(",", ".")),
    ("poles", r"([12])\s*-?\s*p(?:oles?)?\b", lambda m: m[1]),
    ("poles", r"(?:two|double)[ -]?poles?\b", lambda m: "2"),
    ("poles", r"(?:one|single)[ -]?poles?\b", lambda m: "1"),
    ("mark", r"(?:must(?: run)?|keep|critical|essential)(?![\w-])", lambda m: "keep"),
    ("mark", r"(?:optional\b|(?:runs )?(?:if|when) (?:there(?: is|'s) )?room\b|marked room\b|(?<=[,;] "
             r")room\b)", lambda m: "room"),
    ("mark", r"(?:(?:stays?|leave|marked) off\b|never\b|off(?=\s*(?:$|[,;.])))", lambda m: "off"),
    ("sure", r"(?:measured|metered|clamped)(?![\w-])", lambda m: "measured"),
    ("sure", r"(?:(?:by|from|off) (?:the |its )?(?:name)?plate\b|nameplate\b|(?<=[,;] )plate\b)",
     lambda m: "plate"),
    ("sure", r"(?:estimated?|guess(?:ed)?)(?=\s*(?:$|[,;.)]))", lambda m: "estimate"),
)  # fmt: skip
PARTS = tuple((key, re.compile(WORD + pattern, re.IGNORECASE), make) for key, pattern, make in _PARTS)
#: A breaker as some write it: 2P20 for two poles of 20 A.
POLES_FIRST = re.compile(
    r"(?<![\w-])([12])\s*-?\s*p\s*(\d{2,3})(?:\s*a)?(?!\w|\s*(?:awg|ga|mm))", re.IGNORECASE
)
#: A gauge as a bare number behind the amps: 20A 12.
AMPS_GAUGE = re.compile(
    r"(\d\s*a(?:mps?)?(?:\s*[12]\s*-?\s*p(?:oles?)?)?)\s+(14|12|10|8|6|4|3|2|1)(?![\d.,/])"
    r"(?=\s*(?:$|[,;:]|(?:keep|must|critical|essential|optional|if|off|never|gfci|gfi|afci|rcd|mwbc|multi|shares?"
    r"|on|in|at|feeds?|clamp|draws|start|measured|by|from|cu|al|copper|alumini?um)\b|(?<=\s)\d+(?:[.,]\d+)?\s*[a-z']))",
    re.IGNORECASE,
)
PROTECTION = re.compile(r"(?<!\w)(gfci|gfi|afci|rcd)(?!\w)", re.IGNORECASE)
#: What is left between words that were taken out.
MARKS = " ,;:-()/"
#: Amps somewhere in a line: where there are none, “20A” at its head is a rating and no half of a space.
RATED = re.compile(r"\d\s*a(?:mps?)?\b", re.IGNORECASE)
#: Ratings that breakers have: a bare number at the end of a line is one where it is among them.
RATINGS = (6, 10, 13, 15, 16, 20, 25, 30, 32, 35, 40, 45, 50, 60, 63, 70, 80, 90, 100, 125, 150, 175, 200)


def cells_of_line(line: str) -> dict[str, str]:
    """Cells of a line.

    Args:
        line: space, label, amps and whatever else is known, in any order behind the space; what hangs on it
            may stand behind a colon.

    Returns:
        Cells by column; what is not said is not there.

    >>> cells_of_line("5 7 well pump 20 A 12 AWG")
    {'spaces': '5 7', 'wire': '12 AWG', 'breaker_a': '20', 'label': 'well pump'}
    """
    if re.search(r"\t|\s\|\s", line):
        return _cells_side_by_side(re.split(r"\t|\s\|\s", line))
    found: dict[str, str] = {}
    head = SPACES.match(line)
    rest = line
    if head is not None and _is_rating(head, line[head.end() :]):
        head = None
    if head is not None:
        second = f" {head['second']}" if head["second"] else ""
        found["spaces"] = f"{head['first']}{(head['half'] or '').lower()}{second}"
        rest = line[head.end() :]
    rest = AMPS_GAUGE.sub(r"\1 \2 AWG", rest)
    if not RATED.search(rest):
        rest = POLES_FIRST.sub(r"\1p \2 A", rest)
    rest, _, loads = rest.partition(": ")
    if loads:
        found["loads"] = _without_parts(loads, found).strip(" ,;.-()")
    label = _without_parts(rest, found)
    label = " ".join(label.split()).strip(MARKS)
    bare = re.search(r"(?:^|\s)(\d{1,3})$", label)
    if "breaker_a" not in found and bare is not None and int(bare[1]) in RATINGS:
        found["breaker_a"] = bare[1]
        label = label[: bare.start()].strip(MARKS)
    if label:
        found["label"] = label
    return {key: cell for key, cell in found.items() if cell}


def _is_rating(head: re.Match[str], rest: str) -> bool:
    """Whether a line begins with its amps, such as “20A hall”, and says no space."""
    return bool(head["half"]) and int(head["first"]) in RATINGS and not RATED.search(rest)


def _without_parts(words: str, found: dict[str, str]) -> str:
    """What is left of some words when all that belongs to a column is taken out of them."""
    draws: list[str] = []
    for key, pattern, make in PARTS:
        if key in found and key != "draw":
            continue
        for match in pattern.finditer(words):
            cell = make(match)
            if key == "draw":
                draws.append(cell)
            elif key not in found:
                found[key] = cell
            else:
                continue
            words = words[: match.start()] + " " * (match.end() - match.start()) + words[match.end() :]
            if key != "draw":
                break
    if draws:
        found["draw"] = ", ".join(filter(None, [found.get("draw", ""), *draws]))
    kinds = {{"gfi": "gfci"}.get(kind.lower(), kind.lower()) for kind in PROTECTION.findall(words)}
    if kinds:
        found["protection"] = "gfci_afci" if {"gfci", "afci"} <= kinds else min(kinds)
        words = PROTECTION.sub(" ", words)
    return words


def _cells_side_by_side(cells: list[str]) -> dict[str, str]:
    """Cells of a row without names: the space, words, then amps and a gauge as bare numbers."""
    found: dict[str, str] = {}
    labels: list[str] = []
    for cell in (one.strip() for one in cells):
        if not cell:
            continue
        if "spaces" not in found and re.fullmatch(r"\d{1,2}[ab]?(?:\s*[,/&+ -]\s*\d{1,2})?", cell):
            found["spaces"] = cell
        elif re.fullmatch(r"\d{1,3}", cell) and "breaker_a" not in found:
            found["breaker_a"] = cell
        elif re.fullmatch(r"#?\d{1,2}", cell) and "wire" not in found:
            found["wire"] = cell.lstrip("#")
        else:
            words = _without_parts(cell, found).strip(" ,;:-")
            labels += [words] if words else []
    if labels:
        found["label"] = labels[0]
    if len(labels) > 1:
        found["loads"] = "; ".join(labels[1:])
    return found
