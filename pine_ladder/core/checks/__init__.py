"""Checks: each a function from a session to findings, each with a reason; a list runs them."""

from pine_ladder.core.checks.predicted import FORESIGHT, foresee
from pine_ladder.core.checks.registry import CHECKS, check
from pine_ladder.core.checks.traversal import Ground

__all__ = ["CHECKS", "FORESIGHT", "Ground", "check", "foresee"]
