"""Structure beyond import contracts: routes ask the store, and write no query."""

import ast
from pathlib import Path

import pytest

import pine_ladder

CODE = Path(pine_ladder.__file__).parent
ROUTES = sorted((CODE / "api").rglob("*.py"))
QUERIES = {"select", "insert", "update", "delete", "text"}


@pytest.mark.parametrize("file", ROUTES, ids=lambda file: f"{file.parent.name}/{file.stem}")
def test_no_route_writes_a_query(file):
    tree = ast.parse(file.read_text())
    from_the_database = [
        name.name
        for node in ast.walk(tree)
        if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("sqlalchemy")
        for name in node.names
        if name.name in QUERIES
    ]
    assert from_the_database == []


TELL_NOTHING = {"one", "found", "said", "told", "held", "asked"}
"""Names that say how a value came, and not what it is."""
LEFT = 1131
"""Values and parameters that still have them, in number: lowered with every one renamed."""


def names_given(tree: ast.AST) -> list[str]:
    """The names of values and parameters that a file gives, as often as it does."""
    values = [
        node.id
        for node in ast.walk(tree)
        if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store)
    ]
    return values + [node.arg for node in ast.walk(tree) if isinstance(node, ast.arg)]


def test_fewer_and_fewer_values_are_called_by_how_they_came():
    given = [
        name for file in CODE.rglob("*.py") for name in names_given(ast.parse(file.read_text()))
    ]
    assert sum(name in TELL_NOTHING for name in given) <= LEFT
