"""what a week is about"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op

revision: str = "0020"
down_revision: str | None = "0019"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def upgrade() -> None:
    op.create_table(
        "week_theme",
        sa.Column("programme_id", sa.Integer(), nullable=False),
        sa.Column("monday", sa.Date(), nullable=False),
        sa.Column("text", sa.String(length=300), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["programme_id"], ["programme.id"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("programme_id", "monday"),
    )


def downgrade() -> None:
    op.drop_table("week_theme")
