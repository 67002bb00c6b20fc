"""Plain writing: boards as they stand on a whiteboard, read as their exact twins or asked about."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st
from plans import sessions

from pine_ladder.core import plan
from pine_ladder.core.checks import Ground, check, foresee
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.edits import apply
from pine_ladder.core.notation.parser import READ_AS
from pine_ladder.core.notation.weights import with_units
from pine_ladder.core.pace.testrun import test_run
from pine_ladder.core.tiers import DEFAULT_TIERS

HERE = Path(__file__).parent.parent / "plain"
PAIRS = json.loads((HERE / "pairs.json").read_text())


def rows(name: str) -> list[tuple[str, str]]:
    """`plain => exact`, a row each."""
    lines = (HERE / name).read_text().splitlines()
    return [(plain, exact) for plain, _, exact in (line.partition(" => ") for line in lines)]


def boards() -> list[tuple[str, str]]:
    both = (HERE / "boards.txt").read_text().strip().split("\n===\n")
    return [(plain, exact) for plain, _, exact in (one.partition("\n=>\n") for one in both)]


DOUBTS = {"whose-tier", "rounds-or-windows", "timed-rounds", "fill-never", "syntax"}


def findings(text: str) -> list[plan.Finding]:
    """All a coach is told of a board at the command line."""
    parsed = parse(text)
    ground = Ground(library())
    runs = [test_run(piece, ground.library, 3) for piece in parsed.session.pieces]
    foreseen = foresee(parsed.session, runs, ground, DEFAULT_TIERS)
    return [*parsed.findings, *check(parsed.session, ground), *foreseen]


def printed(text: str) -> str:
    return print_session(parse(text).session)


@pytest.mark.parametrize("pair", PAIRS["read_as"], ids=lambda pair: pair["plain"][:40])
def test_a_plain_board_prints_as_its_exact_twin(pair):
    assert printed(pair["plain"]) == printed(pair["same_as"])
    # Whoever wrote it is told how every line was read.
    assert all(f.code == READ_AS for f in parse(pair["plain"]).findings)


@pytest.mark.parametrize(("plain", "exact"), boards(), ids=lambda text: text[:30])
def test_a_whole_day_written_plainly_is_read(plain, exact):
    assert printed(plain).strip() == exact
    assert parse(exact).findings == ()


PAGE = (Path(__file__).parents[2] / "docs" / "board-notation.md").read_text()
TOLD = re.findall(r"```plain\n(.*?)\n→\n(.*?)\n```", PAGE, re.DOTALL)


@pytest.mark.parametrize(("plain", "exact"), TOLD, ids=lambda text: text[:30])
def test_what_the_notation_tells_of_plain_writing_is_so(plain, exact):
    assert printed(plain).strip() == exact
    assert parse(exact).findings == ()


@pytest.mark.parametrize(("plain", "exact"), rows("headings.txt"))
def test_a_heading_as_it_is_said(plain, exact):
    assert printed(f"{plain}\n10 burpees\n").splitlines()[0] == exact
    assert printed(f"## {plain}\n10 burpees\n").splitlines()[0] == exact


@pytest.mark.parametrize(("plain", "exact"), rows("lines.txt"))
def test_a_line_as_it_is_said(plain, exact):
    # How often is the heading's to say: a line may say the same again.
    often = re.search(r"\b(\d)\s?x\s?\d+(?! ?kg)(?= [a-z]| \d+ ?kg| \d+%)", plain)
    form = f"{often[1]} sets" if often else "AMRAP 12"
    assert printed(f"{form}\n{plain}\n").splitlines()[1:] == [exact]


def test_sets_of_a_piece_for_time_are_its_rounds():
    assert printed("for time\n3x10 push-ups") == (
        "## Conditioning: 3 rounds for time\n10 push-up\n"
    )


@pytest.mark.parametrize("heading", ["AMRAP 10", "## Strength: 5 sets", "EMOM 10"])
def test_sets_that_the_piece_has_not_are_never_left_out(heading):
    parsed = parse(f"{heading}\n3x10 push-ups")
    (problem,) = [f for f in parsed.findings if f.code != READ_AS]
    assert problem.message.startswith(
        ("3x10: how often is said in the heading", "3x: kept as a note")
    )
    assert (problem.line, problem.severity in ("error", "warning")) == (2, True)
    assert "3x10" in print_session(parsed.session) or problem.severity == "error"


POUNDS = library().in_unit("lb")
WRITTEN = [pair["plain"] for pair in PAIRS["read_as"]] + [plain for plain, _ in boards()]


@pytest.mark.parametrize(
    ("plain", "exact"),
    [
        ("10 KBS 53/35", "10 kettlebell swing @ 53/35 lb"),
        ("10 thrusters 95", "10 thruster @ 95 lb"),
        ("10 KBS 24 kg", "10 kettlebell swing @ 24 kg"),
        ("5 box jumps 24", "5 box jump @ 24 in"),
        ("40 m farmers carry 2 x 53", "40 m farmer carry @ 2 x 53 lb"),
    ],
)
def test_a_load_without_a_unit_is_in_the_gyms(plain, exact):
    board = parse(f"AMRAP 10\n{plain}", POUNDS)
    assert print_session(board.session).splitlines()[1:] == [exact]
    assert f"read as {exact}" in [found.message for found in board.findings]


@pytest.mark.parametrize("plain", WRITTEN, ids=lambda text: text[:30])
def test_a_board_with_its_units_written_out_says_the_same_in_every_gym(plain):
    for gym in (library(), POUNDS):
        told = with_units(plain, gym)
        meant = print_session(parse(plain, gym).session)
        assert print_session(parse(told, library()).session) == meant
        assert print_session(parse(told, POUNDS).session) == meant
        assert with_units(told, gym) == told


def test_only_lines_whose_load_has_no_unit_are_written_out():
    board = "AMRAP 12\n10 KBS 24\n10 burpees\n200m run\n"
    told = with_units(board, library())
    assert told == board.replace("10 KBS 24", "10 kettlebell swing @ 24 kg")


@pytest.mark.parametrize("gym", [library(), POUNDS], ids=["kg", "lb"])
@pytest.mark.parametrize(
    ("plain", "exact"),
    [
        ("10 KBS 24\n5 DL 100 kg", "10 kettlebell swing @ 24 kg\n5 deadlift @ 100 kg"),
        ("10 KBS 53\n5 DL 185 lb", "10 kettlebell swing @ 53 lb\n5 deadlift @ 185 lb"),
        ("5 DL 225/155\n9 T2B", "5 deadlift @ 225/155 lb\n9 toes-to-bar"),
    ],
)
def test_loads_of_a_board_that_says_its_unit_are_all_in_it(gym, plain, exact):
    read = print_session(parse(f"AMRAP 12\n{plain}", gym).session)
    assert read.partition("\n")[2].strip() == exact


@pytest.mark.parametrize(
    ("board", "sentence", "ways"),
    [
        (
            "## Conditioning: AMRAP 10:00\n8 push-up, thrusters 40/30",
            "thrusters 40/30: work of its own, or a note on the push-up?",
            [["8 push-up", "8 thruster @ 40/30 kg"], ["8 push-up — thrusters 40/30"]],
        ),
        (
            "## Conditioning: EMOM 10:00\n1) 10 squat, push-up",
            "push-up: work of its own, or a note on the air squat?",
            [["1) 10 air squat + 10 push-up"], ["1) 10 air squat — push-up"]],
        ),
        (
            "AMRAP 12 burpees",
            "AMRAP 12 burpees: is the number the minutes, or how many?",
            [
                ["## Conditioning: AMRAP 12:00", "max burpee"],
                ["## Conditioning: AMRAP 10:00", "12 burpee"],
            ],
        ),
        (
            "WOD\n20 wall balls, 10 pull-ups",
            "How is this piece timed?",
            [
                [f"## Conditioning: {form}"]
                for form in ("1 round", "for time", "AMRAP 12:00", "3 rounds")
            ],
        ),
    ],
)
def test_what_may_mean_two_things_is_asked_once(board, sentence, ways):
    (asked,) = [f for f in findings(board) if f.message == sentence]
    for repair, way in zip(asked.repairs, ways, strict=True):
        told = apply(board, repair.edits).splitlines()
        assert told[asked.line - 1 : asked.line - 1 + len(way)] == way
    for repair in asked.repairs:
        assert sentence not in [f.message for f in findings(apply(board, repair.edits))]


@pytest.mark.parametrize("note", ["box jump, step down", "burpee, hands off", "row, easy"])
def test_how_a_rep_is_done_is_no_question(note):
    board = f"## Conditioning: AMRAP 10:00\n10 {note}"
    assert [f for f in parse(board).findings if f.code != READ_AS] == []


def test_a_repair_of_a_line_that_says_several_keeps_them_all():
    """The heading is mended; the work that stood in the same line is still there."""
    board = "Partner AMRAP: 10 burpees, 20 squats"
    for found in parse(board).findings:
        for repair in found.repairs if found.severity == "error" else ():
            told = apply(board, repair.edits)
            assert "burpee" in told
            assert "squat" in told


def test_the_corpus_is_large_enough_to_mean_something():
    assert len(rows("lines.txt")) + len(rows("headings.txt")) + len(boards()) >= 200


@pytest.mark.parametrize("pair", PAIRS["read_as"], ids=lambda pair: pair["plain"][:40])
def test_what_is_written_in_place_of_a_plain_line_means_the_same(pair):
    """Every hint can be taken, one after the other, and leaves nothing to be said."""
    text = pair["plain"]
    for _ in range(20):
        said = [f for f in parse(text).findings if f.code == READ_AS]
        if not said:
            break
        text = apply(text, said[0].repairs[0].edits)
        assert printed(text) == printed(pair["same_as"])
    assert parse(text).findings == ()


def test_a_reading_is_told_with_place_and_exact_text():
    (first, second) = parse("EMOM 10\n  15 KB swings 24/16\n").findings
    assert (first.severity, first.message) == ("hint", "read as ## Conditioning: EMOM 10:00")
    assert (second.line, second.column) == (2, 3)
    assert second.message == "read as 15 kettlebell swing @ 24/16 kg"


@pytest.mark.parametrize("marks", ["", "## "])
@pytest.mark.parametrize(
    ("plain", "exact"),
    [
        ('Conditioning "Ebb": 0:20/0:10 x 2', '## Conditioning "Ebb": intervals 0:20/0:10 x 2'),
        ('Metcon "Two Piers": 20 min amrap', '## Conditioning "Two Piers": AMRAP 20:00'),
        ('Strength "Sea Wall": 5 sets, rest 90s', '## Strength "Sea Wall": 5 sets, rest 1:30'),
    ],
)
def test_a_plain_heading_keeps_the_name_it_has_in_quotes(marks, plain, exact):
    assert printed(f"{marks}{plain}\n10 burpee\n").splitlines()[0] == exact


def test_a_line_that_says_something_of_its_heading_is_told_so():
    board = "CORE, for quality\n4 sets\n10 dead bugs"
    (_, second, *_) = parse(board).findings
    assert second.message == "read into the lines around it"
    (way,) = second.repairs
    assert way.label == "write the heading with it"
    told = apply(board, way.edits)
    assert told == "## Core: 4 sets, for quality\n\n10 dead bugs"
    assert printed(told) == printed(board)


@settings(max_examples=examples(100))
@given(sessions())
def test_what_is_exact_is_never_read_as_anything_else(session: plan.Session):
    findings = parse(print_session(session)).findings
    assert [f.message for f in findings if f.code == READ_AS] == []


SAID = st.sampled_from(
    [plain for plain, _ in (*rows("lines.txt"), *rows("headings.txt"))]
    + [
        "",
        "rest 1 min",
        "rest",
        "--",
        "15 min cap",
        "Warm up",
        "Strength",
        "then run",
        "build",
        "?",
    ]
)
SCRAPS = st.one_of(
    SAID, st.text(max_size=40), st.text("0123456789:/x+-@%()\"' kgminrep", max_size=24)
)


@settings(max_examples=examples(250))
@given(st.lists(SCRAPS, max_size=12).map("\n".join))
def test_plain_writing_never_breaks_and_its_print_is_stable(text: str):
    parsed = parse(text)
    for finding in parsed.findings:
        assert 1 <= finding.line <= len(text.splitlines()) + 1
    exact = print_session(parsed.session)
    again = parse(exact)
    assert print_session(again.session) == exact
    assert not [f for f in again.findings if f.code == READ_AS]


@given(
    st.integers(1, 60), st.sampled_from(["burpees", "KB swings", "push ups", "T2B", "air squats"])
)
def test_a_number_said_is_the_number_read(reps: int, name: str):
    (piece,) = parse(f"AMRAP 12\n{reps} {name}\n").session.pieces
    assert piece.lines[0].tasks[0].versions[0].amount == plan.Reps(low=reps)


@given(
    st.integers(1, 59), st.sampled_from(["{} min AMRAP", "AMRAP {}", "AMRAP {}:00", "AMRAP {} min"])
)
def test_minutes_said_are_the_minutes_read(minutes: int, said: str):
    (piece,) = parse(f"{said.format(minutes)}\n10 burpees\n").session.pieces
    assert piece.format == plan.Amrap(length_s=60 * minutes)


@pytest.mark.parametrize("pair", PAIRS["in_doubt"], ids=lambda pair: pair["why"])
def test_a_line_that_reads_in_two_ways_is_asked_about_and_the_answer_stands(pair):
    asked = [f for f in findings(pair["plain"]) if f.line == pair["line"] and f.code in DOUBTS]
    assert len(asked) == 1, asked
    assert len(asked[0].repairs) >= 2
    plans = set()
    for repair in asked[0].repairs:
        answered = apply(pair["plain"], repair.edits)
        plans.add(printed(answered))
        assert not [f for f in parse(answered).findings if f.severity == "error"]
        # Neither as answered nor as printed does the question come back.
        for text in (answered, printed(answered)):
            assert asked[0].code not in {f.code for f in findings(text)}, text
    assert len(plans) == len(asked[0].repairs), "each way out means something else"


@pytest.mark.parametrize(
    "board",
    [
        "## Conditioning: every 2:00 x 5\n12 wall ball",
        "## Conditioning: every 2:00 x 5\n1) 12 burpee\n2) 10 push-up",
        "## Conditioning: every 2:00 x 4 rounds\n1) 12 burpee\n2) 10 push-up",
        "## Conditioning: EMOM 10:00\n5 burpee + max push-up",
        "## Conditioning: AMRAP 9:00\n3 deadlift + 3 hang power clean @ 60/40 kg | @ 50/35 kg",
        "## Core: 3 rounds\n1:00 plank\n1:00 side plank",
    ],
)
def test_what_reads_in_one_way_is_not_asked_about(board):
    assert not DOUBTS & {f.code for f in findings(board)}


def test_exact_lines_that_hold_more_than_they_seem_to_are_not_taken_as_notes():
    board = "Strength 3 sets\n8 bench press @ 60 kg, rest 2 min\n10 dumbbell snatch, 22.5/15\n"
    assert printed(board) == (
        "## Strength: 3 sets, rest 2:00\n8 bench press @ 60 kg\n10 dumbbell snatch @ 22.5/15 kg\n"
    )
