"""A piece on the clock: beats are the ruler's segments, and each press does one thing."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from plans import pieces

from pine_ladder.core import plan
from pine_ladder.core.clock import segments
from pine_ladder.core.floor import remote
from pine_ladder.core.floor.briefing import briefing
from pine_ladder.core.floor.cues import script
from pine_ladder.core.floor.remote import Finish, Refusal, Running, beat_at, load, press
from pine_ladder.core.notation import parse
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.scores.kinds import counted_intervals, score_kind


def piece(heading: str, *lines: str) -> plan.Piece:
    return parse("\n".join([f"## Conditioning: {heading}", *lines])).session.pieces[0]


BELLS = piece("EMOM 4:00", "1) 10 burpee", "2) 12 sit-up")
TABATA = piece("Tabata, rest 1:00", "sit-up", "--", "air squat")
AMRAP = piece("AMRAP 10:00", "10 burpee")
SETS = piece("3 sets, rest 1:30", "5 deadlift @ 100/70 kg")
SPRINT = piece("3 rounds for time, cap 12:00", "10 burpee")
LADDER = piece("every 1:00, +1 reps each round, until missed", "2 burpee")


def run(state: Running, movements, *presses: tuple[str, float]) -> Running:
    for what, now in presses:
        state = press(state, what, now, movements)
    return state


@given(pieces())
def test_an_exact_piece_is_played_in_the_segments_of_the_ruler(one: plan.Piece):
    from pine_ladder.core.movements import library

    walked = segments(one)
    if any(segment.length_s is None for segment in walked):
        script(one, library())
        return
    assert [
        (b.start_s, b.length_s, b.kind, b.round, b.rounds, b.station, b.window, b.member)
        for b in script(one, library()).beats
    ] == [
        (s.start_s, s.length_s, s.kind, s.round, s.rounds, s.station, s.window, s.member)
        for s in walked
    ]


@given(pieces())
def test_beats_stand_on_the_strip_at_the_place_of_their_interval(one: plan.Piece):
    from pine_ladder.core.movements import library

    kind = score_kind(one)
    places = [beat.place for beat in script(one, library()).beats]
    if kind in (ScoreKind.TOTAL_REPS, ScoreKind.LOWEST_INTERVAL):
        held = counted_intervals(one)
        assert sorted({p for p in places if p}) == list(range(1, len(held) + 1))
    elif kind is not ScoreKind.LOAD:
        assert not any(places)


def test_partners_jot_in_one_place_and_rests_in_none(movements):
    pair = piece("every 1:00 x 2, teams of 2, alternate", "1) max burpee", "2) rest")
    beats = script(pair, movements).beats
    assert [(b.member, b.place) for b in beats if b.kind == "work"] == [
        (1, 1), (2, 1), (1, 2), (2, 2),
    ]  # fmt: skip
    assert {b.place for b in beats if b.kind == "rest"} == {None}


@given(pieces())
def test_calls_stand_inside_the_piece_and_in_order(one: plan.Piece):
    from pine_ladder.core.movements import library

    played = script(one, library())
    times = [call.at_s for call in played.calls]
    assert times == sorted(times)
    if played.total_s is not None and times:
        assert times[-1] <= played.total_s


def test_a_lead_in_counts_down_to_the_first_beat(movements):
    state = press(load("bells", BELLS), "start", 100.0, movements, lead_s=10)
    assert state.at(100.0) == -10
    assert beat_at(script(BELLS, movements), -1) is None
    assert beat_at(script(BELLS, movements), 61).station == 2


def test_a_pause_holds_the_position_whatever_the_time(movements):
    state = run(load("a", AMRAP), movements, ("start", 0), ("pause", 70))
    assert state.at(70) == state.at(5000) == 60
    state = press(state, "resume", 5000, movements)
    assert state.at(5001) == 61


def test_skip_goes_to_the_next_beat_and_ends_after_the_last(movements):
    state = run(load("b", BELLS), movements, ("start", 0), ("skip", 25))
    assert state.at(25) == 60
    state = run(state, movements, ("skip", 25), ("skip", 25), ("skip", 25))
    with pytest.raises(Refusal, match="over"):
        press(state, "skip", 25, movements)


def test_skip_in_the_lead_in_begins_at_once(movements):
    assert run(load("b", BELLS), movements, ("start", 0), ("skip", 4)).at(4) == 0


def test_a_round_added_to_an_emom_is_a_whole_turn_of_its_stations(movements):
    state = run(load("b", BELLS), movements, ("start", 0), ("add round", 30))
    played = script(BELLS, movements, state.changes)
    assert played.total_s == 360
    assert [beat.window for beat in played.beats] == [1, 2, 3, 4, 5, 6]


def test_a_round_is_added_to_the_block_that_runs(movements):
    state = run(load("t", TABATA), movements, ("start", 0), ("add round", 15))
    played = script(TABATA, movements, state.changes)
    assert played.total_s == 540 + 30
    assert [b.start_s for b in played.beats if ".gap." in b.id] == [270]


def test_an_amrap_is_added_a_minute(movements):
    state = run(load("a", AMRAP), movements, ("start", 0), ("add round", 30))
    assert script(AMRAP, movements, state.changes).total_s == 660


def test_a_longer_rest_moves_what_follows(movements):
    state = run(load("t", TABATA), movements, ("start", 0), ("longer rest", 32))
    beats = script(TABATA, movements, state.changes).beats
    assert (beats[1].length_s, beats[2].start_s) == (10 + remote.LONGER_S, 30 + remote.LONGER_S)


def test_open_sets_last_until_the_coach_goes_on_and_rest_is_counted(movements):
    first = script(SETS, movements)
    assert [(b.kind, b.length_s) for b in first.beats] == [
        ("open", None), ("rest", 90), ("open", None), ("rest", 90), ("open", None),
    ]  # fmt: skip
    state = run(load("s", SETS), movements, ("start", 0), ("skip", 52))
    beats = script(SETS, movements, state.changes).beats
    assert (beats[0].length_s, beats[1].start_s, beats[2].start_s) == (42, 42, 132)
    assert beat_at(script(SETS, movements, state.changes), 43).kind == "rest"


def test_athletes_end_an_open_piece_one_by_one_and_by_their_heat(movements):
    state = press(load("f", SPRINT, waves=2), "start", 0, movements)
    with pytest.raises(Refusal, match="heat 2 has not begun"):
        press(state, "finish", 60, movements, athlete_id=2, heat=2)
    state = press(state, "start heat", 130, movements)
    state = press(state, "finish", 400, movements, athlete_id=1)
    state = press(state, "finish", 520, movements, athlete_id=2, heat=2)
    assert [(f.athlete_id, f.seconds) for f in state.finishes] == [(1, 390), (2, 390)]
    with pytest.raises(Refusal, match="all heats"):
        press(state, "start heat", 600, movements)
    assert script(SPRINT, movements).one_by_one and not script(SETS, movements).one_by_one
    with pytest.raises(Refusal, match="not scored by time"):
        press(press(load("s", SETS), "start", 0, movements), "finish", 90, movements, athlete_id=1)
    state = press(state, "unfinish", 600, movements, athlete_id=1)
    assert [f.athlete_id for f in state.finishes] == [2]


def test_an_end_is_the_time_the_clock_showed():
    shown = [Finish(athlete_id=1, seconds=s).shown for s in (0.4, 59.99, 389.2, 390.0)]
    assert shown == ["0:01", "0:59", "6:29", "6:30"]


def test_a_ladder_without_end_grows_and_shows_each_rounds_number(movements):
    played = script(LADDER, movements)
    assert played.endless
    assert [beat.lines[0] for beat in played.beats[:3]] == ["2 burpee", "3 burpee", "4 burpee"]


def test_partners_hand_over_and_sides_and_tempo_are_called(movements):
    pair = piece("every 1:00 x 2, teams of 2, alternate", "1) max burpee", "2) max sit-up")
    assert [c.at_s for c in script(pair, movements).calls if c.kind == "hand over"] == [
        60, 120, 180, 240, 300, 360, 420,
    ]  # fmt: skip
    side = piece("intervals 0:40/0:20 x 1", "side plank, each side")
    assert [c.at_s for c in script(side, movements).calls if c.kind == "switch"] == [20]
    slow = script(piece("EMOM 1:00", "5 front squat, tempo 40X0"), movements).beats[0]
    assert [(step.phase, step.seconds) for step in slow.tempo] == [
        ("down", 4), ("bottom", 0), ("up", 0.5), ("top", 0),
    ]  # fmt: skip


def test_a_cap_is_called_on_an_open_piece(movements):
    calls = script(SPRINT, movements).calls
    assert [(c.at_s, c.kind) for c in calls if c.kind in ("minute", "cap")] == [
        (660, "minute"),
        (720, "cap"),
    ]


@given(pieces(), st.lists(st.tuples(st.sampled_from(remote.PRESSES), st.floats(0, 400))))
def test_no_order_of_presses_breaks_the_clock(one: plan.Piece, presses):
    from pine_ladder.core.movements import library

    state, now = load("x", one), 1000.0
    for what, later in presses:
        now += later
        try:
            state = press(state, what, now, library(), athlete_id=1)
        except Refusal as refusal:
            assert str(refusal)
        assert Running.model_validate(state.model_dump(mode="json")) == state
        script(state.piece, library(), state.changes)


def test_a_briefing_goes_through_the_movements_and_back_to_the_board(movements):
    state = load(
        "k", piece("AMRAP 10:00", "10 push press @ 40/30 kg | 8 dumbbell press", "5 burpee")
    )
    shown = [each.movement for each in briefing(state.piece, movements)]
    assert shown == ["push press", "burpee", "dumbbell press"]
    places = []
    for what in ("show next", "show next", "show before", "show next", "show next", "show next"):
        state = press(state, what, 0, movements)
        places.append(state.shown)
    assert places == [0, 1, 0, 1, 2, None]
    assert press(state, "show before", 0, movements).shown == 2


def test_nothing_is_shown_over_a_clock_that_runs(movements):
    waiting = press(load("k", AMRAP), "show next", 0, movements)
    running = press(waiting, "start", 0, movements)
    assert running.shown is None
    with pytest.raises(Refusal, match="hold it"):
        press(running, "show next", 20, movements)
    held = run(running, movements, ("pause", 30), ("show next", 31))
    assert held.shown == 0
    assert press(held, "resume", 40, movements).shown is None
    assert press(held, "board", 40, movements).shown is None


def test_a_piece_without_figures_says_so(movements):
    with pytest.raises(Refusal, match="no movement of this piece"):
        press(load("k", piece("AMRAP 10:00", "10 wrist circle")), "show next", 0, movements)
