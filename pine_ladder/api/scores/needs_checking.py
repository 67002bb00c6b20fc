"""Doubted scores: a coach verifies or asks, the athlete answers, and the trail is kept."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from fastapi import Request
from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Myself, router
from pine_ladder.api.days.days import existing_day
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import Form, GymDate, Id, Key, Version
from pine_ladder.api.links import public_url
from pine_ladder.api.scores.forms import ScoreOut
from pine_ladder.api.scores.sheet import rank_in_tier, score_out, visible_day
from pine_ladder.core.day.letters import question_letter
from pine_ladder.jobs.mail import Post
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import Day, Person, PieceRow, ScoreRow
from pine_ladder.store.scores import sheet
from pine_ladder.usecases import scores

members = router("member", "scores")
coaches = router("coach", "scores")


class TrailStep(BaseModel):
    """One change of a score: who, when, from what to what."""

    by: str
    at: dt.datetime
    before: str
    after: str
    standing: str
    note: str


class JudgeForm(Form):
    """What a coach says of a doubted score: verified, or a question to the athlete."""

    verdict: Literal["verified", "asked"]
    version: Version = Field(description="The version of the score that was seen")
    note: str = Field(default="", max_length=400)


class AnswerForm(Form):
    """What I say to the coach's question."""

    note: str = Field(min_length=1, max_length=400)
    version: Version


def _row(db: Database, day: Day, key: str, person_id: int) -> ScoreRow:
    rows = [row for row in sheet.scores_of(db, day, key) if row.person_id == person_id]
    if not rows:
        raise not_found("such score")
    return rows[0]


def _judged(
    db: Database,
    day: Day,
    key: str,
    person_id: int,
    form: JudgeForm | AnswerForm,
    by: Person,
    standing: str,
) -> ScoreOut:
    row = _row(db, day, key, person_id)
    try:
        scores.judge(db, day, row, form.version, by, standing, form.note.strip())
    except scores.StaleScore as stale:
        doubted = stale.newer is not None and stale.newer.standing not in ("fine", "verified")
        why = "has changed in the meantime: look again" if doubted else "is no longer in doubt"
        raise ApiError(409, f"this score {why}") from None
    return score_out(row, rank_in_tier(db, day, row, by))


def _trail(db: Database, day: Day, key: str, person_id: int) -> list[TrailStep]:
    return [
        TrailStep(
            by=name,
            at=row.changed_at,
            before=(row.before or {}).get("display", ""),
            after=(row.after or {}).get("display", ""),
            standing=(row.after or {}).get("standing", ""),
            note=(row.after or {}).get("note", ""),
        )
        for row, name in sheet.trail_of(db, day, key, person_id)
    ]


@coaches.post(
    "/days/{date}/pieces/{key}/scores/{person_id}/judge",
    responses={404: {"model": Problem}, 409: {"model": Problem}},
)
def judge_score(
    date: GymDate,
    key: Key,
    person_id: Id,
    form: JudgeForm,
    request: Request,
    db: Database,
    me: Myself,
    post: Post,
) -> ScoreOut:
    """Verify a doubted score, or ask the athlete about it, by mail as well."""
    day = existing_day(db, date)
    judged = _judged(db, day, key, person_id, form, me, form.verdict)
    if form.verdict == "asked":
        person, gym = db.get_one(Person, person_id), gym_of(db).row.name
        title = db.get_one(PieceRow, int(key)).title
        link = f"{public_url(request)}/me/{date}"
        letter = question_letter(
            gym, person.name, me.name, date, title, judged.entered, form.note.strip(), link
        )
        post.queue(db, person, "question", f"{key}/{judged.version}", letter)
    return judged


@coaches.get(
    "/days/{date}/pieces/{key}/scores/{person_id}/trail", responses={404: {"model": Problem}}
)
def score_trail(date: GymDate, key: Key, person_id: Id, db: Database) -> list[TrailStep]:
    """Every change of a score and what was asked and answered, oldest first."""
    return _trail(db, existing_day(db, date), key, person_id)


@members.get("/me/days/{date}/pieces/{key}/trail", responses={404: {"model": Problem}})
def my_trail(date: GymDate, key: Key, db: Database, me: Myself) -> list[TrailStep]:
    """Every change of my score and what was asked and answered, oldest first."""
    return _trail(db, visible_day(db, date, me), key, me.id)


@members.post(
    "/me/days/{date}/pieces/{key}/answer",
    responses={404: {"model": Problem}, 409: {"model": Problem}},
)
def answer_question(
    date: GymDate, key: Key, form: AnswerForm, db: Database, me: Myself
) -> ScoreOut:
    """Answer a coach's question about my score; the coach decides."""
    return _judged(db, visible_day(db, date, me), key, me.id, form, me, "answered")
