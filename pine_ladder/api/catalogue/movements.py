"""The movement library: search, a movement's page, where the gym used it."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import Query
from pydantic import BaseModel

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.core.movements import Ladder, Movement, OwnMovement, Pattern, Swap, library
from pine_ladder.core.poses import figure_of
from pine_ladder.core.week.balance import uses
from pine_ladder.store.catalogue.movements import drop_movement, keep_movement, own_movements
from pine_ladder.store.days import days
from pine_ladder.store.days.pieces import read_board
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.usecases.reread_boards import reread_mentioning

members = router("member", "movements")
coaches = router("coach", "movements")

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
    own: bool
    shipped: bool
    drawn: bool


@members.get("/movements")
def list_movements(
    shelf: Shelf,
    q: Annotated[str, Query(max_length=60, description="Letters of a name")] = "",
    pattern: Pattern | None = None,
    kit: Annotated[str | None, Query(max_length=60, description="Kit it needs, or `none`")] = None,
) -> MovementList:
    """Search the library; slips in typing are forgiven."""
    match = shelf.search(q, 40) if q.strip() else list(shelf.movements)
    kept = [
        m
        for m in match
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


@members.get("/ladders")
def list_ladders(shelf: Shelf) -> list[Ladder]:
    """All ladders, as the gym has them."""
    return list(shelf.ladders)


@members.get("/movements/{name}", responses={404: {"model": Problem}})
def movement_page(name: str, db: Database, shelf: Shelf) -> MovementPage:
    """A movement by name or alias."""
    movement = shelf.find(name)
    if movement is None:
        raise not_found(f"movement called {name}")
    written = gym_of(db).movements_as_written
    today = gym_of(db).today
    published = [d for d in days.days_between(db, today - LOOK_BACK, today) if d.published]
    boards = {d.date: read_board(d.text, shelf).session for d in published}
    return MovementPage(
        movement=written.find(name) or movement,
        ladder=shelf.ladder_of(movement.name),
        swaps=shelf.swaps_for(movement.name),
        used=[date for date, board in boards.items() if movement.name in uses(board, shelf)],
        own=any(one.movement.name == movement.name for one in own_movements(db)),
        shipped=library().find(movement.name) is not None,
        drawn=figure_of(movement.name, shelf) is not None,
    )


@coaches.put("/movements", responses={409: {"model": Problem}})
def write_movement(form: OwnMovement, db: Database, me: Myself) -> Movement:
    """Keep a movement of the gym's own, or the gym's version of one in the library."""
    names = {form.movement.name, *form.movement.aliases}
    before = gym_of(db).movements_as_written.find(form.movement.name)
    names |= {before.name, *before.aliases} if before else set()
    try:
        keep_movement(db, form, me)
    except ValueError as error:
        raise ApiError(409, str(error)) from None
    reread_mentioning(db, names)
    return form.movement


@coaches.delete("/movements/{name}", status_code=204, responses={404: {"model": Problem}})
def forget_movement(name: str, db: Database) -> None:
    """Forget the gym's own movement; one of the library is then as it ships."""
    before = gym_of(db).movements_as_written.find(name)
    if not drop_movement(db, name):
        raise not_found(f"movement of the gym's own called {name}")
    reread_mentioning(db, {name, *(before.aliases if before else ())})
