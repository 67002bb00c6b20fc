"""Rows before any piece, and rows that only name a lift: titles, lifts whose sets follow."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import TYPE_CHECKING

from pine_ladder.core import plan
from pine_ladder.core.notation.reader.borders import LOOSE
from pine_ladder.core.notation.reader.clause import Clause
from pine_ladder.core.notation.reader.counts import MARKS, seconds
from pine_ladder.core.notation.reader.facts import Facts, Range
from pine_ladder.core.notation.reader.labels import label_of
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.parts import Part, merge_facts
from pine_ladder.core.notation.reader.work import Work

if TYPE_CHECKING:
    from pine_ladder.core.notation.reader.board import Board

MARKS_OF_A_NAME = (
    "filler", "colon", "stop", "at", "percent", "rpe", "weight", "open", "close", "comma", "dash",
)  # fmt: skip
"""Kinds of token that may stand beside the name of a lift: `Deadlift @ 80 %`."""
LONG_TITLE = 100
MOST_OF_A_LIFT = 12
"""Reps up to which steps below the name of a lift are its sets."""


def before_all(board: Board, clause: Clause, following: Row | None) -> bool:
    """A row before any piece: a title, a lift whose sets follow, or a word to the coach."""
    facts, works = clause.facts, clause.works
    if (length := _length_of_a_list(board, clause, following)) is not None:
        clause.slot, clause.works = length, []
        return False
    if facts.builds and (works or board.lift is not None):
        return False
    builds = facts.builds and not (works or facts.form or facts.rounds or facts.sets)
    unsaid = clause.role and clause.slot and not clause.counted and not facts.frames
    if unsaid and _letters_follow(following):
        clause.role, clause.slot, clause.facts = "", (), Facts()  # `Lower body strength, 45 min`
    if clause.role or clause.slot or clause.marked("part", "letter", "small", "partner"):
        return False
    if _sums_up(board, clause, following):
        works, facts = [], Facts()
        clause.works = []
    if facts.frames and not (builds and not facts.scheme):
        return False
    if facts.team or facts.how:
        merge_facts(board.teams, facts)
    if facts.cap and not clause.counted:
        board.teams.cap = facts.cap
    if clause.counted and not facts.team:
        return False
    if facts.quality:
        board.teams.quality = True
    if not works and not clause.loose and (facts.cap or facts.quality or facts.team):
        return True
    if works and not clause.counted:
        board.lift = works[0]
    said = tokens(clause.row.text, board.library)
    moves = [token for token in said if token.kind == "movement"]
    if not works and board.lift is None and len(moves) == 1:
        known = board.library.find(str(moves[0].means["movement"]))
        if known is not None and known.reference_kg:
            work = Work(clause.row.number, moves[0].start, name=known.name, known=known)
            board.lift = work  # `Back squats today.`
    times = [token for token in said if token.kind in ("time", "prime")]
    first = next((token for token in said if token.kind != "filler"), None)
    begins = bool(times) and first is times[0] and not board.title_s
    if times and (board.title is None or begins):
        board.title_s = seconds(times[0])
    title = re.sub(r"^[#>*\s•-]+|[*_\s]+$", "", clause.typed).strip()
    if re.fullmatch(r'["“][^"“”]*["”]', title):
        title = title[1:-1]
    if board.title is None and len(title) <= LONG_TITLE:
        board.title = (clause.row.number, title)
        kinds = [token.kind for token in said if token.kind not in (*MARKS, "filler", "stop")]
        board.lift_named = board.lift is not None and kinds == ["movement"]
    else:
        board.note(clause.row.number, clause.typed)
    return True


def _length_of_a_list(board: Board, clause: Clause, following: Row | None) -> Range | None:
    """The time of words and a time, `Get moving, 7 min`, that head a list below a title."""
    row = clause.row
    if board.title is None or following is None or following.gap or clause.works:
        return None
    kinds = [token.kind for token in clause.body if token.kind not in (*MARKS, "filler")]
    timed = kinds[-1:] in (["time"], ["prime"]) and set(kinds[:-1]) == {"word"}
    if not timed or following.indent <= row.indent or clause.marked():
        return None
    return seconds(next(token for token in clause.body if token.kind == kinds[-1]))


def _sums_up(board: Board, clause: Clause, following: Row | None) -> bool:
    """`Kettlebell conditioning 24 min` above parts that have times of their own: a title."""
    said = tokens(clause.row.text, board.library)
    kinds = [token.kind for token in said if token.kind != "filler"]
    timed = sum(kind in ("time", "prime") for kind in kinds) == 1
    if not timed or "role" not in kinds or clause.facts.frames or following is None:
        return False
    if _letters_follow(following):
        return True
    return any(token.kind in ("time", "prime") for token in tokens(following.text, board.library))


def _letters_follow(following: Row | None) -> bool:
    """Whether the row below is marked with a letter, as the first of several parts."""
    label = label_of(following) if following is not None else None
    return label is not None and label.kind == "letter"


def steps_of_the_title(board: Board, clause: Clause, following: Row | None) -> None:
    """Take falling reps below a title that names a lift, with other sets below, as its sets."""
    lift, steps = board.lift, clause.facts.scheme
    if lift is None or lift.known is None or not lift.known.reference_kg or clause.works:
        return
    below = tokens(following.text, board.library) if following is not None else ()
    more = any(one.kind in ("by", "sets", "percent") for one in below)
    if len(steps) > 1 and max(steps) <= MOST_OF_A_LIFT and more and not clause.facts.form:
        clause.works = [replace(lift, row=clause.row.number, amount=plan.Scheme(values=steps))]
        clause.facts.scheme = ()


def names_a_lift(board: Board, clause: Clause, following: Row | None) -> bool:
    """Whether a row behind a blank one is a lift alone, whose sets or windows stand below."""
    row, here = clause.row, board.here
    if here is None or here.fresh or here.exactly is not None:
        return False
    if not row.gap and not _sets_alone(board, here, following):
        return False
    if clause.slot or clause.role or clause.marked("part", "letter"):
        return False
    kinds = [token.kind for token in clause.body if token.kind not in MARKS_OF_A_NAME]
    deeper = following is not None and following.indent > row.indent
    timed = [kind for kind in kinds if kind in ("time", "prime")]
    if len(kinds) == 2 and len(timed) == 1 and "movement" in kinds and clause.works:
        known = clause.works[0].known
        if known is None or not known.reference_kg:
            return False
        clause.slot = seconds(next(token for token in clause.body if token.kind == timed[0]))
        clause.works[0].amount, kinds = None, ["movement"]
    if kinds != ["movement"] or not clause.works or following is None or following.gap:
        return False
    if deeper and clause.slot:
        return True  # `Bench, 20 min`, and its work below
    below = tokens(following.text, board.library)
    framed = {"every", "every n", "emom", "every minute", "sets", "by", "percent", "build"}
    return any(token.kind in framed for token in below)


def _sets_alone(board: Board, here: Part, following: Row | None) -> bool:
    """Whether sets without a movement, `5 x 5 from 60 %`, stand below a row behind a warm-up."""
    if following is None:
        return False
    below = [
        token.kind for token in tokens(following.text, board.library) if token.kind != "filler"
    ]
    if below[:1] == ["build"] and here.facts.frames and "movement" not in below:
        return True
    if here.role not in LOOSE:
        return False
    return below[:2] == ["by", "number"] and "movement" not in below


def labels_its_lift(board: Board, clause: Clause, following: Row | None) -> bool:
    """Whether `Part 2: Squat` is the name of what stands below, `back squat 3x3`, and no work."""
    opens = clause.marked("part", "letter") or clause.role
    if not opens or following is None or following.gap or not clause.works:
        return False
    kinds = [token.kind for token in clause.body if token.kind not in MARKS_OF_A_NAME]
    below = tokens(following.text, board.library)
    framed = {"sets", "by", "scheme", "percent", "build", "every"} & {token.kind for token in below}
    moves = {
        str(token.means["movement"]).split(" ")[-1] for token in below if token.kind == "movement"
    }
    same = clause.works[0].name.split(" ")[-1] in moves
    named = same or (moves and clause.marked("part", "letter"))
    return kinds == ["movement"] and bool(framed) and bool(named)


def names_sets(board: Board, row: Row) -> bool:
    """Whether a row begins with sets of a movement: `3x8 back extension`."""
    kinds = [token.kind for token in tokens(row.text, board.library) if token.kind != "filler"]
    return kinds[:1] == ["by"] and "movement" in kinds
