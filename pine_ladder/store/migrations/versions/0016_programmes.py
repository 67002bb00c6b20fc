"""lines of sessions beside each other, each with classes of its own; who follows which"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op

revision: str = "0016"
down_revision: str | None = "0015"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None

FIRST = "(select min(id) from programme)"


def upgrade() -> None:
    op.create_table(
        "follow",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("programme_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["programme_id"], ["programme.id"], ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("person_id", "programme_id"),
    )
    # Whatever there is belongs to the first programme: it was the only one to have classes.
    for table in ("class_time", "sign_up", "class_plan"):
        op.add_column(table, sa.Column("programme_id", sa.Integer(), nullable=True))
        op.execute(f"update {table} set programme_id = {FIRST}")
        op.alter_column(table, "programme_id", nullable=False)
        op.create_foreign_key(
            f"{table}_programme_id_fkey", table, "programme", ["programme_id"], ["id"]
        )
    op.drop_constraint("sign_up_date_start_person_id_key", "sign_up", type_="unique")
    op.create_unique_constraint(
        "sign_up_programme_id_date_start_person_id_key",
        "sign_up",
        ["programme_id", "date", "start", "person_id"],
    )
    op.drop_constraint("class_plan_pkey", "class_plan", type_="primary")
    op.create_primary_key("class_plan_pkey", "class_plan", ["programme_id", "date", "start"])
    op.add_column("wall_link", sa.Column("programme_id", sa.Integer(), nullable=True))
    op.create_foreign_key(
        "wall_link_programme_id_fkey",
        "wall_link",
        "programme",
        ["programme_id"],
        ["id"],
        ondelete="CASCADE",
    )


def downgrade() -> None:
    op.drop_column("wall_link", "programme_id")
    for table in ("class_time", "sign_up", "class_plan"):
        # What is held beside the first programme has no place in the older shape.
        op.execute(f"delete from {table} where programme_id != {FIRST}")
    op.drop_constraint("class_plan_pkey", "class_plan", type_="primary")
    op.create_primary_key("class_plan_pkey", "class_plan", ["date", "start"])
    op.drop_constraint("sign_up_programme_id_date_start_person_id_key", "sign_up", type_="unique")
    op.create_unique_constraint(
        "sign_up_date_start_person_id_key", "sign_up", ["date", "start", "person_id"]
    )
    for table in ("class_time", "sign_up", "class_plan"):
        op.drop_column(table, "programme_id")
    op.drop_table("follow")
