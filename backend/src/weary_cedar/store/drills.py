"""The repository of what was practised: rows are added only."""

from sqlalchemy import select

from weary_cedar.core.drill.readiness import Practised
from weary_cedar.store.models import DrillRow
from weary_cedar.store.sessions import Sessions, plan_row


class DrillStore:
    """What was practised, in a database; safe to use from several threads."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def add(self, plan_id: str, row: Practised) -> None:
        """Add a row.

        Raises:
            NotFound: there is no such plan.
        """
        with self._sessions.writing() as database:
            plan_row(database, plan_id)
            database.add(DrillRow(plan_id=plan_id, document=row.model_dump_json()))

    def rows(self, plan_id: str) -> list[Practised]:
        """What was practised of a plan, in its order.

        Raises:
            NotFound: there is no such plan.
        """
        with self._sessions.reading() as database:
            plan_row(database, plan_id)
            asked = select(DrillRow.document).where(DrillRow.plan_id == plan_id).order_by(DrillRow.id)
            return [Practised.model_validate_json(document) for (document,) in database.execute(asked)]
