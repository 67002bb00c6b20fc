"""How boards written without knowledge of the notation are read, habit by habit.

    python tools/reading_by_habit.py [FILE]

FILE holds boards with their exact twins as `tests/plain/coaches.json` does: an id whose first
letter is the habit, `plain`, `exact` and `exact_lacks`. For each habit it tells how many boards are
read with pieces, roles and movements as meant, and how many are wrong without a word.
"""

from __future__ import annotations

import difflib
import json
import sys
from collections import Counter
from pathlib import Path

from pine_ladder.core import plan
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse

BOARDS = Path(__file__).parent.parent / "tests" / "plain" / "coaches.json"
ALIKE, MOST = 0.8, 0.9
"""How alike two names are that mean one movement, and the share of movements that must be found."""


def names(exercise: plan.Exercise) -> set[str]:
    """The movements of an exercise, its parts and its alternatives."""
    found = {exercise.movement.lower()} - {""}
    for one in (*exercise.parts, *exercise.instead):
        found |= names(one)
    return found


def movements(session: plan.Session) -> set[str]:
    """The movements of a session in all versions."""
    return {
        name
        for piece in session.pieces
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out)
        for task in line.tasks
        for version in task.versions
        for name in names(version)
    }


def share(some: set[str], others: set[str]) -> float:
    """How many of some names have their like among the others."""
    alike = [
        any(difflib.SequenceMatcher(None, one, other).ratio() >= ALIKE for other in others)
        for one in some
    ]
    return sum(alike) / len(alike) if alike else 1.0


def roles(session: plan.Session) -> list[plan.Role]:
    """The roles of a session's pieces, rests left out."""
    return [one.role for one in session.pieces if one.role is not plan.Role.REST]


def main() -> None:
    """Read all boards and print a row a habit."""
    file = Path(sys.argv[1]) if len(sys.argv) > 1 else BOARDS
    counts: dict[str, Counter[str]] = {}
    for board in json.loads(file.read_text()):
        tally = counts.setdefault(board["id"][0], Counter())
        read, meant = parse(board["plain"], library()), parse(board["exact"], library()).session
        found, wanted = movements(read.session), movements(meant)
        same_roles = roles(read.session) == roles(meant)
        same_moves = share(wanted, found) >= MOST and share(found, wanted) >= MOST
        loud = any(one.severity != "hint" for one in read.findings)
        tally["boards"] += 1
        tally["roles"] += same_roles
        tally["movements"] += same_moves
        tally["both"] += same_roles and same_moves
        tally["silent"] += not (same_roles and same_moves) and not loud
    columns = ("boards", "roles", "movements", "both", "silent")
    print("habit " + " ".join(f"{one:>9}" for one in columns))
    for habit, tally in sorted(counts.items()):
        print(f"{habit:5} " + " ".join(f"{tally[one]:9}" for one in columns))


if __name__ == "__main__":
    main()
