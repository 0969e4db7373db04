"""Variants belong to a plan."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Whose variant a plan is; none of those that are there is one."""
    op.add_column("plans", sa.Column("variant_of", sa.String(40)))


def downgrade() -> None:
    """Variants become plans of their own."""
    op.drop_column("plans", "variant_of")
