"""The clock: exact arithmetic of every format, and an independent re-run of its timeline."""

import json
from pathlib import Path

import pytest
import simpy
from hypothesis import given
from plans import pieces

from pine_ladder.core import plan
from pine_ladder.core.clock import arithmetic, clock, segments
from pine_ladder.core.notation import parse

EXPECTED = json.loads((Path(__file__).parents[1] / "boards" / "expected.json").read_text())


def piece(text: str) -> plan.Piece:
    parsed = parse(text)
    assert not parsed.findings, parsed.findings
    return parsed.session.pieces[0]


@pytest.mark.parametrize("name", EXPECTED)
def test_example_boards_give_their_arithmetic(boards: Path, name: str):
    session = parse((boards / f"{name}.board").read_text()).session
    timed = [clock(one) for one in session.pieces]
    assert sum(one.total_s is None for one in timed) == EXPECTED[name]["open_pieces"]
    for one, timing, wanted in zip(session.pieces, timed, EXPECTED[name]["pieces"], strict=True):
        assert one.role == wanted.pop("role")
        for field, value in wanted.items():
            assert getattr(timing, field) == value, (one.name, field)


# Common practice, no source.
STATED = [
    ("every 1:00 x 3, teams of 2, alternate", 5, True, 2160, None, 900),
    ("every 2:00 x 3, rest 2:00", 4, False, 1680, 1440, 1440),
    ("intervals 0:30/0:30 x 5", 4, False, 1200, 600, 600),
    ("every 0:30 x 12", 3, True, 1440, 1080, 1080),
    ("every 1:00 x 3", 4, True, 900, 720, 720),
    ("intervals 0:07/2:00 x 6", 1, False, 762, 42, 42),
    ("intervals 0:10/3:00 x 6", 1, False, 1140, 60, 60),
]


@pytest.mark.parametrize(("heading", "stations", "rests", "total", "work", "each"), STATED)
def test_minutes_that_coaches_count_by_hand(heading, stations, rests, total, work, each):
    numbered = heading.startswith("every")
    lines = ["max burpee"] * stations + ["rest"] * rests
    text = "\n".join(f"{i}) {x}" if numbered else x for i, x in enumerate(lines, 1))
    timed = clock(piece(f"## Core: {heading}\n{text}"))
    assert timed.total_s == total
    assert work is None or timed.work_s == work
    assert timed.athlete_work_s == each


def test_four_tabata_blocks_with_two_minutes_between_take_22_minutes():
    blocks = "\n--\n".join(["sit-up", "burpee", "plank", "air squat"])
    timed = clock(piece(f"## Core: Tabata, rest 2:00\n{blocks}"))
    assert timed.total_s == 22 * 60
    assert timed.work_s == 4 * 8 * 20


def test_rest_between_blocks_is_not_added_after_the_last():
    blocks = "\n--\n".join(["10 push-up"] * 4)
    timed = clock(piece(f"## Core: AMRAP 7:00, rest 1:00\n{blocks}"))
    assert (timed.total_s, timed.rest_s) == (31 * 60, 3 * 60)
    assert timed.segments[-1].kind == "work"


def test_an_emom_turns_through_its_stations_and_stops_on_time():
    timed = clock(piece("## Core: EMOM 5:00\n1) 10 push-up\n2) 10 sit-up"))
    assert [segment.station for segment in timed.segments] == [1, 2, 1, 2, 1]
    assert [segment.round for segment in timed.segments] == [1, 1, 2, 2, 3]
    assert timed.windows == 5


def test_partners_turn_at_every_station():
    timed = clock(piece("## Core: every 1:00 x 1, teams of 2, alternate\n1) max burpee\n2) rest"))
    assert [(s.station, s.member, s.kind) for s in timed.segments] == [
        (1, 1, "work"),
        (1, 2, "work"),
        (2, 1, "rest"),
        (2, 2, "rest"),
    ]


def test_open_pieces_have_no_length_of_their_own():
    timed = clock(piece("## Core: 3 rounds for time, cap 12:00\n10 push-up"))
    assert (timed.total_s, timed.cap_s) == (None, 720)
    ladder = clock(piece("## Core: every 1:00, +1 reps each round, until missed\n1 burpee"))
    assert ladder.total_s is None


def test_the_sum_is_spelled_out():
    partners = parse((Path(__file__).parents[1] / "boards" / "two-in-a-boat.board").read_text())
    assert arithmetic(partners.session.pieces[1]) == (
        "3 rounds × 6 stations × 2 athletes × 1:00 = 36:00; each athlete works 15:00"
    )
    four = "## Core: every 2:00 x 3, rest 2:00\n" + "\n".join(f"{i}) max dip" for i in range(1, 5))
    assert arithmetic(piece(four)) == (
        "3 rounds × 4 stations × 2:00 + 2 × 2:00 rest = 28:00, 24:00 work"
    )


@given(pieces())
def test_a_timeline_has_no_gaps_and_adds_up(one: plan.Piece):
    timed = clock(one)
    if timed.total_s is None:
        return
    at = 0
    for segment in timed.segments:
        assert segment.start_s == at
        assert segment.length_s and segment.length_s > 0
        at += segment.length_s
    assert at == timed.total_s == (timed.work_s or 0) + (timed.rest_s or 0)


def replay(one: plan.Piece) -> list[tuple[int, int, str]]:  # noqa: PLR0915 - one class, start to end
    """The same piece run by SimPy as a class would: a coach process that calls each change."""
    env = simpy.Environment()
    called: list[tuple[int, int, str]] = []
    form = one.format
    rest = one.rest.low_s if one.rest else 0

    def call(kind: str, length: int):
        begun = int(env.now)
        yield env.timeout(length)
        called.append((begun, length, kind))

    def window(rests: bool, length: int):
        work = length if rests else min(length, one.work_s or length)
        yield from call("rest" if rests else "work", work)
        if work < length:
            yield from call("rest", length - work)

    def turns(block: plan.Block, each_line: bool):
        members = one.teams.size if one.teams and one.teams.how == "alternate" else 1
        for line in block.lines if each_line else [None]:
            for _ in range(members):
                if each_line:
                    yield line.is_rest
                else:
                    yield all(x.is_rest for x in block.lines)

    def block_of(block: plan.Block):
        match form:
            case plan.Amrap():
                yield from call("work", form.length_s)
            case plan.Every():
                for round_ in range(form.rounds or 0):
                    if round_ and rest and len(one.blocks) == 1:
                        yield from call("rest", rest)
                    for rests in turns(block, block.numbered):
                        yield from window(rests, form.interval_s)
            case plan.Emom():
                end = env.now + form.length_s
                while env.now < end:
                    for rests in turns(block, block.numbered):
                        if env.now < end:
                            yield from window(rests, 60)
            case plan.Intervals() | plan.Tabata():
                tabata = isinstance(form, plan.Tabata)
                work_s, rest_s = (20, 10) if tabata else (form.work_s, form.rest_s)
                end = env.now + 240
                for round_ in range(8 if tabata else form.rounds):
                    if round_ and rest and len(one.blocks) == 1 and not tabata:
                        yield from call("rest", rest)
                    for rests in turns(block, True):
                        if tabata and env.now >= end:
                            return
                        if rests:
                            yield from call("rest", work_s + rest_s)
                        else:
                            yield from call("work", work_s)
                            if rest_s:
                                yield from call("rest", rest_s)

    def coach():
        if isinstance(form, plan.Rest):
            yield from call("rest", form.length_s)
            return
        for index, block in enumerate(one.blocks):
            if index and rest:
                yield from call("rest", rest)
            yield from block_of(block)

    env.process(coach())
    env.run()
    return called


@given(pieces().filter(lambda p: not isinstance(p.format, plan.Continuous)))
def test_a_discrete_event_simulation_agrees_segment_by_segment(one: plan.Piece):
    timed = clock(one)
    if timed.total_s is None:
        return
    assert replay(one) == [(s.start_s, s.length_s, s.kind) for s in segments(one)]


def test_a_continuous_piece_is_shared_among_its_lines_where_they_fill_it():
    shared = clock(piece("## Cool-down: continuous 5:00\n2:00 walk\n1:30 couch stretch, each side"))
    assert [s.length_s for s in shared.segments] == [120, 180]
    # Less than the whole, or more, is the athletes' to share.
    for lines in ("2:00 walk\n1:00 couch stretch, each side", "4:00 walk\n2:00 plank"):
        text = f"## Cool-down: continuous 5:00\n{lines}"
        assert [s.length_s for s in clock(parse(text).session.pieces[0]).segments] == [300]


def test_a_station_of_rest_among_intervals_takes_work_and_rest_together():
    timed = clock(piece("## Core: intervals 0:40/0:20 x 2\nburpee\nrest\nsit-up"))
    assert [(s.kind, s.length_s) for s in timed.segments] == [
        ("work", 40),
        ("rest", 20),
        ("rest", 60),
        ("work", 40),
        ("rest", 20),
    ] * 2
    assert timed.total_s == 360


def test_an_emom_of_more_stations_than_minutes_is_cut_and_one_of_fewer_goes_round():
    stations = "\n".join(f"{n}) {10 + n} burpee" for n in range(1, 5))
    short = clock(parse(f"## Core: EMOM 3:00\n{stations}").session.pieces[0])
    assert ([s.station for s in short.segments], short.total_s) == ([1, 2, 3], 180)
    long = clock(piece(f"## Core: EMOM 9:00\n{stations}"))
    assert [s.station for s in long.segments] == [1, 2, 3, 4, 1, 2, 3, 4, 1]
    assert [s.round for s in long.segments][-1] == 3


def test_windows_are_numbered_from_one_and_what_has_none_counts_none():
    timed = clock(piece("## Core: every 1:00 x 2\n1) 10 burpee\n2) 12 sit-up"))
    assert [s.window for s in timed.segments] == [1, 2, 3, 4]
    assert timed.windows == 4
    assert clock(piece("## Core: AMRAP 5:00\n10 burpee")).windows is None


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("AMRAP 4:00, rest 1:00\n6 burpee\n--\n6 dip\n--\n6 sit-up", "+ 2 × 1:00 rest = 14:00"),
        ("every 2:00 x 3, rest 1:00\n10 burpee", "+ 2 × 1:00 rest = 8:00"),
    ],
)
def test_the_sum_counts_the_rests_between(text, words):
    assert words in arithmetic(piece(f"## Core: {text}"))


def test_a_tabata_of_any_number_of_movements_is_eight_windows():
    """Three movements take turns in the eight windows of 0:20 and 0:10: 4:00, not 3 times 1:00."""
    for lines in ("burpee", "burpee\nsit-up", "burpee\nsit-up\nplank", "burpee\n--\nsit-up"):
        (piece,) = parse(f"## Core: Tabata\n{lines}").session.pieces
        blocks = len(piece.blocks)
        assert clock(piece).total_s == 240 * blocks
        assert sum(one.kind == "work" for one in segments(piece)) == 8 * blocks
