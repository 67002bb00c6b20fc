"""Which piece is which after an edit: a score's piece is found again, or the coach is asked."""

import random

from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st

from pine_ladder.core.day.piece_matching import match
from pine_ladder.core.notation import parse

POOL = (
    ("Warm-up", "", "3 rounds", ("10 air squat", "10 push-up")),
    ("Strength", "Front Line", "5 sets, rest 2:00", ("5 front squat @ 70%",)),
    ("Conditioning", "Slack Water", "AMRAP 12:00", ("10 push press @ 40/30 kg", "15 sit-up")),
    ("Conditioning", "Neap", "EMOM 8:00", ("1) 12 kettlebell swing @ 24/16 kg", "2) 8 burpee")),
    ("Conditioning", "Ebb", "21-15-9 for time", ("thruster @ 40/30 kg", "pull-up")),
    ("Core", "", "3 rounds", ("0:30 plank", "20 hollow rock")),
    ("Cool-down", "", "continuous 5:00", ("5:00 walk",)),
)
ELSEWHERE = (
    ("Conditioning", "Undertow", "5 rounds for time", ("400 m run", "12 box jump @ 60/50 cm")),
    ("Skill", "", "accumulate", ("3:00 handstand hold",)),
)


class Board:
    """A board as pieces with the identity a coach would give them."""

    def __init__(self, pieces):
        self.pieces = [(i, *one[:3], list(one[3])) for i, one in enumerate(pieces)]

    def text(self):
        out = []
        for _, role, name, form, lines in self.pieces:
            title = f' "{name}"' if name else ""
            out.append("\n".join([f"## {role}{title}: {form}", *lines]))
        return "# Day\n\n" + "\n\n".join(out) + "\n"

    def read(self):
        return parse(self.text()).session.pieces


def edit(board, chance, fresh):
    """One thing a coach does to a board; every piece keeps who it is."""
    pieces = board.pieces
    at = chance.randrange(len(pieces)) if pieces else 0
    what = chance.choice(
        ["rename", "reorder", "remove", "insert", "line", "add line", "format", "drop line"]
    )
    if what == "insert" or not pieces:
        one = chance.choice(ELSEWHERE)
        pieces.insert(at, (f"new {fresh}", one[0], f"{one[1]} {fresh}", one[2], list(one[3])))
        return
    who, role, name, form, lines = pieces[at]
    if what == "rename":
        pieces[at] = (who, role, f"Renamed {fresh}", form, lines)
    elif what == "reorder":
        pieces.insert(chance.randrange(len(pieces)), pieces.pop(at))
    elif what == "remove":
        pieces.pop(at)
    elif what == "line":
        pieces[at] = (who, role, name, form, [*lines[:-1], f"{7 + fresh} wall ball @ 9/6 kg"])
    elif what == "add line":
        pieces[at] = (who, role, name, form, [*lines, f"{5 + fresh} lunge, each side"])
    elif what == "drop line" and len(lines) > 1:
        pieces[at] = (who, role, name, form, lines[1:])
    elif what == "format":
        pieces[at] = (who, role, name, "AMRAP 17:00", lines)


@settings(max_examples=examples(250))
@given(st.integers(0, 10**9), st.integers(1, 6))
def test_no_edit_ever_takes_a_piece_for_another_without_asking(seed, steps):
    chance = random.Random(seed)
    board = Board(chance.sample(POOL, chance.randint(1, len(POOL))))
    for step in range(steps):
        before, old = [one[0] for one in board.pieces], board.read()
        edit(board, chance, step)
        after, new = [one[0] for one in board.pieces], board.read()
        found = match(old, new)
        for j, i in enumerate(found.of_new):
            if i is not None and i not in found.doubtful:
                assert before[i] == after[j], board.text()
        for i in found.gone:
            # A piece still there may be lost only where it was changed beyond knowing.
            assert before[i] not in after or old[i] not in new


@given(st.permutations(POOL))
def test_reordering_alone_is_never_in_doubt(order):
    old = Board(POOL).read()
    new = Board(order).read()
    found = match(old, new)
    assert not found.gone
    assert not found.doubtful
    assert [old[i] for i in found.of_new] == list(new)


@given(st.permutations(POOL), st.integers(0, len(POOL) - 1), st.data())
def test_one_piece_removed_leaves_all_others_where_they_were(order, drop, data):
    old = Board(order).read()
    left = [one for n, one in enumerate(order) if n != drop]
    found = match(old, Board(left).read())
    assert found.gone == (drop,)
    assert found.of_new == tuple(n for n in range(len(order)) if n != drop)


def pieces(*texts):
    return parse("# Day\n\n" + "\n\n".join(texts) + "\n").session.pieces


A = '## Conditioning "Neap": AMRAP 12:00\n10 push-up\n20 sit-up'
B = '## Conditioning "Ebb": 21-15-9 for time\nthruster @ 40/30 kg\npull-up'


def test_a_copy_beside_its_original_is_asked_about():
    found = match(pieces(A), pieces(A, A))
    assert found.doubtful == (0,)
    assert found.gone == ()


def test_two_equal_pieces_of_which_one_goes_are_asked_about():
    assert match(pieces(A, A), pieces(A)).doubtful == (0,)
    assert len(match(pieces(A, A), pieces(A)).gone) == 1


def test_another_piece_in_the_place_of_one_is_not_that_piece():
    found = match(pieces(A), pieces(B))
    assert (found.of_new, found.gone) == ((None,), (0,))


def test_names_exchanged_go_with_their_work():
    swapped = pieces(A.replace("Neap", "Ebb"), B.replace("Ebb", "Neap"))
    assert match(pieces(A, B), swapped).of_new == (0, 1)


def test_all_lines_new_under_the_same_name_is_the_same_piece():
    other = '## Conditioning "Neap": AMRAP 15:00\n12 wall ball @ 9/6 kg\n200 m run'
    found = match(pieces(B, A), pieces(B, other))
    assert (found.of_new, found.doubtful) == ((0, 1), ())


def test_a_nameless_piece_replaced_by_another_in_its_place_is_asked_about():
    first = "## Conditioning: AMRAP 12:00\n10 push-up\n20 sit-up"
    other = "## Conditioning: AMRAP 12:00\n5 clean @ 60/40 kg\n200 m run"
    found = match(pieces(first), pieces(other))
    assert found.doubtful == (0,)


def test_a_new_name_for_the_same_work_is_sure_where_nothing_else_is_like_it():
    renamed = pieces(A.replace("Neap", "Flow"))
    assert (match(pieces(A), renamed).of_new, match(pieces(A), renamed).doubtful) == ((0,), ())


def test_other_timing_or_rest_alone_is_the_same_piece():
    for changed in (
        A.replace("AMRAP 12:00", "AMRAP 12:00, rest 1:00"),
        A.replace("AMRAP 12:00", "3 rounds for time"),
        A.replace("Conditioning", "Core"),
    ):
        found = match(pieces(B, A), pieces(B, changed))
        assert (found.of_new, found.doubtful) == ((0, 1), ()), changed


def pieces_of(*texts):
    return parse("\n\n".join(texts)).session.pieces


ONE = '## Conditioning "Neap": AMRAP 10:00\n10 burpee\n8 pull-up'
RENAMED = ONE.replace("Neap", "Undertow")
LIKE_IT = '## Conditioning "Lee": AMRAP 10:00\n10 burpee\n9 pull-up'


def test_the_same_work_by_another_name_is_the_same_piece():
    found = match(pieces_of(ONE), pieces_of(RENAMED))
    assert (found.of_new, found.doubtful) == ((0,), ())


def test_where_another_piece_is_as_like_it_the_coach_is_asked():
    """Two of before may have become the one that is left, or one may have become either of two."""
    before = match(pieces_of(LIKE_IT, ONE), pieces_of(RENAMED))
    assert before.of_new == (None,) or before.doubtful
    after = match(pieces_of(ONE), pieces_of(LIKE_IT.replace("Lee", "Ebb"), RENAMED))
    assert after.of_new.count(0) == 0 or after.doubtful


def test_pieces_without_lines_are_like_each_other_alone():
    rest, lines = "## Rest: 2:00", "## Conditioning: 3 rounds\n10 burpee"
    found = match(pieces_of(rest, lines), pieces_of("## Rest: 3:00", lines))
    assert found.of_new == (0, 1)
