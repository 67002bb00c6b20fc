"""What is played of a piece: its segments as beats, with what to show, call and say.

The beats are the segments of `pine_ladder.core.clock`, so the wall shows what the ruler draws.
Where a piece has no clock of its own, its sets and rounds are beats that last until the coach
goes on.
"""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Literal

from pydantic import Field

from pine_ladder.core import plan
from pine_ladder.core.clock import (
    Open,
    Pause,
    Primitive,
    Repeat,
    Segment,
    Sequence,
    Window,
    Work,
    lower,
    walk,
)
from pine_ladder.core.clock import line_seconds as timed_line
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.printer import (
    exercise_text,
    format_text,
    load_text,
    modifier_texts,
)
from pine_ladder.core.pace.rep_times import tempo_seconds
from pine_ladder.core.plan import Frozen, Seconds
from pine_ladder.core.scores.kinds import fills_any, is_counted, score_kind
from pine_ladder.core.units import clock_text

MOST_MISSED = 30
"""Rounds of a ladder without end that are laid out ahead."""
MINUTE_S = 60
LONG_S, TEN_S, COUNT_S = 120, 30, 6
"""Beats from this long get a halfway call, a ten-second call, a count of three."""

CallKind = Literal[
    "work", "rest", "end", "halfway", "ten", "count", "switch", "hand over", "minute", "cap"
]


class Call(Frozen):
    """A moment the clock speaks, in seconds from the start of the piece."""

    at_s: float
    kind: CallKind
    words: str


class TempoStep(Frozen):
    """One phase of a rep's tempo, in seconds: 0 for none, X as `pace.tempo_seconds` has it."""

    phase: Literal["down", "bottom", "up", "top"]
    seconds: float


class TierLine(Frozen):
    """A line in one tier's version: what is done, and with what."""

    work: str
    load: str = ""


class Beat(Frozen):
    """A stretch of the piece as played.

    `id` names it whatever is added or lengthened; `start_s` is None behind an open beat, whose
    `length_s` is None. `lines` are in words for that round; `icon` is a movement pattern or `rest`;
    `place` is the beat's place on the strip that reps and loads are jotted on, where it has one.
    `versions` are the lines again, each in every version the board has of any of them, as written
    first.
    """

    id: str
    start_s: float | None
    length_s: float | None
    kind: Literal["work", "rest", "open"]
    label: str
    lines: tuple[str, ...]
    round: int | None
    rounds: int | None
    station: int | None
    window: int | None
    member: int | None
    icon: str
    place: int | None = None
    movements: tuple[str, ...] = ()
    tempo: tuple[TempoStep, ...] = ()
    versions: tuple[tuple[TierLine, ...], ...] = ()


class Say(Frozen):
    """What a coach says of a movement before it: what counts, cues, cautions."""

    movement: str
    standard: str
    cues: tuple[str, ...]
    cautions: tuple[str, ...]


class Script(Frozen):
    """A piece as it is played. `total_s` is None where it is open, `cap_s` where nothing ends it.

    `add_words` is what adding a round adds; `one_by_one` tells that athletes finish each at their
    own time, which is their score.
    """

    title: str
    role: plan.Role
    format: str
    modifiers: tuple[str, ...]
    beats: tuple[Beat, ...]
    calls: tuple[Call, ...]
    total_s: float | None
    cap_s: Seconds | None
    say: tuple[Say, ...]
    endless: bool
    add_words: str
    one_by_one: bool


class Changes(Frozen):
    """What the coach changed while it ran: rounds added by block, rests lengthened and open beats
    closed by their id (seconds).
    """

    added: dict[int, int] = Field(default_factory=dict)
    longer: dict[str, float] = Field(default_factory=dict)
    closed: dict[str, float] = Field(default_factory=dict)


NO_CHANGES = Changes()


def played(piece: plan.Piece) -> Sequence:
    """The piece's primitives as played: open sets and rounds one by one, ladders laid out ahead."""
    body = Open(" · ".join(exercise_text(t.versions[0]) for x in piece.lines for t in x.tasks))
    body = replace(body, lines=piece.lines)
    rest = Pause(piece.rest.low_s) if piece.rest else None
    match piece.format:
        case plan.Every(rounds=None) as ladder:
            laid = ladder.model_copy(update={"rounds": MOST_MISSED})
            return _sequence(lower(piece.model_copy(update={"format": laid})))
        case plan.Sets(low=low) | plan.Rounds(low=low):
            return Sequence((Repeat(low, body, rest),))
    return _sequence(lower(piece))


def _sequence(node: Primitive) -> Sequence:
    return node if isinstance(node, Sequence) else Sequence((node,))


def _longer(part: Primitive, rounds: int) -> Primitive:
    """A block with rounds added: a minute each where it has no rounds."""
    match part:
        case Repeat(times=times, body=body, until_s=until):
            length = sum(s.length_s or 0 for s, _ in walk(body))
            more = None if until is None else until + rounds * length
            return replace(part, times=times + rounds, until_s=more)
        case Work(length_s=length):
            return replace(part, length_s=length + rounds * MINUTE_S)
    return part


def _in_round(exercise: plan.Exercise, grow: int, round_: int) -> plan.Exercise:
    """The exercise with the numbers of one round."""
    match exercise.amount:
        case plan.Reps(low=low, high=None, grow=own):
            amount: plan.Amount = plan.Reps(low=max(0, low + (own + grow) * (round_ - 1)))
        case plan.Duration(seconds=seconds, grow_s=more) if more:
            amount = plan.Duration(seconds=seconds + more * (round_ - 1))
        case plan.Scheme(values=values, unit="reps"):
            amount = plan.Reps(low=values[min(round_, len(values)) - 1])
        case _:
            return exercise
    return exercise.model_copy(update={"amount": amount})


def _exercises(lines: tuple[plan.Line, ...]) -> list[plan.Exercise]:
    exercises: list[plan.Exercise] = []
    for line in lines:
        for task in line.tasks:
            first = task.versions[0]
            exercises += first.units
    return exercises


def _words(lines: tuple[plan.Line, ...], grow: int, round_: int | None) -> tuple[str, ...]:
    out = []
    for line in lines:
        if line.is_rest:
            out.append("rest")
            continue
        tasks = [task.versions[0] for task in line.tasks]
        if round_:
            tasks = [_in_round(task, grow, round_) for task in tasks]
        out.append(" + ".join(exercise_text(task) for task in tasks))
    return tuple(out)


def _versions(
    lines: tuple[plan.Line, ...], grow: int, round_: int | None
) -> tuple[tuple[TierLine, ...], ...]:
    """Each line in every tier's version, as far as the board tells tiers apart."""
    tiers = max((len(task.versions) for line in lines for task in line.tasks), default=1)

    def version(line: plan.Line, tier: int) -> TierLine:
        if line.is_rest:
            return TierLine(work="rest")
        tasks = [task.version(tier) for task in line.tasks]
        if round_:
            tasks = [_in_round(task, grow, round_) for task in tasks]
        works = [exercise_text(task.model_copy(update={"load": None})) for task in tasks]
        loads = [load_text(task.load) if task.load else "" for task in tasks]
        if len(tasks) > 1:
            return TierLine(work=" + ".join(exercise_text(task) for task in tasks))
        return TierLine(work=works[0], load=loads[0])

    return tuple(tuple(version(line, tier) for tier in range(tiers)) for line in lines)


def _tempo(lines: tuple[plan.Line, ...]) -> tuple[TempoStep, ...]:
    """The tempo to beat out, where all of a beat's exercises share one."""
    tempos = {exercise.tempo for exercise in _exercises(lines)}
    if len(tempos) != 1 or (tempo := tempos.pop()) is None:
        return ()
    phases: tuple[Literal["down", "bottom", "up", "top"], ...] = ("down", "bottom", "up", "top")
    return tuple(
        TempoStep(phase=phase, seconds=tempo_seconds(mark))
        for phase, mark in zip(phases, tempo, strict=True)
    )


def _beat(
    segment: Segment, id_: str, lines: tuple[plan.Line, ...], grow: int, library: Library
) -> Beat:
    movements = [m for x in _exercises(lines) if (m := library.find(x.movement))]
    rests = segment.kind == "rest"
    return Beat(
        id=id_,
        start_s=None,
        length_s=segment.length_s,
        kind=segment.kind,
        label=segment.label,
        lines=("rest",) if rests else _words(lines, grow, segment.round),
        round=segment.round,
        rounds=segment.rounds,
        station=segment.station,
        window=segment.window,
        member=segment.member,
        icon="rest" if rests else movements[0].patterns[0].value if movements else "engine",
        movements=() if rests else tuple(dict.fromkeys(m.name for m in movements)),
        tempo=() if rests else _tempo(lines),
        versions=() if rests else _versions(lines, grow, segment.round),
    )


def _beats(piece: plan.Piece, changes: Changes, library: Library) -> list[Beat]:
    block, beats, window = 0, [], 0
    filled: list[bool | None] = []
    grow = piece.grow_reps or 0
    for part in played(piece).parts:
        between = isinstance(part, Pause)
        node = part if between else _longer(part, changes.added.get(block, 0))
        places: dict[tuple[int | None, str], int] = {}
        for segment, leaf in walk(node):
            kind = "rest" if isinstance(leaf, Pause) else ""
            place = places[segment.round, kind] = places.get((segment.round, kind), 0) + 1
            name = "gap" if between else f"{segment.round or 0}{kind}"
            lines = leaf.lines if isinstance(leaf, Work | Window | Open) else ()
            beat = _beat(segment, f"{block}.{name}.{place}", lines, grow, library)
            if beat.window is not None:
                window += 1
                beat = beat.model_copy(update={"window": window})
            beats.append(beat)
            filled.append(fills_any(lines) if is_counted(segment) else None)
        block += not between
    return _placed(piece, beats, filled)


def _placed(piece: plan.Piece, beats: list[Beat], filled: list[bool | None]) -> list[Beat]:
    """Beats with their places on the strip: `filled` is None for what is not counted.

    Where some are filled, those alone are; partners share the place of the first of them.
    """
    kind = score_kind(piece)
    if kind is plan.ScoreKind.LOAD:
        return [b if b.kind == "rest" else b.model_copy(update={"place": b.round}) for b in beats]
    if kind not in (plan.ScoreKind.TOTAL_REPS, plan.ScoreKind.LOWEST_INTERVAL):
        return beats
    some, place, out = any(filled), 0, []
    for beat, fills in zip(beats, filled, strict=True):
        place += bool(fills if some else fills is not None)
        partner = beat.kind == "work" and (beat.member or 1) > 1
        shown = place if partner or (fills if some else fills is not None) else None
        out.append(beat.model_copy(update={"place": shown or None}))
    return out


def _timed(beats: list[Beat], changes: Changes) -> list[Beat]:
    """Beats with their starts, after what was lengthened and closed."""
    at: float | None = 0.0
    out = []
    for beat in beats:
        length = changes.closed.get(beat.id, beat.length_s)
        if length is not None:
            length += changes.longer.get(beat.id, 0.0)
        out.append(beat.model_copy(update={"start_s": at, "length_s": length}))
        at = None if at is None or length is None else at + length
    return out


def _switches(beat: Beat, lines: tuple[plan.Line, ...], library: Library) -> list[Call]:
    """When sides change inside a beat, as seconds from its start."""
    if beat.length_s is None or len(lines) != 1 or len(lines[0].tasks) != 1:
        return []
    (exercise,) = (task.versions[0] for task in lines[0].tasks)
    if every := exercise.switch_every:
        movement = library.find(exercise.movement)
        rep_s = tempo_seconds(exercise.tempo) or (movement.seconds if movement else 3.0)
        gap = every * rep_s
        switches = math.ceil(beat.length_s / gap) - 1
        if isinstance(exercise.amount, plan.Reps):
            switches = min(switches, math.ceil(exercise.amount.low / every) - 1)
        return [
            Call(at_s=gap * n, kind="switch", words=f"other arm, about {every} reps in")
            for n in range(1, switches + 1)
        ]
    if exercise.side is not plan.Side.EACH:
        return []
    held = timed_line(lines[0])
    half = held / 2 if held else beat.length_s / 2
    counted = isinstance(exercise.amount, plan.Reps)
    if counted or half >= beat.length_s:
        return []
    return [Call(at_s=half, kind="switch", words="other side")]


def _lines_by_label(piece: plan.Piece) -> dict[str, tuple[plan.Line, ...]]:
    return {
        segment.label: leaf.lines
        for segment, leaf in walk(played(piece))
        if isinstance(leaf, Work | Window)
    }


def _calls(piece: plan.Piece, beats: list[Beat], library: Library) -> list[Call]:
    lines = _lines_by_label(piece)
    calls: list[Call] = []
    before: Beat | None = None
    for at, beat in enumerate(beats):
        start, length = beat.start_s, beat.length_s
        if start is None:
            break
        after = beats[at + 1] if at + 1 < len(beats) else None
        if beat.kind == "rest":
            calls.append(Call(at_s=start, kind="rest", words="rest"))
        elif before and beat.member and before.member and beat.member != before.member:
            words = f"hand over to partner {beat.member}"
            calls.append(Call(at_s=start, kind="hand over", words=words))
        else:
            calls.append(Call(at_s=start, kind="work", words=" · ".join(beat.lines)))
        if length is not None:
            end = start + length
            if length >= LONG_S and beat.kind == "work":
                calls.append(Call(at_s=start + length / 2, kind="halfway", words="halfway"))
            if length >= TEN_S:
                calls.append(Call(at_s=end - 10, kind="ten", words="ten seconds"))
            if length >= COUNT_S:
                following = after.lines[0] if after and after.lines else "the end"
                calls += [Call(at_s=end - n, kind="count", words=following) for n in (3, 2, 1)]
            for call in _switches(beat, lines.get(beat.label, ()), library):
                calls.append(call.model_copy(update={"at_s": start + call.at_s}))
            if after is None:
                calls.append(Call(at_s=end, kind="end", words="time"))
        before = beat
    if piece.cap_s and beats[-1].length_s is None:
        cap = float(piece.cap_s)
        if cap > LONG_S:
            calls.append(Call(at_s=cap - MINUTE_S, kind="minute", words="one minute to the cap"))
        calls.append(Call(at_s=cap - 10, kind="ten", words="ten seconds"))
        calls += [Call(at_s=cap - n, kind="count", words="the cap") for n in (3, 2, 1)]
        calls.append(Call(at_s=cap, kind="cap", words=f"cap at {clock_text(cap)}"))
    return sorted(calls, key=lambda call: call.at_s)


def _halfway(total: float, beats: list[Beat]) -> list[Call]:
    """Halfway through a piece of several beats, unless a beat has its own at that moment."""
    if len(beats) < 2 or total < LONG_S:
        return []
    return [Call(at_s=total / 2, kind="halfway", words="halfway through the piece")]


def _said(piece: plan.Piece, library: Library) -> tuple[Say, ...]:
    names: dict[str, Say] = {}
    for exercise in _exercises((*piece.buy_in, *piece.lines, *piece.cash_out)):
        movement = library.find(exercise.movement)
        if movement:
            names[movement.name] = Say(
                movement=movement.name,
                standard=movement.standard,
                cues=movement.cues,
                cautions=movement.cautions,
            )
    return tuple(names.values())


def _add_words(piece: plan.Piece) -> str:
    """What adding a round adds; empty where there is nothing to add."""
    match piece.format:
        case plan.Sets():
            return "a set"
        case (
            plan.Every(high=int(high))
            | plan.Intervals(high=int(high))
            | plan.Tabata(high=int(high))
        ):
            return f"a round, up to {high}"
        case plan.Emom(high_s=int(high)):
            return f"a round, up to {clock_text(high)}"
        case plan.Every() | plan.Emom() | plan.Intervals() | plan.Tabata() | plan.Rounds():
            return "a round"
        case plan.Amrap(high_s=int(high)):
            return f"a minute, up to {clock_text(high)}"
        case plan.Amrap():
            return "a minute"
    return ""


def script(piece: plan.Piece, library: Library, changes: Changes = NO_CHANGES) -> Script:
    """The piece as played, with what the coach has changed since it was loaded."""
    beats = _timed(_beats(piece, changes, library), changes)
    last = beats[-1] if beats else None
    ends = last is not None and last.start_s is not None and last.length_s is not None
    total = last.start_s + last.length_s if last and ends else None  # type: ignore[operator]
    calls = _calls(piece, beats, library)
    if total is not None and not any(c.kind == "halfway" for c in calls):
        calls = sorted([*calls, *_halfway(total, beats)], key=lambda call: call.at_s)
    endless = isinstance(piece.format, plan.Every) and piece.format.rounds is None
    return Script(
        title=piece.title,
        role=piece.role,
        format=format_text(piece.format),
        modifiers=tuple(modifier_texts(piece)),
        beats=tuple(beats),
        calls=tuple(calls),
        total_s=total,
        cap_s=piece.cap_s,
        say=_said(piece, library),
        endless=endless,
        add_words=_add_words(piece),
        one_by_one=score_kind(piece) is plan.ScoreKind.TIME,
    )
