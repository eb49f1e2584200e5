"""The first form of the library: clients, tracks, sets, reviews, decisions, settings."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "client",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String(120), nullable=False, unique=True),
        sa.Column("stature_m", sa.Float),
    )
    op.create_table(
        "track",
        sa.Column("hash", sa.String(64), primary_key=True),
        sa.Column("file", sa.String(200), nullable=False),
        sa.Column("frames", sa.Integer, nullable=False),
        sa.Column("duration_s", sa.Float, nullable=False),
        sa.Column("view", sa.String(8), nullable=False),
    )
    op.create_table(
        "recorded_set",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("client_id", sa.Integer, sa.ForeignKey("client.id"), nullable=False),
        sa.Column(
            "track_hash", sa.String(64), sa.ForeignKey("track.hash"), nullable=False, unique=True
        ),
        sa.Column("source_name", sa.String(255), nullable=False),
        sa.Column("standard", sa.String(80), nullable=False),
        sa.Column("school", sa.String(80), nullable=False),
        sa.Column("tempo", sa.String(40)),
        sa.Column("load_kg", sa.Float),
        sa.Column("recorded", sa.String(40), nullable=False),
        sa.Column("pain", sa.Boolean, nullable=False, server_default=sa.false()),
        sa.Column("state", sa.String(10), nullable=False, server_default="waiting"),
        sa.Column("note", sa.Text, nullable=False, server_default=""),
    )
    op.create_index("set_by_state", "recorded_set", ["state", "recorded"])
    op.create_index("set_by_client", "recorded_set", ["client_id"])
    op.create_table(
        "review",
        sa.Column("set_id", sa.Integer, sa.ForeignKey("recorded_set.id"), primary_key=True),
        sa.Column("program", sa.String(20), nullable=False),
        sa.Column("document", sa.Text, nullable=False),
        sa.Column("glance", sa.Text, nullable=False),
    )
    op.create_table(
        "decision",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("set_id", sa.Integer, sa.ForeignKey("recorded_set.id"), nullable=False),
        sa.Column("finding", sa.String(80), nullable=False),
        sa.Column("choice", sa.String(10), nullable=False),
        sa.Column("words", sa.Text),
        sa.Column("decided_by", sa.String(120), nullable=False),
        sa.Column("decided_at", sa.String(40), nullable=False),
        sa.UniqueConstraint("set_id", "finding"),
    )
    op.create_table(
        "setting",
        sa.Column("key", sa.String(80), primary_key=True),
        sa.Column("value", sa.Text, nullable=False),
    )
