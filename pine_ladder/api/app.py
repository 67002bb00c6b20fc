"""The application: routes, the built front end, headers that keep the browser at home."""

from __future__ import annotations

import asyncio
from pathlib import Path

from fastapi import FastAPI, Response
from fastapi.responses import FileResponse, JSONResponse
from pydantic import BaseModel
from sqlalchemy import Engine, text
from starlette.datastructures import MutableHeaders
from starlette.middleware.gzip import GZipMiddleware
from starlette.staticfiles import StaticFiles
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from pine_ladder import __version__
from pine_ladder.api import (
    days,
    doubts,
    errors,
    files,
    floor,
    gym,
    keeping,
    learning,
    lines,
    movements,
    progress,
    running,
    scaling,
    scores,
    settings,
    sign_in,
    standings,
    testruns,
    week,
)
from pine_ladder.api.access import Database, include, router
from pine_ladder.api.live import Hub
from pine_ladder.store.database import OVERFLOW, POOL, connect, database_url

FRONT_END = Path(__file__).parents[2] / "web" / "dist"
CONTENT_POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "
    "frame-ancestors 'none'; base-uri 'none'; form-action 'self'"
)

SPARE = 8
"""Connections kept from requests for live streams and learning."""

status = router("public", "status")


class Health(BaseModel):
    """The program's version; answered only when the database answers."""

    version: str


@status.get("/health")
def health(db: Database) -> Health:
    """Is it up?"""
    db.execute(text("select 1"))
    return Health(version=__version__)


class Headers:
    """Adds the headers that keep the browser at home, to streams as they begin."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on, with headers on its answer."""

        async def tell(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                headers["Content-Security-Policy"] = CONTENT_POLICY
                headers["X-Content-Type-Options"] = "nosniff"
                headers["Referrer-Policy"] = "same-origin"
                if scope["path"].startswith("/api/"):
                    headers.setdefault("Cache-Control", "no-store")
            await send(message)

        await self.app(scope, receive, tell if scope["type"] == "http" else send)


def create_app(
    engine: Engine | None = None, front_end: Path | None = None, learns: bool = True
) -> FastAPI:
    """The application on a database (the environment's by default) and a built front end.

    `learns` has it fit pace anew in the background as scores come in.
    """
    app = FastAPI(
        title="Pine Ladder",
        version=__version__,
        description=__doc__,
        docs_url=None,
        redoc_url=None,
        openapi_url=None,
        generate_unique_id_function=lambda route: route.name,
    )
    app.state.engine = engine or connect(database_url())
    app.state.learns = learns
    app.state.hub = Hub(app.state.engine)
    app.state.places = asyncio.Semaphore(POOL + OVERFLOW - SPARE)
    app.add_middleware(GZipMiddleware, minimum_size=1000)
    errors.install(app)

    app.add_middleware(Headers)

    include(
        app,
        status,
        sign_in.open_door,
        sign_in.inside,
        gym.members,
        gym.coaches,
        days.coaches,
        week.coaches,
        files.coaches,
        lines.coaches,
        testruns.coaches,
        scaling.coaches,
        scaling.members,
        learning.coaches,
        settings.coaches,
        learning.members,
        movements.members,
        movements.coaches,
        scores.members,
        standings.members,
        scores.coaches,
        doubts.members,
        doubts.coaches,
        running.everyone,
        running.members,
        running.coaches,
        floor.members,
        floor.coaches,
        keeping.coaches,
        progress.members,
        progress.coaches,
    )
    _serve_front_end(app, front_end or FRONT_END)
    return app


def _serve_front_end(app: FastAPI, folder: Path) -> None:
    """Files as built; every other address is the single page, so that links can be shared."""
    if (folder / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=folder / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        if path.startswith("api/"):
            return JSONResponse({"detail": "there is nothing at this address"}, 404)
        icon = folder / path
        if path in ("icon.svg",) and icon.is_file():
            return FileResponse(icon)
        if not (folder / "index.html").is_file():
            return JSONResponse({"detail": "the front end is not built: run make web"}, 503)
        return FileResponse(folder / "index.html", headers={"Cache-Control": "no-cache"})
