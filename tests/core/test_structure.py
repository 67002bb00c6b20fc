"""Structure beyond import contracts: routes ask the store, and write no query."""

import ast
from pathlib import Path

import pytest

import pine_ladder

ROUTES = sorted((Path(pine_ladder.__file__).parent / "api").rglob("*.py"))
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
