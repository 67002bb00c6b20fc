"""bookings: when somebody moved up from the waiting list, and places given up late"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op

revision: str = "0023"
down_revision: str | None = "0022"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def upgrade() -> None:
    op.add_column("sign_up", sa.Column("moved_up_at", sa.DateTime(timezone=True), nullable=True))
    op.create_table(
        "late_cancel",
        sa.Column(
            "programme_id", sa.Integer(), sa.ForeignKey("programme.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column("date", sa.Date(), primary_key=True),
        sa.Column("start", sa.Time(), primary_key=True),
        sa.Column(
            "person_id", sa.Integer(), sa.ForeignKey("person.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column(
            "cancelled_at", sa.DateTime(timezone=True), server_default=sa.func.now(),
            nullable=False,
        ),
    )  # fmt: skip
    op.create_index("ix_late_cancel_person_id", "late_cancel", ["person_id"])


def downgrade() -> None:
    op.drop_table("late_cancel")
    op.drop_column("sign_up", "moved_up_at")
