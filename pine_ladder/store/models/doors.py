"""Ways in: sign-ins, links, addresses for calendars."""

from __future__ import annotations

import datetime as dt

from sqlalchemy import BigInteger, ForeignKey, LargeBinary, String, false, func
from sqlalchemy.orm import Mapped, mapped_column, relationship

from pine_ladder.store.models.base import MARK, Base
from pine_ladder.store.models.people import Person


class SignIn(Base):
    """A signed-in browser. Only a hash of its cookie is kept."""

    __tablename__ = "sign_in"
    token_hash: Mapped[bytes] = mapped_column(LargeBinary(32), primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    guard: Mapped[str] = mapped_column(String(64))
    created_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    expires_at: Mapped[dt.datetime]
    used_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    device: Mapped[str] = mapped_column(String(80), default="", server_default="")
    """The kind of browser, as people know it."""
    person: Mapped[Person] = relationship(lazy="joined")

    @property
    def mark(self) -> str:
        """What its live streams are known by: nothing that would open a door."""
        return self.token_hash.hex()[:MARK]


class KnownDevice(Base):
    """A browser somebody has signed in with before. Only a hash of its cookie is kept."""

    __tablename__ = "known_device"
    token_hash: Mapped[bytes] = mapped_column(LargeBinary(32), primary_key=True)
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    seen_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class OneTimeLink(Base):
    """A link with which somebody sets a password, once. Only a hash of it is kept."""

    __tablename__ = "one_time_link"
    token_hash: Mapped[bytes] = mapped_column(LargeBinary(32), primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    made_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id", ondelete="SET NULL"))
    expires_at: Mapped[dt.datetime]


class CalendarLink(Base):
    """Somebody's calendar address. Only a hash of it is kept."""

    __tablename__ = "calendar_link"
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    token_hash: Mapped[bytes] = mapped_column(LargeBinary(32), unique=True)
    made_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class SetupCode(Base):
    """The code that opens a gym in an empty database, once. Only a hash of it is kept."""

    __tablename__ = "setup_code"
    code_hash: Mapped[bytes] = mapped_column(LargeBinary(32), primary_key=True)
    made_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class FailedSignIn(Base):
    """A password that was tried: kept from before it is looked at until it proves right."""

    __tablename__ = "failed_sign_in"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    email: Mapped[str] = mapped_column(String(200))
    address: Mapped[str] = mapped_column(String(60))
    device: Mapped[bool] = mapped_column(default=False, server_default=false())
    """Tried from a device the person is known by."""
    at: Mapped[dt.datetime] = mapped_column(server_default=func.now(), index=True)
