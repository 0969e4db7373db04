"""Sessions of the log, and their rows."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Sessions of plans, and rows of sessions, each once."""
    op.create_table(
        "log_sessions",
        sa.Column("id", sa.String(40), primary_key=True),
        sa.Column("plan_id", sa.String(40), sa.ForeignKey("plans.id", ondelete="CASCADE"), nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("plan_document", sa.Text, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_index("ix_log_sessions_plan_id", "log_sessions", ["plan_id"])
    op.create_table(
        "log_rows",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column(
            "session_id", sa.String(40), sa.ForeignKey("log_sessions.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("row_id", sa.String(64), nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("ix_log_rows_session_id_row_id", "log_rows", ["session_id", "row_id"], unique=True)


def downgrade() -> None:
    """Nothing is known of them any more."""
    op.drop_table("log_rows")
    op.drop_table("log_sessions")
