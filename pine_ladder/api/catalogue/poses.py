"""Figures: how a movement goes, as numbers that the browser plays."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query

from pine_ladder.api.access import Shelf, router
from pine_ladder.api.errors import Problem, not_found
from pine_ladder.core.poses import Cycle, Sign, cycle, sign

members = router("member", "movements")

Tempo = Annotated[
    str | None, Query(pattern=r"^[0-9]{2}[0-9Xx][0-9]$", description="As on the board, 40X1")
]


Of = Annotated[list[str], Query(max_length=40, description="Movements, by name")]


@members.get("/figures")
def signs(shelf: Shelf, of: Of) -> list[Sign]:
    """The turning positions of some movements; those without a figure are left out."""
    return [found for name in of if (found := sign(name, shelf)) is not None]


@members.get("/figures/{name}", responses={404: {"model": Problem}})
def figure(name: str, shelf: Shelf, tempo: Tempo = None) -> Cycle:
    """A movement's figure in motion, at the library's pace or at a tempo."""
    found = cycle(name, shelf, tempo)
    if found is None:
        raise not_found(f"figure of {name}")
    return found
