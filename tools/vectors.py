"""Vectors for what displays must do without network: the core's word, tested in the browser's code.

`python tools/vectors.py` writes them; a test fails when they are stale.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from pine_ladder.core.floor.cues import Changes, script
from pine_ladder.core.floor.remote import MAY_WAIT, Refusal, beat_at, load, press
from pine_ladder.core.floor.round_times import Strip, next_place, read_jot
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse
from pine_ladder.core.plan import Piece
from pine_ladder.core.scores.pacing import lap_verdict

FOLDER = Path(__file__).resolve().parent.parent / "web" / "src"
CLOCK, JOTS = FOLDER / "clock" / "vectors.json", FOLDER / "offline" / "vectors.json"
LAPS = FOLDER / "screens" / "day" / "run" / "vectors.json"

BOARDS = {
    "a Tabata": "## Core: Tabata\nsit-up",
    "windows at stations": "## Conditioning: EMOM 4:00\n1) 10 push-up\n2) rest",
    "blocks with a rest between": "## Conditioning: AMRAP 3:00, rest 1:00\n10 burpee\n--\n10 dip",
    "an open piece with a cap": "## Conditioning: for time, cap 5:00\n60 air squat",
    "an open piece without one": "## Conditioning: 3 rounds for time\n10 burpee",
    "partners who alternate": "## Conditioning: every 1:00 x 2, teams of 2, alternate\n1) max dip",
}
TYPED = (
    "12", " 12 ", "0", "61.25", "61,25", "1:05", "1.05", "1:60", "0:59", "100:00", "1:5", "12.5",
    "12,75", "12,755", "", "abc", "-3", "1e3", "99999", "100000", "٣", "4:05 ", "3:", ":30",
)  # fmt: skip
ROUNDS: tuple[tuple[bool, int, dict[int, float]], ...] = (
    (True, 3, {}),
    (True, 3, {1: 60, 3: 70}),
    (True, 3, {1: 60, 2: 61, 3: 70}),
    (False, 3, {1: 60, 2: 61, 3: 70}),
    (False, 3, {0: 5, 1: 60}),
    (False, 1, {}),
)


LAP_TIMES: tuple[list[float], ...] = (
    [], [100, 100], [100, 100, 105], [90, 92, 99], [90, 92, 100], [100, 104, 120], [90, 100, 121],
    [120, 110, 95], [100, 95, 90], [100, 95, 89], [0, 0, 90], [100, 100, 140, 101],
    [90, 92, 95, 96, 99, 110], [90, 92, 95, 96, 99, 110, 112, 113, 114],
)  # fmt: skip


def _stands(board: str) -> dict[str, Any]:
    piece = parse(board, library()).session.pieces[0]
    played = script(piece, library(), Changes())
    total = played.total_s or played.cap_s or 90
    positions = [n / 2 for n in range(int(2 * total) + 6)]
    stands = []
    for position in positions:
        beat = beat_at(played, position)
        capped = played.cap_s is not None and position >= played.cap_s
        stands.append([position, beat.id if beat and not capped else None])
    return {
        "script": played.model_dump(mode="json"),
        "stands": stands,
        "presses": _presses(piece, positions[::7]),
    }


BEGAN = 1000.0
"""When the clocks of the presses began, in seconds since the epoch."""


def _presses(piece: Piece, positions: list[float]) -> list[list[Any]]:
    """Presses that may wait: whether the clock was held, the press, the position it was made at,
    and what the clock says then: when it began and where it is held; None where that cannot be
    told without the script's changes, or is refused.
    """
    out: list[list[Any]] = []
    state = load("1", piece)
    for position in [-3.0, *positions]:
        for held in (False, True):
            before = state.model_copy(update={"held": position} if held else {"began": BEGAN})
            for what in MAY_WAIT:
                try:
                    after = press(before, what, BEGAN + position, library())
                except Refusal:
                    out.append([held, what, position, None])
                    continue
                changed = after.changes != before.changes or after.ended
                out.append([held, what, position, None if changed else [after.began, after.held]])
    return out


def vectors() -> dict[Path, Any]:
    """Each file with what belongs in it."""
    units = ("reps", "s", "kg")
    places = []
    for more, labels, rounds in ROUNDS:
        strip = Strip(unit="s", labels=("r",) * labels, more=more, extra=False)
        places.append([more, labels, rounds, next_place(strip, rounds)])
    reads = {unit: {text: read_jot(text, unit) for text in TYPED} for unit in units}  # type: ignore[arg-type]
    return {
        LAPS: [[laps, lap_verdict(laps)] for laps in LAP_TIMES],
        CLOCK: {name: _stands(board) for name, board in BOARDS.items()},
        JOTS: json.loads(json.dumps({"read": reads, "next": places})),
    }


if __name__ == "__main__":
    for path, held in vectors().items():
        path.write_text(json.dumps(held, ensure_ascii=False, indent=1) + "\n", "utf-8")
