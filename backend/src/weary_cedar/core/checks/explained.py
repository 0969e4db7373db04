"""What every check looks for, in words: out of the catalogue, the functions and the questions themselves."""

import inspect
import re
from collections.abc import Iterator
from dataclasses import dataclass

from weary_cedar.core.checks import families
from weary_cedar.core.checks.editions import known_differences, told_source
from weary_cedar.core.checks.registry import CHECKS, catalogue
from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.core.plan.unread import plate_figures
from weary_cedar.core.tables import table

LEVEL_WORDS = {
    "stop": "Stop: do not energise",
    "caution": "Caution",
    "note": "Note",
    "cannot_judge": "Cannot judge until it is known",
}
#: How a function says that something is missing: of which part, and what.
MISSING = re.compile(r'Unknown\(\s*(?:\w+|[\w.]+\([^()]*\)),\s*f?"([^"]+)"')
#: … and that a figure of a plate is, by its field.
NOT_READ = re.compile(r'not_read\(\s*(?:\w+|[\w.]+\([^()]*\)),\s*[\w.\[\]]+,\s*"(\w+)"')
#: A helper of the same file that a function calls.
HELPER = re.compile(r"(?<![\w.])(_[a-z]\w*)\(")


@dataclass(frozen=True)
class Explained:
    """One check in words."""

    check_id: str
    family: str
    level: str
    title: str
    condition: str
    why: str
    remedy: str
    source: str
    #: Statements that someone at the house confirms or denies.
    asks: tuple[str, ...]
    #: What is said to be missing where the plan does not tell it.
    needs: tuple[str, ...]
    answerable: bool
    #: Editions in which its clause is known to differ, and how.
    editions: tuple[tuple[str, str], ...]


def explained(check_id: str) -> Explained:
    """What a check looks for, and what it needs to know.

    Raises:
        NotFound: there is no such check.
    """
    families.load()
    row = catalogue().get(check_id)
    if row is None:
        near = [key for key in catalogue() if key.startswith(check_id.partition("-")[0])] or list(catalogue())
        problem = Problem("check", shown(check_id), f"one of {', '.join(near[:12])}")
        raise NotFound(str(problem), (problem,))
    questions = [item for item in table("survey") if item["check_id"] == check_id]
    function = CHECKS.get(check_id)
    told = inspect.getdoc(function) if function is not None else None
    asks = tuple(question["statement"] for question in questions)
    return Explained(
        check_id=check_id,
        family=row["family"],
        level=LEVEL_WORDS[row["level"]],
        title=row["title"],
        condition=" ".join((told or "By the answer to its question.").split("\n\n")[0].split()),
        why=row["why"],
        remedy=row["remedy"],
        source=told_source(row),
        asks=asks,
        needs=tuple(dict.fromkeys(_needs(function))) if function is not None else (),
        answerable=row["answerable"] == "yes",
        editions=tuple(known_differences(check_id)),
    )


def _needs(function: object, seen: frozenset[str] = frozenset()) -> Iterator[str]:
    """What a function and its helpers say is missing, as it stands in their lines; a part's own name as …"""
    try:
        lines = inspect.getsource(function)  # type: ignore[arg-type]
    except (OSError, TypeError):
        return
    for words in MISSING.findall(lines):
        yield re.sub(r"\{[^}]*\}", "…", words)
    for name in NOT_READ.findall(lines):
        yield from dict.fromkeys(mark.words for (_, field), mark in plate_figures().items() if field == name)
    around = getattr(function, "__globals__", {})
    for name in HELPER.findall(lines):
        if name not in seen and inspect.isfunction(around.get(name)):
            yield from _needs(around[name], seen | {name})


def in_words(item: Explained) -> list[str]:
    """One check as lines of text."""
    lines = [f"{item.title} [{item.check_id}]", f"  {item.level}. {item.condition}"]
    lines += [f"  {item.why}", f"  What to do: {item.remedy}", f"  Source: {item.source}"]
    lines += [f"  In {edition}: {words}" for edition, words in item.editions]
    lines += [f"  Asked: {statement}" for statement in item.asks]
    lines += [f"  Needs to know: {words}" for words in item.needs]
    if item.answerable:
        lines.append("  An electrician may answer it with a reason, which is printed with the plan.")
    return lines


def catalogue_page() -> str:
    """All checks as a page in Markdown, in the order of the catalogue."""
    parts = [
        "# What is checked",
        "",
        "Made from the tables and the checks themselves by `weary-cedar check --explain all`. Codes are",
        "cited from memory and say so; local code and the authority having jurisdiction decide.",
    ]
    family = ""
    for check_id in catalogue():
        item = explained(check_id)
        if item.family != family:
            family = item.family
            parts += ["", f"## {family.replace('_', ' ').capitalize()}"]
        parts += ["", f"**{item.title}** (`{item.check_id}`). {item.level}. {item.condition}"]
        parts.append(f"{item.why} {item.remedy} *{item.source}.*")
        parts += [f"In {edition}: {words}." for edition, words in item.editions]
        if item.asks:
            parts.append(f"Asked: {' '.join(item.asks)}")
        if item.needs:
            parts.append(f"Needs to know: {'; '.join(item.needs)}.")
    return "\n".join(parts) + "\n"
