"""The application: routes, the built front end, headers that keep the browser at home."""

from __future__ import annotations

import asyncio
import datetime as dt
import gc
import os
import re
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path
from typing import Any, Literal

from fastapi import FastAPI, Request, Response
from fastapi.responses import FileResponse, HTMLResponse, JSONResponse
from pydantic import BaseModel
from sqlalchemy import Connection, Engine
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session
from starlette.datastructures import MutableHeaders
from starlette.middleware.gzip import GZipMiddleware
from starlette.staticfiles import StaticFiles
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from pine_ladder import __version__
from pine_ladder.api import calendars, errors, mail
from pine_ladder.api import exports as exchange
from pine_ladder.api.access import include, router
from pine_ladder.api.athletes import hearts, learning, overview, scaling
from pine_ladder.api.athletes import members as people
from pine_ladder.api.catalogue import movements
from pine_ladder.api.catalogue import poses as figures
from pine_ladder.api.days import days, drafts, earlier, testruns, week
from pine_ladder.api.days import downloads as files
from pine_ladder.api.days import overview as season
from pine_ladder.api.days import preview as lines
from pine_ladder.api.floor import bookings as signups
from pine_ladder.api.floor import classes as floor
from pine_ladder.api.floor import remote as running
from pine_ladder.api.floor import scores_from_floor as keeping
from pine_ladder.api.floor import screens as walls
from pine_ladder.api.links import PUBLIC_URL, path_prefix
from pine_ladder.api.live import Hub
from pine_ladder.api.people import account as myself
from pine_ladder.api.people import people as everybody
from pine_ladder.api.people import sign_in
from pine_ladder.api.people.sign_in_guard import Door
from pine_ladder.api.request_limits import Bounds
from pine_ladder.api.scores import history_and_bests as progress
from pine_ladder.api.scores import imports, moving_in, standings
from pine_ladder.api.scores import needs_checking as doubts
from pine_ladder.api.scores import sheet as scores
from pine_ladder.api.serving import UnderPath
from pine_ladder.api.settings import gym, programmes, settings
from pine_ladder.api.settings import setup as opening
from pine_ladder.api.settings import tiers as shape
from pine_ladder.files.smtp import Server
from pine_ladder.jobs.backup import NightWatch, folder_said
from pine_ladder.jobs.learning import learning_loop
from pine_ladder.jobs.mail import Postman, server_said
from pine_ladder.jobs.memory import memory_loop
from pine_ladder.jobs.straps import Receiver, StrapWatch, receiver_said
from pine_ladder.store.database import (
    OVERFLOW,
    POOL,
    connect,
    database_url,
    newest_schema,
    schema_of,
)
from pine_ladder.store.mail import queued
from pine_ladder.usecases import week_letters

FRONT_END = Path(__file__).parents[2] / "web" / "dist"
CONTENT_POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "
    "frame-ancestors 'none'; base-uri 'self'; form-action 'self'"
)

AT_THE_ROOT = ("icon.svg", "sw.js", "manifest.webmanifest")
WORKBOX = re.compile(r"workbox-[\w-]+\.js")
"""Files of the front end beside its pages: icon, service worker, manifest."""
PERMISSIONS = (
    "camera=(), microphone=(), geolocation=(), payment=(), usb=(), "
    "autoplay=(self), screen-wake-lock=(self)"
)

SPARE = 8
"""Connections kept from requests for live streams and learning."""

status = router("public", "status")


class MailHealth(BaseModel):
    """Whether there is a mail server, how many letters wait, and how many did not go."""

    on: bool
    waiting: int
    troubled: int


class LoopOut(BaseModel):
    """A background loop: since when its work fails (null while it succeeds) and the error's name.

    `running` is false where this process has nothing to do for it, or its thread has ended.
    """

    name: str
    running: bool
    failing_since: dt.datetime | None
    error: str


class Health(BaseModel):
    """The program's version, and whether database, schema, mail and background loops are well."""

    version: str
    mail: MailHealth | None = None
    loops: list[LoopOut] = []
    database: Literal["answers", "does not answer"]
    schema_is: Literal["current", "older or newer than this program", "unknown"]


@status.get("/health", responses={503: {"model": Health}})
def health(request: Request, response: Response) -> Health:
    """Is it up? 503 while the database does not answer or holds another schema."""
    state = request.app.state
    loops = [
        LoopOut(**loop.health()._asdict())
        for loop in (
            state.postman.loop,
            state.watch.loop,
            state.straps.loop,
            state.learning,
            state.hub.loop,
        )
    ]
    found = Health(
        version=__version__, loops=loops, database="does not answer", schema_is="unknown"
    )
    try:
        with request.app.state.engine.connect() as db:
            current = schema_of(db) == newest_schema()
            letters = _mail(db, request.app.state.postman) if current else None
    except SQLAlchemyError:
        response.status_code = 503
        return found
    if not current:
        response.status_code = 503
    schema: Any = "current" if current else "older or newer than this program"
    return found.model_copy(update={"database": "answers", "schema_is": schema, "mail": letters})


def _mail(db: Connection, post: Postman) -> MailHealth:
    found = queued(Session(db))
    return MailHealth(on=post.server is not None, waiting=found.waiting, troubled=found.troubled)


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
                headers["Permissions-Policy"] = PERMISSIONS
                if scope.get("scheme") == "https":
                    headers["Strict-Transport-Security"] = "max-age=31536000"
                if scope["path"].startswith("/api/"):
                    headers.setdefault("Cache-Control", "no-store")
            await send(message)

        await self.app(scope, receive, tell if scope["type"] == "http" else send)


@asynccontextmanager
async def _lifespan(app: FastAPI) -> AsyncIterator[None]:
    # Modules and data loaded by now stay, and need not be looked at again. Counted in, they would
    # put full collections off, which wait for a quarter more objects than at the last one.
    gc.collect()
    gc.freeze()
    app.state.postman.start()
    app.state.watch.start()
    app.state.straps.start()
    memory = memory_loop()
    memory.start()
    if app.state.learns:
        app.state.learning.start()
    yield
    await asyncio.to_thread(memory.stop, 1.0)
    await asyncio.to_thread(app.state.postman.stop)
    await asyncio.to_thread(app.state.watch.stop)
    await asyncio.to_thread(app.state.straps.stop)
    await asyncio.to_thread(app.state.learning.stop, 1.0)
    app.state.hub.loop.stop(wait_s=0)


def _weekly(db: Session, post: Postman) -> None:
    """The letter of the week, before each round of the mail."""
    week_letters.write_weekly(db, post.queue, os.environ.get(PUBLIC_URL, ""))


def create_app(
    engine: Engine | None = None,
    front_end: Path | None = None,
    learns: bool = True,
    mail_server: Server | None = None,
    backups: Path | None = None,
    straps: Receiver | None = None,
) -> FastAPI:
    """The application on a database (the environment's by default) and a built front end.

    `learns` has it fit pace anew in the background as scores come in. `mail_server` and the folder
    of nightly `backups` and the receiver of `straps` are the environment's where none is given.
    """
    app = FastAPI(
        lifespan=_lifespan,
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
    app.state.learning = learning_loop(app.state.engine)
    app.state.postman = Postman(app.state.engine, mail_server or server_said())
    app.state.postman.before.append(_weekly)
    app.state.watch = NightWatch(app.state.engine, backups or folder_said())
    app.state.straps = StrapWatch(app.state.engine, straps or receiver_said())
    app.state.hub = Hub(app.state.engine)
    app.state.places = asyncio.Semaphore(POOL + OVERFLOW - SPARE)
    app.add_middleware(GZipMiddleware, minimum_size=1000)
    app.state.door = Door()
    errors.install(app)
    app.add_middleware(Bounds)
    app.add_middleware(errors.Unexpected)
    app.add_middleware(Headers)
    app.add_middleware(UnderPath)

    include(
        app,
        status,
        sign_in.open_door,
        sign_in.inside,
        opening.open_door,
        opening.coaches,
        myself.members,
        calendars.members,
        calendars.open_door,
        exchange.coaches,
        gym.members,
        everybody.coaches,
        everybody.open_door,
        overview.coaches,
        people.coaches,
        days.coaches,
        week.coaches,
        season.coaches,
        earlier.coaches,
        files.coaches,
        lines.coaches,
        testruns.coaches,
        drafts.coaches,
        scaling.coaches,
        scaling.members,
        learning.coaches,
        settings.coaches,
        shape.coaches,
        mail.members,
        mail.coaches,
        programmes.members,
        programmes.coaches,
        learning.members,
        hearts.members,
        hearts.coaches,
        movements.members,
        figures.members,
        movements.coaches,
        scores.members,
        standings.members,
        scores.coaches,
        imports.coaches,
        moving_in.coaches,
        doubts.members,
        doubts.coaches,
        running.everyone,
        running.members,
        running.coaches,
        walls.everyone,
        walls.coaches,
        floor.members,
        floor.coaches,
        keeping.coaches,
        signups.members,
        signups.coaches,
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
    def page(path: str, request: Request) -> Response:
        if path.startswith("api/"):
            return JSONResponse({"detail": "there is nothing at this address"}, 404)
        fresh = {"Cache-Control": "no-cache"}
        at_the_root = folder / path
        if path in AT_THE_ROOT or WORKBOX.fullmatch(path):
            if at_the_root.is_file():
                return FileResponse(at_the_root, headers=fresh)
            return JSONResponse({"detail": "there is nothing at this address"}, 404)
        name = "wall.html" if path.startswith("wall/") or path == "wall.html" else "index.html"
        if not (folder / name).is_file():
            return JSONResponse({"detail": "the front end is not built: run make setup"}, 503)
        return HTMLResponse(_based(folder / name, path_prefix(request)), headers=fresh)


def _based(page: Path, prefix: str) -> str:
    """A built page whose addresses begin at the application's own, wherever that is."""
    html = page.read_text(encoding="utf-8")
    return html.replace("<head>", f'<head>\n    <base href="{prefix}/" />', 1)
