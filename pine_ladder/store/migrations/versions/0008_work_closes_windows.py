"""`work T` on a heading now ends the work of each window; what it used to say is `aim T`.

Every stored board says it the new way, so that no day of the past changes its clock; and scores
that were told as bare numbers say that they are reps, so that no later edit reads them as rounds.
Going back
takes the word back; a `work` written since then is left as it stands.
"""

import re

import sqlalchemy as sa
from alembic import op

revision: str = "0008"
down_revision: str | None = "0007"
branch_labels: str | None = None
depends_on: str | None = None

HOLDING = ("day", "piece", "banked_board")
TIME = r"\d+(?::\d+|(?:\.\d+)?\s*(?:minutes?|mins?|seconds?|secs?|s)\b)"
HEADING = re.compile(
    rf"^(?P<before>[ \t]*##[^\n]*?,[ \t]*)(?P<word>work|aim)(?=[ \t]+{TIME})", re.I | re.M
)


def _rewrite(before: str, after: str) -> None:
    """Put one word for another in the headings of every stored board."""
    connection = op.get_bind()
    for table in HOLDING:
        rows = connection.execute(sa.text(f"select id, text from {table}"))
        for row_id, text in rows.all():
            changed = HEADING.sub(
                lambda found: (
                    found["before"] + (after if found["word"].lower() == before else found["word"])
                ),
                text,
            )
            if changed != text:
                connection.execute(
                    sa.text(f"update {table} set text = :text where id = :id"),
                    {"text": changed, "id": row_id},
                )


SEVERAL = r"^\d+([ ,;/]+\d+)+"
"""Several bare numbers: reps when they were kept, which may now be read as rounds of each block."""


def upgrade() -> None:
    _rewrite("work", "aim")
    op.execute(
        sa.text(
            "update score set entered = entered || ' reps' "
            "where kind in ('total reps', 'lowest interval') and entered ~ :several"
        ).bindparams(several=f"{SEVERAL}$")
    )


def downgrade() -> None:
    _rewrite("aim", "work")
    op.execute(
        sa.text(
            "update score set entered = regexp_replace(entered, ' reps$', '') "
            "where kind in ('total reps', 'lowest interval') and entered ~ :several"
        ).bindparams(several=f"{SEVERAL} reps$")
    )
