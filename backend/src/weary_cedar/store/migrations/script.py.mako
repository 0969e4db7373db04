"""${message}"""

import sqlalchemy as sa
from alembic import op

revision = ${repr(up_revision)}
down_revision = ${repr(down_revision)}
branch_labels = None
depends_on = None


def upgrade() -> None:
    """${message}"""
    ${upgrades if upgrades else "pass"}


def downgrade() -> None:
    """Back to the version before."""
    ${downgrades if downgrades else "pass"}
