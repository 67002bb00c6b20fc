"""The list of checks and the one function that runs it."""

from collections.abc import Callable

from pine_ladder.core import plan
from pine_ladder.core.checks import arithmetic, kit, load, scores, session, units
from pine_ladder.core.checks import class_length as hour
from pine_ladder.core.checks import ineffective_rules as idle
from pine_ladder.core.checks import power_rest as power
from pine_ladder.core.checks.traversal import Ground, lines_of, spoken
from pine_ladder.core.movements import library

Check = Callable[[plan.Session, Ground], list[plan.Finding]]

CHECKS: tuple[Check, ...] = (
    arithmetic.missing_amounts,
    arithmetic.odd_over_two_sides,
    arithmetic.schemes_that_do_not_fit,
    arithmetic.continuous_parts_that_do_not_add_up,
    arithmetic.minutes_that_do_not_fit_the_stations,
    arithmetic.fill_before_the_end,
    session.empty_pieces,
    session.missing_warm_up_or_cool_down,
    units.pounds_written_as_kilograms,
    units.inches_written_as_centimetres,
    units.holds_written_as_counts,
    hour.rounds_that_may_be_windows,
    hour.longer_than_the_class,
    scores.timed_lines_in_counted_rounds,
    scores.maximum_each_round,
    scores.unclear_score_rules,
    scores.scored_work_without_a_standard,
    scores.versions_beyond_the_tiers,
    power.rest_too_short_for_power,
    load.reps_beyond_the_percentage,
    load.rest_too_short_for_the_load,
    load.heavy_in_a_lighter_week,
    load.power_that_is_none,
    kit.kit_for_the_class,
    kit.sizes_that_are_not_there,
    idle.modifiers_that_do_nothing,
    idle.details_that_do_nothing,
)


def check(planned: plan.Session, ground: Ground | None = None) -> list[plan.Finding]:
    """All findings of all checks in board order; without a gym, by the shipped library alone."""
    ground = ground or Ground(library())
    # What is wrong with a piece whose heading could not be read is said there, and nothing else.
    guessed = {line for piece in planned.pieces if piece.unread for line in lines_of(piece)}
    found = [
        finding for one in CHECKS for finding in one(planned, ground) if finding.line not in guessed
    ]
    return sorted(spoken(found, planned), key=lambda f: (f.line, f.column, f.code))
