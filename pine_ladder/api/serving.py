"""How the server is run, and the bound on how long it waits for the head of a request."""

from __future__ import annotations

import asyncio
import os
import re
from collections.abc import Mapping
from typing import Any

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Receive, Scope, Send
from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

PROXIES = "PINE_LADDER_PROXIES"
"""Addresses whose forwarded headers are believed."""

HEAD_S = 15.0
"""Seconds a client has to send the head of a request, from its connection or its first byte on."""


class BoundedHttp(HttpToolsProtocol):
    """HTTP/1.1 that closes a connection whose request's head does not arrive in time.

    The server itself waits for ever: some hundred half-sent requests would use up its sockets.
    """

    _head: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """A client has connected: its first request is due."""
        super().connection_made(transport)
        self._expect_head()

    def on_message_begin(self) -> None:
        """The first byte of a request, on a new connection or one that was kept."""
        super().on_message_begin()
        self._expect_head()

    def on_headers_complete(self) -> None:
        """The head is there; the body is bounded where it is read."""
        self._no_longer()
        super().on_headers_complete()

    def connection_lost(self, exc: Exception | None) -> None:
        """The client is gone."""
        self._no_longer()
        super().connection_lost(exc)

    def _expect_head(self) -> None:
        self._no_longer()
        self._head = self.loop.call_later(HEAD_S, self._too_slow)

    def _no_longer(self) -> None:
        if self._head is not None:
            self._head.cancel()
            self._head = None

    def _too_slow(self) -> None:
        if self.cycle is not None and not self.cycle.response_complete:
            # The request before is still being answered: its answer comes first.
            self._expect_head()
        elif not self.transport.is_closing():
            self.transport.close()


def server_options(environ: Mapping[str, str]) -> dict[str, Any]:
    """How the server is run, as its own keywords: forwarded headers count from proxies alone."""
    proxies = environ.get(PROXIES, "")
    return {
        "factory": True,
        "http": BoundedHttp,
        "log_level": "warning",
        "proxy_headers": bool(proxies),
        "forwarded_allow_ips": proxies,
        "timeout_graceful_shutdown": 2,
    }


PREFIX = "prefix"
"""The field of a request's state with the path under which the application is reached."""
_PREFIX_HEADER = "x-forwarded-prefix"
_A_PATH = re.compile(r"(?:/[A-Za-z0-9._~-]+)+")


class UnderPath:
    """The application under a path of its host, `https://club.example/ladder`, as a proxy says it.

    The proxy's `X-Forwarded-Prefix: /ladder` counts where proxies are believed at all, and where it
    is a path of plain letters; the path is taken off what is asked for, if the proxy left it there.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on, its path as the application knows it."""
        prefix = _prefix_told(scope) if scope["type"] == "http" else ""
        if prefix:
            scope = {**scope, "state": {**scope.get("state", {}), PREFIX: prefix}}
            if scope["path"].startswith(f"{prefix}/"):
                scope["path"] = scope["path"][len(prefix) :]
                scope["raw_path"] = scope["raw_path"][len(prefix) :]
        await self.app(scope, receive, send)


def _prefix_told(scope: Scope) -> str:
    """The path a proxy says the application is under, without a slash at its end; or empty."""
    if not os.environ.get(PROXIES):
        return ""
    prefix = Headers(scope=scope).get(_PREFIX_HEADER, "").rstrip("/")
    return prefix if _A_PATH.fullmatch(prefix) else ""
