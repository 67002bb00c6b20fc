"""Pieces have an identity of their own; keys of writes belong to a person; the gym has a zone.

Scores, jots, heats, teams and clocks pointed at a key made of a piece's role and name. Each day is
read once more here, each of its pieces gets a row, and what pointed at a key points at the row.
What pointed at a key no board has is kept on a piece that is set aside.
"""

import re

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision: str = "0007"
down_revision: str | None = "0006"
branch_labels: str | None = None
depends_on: str | None = None

HEADING = re.compile(r"""##\s*([^":#]*?)\s*(?:["“”]([^"“”]*)["“”]\s*)?(?::.*)?$""")
ROLES = {
    "warmup": "warm-up",
    "mobility": "mobility",
    "skill": "skill",
    "power": "power",
    "strength": "strength",
    "conditioning": "conditioning",
    "core": "core",
    "cooldown": "cool-down",
    "rest": "rest",
}
"""How a board's headings were read when this migration was written: a role, then a name."""
POINTING = ("score", "score_trail", "jot")


def _moment(name: str) -> sa.Column[object]:
    return sa.Column(
        name, sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False
    )


def _to(table: str, column: str, ondelete: str | None = None) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint([column], [f"{table}.id"], ondelete=ondelete)


def _keys(board: str) -> list[tuple[str, str, str]]:
    """Each piece of a board with the key it had, its title, and its text."""
    lines = board.splitlines()
    starts = [at for at, line in enumerate(lines) if line.strip().startswith("##")]
    seen: dict[str, int] = {}
    out = []
    for start, end in zip(starts, [*starts[1:], len(lines)], strict=True):
        role, name = _role_and_name(lines[start].strip())
        slug = re.sub(r"[^a-z0-9]+", "-", f"{role} {name}".lower())
        slug = slug.strip("-")
        seen[slug] = seen.get(slug, 0) + 1
        key = slug if seen[slug] == 1 else f"{slug}-{seen[slug]}"
        title = name or role.capitalize()
        out.append((key, title, "\n".join(lines[start:end]).strip()))
    return out


def _role_and_name(heading: str) -> tuple[str, str]:
    """A heading's role, conditioning where it names none, and its name or nothing."""
    read = HEADING.match(heading)
    role = "".join((read[1] if read else heading[2:]).lower().replace("-", " ").split())
    name = " ".join(read[2].split()) if read and read[2] else ""
    return ROLES.get(role, "conditioning"), name


def _one_address_each() -> None:
    """Addresses differ beyond capitals; RuntimeError names who shares one, for a coach to part."""
    shared = op.get_bind().execute(
        sa.text(
            "select lower(email), string_agg(name, ' and ' order by name) from person "
            "where email is not null group by lower(email) having count(*) > 1"
        )
    )
    for address, names in shared:
        raise RuntimeError(f"{names} share the address {address}: change one, then migrate")


def upgrade() -> None:
    _one_address_each()
    op.create_table(
        "piece",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("day_id", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=True),
        sa.Column("title", sa.String(200), nullable=False),
        sa.Column("text", sa.String(), nullable=False),
        sa.Column("old_key", sa.String(120), nullable=True),
        _to("day", "day_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_piece_day_id", "piece", ["day_id"])
    _read_days()
    for table in POINTING:
        op.add_column(table, sa.Column("piece_id", sa.Integer(), nullable=True))
        op.execute(
            f"update {table} set piece_id = piece.id from piece "
            f"where piece.day_id = {table}.day_id and piece.old_key = {table}.piece_key"
        )
        op.alter_column(table, "piece_id", nullable=False)
        op.create_foreign_key(None, table, "piece", ["piece_id"], ["id"])
    op.execute(
        "update clock_step set state = jsonb_set(state, '{key}', to_jsonb(piece.id::text)) "
        "from gym_class, piece where gym_class.id = clock_step.class_id "
        "and piece.day_id = gym_class.day_id and piece.old_key = clock_step.state->>'key'"
    )
    op.create_table(
        "groups",
        sa.Column("class_id", sa.Integer(), nullable=False),
        sa.Column("piece_id", sa.Integer(), nullable=False),
        sa.Column("what", sa.String(10), nullable=False),
        sa.Column("groups", JSONB(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        _to("gym_class", "class_id", ondelete="CASCADE"),
        _to("piece", "piece_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("class_id", "piece_id", "what"),
    )
    for what in ("heats", "teams"):
        op.execute(
            "insert into groups (class_id, piece_id, what, groups, version) "
            f"select gym_class.id, piece.id, '{what}', kept.value, 1 from gym_class "
            f"cross join lateral jsonb_each(coalesce(lanes->'{what}', '{{}}')) as kept "
            "join piece on piece.day_id = gym_class.day_id and piece.old_key = kept.key"
        )
    op.drop_column("gym_class", "lanes")
    _scores_and_jots()
    op.drop_column("piece", "old_key")
    _door()


def _read_days() -> None:
    db = op.get_bind()
    place = sa.text(
        "insert into piece (day_id, position, title, text, old_key) "
        "values (:day, :position, :title, :text, :key)"
    )
    for day, board in db.execute(sa.text("select id, text from day")).all():
        for position, (key, title, text) in enumerate(_keys(board)):
            values = {"day": day, "position": position, "title": title[:200], "text": text}
            db.execute(place, {**values, "key": key})
    for table in POINTING:
        db.execute(
            sa.text(
                "insert into piece (day_id, position, title, text, old_key) "
                f"select distinct day_id, null::int, piece_key, '', piece_key from {table} "
                "where not exists (select 1 from piece where piece.day_id = "
                f"{table}.day_id and piece.old_key = {table}.piece_key)"
            )
        )


def _scores_and_jots() -> None:
    op.add_column("score", sa.Column("origin_id", sa.Integer(), nullable=True))
    op.create_foreign_key(None, "score", "piece", ["origin_id"], ["id"])
    op.add_column("score", sa.Column("source", sa.String(10), server_default="", nullable=False))
    op.execute(
        "update score set source = split_part(request_key, '/', 1) "
        "where request_key like 'jots/%' or request_key like 'finish/%'"
    )
    op.drop_index("score_ranking", "score")
    for column in ("piece_key", "request_key"):
        op.drop_column("score", column)
    op.create_unique_constraint("score_piece_id_person_id_key", "score", ["piece_id", "person_id"])
    op.create_index("score_ranking", "score", ["piece_id", "tier_id", "order_key"])
    op.create_index("ix_score_day_id", "score", ["day_id"])
    op.drop_column("score_trail", "piece_key")
    op.create_index("score_trail_of_cell", "score_trail", ["piece_id", "person_id"])
    op.drop_index("jot_of_piece", "jot")
    for column in ("piece_key", "day_id"):
        op.drop_column("jot", column)
    op.create_index("jot_of_piece", "jot", ["piece_id", "person_id"])
    op.execute("update jot set by_id = person_id where by_id is null")
    op.alter_column("jot", "by_id", nullable=False)
    op.drop_constraint("jot_pkey", "jot", type_="primary")
    op.create_primary_key("jot_pkey", "jot", ["by_id", "key"])
    op.create_table(
        "request",
        sa.Column("by_id", sa.Integer(), nullable=False),
        sa.Column("key", sa.String(80), nullable=False),
        sa.Column("piece_id", sa.Integer(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("digest", sa.String(64), nullable=False),
        _moment("landed_at"),
        _to("person", "by_id", ondelete="CASCADE"),
        _to("piece", "piece_id", ondelete="CASCADE"),
        _to("person", "person_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("by_id", "key"),
    )


def _door() -> None:
    op.add_column(
        "gym", sa.Column("settings_version", sa.Integer(), server_default="1", nullable=False)
    )
    op.add_column("gym", sa.Column("zone", sa.String(60), server_default="UTC", nullable=False))
    op.create_table(
        "known_device",
        sa.Column("token_hash", sa.LargeBinary(32), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        _moment("seen_at"),
        _to("person", "person_id", ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("token_hash", "person_id"),
    )
    op.add_column(
        "failed_sign_in",
        sa.Column("device", sa.Boolean(), server_default=sa.text("false"), nullable=False),
    )
    op.drop_constraint("person_email_key", "person", type_="unique")
    op.create_index("person_address", "person", [sa.text("lower(email)")], unique=True)


def downgrade() -> None:
    op.drop_index("person_address", "person")
    op.create_unique_constraint("person_email_key", "person", ["email"])
    op.drop_column("failed_sign_in", "device")
    for table in ("known_device", "request", "groups"):
        op.drop_table(table)
    op.drop_column("gym", "zone")
    op.drop_column("gym", "settings_version")
    op.add_column(
        "gym_class", sa.Column("lanes", JSONB(), server_default=sa.text("'{}'"), nullable=False)
    )
    op.execute("alter table jot drop constraint jot_pkey, add primary key (key)")
    op.alter_column("jot", "by_id", nullable=True)
    op.add_column("jot", sa.Column("day_id", sa.Integer(), nullable=True))
    op.execute("update jot set day_id = piece.day_id from piece where piece.id = jot.piece_id")
    op.alter_column("jot", "day_id", nullable=False)
    op.create_foreign_key(None, "jot", "day", ["day_id"], ["id"], ondelete="CASCADE")
    op.drop_index("jot_of_piece", "jot")
    op.drop_index("score_trail_of_cell", "score_trail")
    op.drop_index("score_ranking", "score")
    op.drop_index("ix_score_day_id", "score")
    op.drop_constraint("score_piece_id_person_id_key", "score", type_="unique")
    for table in POINTING:
        op.add_column(table, sa.Column("piece_key", sa.String(120), nullable=True))
        # The names are gone by now; a key of its own for each piece keeps them apart.
        op.execute(f"update {table} set piece_key = 'piece-' || piece_id")
        op.alter_column(table, "piece_key", nullable=False)
        op.drop_column(table, "piece_id")
    for column in ("source", "origin_id"):
        op.drop_column("score", column)
    op.add_column("score", sa.Column("request_key", sa.String(80), nullable=True))
    op.create_unique_constraint("score_request_key_key", "score", ["request_key"])
    op.create_unique_constraint(
        "score_day_id_piece_key_person_id_key", "score", ["day_id", "piece_key", "person_id"]
    )
    op.create_index("score_ranking", "score", ["day_id", "piece_key", "tier_id", "order_key"])
    op.create_index("jot_of_piece", "jot", ["day_id", "piece_key", "person_id"])
    op.drop_table("piece")
