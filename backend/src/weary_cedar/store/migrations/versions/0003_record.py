"""What was done at the panel."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Rows of plans, each once."""
    op.create_table(
        "record_rows",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("plan_id", sa.String(40), sa.ForeignKey("plans.id", ondelete="CASCADE"), nullable=False),
        sa.Column("row_id", sa.String(64), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("entered_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_record_rows_plan_id_row_id", "record_rows", ["plan_id", "row_id"], unique=True)


def downgrade() -> None:
    """Nothing is known of it any more."""
    op.drop_table("record_rows")
