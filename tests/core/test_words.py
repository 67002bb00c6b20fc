"""The screens use the words of docs/words.md, and none of those it has retired."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).parent.parent.parent
SCREENS = [
    file
    for file in sorted((ROOT / "web" / "src").rglob("*.ts*"))
    if file.name != "schema.ts" and ".test." not in file.name
]
ROW = re.compile(r"\| ([^|]+) \| ([^|]+) \|")


def retired() -> list[str]:
    text = (ROOT / "docs" / "words.md").read_text("utf-8")
    rows = ROW.findall(text.split("## Retired texts")[1])
    return [old for old, _ in rows if old != "retired" and not old.startswith("---")]


def labels(text: str) -> set[str]:
    """Whole texts of a screen: quoted strings, and what stands between tags."""
    quoted = re.findall(r'"([^"\n]+)"', text) + re.findall(r"`([^`\n$]+)`", text)
    between = re.findall(r">\s*([^<>{}]+?)\s*<", text)
    return {" ".join(one.split()) for one in (*quoted, *between)}


def test_the_list_is_read():
    assert len(retired()) > 50
    assert "Save" in labels('<Button type="submit">\n  Save\n</Button>')


@pytest.mark.parametrize("file", SCREENS, ids=lambda file: file.name)
def test_no_screen_shows_a_retired_text(file: Path):
    assert labels(file.read_text("utf-8")) & set(retired()) == set()
