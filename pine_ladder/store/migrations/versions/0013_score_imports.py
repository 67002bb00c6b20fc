"""scores brought in from a table, so that they can be taken back"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision: str = "0013"
down_revision: str | None = "0012"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def upgrade() -> None:
    op.create_table(
        "score_import",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("made", postgresql.JSONB(), nullable=False),
        sa.Column("by_id", sa.Integer(), nullable=True),
        sa.Column(
            "made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.ForeignKeyConstraint(["by_id"], ["person.id"], ondelete="SET NULL"),
        sa.PrimaryKeyConstraint("id"),
    )


def downgrade() -> None:
    op.drop_table("score_import")
