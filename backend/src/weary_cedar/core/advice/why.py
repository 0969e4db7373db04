"""Why it does not last: where the energy went until then, and what was offered and not taken."""

from collections.abc import Iterator
from typing import Final

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.outage import RunResult, first_part, run_outage
from weary_cedar.core.plan import Plan

#: So many loads have a bar of their own; the others share one.
MOST_LOADS: Final = 8
#: Less than this is not shown, Wh.
LEAST_WH: Final = 0.5
#: The screen of all loads, and what is left in the cells.
EVERY_LOAD, LEFT = "needs", "still in the cells"
#: It must have lasted so long for there to be a picture, s.
LEAST_S: Final = 60.0


class Bar(BaseModel):
    """One flow of energy: in words, Wh, and the screen and part on which it is changed."""

    model_config = ConfigDict(frozen=True)

    words: str
    wh: float
    screen: str
    part: str = ""


class Why(BaseModel):
    """The energy until it fails, or until the end: what came is what went; beside it what was not taken."""

    model_config = ConfigDict(frozen=True)

    sentence: str
    until_s: float
    came: tuple[Bar, ...] = ()
    went: tuple[Bar, ...] = ()
    not_taken: tuple[Bar, ...] = ()
    #: What the plan owns and the run did not use, with why.
    unused: tuple[str, ...] = ()


def why(plan: Plan, run: RunResult) -> Why:
    """Where the energy of an outage went until it failed.

    Args:
        plan: the plan.
        run: of that plan.

    Returns:
        What was stored and what came, against every load, idle draw, losses and what was left, Wh, from the
        beginning to the failure, or to the end where it lasts; and what was offered and not taken, with why.

    Source: the books of the run up to then; they close to 1e-6.
    """
    until_s = run.length_s if run.verdict.until_s is None else run.verdict.until_s
    if run.ledger is None or until_s < LEAST_S:
        told = run.verdict.sentence if run.ledger is not None else "; ".join(run.verdict.missing)
        return Why(sentence=f"There is no energy to account for: {told}.", until_s=until_s)
    part = run_outage(first_part(plan, until_s))
    came = tuple(_sorted(_came(part)))
    went = (*_loads(part), *_sorted(_losses(part)), *_left(part))
    not_taken = tuple(_sorted(_not_taken(part)))
    unused = tuple(f"{item.name}: {item.why}" for item in run.unused)
    return Why(
        sentence=_sentence(plan, run, until_s, came, went, not_taken), until_s=until_s, came=came, went=went,
        not_taken=not_taken, unused=unused,
    )  # fmt: skip


def _sorted(bars: Iterator[Bar]) -> list[Bar]:
    return sorted((bar for bar in bars if bar.wh >= LEAST_WH), key=lambda bar: (-bar.wh, bar.words))


def _came(part: RunResult) -> Iterator[Bar]:
    ledger = part.ledger
    assert ledger is not None
    yield Bar(words="stored when it began", wh=ledger.stored_start_wh, screen="gear")
    for sun in part.suns.values():
        yield Bar(words=f"the sun, by {sun.name}", wh=sun.taken_wh, screen="gear")
    for words, wh in (
        ("engines", ledger.engine_wh),
        ("the utility, while it was back", ledger.grid_wh),
        ("vehicles", ledger.vehicle_wh),
        ("external batteries", ledger.external_wh),
    ):
        yield Bar(words=words, wh=wh, screen="outage")


def _loads(part: RunResult) -> Iterator[Bar]:
    """Loads, the one that took most first; those behind them together."""
    taken = [(key, share) for key, share in part.loads.items() if share.served_wh >= LEAST_WH]
    ranked = sorted(taken, key=lambda item: (-item[1].served_wh, item[0]))
    for key, share in ranked[:MOST_LOADS]:
        yield Bar(words=share.name, wh=share.served_wh, screen="needs", part=f"loads/{key}")
    rest = ranked[MOST_LOADS:]
    if rest:
        yield Bar(words=f"{len(rest)} more loads", wh=sum(x.served_wh for _, x in rest), screen=EVERY_LOAD)


def _losses(part: RunResult) -> Iterator[Bar]:
    ledger = part.ledger
    assert ledger is not None
    for words, wh in (
        ("idle draw of stations", ledger.idle_wh),
        ("lost in inverters", ledger.inverter_loss_wh),
        ("lost in charging", ledger.charging_loss_wh),
        ("asleep, and self-discharge", ledger.sleep_wh + ledger.self_discharge_wh),
        ("taken for passing through", ledger.overhead_wh),
    ):
        yield Bar(words=words, wh=wh, screen="gear")
    yield Bar(words="warmth of cords", wh=ledger.cord_wh, screen="feed")


def _left(part: RunResult) -> Iterator[Bar]:
    ledger = part.ledger
    assert ledger is not None
    if ledger.stored_end_wh >= LEAST_WH:
        yield Bar(words=LEFT, wh=ledger.stored_end_wh, screen="gear")


def _not_taken(part: RunResult) -> Iterator[Bar]:
    for sun in part.suns.values():
        clipped = f"sun that the input of {sun.name} does not take at once"
        yield Bar(words=clipped, wh=sun.clipped_wh, screen="gear")
        words = f"sun by {sun.name} for which the cells had no room: full, cold or at their charging limit"
        yield Bar(words=words, wh=sun.curtailed_wh, screen="outage")


def _kwh(wh: float) -> str:
    return f"{wh / 1000:.1f} kWh"


def _sentence(
    plan: Plan,
    run: RunResult,
    until_s: float,
    came: tuple[Bar, ...],
    went: tuple[Bar, ...],
    not_taken: tuple[Bar, ...],
) -> str:
    """The largest of it in words."""
    whole = sum(bar.wh for bar in came)
    at = plan.site.units.told_moment(plan.site.instant(plan.outage.start_local, until_s))
    fails = run.verdict.until_s is not None
    used = [bar for bar in went if bar.part or bar.screen != EVERY_LOAD]
    most = sorted((bar for bar in used if bar.words != LEFT), key=lambda bar: -bar.wh)[:3]
    told = ", ".join(f"{bar.words} {100 * bar.wh / whole:.0f} %" for bar in most) if whole else ""
    words = f"{_kwh(whole)} were there until {'it fails' if fails else 'the end'}, {at}: {told}"
    if not_taken:
        words += f"; {_kwh(sum(bar.wh for bar in not_taken))} were offered and not taken"
    return words + "."
