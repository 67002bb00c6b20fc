"""The floor: clock, displays, jots, effort; scores round by round, doubted and verified."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision: str = "0006"
down_revision: str | None = "0005"
branch_labels: str | None = None
depends_on: str | None = None


def _moment(name: str) -> sa.Column[object]:
    return sa.Column(
        name, sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False
    )


def _to(table: str, column: str, ondelete: str | None = None) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{table}.id"], ondelete=ondelete)


def upgrade() -> None:
    op.add_column(
        "gym_class", sa.Column("lanes", JSONB(), server_default=sa.text("'{}'"), nullable=False)
    )
    op.add_column("score", sa.Column("reps", sa.Integer(), nullable=True))
    op.add_column("score", sa.Column("rounds", JSONB(), nullable=True))
    op.add_column("score", sa.Column("doubt", sa.String(300), nullable=True))
    op.add_column(
        "score",
        sa.Column("standing", sa.String(10), server_default=sa.text("'fine'"), nullable=False),
    )
    op.add_column("score", sa.Column("team", JSONB(), nullable=True))
    op.create_table(
        "clock_step",
        sa.Column("id", sa.BigInteger(), nullable=False),
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("press", sa.String(20), nullable=False),
        sa.Column("state", JSONB(), nullable=False),
        sa.Column("by_id", sa.Integer(), nullable=True),
        _moment("made_at"),
        _to("gym_class", "class_id", ondelete="CASCADE"),
        _to("person", "by_id"),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("clock_step_newest", "clock_step", ["class_id", "id"])
    op.create_table(
        "wall_link",
        sa.Column("token", sa.String(60), nullable=False),
        sa.Column("name", sa.String(60), nullable=False),
        _moment("made_at"),
        sa.PrimaryKeyConstraint("token"),
    )
    op.create_table(
        "jot",
        sa.Column("key", sa.String(80), nullable=False),
        sa.Column("day_id", sa.Integer(), nullable=False),
        sa.Column("piece_key", sa.String(120), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("round", sa.Integer(), nullable=False),
        sa.Column("number", sa.Float(), nullable=True),
        sa.Column("by_id", sa.Integer(), nullable=True),
        sa.Column("noted_at", sa.DateTime(timezone=True), nullable=False),
        _moment("landed_at"),
        _to("day", "day_id", ondelete="CASCADE"),
        _to("person", "person_id", ondelete="CASCADE"),
        _to("person", "by_id"),
        sa.PrimaryKeyConstraint("key"),
    )
    op.create_index("jot_of_piece", "jot", ["day_id", "piece_key", "person_id"])
    op.create_table(
        "effort",
        sa.Column("day_id", sa.Integer(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("effort", sa.Float(), nullable=False),
        sa.Column("minutes", sa.Integer(), nullable=False),
        sa.Column("note", sa.String(1000), server_default="", nullable=False),
        _moment("saved_at"),
        _to("day", "day_id", ondelete="CASCADE"),
        _to("person", "person_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("day_id", "person_id"),
    )
    op.create_index("ix_effort_person_id", "effort", ["person_id"])


def downgrade() -> None:
    for table in ("effort", "jot", "wall_link", "clock_step"):
        op.drop_table(table)
    for column in ("team", "standing", "doubt", "rounds", "reps"):
        op.drop_column("score", column)
    op.drop_column("gym_class", "lanes")
