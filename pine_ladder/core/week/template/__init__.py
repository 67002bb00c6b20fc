"""A week of sessions for a gym's beginning, Monday to Saturday, to be made its own."""

from functools import cache
from importlib import resources


@cache
def template_week() -> tuple[str, ...]:
    """The boards of the week in order, Monday first; Sunday is free."""
    files = resources.files("pine_ladder.core.week.template").iterdir()
    boards = sorted((file for file in files if file.name.endswith(".board")), key=lambda f: f.name)
    return tuple(board.read_text(encoding="utf-8") for board in boards)
