"""The neutral matrix: what a source and a transfer are together, and which of it is the worst."""

from weary_cedar.core.plan import Hookup

Verdict = str


def judged(neutral: str, gfci: str, feed: Hookup, *, split_phase: bool) -> Verdict:
    """One cell of the neutral matrix.

    Args:
        neutral: of the source: floating, bonded, switchable, changes, unknown.
        gfci: whether the source's outlet has ground-fault protection: yes, no, unknown.
        feed: what it feeds and whether its neutral is switched.
        split_phase: only 120/240 V houses; a 230 V island makes its own bond.

    Returns:
        "right", "floats" (by cord, as is usual), "island" (a 230 V house: judged by its own checks), "note",
        or the id of the check that speaks: neutral-floating-switched, neutral-double-bond,
        neutral-gfci-bond, neutral-unknown.

    Source: NFPA 70 (2023) 250.6, 250.30, 250.34, 250.142(B), from memory, and common practice.
    """
    if neutral == "floating" and feed.bonding_plug == "yes":
        neutral = "bonded"
    if neutral not in ("floating", "bonded"):
        return "note" if feed.kind == "cords" else "neutral-unknown"
    if feed.kind == "cords":
        return "floats" if neutral == "floating" else "right"
    if not split_phase:
        return "island"
    if feed.neutral_switched == "unknown" and not feed.traits.single:
        return "neutral-unknown"
    if feed.neutral_switched == "yes":
        single = feed.traits.single and len(feed.circuit_ids) <= 1
        if neutral != "floating":
            return "right"
        return "right" if single else "neutral-floating-switched"
    if neutral == "floating":
        return "right"
    if gfci == "yes":
        return "neutral-gfci-bond"
    return "neutral-unknown" if gfci == "unknown" else "neutral-double-bond"


#: Cells of the matrix, the worst first: of a source with several states the worst is told.
WORST = (
    "neutral-floating-switched",
    "neutral-gfci-bond",
    "neutral-unknown",
    "neutral-double-bond",
    "note",
    "island",
    "floats",
    "right",
)
