"""The exact timeline of a piece: every format lowered to a few primitives, then walked once.

Work/rest intervals keep their last rest, as the trade counts a Tabata block at 4:00; a rest
between rounds, sets or blocks is never added after the last.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from pine_ladder.core import plan
from pine_ladder.core.notation.printer import line_text
from pine_ladder.core.plan import Frozen, Seconds
from pine_ladder.core.units import clock_text

EMOM_S = 60
TABATA_WORK_S, TABATA_REST_S, TABATA_INTERVALS = 20, 10, 8
"""20 s / 10 s, eight times: Tabata et al., Med Sci Sports Exerc 28 (1996) 1327."""


@dataclass(frozen=True)
class Work:
    """Work for a fixed time: its lines again and again, or one steady part."""

    length_s: Seconds
    label: str
    lines: tuple[plan.Line, ...] = ()
    steady: bool = False


@dataclass(frozen=True)
class Pause:
    """Rest for a fixed time."""

    length_s: Seconds
    label: str = "rest"


@dataclass(frozen=True)
class Window:
    """A fixed length of clock at a station: what its work leaves is rest, or is filled.

    `member` is whose turn it is where the members of a team alternate.
    """

    length_s: Seconds
    label: str
    station: int
    member: int | None = None
    rests: bool = False
    lines: tuple[plan.Line, ...] = ()


@dataclass(frozen=True)
class Open:
    """Work without a clock of its own: what the piece says, until it is done or capped."""

    label: str
    lines: tuple[plan.Line, ...] = ()


@dataclass(frozen=True)
class Sequence:
    """Parts one after the other."""

    parts: tuple[Primitive, ...]


@dataclass(frozen=True)
class Repeat:
    """A body `times` over, or until `until_s` closes it; `between` is never after the last."""

    times: int
    body: Primitive
    between: Pause | None = None
    until_s: Seconds | None = None


Leaf = Work | Pause | Window | Open
Primitive = Leaf | Sequence | Repeat


class Segment(Frozen):
    """A stretch of the timeline. `length_s` is None where it is open."""

    start_s: Seconds
    length_s: Seconds | None
    kind: Literal["work", "rest", "open"]
    label: str
    round: int | None = None
    rounds: int | None = None
    station: int | None = None
    window: int | None = None
    member: int | None = None
    next: str | None = None


class Clock(Frozen):
    """The timeline of a piece. `total_s`, `work_s` and `rest_s` are None where it is open."""

    total_s: Seconds | None
    work_s: Seconds | None
    rest_s: Seconds | None
    athlete_work_s: Seconds | None
    windows: int | None
    cap_s: Seconds | None
    at_least_s: Seconds | None
    segments: tuple[Segment, ...]


def lower(piece: plan.Piece) -> Primitive:
    """A piece as primitives: one function a format."""
    blocks = piece.blocks or (plan.Block(),)
    match piece.format:
        case plan.Rest(length_s=length):
            return Pause(length)
        case plan.Amrap(length_s=length):
            return _blocks(piece, [Work(length, _labels(b.lines), b.lines) for b in blocks])
        case plan.Every(interval_s=interval, rounds=int(rounds)):
            bodies = [_windows(piece, block, interval) for block in blocks]
            return _blocks(piece, [_rounds(piece, body, rounds) for body in bodies])
        case plan.Emom(length_s=length):
            return _blocks(piece, [_emom(piece, block, length) for block in blocks])
        case plan.Intervals() as intervals:
            bodies = [_intervals(piece, block, intervals) for block in blocks]
            return _blocks(piece, [_rounds(piece, body, intervals.rounds) for body in bodies])
        case plan.Tabata():
            return _blocks(piece, [_tabata(piece, block) for block in blocks])
        case plan.Continuous(length_s=length):
            return _continuous(piece, length)
        case _:
            return Open(_labels(piece.lines), piece.lines)


def _labels(lines: tuple[plan.Line, ...]) -> str:
    return " · ".join(line_text(line) for line in lines)


def _blocks(piece: plan.Piece, bodies: list[Primitive]) -> Primitive:
    parts: list[Primitive] = []
    for index, body in enumerate(bodies):
        if index and piece.rest:
            parts.append(Pause(piece.rest.low_s))
        parts.append(body)
    return Sequence(tuple(parts))


def _rounds(piece: plan.Piece, body: Sequence, rounds: int) -> Repeat:
    """Rounds of a station list; `rest` stands between them unless it stands between blocks."""
    rest = Pause(piece.rest.low_s) if piece.rest and len(piece.blocks) < 2 else None
    return Repeat(rounds, body, rest)


def at_most(piece: plan.Piece) -> plan.Piece:
    """The piece at the upper end of what its heading leaves to the day; itself where nothing is."""
    form = piece.format
    match form:
        case plan.Amrap(high_s=int(high)) | plan.Emom(high_s=int(high)):
            return piece.model_copy(update={"format": form.model_copy(update={"length_s": high})})
        case plan.Every(high=int(high)) | plan.Intervals(high=int(high)):
            return piece.model_copy(update={"format": form.model_copy(update={"rounds": high})})
        case plan.Tabata(high=int(high)):
            return piece.model_copy(update={"blocks": piece.blocks * high})
    return piece


def in_turn(node: Primitive) -> bool:
    """Whether the members of a team have windows in turn."""
    match node:
        case Window(member=member):
            return member is not None
        case Sequence(parts=parts):
            return any(in_turn(part) for part in parts)
        case Repeat(body=body):
            return in_turn(body)
    return False


def _members(piece: plan.Piece) -> tuple[int | None, ...]:
    if piece.teams and piece.teams.how == "alternate":
        return tuple(range(1, piece.teams.size + 1))
    return (None,)


def stations(block: plan.Block, each_line: bool) -> list[tuple[plan.Line, ...]]:
    """The lines done at each station: one a station, or all of them in every window."""
    if each_line:
        return [(line,) for line in block.lines] or [()]
    return [block.lines]


def window_s(piece: plan.Piece) -> Seconds | None:
    """How long each window of a piece lasts, its rest included; None where it has no windows."""
    match piece.format:
        case plan.Every(interval_s=interval):
            return interval
        case plan.Emom():
            return EMOM_S
    return None


def _windows(piece: plan.Piece, block: plan.Block, length_s: Seconds) -> Sequence:
    """A window for each station and member; where `work` closes it, the rest of it is rest."""
    work_s = min(piece.work_s or length_s, length_s)
    parts: list[Primitive] = []
    for number, lines in enumerate(stations(block, block.numbered), start=1):
        for member in _members(piece):
            closes = length_s - work_s if not _rests(lines) else 0
            window = Window(length_s - closes, _labels(lines), number, member, _rests(lines), lines)
            parts += [window, Pause(closes)] if closes else [window]
    return Sequence(tuple(parts))


def _rests(lines: tuple[plan.Line, ...]) -> bool:
    return bool(lines) and all(line.is_rest for line in lines)


def _emom(piece: plan.Piece, block: plan.Block, length_s: Seconds) -> Repeat:
    body = _windows(piece, block, EMOM_S)
    turns = sum(isinstance(part, Window) for part in body.parts)
    return Repeat(-(-length_s // (EMOM_S * turns)), body, until_s=length_s)


def _intervals(piece: plan.Piece, block: plan.Block, intervals: plan.Intervals) -> Sequence:
    work_s, rest_s = intervals.work_s, intervals.rest_s
    parts: list[Primitive] = []
    for number, lines in enumerate(stations(block, True), start=1):
        for member in _members(piece):
            if _rests(lines):
                parts.append(Window(work_s + rest_s, "rest", number, member, rests=True))
                continue
            parts.append(Window(work_s, _labels(lines), number, member, lines=lines))
            if rest_s:
                parts.append(Pause(rest_s))
    return Sequence(tuple(parts))


def _tabata(piece: plan.Piece, block: plan.Block) -> Repeat:
    form = plan.Intervals(work_s=TABATA_WORK_S, rest_s=TABATA_REST_S, rounds=1)
    body = _intervals(piece, block, form)
    length_s = TABATA_INTERVALS * (TABATA_WORK_S + TABATA_REST_S)
    rounds = -(-TABATA_INTERVALS // len(stations(block, True)))
    return Repeat(rounds, body, until_s=length_s)


def line_seconds(line: plan.Line) -> Seconds | None:
    """How long a line lasts by its own amounts, or None when any of them has no time."""
    total = 0
    for task in line.tasks:
        amount = task.versions[0].amount
        if not isinstance(amount, plan.Duration):
            return None
        each_side = task.versions[0].side is plan.Side.EACH
        total += amount.seconds * (2 if each_side else 1)
    return total if line.tasks else None


def _continuous(piece: plan.Piece, length_s: Seconds) -> Primitive:
    times = [line_seconds(line) for line in piece.lines]
    if None in times or sum(filter(None, times)) != length_s:
        return Work(length_s, _labels(piece.lines), piece.lines, steady=True)
    pairs = zip(times, piece.lines, strict=True)
    return Sequence(
        tuple(Work(time or 0, line_text(line), (line,), steady=True) for time, line in pairs)
    )


def _walk(
    node: Primitive, start: Seconds, end: Seconds | None, turn: tuple[int, int] | None
) -> Iterator[tuple[Segment, Leaf]]:
    """Segments of a node from `start` on, cut at `end`; `turn` is (round, rounds)."""
    round_, rounds = turn or (None, None)
    match node:
        case Open(label=label):
            open_ = Segment(
                start_s=start, length_s=None, kind="open", label=label, round=round_, rounds=rounds
            )
            yield open_, node
        case Sequence(parts=parts):
            for part in parts:
                for segment, leaf in _walk(part, start, end, turn):
                    yield segment, leaf
                    start = segment.start_s + (segment.length_s or 0)
        case Repeat(times=times, body=body, between=between, until_s=until):
            if until is not None:
                end = start + until
            for index in range(times):
                parts = (between, body) if between and index else (body,)
                for part in parts:
                    inner = (index + 1, times) if part is body else turn
                    for segment, leaf in _walk(part, start, end, inner):
                        yield segment, leaf
                        start = segment.start_s + (segment.length_s or 0)
        case _:
            length = node.length_s if end is None else min(node.length_s, end - start)
            if length <= 0:
                return
            rests = isinstance(node, Pause) or (isinstance(node, Window) and node.rests)
            segment = Segment(
                start_s=start,
                length_s=length,
                kind="rest" if rests else "work",
                label=node.label,
                round=round_,
                rounds=rounds,
                station=node.station if isinstance(node, Window) else None,
                member=node.member if isinstance(node, Window) else None,
                window=0 if isinstance(node, Window) else None,
            )
            yield segment, node


def walk(node: Primitive) -> list[tuple[Segment, Leaf]]:
    """A node's segments from 0, each with the primitive it came from."""
    return list(_walk(node, 0, None, None))


def segments(piece: plan.Piece) -> tuple[Segment, ...]:
    """The timeline of a piece from 0, windows numbered, each segment with what comes next."""
    walked = [segment for segment, _leaf in walk(lower(piece))]
    out, window = [], 0
    for segment, after in zip(walked, [*walked[1:], None], strict=True):
        update: dict[str, object] = {"next": after.label if after else None}
        if segment.window is not None:
            window += 1
            update["window"] = window
        out.append(segment.model_copy(update=update))
    return tuple(out)


def clock(piece: plan.Piece) -> Clock:
    """Total, work and rest of a piece, for the class and for each athlete, with its timeline.

    Partners who alternate or share each work their part of the time; those who go together, all
    of it.
    """
    timeline = segments(piece)
    is_open = any(segment.length_s is None for segment in timeline)
    work = sum(s.length_s or 0 for s in timeline if s.kind == "work")
    rest = sum(s.length_s or 0 for s in timeline if s.kind == "rest")
    parts = piece.teams.size if piece.teams and piece.teams.how != "together" else 1
    windows = max((s.window or 0 for s in timeline), default=0)
    return Clock(
        total_s=None if is_open else work + rest,
        work_s=None if is_open else work,
        rest_s=None if is_open else rest,
        athlete_work_s=None if is_open else work // parts,
        windows=windows or None,
        cap_s=piece.cap_s,
        at_least_s=_least(piece),
        segments=timeline,
    )


def _least(piece: plan.Piece) -> Seconds | None:
    """An accumulated hold takes at least its own time."""
    if not isinstance(piece.format, plan.Accumulate):
        return None
    return sum(line_seconds(line) or 0 for line in piece.lines) or None


def arithmetic(piece: plan.Piece) -> str:
    """How the length of a piece comes about, spelled out; empty where there is nothing to add.

    >>> from pine_ladder.core.notation import parse
    >>> board = "## Core: Tabata, rest 2:00\\nplank\\n--\\nsit-up"
    >>> arithmetic(parse(board).session.pieces[0])
    '2 blocks × 8 × (0:20 + 0:10) + 1 × 2:00 rest = 10:00, 5:20 work'
    """
    form, timed = piece.format, clock(piece)
    if timed.total_s is None or timed.work_s is None:
        return ""
    block = piece.blocks[0] if piece.blocks else plan.Block()
    team = _members(piece)
    factors = []
    if len(piece.blocks) > 1:
        factors.append(f"{len(piece.blocks)} blocks")
    match form:
        case plan.Every(interval_s=interval, rounds=rounds):
            factors.append(f"{rounds} rounds")
            factors += _times(len(stations(block, block.numbered)), "station")
            factors += _times(len(team), "athlete")
            factors.append(clock_text(interval))
        case plan.Emom(length_s=length):
            factors.append(f"{length // 60} windows × 1:00")
        case plan.Intervals(work_s=work, rest_s=rest, rounds=rounds):
            factors.append(f"{rounds} rounds")
            factors += _times(len(block.lines), "station")
            factors += _times(len(team), "athlete")
            both = f"({clock_text(work)} + {clock_text(rest)})"
            factors.append(both if rest else clock_text(work))
        case plan.Tabata():
            factors.append(f"{TABATA_INTERVALS} × (0:20 + 0:10)")
        case plan.Amrap(length_s=length) if factors:
            factors.append(clock_text(length))
        case plan.Continuous() if len(piece.lines) > 1 and len(timed.segments) > 1:
            parts = " + ".join(clock_text(s.length_s or 0) for s in timed.segments)
            return f"{parts} = {clock_text(timed.total_s)}"
        case _:
            return ""
    gaps = _gaps(piece)
    rests = f" + {gaps} × {clock_text(piece.rest.low_s)} rest" if piece.rest and gaps else ""
    text = f"{' × '.join(factors)}{rests} = {clock_text(timed.total_s)}"
    if timed.athlete_work_s != timed.work_s:
        return f"{text}; each athlete works {clock_text(timed.athlete_work_s or 0)}"
    return text if timed.work_s == timed.total_s else f"{text}, {clock_text(timed.work_s)} work"


def _times(count: int, word: str) -> list[str]:
    return [f"{count} {word}s"] if count > 1 else []


def _gaps(piece: plan.Piece) -> int:
    if len(piece.blocks) > 1:
        return len(piece.blocks) - 1
    rounds = piece.format.rounds if isinstance(piece.format, plan.Every | plan.Intervals) else 1
    return (rounds or 1) - 1
