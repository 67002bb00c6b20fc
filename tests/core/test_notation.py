"""The notation: what is read, what is printed, what is said about slips."""

from pathlib import Path

import pytest
from examples import examples
from hypothesis import given, settings
from hypothesis import strategies as st
from plans import sessions

from pine_ladder.core import plan
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.edits import apply
from pine_ladder.core.plan import Side


def only_task(line: str, heading: str = "AMRAP 10:00") -> plan.Task:
    parsed = parse(f"## Conditioning: {heading}\n{line}")
    assert not parsed.findings, parsed.findings
    return parsed.session.pieces[0].blocks[0].lines[0].tasks[0]


def only_piece(heading: str) -> plan.Piece:
    parsed = parse(f"{heading}\n10 push-up")
    assert not parsed.findings, parsed.findings
    return parsed.session.pieces[0]


def complaint(text: str) -> plan.Finding:
    findings = parse(text).findings
    assert len(findings) == 1, findings
    return findings[0]


@pytest.mark.parametrize("name", ["slack-water", "two-in-a-boat", "harbour-bells", "falling-tide",
                                  "spring-ladder"])  # fmt: skip
def test_example_boards_read_without_findings_and_print_canonically(boards: Path, name: str):
    parsed = parse((boards / f"{name}.board").read_text())
    assert parsed.findings == ()
    printed = print_session(parsed.session)
    assert parse(printed).session == parsed.session
    assert print_session(parse(printed).session) == printed


@settings(max_examples=examples(150))
@given(sessions())
def test_every_plan_comes_back_from_its_own_text(session: plan.Session):
    printed = print_session(session)
    again = parse(printed)
    assert [f for f in again.findings if f.severity == "error"] == []
    assert again.session == session
    assert print_session(again.session) == printed


@settings(max_examples=examples(1500))
@given(st.text(max_size=300))
def test_no_text_breaks_the_parser(text: str):
    parse(text)
    parse(f"## Conditioning: AMRAP 5:00\n{text}")
    parse(f"## Core: {text}")


@settings(max_examples=examples(100))
@given(sessions(), st.data())
def test_no_mutilated_board_breaks_the_parser(session: plan.Session, data: st.DataObject):
    text = print_session(session)
    for _ in range(10):
        cut = data.draw(st.integers(0, len(text)))
        end = data.draw(st.integers(cut, min(len(text), cut + 12)))
        junk = data.draw(st.text(alphabet='#:@|+-—>",x[]0 9a\n', max_size=4))
        parsed = parse(text[:cut] + junk + text[end:])
        for finding in parsed.findings:
            assert finding.line >= 1
            assert finding.column >= 1
            assert finding.message
        print_session(parsed.session)


def test_names_forgive_case_plural_hyphen_and_alias():
    wanted = only_task("10 kettlebell swing").versions[0]
    for line in ("10 Kettlebell Swings", "10  kettlebell   swing", "10 KB swings", "10 swings"):
        assert only_task(line).versions[0] == wanted
    assert only_task("5 push ups").versions[0].movement == "push-up"


def test_amounts():
    def amount(line: str) -> plan.Amount | None:
        return only_task(line).versions[0].amount

    assert amount("10 push-up") == plan.Reps(low=10)
    assert amount("6-10 push-up") == plan.Reps(low=6, high=10)
    assert amount("30 s plank") == plan.Duration(seconds=30)
    assert amount("2:00 plank") == plan.Duration(seconds=120)
    assert amount("2:00 +0:15 plank") == plan.Duration(seconds=120, grow_s=15)
    assert amount("400 m run") == plan.Distance(metres=(400.0,))
    assert amount("1 km run") == plan.Distance(metres=(1000.0,))
    assert amount("15/12 cal row") == plan.Calories(calories=(15, 12))
    assert amount("100-80-60 single-under") == plan.Scheme(values=(100, 80, 60))
    assert amount("10-6 push-up") == plan.Scheme(values=(10, 6))
    assert amount("max burpee") == plan.Max()
    assert amount("max x 30 m farmer carry") == plan.Trips(distance_m=30)
    assert amount("max 10 m shuttle run") == plan.Trips(distance_m=10)


def test_loads():
    def load(text: str) -> plan.Load | None:
        return only_task(f"10 deadlift @ {text}").versions[0].load

    assert load("100/70 kg") == plan.Weight(values=(100, 70))
    assert load("225 lb") == plan.Weight(values=(225,), unit="lb")
    assert load("2 x 22.5/15 kg") == plan.Weight(values=(22.5, 15), count=2)
    assert load("70%") == plan.Percent(low=70)
    assert load("0.5 bw") == plan.Bodyweight(factor=0.5)
    assert load("RPE 8") == plan.Effort(rpe=8)
    assert load("heavy") == plan.Feel(word="heavy")
    assert load("60/50 cm") == plan.Height(values=(60, 50))


def test_details_with_and_without_commas():
    exercise = only_task("8 side kick each side, tempo 30x0, pause 2 s").versions[0]
    assert (exercise.side, exercise.tempo, exercise.pause_s) == (Side.EACH, "30X0", 2.0)
    assert only_task("8 lunge left").versions[0].side is Side.LEFT
    assert only_task("10 lunge alternating").versions[0].side is Side.ALTERNATING
    free = only_task("3:00 easy run, slowing to a walk").versions[0]
    assert free.note == "slowing to a walk"


def test_tiers_change_the_load_the_number_or_the_movement():
    task = only_task("10 box jump @ 60/50 cm | 10 box step-up @ 50/40 cm | 8 @ 40/30 cm")
    written, scaled, foundation = task.versions
    assert written.movement == "box jump"
    assert scaled.movement == foundation.movement == "box step-up"
    assert foundation.amount == plan.Reps(low=8)
    assert foundation.load == plan.Height(values=(40, 30))
    lighter = only_task("10 push press, tempo 20X0 @ 50 kg | @ 40 kg").version(1)
    assert (lighter.tempo, lighter.load) == ("20X0", plan.Weight(values=(40,)))


def test_a_tier_named_by_movement_alone_keeps_the_amount_and_drops_the_load():
    easier = only_task("12 thruster, each side @ 40 kg | air squat").version(1)
    assert easier.amount == plan.Reps(low=12)
    assert easier.side is Side.EACH
    assert easier.load is None


def test_a_tier_whose_name_begins_with_a_number_prints_its_amount():
    parsed = parse("## Core: AMRAP 5:00\n5 hip switch | 5 180 turn")
    printed = print_session(parsed.session)
    assert "| 5 180 turn" in printed
    assert parse(printed).session == parsed.session
    assert only_task("10 90/90 switch").versions[0].movement == "hip switch"


def test_a_missing_tier_repeats_the_one_before():
    task = only_task("6 toes-to-bar | sit-up")
    assert task.version(2) == task.version(1)


def test_or_complex_and_several_tasks():
    exercise = only_task("10 pull-up or 10 towel row").versions[0]
    assert exercise.instead[0].movement == "towel row"
    complexed = only_task("max [5 mountain climber + 2 push-up]").versions[0]
    assert [part.movement for part in complexed.parts] == ["mountain climber", "push-up"]
    parsed = parse("## Core: EMOM 3:00\n1) 8 dip + max hollow hold\n2) rest\n3) 5 burpee")
    first, second, _third = parsed.session.pieces[0].blocks[0].lines
    assert len(first.tasks) == 2
    assert second.is_rest


def test_headings():
    assert only_piece("## Warm-up: 3-5 rounds").format == plan.Rounds(low=3, high=5)
    assert only_piece("## Strength: 4 sets, rest 1:30-2:00").rest == plan.Span(low_s=90, high_s=120)
    assert only_piece("## Core: every 2:30 × 6").format == plan.Every(interval_s=150, rounds=6)
    assert only_piece("## Core: 21-15-9 for time, cap 10 min").cap_s == 600
    team = only_piece("## Core: AMRAP 9:00, teams of 3, share").teams
    assert team == plan.Teams(size=3, how="share")
    named = only_piece("## conditioning “Sea Wall”: AMRAP 90 s, target 12:00-15:00, pace hard")
    assert (named.role, named.name) == (plan.Role.CONDITIONING, "Sea Wall")
    assert named.target == plan.Target(unit="time", low=720, high=900)


def test_header_lines():
    session = parse("# Day\ndate: 2026-06-04\nclass: 45 min\nnote: bring water").session
    assert session.class_s == 2700
    assert str(session.date) == "2026-06-04"
    assert session.note == "bring water"


def test_a_bad_line_leaves_all_others_standing():
    parsed = parse(
        "## Core: AMRAP 10:00\n10 push-up\n10 @@ what\n10 sit-up\n## Core: nonsense\n5 dip"
    )
    assert [len(piece.lines) for piece in parsed.session.pieces] == [2, 1]
    assert [finding.line for finding in parsed.findings] == [3, 5]


def test_a_suggested_repair_mends_the_text():
    text = "## Condtioning: AMRAP 20\n10 kettelbell swing @ 24/16"
    for _ in range(4):
        repairs = [r for f in parse(text).findings for r in f.repairs]
        if not repairs:
            break
        text = apply(text, repairs[0].edits)
    assert text == "## Conditioning: AMRAP 20:00\n10 kettlebell swing @ 24/16 kg"


SLIPS = [
    ("dat: 2026-06-04", 1, "did you mean date?"),
    ("date: 4.6.2026", 7, "year-month-day"),
    ("class: long", 8, "write the class length as 60 min"),
    ("## Condtioning: AMRAP 9:00", 4, "did you mean Conditioning?"),
    ("## Core: AMRAP", 10, "how long? write AMRAP 12:00"),
    ("## Core: AMRAP 2:75", 16, "not a time"),
    ("## Core: tabatta", 10, "did you mean Tabata?"),
    ("## Core: 3 sets, rst 1:30", 18, "did you mean rest 1:30?"),
    ("## Core: 3 sets, rest", 18, "how long"),
    ("## Core: 3 sets, rest 2:00-1:30", 28, "the longer rest comes second"),
    ("## Core: every 2:00", 9, "how many rounds?"),
    ("## Core: EMOM 10:30", 15, "whole minutes"),
    ("## Core: AMRAP 9:00, score loda", 28, "did you mean load?"),
    ("## Core: AMRAP 9:00, teams of 2", 22, "alternate, share the work, or go together"),
    ("## Core: AMRAP 9:00, rest 1:00, rest 2:00", 33, "given twice"),
    ("## Rest: AMRAP 9:00", 9, "a rest piece has a length alone"),
    ("## Core: 2:00", 9, "a length alone is a rest"),
]


@pytest.mark.parametrize(("text", "column", "says"), SLIPS)
def test_slips_in_headings_are_explained(text: str, column: int, says: str):
    finding = complaint(text)
    assert says in finding.message
    assert (finding.line, finding.column) == (1, column)


LINE_SLIPS = [
    ("10 kettelbell swing", 4, "did you mean kettlebell swing?"),
    ("10 zorbing", 4, "no such movement"),
    ("10 push-up @ 20 stone", 14, "a load is written"),
    ("10 push-up @", 13, "a load is missing after @"),
    ("10 push-up |", 13, "next tier's version is missing"),
    ("10 push-up + ", 13, "another task is missing"),
    ("10", 1, "a movement is missing"),
    ("10 push-up, tepmo 30X0", 13, "write it as tempo 30X0"),
    ("10 push-up, eahc side", 13, "did you mean each side?"),
    ("10/10 lunge", 1, "each side"),
    ("12/10 row", 1, "needs a unit"),
    ("0 push-up", 1, "nothing to do"),
    ("max [5 dip + 2 push-up", 23, "] is missing"),
    ("10 push-up @ RPE 12", 14, "RPE 1 to RPE 10"),
    ("max x 30 s plank", 7, "counted over a distance"),
    ("1.5 push-up", 1, "whole numbers"),
    ("9999999 push-up", 1, "more than anyone can do"),
    ("5 push-up @ 80-60%", 13, "higher percentage comes second"),
]


@pytest.mark.parametrize(("text", "column", "says"), LINE_SLIPS)
def test_slips_in_lines_are_explained(text: str, column: int, says: str):
    finding = complaint(f"## Core: AMRAP 9:00\n{text}")
    assert says in finding.message
    assert (finding.line, finding.column) == (2, column)


@pytest.mark.parametrize("line", ["1:0-2:00 plank", "1:00-2:0 plank", "1:00 +0:1 plank"])
def test_half_typed_times_are_a_finding_and_no_crash(line: str):
    found = parse(f"## Core: 3 rounds\n{line}").findings
    assert found


@pytest.mark.parametrize(
    ("typed", "low", "high"),
    [("1-1:30 plank", 60, 90), ("1:00-1:30 plank", 60, 90), ("30-45 s plank", 30, 45)],
)
def test_a_range_of_time_whose_first_number_is_bare_is_in_minutes(typed, low, high):
    (piece,) = parse(f"## Core: 3 rounds\n{typed}").session.pieces
    amount = piece.lines[0].tasks[0].versions[0].amount
    assert (amount.seconds, amount.high_s) == (low, high)
