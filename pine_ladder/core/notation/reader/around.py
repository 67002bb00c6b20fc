"""Surroundings of a token of a work."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.work import Scope


class Around(NamedTuple):
    """Surroundings of a token: what comes before and after it, and the work's movement."""

    before: Token | None
    after: Sequence[Token]
    move: Token | None
    scope: Scope

    @property
    def by(self) -> bool:
        """After `3 x`."""
        return self.before is not None and self.before.kind == "by"

    def past(self, token: Token) -> bool:
        """Whether a token stands behind the movement."""
        return self.move is not None and token.start > self.move.start
