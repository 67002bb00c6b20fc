"""The day as a whole: checks, the hour, the board in words, the library, the command line."""

import json
from pathlib import Path

import pytest
from examples import examples
from hypothesis import given, settings
from plans import sessions
from typer.testing import CliRunner

from pine_ladder.cli import app
from pine_ladder.core import plan
from pine_ladder.core.checks import Ground, check
from pine_ladder.core.day.athlete_view import view
from pine_ladder.core.day.hour_ruler import outline, piece_keys
from pine_ladder.core.movements import Library, library
from pine_ladder.core.movements.library import OwnMovement
from pine_ladder.core.notation import parse
from pine_ladder.core.notation.edits import apply
from pine_ladder.core.notation.parser import READ_AS


def codes(text: str) -> set[str]:
    return {finding.code for finding in check(parse(text).session)}


MANY = ("burpee", "dip", "push-up", "sit-up", "air squat", "lunge", "deadlift", "box jump")
CHECKED = [
    ("## Core: AMRAP 5:00\npush-up", "no-amount"),
    ("## Core: AMRAP 5:00\n9 lunge, alternating", "odd-sides"),
    ("## Core: 4 rounds for time\n50-40-30-20-10 single-under", "scheme-rounds"),
    ("## Cool-down: continuous 10:00\n3:00 walk\n4:00 walk", "continuous-sum"),
    ("## Core: EMOM 10:00\n1) 5 dip\n2) 5 burpee\n3) 5 sit-up", "emom-stations"),
    ("## Core: EMOM 2:00\n1) max dip + 5 burpee\n2) 5 sit-up", "fill-first"),
    ("## Core: AMRAP 5:00", "empty-piece"),
    ("## Core: AMRAP 5:00\n10 kettlebell swing @ 53/35 kg", "unit-slip"),
    ("## Core: AMRAP 5:00\n10 box jump @ 24/20 cm", "unit-slip"),
    ("## Core: AMRAP 5:00\n10 box jump @ 60/50 in", "unit-slip"),
    ("## Core: every 1:00 x 12\n1) 5 dip\n2) 5 burpee\n3) 5 sit-up", "rounds-or-windows"),
    ("class: 20 min\n## Core: AMRAP 25:00\n5 dip", "over-class"),
    ("## Conditioning: EMOM 5:00\n10 burpee", "unclear-score"),
    ("## Core: Tabata\nburpee", "unclear-score"),
    ("## Core: AMRAP 5:00\n400 m run\nmax burpee", "max-each-round"),
    ("## Core: AMRAP 5:00, rest 1:00\n10 dip", "idle"),
    ("## Power: intervals 0:20/0:20 x 6\nmax sprint", "power-rest"),
    ("## Conditioning: AMRAP 5:00\n5 dip", "no-warm-up"),
    ("## Warm-up: 3 rounds\n5 dip\n## Conditioning: AMRAP 5:00\n5 dip", "no-cool-down"),
]


@pytest.mark.parametrize(("text", "code"), CHECKED)
def test_each_check_finds_its_slip(text: str, code: str):
    assert code in codes(text)


@pytest.mark.parametrize(("text", "code"), CHECKED)
def test_each_repair_leaves_a_board_without_that_finding(text: str, code: str):
    (finding,) = [f for f in check(parse(text).session) if f.code == code]
    assert finding.repairs or code == "empty-piece"
    for repair in finding.repairs:
        mended = parse(apply(text, repair.edits))
        assert mended.findings == (), repair.label
        assert code not in {f.code for f in check(mended.session)}, repair.label


@pytest.mark.parametrize(("reps", "advice"), [(9, "8 or 10"), (1, "2 is one a side")])
def test_an_odd_total_is_told_its_even_neighbours(reps: int, advice: str):
    session = parse(f"## Core: 3 rounds\n{reps} lunge, alternating").session
    assert [f.message for f in check(session)] == [
        f"{reps} lunge alternating leaves one side short: {advice}"
    ]


def test_a_sound_board_has_nothing_to_remark(boards: Path):
    assert codes((boards / "slack-water.board").read_text()) == set()


def test_honest_numbers_are_not_doubted():
    fine = [
        "10 kettlebell swing @ 24/16 kg",
        "10 kettlebell swing @ 53/35 lb",
        "10 deadlift @ 70/53 kg",
        "10 box jump @ 60/50 cm",
        "10 box jump @ 24/20 in",
    ]
    for line in fine:
        assert "unit-slip" not in codes(f"## Core: AMRAP 5:00\n{line}"), line
    assert "rounds-or-windows" not in codes("## Core: every 1:00 x 3\n1) 5 dip\n2) 5 burpee")
    assert "power-rest" not in codes("## Power: intervals 0:07/2:00 x 6\nmax sprint")


def test_kit_is_held_against_the_class_and_what_shares_it():
    owned = {"box": 8, "kettlebell 16 kg": 10, "kettlebell 24 kg": 8}

    def short(heading: str, *lines: str, athletes: int = 12) -> list[str]:
        session = parse("\n".join([f"## Core: {heading}", *lines])).session
        found = check(session, Ground(library(), owned, athletes))
        return [f.message for f in found if f.code == "kit-short"]

    (message,) = short("AMRAP 5:00", "10 box jump", "10 kettlebell swing")
    assert message == "12 need a box (the gym has 8) at once: 2 heats, or pairs who share"
    assert short("AMRAP 5:00, teams of 2, share", "10 box jump") == []
    assert short("AMRAP 5:00, heats 2", "10 box jump") == []
    assert short("every 1:00 x 3", "1) 10 box jump", "2) 10 dip") == []
    assert short("AMRAP 5:00", "10 box jump", athletes=8) == []
    owned["rower"] = 4
    (message,) = short("AMRAP 5:00", "10 box jump", "100 m row", "10 box step-up")
    assert "a box (the gym has 8) and a rower (the gym has 4) at once: 3 heats" in message


def test_one_cause_is_one_finding():
    def said(text: str, shelf: Library | None = None) -> list[str]:
        parsed = parse(text, shelf)
        found = [*parsed.findings, *check(parsed.session, Ground(shelf or library()))]
        return [
            f.code
            for f in found
            if "warm-up" not in f.message and "cool-down" not in f.message and f.code != READ_AS
        ]

    assert said("## Core: AMRAP 5:00\n10 zorbing") == ["unknown-movement"]
    assert said("10 push-up\n5 burpee\n10 sit-up\n3 dip") == ["untimed"]
    assert said("## Cor AMRP 5\n10 push-up") == ["syntax"]
    own = library().find("push-up")
    assert own is not None
    bare = OwnMovement(
        movement=own.model_copy(update={"name": "slide", "aliases": (), "standard": ""})
    )
    again = "## Core: AMRAP 5:00\n10 slide\n5 burpee\n10 slide"
    assert said(again, library().with_own([bare])) == ["no-standard"]


def test_lines_without_a_piece_are_one_whose_format_is_asked():
    text = "10 push-up\n5 burpee\n10 sit-up"
    (asked,) = [one for one in parse(text).findings if one.code != READ_AS]
    assert (asked.severity, asked.message) == ("question", "How is this piece timed?")
    for answer in asked.repairs:
        mended = parse(apply(text, answer.edits))
        assert mended.findings == ()
        assert len(mended.session.pieces[0].lines) == 3


def test_a_version_that_no_tier_of_the_gym_is_given_is_asked_about():
    text = "## Core: 3 rounds\n10 push-up | 8 incline push-up | 6 knee push-up"
    session = parse(text).session

    def beyond(tiers: tuple[str, ...] | None) -> list[plan.Finding]:
        found = check(session, Ground(library(), tiers=tiers))
        return [f for f in found if f.code == "beyond-tiers"]

    assert beyond(None) == beyond(("A", "B", "C")) == []
    (found,) = beyond(("A", "B"))
    assert "6 knee push-up" in found.message
    mended = apply(text, found.repairs[0].edits)
    assert mended.splitlines()[1] == "10 push-up | 8 incline push-up"


def test_lines_without_amount_are_fine_where_the_format_gives_it():
    assert "no-amount" not in codes("## Core: Tabata\npush-up")
    assert "no-amount" not in codes("## Core: 10-8-6 for time\npush-up")


@settings(max_examples=examples(30))
@given(sessions())
def test_checks_outline_and_view_answer_for_every_plan(session: plan.Session):
    check(session)
    hour = outline(session, library())
    assert hour.planned_low_s <= hour.planned_high_s
    assert len(hour.pieces) == len(view(session, library(), 2, 1).pieces)


def test_the_hour_is_laid_out_with_changes_between_working_pieces():
    amraps = "## Core: AMRAP 5:00\n5 dip\n## Core: AMRAP 6:00\n5 dip\n"
    text = f"{amraps}## Rest: 2:00\n## Core: Tabata\ndip"
    hour = outline(parse(text).session, library(), change_s=60)
    assert [piece.start_s for piece in hour.pieces] == [0, 360, 720, 840]
    assert hour.planned_low_s == hour.planned_high_s == 300 + 60 + 360 + 120 + 240
    assert hour.sentence.startswith("Planned 18 of 60 min")


def test_an_overlong_day_says_by_how_much():
    hour = outline(parse("class: 30 min\n## Core: AMRAP 40:00\n5 dip").session, library())
    assert "may run 10:00 over" in hour.sentence


def test_movements_that_are_new_here_are_explained_once_before_their_piece():
    text = (
        "class: 60 min\n## Warm-up: 3 rounds\n10 air squat\n10 scorpion\n\n"
        '## Conditioning "Ebb": AMRAP 10:00\n10 scorpion\n8 push press @ 40/30 kg | 8 burpee\n'
    )
    session = parse(text).session
    plain = outline(session, library())
    assert [each.brief_s for each in plain.pieces] == [0, 0]
    hour = outline(session, library(), known={"air squat"})
    assert [each.explains for each in hour.pieces] == [("scorpion",), ("push press", "burpee")]
    assert [each.brief_s for each in hour.pieces] == [30, 60]
    assert hour.planned_high_s == plain.planned_high_s + 90
    assert hour.pieces[1].start_s == plain.pieces[1].start_s + 90
    assert "1:30 to explain 3 new movements" in hour.sentence
    # However many are new, nobody is talked to for longer than three minutes.
    many = parse("## Core: AMRAP 10:00\n" + "\n".join(f"5 {name}" for name in MANY)).session
    assert outline(many, library(), known={"walk"}).pieces[0].brief_s == 180


def test_open_pieces_are_rough_but_never_past_their_cap():
    text = "## Core: 10 rounds for time, cap 9:00\n50 burpee\n## Skill: accumulate\n5:00 plank"
    capped, held = outline(parse(text).session, library()).pieces
    assert capped.length.rough
    assert capped.length.high_s == 540
    # Common practice, no source: a 5:00 plank accumulated takes between 5:00 and 10:00.
    assert 300 <= held.length.low_s < held.length.high_s <= 600


def test_pieces_that_are_not_saved_have_keys_that_tell_them_apart():
    text = '## Core "A": Tabata\ndip\n## Core: Tabata\ndip\n## Core: Tabata\ndip'
    assert piece_keys(parse(text).session) == ("new-core-a", "new-core", "new-core-2")


def test_an_athlete_reads_their_own_numbers(boards: Path):
    session = parse((boards / "slack-water.board").read_text()).session
    piece = view(session, library(), tier=2, track=1).pieces[2]
    words = [(t.amount, t.movement, t.load) for line in piece.blocks[0] for t in line.tasks]
    assert words == [
        ("10", "push press", "15 kg"),
        ("10", "kettlebell swing", "8 kg"),
        ("8", "box step-up", "30 cm"),
    ]
    assert any("Overhead" in caution for caution in piece.cautions)


def run(*words: str, status: int = 0) -> str:
    result = CliRunner().invoke(app, list(words))
    assert result.exit_code == status, result.output
    return result.output


def test_the_command_line_checks_times_prints_and_scores(boards: Path, tmp_path: Path):
    board = str(boards / "slack-water.board")
    assert "nothing to remark" in run("board", "check", board)
    timed = json.loads(run("board", "clock", board, "--json"))
    assert (timed["title"], timed["total_s"], timed["open_pieces"]) == ("Slack Water", 1800, 2)
    assert timed["pieces"][2]["segments"][0]["length_s"] == 1200
    assert run("board", "print", board).startswith("# Slack Water\n")
    read = json.loads(run("score", "parse", "5+45", "--board", board, "--piece", "3", "--json"))
    assert (read["display"], read["total_reps"]) == ("6+15", 195)
    bad = tmp_path / "bad.board"
    bad.write_text("## Core: AMRAP 2:75\n10 dip")
    assert "2:75" in run("board", "check", str(bad), status=1)
    assert "write rounds+reps" in run(
        "score", "parse", "fast", "--board", board, "--piece", "3", status=1
    )


@pytest.mark.parametrize(
    "words",
    [
        ("board", "print", "{board}"),
        ("board", "clock", "{board}"),
        ("board", "testrun", "{board}", "--athletes", "5"),
        ("score", "parse", "5+4", "--board", "{board}", "--piece", "1"),
    ],
)
def test_no_command_leaves_out_a_line_in_silence(words: tuple[str, ...], tmp_path: Path):
    board = tmp_path / "squats.board"
    board.write_text("## Conditioning: AMRAP 12:00\n10 push-up\n5 back squat @ 60 of what\n")
    words = tuple(word.format(board=board) for word in words)
    refused = run(*words, status=1)
    assert f"{board}:3:" in refused
    assert "60 of what" in refused
    told = run(*words, "--partial")
    assert f"{board}:3:" in told
    assert len(told) > len(refused) - 80


@pytest.mark.parametrize(
    ("heading", "planned_s", "possible_s"),
    [
        ("AMRAP 6:00-10:00", 360, 600),
        ("EMOM 12:00-20:00", 720, 1200),
        ("every 2:00 x 4-5", 480, 600),
        ("intervals 0:40/0:20 x 3-4", 180, 240),
        ("Tabata x 1-3, rest 1:00", 240, 240 * 3 + 120),
        ("AMRAP 6:00", 360, None),
    ],
)
def test_what_a_heading_leaves_to_the_day_is_told_as_possible(heading, planned_s, possible_s):
    session = parse(f"## Conditioning: {heading}\n10 burpee").session
    hour = outline(session, library())
    (piece,) = hour.pieces
    assert (piece.length.low_s, piece.length.high_s) == (planned_s, planned_s)
    assert piece.possible_s == possible_s
    assert hour.planned_high_s == (possible_s or planned_s)


@pytest.mark.parametrize(
    ("written", "unit", "told"),
    [
        # Conversions by the exact pound (NIST SP 811): 24 kg are 52.9 lb, 52.5 kg 115.7 lb.
        ("24/16 kg", "lb", "24/16 kg (53/35 lb)"),
        ("52.5/37.5 kg", "lb", "52.5/37.5 kg (116/83 lb)"),
        ("2 x 20 kg", "lb", "2 x 20 kg (2 x 44 lb)"),
        ("95/65 lb", "kg", "95/65 lb (43/29.5 kg)"),
        ("95/65 lb", "lb", "95/65 lb"),
        ("24 kg", None, "24 kg"),
        ("70%", "lb", "70%"),
        ("60/50 cm", "lb", "60/50 cm"),
    ],
)
def test_a_load_is_told_in_somebodys_own_unit_beside_the_gyms(written, unit, told):
    session = parse(f"## Conditioning: AMRAP 9:00\n10 thruster @ {written}").session
    (piece,) = view(session, library(), unit=unit).pieces
    assert piece.blocks[0][0].tasks[0].load == told


def test_heats_follow_each_other_in_the_hour():
    """The class goes in waves: the piece takes its time for each, and a change between them."""
    board = "## Conditioning: AMRAP 8:00{}\n10 burpee"
    once, twice = (
        outline(parse(board.format(heats)).session, library(), change_s=90)
        for heats in ("", ", heats 2")
    )
    assert once.planned_high_s == 8 * 60
    assert twice.planned_low_s == twice.planned_high_s == 2 * 8 * 60 + 90
    assert twice.pieces[0].heats == 2
    assert twice.sentence.startswith("Planned 18 of 60 min")


def test_heats_of_an_open_piece_are_predicted_together():
    board = "## Conditioning: 3 rounds for time{}\n15 burpee\n\n## Cool-down: continuous 4:00\nwalk"
    once, thrice = (
        outline(parse(board.format(heats)).session, library(), change_s=60)
        for heats in ("", ", heats 3")
    )
    first, again = once.pieces[0].length, thrice.pieces[0].length
    assert again.low_s == 3 * first.low_s + 120
    # What comes after it begins later by as much.
    later = thrice.pieces[1].start_s - once.pieces[1].start_s
    assert later == pytest.approx(
        (again.low_s + again.high_s - first.low_s - first.high_s) / 2, abs=1
    )


@pytest.mark.parametrize(
    "board",
    [
        "AMRAP 10:00\n10 cal row",
        "for time\nbuy-in: 40 cal row\n10 burpee",
        "for time\n10 burpee\ncash-out: 40 cal row",
        "5 sets\n3 [1 clean + 1 front squat]",
    ],
)
def test_kit_that_is_short_is_told_wherever_it_is_needed(board):
    session = parse(f"## Conditioning: {board}").session
    ground = Ground(library=library(), kit={"rower": 3, "barbell": 3}, class_size=12)
    told = [one for one in check(session, ground) if one.code == "kit-short"]
    assert [one.line for one in told] == [1], board
