"""Boards as coaches write them: what is read, what is asked, and that nothing disappears."""

from __future__ import annotations

import json
import random
import re
from pathlib import Path

import pytest
from examples import examples
from hypothesis import example, given, settings
from hypothesis import strategies as st

from pine_ladder.core import plan
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse, print_session, reading
from pine_ladder.core.notation.edits import apply
from pine_ladder.core.notation.parser import READ_AS
from pine_ladder.core.notation.reader.conserve import lost
from pine_ladder.core.notation.reader.exact import exact_board
from pine_ladder.core.notation.reader.layout import plain_text, rows
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reading import left_over

BOARDS = {
    one["id"]: one["plain"]
    for one in json.loads((Path(__file__).parent.parent / "plain" / "coaches.json").read_text())
}
SHELF = library()


def whole(text: str) -> str:
    """What the reader of whole boards makes of a text, in exact notation."""
    lines = exact_board(text.splitlines(), SHELF).lines
    return print_session(parse("\n".join(one.text for one in lines)).session)


def told(text: str) -> list[plan.Finding]:
    return [one for one in parse(text).findings if one.code != READ_AS]


@pytest.mark.parametrize(
    ("typed", "kind", "value"),
    [
        ("12 min", "time", (720,)),
        (":30", "time", (30,)),
        ("90s", "time", (90,)),
        ("2:00-3:00", "clock range", (120, 180)),
        ("13'", "prime", ((13.0,), "-")),
        ("400m", "distance", ((400.0,), "-")),
        ("1.200 m", "distance", ((1200.0,), "-")),
        ("1 mile", "distance", ((1609.344,), "-")),
        ("50ft", "distance", ((15.24,), "-")),
        ("14/11 cal", "cal", ((14.0, 11.0), "/")),
        ('24/20"', "height", ((24.0, 20.0), "in")),
        ("53/35#", "weight", ((53.0, 35.0), "lb", "/")),
        ("17,5 kg", "weight", ((17.5,), "kg", "-")),
        ("70-75%", "percent", (70.0, 75.0)),
        ("RPE 7-8", "rpe", (7.0, 8.0)),
        ("31X1", "tempo code", "31X1"),
        ("tempo 3-1-1-0", "tempo code", "3110"),
        ("21-15-9", "scheme", ((21, 15, 9), False)),
        ("2-4-6-8-...", "scheme", ((2, 4, 6, 8), True)),
        ("1-2-3-…-6", "scheme", ((1, 2, 3, 4, 5, 6), False)),
        ("E2MOM", "every n", 120),
        ("E90S MOM", "every n", 90),
        ("8-10", "range", (8, 10)),
        ("x 7", "times n", (7,)),
        ("twenty four kilos", "weight", ((24.0,), "kg", "-")),
        ("two hundred metres", "distance", ((200.0,), "-")),
        ("kettle bell dead lifts", "movement", "kettlebell deadlift"),
        ("t2b", "movement", "toes-to-bar"),
        ("KB SDHP", "movement", "sumo deadlift high pull"),
        ("half-kneeling single-arm DB press", "movement", "half-kneeling press"),
        ("not for time", "quality", ""),
        ("am rap", "amrap", ""),
    ],
)
def test_one_lexer_reads_what_is_measured_and_what_is_named(typed: str, kind: str, value: object):
    last = [one for one in tokens(plain_text(typed), SHELF) if one.kind != "filler"][-1]
    assert (last.kind, last.value) == (kind, value)


@pytest.mark.parametrize(
    "line", ["“Deck” – two × 3 • done 💪", "**A)** 3 rds\t10 burpees", "½ mile"]
)
def test_plain_characters_stand_where_the_typed_ones_stood(line: str):
    assert len(plain_text(line)) == len(line)


@pytest.mark.parametrize(
    ("typed", "exact"),
    [
        (  # Marks that have lines of their own under them begin parts.
            "A) WU 6:00 EASY AMRAP\n  100m JOG\n  8 GOBLET SQ (LIGHT)\n\n"
            "B) FT - TC 12\n  18-12-6\n  KB SDHP 53/35#\n  HR PUSH-UP",
            "## Warm-up: AMRAP 6:00\n100 m easy run\n8 goblet squat @ light\n\n"
            "## Conditioning: 18-12-6 for time, cap 12:00\n"
            "sumo deadlift high pull @ 53/35 lb\npush-up\n",
        ),
        (  # Letters with a number are one part, done in turns.
            "A1 BSS 3x8 ea @ 31X1, RPE 7\nA2 KB RDL 3x10 @ 3110 - rest 90s\n"
            "B1 Hip thrust 4x12\nB2 Side plank 4x 30s ea",
            "## Strength: 3 sets, rest 1:30\n"
            "8 rear-foot-elevated split squat, each side, tempo 31X1 @ RPE 7\n"
            "10 kettlebell romanian deadlift, tempo 3110\n\n"
            "## Strength: 4 sets\n12 hip thrust\n30 s side plank, each side\n",
        ),
        (  # A row of a scaled version, item by item.
            '4 RFT (TC 16)\n400m RUN\n12 ALT DB SNATCH 50/35#\n9 BJO 24/20"\n6 T2B\n\n'
            "SC: 35/20# - STEP OVERS - HKR",
            "## Conditioning: 4 rounds for time, cap 16:00\n400 m run\n"
            "12 dumbbell snatch, alternating @ 50/35 lb | @ 35/20 lb\n"
            "9 box jump-over @ 24/20 in | box step-over\n6 toes-to-bar | hanging knee raise\n",
        ),
        (  # A heavy set to build up to, and sets behind it.
            "Strength - Back Squat\nBuild to a heavy 3 in 15 min, then 2 x 5 @ 80%",
            "## Strength: 5 sets, cap 15:00, build\n3 back squat\n\n"
            "## Strength: 2 sets\n5 back squat @ 80%\n",
        ),
        (  # Blocks that are told one by one.
            "Two AMRAP 8s, 3 min between\nFirst: 40 DU, 12 KBS 24/16\nSecond: 200m run, 8 burpees",
            "## Conditioning: AMRAP 8:00, rest 3:00\n"
            "40 double-under\n12 kettlebell swing @ 24/16 kg\n--\n200 m run\n8 burpee\n",
        ),
        (  # A list of parts, a rest among them.
            "1) Row 2k time trial\n2) Rest 5 min\n3) 3 rounds: 12 box step ups, 10 push-ups",
            "## Conditioning: for time\n2000 m row\n\n## Rest: 5:00\n\n"
            "## Conditioning: 3 rounds\n12 box step-up\n10 push-up\n",
        ),
        (  # Minutes of the hour, talk among them.
            "0-10 Warm up: 2 rounds of 8 inchworms, 8 lunges\n10-15 brief\n"
            "15-30 Workout: 15 min AMRAP - 9 front squats 43/30, 12 pull ups",
            "## Warm-up: 2 rounds, cap 10:00\n8 inchworm\n8 lunge\n\n## Rest: 5:00\n> brief\n\n"
            "## Conditioning: AMRAP 15:00\n9 front squat @ 43/30 kg\n12 pull-up\n",
        ),
        (  # The week that is pointed at.
            "DEADLIFT\nWk | Sets | Rest\n1 | 5x5 70% | 2:00\n"
            ">2 | 5x3 80% | 3:00\n3 | 3x2 85% | 2:30",
            "## Strength: 5 sets, rest 3:00\n3 deadlift @ 80%\n> Wk Sets Rest\n"
            "> 1 5x5 70% 2:00\n> 2 5x3 80% 3:00\n> 3 3x2 85% 2:30\n",
        ),
        (  # A name holds the thing a jump goes to, and the place of the work.
            "3 rounds\n8 burpees to a kerb\n10 bag drags in plank\n6 box jumps 24/20",
            "## Conditioning: 3 rounds\n8 burpees to a kerb\n10 bag drags in plank\n"
            "6 box jump @ 24/20 in\n",
        ),
        (  # Stretches that come last cool down.
            "EMOM 8: 5 burpees\n\nTo finish, plank, three times forty-five seconds, "
            "then hip flexors, a minute a side",
            "## Conditioning: EMOM 8:00\n5 burpee\n\n## Core: 3 sets\n45 s plank\n\n"
            "## Cool-down: continuous 2:00\n1:00 hip flexor stretch, each side\n",
        ),
        (  # Levels in columns.
            "AMRAP 9\n\tRX\tINT\tBEG\nwall ball\t12, 9/6kg\t6/4kg\t4/3kg\n"
            "pull-up\t6\tring row\tring row",
            "## Conditioning: AMRAP 9:00\n"
            "12 wall ball @ 9/6 kg | @ 6/4 kg | @ 4/3 kg\n6 pull-up | ring row\n",
        ),
        (  # Spoken, without punctuation, numbers in words.
            "wednesday\n"
            "warm up ten kettle bell dead lifts ten goblet squats twice through\n"
            "met con am rap fifteen two hundred metre run twelve kettle bell swings american\n"
            "cool down three minutes walk",
            "# wednesday\n\n## Warm-up: 2 rounds\n10 kettlebell deadlift\n10 goblet squat\n\n"
            "## Conditioning: AMRAP 15:00\n200 m run\n12 overhead kettlebell swing\n\n"
            "## Cool-down: continuous 3:00\n3:00 walk\n",
        ),
        (  # A place in the hour is a length; talk is a rest.
            "0:00-0:08 Warm-up\n2 rds\n10 air squats\n0:08-0:12 Walk the stations\n"
            "0:12-0:20 EMOM 8\nodd: 30 sec hollow hold\neven: 12 V-ups",
            "## Warm-up: 2 rounds, cap 8:00\n10 air squat\n\n## Rest: 4:00\n"
            "> Walk the stations\n\n## Core: EMOM 8:00\n1) 30 s hollow hold\n2) 12 v-up\n",
        ),
        (  # A list by numbers is stations of what is timed above it.
            '8 STATIONS   :40 / :20   3 LAPS\n\n1 BIKE\n2 RING ROW\n3 STEP-UP 20" ALT\n4 PLANK',
            "## Conditioning: intervals 0:40/0:20 x 3\nbike\nring row\n"
            "box step-up, alternating @ 20 in\nplank\n",
        ),
        (  # What partners do, and what is not the score.
            "PARTNER AMRAP 22 - IGYG FULL RDS\n9 KB GOBLET SQ 53/35#\n12/9 CAL ROW\n"
            "P1 does the whole rd, P2 rests",
            "## Conditioning: AMRAP 22:00, teams of 2, alternate\n"
            "9 goblet squat @ 53/35 lb\n12/9 cal row\n> P1 does the whole rd, P2 rests\n",
        ),
        (  # Work around rounds, told by indentation, by `then`, or by what stands on both sides.
            "For time (25 cap)\n1k row\n4 rounds of:\n  10 burpees\n  12 box jumps\n1k row",
            "## Conditioning: 4 rounds for time, cap 25:00\nbuy-in: 1000 m row\n10 burpee\n"
            "12 box jump\ncash-out: 1000 m row\n",
        ),
        (
            "For time\n800m run\n3 rounds\n20 KB swings 24/16\n15 sit-ups\n800m run",
            "## Conditioning: 3 rounds for time\nbuy-in: 800 m run\n"
            "20 kettlebell swing @ 24/16 kg\n15 sit-up\ncash-out: 800 m run\n",
        ),
        (  # Rounds inside a round.
            "AMRAP 20\n400m run\n2 rounds of:\n  10 push ups\n  10 squats\n10 burpees",
            "## Conditioning: AMRAP 20:00\n400 m run\n10 push-up\n10 air squat\n10 push-up\n"
            "10 air squat\n10 burpee\n",
        ),
        (  # A rest of their own after each of two lifts.
            "A1) DB bench 4 x 8-10, rest 60s\nA2) chest supported row 4 x 10, rest 90s",
            "## Strength: 4 sets\n8-10 dumbbell bench press, rest 1:00\n"
            "10 chest-supported row, rest 1:30\n",
        ),
        (
            "3 rounds:\n10 pull ups\nrest 1 min\n20 push ups\nrest 2 min",
            "## Conditioning: 3 rounds\n10 pull-up, rest 1:00\n20 push-up, rest 2:00\n",
        ),
        (  # A load for all lifts of the bar: in the heading, above, by tier, for men and women.
            "AMRAP 15 (60/42.5)\n5 power snatch\n10 ohs\n15 burpees",
            "## Conditioning: AMRAP 15:00\n5 power snatch @ 60/42.5 kg\n"
            "10 overhead squat @ 60/42.5 kg\n15 burpee\n",
        ),
        (
            "Rx: 60/42.5 | Int: 45/30 | Beg: 30/20\nAMRAP 15\n5 power snatch\n15 burpees",
            "## Conditioning: AMRAP 15:00\n5 power snatch @ 60/42.5 kg | @ 45/30 kg | @ 30/20 kg\n"
            "15 burpee\n",
        ),
        (
            "M: 60kg W: 40kg\n21-15-9\nThrusters\nBurpees",
            "## Conditioning: 21-15-9 for time\nthruster @ 60/40 kg\nburpee\n",
        ),
        (
            "10 min EMOM\n1 - 15 cal row women / 18 men\n"
            "2 - 12 db thrusters 15kg women, 22.5kg men",
            "## Conditioning: EMOM 10:00\n1) 18/15 cal row\n2) 12 dumbbell thruster @ 22.5/15 kg\n",
        ),
        (  # Work and an easy half around its movement; a rest that is walked or jogged.
            "5 x 30s hard bike/90s easy",
            "## Conditioning: intervals 0:30/1:30 x 5\nbike — hard\n",
        ),
        (
            "6x400 @ 5k pace, 90s jog between",
            "## Conditioning: 6 rounds for time, rest 1:30\n400 m run — 5k pace\n"
            "> 6x400 @ 5k pace, 90s jog between\n",
        ),
        (  # How often, said last; a window told in other words.
            "AMRAP 4, rest 2, x2\n8 DL 100/70\n8 T2B",
            "## Conditioning: AMRAP 4:00, rest 2:00\n8 deadlift @ 100/70 kg\n8 toes-to-bar\n--\n"
            "8 deadlift @ 100/70 kg\n8 toes-to-bar\n",
        ),
        (
            "6 sets on 3:00\n8 Back Squat @ 70%\n+ 6 box jumps",
            "## Strength: every 3:00 x 6\n8 back squat @ 70%\n6 box jump\n",
        ),
        (  # Places on the clock, and the rest between them.
            "00:00-10:00 AMRAP: 10 pushups 15 situps\n10:00-12:00 rest\n"
            "12:00-20:00 AMRAP: 10 cal row 10 step ups",
            "## Conditioning: AMRAP 10:00\n10 push-up\n15 sit-up\n\n## Rest: 2:00\n\n"
            "## Conditioning: AMRAP 8:00\n10 cal row\n10 box step-up\n",
        ),
        (  # One long sentence.
            "Ok so tomorrow: we'll start with ten minutes of general warming up, then bench press "
            "five sets of five at seventy five percent with two minutes rest, and finish with a "
            "twelve minute AMRAP of nine burpees and twelve sit-ups.",
            "## Warm-up: continuous 10:00\n\n## Strength: 5 sets, rest 2:00\n"
            "5 bench press @ 75%\n\n## Conditioning: AMRAP 12:00\n9 burpee\n12 sit-up\n"
            "> Ok so tomorrow: we'll start with ten minutes of general warming up, then bench "
            "press five sets of five at seventy five percent with two minutes rest, and finish "
            "with a twelve minute AMRAP of nine burpees and twelve sit-ups\n",
        ),
        (  # A place in the hour and a role, above a scheme of its own.
            "10 min: skill, double unders\n10-9-8-7-6-5-4-3-2-1\nburpees\nsit ups",
            "## Skill: continuous 10:00\ndouble-under\n\n"
            "## Conditioning: 10-9-8-7-6-5-4-3-2-1 for time\nburpee\nsit-up\n",
        ),
        (  # Sets of a lift whose numbers differ.
            "Clean & jerk\n3 x 2 @ 70%\n2 x 1 @ 85%\nrest 90s between sets",
            "## Strength: 1 round, rest 1:30\n2 clean and jerk @ 70%\n2 clean and jerk @ 70%\n"
            "2 clean and jerk @ 70%\n1 clean and jerk @ 85%\n1 clean and jerk @ 85%\n",
        ),
        (  # Names the library has not, in the line of the heading.
            "AMRAP 15: 12 lateral jumps, 15 sit ups",
            "## Conditioning: AMRAP 15:00\n12 lateral jumps\n15 sit-up\n",
        ),
        (  # A name in quotes, and a scheme with its work behind a colon.
            '"TIDE TABLE" 21-15-9: goblet squat 24/16, push ups',
            '## Conditioning "TIDE TABLE": 21-15-9 for time\ngoblet squat @ 24/16 kg\npush-up\n',
        ),
        (  # A list in one line; a dash behind the minutes; a cap by its letters.
            "35 minute EMOM: 1) 12 cal row 2) 10 burpees 3) 15 sit ups 4) 20 squats 5) rest",
            "## Conditioning: EMOM 35:00\n1) 12 cal row\n2) 10 burpee\n3) 15 sit-up\n"
            "4) 20 air squat\n5) rest\n",
        ),
        (
            "amrap 8 - 8 du, 8 sit ups",
            "## Conditioning: AMRAP 8:00\n8 double-under\n8 sit-up\n",
        ),
        (
            "every 4th minute for 24 min (6 rounds)\nrun 400 m\n15 burpees",
            "## Conditioning: every 4:00 x 6\n400 m run\n15 burpee\n",
        ),
        (
            "5 rounds for time\n12 burpees\nT. C. 15",
            "## Conditioning: 5 rounds for time, cap 15:00\n12 burpee\n",
        ),
        (  # A word behind a movement that makes it another one.
            "3 rounds\n5 kerb jumps\n10 burpees",
            "## Conditioning: 3 rounds\n5 kerb jumps\n10 burpee\n",
        ),
        (  # Short marks of a list: a side, a tempo behind its figures, many steps by slashes.
            "Split squat, 3x8e, 3111 tempo",
            "## Strength: 3 sets\n8 split squat, each side, tempo 3111\n",
        ),
        (
            "50/40/30/20/10 DU + sit ups, 12 min cap",
            "## Conditioning: 50-40-30-20-10 for time, cap 12:00\ndouble-under + sit-up\n",
        ),
    ],
)
def test_a_board_as_it_is_written_reads_as_its_exact_twin(typed: str, exact: str):
    got = [line for line in whole(typed).splitlines() if "STATIONS" not in line]
    assert got == exact.splitlines()


PAGE = (Path(__file__).parents[2] / "docs" / "board-notation.md").read_text()


@pytest.mark.parametrize(
    ("typed", "exact"), re.findall(r"```reader\n(.*?)\n→\n(.*?)```", PAGE, re.DOTALL)
)
def test_what_the_notation_tells_of_whole_boards_is_so(typed: str, exact: str):
    assert whole(typed) == exact


def test_a_reading_taken_for_one_part_leaves_the_others_as_they_were_read():
    """Tab writes one heading exactly; the parts below it are still read as a whole board's."""
    board = (
        "A) WU 8:00 EASY AMRAP\n  100m JOG\n  8 GOBLET SQ (LIGHT)\n\n"
        "B1 BSS 3x8 ea @ 31X1, RPE 7\nB2 KB RDL 3x10 @ 3110 - rest 90s\n\n"
        "C) EMOM 12\n  5 burpee\n  8 KBS 24/16kg\n  SC: 16/12kg"
    )
    mixed = board.replace("A) WU 8:00 EASY AMRAP", "## Warm-up: AMRAP 8:00")
    assert print_session(parse(mixed).session) == print_session(parse(board).session)


def test_sets_before_those_that_count_are_told_with_their_number():
    board = parse("Bench\n2-3 warm-up sets then 5 x 3 @ 80%")
    exact = print_session(board.session)
    assert "2-3 warm-up sets then" in exact
    assert "## Strength: 5 sets\n3 bench press @ 80%" in exact


def test_a_name_of_the_coachs_own_may_stand_before_its_sets_for_each_side():
    exact = whole("- bike 5 min easy\n- terminal knee extension 2x20/side\n- box squat 3x8 light")
    assert "## Strength: 2 sets\n20 terminal knee extension, each side\n" in exact


def test_a_movement_the_library_has_not_keeps_the_coachs_words():
    exact = whole("AMRAP 9\n6 backpack squats\n4 lay-to-stand on the rope\n10 burpees")
    assert "6 backpack squats\n4 lay-to-stand — on the rope\n10 burpee" in exact


@pytest.mark.parametrize(
    "talk", ["no misses, 5 in a row and you're done", "don't run the sled", "we count rounds"]
)
def test_talk_is_told_and_not_planned(talk: str):
    session = parse(f"3 RFT, cap 12\n12 thrusters 43/30\n400m run\n{talk}").session
    assert [len(piece.lines) for piece in session.pieces] == [2]
    assert talk.rsplit(maxsplit=1)[-1] in print_session(session)


@pytest.mark.parametrize("name", BOARDS)
def test_every_word_and_number_of_a_board_is_accounted_for(name: str):
    parsed = parse(BOARDS[name])
    assert left_over(BOARDS[name], parsed, SHELF) == []
    assert not [one for one in parsed.findings if one.severity == "error"]


def test_sets_above_rounds_are_a_piece_of_their_own():
    pieces = parse("5x5 back squat\nthen 3 rounds\n10 burpees").session.pieces
    assert [one.format for one in pieces] == [plan.Sets(low=5), plan.Rounds(low=3)]
    assert not pieces[1].buy_in


@pytest.mark.parametrize(
    ("line", "unit"),
    [
        ("30 wall balls 20/14", "lb"),
        ("21 thrusters (95/65)", "lb"),
        ("10 KB swings 53/35", "lb"),
        ("12 power cleans 135/95", "lb"),
        ("30 wall balls 9/6", "kg"),
        ("10 KB swings 24/16", "kg"),
        ("12 power cleans 60/40", "kg"),
        ("3 deadlifts 180/120", "kg"),
    ],
)
def test_a_pair_that_nobody_lifts_in_kilograms_is_in_pounds(line: str, unit: str):
    (piece,) = parse(f"AMRAP 12\n{line}\n10 burpees").session.pieces
    load = piece.lines[0].tasks[0].versions[0].load
    assert isinstance(load, plan.Weight)
    assert load.unit == unit


def test_conservation_sees_what_is_lost():
    said = rows(["20 burpees", "cap 12", "one extra detour"])
    assert [one.text.strip() for one in lost(said, "20 burpee", SHELF)] == ["12", "extra", "detour"]


@settings(max_examples=examples(60), deadline=None)
@given(st.sampled_from(sorted(BOARDS)), st.randoms(use_true_random=False))
def test_a_slip_of_the_hand_crashes_nothing_and_loses_nothing(name: str, chance: random.Random):
    """Words dropped, doubled and changed about; lines too."""
    lines = []
    for line in BOARDS[name].splitlines():
        words = line.split(" ")
        for _ in range(chance.randrange(2)):
            at = chance.randrange(len(words))
            words[at : at + 1] = chance.choice([[], [words[at]] * 2, [words[at][::-1]]])
        lines.append(" ".join(words))
    if chance.random() < 0.3:
        chance.shuffle(lines)
    text = "\n".join(lines)
    assert left_over(text, parse(text), SHELF) == []


@settings(max_examples=examples(150), deadline=None)
@given(st.text(max_size=200) | st.text("0123456789:/x+-@%|\t\n()\"' #kgminrep", max_size=120))
@example("0\tX")
def test_any_text_is_read_without_a_crash(text: str):
    parsed = parse(text)
    printed = print_session(parsed.session)
    assert print_session(parse(printed).session) == printed
    exact_board(text.splitlines(), SHELF)


SAME = [BOARDS[name] for name in sorted(BOARDS) if "\t" not in BOARDS[name]][::4]


@pytest.mark.parametrize("text", SAME, ids=lambda text: text.split("\n")[0][:30])
@pytest.mark.parametrize(
    "change",
    [
        lambda text: f"{text}\n\n",
        lambda text: text.replace(" ", "\u00a0"),
        lambda text: text.replace("-", "\u2013").replace('"', "\u201d"),
        lambda text: "\n".join(f"{line}  " for line in text.splitlines()),
        lambda text: "\n".join(f"{line} \U0001f4aa" if line else "" for line in text.splitlines()),
    ],
    ids=["blank", "hard-blanks", "dashes", "trailing", "emoji"],
)
def test_dress_changes_no_plan(text: str, change):
    """Blank lines, hard blanks, typographic signs and emoji say nothing."""

    def planned(board: str) -> list[tuple[object, ...]]:
        lines = exact_board(board.splitlines(), SHELF).lines
        session = parse("\n".join(one.text for one in lines)).session
        return [
            (one.role, one.format, one.rest, one.cap_s, len(one.lines)) for one in session.pieces
        ]

    assert planned(change(text)) == planned(text)


@pytest.mark.parametrize(
    ("change", "most"),
    [
        (str.upper, 8),
        (
            lambda text: "\n".join(
                f"- {line}" if line.strip() else "" for line in text.splitlines()
            ),
            16,
        ),
        (lambda text: "\n".join(re.sub(r"(?<=\w)$", ".", line) for line in text.splitlines()), 12),
        (lambda text: f"{text}\n\nhave fun everyone", 3),
    ],
    ids=["capitals", "bullets", "stops", "note"],
)
def test_dress_that_may_say_something_changes_few_plans(change, most: int):
    """Capitals, a bullet or a full stop on every line, a note at the end: of a hundred boards."""

    def planned(board: str) -> list[tuple[object, ...]]:
        return [
            (one.role, one.format, one.rest, one.cap_s, len(one.lines))
            for one in parse(board).session.pieces
        ]

    changed = [name for name, text in BOARDS.items() if planned(change(text)) != planned(text)]
    assert len(changed) <= most, changed


ASKED = [(name, one) for name in BOARDS for one in told(BOARDS[name]) if one.severity == "question"]


@pytest.mark.parametrize(("name", "asked"), ASKED, ids=lambda one: str(one)[:12])
def test_each_reading_of_a_question_is_another_and_reads_as_itself(name: str, asked: plan.Finding):
    texts = []
    for answer in asked.repairs:
        answered = apply(BOARDS[name], answer.edits)
        printed = print_session(parse(answered).session)
        assert print_session(parse(printed).session) == printed
        texts.append(printed)
    assert len(set(texts)) == len(texts) >= 2


def test_rising_loads_without_a_unit_may_be_percents():
    board = "Front squat\n3 @ 70, 3 @ 75, 3+ @ 80"
    (asked,) = [one for one in told(board) if one.code == "percent"]
    assert [one.label for one in asked.repairs] == ["kg", "percent"]
    assert "3 front squat @ 75%" in print_session(
        parse(apply(board, asked.repairs[1].edits)).session
    )
    for clear in (
        "Front squat\n3 @ 70 kg, 3 @ 75 kg, 3 @ 80 kg",
        "Front squat\n3 @ 110, 3 @ 120, 3 @ 130",
    ):
        assert not [one for one in told(clear) if one.code == "percent"]


def test_an_emom_of_bare_lines_is_asked_about_and_the_likelier_comes_first():
    """Thirty seconds of work fit into each minute, fifty do not."""
    board = "monday\n\nEMOM 12\n5 burpee\n{}\nask if unsure, folks"
    (first,) = [one for one in told(board.format("8 KBS 24/16")) if one.code == "turns"]
    assert first.repairs[0].label == "all of them in every minute"
    answered = apply(board.format("8 KBS 24/16"), first.repairs[1].edits)
    assert "2) 8 kettlebell swing @ 24/16 kg" in print_session(parse(answered).session)
    (other,) = [one for one in told(board.format("25 wall balls")) if one.code == "turns"]
    assert other.repairs[0].label == "one line a minute, in turn"


def test_half_of_the_boards_written_without_knowledge_of_the_notation_are_read():
    """A floor under what was reached: pieces in number and role as meant."""
    held = json.loads((Path(__file__).parent.parent / "plain" / "coaches.json").read_text())

    def roles(session: plan.Session) -> list[plan.Role]:
        return [one.role for one in session.pieces if one.role is not plan.Role.REST]

    right = sum(
        roles(parse(one["plain"]).session) == roles(parse(one["exact"]).session) for one in held
    )
    assert right >= 74


@pytest.mark.parametrize(
    ("board", "told"),
    [
        ("4 rounds, 4 of you at a time: 10 burpees", ["4: kept as a note, not planned"]),
        ("4 rounds: 4 burpees", []),
        ("Then 3x12 lunges, 3x15 sit-ups", []),
        ("EMOM 10: 10 burpees", []),
    ],
)
def test_a_number_said_twice_and_taken_once_is_told(board: str, told: list[str]):
    found = parse(board, library()).findings
    assert [one.message for one in found if one.code == "kept-as-note"] == told


def test_a_piece_that_cannot_be_written_exactly_is_told_line_by_line(monkeypatch):
    monkeypatch.setattr(reading, "stands", lambda printed, shelf: "burpee" not in printed)
    found = parse("AMRAP 12\n10 pull-ups\n\n5 rounds\n10 burpees\nbox jumps 5").findings
    told = {one.line: one.message for one in found if one.code == "kept-as-note"}
    assert set(told) == {4, 5, 6}
    assert told[5] == "10 burpees: kept as a note, not planned"


def test_work_that_comes_first_without_a_role_may_be_more_than_a_warm_up():
    found = parse("3 rounds\n10 burpees\n10 pull-ups\n\nBench 5x5\n\nAMRAP 10\n10 sit-ups")
    asked = next(one for one in found.findings if one.code == "role")
    assert [one.label for one in asked.repairs] == ["Warm-up", "Conditioning"]
    easy = parse("3 rounds easy\n10 air squats\n\nBench 5x5\n\nAMRAP 10\n10 sit-ups")
    assert not any(one.code == "role" for one in easy.findings)


def test_work_that_stands_in_the_days_note_is_told():
    said = "I want the run done in 2 min"
    found = parse(f"Saturday crew\n{said}\n\nAMRAP 10\n10 burpees")
    assert found.session.note == said
    (one,) = [each for each in found.findings if each.code == "kept-as-note"]
    assert (one.line, one.message) == (2, "run, 2 min: kept as a note, not planned")


@pytest.mark.parametrize(
    "said", ["the pull-up bar is broken for 2 weeks", "rower 3 is out for 10 min after class"]
)
def test_what_is_said_of_a_machine_is_no_work(said):
    found = parse(f"Saturday crew\n{said}\n\nAMRAP 10\n10 burpees")
    assert [one.role for one in found.session.pieces] == [plan.Role.CONDITIONING]
    assert found.session.note == said
    assert any(one.line == 2 and one.code == "kept-as-note" for one in found.findings)


def test_rests_behind_a_row_that_only_loads_another_stop_no_reading():
    exact = whole(
        "3 rounds\n10 thrusters, rest 30 s\n10 burpees, rest 30 s\nthrusters 43/30, rest 60 s"
    )
    assert "10 thruster @ 43/30 kg" in exact
