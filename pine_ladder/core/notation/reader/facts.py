"""Facts of a clause on its piece, as far as its words say them."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from pine_ladder.core.notation.reader.token import Token

Range = tuple[int, ...]
"""One number, or the lower and the higher of two."""


@dataclass
class Facts:
    """Facts of a clause on its piece. Times are in seconds; a pair is a range."""

    role: str = ""
    form: str = ""
    """amrap, emom, every, for time, tabata, intervals, accumulate, death, continuous."""
    rounds: Range = ()
    sets: Range = ()
    each: tuple[int, ...] = ()
    """Reps of each set, where they were said with the sets alone."""
    length: Range = ()
    each_s: Range = ()
    """The time of each of several pieces that are told beside it."""
    every_s: int = 0
    windows: Range = ()
    total_s: int = 0
    work_s: int = 0
    off_s: int | None = None
    scheme: tuple[int, ...] = ()
    endless: bool = False
    """Its scheme goes on for ever: `2-4-6-…`."""
    in_turn: bool = False
    """Its sets are those of all stations together: `every 2:00 for 8 sets, alternating`."""
    times: int = 0
    """Copies of the piece: `3 x AMRAP 4`."""
    ladder: bool = False
    grow: int = 0
    cap: int = 0
    rest: Range = ()
    rests: list[tuple[int, Range]] = field(default_factory=list)
    """Each rest that was said, with its column."""
    rest_as_needed: bool = False
    quality: bool = False
    most: bool = False
    """As many as possible of each work that says no amount: `5 rounds, max reps each`."""
    build: int = 0
    """Reps of the heavy set it builds to; 1 where none were said."""
    builds: bool = False
    heavier: bool = False
    """Each set is said to be heavier by so much: it builds, with reps of its own."""
    fields: dict[str, Any] = field(default_factory=dict)
    """Modifiers said in words of the notation: fields of the piece."""
    score: str = ""
    team: int = 0
    how: str = ""
    pace: str = ""
    slot: Range = ()
    goal: bool = False
    place: str = ""
    places: list[tuple[int, str]] = field(default_factory=list)
    """Each place that was said, with its column."""
    max_of: str = ""
    loaded: bool = False
    """The clause names a movement that is done with a weight."""
    used: list[Token] = field(default_factory=list)

    @property
    def frames(self) -> bool:
        """Whether it says how a piece is timed."""
        return bool(
            self.form or self.rounds or self.sets or self.scheme or self.builds or self.ladder
        )

    @property
    def any(self) -> bool:
        """Whether it says anything of a piece."""
        return self.frames or bool(
            self.role or self.cap or self.rest or self.rest_as_needed or self.quality or self.score
            or self.team or self.how or self.grow or self.slot
        )  # fmt: skip

    @property
    def window_count(self) -> int:
        """The number of windows, 0 where the piece has none or they are not told."""
        if self.form == "every":
            return (self.windows or self.rounds or self.sets or (0,))[0]
        return self.length[0] // 60 if self.form == "emom" and self.length else 0
