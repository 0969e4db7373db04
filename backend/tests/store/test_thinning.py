"""Histories do not grow for ever: what is kept, and that undo leads on."""

from datetime import UTC, datetime, timedelta

from sqlalchemy import text

from weary_cedar.demo import demo_plan
from weary_cedar.store import plans
from weary_cedar.store.database import DataFolder
from weary_cedar.store.plans import PlanStore
from weary_cedar.store.thinning import KEPT_LAST, Line, kept_revisions, relinked

NOW = datetime(2026, 11, 26, 12, 0, tzinfo=UTC)


def lines(count: int, apart: timedelta) -> list[Line]:
    """A straight history that ends now, every edit undone by the one before."""
    return [Line(n, n - 1 if n > 1 else None, None, NOW - (count - n) * apart) for n in range(1, count + 1)]


def test_the_last_ones_the_last_days_and_one_a_day() -> None:
    history = lines(4_000, timedelta(hours=2))
    kept = kept_revisions(history, 4_000, NOW)
    assert set(range(3_501, 4_001)) <= kept
    old = sorted(number for number in kept if number <= 3_500)
    assert len(old) == len({history[number - 1].saved_at.date() for number in old})
    assert len({line.saved_at.date() for line in history}) >= len(old) > 250
    busy = lines(4_000, timedelta(minutes=5))
    assert kept_revisions(busy, 4_000, NOW) == {line.number for line in busy}


def test_undo_leads_on_over_what_is_gone() -> None:
    history = lines(2_000, timedelta(hours=12))
    kept = kept_revisions(history, 2_000, NOW)
    links = {line.number: line.undo_to for line in history} | {
        number: undo_to for number, (undo_to, _) in relinked(history, kept).items()
    }
    number: int | None = 2_000
    seen = 0
    while number is not None:
        assert number in kept
        seen, number = seen + 1, links[number]
    assert seen == len(kept)


def test_what_undo_and_redo_need_stays() -> None:
    """After many undos the head leads far back and far forward; both ways stay."""
    history = lines(3_000, timedelta(hours=1))
    old = NOW - timedelta(days=125)
    history[1_000] = Line(1_001, 400, 2_000, old)
    kept = kept_revisions(history, 1_001, NOW)
    assert {1_001, 400, 2_000} <= kept


def test_a_store_thins_itself_and_says_how_much(folder: DataFolder, store: PlanStore) -> None:
    plan = store.create(demo_plan())
    count = 2 * KEPT_LAST + plans.THINNED_EVERY - 1
    assert folder.engine is not None
    with folder.engine.begin() as connection:
        long_ago = (NOW - timedelta(days=4_000)).strftime("%Y-%m-%d %H:%M:%S.%f")
        connection.execute(
            text(
                "WITH RECURSIVE n(i) AS (SELECT 2 UNION ALL SELECT i + 1 FROM n WHERE i < :count) "
                "INSERT INTO revisions (plan_id, number, kind, summary, document, undo_to, created_at) "
                "SELECT plan_id, i, 'edit', 'again', document, i - 1, :at FROM n, revisions WHERE number = 1"
            ),
            {"count": count, "at": long_ago},
        )
        connection.execute(text("UPDATE plans SET head = :count"), {"count": count})
    before = store.kept(plan.id)
    assert (before.revisions, before.thinned) == (count, 0)
    store.edit(plan.id, count, {"circuits": {"bath": {"mark": "keep"}}})
    after = store.kept(plan.id)
    assert KEPT_LAST <= after.revisions <= KEPT_LAST + 2
    assert after.thinned == count + 1 - after.revisions
    assert after.bytes < before.bytes
    assert store.undo(plan.id, count + 1).plan == plan.plan
