"""setting up in the browser, coaches who train, wishes to be erased, where people are signed in"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op

revision: str = "0012"
down_revision: str | None = "0011"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def upgrade() -> None:
    op.create_table(
        "setup_code",
        sa.Column("code_hash", sa.LargeBinary(length=32), nullable=False),
        sa.Column(
            "made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.PrimaryKeyConstraint("code_hash"),
    )
    op.add_column(
        "person", sa.Column("trains", sa.Boolean(), server_default=sa.false(), nullable=False)
    )
    op.execute("update person set trains = true where role = 'athlete'")
    op.add_column("person", sa.Column("erase_asked_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column(
        "sign_in", sa.Column("device", sa.String(length=80), server_default="", nullable=False)
    )
    op.add_column(
        "sign_in",
        sa.Column(
            "used_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
    )


def downgrade() -> None:
    op.drop_column("sign_in", "used_at")
    op.drop_column("sign_in", "device")
    op.drop_column("person", "erase_asked_at")
    op.drop_column("person", "trains")
    op.drop_table("setup_code")
