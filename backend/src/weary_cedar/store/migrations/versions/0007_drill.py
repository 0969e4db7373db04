"""What was practised."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """A row for each time that an exercise was played."""
    op.create_table(
        "drill_rows",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("plan_id", sa.String(40), sa.ForeignKey("plans.id", ondelete="CASCADE"), nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_drill_rows_plan_id", "drill_rows", ["plan_id"])


def downgrade() -> None:
    """Nothing was practised."""
    op.drop_table("drill_rows")
