"""days are published, classes have a size

Days written before this were visible to everybody, and stay so.
"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op

revision: str = "0002"
down_revision: str | None = "0001"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def upgrade() -> None:
    op.add_column(
        "day", sa.Column("published", sa.Boolean(), server_default=sa.true(), nullable=False)
    )
    op.add_column("gym", sa.Column("class_size", sa.Integer(), server_default="12", nullable=False))
    op.alter_column("day", "published", server_default=sa.false())


def downgrade() -> None:
    op.drop_column("gym", "class_size")
    op.drop_column("day", "published")
