"""A full-text index of sets, and an index in the order of the queue."""

import sqlalchemy as sa
from alembic import op

from guide_arc.library.full_text import make_index

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

KEPT = "from review r where r.set_id = recorded_set.id and json_valid(r.glance)"


def upgrade() -> None:
    op.add_column("review", sa.Column("said", sa.Text, nullable=False, server_default=""))
    op.execute(
        "update review set said = coalesce(json_extract(glance, '$.line'), '') || ' ' || "
        "coalesce(json_extract(glance, '$.name'), '') where json_valid(glance)"
    )
    for column in (
        sa.Column("urgency", sa.Float, nullable=False, server_default="0"),
        sa.Column("clean", sa.Boolean, nullable=False, server_default=sa.false()),
    ):
        op.add_column("recorded_set", column)
    op.execute(
        "update recorded_set set urgency = coalesce((select json_extract(r.glance, '$.urgency')"
        f" {KEPT}), 0), clean = coalesce((select json_extract(r.glance, '$.off') = 0 {KEPT}), 0)"
    )
    op.create_index("set_by_exercise", "recorded_set", ["client_id", "standard", "recorded"])
    op.create_index("set_by_main", "recorded_set", ["other_view_of"])
    need: list[str | sa.TextClause] = [
        sa.text("pain DESC"),
        sa.text("urgency DESC"),
        "recorded",
        "id",
    ]
    op.create_index("set_by_need", "recorded_set", ["state", *need])
    op.create_index("set_by_all_need", "recorded_set", need)
    make_index(op.get_bind())
