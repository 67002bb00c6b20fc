"""Bringing a gym's old tables in: what their columns hold, what is doubtful, what each row says.

Nothing here knows of a database or a file: a table is its headings and its rows of text.
"""

from pine_ladder.core.imports.headings import Kind, guess_columns, kind_of_table
from pine_ladder.core.imports.questions import Answers, ImportQuestion, Skipped

__all__ = ["Answers", "ImportQuestion", "Kind", "Skipped", "guess_columns", "kind_of_table"]
