"""letters that wait to go out, what members want none of, and words of a coach to a class"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op

revision: str = "0017"
down_revision: str | None = "0016"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def upgrade() -> None:
    op.create_table(
        "mail",
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=20), nullable=False),
        sa.Column("key", sa.String(length=160), nullable=False),
        sa.Column("address", sa.String(length=200), nullable=False),
        sa.Column("subject", sa.String(length=200), nullable=False),
        sa.Column("body", sa.String(), nullable=False),
        sa.Column("state", sa.String(length=10), server_default="waiting", nullable=False),
        sa.Column("tries", sa.Integer(), server_default="0", nullable=False),
        sa.Column("trouble", sa.String(length=300), server_default="", nullable=False),
        sa.Column(
            "made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.Column(
            "due_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.Column("done_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("key"),
    )
    op.create_index("ix_mail_person_id", "mail", ["person_id"], unique=False)
    op.create_index("mail_waiting", "mail", ["state", "due_at"], unique=False)
    op.create_table(
        "mail_unwanted",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=20), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("person_id", "kind"),
    )
    op.create_table(
        "word",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("day_id", sa.Integer(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=True),
        sa.Column("text", sa.String(length=1000), nullable=False),
        sa.Column("key", sa.String(length=80), nullable=False),
        sa.Column("by_id", sa.Integer(), nullable=True),
        sa.Column(
            "said_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False
        ),
        sa.ForeignKeyConstraint(["day_id"], ["day.id"], ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["class_id"], ["gym_class.id"], ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["by_id"], ["person.id"], ondelete="SET NULL"),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("day_id", "key"),
    )


def downgrade() -> None:
    op.drop_table("word")
    op.drop_table("mail_unwanted")
    op.drop_table("mail")
