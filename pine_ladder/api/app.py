"""The application: routes, the built front end, headers that keep the browser at home."""

from __future__ import annotations

from collections.abc import Awaitable, Callable
from pathlib import Path

from fastapi import FastAPI, Request, Response
from fastapi.responses import FileResponse, JSONResponse
from pydantic import BaseModel
from sqlalchemy import Engine, text
from starlette.middleware.gzip import GZipMiddleware
from starlette.staticfiles import StaticFiles

from pine_ladder import __version__
from pine_ladder.api import (
    days,
    errors,
    files,
    gym,
    learning,
    lines,
    movements,
    scaling,
    scores,
    settings,
    sign_in,
    testruns,
    week,
)
from pine_ladder.api.access import Database, include, router
from pine_ladder.store.database import connect, database_url

FRONT_END = Path(__file__).parents[2] / "web" / "dist"
CONTENT_POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; "
    "frame-ancestors 'none'; base-uri 'none'; form-action 'self'"
)

status = router("public", "status")


class Health(BaseModel):
    """The program's version; answered only when the database answers."""

    version: str


@status.get("/health")
def health(db: Database) -> Health:
    """Is it up?"""
    db.execute(text("select 1"))
    return Health(version=__version__)


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
    app.add_middleware(GZipMiddleware, minimum_size=1000)
    errors.install(app)

    @app.middleware("http")
    async def headers(
        request: Request, call_next: Callable[[Request], Awaitable[Response]]
    ) -> Response:
        response = await call_next(request)
        response.headers["Content-Security-Policy"] = CONTENT_POLICY
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["Referrer-Policy"] = "same-origin"
        if request.url.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response

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
        scores.coaches,
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
