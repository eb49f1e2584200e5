"""Sets that come as a clip: the clip's own table, what was marked on it, and no track until one is
found."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "clip",
        sa.Column("hash", sa.String(64), primary_key=True),
        sa.Column("file", sa.String(200), nullable=False),
        sa.Column("frames", sa.Integer, nullable=False),
        sa.Column("shown_hz", sa.Float, nullable=False),
        sa.Column("duration_s", sa.Float, nullable=False),
        sa.Column("width", sa.Integer, nullable=False),
        sa.Column("height", sa.Integer, nullable=False),
    )
    with op.batch_alter_table("recorded_set", recreate="always") as table:
        table.alter_column("track_hash", existing_type=sa.String(64), nullable=True)
        table.add_column(
            sa.Column("clip_hash", sa.String(64), sa.ForeignKey("clip.hash", name="clip_of_set"))
        )
        table.add_column(sa.Column("capture_hz", sa.Float))
        table.add_column(sa.Column("view", sa.String(8)))
        table.add_column(sa.Column("marks", sa.Text, nullable=False, server_default=""))
        table.add_column(sa.Column("tracked_by", sa.String(40), nullable=False, server_default=""))
    op.create_index("set_by_clip", "recorded_set", ["clip_hash"])
