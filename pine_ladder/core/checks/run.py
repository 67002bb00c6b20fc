"""The list of checks and the one function that runs it."""

from collections.abc import Callable

from pine_ladder.core import plan
from pine_ladder.core.checks import arithmetic, session

Check = Callable[[plan.Session], list[plan.Finding]]

CHECKS: tuple[Check, ...] = (
    arithmetic.missing_amounts,
    arithmetic.odd_over_two_sides,
    arithmetic.schemes_that_do_not_fit,
    arithmetic.continuous_parts_that_do_not_add_up,
    arithmetic.minutes_that_do_not_fit_the_stations,
    arithmetic.fill_before_the_end,
    session.empty_pieces,
    session.missing_warm_up_or_cool_down,
)


def check(planned: plan.Session) -> list[plan.Finding]:
    """All findings of all checks, in the order of the board."""
    found = [finding for one in CHECKS for finding in one(planned)]
    return sorted(found, key=lambda f: (f.line, f.column, f.code))
