"""Letters and words to members."""

from __future__ import annotations

import datetime as dt

from sqlalchemy import BigInteger, ForeignKey, Index, String, UniqueConstraint, func
from sqlalchemy.orm import Mapped, mapped_column, relationship

from pine_ladder.store.models.base import Base
from pine_ladder.store.models.people import Person


class MailRow(Base):
    """A letter to somebody; `key` is what it is about, so that nobody gets the same twice."""

    __tablename__ = "mail"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    kind: Mapped[str] = mapped_column(String(20))
    key: Mapped[str] = mapped_column(String(160), unique=True)
    address: Mapped[str] = mapped_column(String(200))
    subject: Mapped[str] = mapped_column(String(200))
    body: Mapped[str]
    state: Mapped[str] = mapped_column(String(10), default="waiting", server_default="waiting")
    """`waiting`; `going` while one process hands it over; `sent`; `unsure`, as the server did not
    say whether it took it; `refused` for good."""
    tries: Mapped[int] = mapped_column(default=0, server_default="0")
    trouble: Mapped[str] = mapped_column(String(300), default="", server_default="")
    made_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    due_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    done_at: Mapped[dt.datetime | None]
    person: Mapped[Person] = relationship(lazy="joined")
    __table_args__ = (Index("mail_waiting", "state", "due_at"),)


class MailUnwanted(Base):
    """A kind of letters that somebody wants none of."""

    __tablename__ = "mail_unwanted"
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    kind: Mapped[str] = mapped_column(String(20), primary_key=True)


class Word(Base):
    """A word of a coach to those of a day, or of one of its classes."""

    __tablename__ = "word"
    id: Mapped[int] = mapped_column(primary_key=True)
    day_id: Mapped[int] = mapped_column(ForeignKey("day.id", ondelete="CASCADE"))
    class_id: Mapped[int | None] = mapped_column(ForeignKey("gym_class.id", ondelete="CASCADE"))
    text: Mapped[str] = mapped_column(String(1000))
    key: Mapped[str] = mapped_column(String(80))
    """Tells one press from the next: said twice is said once."""
    by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id", ondelete="SET NULL"))
    said_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    by: Mapped[Person | None] = relationship(lazy="joined")
    __table_args__ = (UniqueConstraint("day_id", "key"),)
