"""straps, and seconds by heart rate"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision: str = "0021"
down_revision: str | None = "0020"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def upgrade() -> None:
    op.create_table(
        "strap",
        sa.Column("number", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("number"),
        sa.UniqueConstraint("person_id"),
    )
    op.create_table(
        "heart_rate",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("piece_id", sa.Integer(), nullable=False),
        sa.Column("seconds", postgresql.JSONB(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["piece_id"], ["piece.id"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("person_id", "piece_id"),
    )
    op.create_index("ix_heart_rate_piece_id", "heart_rate", ["piece_id"])


def downgrade() -> None:
    op.drop_table("heart_rate")
    op.drop_table("strap")
