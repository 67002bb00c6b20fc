"""Mail: what waits and what went out, who wants what, the week and a word told to members."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from fastapi import Request
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from pine_ladder.api.access import Database, Myself, router
from pine_ladder.api.days.days import day_for, existing_day
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, GymDate, Id
from pine_ladder.api.links import public_url
from pine_ladder.core.day.letters import CHOICES, told_letter
from pine_ladder.jobs.mail import Post, Postman
from pine_ladder.store import mail
from pine_ladder.store.athletes.members import hidden_people
from pine_ladder.store.days.pieces import held_by
from pine_ladder.store.floor.bookings import planned, signed
from pine_ladder.store.gym.loaded import gym_of, work_on
from pine_ladder.store.gym.programmes import followers
from pine_ladder.store.models import Day, GymClass, MailRow, Person
from pine_ladder.store.people.people import active_people
from pine_ladder.store.scores import sheet
from pine_ladder.usecases.mail import choose_letters, send_again
from pine_ladder.usecases.messages import said_on, say
from pine_ladder.usecases.week_letters import write_week

members = router("member", "mail")
coaches = router("coach", "mail")

MOST_SHOWN = 100
Kind = Literal["week", "class", "question", "told"]


class LetterOut(BaseModel):
    """A letter of the queue; `state` is waiting, going, sent, unsure or refused."""

    id: int
    to: str
    kind: str
    subject: str
    state: str
    tries: int
    trouble: str
    made_at: dt.datetime
    done_at: dt.datetime | None


class MailOut(BaseModel):
    """The gym's mail: whether there is a server, the weekday of the weekly word (0 is Monday, None
    sends none), and the queue.
    """

    on: bool
    weekly: int | None
    waiting: int
    sent: int
    troubled: int
    letters: list[LetterOut]


class WeeklyForm(Form):
    """The weekday on whose evening members are written what is on; None writes to nobody."""

    weekday: Annotated[int, Field(ge=0, le=6)] | None


class MyMail(BaseModel):
    """The kinds of letters there are a choice of, and whether I want them."""

    on: bool
    wanted: dict[str, bool]


class MyMailForm(Form):
    """The kinds of letters I want."""

    wanted: list[Kind] = Field(max_length=len(CHOICES))


class Told(BaseModel):
    """How many letters wait to go out now."""

    letters: int


class TellForm(Form):
    """A word to those of a day, or of one of its classes; with the board and the results as asked.
    `key` tells one press from the next, so that none is sent twice.
    """

    class_id: Id | None = None
    word: str = Field(min_length=1, max_length=1000)
    board: bool = False
    results: bool = False
    key: str = Field(min_length=8, max_length=80)


class WordOut(BaseModel):
    """A word of a coach."""

    by: str
    text: str
    said_at: dt.datetime
    start: dt.time | None


@coaches.get("/mail")
def read_mail(db: Database, post: Post) -> MailOut:
    """The gym's mail, the newest letters first."""
    return MailOut(
        on=post.server is not None,
        weekly=gym_of(db).row.settings.get("weekly_word"),
        **mail.queued(db)._asdict(),
        letters=[
            LetterOut(
                id=row.id,
                to=row.address,
                kind=row.kind,
                subject=row.subject,
                state=row.state,
                tries=row.tries,
                trouble=row.trouble,
                made_at=row.made_at,
                done_at=row.done_at,
            )
            for row in mail.newest(db, MOST_SHOWN)
        ],
    )


@coaches.put("/mail/weekly")
def set_weekly(form: WeeklyForm, db: Database, post: Post) -> MailOut:
    """Choose the day of the weekly word."""
    gym = gym_of(db).row
    db.refresh(gym, with_for_update=True)
    gym.settings = {**gym.settings, "weekly_word": form.weekday}
    db.flush()
    return read_mail(db, post)


@coaches.post(
    "/mail/{letter_id}/again", responses={404: {"model": Problem}, 409: {"model": Problem}}
)
def post_letter_again(letter_id: Id, db: Database, post: Post) -> MailOut:
    """Send a letter anew that was refused, or that nobody knows of whether it went."""
    row = db.get(MailRow, letter_id, with_for_update={"of": MailRow})
    if row is None:
        raise not_found("such letter")
    if not send_again(db, row):
        raise ApiError(409, "this letter waits, has gone, or held a link: make a new link instead")
    return read_mail(db, post)


@members.get("/me/mail")
def my_mail(db: Database, post: Post, me: Myself) -> MyMail:
    """Which letters I get."""
    return MyMail(on=post.server is not None, wanted=mail.wanted_by(db, me))


@members.put("/me/mail")
def choose_mail(form: MyMailForm, db: Database, post: Post, me: Myself) -> MyMail:
    """Choose which letters I get; links to sign in are sent whatever is chosen."""
    choose_letters(db, me, form.wanted)
    return my_mail(db, post, me)


@coaches.post("/week/{date}/tell", responses={409: {"model": Problem}})
def tell_week(date: GymDate, request: Request, db: Database, post: Post) -> Told:
    """Write to everybody who follows the programme what its week from this Monday holds."""
    _on(post)
    monday = date - dt.timedelta(days=date.weekday())
    first = max(monday, gym_of(db).today)
    line = gym_of(db).programme.id
    last = monday + dt.timedelta(days=6)
    return Told(letters=write_week(db, post.queue, first, last, public_url(request), line))


def _on(post: Postman) -> None:
    if post.server is None:
        raise ApiError(409, "this gym has no mail server yet: docs/running-a-gym.md says how")


def _addressed(db: Session, day: Day, class_: GymClass | None) -> list[Person]:
    """Those of a class: who was there and who signed up; of a day, its guests and followers."""
    if class_ is None:
        return followers(db, day)
    here = {one.person_id for one in class_.attendance}
    for one in planned(db, day.date):
        if one.start == class_.start:
            here |= set(signed(db, day.date, one.start, one.size).coming)
    return active_people(db, here)


def _results(db: Session, day: Day) -> list[str]:
    """The day's scores piece by piece, best first in each tier; hidden people are left out."""
    hidden, out = hidden_people(db), []
    rows = sheet.scores_of(db, day)
    for held in held_by(db, day):
        own = [r for r in rows if r.piece_id == held.row.id and r.person_id not in hidden]
        own.sort(key=lambda r: (r.tier.position, -(r.order_key or 0), r.person.name))
        if own:
            out.append(f"{held.row.title}:")
            out += [f"  {r.person.name} {r.display}, {r.tier.name}" for r in own]
    return out


@coaches.post("/days/{date}/tell", responses={404: {"model": Problem}})
def tell_class(date: GymDate, form: TellForm, db: Database, post: Post, me: Myself) -> Told:
    """Say a word to those of a day or of one of its classes: on their phones, and by mail."""
    day = existing_day(db, date)
    held = db.get(GymClass, form.class_id) if form.class_id is not None else None
    if form.class_id is not None and (held is None or held.day_id != day.id):
        raise not_found("such class on this day")
    work_on(db, day.programme_id)
    text = form.word.strip()
    if not text:
        raise ApiError(422, "say something")
    say(db, day, held, text, form.key, me)
    board = day.text if form.board else ""
    results = _results(db, day) if form.results else []
    gym = gym_of(db).row.name
    letters = 0
    for person in _addressed(db, day, held):
        letter = told_letter(gym, person.name, me.name, date, text, board, results)
        letters += post.queue(db, person, "told", f"{day.id}/{form.key}", letter)
    return Told(letters=letters)


@members.get("/me/days/{date}/words")
def my_words(date: GymDate, db: Database, me: Myself) -> list[WordOut]:
    """What coaches said to my class of a day, or to everybody of it, the newest first."""
    day = day_for(db, date, me)
    if day is None:
        return []
    found = said_on(db, day)
    return [
        WordOut(
            by=word.by.name if word.by else "",
            text=word.text,
            said_at=word.said_at,
            start=held.start if held else None,
        )
        for word, held in found
        if held is None or me in _addressed(db, day, held)
    ]
