"""Clips that a pose model is to search, or asks something about; and clips that a phone filmed as
in a mirror."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("recorded_set", sa.Column("search", sa.Text, nullable=False, server_default=""))
    op.add_column(
        "recorded_set",
        sa.Column("mirrored", sa.Boolean, nullable=False, server_default=sa.false()),
    )
    op.create_index("set_by_search", "recorded_set", ["search"])
