"""The postman: one thread a process that hands over letters as they fall due.

A request only queues; nothing on the way to an answer waits for a mail server.
"""

from __future__ import annotations

import logging
import os
from collections.abc import Callable
from typing import Annotated

from fastapi import Depends, Request
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from pine_ladder.core.day.letters import Letter
from pine_ladder.core.tracebacks import traceback_without_values
from pine_ladder.files.smtp import SENDER, SMTP, Outcome, Server, deliver, message, server_of
from pine_ladder.jobs import Loop
from pine_ladder.store.models import MailRow, Person
from pine_ladder.usecases.mail import claim_letter, queue_letter, settle_letter

log = logging.getLogger("pine_ladder")

ROUND_S = 5.0


def server_said() -> Server | None:
    """The mail server of the environment; ValueError for one that cannot be used, None for none."""
    url = os.environ.get(SMTP, "")
    return server_of(url, os.environ.get(SENDER, "")) if url else None


class Postman:
    """Hands over what is due, round after round; without a server nothing is ever queued."""

    def __init__(self, engine: Engine, server: Server | None) -> None:
        self.engine, self.server = engine, server
        self.before: list[Callable[[Session, Postman], None]] = []
        """What is looked at before each round: letters that nobody presses a key for."""
        self.loop = Loop("mail", self.round, ROUND_S)

    @property
    def on(self) -> bool:
        """Whether the gym has a mail server."""
        return self.server is not None

    @property
    def only_here(self) -> bool:
        """Whether its server is on this machine, as the demo's is: so is who reads letters."""
        return self.server is not None and self.server.host in ("localhost", "127.0.0.1", "::1")

    def queue(self, db: Session, person: Person, kind: str, key: str, letter: Letter) -> bool:
        """Let a letter wait to go out with this transaction; whether it does."""
        return self.server is not None and queue_letter(db, person, kind, key, letter)

    def start(self) -> None:
        """Begin the rounds, where there is a server to bring letters to."""
        if self.server is not None:
            self.loop.start()

    def stop(self) -> None:
        """No more rounds; the letter in hand is finished."""
        self.loop.stop(ROUND_S)

    def round(self) -> int:
        """Hand over everything that is due; how many letters went. It ends at the first that the
        server would not listen to, as it will not listen to the next one either. A letter that
        cannot be written or handed over is refused by itself and holds up no other.
        """
        assert self.server is not None
        for look in self.before:
            with Session(self.engine) as db, db.begin():
                look(db, self)
        went = 0
        while not self.loop.stopping.is_set():
            with Session(self.engine) as db, db.begin():
                row = claim_letter(db)
                if row is None:
                    return went
                number, mark = row.id, f"{row.id}.{row.made_at:%Y%m%d%H%M%S}"
                address, subject, body = row.address, row.subject, row.body
            outcome, trouble = self._handed_over(address, subject, body, mark)
            with Session(self.engine) as db, db.begin():
                kept = db.get(MailRow, number)
                # Who was erased meanwhile took their letters along.
                if kept is not None:
                    settle_letter(db, kept, outcome, trouble)
            if outcome == "waiting":
                log.warning("mail: %s", trouble)
                return went
            went += outcome == "sent"
        return went

    def _handed_over(self, to: str, subject: str, body: str, mark: str) -> tuple[Outcome, str]:
        """What became of one letter; refused where it cannot even be written."""
        assert self.server is not None
        try:
            return deliver(self.server, message(self.server, to, subject, body, mark))
        except ValueError as error:
            return "refused", str(error)
        except Exception as error:  # One letter must not end the mail of a gym.
            log.error("mail: a letter failed:\n%s", traceback_without_values(error))
            return "refused", f"This letter could not be sent ({type(error).__name__})."


def _postman(request: Request) -> Postman:
    found: Postman = request.app.state.postman
    return found


Post = Annotated[Postman, Depends(_postman)]
"""What a request hands its letters to."""
