"""Rows of a log: added once, found by what they are about however many there are."""

import json
import sqlite3
from datetime import datetime, timedelta
from pathlib import Path

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from weary_cedar.core.log.session import Session, SessionRow, begun
from weary_cedar.demo import demo_plan
from weary_cedar.store.database import DataFolder
from weary_cedar.store.log import SHOWN_ROWS, LogStore
from weary_cedar.store.plans import PlanStore

PLAN = demo_plan()
BEGINS = datetime(2026, 10, 13, 18, 0)


def kept(folder: DataFolder) -> tuple[LogStore, str, str]:
    assert folder.engine is not None
    plans = PlanStore(folder.engine)
    plan_id = plans.create(PLAN).id
    log = LogStore(plans.sessions)
    return log, plan_id, log.begin(plan_id, 1, "{}", begun(PLAN, "Storm", BEGINS))


def row(number: int, **told: object) -> SessionRow:
    at = BEGINS + timedelta(minutes=number)
    fields = {"id": f"r{number}", "at": at, "entered": at, "kind": "reading", "told": "x", **told}
    return SessionRow.model_validate(fields)


def test_forty_thousand_rows_are_added_to_and_shown_by_their_newest(folder: DataFolder) -> None:
    log, plan_id, key = kept(folder)
    many = [row(n, what="charge", part="stations/station", value=n % 100) for n in range(40_000)]
    for first in range(0, len(many), 5_000):
        assert log.add(plan_id, key, many[first : first + 5_000]) == 5_000
    assert log.add(plan_id, key, [many[7], row(50_000, kind="remark")]) == 1
    seen = log.get(plan_id, key, most=SHOWN_ROWS)
    assert (len(seen.session.rows), seen.rows_total) == (SHOWN_ROWS, 40_001)
    assert seen.session.rows[-1].id == "r50000"
    stands = log.as_it_stands(plan_id, key).session.rows
    assert [one.id for one in stands] == ["r39999", "r50000"]


def test_the_newest_session_is_of_a_plan_that_is_there(folder: DataFolder) -> None:
    """Nobody is called with an alarm of a plan that was put away."""
    log, plan_id, key = kept(folder)
    log.add(plan_id, key, [row(1, kind="remark")])
    assert [(plan, session) for plan, session, _ in log.newest()] == [(plan_id, key)]
    assert folder.engine is not None
    PlanStore(folder.engine).delete(plan_id)
    assert log.newest() == []


ROWS = st.lists(
    st.builds(
        lambda at, kind, what, part, corrects: {
            "at": BEGINS + timedelta(minutes=at), "kind": kind, "what": what, "part": part,
            "corrects": corrects,
        },
        st.integers(0, 30), st.sampled_from(["reading", "act"]), st.sampled_from(["charge", "fuel_l", ""]),
        st.sampled_from(["stations/a", "stations/b"]), st.sampled_from(["", "", "r0", "r2"]),
    ),
    max_size=12,
)  # fmt: skip


@settings(suppress_health_check=[HealthCheck.function_scoped_fixture], max_examples=40)
@given(told=ROWS)
def test_as_it_stands_says_the_same_as_all_rows(folder: DataFolder, told: list[dict[str, object]]) -> None:
    """Of what is read the last one, of what was done everything; nothing that was corrected."""
    log, plan_id, key = kept(folder)
    log.add(plan_id, key, [row(number, **one) for number, one in enumerate(told)])

    def last(session: Session) -> dict[tuple[str, str], str]:
        every = session.standing()
        return {(one.what, one.part) if one.what else (one.id, ""): one.id for one in every}

    everything = log.get(plan_id, key).session
    gone = {one.corrects for one in everything.rows if one.corrects}
    assert last(log.as_it_stands(plan_id, key).session) == {
        place: found for place, found in last(everything).items() if found not in gone
    }


def test_rows_of_before_are_found_too(tmp_path: Path) -> None:
    """A folder whose rows were written before they could be found by what they are about."""
    folder = DataFolder(tmp_path / "data")
    folder.open()
    log, plan_id, key = kept(folder)
    log.add(plan_id, key, [row(1, what="charge", part="stations/station", value=64)])
    folder.close()
    with sqlite3.connect(tmp_path / "data" / "weary-cedar.sqlite3") as raw:
        for table in ("devices", "drill_rows"):
            raw.execute(f"DROP TABLE {table}")
        for index in ("ix_log_rows_session_id_what", "ix_log_rows_session_id_corrects"):
            raw.execute(f"DROP INDEX {index}")
        for column in ("at", "kind", "what", "part", "pack", "corrects", "kept_at"):
            raw.execute(f'ALTER TABLE log_rows DROP COLUMN "{column}"')
        raw.execute("UPDATE alembic_version SET version_num = '0004'")
    again = DataFolder(tmp_path / "data")
    engine = again.open()
    found = LogStore(PlanStore(engine).sessions).as_it_stands(plan_id, key).session.rows
    with sqlite3.connect(tmp_path / "data" / "weary-cedar.sqlite3") as raw:
        columns = raw.execute("SELECT what, part, document FROM log_rows").fetchall()
    again.close()
    assert [(one.what, one.value) for one in found] == [("charge", 64)]
    assert [(what, part) for what, part, _ in columns] == [("charge", "stations/station")]
    assert json.loads(columns[0][2])["id"] == "r1"
