"""Schools of training: what a gym chooses changes drafts and checks, and both say so."""

from __future__ import annotations

import datetime as dt

import pytest

from pine_ladder.core import plan
from pine_ladder.core.checks import Ground, check
from pine_ladder.core.checks.whole_day import check_day
from pine_ladder.core.day.training_style import TrainingStyle
from pine_ladder.core.drafting import draft_day, prompt_of
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse
from pine_ladder.core.week.next_time import FEWEST, Result, advice

PAIR = "## Power: 5 sets, rest 0:20, for: power\n3 box jump\n4 push-up\n"
ALONE = "## Power: 5 sets, rest 0:05, for: power\n3 box jump\n"
PRESSES = "\n".join(f"## Strength: 5 sets, rest 2:00\n8 {lift} @ 75%\n" for lift in (
    "bench press", "strict press", "push press", "floor press", "push jerk"
))  # fmt: skip


def codes(text: str, style: TrainingStyle) -> set[str]:
    session = parse(text, library()).session
    ground = Ground(library(), style=style)
    return {one.code for one in (*check(session, ground), *check_day(session, ground))}


def drafted(**style: str) -> plan.Session:
    prompt = prompt_of({"minutes": 60, "purpose": "power", "style": style})
    return parse(draft_day(prompt, library(), {}, 3, 1)[0].text, library()).session


def test_paired_power_sets_rest_by_turns_only_where_the_gym_pairs_them():
    assert "power-set-rest" in codes(PAIR, TrainingStyle())
    assert "power-set-rest" not in codes(PAIR, TrainingStyle(power="paired"))
    assert "power-set-rest" in codes(ALONE, TrainingStyle(power="paired"))


def test_one_pattern_all_day_is_no_finding_where_the_gym_trains_so():
    assert "same-region" in codes(PRESSES, TrainingStyle())
    assert "same-region" not in codes(PRESSES, TrainingStyle(day="one pattern"))


def test_power_is_drafted_in_pairs_where_the_gym_pairs_it():
    for style, lines in (({}, {1}), ({"power": "paired"}, {1, 2})):
        sets = [
            len(piece.lines)
            for piece in drafted(**style).pieces
            if piece.role is plan.Role.POWER and isinstance(piece.format, plan.Sets)
        ]
        assert set(sets) <= lines
        assert max(sets) == max(lines)


def test_a_warm_up_is_an_amrap_where_the_gym_warms_up_so():
    def forms(**style: str) -> set[str]:
        return {
            piece.format.kind
            for piece in drafted(**style).pieces
            if piece.role is plan.Role.WARM_UP and len(piece.lines) > 1
        }

    assert "amrap" not in forms()
    assert "amrap" in forms(warm_up="AMRAP")


def test_what_is_repeated_on_purpose_makes_no_room_for_another_piece():
    piece = parse("## Conditioning: AMRAP 12:00\n10 burpee\n", library()).session.pieces[0]
    dates = [dt.date(2026, 3, 2) + dt.timedelta(weeks=week) for week in (0, 3, 6)]
    results = [Result(7.0)] * FEWEST
    assert "another piece" in advice(piece, results, None, dates).told
    assert "another piece" not in advice(piece, results, None, dates, repeats=True).told


@pytest.mark.parametrize("style", [{"power": "slow"}, {"colour": "green"}])
def test_a_choice_that_there_is_not_is_refused_with_those_there_are(style: dict[str, str]):
    with pytest.raises(ValueError, match="one of"):
        prompt_of({"style": style})
