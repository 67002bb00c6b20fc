"""Who may call what: a router for the public, one for signed-in people, one for coaches.

A route that belongs to none of them keeps the application from starting, so that forgetting a
guard denies instead of allowing.
"""

from __future__ import annotations

import secrets
from collections.abc import AsyncIterator, Callable
from typing import Annotated, Any

from fastapi import APIRouter, Depends, FastAPI, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.routing import APIRoute
from sqlalchemy.orm import Session

from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.core.movements import Library
from pine_ladder.store.gym.loaded import gym_of, work_on
from pine_ladder.store.models import Person, SignIn
from pine_ladder.store.people import people

COOKIE = "pine_session"
DEVICE_COOKIE = "pine_device"
GUARD_HEADER = "x-pine-guard"
SAFE_METHODS = {"GET", "HEAD", "OPTIONS"}


InProgramme = Annotated[
    int | None,
    Query(ge=1, le=2**31 - 1, description="The programme this is about; the gym's first if none"),
]


async def database(request: Request, in_programme: InProgramme = None) -> AsyncIterator[Session]:
    """One transaction a request: committed when the answer stands, undone on any error.

    A request waits for a place before it takes a thread: requests that hold a connection would
    otherwise wait for the threads of those that wait for a connection.
    """
    async with request.app.state.places:
        session = Session(request.app.state.engine)
        work_on(session, in_programme)
        try:
            yield session
            await run_in_threadpool(session.commit)
        finally:
            await run_in_threadpool(session.close)


Database = Annotated[Session, Depends(database, scope="function")]


def _shelf(db: Database) -> Library:
    return gym_of(db).movements


Shelf = Annotated[Library, Depends(_shelf)]
"""The movement library as the gym has it, its own movements included."""


def public(request: Request) -> None:
    """Anyone may call; a write must come from this site's own pages."""
    origin = request.headers.get("origin")
    if request.method in SAFE_METHODS or origin is None:
        return
    if origin.split("://", 1)[-1] != request.headers.get("host"):
        raise ApiError(403, "this request comes from another site")


def signed_in(request: Request, db: Database) -> SignIn:
    """A signed-in person; a write must carry the session's guard (against forged requests)."""
    token = request.cookies.get(COOKIE)
    found = people.session_of(db, token) if token else None
    if found is None:
        raise ApiError(401, "sign in first")
    if request.method not in SAFE_METHODS:
        guard = request.headers.get(GUARD_HEADER, "")
        if not secrets.compare_digest(guard.encode(), found.guard.encode()):
            raise ApiError(403, "this page is out of date: reload it and try again")
    return found


def coach(found: Annotated[SignIn, Depends(signed_in)]) -> SignIn:
    """A signed-in coach."""
    if found.person.role != "coach":
        raise ApiError(403, "only coaches can do this")
    return found


def _person(found: Annotated[SignIn, Depends(signed_in)]) -> Person:
    return found.person


Myself = Annotated[Person, Depends(_person)]
MySignIn = Annotated[SignIn, Depends(signed_in)]

GUARDS: dict[str, Callable[..., Any]] = {"public": public, "member": signed_in, "coach": coach}


def router(access: str, tag: str) -> APIRouter:
    """A router whose every route is for `public`, `member` or `coach`."""
    errors: dict[int | str, dict[str, Any]] = {}
    if access != "public":
        errors[401] = {"model": Problem, "description": "Not signed in"}
        errors[403] = {"model": Problem, "description": "Not allowed"}
    return APIRouter(
        prefix="/api", tags=[tag], dependencies=[Depends(GUARDS[access])], responses=errors
    )


def access_of(route: APIRoute) -> str:
    """The strictest guard of a route; RuntimeError when it has none."""
    calls = [dependency.dependency for dependency in route.dependencies]
    for access in ("coach", "member", "public"):
        if GUARDS[access] in calls:
            return access
    raise RuntimeError(f"{route.path} has no guard: make it with pine_ladder.api.access.router")


def include(app: FastAPI, *routers: APIRouter) -> None:
    """Add routers, refusing any route without a guard; the guard shows in the OpenAPI."""
    for each in routers:
        for route in each.routes:
            assert isinstance(route, APIRoute)
            route.openapi_extra = {**(route.openapi_extra or {}), "x-access": access_of(route)}
        app.include_router(each)
