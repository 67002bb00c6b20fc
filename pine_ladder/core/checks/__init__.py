"""Checks: each a function from a session to findings, each with a reason; a list runs them."""

from pine_ladder.core.checks.run import CHECKS, check
from pine_ladder.core.checks.trade import kit_for_the_class

__all__ = ["CHECKS", "check", "kit_for_the_class"]
