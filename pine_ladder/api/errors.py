"""Errors that carry their HTTP status and a sentence for the user."""

from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel


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


def install(app: FastAPI) -> None:
    """Answer ApiError and malformed requests with sentences."""

    async def answer(_request: Request, error: Exception) -> JSONResponse:
        assert isinstance(error, ApiError)
        return JSONResponse({"detail": error.detail, **error.extra}, error.status)

    async def malformed(_request: Request, error: Exception) -> JSONResponse:
        assert isinstance(error, RequestValidationError)
        first = error.errors()[0]
        place = " ".join(str(part) for part in first["loc"] if part != "body")
        return JSONResponse({"detail": f"{place}: {first['msg']}".strip(": ")}, 422)

    app.add_exception_handler(ApiError, answer)
    app.add_exception_handler(RequestValidationError, malformed)
