"""The outermost bounds of a request: how long a body may be, and which characters it may hold.

PostgreSQL's text holds no NUL, UTF-8 no lone surrogates, JSON no NaN; each is refused here with a
sentence, before anything tries to keep it.
"""

from __future__ import annotations

import asyncio
import json
from typing import Any

from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

MAX_BODY = 1_000_000
FILES = ("/api/imports", "/api/scores/import")
MAX_FILE_BODY = 42_000_000
"""Requests that carry a file, and the most of them: thirty megabytes as base64."""
"""Bytes: a hundred times a day's board."""
MAX_DEPTH = 40
BODY_S, SLOWEST_BYTES_S = 20.0, 10_000
"""Seconds a body has to arrive in, and bytes a second that it may take beyond them."""


class Refused(Exception):
    """A body that is not taken; status and sentence."""

    def __init__(self, status: int, sentence: str) -> None:
        super().__init__(sentence)
        self.status, self.sentence = status, sentence


def _no_number(name: str) -> float:
    raise ValueError(f"{name} is no number that can be kept")


def _depth(value: Any, left: int = MAX_DEPTH) -> None:
    if left == 0:
        raise ValueError("it is nested too deeply")
    inside = value.values() if isinstance(value, dict) else value if isinstance(value, list) else ()
    for item in inside:
        _depth(item, left - 1)


def check_body(body: bytes) -> None:
    """Raises Refused for JSON that cannot be read or kept."""
    if not body:
        return
    try:
        text = body.decode("utf-8")
        value = json.loads(text, parse_constant=_no_number)
        _depth(value)
    except (ValueError, RecursionError) as error:
        long = "int" in str(error) and "digits" in str(error)
        why = "a number is far too long" if long else str(error)
        if isinstance(error, RecursionError):
            why = "it is nested too deeply"
        raise Refused(422, f"what was sent cannot be read: {why}") from None
    if "\\u" in text or "\x00" in text:
        whole = json.dumps(value, ensure_ascii=False)
        if "\x00" in whole or "\\u0000" in whole:
            raise Refused(422, "the text holds a NUL character, which cannot be kept: remove it")
        try:
            whole.encode("utf-8")
        except UnicodeEncodeError:
            raise Refused(
                422, "the text holds half a character, which cannot be kept: remove it"
            ) from None


class Bounds:
    """Reads the whole body of a write, within bounds, before the application sees it."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on with its body checked, or answer why not."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        try:
            if "\x00" in scope["path"] or b"%00" in scope["query_string"]:
                raise Refused(422, "an address holds no NUL character")
            if scope["method"] in ("GET", "HEAD", "OPTIONS"):
                await self.app(scope, receive, send)
                return
            body = await self._read(scope, receive)
            check_body(body)
        except Refused as refusal:
            answer = JSONResponse({"detail": refusal.sentence}, refusal.status)
            await answer(scope, receive, send)
            return
        given = False

        async def replay() -> Message:
            nonlocal given
            if given:
                return await receive()
            given = True
            return {"type": "http.request", "body": body, "more_body": False}

        await self.app(scope, replay, send)

    async def _read(self, scope: Scope, receive: Receive) -> bytes:
        length = dict(scope["headers"]).get(b"content-length", b"0")
        most = MAX_FILE_BODY if scope["path"].startswith(FILES) else MAX_BODY
        too_long = Refused(413, f"this is more than {most // 1000} kB: send less at once")
        if length.isdigit() and int(length[:12]) > most:
            raise too_long
        parts: list[bytes] = []
        size, begun = 0, asyncio.get_running_loop().time()
        while True:
            try:
                async with asyncio.timeout_at(begun + BODY_S + size / SLOWEST_BYTES_S):
                    message = await receive()
            except TimeoutError:
                raise Refused(408, "the request did not arrive in time: send it again") from None
            if message["type"] != "http.request":
                return b"".join(parts)
            parts.append(message.get("body", b""))
            size += len(parts[-1])
            if size > most:
                raise too_long
            if not message.get("more_body", False):
                return b"".join(parts)
