"""Mail: what somebody wants, letters queued, sent once, tried again."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from sqlalchemy import delete, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from pine_ladder.core.day.letters import CHOICES, Letter
from pine_ladder.store.mail import CLAIM, FORGOTTEN, SECRET, WAITS, wanted_by
from pine_ladder.store.models import MailRow, MailUnwanted, Person


def choose_letters(db: Session, person: Person, wanted: Iterable[str]) -> None:
    """Have somebody get these kinds of letters, and none of the others."""
    keep = set(wanted)
    db.execute(delete(MailUnwanted).where(MailUnwanted.person_id == person.id))
    db.add_all(MailUnwanted(person_id=person.id, kind=kind) for kind in CHOICES if kind not in keep)
    db.flush()


def queue_letter(db: Session, person: Person, kind: str, key: str, letter: Letter) -> bool:
    """Let a letter wait to go out; False for who has no address, does not want it, or has it.

    It goes with the transaction: what is undone is not sent.
    """
    if not person.active or not person.email:
        return False
    if kind in CHOICES and not wanted_by(db, person)[kind]:
        return False
    made = insert(MailRow).values(
        person_id=person.id,
        kind=kind,
        key=f"{kind}/{key}/{person.id}",
        address=person.email,
        subject=letter.subject,
        body=letter.body,
    )
    done = made.on_conflict_do_nothing(index_elements=["key"]).returning(MailRow.id)
    return db.execute(done).first() is not None


def claim_letter(db: Session) -> MailRow | None:
    """The next letter to hand over, taken so that no other process has it; None where none is due.

    The caller commits before it says a word to the mail server.
    """
    left = (MailRow.state == "going", MailRow.due_at < func.now() - CLAIM)
    db.execute(
        update(MailRow)
        .where(*left)
        .values(
            state="unsure",
            done_at=func.now(),
            trouble="it was being sent when the application stopped",
        )
    )
    query = (
        select(MailRow)
        .where(MailRow.state == "waiting", MailRow.due_at <= func.now())
        .order_by(MailRow.due_at, MailRow.id)
        .limit(1)
        .with_for_update(skip_locked=True, of=MailRow)
    )
    row = db.scalars(query).unique().first()
    if row is None:
        return None
    if not row.person.active or row.person.email != row.address:
        settle_letter(db, row, "refused", "the address is no longer theirs")
        return claim_letter(db)
    row.state, row.tries, row.due_at = "going", row.tries + 1, func.now()
    db.flush()
    db.refresh(row)
    return row


def settle_letter(db: Session, row: MailRow, state: str, trouble: str = "") -> None:
    """Keep what became of a letter that was claimed: `sent`, `unsure`, `refused`, or `waiting` to
    be tried again, until it has been tried often enough.
    """
    row.trouble = trouble[:300]
    if state == "waiting" and row.tries <= len(WAITS):
        row.state, row.due_at = "waiting", func.now() + WAITS[row.tries - 1]
    else:
        row.state = "refused" if state == "waiting" else state
        row.done_at = func.now()
        if row.kind in SECRET:
            row.body = FORGOTTEN
    db.flush()


def send_again(db: Session, row: MailRow) -> bool:
    """Send a letter anew that did not go, or may not have; False for any other."""
    if row.state not in ("unsure", "refused") or row.body == FORGOTTEN:
        return False
    row.state, row.tries, row.due_at, row.done_at = "waiting", 0, func.now(), None
    db.flush()
    return True


Queue = Callable[[Session, Person, str, str, Letter], bool]
"""Takes a letter of a kind, about something, to somebody; whether it waits to go out."""
