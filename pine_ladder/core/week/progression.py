"""Next week from last week: small stated steps, each proposed as a change the coach accepts.

The steps are common practice, no source: sprints of 0:07 with 2:00 of rest become 0:10 with 3:00;
rolling goes from 5:00 to 6:00; a hold lasts a few seconds longer; strength adds a set, a round, or
the smallest plates where what was prescribed was lifted; fixed reps add one or two. Who walks to
recover does not walk longer, and what warms up stays as it is.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from pine_ladder.core import plan
from pine_ladder.core.movements import Library, library
from pine_ladder.core.notation.bounds import excess
from pine_ladder.core.notation.edits import heading_text, numbered_text
from pine_ladder.core.notation.printer import (
    amount_text,
    format_text,
    load_text,
    task_text,
)
from pine_ladder.core.notation.reading import parse
from pine_ladder.core.plan import Frozen
from pine_ladder.core.scores.kinds import score_kind
from pine_ladder.core.units import KG_PER_LB, clock_text, number_text
from pine_ladder.core.week.next_time import Result, next_time, step_key

SPRINT_S = 15
"""Intervals up to this long are sprints."""
MOST_SETS = 8
MOST_ROUNDS = 6
MOST_REPS = 30
MOST_HOLD_S = 120
"""Seconds up to which a hold in sets or rounds grows."""
LONG_HOLD_S = 180
"""Seconds from which a time grows by a minute."""
PERCENT_STEP, MOST_PERCENT = 2.5, 95.0
PLATES = {"kg": 2.5, "lb": 5.0}
"""What a pair of the smallest plates adds; squats and pulls of `HEAVY` and over take two."""
HEAVY = {"kg": 60.0, "lb": 135.0}
NEARLY = 0.98
"""Share of a prescribed load from which it was lifted: a gym's plates rarely make it exactly."""
MOST_AHEAD = 1.1
"""How far a load goes after what was lifted, as a share of what was prescribed."""

Lifted = Mapping[tuple[int, int], float]
"""What most lifted of a piece by tier and track, in kg (the median of those who wrote it down)."""


class Step(Frozen):
    """One proposed change: in words, and the lines of text it replaces (1-based number, text).

    `key` names it on its board: the rule and the line it starts from.
    """

    key: str
    label: str
    lines: tuple[tuple[int, str], ...]


def _heading(piece: plan.Piece, form: plan.Format) -> tuple[int, str]:
    return piece.line, heading_text(piece.model_copy(update={"format": form}))


def _line(
    block: plan.Block, line: plan.Line, versions: tuple[plan.Exercise, ...]
) -> tuple[int, str]:
    task = line.tasks[0]
    tasks = (task.model_copy(update={"versions": versions}), *line.tasks[1:])
    return line.line, numbered_text(block, line, line.model_copy(update={"tasks": tasks}))


def _with(piece: plan.Piece, line: plan.Line, versions: tuple[plan.Exercise, ...]) -> plan.Piece:
    """The piece with other versions on one of its lines."""
    task = line.tasks[0].model_copy(update={"versions": versions})
    other = line.model_copy(update={"tasks": (task, *line.tasks[1:])})
    blocks = tuple(
        block.model_copy(update={"lines": tuple(other if x is line else x for x in block.lines)})
        for block in piece.blocks
    )
    return piece.model_copy(update={"blocks": blocks})


def _first_versions(
    piece: plan.Piece,
) -> Iterable[tuple[plan.Block, plan.Line, tuple[plan.Exercise, ...]]]:
    """The lines of a piece with the versions of what stands first on each."""
    for block in piece.blocks:
        for line in block.lines:
            if line.tasks:
                yield block, line, line.tasks[0].versions


def _sprints(piece: plan.Piece) -> list[Step]:
    form = piece.format
    if not isinstance(form, plan.Intervals) or form.work_s > SPRINT_S or form.rest_s < 60:
        return []
    longer = form.model_copy(update={"work_s": form.work_s + 3, "rest_s": form.rest_s + 60})
    if excess(piece.model_copy(update={"format": longer})):
        return []
    label = (
        f"{clock_text(form.work_s)}/{clock_text(form.rest_s)} → "
        f"{clock_text(longer.work_s)}/{clock_text(longer.rest_s)}"
    )
    return [Step(key=f"sprint {piece.line}", label=label, lines=(_heading(piece, longer),))]


def _sets(piece: plan.Piece) -> list[Step]:
    form = piece.format
    if not isinstance(form, plan.Sets) or form.high or form.low >= MOST_SETS:
        return []
    more = form.model_copy(update={"low": form.low + 1})
    if excess(piece.model_copy(update={"format": more})):
        return []
    label = f"{format_text(form)} → {format_text(more)}"
    return [Step(key=f"sets {piece.line}", label=label, lines=(_heading(piece, more),))]


def _rounds(piece: plan.Piece) -> list[Step]:
    """A round more of what is done for quality; what is raced or counted stays comparable."""
    form = piece.format
    if not isinstance(form, plan.Rounds) or form.high or form.low >= MOST_ROUNDS:
        return []
    more = form.model_copy(update={"low": form.low + 1})
    if score_kind(piece) is not None or excess(piece.model_copy(update={"format": more})):
        return []
    label = f"{format_text(form)} → {format_text(more)}"
    return [Step(key=f"rounds {piece.line}", label=label, lines=(_heading(piece, more),))]


def _longer_s(seconds: float) -> float:
    """What a hold of so long grows by: a few seconds of a short one, a minute of a long one."""
    if seconds >= LONG_HOLD_S:
        return 60
    return 5 if seconds < 30 else 10 if seconds < 60 else 15


def _holds(piece: plan.Piece, shelf: Library) -> list[Step]:
    """A longer hold; a continuous piece grows with its minute."""
    repeated = isinstance(piece.format, plan.Sets | plan.Rounds)
    out = []
    for block, line, (first, *others) in _first_versions(piece):
        amount = first.amount
        if not isinstance(amount, plan.Duration):
            continue
        movement = shelf.find(first.movement)
        short = repeated and amount.seconds < MOST_HOLD_S
        if not (short or amount.seconds >= LONG_HOLD_S) or (movement and movement.easy):
            continue
        by = _longer_s(amount.seconds)
        longer = amount.model_copy(update={"seconds": amount.seconds + by})
        versions = (first.model_copy(update={"amount": longer}), *others)
        if excess(_with(piece, line, versions)):
            continue
        lines = [_line(block, line, versions)]
        if isinstance(piece.format, plan.Continuous):
            length = piece.format.length_s + by
            lines.append(_heading(piece, plan.Continuous(length_s=length)))
        label = f"{amount_text(amount)} → {amount_text(longer)} {first.movement}"
        out.append(Step(key=f"hold {line.line}", label=label, lines=tuple(lines)))
    return out


def _reps(piece: plan.Piece) -> list[Step]:
    """A rep more below ten, two above, two where sides alternate, in sets and rounds."""
    if not isinstance(piece.format, plan.Sets | plan.Rounds) or piece.build:
        return []
    out = []
    for block, line, (first, *others) in _first_versions(piece):
        amount = first.amount
        if not isinstance(amount, plan.Reps) or amount.high or amount.low >= MOST_REPS:
            continue
        by = 2 if amount.low >= 10 or first.side is plan.Side.ALTERNATING else 1
        more = amount.model_copy(update={"low": amount.low + by})
        versions = (first.model_copy(update={"amount": more}), *others)
        if excess(_with(piece, line, versions)):
            continue
        label = f"{task_text(line.tasks[0])}: {amount.low} → {more.low}"
        lines = (_line(block, line, versions),)
        out.append(Step(key=f"reps {line.line}", label=label, lines=lines))
    return out


def _stepped(load: plan.Weight, tier: int, lifted: Lifted, heavy: bool) -> plan.Weight:
    """A bar's load by tracks a step up, where most lifted what was prescribed or nobody said; as
    far up as most went already, but no further than `MOST_AHEAD`.
    """
    unit = 1.0 if load.unit == "kg" else KG_PER_LB
    known = [track + 1 for at, track in lifted if at == tier]
    tracks = max([len(load.values), *known])
    values = []
    for track in range(tracks):
        now = load.values[min(track, len(load.values) - 1)]
        by = PLATES[load.unit] * (2 if heavy and now >= HEAVY[load.unit] else 1)
        did = lifted.get((tier, track))
        if did is None:
            values.append(now + by)
        elif did / unit < now * NEARLY:
            values.append(now)
        else:
            reached = did / unit // PLATES[load.unit] * PLATES[load.unit]
            values.append(max(now + by, min(reached, now * MOST_AHEAD // by * by)))
    # Tracks that nobody told apart before stay one number where they step alike.
    alike = len(load.values) == 1 and len(set(values)) == 1
    return load.model_copy(update={"values": tuple(values[:1] if alike else values)})


def _loads(piece: plan.Piece, shelf: Library, lifted: Lifted) -> list[Step]:
    """The smallest plates more on every tier's bar, or a little more of a best."""
    if not isinstance(piece.format, plan.Sets | plan.Rounds) or piece.build:
        return []
    out = []
    for block, line, versions in _first_versions(piece):
        changed = tuple(
            version.model_copy(update={"load": _more(version, tier, shelf, lifted)})
            for tier, version in enumerate(versions)
        )
        if changed == versions or excess(_with(piece, line, changed)):
            continue
        told = " · ".join(
            f"{load_text(old.load)} → {load_text(new.load)}"
            for old, new in zip(versions, changed, strict=True)
            if old.load and new.load and old != new
        )
        label = f"{versions[0].movement} @ {told}{_said(lifted)}"
        lines = (_line(block, line, changed),)
        out.append(Step(key=f"load {line.line}", label=label, lines=lines))
    return out


def _more(exercise: plan.Exercise, tier: int, shelf: Library, lifted: Lifted) -> plan.Load | None:
    movement, load = shelf.find(exercise.movement), exercise.load
    match load:
        case plan.Percent() if (load.high or load.low) + PERCENT_STEP <= MOST_PERCENT:
            high = load.high + PERCENT_STEP if load.high else None
            return load.model_copy(update={"low": load.low + PERCENT_STEP, "high": high})
        case plan.Weight() if movement and "barbell" in movement.kit and load.count == 1:
            return _stepped(load, tier, lifted, bool({"squat", "hinge"} & {*movement.patterns}))
    return load


def _said(lifted: Lifted) -> str:
    """What most lifted as written, by track."""
    own = [kg for (tier, _), kg in sorted(lifted.items()) if tier == 0]
    return f" (most lifted {'/'.join(number_text(kg) for kg in own)} kg)" if own else ""


def steps(
    session: plan.Session,
    shelf: Library | None = None,
    lifted: Mapping[int, Lifted] | None = None,
    results: Mapping[int, Sequence[Result]] | None = None,
) -> list[Step]:
    """All steps a session could take, in the order of the board; of a piece the usual one first.

    `lifted` is what most lifted and `results` are the scores, by the piece's place on the board.
    What is tested again stays as it is.
    """
    shelf, found = shelf or library(), list[Step]()
    for place, piece in enumerate(session.pieces):
        if piece.role in (plan.Role.WARM_UP, plan.Role.COOL_DOWN):
            continue
        went = (results or {}).get(place, ())
        if session.theme != "test" and (change := next_time(piece, went)):
            key = step_key(piece, change)
            found.append(Step(key=key, label=change.label, lines=change.lines))
        found += [
            *_sprints(piece),
            *_sets(piece),
            *_rounds(piece),
            *_loads(piece, shelf, (lifted or {}).get(place, {})),
            *_holds(piece, shelf),
            *_reps(piece),
        ]
    return found


def usual(session: plan.Session, offered: Iterable[Step]) -> list[str]:
    """The keys of one step a piece: volume grows a step at a time."""
    starts = [piece.line for piece in session.pieces]
    first: dict[int, str] = {}
    for step in offered:
        at = max(start for start in starts if start <= step.lines[0][0])
        first.setdefault(at, step.key)
    return list(first.values())


def take(
    text: str,
    keys: list[str],
    shelf: Library | None = None,
    lifted: Mapping[int, Lifted] | None = None,
    results: Mapping[int, Sequence[Result]] | None = None,
) -> str:
    """The board's text after the steps of those keys, one after the other, so that two which touch
    the same line add up. A key the board does not offer changes nothing.
    """
    for key in keys:
        session = parse(text, shelf).session
        step = next(
            (step for step in steps(session, shelf, lifted, results) if step.key == key), None
        )
        lines = text.splitlines()
        for number, line in step.lines if step else ():
            lines[number - 1] = line
        text = "\n".join(lines) + "\n"
    return text
