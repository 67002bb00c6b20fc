"""The movement library: search, a movement's page, where the gym used it."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import Query
from pydantic import BaseModel

from pine_ladder.api.access import Database, router
from pine_ladder.api.errors import Problem, not_found
from pine_ladder.core.movements import Ladder, Movement, Pattern, Swap, library
from pine_ladder.core.notation import parse
from pine_ladder.core.week import uses
from pine_ladder.store import days

members = router("member", "movements")

LOOK_BACK = dt.timedelta(days=180)


class MovementLine(BaseModel):
    """A movement in the list."""

    name: str
    patterns: tuple[Pattern, ...]
    kit: tuple[str, ...]
    ladder: str | None


class MovementList(BaseModel):
    """What was found, and all there is to filter by."""

    found: list[MovementLine]
    patterns: list[Pattern]
    kit: list[str]


class MovementPage(BaseModel):
    """A movement with its ladder, its swaps, and when the gym used it."""

    movement: Movement
    ladder: Ladder | None
    swaps: tuple[Swap, ...]
    used: list[dt.date]


@members.get("/movements")
def list_movements(
    q: Annotated[str, Query(max_length=60, description="Letters of a name")] = "",
    pattern: Pattern | None = None,
    kit: Annotated[str | None, Query(description="Kit it needs, or `none`")] = None,
) -> MovementList:
    """Search the library; slips in typing are forgiven."""
    shelf = library()
    found = shelf.search(q, 40) if q.strip() else list(shelf.movements)
    kept = [
        m
        for m in found
        if (pattern is None or pattern in m.patterns)
        and (kit is None or (not m.kit if kit == "none" else kit in m.kit))
    ]
    lines = []
    for movement in kept:
        ladder = shelf.ladder_of(movement.name)
        lines.append(
            MovementLine(
                name=movement.name,
                patterns=movement.patterns,
                kit=movement.kit,
                ladder=ladder.name if ladder else None,
            )
        )
    return MovementList(
        found=lines,
        patterns=list(Pattern),
        kit=sorted({item for m in shelf.movements for item in m.kit}),
    )


@members.get("/movements/{name}", responses={404: {"model": Problem}})
def movement_page(name: str, db: Database) -> MovementPage:
    """A movement by name or alias."""
    shelf = library()
    movement = shelf.find(name)
    if movement is None:
        raise not_found(f"movement called {name}")
    today = dt.date.today()
    held = [d for d in days.days_between(db, today - LOOK_BACK, today) if d.published]
    return MovementPage(
        movement=movement,
        ladder=shelf.ladder_of(movement.name),
        swaps=shelf.swaps_for(movement.name),
        used=[d.date for d in held if movement.name in uses(parse(d.text).session, shelf)],
    )
