"""one-time links: an invitation, or a way back for a forgotten password"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op

revision: str = "0011"
down_revision: str | None = "0010"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def upgrade() -> None:
    op.create_table(
        "one_time_link",
        sa.Column("token_hash", sa.LargeBinary(length=32), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("made_by_id", sa.Integer(), nullable=True),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["made_by_id"], ["person.id"], ondelete="SET NULL"),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("token_hash"),
    )
    op.create_index("ix_one_time_link_person_id", "one_time_link", ["person_id"], unique=False)


def downgrade() -> None:
    op.drop_index("ix_one_time_link_person_id", table_name="one_time_link")
    op.drop_table("one_time_link")
