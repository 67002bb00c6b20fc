"""The tables: gym and people, days and classes, scores and their trail, sign-in."""

from __future__ import annotations

import datetime as dt
from typing import Any

from sqlalchemy import (
    BigInteger,
    CheckConstraint,
    DateTime,
    ForeignKey,
    Index,
    LargeBinary,
    String,
    UniqueConstraint,
    false,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, Session, mapped_column, relationship

MARK = 16
"""Letters of a sign-in's hash that its live streams are known by."""


class Base(DeclarativeBase):
    """Declarative base: JSON is stored as JSONB, moments with their zone."""

    type_annotation_map = {  # noqa: RUF012 - SQLAlchemy reads it from the class
        dict[str, Any]: JSONB,
        dt.datetime: DateTime(timezone=True),
    }


def empty_every_table(db: Session) -> None:
    """Forget everything, whatever it is."""
    names = ", ".join(table.name for table in Base.metadata.sorted_tables)
    db.execute(text(f"truncate {names} restart identity cascade"))


class Gym(Base):
    """The gym: settings that hold for all its programmes. Lengths in minutes and seconds."""

    __tablename__ = "gym"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    class_min: Mapped[int] = mapped_column(default=60)
    change_s: Mapped[int] = mapped_column(default=60)
    class_size: Mapped[int] = mapped_column(default=12, server_default="12")
    demo: Mapped[bool] = mapped_column(default=False)
    settings: Mapped[dict[str, Any]] = mapped_column(default=dict, server_default="{}")
    settings_version: Mapped[int] = mapped_column(default=1, server_default="1")
    zone: Mapped[str] = mapped_column(String(60), default="UTC", server_default="UTC")
    """Where the gym is, as the IANA names time zones: its days are the days there."""


class Tier(Base):
    """A version of the session; `position` 0 is as written."""

    __tablename__ = "tier"
    id: Mapped[int] = mapped_column(primary_key=True)
    position: Mapped[int] = mapped_column(unique=True)
    name: Mapped[str] = mapped_column(String(40), unique=True)


class Track(Base):
    """A load column of pairs such as 24/16 kg; `position` 0 is the first number."""

    __tablename__ = "track"
    id: Mapped[int] = mapped_column(primary_key=True)
    position: Mapped[int] = mapped_column(unique=True)
    name: Mapped[str] = mapped_column(String(40), unique=True)


class Programme(Base):
    """A named line of sessions, with classes of its own; the first one is everybody's."""

    __tablename__ = "programme"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(60), unique=True)


class Follow(Base):
    """A programme that somebody follows; who follows none by name follows the first."""

    __tablename__ = "follow"
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    programme_id: Mapped[int] = mapped_column(
        ForeignKey("programme.id", ondelete="CASCADE"), primary_key=True
    )


class ClassTime(Base):
    """A class that is held every week; weekday 0 is Monday."""

    __tablename__ = "class_time"
    id: Mapped[int] = mapped_column(primary_key=True)
    programme_id: Mapped[int] = mapped_column(ForeignKey("programme.id"))
    weekday: Mapped[int]
    start: Mapped[dt.time]
    minutes: Mapped[int | None]
    """How long it lasts, and how many fit, where it is not as the gym has it."""
    size: Mapped[int | None]
    place: Mapped[str] = mapped_column(String(40), default="", server_default="")


class Kit(Base):
    """Equipment the gym owns."""

    __tablename__ = "kit"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(60), unique=True)
    count: Mapped[int]


def _trains(context: Any) -> bool:
    return bool(context.get_current_parameters().get("role") == "athlete")


class Person(Base):
    """A coach or an athlete, with the sign-in if they have one."""

    __tablename__ = "person"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    email: Mapped[str | None] = mapped_column(String(200))
    password_hash: Mapped[str | None] = mapped_column(String(200))
    role: Mapped[str] = mapped_column(String(10))
    tier_id: Mapped[int] = mapped_column(ForeignKey("tier.id"))
    track_id: Mapped[int] = mapped_column(ForeignKey("track.id"))
    active: Mapped[bool] = mapped_column(default=True)
    trains: Mapped[bool] = mapped_column(server_default=false(), default=_trains)
    """On sheets, floor and standings: every athlete, and a coach who trains too."""
    erase_asked_at: Mapped[dt.datetime | None]
    tier: Mapped[Tier] = relationship(lazy="joined")
    track: Mapped[Track] = relationship(lazy="joined")
    __table_args__ = (
        CheckConstraint("role in ('coach', 'athlete')", name="person_role"),
        Index("person_address", func.lower(email), unique=True),
    )


class ProfileRow(Base):
    """What is known of an athlete: bests, rungs, limits. For coaches and the athlete."""

    __tablename__ = "profile"
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    record: Mapped[dict[str, Any]]
    version: Mapped[int] = mapped_column(default=1)
    saved_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class OverrideRow(Base):
    """A coach's own version of a movement for one athlete, remembered from day to day."""

    __tablename__ = "scaling_override"
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    movement: Mapped[str] = mapped_column(String(60), primary_key=True)
    text: Mapped[str] = mapped_column(String(200))
    saved_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class Belief(Base):
    """What the scores say of an athlete's pace, by capacity (1 typical, less is faster)."""

    __tablename__ = "belief"
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    factors: Mapped[dict[str, Any]]
    scores: Mapped[int]
    bests: Mapped[dict[str, Any]] = mapped_column(default=dict, server_default="{}")
    learned_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class Learning(Base):
    """The newest fit of the gym's pace: factors on movements' seconds, and how well it predicts."""

    __tablename__ = "learning"
    id: Mapped[int] = mapped_column(primary_key=True)
    medians: Mapped[dict[str, Any]]
    report: Mapped[dict[str, Any]]
    learned_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class Day(Base):
    """A session: one programme's board on one date. The text is the source of everything."""

    __tablename__ = "day"
    id: Mapped[int] = mapped_column(primary_key=True)
    programme_id: Mapped[int] = mapped_column(ForeignKey("programme.id"))
    date: Mapped[dt.date] = mapped_column(index=True)
    text: Mapped[str]
    version: Mapped[int] = mapped_column(default=1)
    published: Mapped[bool] = mapped_column(default=False, server_default=false())
    saved_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    saved_by: Mapped[Person | None] = relationship(lazy="joined")
    __table_args__ = (UniqueConstraint("programme_id", "date"),)


class PieceRow(Base):
    """A piece of a saved day, the same for ever: whatever becomes of its name, place and wording.

    `position` is its place on the board, None once the board has it no longer; `text` is how it
    stands there, or stood there last.
    """

    __tablename__ = "piece"
    id: Mapped[int] = mapped_column(primary_key=True)
    day_id: Mapped[int] = mapped_column(ForeignKey("day.id", ondelete="CASCADE"), index=True)
    position: Mapped[int | None]
    title: Mapped[str] = mapped_column(String(200))
    text: Mapped[str]


class BankedBoard(Base):
    """A named board the gym keeps, to repeat as a retest."""

    __tablename__ = "banked_board"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120), unique=True)
    text: Mapped[str]
    kept_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class KeptPiece(Base):
    """A piece the gym keeps under a name, to put into any board: a warm-up, a walk-out."""

    __tablename__ = "kept_piece"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(60), unique=True)
    text: Mapped[str]
    kept_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class OwnMovementRow(Base):
    """A movement of the gym's own, or its version of one that ships with the library."""

    __tablename__ = "own_movement"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(60), unique=True)
    record: Mapped[dict[str, Any]]
    saved_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class GymClass(Base):
    """One holding of a session: date, start, coach."""

    __tablename__ = "gym_class"
    id: Mapped[int] = mapped_column(primary_key=True)
    day_id: Mapped[int] = mapped_column(ForeignKey("day.id", ondelete="CASCADE"), index=True)
    start: Mapped[dt.time]
    coach_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    coach: Mapped[Person | None] = relationship(lazy="joined")
    attendance: Mapped[list[Attendance]] = relationship(cascade="all, delete-orphan")
    __table_args__ = (UniqueConstraint("day_id", "start"),)


class SignUp(Base):
    """Somebody says that they come to a class; who signed up first has the lower id."""

    __tablename__ = "sign_up"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    programme_id: Mapped[int] = mapped_column(ForeignKey("programme.id"))
    date: Mapped[dt.date]
    start: Mapped[dt.time]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    signed_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    __table_args__ = (UniqueConstraint("programme_id", "date", "start", "person_id"),)


class ClassPlan(Base):
    """A class of a date that differs from the week's, or is held beside them."""

    __tablename__ = "class_plan"
    programme_id: Mapped[int] = mapped_column(ForeignKey("programme.id"), primary_key=True)
    date: Mapped[dt.date] = mapped_column(primary_key=True)
    start: Mapped[dt.time] = mapped_column(primary_key=True)
    size: Mapped[int | None]
    minutes: Mapped[int | None]
    cancelled: Mapped[bool] = mapped_column(default=False, server_default=false())
    word: Mapped[str] = mapped_column(String(200), default="", server_default="")
    place: Mapped[str] = mapped_column(String(40), default="", server_default="")
    version: Mapped[int] = mapped_column(default=1, server_default="1")


class GroupsRow(Base):
    """Heats or teams of a class on a piece, set by hand: lists of people; empty is the proposal."""

    __tablename__ = "groups"
    class_id: Mapped[int] = mapped_column(
        ForeignKey("gym_class.id", ondelete="CASCADE"), primary_key=True
    )
    piece_id: Mapped[int] = mapped_column(
        ForeignKey("piece.id", ondelete="CASCADE"), primary_key=True
    )
    what: Mapped[str] = mapped_column(String(10), primary_key=True)
    groups: Mapped[list[list[int]]] = mapped_column(JSONB)
    version: Mapped[int] = mapped_column(default=1)


class Attendance(Base):
    """Who came to a class."""

    __tablename__ = "attendance"
    class_id: Mapped[int] = mapped_column(
        ForeignKey("gym_class.id", ondelete="CASCADE"), primary_key=True
    )
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True, index=True
    )


class ScoreRow(Base):
    """An athlete's score on a piece: what was entered, and what was understood of it."""

    __tablename__ = "score"
    id: Mapped[int] = mapped_column(primary_key=True)
    day_id: Mapped[int] = mapped_column(ForeignKey("day.id", ondelete="CASCADE"), index=True)
    piece_id: Mapped[int] = mapped_column(ForeignKey("piece.id"))
    origin_id: Mapped[int | None] = mapped_column(ForeignKey("piece.id"))
    """The piece it was entered on, where a coach has put it onto another."""
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    tier_id: Mapped[int] = mapped_column(ForeignKey("tier.id"))
    track_id: Mapped[int] = mapped_column(ForeignKey("track.id"))
    entered: Mapped[str] = mapped_column(String(200))
    kind: Mapped[str] = mapped_column(String(20))
    value: Mapped[dict[str, Any]]
    display: Mapped[str] = mapped_column(String(200))
    order_key: Mapped[float | None]
    reps: Mapped[int | None]
    rounds: Mapped[dict[str, Any] | None]
    doubt: Mapped[str | None] = mapped_column(String(300))
    standing: Mapped[str] = mapped_column(String(10), default="fine", server_default="fine")
    """`fine`; `doubted` until a coach looks; `asked`, `answered` by the athlete; `verified`."""
    team: Mapped[list[int] | None] = mapped_column(JSONB)
    version: Mapped[int] = mapped_column(default=1)
    source: Mapped[str] = mapped_column(String(10), default="", server_default="")
    """`jots` or `finish` where it was kept from the floor; such a score is theirs to replace."""
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    person: Mapped[Person] = relationship(lazy="joined")
    tier: Mapped[Tier] = relationship(lazy="joined")
    track: Mapped[Track] = relationship(lazy="joined")
    __table_args__ = (
        UniqueConstraint("piece_id", "person_id"),
        Index("score_ranking", "piece_id", "tier_id", "order_key"),
    )


class ScoreTrail(Base):
    """Who changed which score, when, from what to what. Kept when the score is gone."""

    __tablename__ = "score_trail"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    day_id: Mapped[int] = mapped_column(ForeignKey("day.id", ondelete="CASCADE"), index=True)
    piece_id: Mapped[int] = mapped_column(ForeignKey("piece.id"))
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"))
    changed_by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    changed_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    before: Mapped[dict[str, Any] | None]
    after: Mapped[dict[str, Any] | None]
    __table_args__ = (Index("score_trail_of_cell", "piece_id", "person_id"),)


class ScoreImport(Base):
    """Scores that were brought in from a table: the ids of what was made, to be taken back."""

    __tablename__ = "score_import"
    id: Mapped[int] = mapped_column(primary_key=True)
    made: Mapped[dict[str, Any]]
    by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id", ondelete="SET NULL"))
    made_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class RequestRow(Base):
    """A write of a score that has landed: whose key, for which cell, with what content."""

    __tablename__ = "request"
    by_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True
    )
    key: Mapped[str] = mapped_column(String(80), primary_key=True)
    piece_id: Mapped[int] = mapped_column(ForeignKey("piece.id", ondelete="CASCADE"))
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"))
    digest: Mapped[str] = mapped_column(String(64))
    landed_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class ClockStep(Base):
    """A press of the remote and the clock's state after it; the newest of a class holds."""

    __tablename__ = "clock_step"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    class_id: Mapped[int] = mapped_column(ForeignKey("gym_class.id", ondelete="CASCADE"))
    press: Mapped[str] = mapped_column(String(20))
    state: Mapped[dict[str, Any]]
    by_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))
    made_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    __table_args__ = (Index("clock_step_newest", "class_id", "id"),)


class WallLink(Base):
    """A display link: whoever has it sees board and clock, and nothing else.

    Without a programme of its own it shows whichever is on the clock.
    """

    __tablename__ = "wall_link"
    token: Mapped[str] = mapped_column(String(60), primary_key=True)
    name: Mapped[str] = mapped_column(String(60))
    programme_id: Mapped[int | None] = mapped_column(ForeignKey("programme.id", ondelete="CASCADE"))
    made_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


class Jot(Base):
    """What was noted of one round on the floor; `key` is given by the device that noted it."""

    __tablename__ = "jot"
    by_id: Mapped[int] = mapped_column(ForeignKey("person.id"), primary_key=True)
    key: Mapped[str] = mapped_column(String(80), primary_key=True)
    piece_id: Mapped[int] = mapped_column(ForeignKey("piece.id"))
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"))
    round: Mapped[int]
    number: Mapped[float | None]
    noted_at: Mapped[dt.datetime]
    landed_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())
    __table_args__ = (Index("jot_of_piece", "piece_id", "person_id"),)


class EffortRow(Base):
    """How hard a session was for an athlete (CR-10), how long, and their note."""

    __tablename__ = "effort"
    day_id: Mapped[int] = mapped_column(ForeignKey("day.id", ondelete="CASCADE"), primary_key=True)
    person_id: Mapped[int] = mapped_column(
        ForeignKey("person.id", ondelete="CASCADE"), primary_key=True, index=True
    )
    effort: Mapped[float]
    minutes: Mapped[int]
    note: Mapped[str] = mapped_column(String(1000), default="")
    saved_at: Mapped[dt.datetime] = mapped_column(server_default=func.now())


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


class FailedSignIn(Base):
    """A password that was tried: kept from before it is looked at until it proves right."""

    __tablename__ = "failed_sign_in"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True)
    email: Mapped[str] = mapped_column(String(200))
    address: Mapped[str] = mapped_column(String(60))
    device: Mapped[bool] = mapped_column(default=False, server_default=false())
    """Tried from a device the person is known by."""
    at: Mapped[dt.datetime] = mapped_column(server_default=func.now(), index=True)
