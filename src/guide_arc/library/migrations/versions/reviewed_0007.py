"""The queries of each start (sets without a review, number of waiting sets) read only indices: the
rows themselves grow with the years."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_index("review_by_set", "review", ["set_id"])
    op.drop_index("set_by_need", "recorded_set")
    need: list[str | sa.TextClause] = [
        *("state", sa.text("pain DESC"), sa.text("urgency DESC"), "recorded", "id"),
        *("clean", "other_view_of"),
    ]
    op.create_index("set_by_need", "recorded_set", need)
