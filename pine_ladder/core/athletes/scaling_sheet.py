"""The scaling sheet: the whole class on one piece, and the kit it needs at once."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from pine_ladder.core import plan
from pine_ladder.core.athletes.advice import Advice, Question, advise, questions, together
from pine_ladder.core.athletes.members import Member, Rack, athletes
from pine_ladder.core.athletes.scaling import Version, recommend
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.printer import exercise_text
from pine_ladder.core.pace.runs import Run, run
from pine_ladder.core.pace.testrun import result_words, sum_up, words_of
from pine_ladder.core.plan import Frozen
from pine_ladder.core.scores.kinds import score_kind
from pine_ladder.core.tiers import DEFAULT_TIERS
from pine_ladder.core.units import number_text


class Row(Frozen):
    """An athlete's line of the scaling sheet; `predicted` is their result in words.

    `advice` says what would keep the intent where this does not; `ask` what to ask someone new.
    """

    id: int
    name: str
    tier: int
    track: int
    versions: tuple[Version, ...]
    predicted: str
    advice: Advice | None = None
    ask: tuple[Question, ...] = ()


class KitNeed(Frozen):
    """Kit of which a class needs more at once than there is, and the two ways out."""

    kit: str
    needed: int
    owned: int
    heats: int
    heats_add_s: int
    share: int


class Sheet(Frozen):
    """The scaling sheet of a piece: its lines as written and as each tier does them, a row an
    athlete, kit that clashes.
    """

    lines: tuple[str, ...]
    tiers: tuple[tuple[str, ...], ...]
    movements: tuple[str, ...]
    rows: tuple[Row, ...]
    kit: tuple[KitNeed, ...]


def tasks_of(piece: plan.Piece) -> list[plan.Task]:
    """All tasks of a piece in the order of the board."""
    lines = (*piece.buy_in, *piece.lines, *piece.cash_out)
    return [task for line in lines for task in line.tasks]


def own_piece(piece: plan.Piece, versions: Sequence[Version]) -> plan.Piece:
    """The piece with one athlete's versions in place of all tiers'."""
    mine = iter(versions)

    def own(line: plan.Line) -> plan.Line:
        tasks = tuple(plan.Task(versions=(next(mine).exercise,)) for _ in line.tasks)
        return line.model_copy(update={"tasks": tasks})

    buy_in = tuple(own(line) for line in piece.buy_in)
    blocks = tuple(
        block.model_copy(update={"lines": tuple(own(line) for line in block.lines)})
        for block in piece.blocks
    )
    cash_out = tuple(own(line) for line in piece.cash_out)
    return piece.model_copy(update={"buy_in": buy_in, "blocks": blocks, "cash_out": cash_out})


def foretold(
    piece: plan.Piece, members: Sequence[Member], library: Library
) -> list[tuple[float, str]]:
    """What each member is predicted to score on a piece in their tier: the number, and words."""
    out: list[tuple[float, str]] = [(0.0, "")] * len(members)
    for tier in {member.tier for member in members}:
        places = [at for at, member in enumerate(members) if member.tier == tier]
        done = run(piece, athletes([members[at] for at in places], library), library, tier)
        for row, at in enumerate(places):
            number = float(done.result[row])
            out[at] = (number, result_words(done.kind, number))
    return out


def own_session(
    session: plan.Session,
    member: Member,
    library: Library,
    rack: Rack,
    schools: Mapping[str, str] | None = None,
) -> tuple[plan.Session, dict[tuple[int, int], tuple[str, str]]]:
    """A session in one athlete's versions; why and what to load, by line and place in the line."""
    words: dict[tuple[int, int], tuple[str, str]] = {}
    pieces = []
    for piece in session.pieces:
        versions = []
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
            for place, task in enumerate(line.tasks):
                one = recommend(task, member, library, rack, schools)
                versions.append(one)
                words[(line.line, place)] = (one.reason, one.loading)
        pieces.append(own_piece(piece, versions))
    return session.model_copy(update={"pieces": tuple(pieces)}), words


def _predicted(piece: plan.Piece, done: Run, at: int, tier: int) -> str:
    """What one athlete would do with a piece of their own versions, in words."""
    if score_kind(piece) is None and not piece.lines:
        return ""
    return words_of(sum_up(done.only(slice(at, at + 1)), tier))


def scaling_sheet(
    piece: plan.Piece,
    members: Sequence[Member],
    library: Library,
    rack: Rack,
    schools: Mapping[str, str] | None = None,
    at_once: int | None = None,
    tiers: int = len(DEFAULT_TIERS),
) -> Sheet:
    """The whole class on a piece: every athlete's versions and prediction, and the kit.

    Where the members are more than come `at_once`, kit is told for a class of that size.
    """
    tasks = tasks_of(piece)

    def versions_of(member: Member) -> tuple[Version, ...]:
        return tuple(recommend(task, member, library, rack, schools) for task in tasks)

    def own(member: Member) -> plan.Piece:
        return own_piece(piece, versions_of(member))

    versions = [versions_of(member) for member in members]
    runs = together([own_piece(piece, mine) for mine in versions], members, library)
    advised = advise(piece, members, runs, own, library, tiers)
    rows = [
        Row(
            id=member.id,
            name=member.name,
            tier=member.tier,
            track=member.track,
            versions=mine,
            predicted=_predicted(piece, done, at, member.tier),
            advice=advice,
            ask=questions(tasks, member, library),
        )
        for member, mine, (done, at), advice in zip(members, versions, runs, advised, strict=True)
    ]
    lines = tuple(exercise_text(task.versions[0]) for task in tasks)
    names = tuple(task.versions[0].movement for task in tasks)
    return Sheet(
        lines=lines,
        tiers=tuple(
            tuple(exercise_text(task.version(tier)) for task in tasks) for tier in range(tiers)
        ),
        movements=names,
        rows=tuple(rows),
        kit=clashes(piece, members, rows, library, rack, at_once),
    )


def clashes(
    piece: plan.Piece,
    members: Sequence[Member],
    rows: Sequence[Row],
    library: Library,
    rack: Rack,
    at_once: int | None = None,
) -> tuple[KitNeed, ...]:
    """Kit the class needs more of at once than the gym has, by what each athlete really uses.

    Stations and teams who take turns divide the class; heats add the piece again for each wave.
    """
    turns = max((len(b.lines) if b.numbered else 1 for b in piece.blocks), default=1)
    teams = piece.teams.size if piece.teams and piece.teams.how != "together" else 1
    parts = turns * teams * (piece.heats or 1)
    users: dict[str, int] = {}
    for row in rows:
        used = set()
        for version in row.versions:
            for each in version.exercise.units:
                movement = library.find(each.movement)
                for kit in movement.kit if movement else ():
                    used.add(_item(kit, version.exercise, rack))
        for item in used:
            users[item] = users.get(item, 0) + 1
    found = []
    part = min(1.0, at_once / len(rows)) if at_once and rows else 1.0
    for item, users_of_it in sorted(users.items()):
        count = math.ceil(users_of_it * part)
        owned = sum(n for name, n in rack.kit.items() if name.startswith(tuple(item.split(" or "))))
        needed = -(-count // parts)
        if owned and needed > owned:
            waves = -(-needed // owned)
            longest = float(run(piece, athletes(members, library), library, 0).time_s.max())
            found.append(
                KitNeed(
                    kit=item,
                    needed=needed,
                    owned=owned,
                    heats=waves * (piece.heats or 1),
                    heats_add_s=round((waves - 1) * longest),
                    share=waves,
                )
            )
    return tuple(found)


def _item(kit: str, exercise: plan.Exercise, rack: Rack) -> str:
    """The very implement where the gym counts it by weight: `kettlebell 16 kg`."""
    load = exercise.load
    if isinstance(load, plan.Weight) and load.unit == "kg":
        name = f"{kit} {number_text(load.values[0])} kg"
        if name in rack.kit:
            return name
    return kit
