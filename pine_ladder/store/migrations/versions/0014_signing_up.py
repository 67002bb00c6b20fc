"""signing up for classes; a class of a date that is cancelled, sized or held beside the week's"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op

revision: str = "0014"
down_revision: str | None = "0013"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def upgrade() -> None:
    op.create_table(
        "sign_up",
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.Column("date", sa.Date(), nullable=False),
        sa.Column("start", sa.Time(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column(
            "signed_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("date", "start", "person_id"),
    )
    op.create_index("ix_sign_up_person_id", "sign_up", ["person_id"], unique=False)
    op.create_table(
        "class_plan",
        sa.Column("date", sa.Date(), nullable=False),
        sa.Column("start", sa.Time(), nullable=False),
        sa.Column("size", sa.Integer(), nullable=True),
        sa.Column("cancelled", sa.Boolean(), server_default=sa.false(), nullable=False),
        sa.Column("word", sa.String(length=200), server_default="", nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.PrimaryKeyConstraint("date", "start"),
    )


def downgrade() -> None:
    op.drop_table("class_plan")
    op.drop_index("ix_sign_up_person_id", table_name="sign_up")
    op.drop_table("sign_up")
