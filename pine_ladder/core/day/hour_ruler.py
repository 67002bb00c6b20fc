"""The session laid on the class hour: where each piece stands, how long, and in words."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence

from pine_ladder.core import plan
from pine_ladder.core.clock import Clock, arithmetic, at_most, clock
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.printer import format_text, modifier_texts
from pine_ladder.core.pace.testrun import test_run
from pine_ladder.core.plan import Frozen, Seconds
from pine_ladder.core.scores.kinds import score_kind
from pine_ladder.core.units import clock_text

DEFAULT_CLASS_S = 3600
DEFAULT_CHANGE_S = 60
BRIEF_S, MOST_BRIEF_S = 30, 180
"""To show and say how one movement goes that is new here, and the most before one piece (common
practice, no source)."""


class Length(Frozen):
    """A planned length in seconds between two bounds.

    `rough` when it is predicted: from the quickest tenth of the quickest tier to the slowest tenth
    of the slowest.
    """

    low_s: Seconds
    high_s: Seconds
    rough: bool


def planned_length(piece: plan.Piece, library: Library) -> Length:
    """How long a piece takes on the class clock: exact where it has one, predicted where not."""
    timed = clock(piece)
    if timed.total_s is not None:
        return Length(low_s=timed.total_s, high_s=timed.total_s, rough=False)
    if not piece.lines:
        return Length(low_s=0, high_s=0, rough=True)
    times = [tier.time_s for tier in test_run(piece, library).tiers]
    low, high = min(time.p10 for time in times), max(time.p90 for time in times)
    return Length(low_s=round(low), high_s=round(high), rough=True)


def in_heats(seconds: Seconds, heats: int, change_s: Seconds) -> Seconds:
    """How long something takes that is done in heats: one after the other, `change_s` between."""
    return seconds * heats + change_s * (heats - 1)


def longest_s(piece: plan.Piece) -> Seconds | None:
    """How long a piece on the clock may be at the coach's choice; None where it has one length."""
    longest, planned = clock(at_most(piece)).total_s, clock(piece).total_s
    return longest if longest is not None and longest != planned else None


class PieceOutline(Frozen):
    """One piece on the hour; `start_s` is its planned middle start, after `brief_s` in which the
    movements it `explains` are shown.

    `possible_s` is how long it may be where its heading leaves that to the day, else None. In
    `heats` it is done so many times over; `length` is that of all of them.
    """

    key: str
    index: int
    line: int
    role: plan.Role
    name: str | None
    title: str
    format: str
    modifiers: tuple[str, ...]
    start_s: Seconds
    brief_s: Seconds
    explains: tuple[str, ...]
    length: Length
    heats: int
    possible_s: Seconds | None
    clock: Clock
    arithmetic: str
    score: plan.ScoreKind | None


class Outline(Frozen):
    """The whole hour: pieces in order, planned bounds, the class length and what is spare."""

    pieces: tuple[PieceOutline, ...]
    planned_low_s: Seconds
    planned_high_s: Seconds
    class_s: Seconds
    change_s: Seconds
    sentence: str


def piece_keys(session: plan.Session) -> tuple[str, ...]:
    """A key for each piece of a board that is not saved, from its role and name.

    It tells the pieces of one text apart; what outlives an edit is the identity the store gives.
    """
    seen: dict[str, int] = {}
    keys = []
    for piece in session.pieces:
        words = f"{piece.role.value} {piece.name or ''}"
        slug = "new-" + re.sub(r"[^a-z0-9]+", "-", words.lower()).strip("-")
        seen[slug] = seen.get(slug, 0) + 1
        keys.append(slug if seen[slug] == 1 else f"{slug}-{seen[slug]}")
    return tuple(keys)


def outline(
    session: plan.Session,
    library: Library,
    class_s: Seconds = DEFAULT_CLASS_S,
    change_s: Seconds = DEFAULT_CHANGE_S,
    keys: Sequence[str] | None = None,
    known: Collection[str] = (),
) -> Outline:
    """Lay a session on its hour; `change_s` of set-up stands between pieces that both work.

    Movements that are not among the `known` are explained before the first piece they are in; a
    gym of which nothing is known has none.
    `keys` are the pieces' identities where the board is saved.
    """
    start, low, high = 0, 0, 0
    pieces = []
    before: plan.Piece | None = None
    told = set(known)
    for index, (piece, key) in enumerate(
        zip(session.pieces, keys or piece_keys(session), strict=True)
    ):
        rests = plan.Role.REST in (piece.role, before.role if before else piece.role)
        gap = change_s if before and not rests else 0
        heats = piece.heats or 1
        once, may = planned_length(piece, library), longest_s(piece)
        length = once.model_copy(
            update={
                "low_s": in_heats(once.low_s, heats, change_s),
                "high_s": in_heats(once.high_s, heats, change_s),
            }
        )
        possible = None if may is None else in_heats(may, heats, change_s)
        new = tuple(name for name in _movements(piece, library) if known and name not in told)
        told.update(new)
        brief = min(len(new) * BRIEF_S, MOST_BRIEF_S)
        gap += brief
        start += gap
        pieces.append(
            PieceOutline(
                key=key,
                index=index,
                line=piece.line,
                role=piece.role,
                name=piece.name,
                title=piece.title,
                format=format_text(piece.format),
                modifiers=tuple(modifier_texts(piece)),
                start_s=start,
                brief_s=brief,
                explains=new,
                length=length,
                heats=heats,
                possible_s=possible,
                clock=clock(piece),
                arithmetic=arithmetic(piece),
                score=score_kind(piece),
            )
        )
        start += (length.low_s + length.high_s) // 2
        low, high = low + gap + length.low_s, high + gap + (possible or length.high_s)
        before = piece
    hour = session.class_s or class_s
    return Outline(
        pieces=tuple(pieces),
        planned_low_s=low,
        planned_high_s=high,
        class_s=hour,
        change_s=change_s,
        sentence=_sentence(low, high, hour, pieces),
    )


def _movements(piece: plan.Piece, library: Library) -> tuple[str, ...]:
    """The known movements of a piece, in any version, each once."""
    found = (
        library.find(part.movement)
        for line in piece.lines
        for task in line.tasks
        for version in task.versions
        for part in version.units
    )
    return tuple(dict.fromkeys(each.name for each in found if each is not None))


def _minutes(low: Seconds, high: Seconds) -> str:
    a, b = round(low / 60), round(high / 60)
    return f"{a}" if a == b else f"{a}–{b}"


def _sentence(low: Seconds, high: Seconds, hour: Seconds, pieces: list[PieceOutline]) -> str:
    if not pieces:
        return f"Nothing planned yet for the {hour // 60} minutes of class."
    exact = sum(p.length.low_s for p in pieces if p.clock.total_s is not None)
    open_pieces = sum(p.clock.total_s is None for p in pieces)
    text = f"Planned {_minutes(low, high)} of {hour // 60} min"
    if open_pieces:
        noun = "piece" if open_pieces == 1 else "pieces"
        text += f": {clock_text(exact)} on the clock, {open_pieces} open {noun} predicted"
    brief, new = sum(p.brief_s for p in pieces), sum(len(p.explains) for p in pieces)
    if brief:
        noun = "movement" if new == 1 else "movements"
        text += f"; {clock_text(brief)} to explain {new} new {noun}"
    if high > hour:
        text += f"; may run {clock_text(high - hour)} over"
    elif hour - high >= 60:
        text += f"; at least {clock_text(hour - high)} spare"
    return text + "."
