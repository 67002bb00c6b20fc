"""Checks: each a function from a session to findings, each with a reason; a list runs them."""

from pine_ladder.core.checks.run import CHECKS, check

__all__ = ["CHECKS", "check"]
