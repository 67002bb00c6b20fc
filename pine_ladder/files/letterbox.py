"""A mail server that sends nothing on: it keeps what would have gone out, and shows it on a page.

For the demo, for trying things out, and for tests.
"""

from __future__ import annotations

import html
import mailbox
from email import message_from_bytes, policy
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from threading import Lock, Thread
from typing import Any, NamedTuple

from aiosmtpd.controller import Controller
from aiosmtpd.smtp import SMTP, Envelope, Session

HOST = "127.0.0.1"
MOST_SHOWN = 500
PAGE = """<!doctype html><html lang="en"><meta charset="utf-8"><title>Letterbox</title>
<meta name="viewport" content="width=device-width">
<style>body{{font:16px/1.5 sans-serif;max-width:46rem;margin:2rem auto;padding:0 1rem}}
article{{border-top:1px solid #bbb;padding:.5rem 0}}pre{{white-space:pre-wrap}}</style>
<h1>Letterbox</h1><p>What would have gone out, the newest first. Nothing was sent anywhere.</p>
{letters}</html>"""


class Kept(NamedTuple):
    """A letter that came in."""

    to: str
    subject: str
    body: str


class Letterbox:
    """Takes letters on loopback and keeps them in a maildir; `refuse`, where set, is its answer."""

    def __init__(self, folder: Path, port: int, page_port: int | None = None) -> None:
        self.refuse = ""
        self.box = mailbox.Maildir(folder, create=True)
        self._lock = Lock()
        self.port = port
        self._smtp = Controller(self, hostname=HOST, port=port)
        self._page = (
            ThreadingHTTPServer((HOST, page_port), _page_of(self))
            if page_port is not None
            else None
        )

    async def handle_DATA(self, _server: SMTP, _session: Session, envelope: Envelope) -> str:
        """Take one letter in."""
        if self.refuse:
            return self.refuse
        content = envelope.content
        assert isinstance(content, bytes)
        with self._lock:
            self.box.add(content)
        return "250 kept here"

    def start(self) -> None:
        """Listen, in the background."""
        self._smtp.start()
        if self._page is not None:
            Thread(target=self._page.serve_forever, daemon=True).start()

    def stop(self) -> None:
        """Listen no longer."""
        self._smtp.stop()
        if self._page is not None:
            self._page.shutdown()
            self._page.server_close()

    def kept(self) -> list[Kept]:
        """What came in, the newest first."""
        with self._lock:
            found = sorted(self.box.items(), key=lambda one: one[1].get_date(), reverse=True)
            raw = [one.as_bytes() for _, one in found[:MOST_SHOWN]]
        return [_read(one) for one in raw]


def _read(raw: bytes) -> Kept:
    letter = message_from_bytes(raw, policy=policy.default)
    return Kept(str(letter["To"]), str(letter["Subject"]), str(letter.get_content()))


def _page_of(box: Letterbox) -> type[BaseHTTPRequestHandler]:
    class Page(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            """Everything that was kept, on one page."""
            letters = "".join(
                f"<article><h2>{html.escape(one.subject)}</h2><p>to {html.escape(one.to)}</p>"
                f"<pre>{html.escape(one.body)}</pre></article>"
                for one in box.kept()
            )
            content = PAGE.format(letters=letters).encode()
            self.send_response(200)
            self.send_header("Content-Type", "text/html; charset=utf-8")
            self.send_header("Content-Length", str(len(content)))
            self.end_headers()
            self.wfile.write(content)

        def log_message(self, *_words: Any) -> None:
            """Say nothing of visits."""

    return Page
