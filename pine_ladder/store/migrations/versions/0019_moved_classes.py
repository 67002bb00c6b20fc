"""classes that are moved keep their hall"""

from collections.abc import Sequence

import sqlalchemy as sa
from alembic import op

revision: str = "0019"
down_revision: str | None = "0018"
branch_labels: str | Sequence[str] | None = None
depends_on: str | Sequence[str] | None = None


def upgrade() -> None:
    op.add_column(
        "class_plan",
        sa.Column("place", sa.String(length=40), server_default="", nullable=False),
    )


def downgrade() -> None:
    op.drop_column("class_plan", "place")
