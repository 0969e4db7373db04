"""The way from a source to the panel or appliance, element by element."""

from dataclasses import replace

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.neutral import cell
from weary_cedar.core.checks.registry import catalogue
from weary_cedar.core.checks.sources import needs_neutral
from weary_cedar.core.network.neutral_matrix import judged
from weary_cedar.core.network.neutral_states import neutral_states
from weary_cedar.core.network.path import feeding_path
from weary_cedar.core.plan import Answer, Hookup, Kind, Plan


class PathElement(BaseModel):
    """One element: what it is, what it may carry, and the greatest flow of the run through it."""

    model_config = ConfigDict(frozen=True)

    key: str
    name: str
    rating_a: float | None
    most_a: float | None = None
    #: The least overcurrent device before it, or in it, A.
    protected_a: float | None = None
    neutral: str = "yes"


class NeutralRow(BaseModel):
    """One kind of source in the neutral matrix: what holds in each kind of transfer, and which is here."""

    model_config = ConfigDict(frozen=True)

    source: str
    cells: tuple[str, ...]
    here: int | None


class FeedPath(BaseModel):
    """A lead and its feed as a line of elements, with its pinch and where the one bond of the neutral is."""

    model_config = ConfigDict(frozen=True)

    lead_id: str
    #: The feed that it ends at; none with cords to appliances.
    feed_id: str | None
    name: str
    kind: str
    elements: tuple[PathElement, ...]
    pinch: str | None
    neutral_cell: str
    neutral_words: str
    neutral_matrix: tuple[NeutralRow, ...]
    circuits: tuple[str, ...]


NEUTRAL_WORDS = {
    "right": "one bond, where it should be",
    "floats": "none: it floats, as is usual by cord; flame sensing may lock out",
    "island": "the island's own bond, which closes with the changeover; see the checks",
    "note": "not known, but only cords are fed",
    "neutral-floating-switched": "no bond: a fault trips nothing",
    "neutral-double-bond": "two bonds: neutral current on the ground wire",
    "neutral-gfci-bond": "two bonds behind a ground-fault outlet: it will not hold",
    "neutral-open": "open: a joint has none, and the legs are in series",
    "refused": "not judged: this way of feeding a house is refused",
    "neutral-unknown": "not known: see what is open, or measure neutral to ground in each state",
}


def feed_paths(plan: Plan, facts: Facts | None = None) -> list[FeedPath]:
    """Every lead of a plan that feeds something, as a path.

    Args:
        plan: the plan.
        facts: of the same plan, if there are some already.

    Returns:
        Elements in order from the source, ratings in A per leg; the greatest flows of the run for
        the feed that is run; the pinch is the element with the greatest flow ÷ rating, or the
        smallest rating where nothing has run.
    """
    facts = facts or Facts(plan)
    return [_path(plan, facts, key, feed) for key, feed in plan.hookups.items()]


def _path(plan: Plan, facts: Facts, key: str, feed: Hookup) -> FeedPath:
    most = facts.greatest_flow("cord", key) or None
    row = feeding_path(plan, feed)
    elements = [
        PathElement(
            key=found.key,
            name=found.name,
            rating_a=found.rating_a,
            most_a=most,
            protected_a=row.protects(found),
            neutral=found.neutral,
        )
        for found in row.elements
        if found.kind != "neutral bus"
    ]
    found = "refused" if feed.traits.refused else cell(facts, feed)
    if found != "refused" and needs_neutral(facts, feed):
        passed = {element.neutral for element in elements}
        if "no" in passed:
            found = "neutral-open"
        elif "unknown" in passed and found == "right":
            found = "neutral-unknown"
    return FeedPath(
        lead_id=key,
        feed_id=feed.feed_id,
        name=facts.element("leads", key).name,
        kind=feed.kind,
        elements=tuple(elements),
        pinch=_pinch(elements),
        neutral_cell=found,
        neutral_words=NEUTRAL_WORDS[found],
        neutral_matrix=() if found in ("refused", "neutral-open") else neutral_matrix(plan, feed),
        circuits=(
            *(plan.circuits[c].label for c in facts.on(feed)),
            *(plan.loads[key].name for key in feed.load_ids),
        ),
    )


#: Sources in the rows of the matrix: words, how the neutral is tied, ground-fault outlet.
SOURCES = (
    ("floating", "floating", "no"),
    ("bonded, plain outlet", "bonded", "no"),
    ("bonded, ground-fault outlet", "bonded", "yes"),
    ("changes, or not known", "unknown", "unknown"),
)
#: Transfers in its columns: words, kind of feed, whether the neutral is switched.
TRANSFERS: tuple[tuple[str, Kind, Answer], ...] = (
    ("neutral not switched", "transfer_panel", "no"),
    ("neutral switched", "transfer_panel", "yes"),
    ("cords only", "cords", "no"),
)


def neutral_matrix(plan: Plan, feed: Hookup) -> tuple[NeutralRow, ...]:
    """The neutral matrix, with the cell that a feed is in.

    Args:
        plan: the plan.
        feed: one of its feeds.

    Returns:
        A row for each kind of source; `here` is the column of this feed in the rows of its source's states.

    Source: as `judged`.
    """
    stands = {(state.neutral, state.gfci == "yes") for state in neutral_states(plan, feed)}
    column = 2 if feed.kind == "cords" else 1 if feed.neutral_switched == "yes" else 0
    rows = []
    for words, neutral, outlet in SOURCES:
        cells = tuple(
            _cell_words(feed, neutral, outlet, kind, switched, plan) for _, kind, switched in TRANSFERS
        )
        mine = any(own == neutral and (own != "bonded" or gfci == (outlet == "yes")) for own, gfci in stands)
        rows.append(NeutralRow(source=words, cells=cells, here=column if mine else None))
    return tuple(rows)


def _cell_words(feed: Hookup, neutral: str, outlet: str, kind: Kind, switched: Answer, plan: Plan) -> str:
    there = replace(feed, kind=kind, neutral_switched=switched, bonding_plug="no")
    found = judged(neutral, outlet, there, split_phase=plan.site.split_phase)
    if found == "right":
        return "right"
    if found == "floats":
        return "normal; flame sensing may lock out"
    if found == "island":
        return "by the island's own bond"
    level = {"note": "note", "neutral-unknown": "cannot judge"}.get(found) or catalogue()[found]["level"]
    return f"{level}: {NEUTRAL_WORDS[found].partition(':')[0]}"


def _pinch(elements: list[PathElement]) -> str | None:
    rated = [e for e in elements if e.rating_a]
    if not rated:
        return None
    return max(rated, key=lambda e: (e.most_a or 1.0) / (e.rating_a or 1.0)).key
