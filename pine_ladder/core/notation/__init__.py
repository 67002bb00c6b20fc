"""The board notation: text to plan and back."""

from pine_ladder.core.notation.parser import Parsed
from pine_ladder.core.notation.printer import print_session
from pine_ladder.core.notation.reading import parse

READER = 10
"""Counts the changes of what saved boards read as; days read by an older one are read again at the
next upgrade (`usecases.upgrade`)."""

__all__ = ["READER", "Parsed", "parse", "print_session"]
