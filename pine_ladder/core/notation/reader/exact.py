"""A board in exact notation: each line with the line that said it, notes, questions."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.movements import Library, Pattern
from pine_ladder.core.notation.printer import print_piece
from pine_ladder.core.notation.reader.board import Board, read
from pine_ladder.core.notation.reader.borders import LIFTING, LOOSE
from pine_ladder.core.notation.reader.conserve import Lost, implied, lost, said_twice
from pine_ladder.core.notation.reader.doubts import Doubt, doubts
from pine_ladder.core.notation.reader.in_the_hour import without_times
from pine_ladder.core.notation.reader.layout import Row, rows
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.parts import Part, is_soft
from pine_ladder.core.notation.reader.pieces import MOST_SETS, piece_of
from pine_ladder.core.notation.reader.roles import Place, other_roles
from pine_ladder.core.notation.reader.tables import which_day
from pine_ladder.core.notation.reader.work import Work, clean_note
from pine_ladder.core.notation.tokens import WHOLE_LINE, Exact

_EVERY_ROUND = re.compile(r"\W*(?:every|each) round\b", re.IGNORECASE)
SHORTEST_S = 60
"""A time in a title from this on is the length of its only piece."""
CLASS_S = 1800
"""A time in a title from this on is the length of the class."""

MOST_NOTE = 800
"""Characters of the note to a day."""


class Reading(NamedTuple):
    """A board in exact notation, line by line, and what of it is only told."""

    lines: tuple[Exact, ...]
    told: tuple[Lost, ...]
    """Numbers and movements that stand in a note alone."""
    untimed: tuple[int, ...] = ()
    """Lines of headings that do not say how their piece is timed."""
    questions: tuple[plan.Finding, ...] = ()


def _on_the_same_machine(part: Part, earlier: Sequence[Part]) -> list[Work]:
    """The machine of the piece before intervals that name none: `bike 20 min`, `10 x 20 s hard`."""
    before = [work for last in earlier[-1:] for work in last.works]
    if len(before) != 1 or before[0].known is None:
        return []
    if Pattern.ENGINE not in before[0].known.patterns:
        return []
    return [Work(part.number, 0, name=before[0].name, known=before[0].known)]


def exact_board(lines: Sequence[str], library: Library) -> Reading:
    """A board in exact notation, each line with the line of the board that said it."""
    board = read(lines, library)
    parts = _kept(board)
    parts = _without_soft_end([one for part in parts for one in _by_sets(part)])
    class_s = _time_of_the_title(board, parts)
    pieces = []
    for place, part in enumerate(parts):
        if part.exactly is not None:
            pieces.append(plan.Piece(line=part.number, role=plan.Role.REST, format=_NO_FORMAT))
            continue
        lifting = part.role in ("", *LIFTING) and (part.facts.builds or not part.facts.slot)
        if (
            board.lift is not None
            and lifting
            and not (part.works or part.sections or part.rest_only)
        ):
            part.works = [replace(board.lift, row=part.number)]
        if part.fresh and part.facts.form == "intervals" and not part.rest_only:
            part.works = _on_the_same_machine(part, parts[:place])
        part.alone = len(parts) == 1
        _name_apart(part)
        pieces.append(piece_of(part, library, place, len(parts)))
    head, said = _head(board, class_s, lines), without_times(rows(lines))[0]
    body: list[Exact] = []
    lost_words: list[Lost] = []
    for place in range(len(parts)):
        if (exactly := parts[place].exactly) is not None:
            body += _as_written(place, parts, exactly, lines)
            continue
        of_it = _rows_of(place, parts, said)
        items, lost_here = _told(place, parts, pieces, of_it, head, lines, library)
        lost_words += lost_here
        body += [
            Exact(number, text, text.strip() != lines[number - 1].strip()) for number, text in items
        ]
    lost_words += _work_in_notes(board, said, library)
    if not parts:
        lost_words += [one for one in lost(said, "", library) if one.amount]
    out = [*head, *body]
    given = {one.number for one in out}
    out += [
        Exact(at, "", bool(line.strip()))
        for at, line in enumerate(lines, start=1)
        if at not in given
    ]
    ordered = tuple(sorted(out, key=lambda one: one.number))
    open_ends = [_open_end(*one) for one in zip(parts, pieces, strict=True)]
    asked = [
        (place, doubt)
        for place, part in enumerate(parts)
        for doubt in doubts(
            pieces[place],
            stations=part.stations,
            in_turn=_take_turns(part),
            untimed=open_ends[place],
            unitless=bool(part.works) and all(work.unitless for work in part.works),
            roles=other_roles(
                part, pieces[place].role, pieces[place].format, Place(place, len(parts))
            ),
        )
    ]
    untimed = tuple(part.number for place, part in enumerate(parts) if open_ends[place])
    questions = (*which_day(rows(lines)), *_questions(ordered, asked, pieces))
    return Reading(ordered, tuple(lost_words), untimed, questions)


_TURNS = re.compile(r"\b(?:alternat|rotat|in turn|odds?\b|evens?\b)", re.IGNORECASE)


def _take_turns(part: Part) -> bool:
    """Whether it was said that its stations take turns, or how long all its windows last."""
    return bool(part.facts.total_s or _TURNS.search(part.typed))


def _time_of_the_title(board: Board, parts: Sequence[Part]) -> int:
    """Give the only piece the time in the title; else it is the length of the class (seconds)."""
    if not board.title_s:
        return 0
    if len(parts) != 1:
        return board.title_s[0] if board.title_s[0] >= CLASS_S else 0
    facts = parts[0].facts
    if not facts.length and not facts.slot and board.title_s[0] >= SHORTEST_S:
        if not facts.form and _EVERY_ROUND.match(board.parts[0].opening):
            facts.form, facts.length = "amrap", board.title_s  # `30 min grind`, `every round: …`
            return 0
        facts.slot = board.title_s
    return 0


_NO_FORMAT = plan.Rest(length_s=1)
"""The format of a piece in exact notation, which is not read here."""


def _as_written(
    place: int, parts: Sequence[Part], exactly: Mapping[int, list[str]], lines: Sequence[str]
) -> Iterator[Exact]:
    """The lines of a piece in exact notation, plain ones among them as they were read."""
    first = parts[place].number
    end = parts[place + 1].number if place + 1 < len(parts) else len(lines) + 1
    for number in range(first, end):
        if number in exactly:
            typed = lines[number - 1].strip()
            yield from (Exact(number, text, text != typed) for text in exactly[number] or [""])
        else:
            yield Exact(number, lines[number - 1], False)


def _open_end(part: Part, piece: plan.Piece) -> bool:
    """Whether nobody said how a piece of conditioning is timed."""
    if part.facts.frames or part.rest_only or piece.role is not plan.Role.CONDITIONING:
        return False
    return isinstance(piece.format, plan.Rounds)


def _rows_of(place: int, parts: Sequence[Part], said: Sequence[Row]) -> list[Row]:
    """The rows from a part's on to the next; those before all parts belong to the first."""
    start = parts[place].number if place else 0
    after = (part.number for part in parts[place + 1 :] if part.number > parts[place].number)
    end = next(after, None)
    if any(part.number == parts[place].number for part in parts[place + 1 :]):
        return []  # Said in the same line as the next part, which answers for all of it.
    return [row for row in said if start <= row.number and (end is None or row.number < end)]


def _told(
    place: int,
    parts: Sequence[Part],
    pieces: Sequence[plan.Piece],
    of_it: Sequence[Row],
    head: Sequence[Exact],
    lines: Sequence[str],
    library: Library,
) -> tuple[list[tuple[int, str]], list[Lost]]:
    """The printed lines of a part with its notes, and what stands in a note alone."""
    part, planned = parts[place], print_piece(pieces[place])
    notes = dict.fromkeys(
        (max(number, part.number), note)
        for number, text in part.notes
        if (note := clean_note(text))
    )
    beside = [at for at, other in enumerate(parts) if other.number == part.number]
    if place and part.within:
        beside.append(place - 1)  # Its rows say something of the piece before it too.
    named = [text for _, text, _ in head]
    printed = [*named, *(print_piece(pieces[at]) for at in beside)]
    implies = implied(plan.Session(pieces=tuple(pieces[at] for at in beside)))
    kept = "\n".join([*printed, *(note for _, note in notes)])
    for number in dict.fromkeys(one.line for one in lost(of_it, kept, library, implies)):
        if whole := clean_note(lines[number - 1]):
            notes.setdefault((max(number, part.number), whole))
    bare = _without_notes("\n".join(printed))
    items = list(zip(_numbers(part, pieces[place]), planned.splitlines(), strict=False))
    told = [one for one in lost(of_it, bare, library, implies) if one.amount]
    told += _elsewhere(of_it, items, told, library, implies)
    others = [
        one
        for at in beside
        if at != place
        for one in zip(
            _numbers(parts[at], pieces[at]), print_piece(pieces[at]).splitlines(), strict=False
        )
    ]
    told += said_twice(of_it, [*items, *others], told, library, implies)
    items += [(number, f"> {note}") for number, note in notes]
    return _in_order(items, part.number), told


def _without_notes(text: str) -> str:
    return re.sub(r"—[^|+\n]*", "", text)


def _elsewhere(
    rows_of: Sequence[Row],
    items: Sequence[tuple[int, str]],
    told: Sequence[Lost],
    library: Library,
    implies: set[str],
) -> Iterator[Lost]:
    """Numbers in the note of their own line that another line of the piece has by chance."""
    seen = {(lost_word.line, lost_word.column) for lost_word in told}
    heading = items[0][1] if items else ""
    for row in rows_of:
        own = [text for number, text in items if number == row.number]
        if not own or not row.first:
            continue
        notes = "\n".join(re.findall(r"—[^|+\n]*", "\n".join(own)))
        text = "\n".join([heading, *map(_without_notes, own)])
        for one in lost([row], text, library, implies):
            noted = one.text.strip().lower() in notes.lower()
            if one.amount and noted and (one.line, one.column) not in seen:
                yield one


def _questions(
    whole: Sequence[Exact], asked: Sequence[tuple[int, Doubt]], pieces: Sequence[plan.Piece]
) -> Iterator[plan.Finding]:
    """The doubts as questions; an answer writes the lines of its piece exactly."""
    for place, doubt in asked:
        start = pieces[place].line
        end = pieces[place + 1].line if place + 1 < len(pieces) else 1 + whole[-1].number
        lines = sorted({line.number for line in whole if start <= line.number < end})
        if not lines:
            continue  # Its line says more than this piece.
        notes = [
            line.text for line in whole if start <= line.number < end and line.text.startswith(">")
        ]
        repairs = []
        for word, piece in doubt.answers:
            text = "\n".join([print_piece(piece), *notes])
            edits = [plan.Edit(line=lines[0], start=1, end=WHOLE_LINE, text=text)]
            edits += [plan.Edit(line=at, start=1, end=WHOLE_LINE, text="") for at in lines[1:]]
            repairs.append(plan.Repair(label=word, edits=tuple(edits)))
        yield plan.Finding(
            code=doubt.code, severity="question", line=doubt.line, column=1, end_column=0,
            message=doubt.message, repairs=tuple(repairs),
        )  # fmt: skip


def _in_order(items: list[tuple[int, str]], first: int) -> list[tuple[int, str]]:
    """The lines of a piece by the rows that said them; blocks stay behind one another."""
    heading, *others = items
    if any(text == "--" for _, text in others):
        latest = first
        out = []
        for number, text in others:
            latest = max(latest, number)
            out.append((latest, text))
        return [heading, *out]
    return [heading, *sorted(others, key=lambda other: other[0])]


def _head(board: Board, class_s: int, lines: Sequence[str]) -> list[Exact]:
    """The title and the lines before the first piece."""
    out: list[Exact] = []
    if board.title:
        title = re.sub(r"\s+", " ", board.title[1]).strip()
        text = f"# {title}"
        out.append(Exact(board.title[0], text, text != lines[board.title[0] - 1].strip()))
    out += [Exact(number, text, False) for number, text in board.head]
    if class_s and not any(text.lower().startswith("class") for _, text in board.head):
        number = board.title[0] if board.title else 1
        out.append(Exact(number, f"class: {min(600, class_s // 60)} min", True))
    if board.notes and not any(text.lower().startswith("note") for _, text in board.head):
        first = board.notes[0][0]
        text = "; ".join(re.sub(r"\s+", " ", text).strip() for _, text in board.notes)
        out.append(Exact(first, f"note: {text[:MOST_NOTE]}", True))
    return out


_AMOUNTS = ("time", "prime", "distance", "cal", "by", "percent", "scheme", "number", "range")


def _work_in_notes(board: Board, said: Sequence[Row], library: Library) -> Iterator[Lost]:
    """Amounts and movements of rows above all pieces that are notes to the day: work, maybe."""
    notes = set(board.notes)
    for row in said:
        if (row.number, row.typed[row.at : row.at + len(row.text)].strip()) not in notes:
            continue
        found = tokens(row.text, library)
        kinds = [token.kind for token in found]
        asks = {"movement", "role"} & set(kinds) and set(_AMOUNTS) & set(kinds)
        if not asks or "goal" in kinds[:2]:
            continue
        for one in found:
            if one.kind in (*_AMOUNTS, "movement"):
                text = row.typed[row.at + one.start : row.at + one.end]
                yield Lost(row.number, row.at + one.start + 1, text, True)


def _kept(board: Board) -> list[Part]:
    """The parts that are pieces; what the others say becomes notes of their neighbours."""
    for one in board.parts:
        _rest_of_the_hour(one, board.library)
        if one.role and not (one.works or one.sections or one.facts.frames):
            one.facts.slot = one.facts.slot or one.idle_s
    parts = [
        part
        for part in board.parts
        if part.exactly is not None
        or part.works
        or part.sections
        or part.rest_only
        or (part.facts.frames and not _only_rounds(part))
        or (part.role and part.facts.slot)
    ]
    for one in board.parts:
        if any(one is part for part in parts) or not parts:
            continue
        before = [part for part in parts if part.number < one.number]
        target = before[-1] if before else parts[0]
        target.notes += [(one.number, one.typed.strip()), *one.notes]
    return parts


def _by_sets(part: Part) -> list[Part]:
    """A part whose line asks for other sets of each lift, as a part for each."""
    sets = [work.sets for work in part.works]
    framed = part.facts.form or part.facts.sets or part.facts.rounds or part.facts.builds
    apart = part.exactly is None and not (framed or part.label or part.sections or part.stations)
    rows_of = {work.row for work in part.works}
    if not apart or len(rows_of) > 1 or not all(sets) or len(set(sets)) < 2:
        return [part]
    if (
        len({work.name for work in part.works}) == 1
        and sum(count[0] for count in sets) <= MOST_SETS
    ):
        return [part]  # Sets of one lift are one piece, written out.
    out: list[Part] = []
    for work in part.works:
        if out and out[-1].works[-1].sets == work.sets:
            out[-1].works.append(work)
        elif out:
            facts = replace(part.facts, rest=(), cap=0)
            number = max(part.number, work.row)
            more = replace(part, works=[work], notes=[], facts=facts, within=True, name="")
            out.append(replace(more, number=number))
        else:
            out.append(replace(part, works=[work]))
    return out


def _without_soft_end(parts: list[Part]) -> list[Part]:
    """The parts, with stretches that come last, `then hip flexors`, as a cool-down of their own."""
    if not parts or parts[-1].exactly is not None or parts[-1].role in LOOSE:
        return parts
    last = parts[-1]
    at = len(last.works)
    while at and is_soft(last.works[at - 1]) and not last.works[at - 1].sets:
        at -= 1
    soft = last.works[at:]
    if all(
        work.known is not None and (work.known.easy or work.name == "walk")
        for work in last.works[:at]
    ):
        return parts  # All of it is easy.
    if not at or not soft or not soft[0].then or any(one.station for one in soft):
        return parts
    last.works = last.works[:at]
    return [*parts, Part(soft[0].row, role="cool-down", typed=last.typed, works=soft)]


def _only_rounds(part: Part) -> bool:
    """Whether a part is a sentence that names rounds and no work: `Too easy? Do 7 rounds.`"""
    facts = part.facts
    framed = facts.form or facts.sets or facts.scheme or facts.builds or facts.ladder
    return part.within and not (part.role or framed or part.label)


def _rest_of_the_hour(part: Part, library: Library) -> None:
    """A cool-down or mobility of which nothing more is said is easy stretching."""
    if (
        part.works
        or part.exactly is not None
        or part.sections
        or part.facts.frames
        or part.role not in ("cool-down", "mobility")
    ):
        return
    name = "easy stretching"
    part.works = [Work(part.number, 0, name=name, known=library.find(name))]


def _name_apart(part: Part) -> None:
    """A movement in a heading whose work stands below it is its name, not work."""
    first = [work for work in part.works if work.row == part.number]
    more = [work for work in part.works if work.row != part.number]
    if not (first and more and part.facts.form):
        return
    for one in first:
        long = isinstance(one.amount, plan.Duration) and one.amount.seconds >= 300
        if (
            (one.amount is None or long)
            and one.load is None
            and not one.place
            and one.station is None
        ):
            part.works.remove(one)


def _numbers(part: Part, piece: plan.Piece) -> list[int]:
    """The line of the board that said each line of a printed piece."""
    out = [part.number]
    out += [line.line or part.number for line in piece.buy_in]
    for index, block in enumerate(piece.blocks):
        if index:
            out.append(out[-1])
        out += [line.line or part.number for line in block.lines]
    out += [line.line or part.number for line in piece.cash_out]
    return out
