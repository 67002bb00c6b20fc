"""A piece that is wished for: its role, and as much of its format and work as was said."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pine_ladder.core import plan
from pine_ladder.core.notation import parse, words
from pine_ladder.core.plan import Frozen

FAMILIES = {
    "amrap": plan.Amrap,
    "emom": plan.Emom,
    "every": plan.Every,
    "for time": plan.ForTime,
    "rounds for time": plan.ForTime,
    "intervals": plan.Intervals,
    "tabata": plan.Tabata,
    "sets": plan.Sets,
    "rounds": plan.Rounds,
    "continuous": plan.Continuous,
    "ladder": plan.ForTime,
    "chipper": plan.ForTime,
}
"""Formats by the word that names their kind alone."""


class Wish(Frozen):
    """A piece that is wished for. `piece` holds its format and work as far as they were told;
    `family` the kind of format, where only that was; `minutes` how long it is to be.
    """

    role: plan.Role
    family: str = ""
    minutes: float | None = None
    piece: plan.Piece | None = None
    said: str = ""

    @property
    def whole(self) -> bool:
        """Whether its work was told and no other length: then it comes as it is."""
        return self.piece is not None and bool(self.piece.lines) and not self.minutes


def wish_of(table: Mapping[str, Any] | str) -> Wish:
    """A wish out of its table (`role`, `format`, `minutes`); ValueError for a role that is none."""
    if isinstance(table, str):
        table = {"format": table}
    said = " ".join(str(table.get("format", "")).split())
    role = words.role_named(str(table.get("role") or "conditioning"))
    if role is None:
        known = ", ".join(role.value for role in plan.Role)
        raise ValueError(f"“{table.get('role')}” is no role of a piece: one of {known}.")
    minutes = table.get("minutes")
    family = said.lower() if said.lower() in FAMILIES else ""
    piece = None
    if said and not family:
        read = parse(f"## {role.value}: {said}").session.pieces
        if len(read) != 1 or read[0].unread or not _told(f"## {role.value}: {said}"):
            read = parse(f"{role.value}\n{said}").session.pieces
        piece = read[0] if read else None
        family = next((word for word in FAMILIES if word in said.lower()), "")
    return Wish(
        role=role,
        family=family,
        minutes=float(minutes) if minutes is not None else None,
        piece=piece,
        said=said,
    )


def _told(heading: str) -> bool:
    """Whether a heading stands as it is: nothing of it is wrong."""
    return all(finding.severity != "error" for finding in parse(heading).findings)
