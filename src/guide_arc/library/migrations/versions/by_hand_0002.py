"""What the coach adds to a set: felt places, loose last reps, corrections by hand. One track
may now hold several sets (a superset)."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None

NAMES = {"uq": "uq_%(table_name)s_%(column_0_name)s"}


def upgrade() -> None:
    with op.batch_alter_table("recorded_set", recreate="always", naming_convention=NAMES) as table:
        table.drop_constraint("uq_recorded_set_track_hash", type_="unique")
        table.add_column(sa.Column("felt", sa.Text, nullable=False, server_default="[]"))
        table.add_column(sa.Column("loose_last", sa.Integer, nullable=False, server_default="0"))
        table.add_column(sa.Column("corrections", sa.Text, nullable=False, server_default="[]"))
    op.create_index("set_by_track", "recorded_set", ["track_hash"])
