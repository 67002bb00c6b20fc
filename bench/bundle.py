"""What a browser is sent before the first screen stands."""

from __future__ import annotations

import gzip
import json
import re
from collections.abc import Iterator
from dataclasses import dataclass

from cluster import ROOT

DIST = ROOT / "web" / "dist"
#: Name, entry and screen, and the bar for its scripts in kB.
VISITS: tuple[tuple[str, tuple[str, ...], int | None], ...] = (
    ("an athlete's phone", ("index.html", "src/screens/me/MyDay.tsx"), 160),
    ("a wall", ("wall.html",), 110),
    ("a coach's day, before its step", ("index.html", "src/screens/day/Day.tsx"), None),
    (
        "the same with the board's editor",
        ("index.html", "src/screens/day/Day.tsx", "src/screens/day/write/Write.tsx"),
        None,
    ),
)


@dataclass(frozen=True)
class Visit:
    """Kilobytes sent: scripts and styles compressed, the fonts (Latin) as they are."""

    name: str
    scripts: float
    styles: float
    fonts: float
    bar: int | None


def visits() -> Iterator[Visit]:
    """Each first visit, with all that its entry and its screen import at once."""
    chunks = json.loads((DIST / ".vite" / "manifest.json").read_text())
    fonts = sum(
        file.stat().st_size
        for file in DIST.rglob("*.woff2")
        if re.search(r"-latin-(wght|500|600)", file.name)
    )
    for name, entries, bar in VISITS:
        reached: set[str] = set()
        todo = list(entries)
        while todo:
            at = todo.pop()
            if at not in reached:
                reached.add(at)
                todo += chunks[at].get("imports", [])
        scripts = {chunks[at]["file"] for at in reached}
        styles = {sheet for at in reached for sheet in chunks[at].get("css", [])}
        yield Visit(name, _sent(scripts), _sent(styles), fonts / 1000, bar)


def _sent(files: set[str]) -> float:
    return sum(len(gzip.compress((DIST / file).read_bytes(), 6)) for file in files) / 1000
