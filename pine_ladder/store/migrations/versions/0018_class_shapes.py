"""classes of their own length, size and place"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op

revision: str = "0018"
down_revision: str | None = "0017"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def upgrade() -> None:
    op.add_column("class_time", sa.Column("minutes", sa.Integer(), nullable=True))
    op.add_column("class_time", sa.Column("size", sa.Integer(), nullable=True))
    op.add_column(
        "class_time",
        sa.Column("place", sa.String(length=40), server_default="", nullable=False),
    )
    op.add_column("class_plan", sa.Column("minutes", sa.Integer(), nullable=True))


def downgrade() -> None:
    op.drop_column("class_plan", "minutes")
    for column in ("place", "size", "minutes"):
        op.drop_column("class_time", column)
