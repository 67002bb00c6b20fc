"""The gym's tiers and tracks changed: renamed, added, merged into another. Nothing is lost."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any, NamedTuple

from sqlalchemy import delete, func, select, text, update
from sqlalchemy.orm import Session

from pine_ladder.core.movements import Library
from pine_ladder.core.notation.columns import without_tier
from pine_ladder.core.tiers import read_names
from pine_ladder.store.floor.clock import tell
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    BankedBoard,
    Day,
    KeptPiece,
    Person,
    PieceRow,
    ScoreRow,
    Tier,
    Track,
)
from pine_ladder.usecases.piece_matching import settle

Column = type[Tier] | type[Track]


class Named(NamedTuple):
    """A tier or track as it is to be: where it stands today (None for a new one), and its name."""

    was: int | None
    name: str


class Wanted(NamedTuple):
    """The tiers or tracks of a gym as they are to be, and what those that go are merged into, by
    today's positions.
    """

    names: Sequence[Named]
    into: Mapping[int, int]


class Effect(NamedTuple):
    """What merging one does: who and which scores move, how many boards lose a column."""

    gone: str
    into: str
    people: int
    scores: int
    boards: int


def rows_of(db: Session, column: Column) -> list[Any]:
    """The gym's tiers or tracks in order."""
    return list(db.scalars(select(column).order_by(column.position)))


def check(db: Session, column: Column, wanted: Wanted) -> tuple[str, ...]:
    """The names as they will be kept; ValueError, in a sentence, for what cannot be."""
    what = "tier" if column is Tier else "track"
    names = read_names([one.name for one in wanted.names], what)
    there = [row.name for row in rows_of(db, column)]
    kept = [name.was for name in wanted.names if name.was is not None]
    if any(not 0 <= was < len(there) for was in kept) or len(set(kept)) < len(kept):
        raise ValueError(f"the gym's {what}s have changed in the meantime: look at them again")
    if kept != sorted(kept) or [name.was for name in wanted.names[: len(kept)]] != kept:
        raise ValueError(f"{what}s keep their order, new ones come last: boards count on it")
    for gone in set(range(len(there))) - set(kept):
        if gone == 0:
            raise ValueError(f"{there[0]} is the board's first column: rename it instead")
        if column is Track and gone < len(there) - 1:
            raise ValueError(f"{there[gone]} is not the last number of a load: rename it instead")
        if wanted.into.get(gone) not in kept:
            raise ValueError(f"{there[gone]} is in use: say which {what} it is merged into")
    return names


def effects(db: Session, column: Column, wanted: Wanted) -> list[Effect]:
    """What a change would do to people, scores and boards; ValueError as `check`."""
    check(db, column, wanted)
    there = rows_of(db, column)
    out = []
    for gone in _gone(there, wanted):
        row = there[gone]
        boards = sum(1 for _ in _columns(db, gone, len(there))) if column is Tier else 0
        mine = Person.tier_id if column is Tier else Person.track_id
        theirs = ScoreRow.tier_id if column is Tier else ScoreRow.track_id
        out.append(
            Effect(
                gone=row.name,
                into=there[wanted.into[gone]].name,
                people=db.scalar(select(func.count(Person.id)).where(mine == row.id)) or 0,
                scores=db.scalar(select(func.count(ScoreRow.id)).where(theirs == row.id)) or 0,
                boards=boards,
            )
        )
    return out


def change(db: Session, column: Column, wanted: Wanted) -> None:
    """Have the gym's tiers or tracks be these; ValueError as `check`, and nothing changes then.

    People and scores of one that goes move to the one it is merged into, scores are read anew, and
    its column leaves every board, days at a new version.
    """
    names = check(db, column, wanted)
    there = rows_of(db, column)
    for of, gone in _going(there, wanted):
        _merge(db, column, there[gone], there[wanted.into[gone]])
        if column is Tier:
            _drop_column(db, gone, of)
        db.execute(delete(column).where(column.id == there[gone].id))
    kept = [there[name.was] if name.was is not None else None for name in wanted.names]
    # Names and places are unique: out of the way first, then where they belong.
    for at, row in enumerate(kept):
        if row is not None:
            row.position, row.name = 1000 + at, f"\t{at}"
    db.flush()
    for at, (row, name) in enumerate(zip(kept, names, strict=True)):
        if row is None:
            db.add(column(position=at, name=name))
        else:
            row.position, row.name = at, name
    db.flush()
    db.expire_all()
    tell(db, what="gym")


def _gone(there: Sequence[Any], wanted: Wanted) -> list[int]:
    kept = {name.was for name in wanted.names}
    return [at for at in range(len(there)) if at not in kept]


def _going(there: Sequence[Any], wanted: Wanted) -> Iterator[tuple[int, int]]:
    """Those that go, the last first, each with how many there are by then."""
    for fewer, gone in enumerate(reversed(_gone(there, wanted))):
        yield len(there) - fewer, gone


def _merge(db: Session, column: Column, gone: Any, into: Any) -> None:
    key = "tier_id" if column is Tier else "track_id"
    days = set(db.scalars(select(ScoreRow.day_id).where(getattr(ScoreRow, key) == gone.id)))
    for table in (Person, ScoreRow):
        db.execute(update(table).where(getattr(table, key) == gone.id).values({key: into.id}))
    for side in ("before", "after"):
        db.execute(
            text(
                f"update score_trail set {side} = jsonb_set({side}, '{{{key}}}', "
                f"to_jsonb(cast(:into as integer))) where {side}->>'{key}' = cast(:gone as text)"
            ),
            {"into": into.id, "gone": gone.id},
        )
    db.expire_all()
    for day in db.scalars(select(Day).where(Day.id.in_(days))).unique():
        settle(db, day, {})


def _columns(db: Session, tier: int, of: int, what: Any = None) -> Iterator[tuple[Any, str]]:
    """Days and kept boards and pieces (or rows of one kind) with a version of a tier, and their
    text without it.
    """
    shelf: Library = gym_of(db).movements_as_written
    for kind in (Day, BankedBoard, KeptPiece) if what is None else (what,):
        for row in db.scalars(select(kind).order_by(kind.id)).unique():
            told = without_tier(row.text, tier, of, shelf)
            if told != row.text:
                yield row, told


def _drop_column(db: Session, tier: int, of: int) -> None:
    # Pieces first: a day that is settled after finds them as they stand on it.
    for row, column in list(_columns(db, tier, of, PieceRow)):
        row.text = column
    days = []
    for row, told in list(_columns(db, tier, of)):
        row.text = told
        if isinstance(row, Day):
            row.version += 1
            days.append(row)
    db.flush()
    for day in days:
        settle(db, day, {})
        tell(db, what="day", date=day.date.isoformat())
