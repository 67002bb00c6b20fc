"""Errors that carry their HTTP status and a sentence for the user."""

import logging
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from sqlalchemy import exc

from pine_ladder.api.said import sentence
from pine_ladder.store.boards.days import NoProgramme

log = logging.getLogger("pine_ladder")

AWAY = "the gym's database does not answer just now: what you typed is kept here, try again shortly"
FULL = "the gym's database has no room left: nothing was changed, and what you typed is kept here"
BUSY = "someone else is writing the same just now: try again"
AGAIN_S = "2"
NO_ROOM = "53100"
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


def _state(error: Exception) -> str:
    return str(getattr(getattr(error, "orig", None), "sqlstate", None) or "")


def _database(error: Exception) -> JSONResponse:
    """A 503 where the database is away, slow, locked or full; values are never told or logged."""
    state = _state(error)
    log.warning("database: %s %s", type(error).__name__, state or "no answer")
    sentence = BUSY if state in CONFLICTS else FULL if state == NO_ROOM else AWAY
    return JSONResponse({"detail": sentence}, 503, headers={"Retry-After": AGAIN_S})


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

    async def out_of_range(_request: Request, error: Exception) -> JSONResponse:
        log.warning("database: %s %s", type(error).__name__, _state(error))
        return JSONResponse({"detail": "a value is longer or larger than can be kept"}, 422)

    async def crossed(_request: Request, error: Exception) -> JSONResponse:
        log.warning("database: %s %s", type(error).__name__, _state(error))
        return JSONResponse({"detail": "someone else changed this just now: look again"}, 409)

    app.add_exception_handler(ApiError, answer)
    app.add_exception_handler(RequestValidationError, malformed)
    app.add_exception_handler(NoProgramme, no_programme)
    app.add_exception_handler(exc.DBAPIError, away)
    app.add_exception_handler(exc.TimeoutError, away)
    app.add_exception_handler(exc.DataError, out_of_range)
    app.add_exception_handler(exc.IntegrityError, crossed)
