"""Errors that carry their HTTP status and a sentence for the user."""

import logging
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from sqlalchemy import exc
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from pine_ladder.api.messages import sentence
from pine_ladder.core.tracebacks import sqlstate_of, traceback_without_values
from pine_ladder.store.gym.loaded import NoProgramme

log = logging.getLogger("pine_ladder")

AWAY = "The database is not responding. Your text is saved on this device; try again in a minute."
FULL = "The database has no room left. Nothing was changed; your text is saved on this device."
BUSY = "someone else is writing the same just now: try again"
AGAIN_S = "2"
NO_ROOM = "53100"
DEFECT = "This failed because of a fault in the program. Your text is saved on this device."
AWAY_FOR_NOW = ("25P03", "25006")
"""SQL states that are not operational errors to the driver: a transaction that lay idle too long,
a server that only reads (a replica after a fail-over)."""
CHANGED_MEANWHILE = ("23503", "23505", "23P01")
"""SQL states of a row somebody else removed or made meanwhile: foreign key, unique, exclusion."""
TOO_LARGE = ("22001", "22003", "22008", "22021", "22P05")
"""SQL states of values past their column: length, number, date, characters."""
CONFLICTS = ("40001", "40P01", "55P03")
"""SQL states of writes that met: serialization failure, deadlock, lock not available."""


class Problem(BaseModel):
    """What every error answers: a sentence that says what to do."""

    detail: str

    model_config = {"json_schema_extra": {"examples": [{"detail": "sign in first"}]}}


class ApiError(Exception):
    """An error with its status and sentence; `extra` fields travel beside the sentence."""

    def __init__(self, status: int, detail: str, **extra: Any) -> None:
        super().__init__(detail)
        self.status, self.detail, self.extra = status, detail, extra


def not_found(what: str) -> ApiError:
    """A 404 in words."""
    return ApiError(404, f"there is no {what}")


def is_away(error: Exception) -> bool:
    """True where the database does not answer for now: what failed works again by itself."""
    return (
        isinstance(error, exc.OperationalError | exc.TimeoutError | exc.InterfaceError)
        or sqlstate_of(error) in AWAY_FOR_NOW
        or getattr(error, "connection_invalidated", False)
    )


def _database(error: Exception) -> JSONResponse:
    """What a database error means to who asked; raises it again where it is a fault of ours.

    Operational errors, pool time-outs and the SQLSTATEs named above are states of the world: 503,
    409 or 422. Any other SQL error is a defect, and answered as one. Values are never told or
    logged.
    """
    state = sqlstate_of(error)
    if state in CHANGED_MEANWHILE:
        status, sentence = 409, "someone else changed this just now: look again"
    elif state in TOO_LARGE:
        status, sentence = 422, "a value is longer or larger than can be kept"
    elif state in CONFLICTS:
        status, sentence = 503, BUSY
    elif state == NO_ROOM:
        status, sentence = 503, FULL
    elif is_away(error):
        status, sentence = 503, AWAY
    else:
        raise error
    log.warning("database: %s %s", type(error).__name__, state or "no answer")
    headers = {"Retry-After": AGAIN_S} if status == 503 else None
    return JSONResponse({"detail": sentence}, status, headers=headers)


class Unexpected:
    """Answers an exception that nobody foresaw with a 500, and logs its traceback without values.

    Outermost but for the headers: a stream that has begun is cut off instead.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on, and answer for what it raises."""
        begun = False

        async def noted(message: Message) -> None:
            nonlocal begun
            begun = begun or message["type"] == "http.response.start"
            await send(message)

        try:
            await self.app(scope, receive, noted)
        except Exception as error:  # Whatever it is, its values stay out of the log.
            if scope["type"] != "http":
                raise
            route = getattr(scope.get("route"), "path", "a request")
            log.error("%s %s:\n%s", scope["method"], route, traceback_without_values(error))
            if not begun:
                await JSONResponse({"detail": DEFECT}, 500)(scope, receive, send)


def install(app: FastAPI) -> None:
    """Answer ApiError, malformed requests and a database in trouble with sentences."""

    async def answer(_request: Request, error: Exception) -> JSONResponse:
        assert isinstance(error, ApiError)
        headers = {"Retry-After": str(wait)} if (wait := error.extra.get("wait_s")) else None
        return JSONResponse({"detail": error.detail, **error.extra}, error.status, headers)

    async def malformed(_request: Request, error: Exception) -> JSONResponse:
        assert isinstance(error, RequestValidationError)
        return JSONResponse({"detail": sentence(error.errors()[0])}, 422)

    async def no_programme(_request: Request, _error: Exception) -> JSONResponse:
        return JSONResponse({"detail": "there is no such programme"}, 404)

    async def away(_request: Request, error: Exception) -> JSONResponse:
        return _database(error)

    app.add_exception_handler(ApiError, answer)
    app.add_exception_handler(RequestValidationError, malformed)
    app.add_exception_handler(NoProgramme, no_programme)
    app.add_exception_handler(exc.DBAPIError, away)
    app.add_exception_handler(exc.TimeoutError, away)
