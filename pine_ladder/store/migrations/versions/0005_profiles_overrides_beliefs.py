"""what is known of athletes, coaches' overrides, what the scores say of pace"""

from collections.abc import Sequence
from datetime import datetime

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision: str = "0005"
down_revision: str | None = "0004"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def _moment(name: str) -> sa.Column[datetime]:
    return sa.Column(name, sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False)


def _person() -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint(["person_id"], ["person.id"], ondelete="CASCADE")


def upgrade() -> None:
    op.add_column("gym", sa.Column("settings", JSONB(), server_default="{}", nullable=False))
    op.create_table(
        "profile",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("record", JSONB(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("saved_by_id", sa.Integer(), nullable=True),
        _moment("saved_at"),
        _person(),
        sa.ForeignKeyConstraint(["saved_by_id"], ["person.id"]),
        sa.PrimaryKeyConstraint("person_id"),
    )
    op.create_table(
        "scaling_override",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("movement", sa.String(length=60), nullable=False),
        sa.Column("text", sa.String(length=200), nullable=False),
        sa.Column("saved_by_id", sa.Integer(), nullable=True),
        _moment("saved_at"),
        _person(),
        sa.ForeignKeyConstraint(["saved_by_id"], ["person.id"]),
        sa.PrimaryKeyConstraint("person_id", "movement"),
    )
    op.create_table(
        "belief",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("factors", JSONB(), nullable=False),
        sa.Column("scores", sa.Integer(), nullable=False),
        _moment("learned_at"),
        _person(),
        sa.PrimaryKeyConstraint("person_id"),
    )
    op.create_table(
        "learning",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("medians", JSONB(), nullable=False),
        sa.Column("report", JSONB(), nullable=False),
        _moment("learned_at"),
        sa.PrimaryKeyConstraint("id"),
    )


def downgrade() -> None:
    for table in ("learning", "belief", "scaling_override", "profile"):
        op.drop_table(table)
    op.drop_column("gym", "settings")
