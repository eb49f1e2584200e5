"""Profiles, the yearly part of reviews, the plan, saved things, second views."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("client", recreate="always") as table:
        table.add_column(sa.Column("profile", sa.Text, nullable=False, server_default="{}"))
    with op.batch_alter_table("review", recreate="always") as table:
        table.add_column(sa.Column("trace", sa.Text, nullable=False, server_default=""))
    with op.batch_alter_table("recorded_set", recreate="always") as table:
        table.add_column(
            sa.Column(
                "other_view_of",
                sa.Integer,
                sa.ForeignKey("recorded_set.id", name="other_view_of_set", ondelete="SET NULL"),
            )
        )
    op.create_table(
        "kept",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("client_id", sa.Integer, sa.ForeignKey("client.id", ondelete="CASCADE")),
        sa.Column("about", sa.String(80), nullable=False, server_default=""),
        sa.Column("name", sa.String(120), nullable=False, server_default=""),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_index("kept_by_kind", "kept", ["kind", "client_id", "about"])
