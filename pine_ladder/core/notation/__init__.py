"""The board notation: text to plan and back."""

from pine_ladder.core.notation.parser import Parsed, parse
from pine_ladder.core.notation.printer import print_session

__all__ = ["Parsed", "parse", "print_session"]
