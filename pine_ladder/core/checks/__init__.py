"""Checks: each a function from a session to findings, each with a reason; a list runs them."""

from pine_ladder.core.checks.foresight import FORESIGHT, foresee
from pine_ladder.core.checks.run import CHECKS, check
from pine_ladder.core.checks.walk import Ground

__all__ = ["CHECKS", "FORESIGHT", "Ground", "check", "foresee"]
