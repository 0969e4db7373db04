"""Rows of a session can be found by what they are about, however many there are."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

LENGTHS = {"at": 32, "kind": 12, "what": 20, "part": 90, "pack": 40, "corrects": 60}
INDEXES = {
    "ix_log_rows_session_id_what": ["session_id", "what", "part", "pack", "at"],
    "ix_log_rows_session_id_corrects": ["session_id", "corrects"],
}


def upgrade() -> None:
    """Columns out of the documents that are there, and their indexes."""
    for name, length in LENGTHS.items():
        op.add_column("log_rows", sa.Column(name, sa.String(length), nullable=False, server_default=""))
    told = ", ".join(f"\"{name}\" = coalesce(json_extract(document, '$.{name}'), '')" for name in LENGTHS)
    op.execute(f"UPDATE log_rows SET {told}")
    op.add_column("log_rows", sa.Column("kept_at", sa.DateTime(timezone=True)))
    for index, columns in INDEXES.items():
        op.create_index(index, "log_rows", columns)


def downgrade() -> None:
    """Rows are found by their session alone."""
    for index in INDEXES:
        op.drop_index(index, "log_rows")
    for name in (*LENGTHS, "kept_at"):
        op.drop_column("log_rows", name)
